"""Drawing point by point: a click for a corner, press and drag for a curve."""

import math
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model.history import History
from glasscap.core.geometry.flatten import flatten_open
from glasscap.core.geometry.outline import Points
from glasscap.core.shapes.nodes import Node, corner_node
from glasscap.editor.numbers import format_number
from glasscap.editor.point_snapping import Targets, in_steps, targets_of
from glasscap.editor.sketches.sketch import Sketch, SketchEvent, SketchKind, SketchShown, finished_points
from glasscap.editor.tools.pointer import Edit, Scene

_TOLERANCE = 0.25
_POINT = "the last point"


def draw_points(scene: Scene, pixels: object = None) -> Sketch:
    """Draw until the first point is pressed again, or Enter; Backspace takes back, Ctrl sets a point freely."""
    targets = targets_of(scene.sheet, scene.selected)
    done: History[tuple[Node, ...]] = History(((),))
    # The point whose curve is being dragged, and whether it was set with Ctrl held.
    held: Node | None = None
    is_closing = was_free = False
    event = yield SketchShown()
    while True:
        nodes = done.value
        is_down = held is not None or is_closing
        x, y = _at(scene, event, nodes, targets, is_down=is_down)
        if event.kind == "press":
            is_closing, was_free = _closes(scene, event, nodes), event.has_ctrl
            held = None if is_closing else corner_node(x, y)
        elif event.kind == "move" and held is not None:
            held = _bent(held, event, breaks=event.has_ctrl and not was_free)
        elif event.kind == "release" and is_closing:
            return _done(scene, nodes)
        elif event.kind == "release" and held is not None:
            done, held = done.applied("point", (*nodes, held)), None
        elif event.kind == "back":
            done, held, is_closing = done if held is not None else done.undone(), None, False
        elif event.kind == "again" and held is None:
            done = done.redone()
        elif event.kind == "enter" and _encloses(nodes):
            return _done(scene, nodes)
        seen = done.value if held is None else (*done.value, held)
        closes = _closes(scene, event, seen) and held is None
        shown = _shown(seen, (x, y), is_closing=closes)
        event = yield replace(shown, back=_POINT if seen else "", again=_POINT if done.redo_label else "")


def _at(
    scene: Scene, event: SketchEvent, nodes: tuple[Node, ...], targets: Targets, *, is_down: bool
) -> tuple[float, float]:
    if event.has_shift and nodes and not is_down:
        return in_steps(event.x, event.y, nodes[-1].x, nodes[-1].y)
    if scene.is_snapping and not event.has_ctrl:
        return targets.nearest(event.x, event.y, scene.reach) or (event.x, event.y)
    return event.x, event.y


def _closes(scene: Scene, event: SketchEvent, nodes: tuple[Node, ...]) -> bool:
    return _encloses(nodes) and math.hypot(event.x - nodes[0].x, event.y - nodes[0].y) <= scene.reach * 1.5


def _encloses(nodes: tuple[Node, ...]) -> bool:
    return len(nodes) > 2 or (len(nodes) == 2 and any(n.has_after for n in nodes))


def _bent(node: Node, event: SketchEvent, *, breaks: bool) -> Node:
    x, y = in_steps(event.x, event.y, node.x, node.y) if event.has_shift else (event.x, event.y)
    if math.hypot(x - node.x, y - node.y) < _TOLERANCE:
        return corner_node(node.x, node.y)
    if breaks:
        return replace(node, after=(x, y), kind="corner")
    return Node(node.x, node.y, (2 * node.x - x, 2 * node.y - y), (x, y), "symmetric")


def _done(scene: Scene, nodes: tuple[Node, ...]) -> Edit:
    return finished_points(scene, "Draw the shape", (nodes,), "Drawn shape")


def _shown(nodes: tuple[Node, ...], at: tuple[float, float], *, is_closing: bool) -> SketchShown:
    lines = [_segment(one, other) for one, other in pairwise(nodes)]
    loose: list[Points] = []
    words = "Click to set the first point"
    if nodes:
        end = nodes[0] if is_closing else corner_node(*at)
        loose = [_segment(nodes[-1], end)]
        last = nodes[-1]
        away = (at[0] - last.x, at[1] - last.y)
        length, angle = math.hypot(*away), math.degrees(math.atan2(away[1], away[0]))
        words = (
            "Release to close the shape"
            if is_closing
            else f"{format_number(length)} px, {format_number(angle, 1)}°"
        )
    bars = [(*n.before, *n.after) for n in nodes[-1:] if n.has_after]
    return SketchShown(tuple(lines), tuple(loose), tuple((n.x, n.y) for n in nodes), tuple(bars), words)


def _segment(one: Node, other: Node) -> Points:
    cubic = np.array([(one.x, one.y), one.after, other.before, (other.x, other.y)])
    return flatten_open(cubic, tolerance=_TOLERANCE)


DRAW_POINTS = SketchKind(
    "points",
    draw_points,
    "Click sets a corner, drag a curve · first point or Enter closes · Ctrl+Z takes one back · Escape leaves",
)
