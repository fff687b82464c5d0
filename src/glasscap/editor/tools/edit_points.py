"""Editing an outline's points on the bench: choose, move, bend, add."""

import math

from msgspec.structs import replace

from glasscap.core.document.shapes.points import nodes_on_sheet, set_nodes
from glasscap.core.shapes.nodes import (
    Node,
    Nodes,
    Place,
    changed,
    in_line,
    inserted,
    with_control,
    without_control,
)
from glasscap.editor.numbers import counted, format_number
from glasscap.editor.point_picking import PointHit, node_of, within
from glasscap.editor.point_snapping import Targets, in_steps, targets_of
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_LEAST_BAND = 2.0


def edit_points(scene: Scene, press: PointerEvent, hit: PointHit | None, chosen: frozenset[Place]) -> Tool:
    """Do what a press on a point, a control point, the outline or beside it begins."""
    if hit is None:
        return _gather(scene, press, chosen)
    if hit.kind in ("before", "after"):
        return _bend(scene, press, hit, chosen)
    nodes = nodes_on_sheet(scene.item)
    if hit.kind == "segment":
        nodes, place = inserted(nodes, *hit.place, hit.t)
        return _move(scene, press, nodes, frozenset({place}), place, step="Add a point")
    if press.has_shift:
        chosen = chosen ^ {hit.place}
    elif hit.place not in chosen:
        chosen = frozenset({hit.place})
    return _move(scene, press, nodes, chosen, hit.place, step="")


def _move(
    scene: Scene, press: PointerEvent, nodes: Nodes, chosen: frozenset[Place], held: Place, *, step: str
) -> Tool:
    """Move the chosen points with the one held; a press alone chooses, or adds the point."""
    targets = targets_of(scene.sheet, [scene.item.id])
    job = set_nodes(scene.job, scene.item.id, nodes) if step else scene.job
    shown, event = Shown(job, chosen=chosen), press
    start = node_of(nodes, held)
    while True:
        if (event.x, event.y) != (press.x, press.y):
            x, y = _to(
                scene,
                event,
                targets,
                (start.x + event.x - press.x, start.y + event.y - press.y),
                (start.x, start.y),
            )
            dx, dy = x - start.x, y - start.y
            moved = changed(nodes, {p: node_of(nodes, p).moved(dx, dy) for p in chosen})
            shown = Shown(set_nodes(scene.job, scene.item.id, moved), (), _at(x, y), chosen=chosen)
            step = step or "Move points"
        if event.is_released:
            # A click without a drag, on one of several chosen points, chooses that one.
            is_click = not step and not press.has_shift
            return Edit(step, shown.job, chosen=frozenset({held}) if is_click else chosen)
        event = yield shown


def _to(
    scene: Scene, event: PointerEvent, targets: Targets, at: tuple[float, float], start: tuple[float, float]
) -> tuple[float, float]:
    if event.has_shift:
        return in_steps(*at, *start)
    if not scene.is_snapping or event.has_ctrl:
        return at
    return targets.nearest(*at, scene.reach) or at


def _bend(scene: Scene, press: PointerEvent, hit: PointHit, chosen: frozenset[Place]) -> Tool:
    """Move a control point, pull it out of its point, or push it in.

    Beside the line of the other one it snaps in line and makes the point smooth; Ctrl breaks a smooth point and
    does not snap, Shift keeps to steps of 15 degrees.
    """
    nodes = nodes_on_sheet(scene.item)
    node = node_of(nodes, hit.place)
    shown, event = Shown(scene.job), press
    while True:
        if (event.x, event.y) != (press.x, press.y):
            bent, words = _bent(scene, event, node, is_before=hit.kind == "before")
            job = set_nodes(scene.job, scene.item.id, changed(nodes, {hit.place: bent}))
            shown = Shown(job, (), words, chosen=chosen)
        if event.is_released:
            return Edit("Bend the outline", shown.job, chosen=chosen)
        event = yield shown


def _bent(scene: Scene, event: PointerEvent, node: Node, *, is_before: bool) -> tuple[Node, str]:
    """Return a point with the control point that is held where the pointer is, and words for that."""
    x, y = in_steps(event.x, event.y, node.x, node.y) if event.has_shift else (event.x, event.y)
    if event.has_ctrl:
        return with_control(node, x, y, is_before=is_before, breaks=True), _at(x, y)
    if math.hypot(event.x - node.x, event.y - node.y) <= scene.reach:
        return without_control(node, is_before=is_before), "pushed in"
    straight = None
    if node.kind == "corner" and scene.is_snapping and not event.has_shift:
        straight = in_line(node, x, y, scene.reach, is_before=is_before)
    if straight is not None:
        smooth = replace(with_control(node, *straight, is_before=is_before), kind="smooth")
        return smooth, f"{_at(*straight)}, in line"
    return with_control(node, x, y, is_before=is_before), _at(x, y)


def _at(x: float, y: float) -> str:
    return f"{format_number(x)}, {format_number(y)}"


def _gather(scene: Scene, press: PointerEvent, chosen: frozenset[Place]) -> Tool:
    """Choose the points in a frame; with Shift besides those chosen before."""
    nodes = nodes_on_sheet(scene.item)
    kept = chosen if press.has_shift else frozenset()
    shown, event = Shown(scene.job), press
    while True:
        found = kept
        if max(abs(event.x - press.x), abs(event.y - press.y)) >= _LEAST_BAND * scene.reach / 6:
            band = (press.x, press.y, event.x, event.y)
            found = kept | within(nodes, *band)
            shown = replace(shown, band=band, chosen=found, words=counted(len(found), "point"))
        if event.is_released:
            return Edit("", scene.job, chosen=found)
        event = yield shown
