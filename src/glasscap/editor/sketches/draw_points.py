"""Drawing point by point: a click for a corner, press and drag for a curve."""

import math
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from glasscap.core.geometry.flatten import flatten_open
from glasscap.core.geometry.outline import Points
from glasscap.core.shapes.nodes import Node, corner_node
from glasscap.editor.numbers import format_number
from glasscap.editor.point_snapping import Targets, in_steps, targets_of
from glasscap.editor.sketches.sketch import Sketch, SketchEvent, SketchKind, SketchShown, finished_points
from glasscap.editor.tools.pointer import Edit, Scene

_TOLERANCE = 0.25


def draw_points(scene: Scene, pixels: object = None) -> Sketch:
    """Draw until the first point is pressed again, or Enter; Backspace takes the last point back."""
    targets = targets_of(scene.sheet, scene.selected)
    nodes: list[Node] = []
    is_down = is_closing = False
    event = yield SketchShown()
    while True:
        x, y = _at(scene, event, nodes, targets, is_down=is_down)
        if event.kind == "press":
            is_down, is_closing = True, _closes(scene, event, nodes)
            if not is_closing:
                nodes.append(corner_node(x, y))
        elif event.kind == "move" and is_down and not is_closing:
            nodes[-1] = _bent(nodes[-1], event)
        elif event.kind == "release":
            is_down = False
            if is_closing:
                return _done(scene, nodes)
        elif event.kind == "back" and nodes:
            nodes.pop()
        elif event.kind == "enter" and _encloses(nodes):
            return _done(scene, nodes)
        event = yield _shown(nodes, (x, y), is_closing=_closes(scene, event, nodes) and not is_down)


def _at(
    scene: Scene, event: SketchEvent, nodes: list[Node], targets: Targets, *, is_down: bool
) -> tuple[float, float]:
    if event.has_shift and nodes and not is_down:
        return in_steps(event.x, event.y, nodes[-1].x, nodes[-1].y)
    if scene.is_snapping and not event.has_alt:
        return targets.nearest(event.x, event.y, scene.reach) or (event.x, event.y)
    return event.x, event.y


def _closes(scene: Scene, event: SketchEvent, nodes: list[Node]) -> bool:
    return _encloses(nodes) and math.hypot(event.x - nodes[0].x, event.y - nodes[0].y) <= scene.reach * 1.5


def _encloses(nodes: list[Node]) -> bool:
    return len(nodes) > 2 or (len(nodes) == 2 and any(n.has_after for n in nodes))


def _bent(node: Node, event: SketchEvent) -> Node:
    x, y = in_steps(event.x, event.y, node.x, node.y) if event.has_shift else (event.x, event.y)
    if math.hypot(x - node.x, y - node.y) < _TOLERANCE:
        return corner_node(node.x, node.y)
    if event.has_alt:
        return replace(node, after=(x, y), kind="corner")
    return Node(node.x, node.y, (2 * node.x - x, 2 * node.y - y), (x, y), "symmetric")


def _done(scene: Scene, nodes: list[Node]) -> Edit:
    return finished_points(scene, "Draw the shape", (tuple(nodes),), "Drawn shape")


def _shown(nodes: list[Node], at: tuple[float, float], *, is_closing: bool) -> SketchShown:
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
    "Click sets a corner, drag a curve · first point or Enter closes · Backspace takes one back · Escape leaves",
)
