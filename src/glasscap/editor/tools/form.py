"""Dragging a shape's own numbers: a parameter, the rounding of its corners."""

import math

import numpy as np

from glasscap.core.document.model.job import Job
from glasscap.core.document.shapes.shaping import set_params, set_round
from glasscap.core.geometry.outline import Points
from glasscap.core.shapes.kinds import ParametricShape
from glasscap.core.shapes.library.rectangle import CORNERS
from glasscap.core.shapes.library.spec import Parameter
from glasscap.editor.form_handles import (
    FormHandle,
    Spot,
    count_at,
    followed,
    param_range,
    params_of,
    slide_at,
    tracked_point,
    with_param,
)
from glasscap.editor.numbers import format_number
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_STEPS = 4
# Values are rounded to so many decimals while they are dragged.
_DECIMALS = {"px": 0, "%": 0, "°": 0, "": 1}


def drag_form(scene: Scene, press: PointerEvent, handle: FormHandle) -> Tool:
    """Drag one handle of the item selected last."""
    tool = _round_corner if handle.kind == "round" else _change_param
    return tool(scene, press, handle)


def _change_param(scene: Scene, press: PointerEvent, handle: FormHandle) -> Tool:
    item = scene.item
    assert isinstance(item.shape, ParametricShape)
    parameter = next(p for p in params_of(item.shape) if p.name == handle.name)
    shown, event = Shown(scene.job), press
    value = dict(item.shape.params)[handle.name]
    off = (handle.x - press.x, handle.y - press.y)
    while True:
        if (event.x, event.y) != (press.x, press.y):
            value = _value_at(scene, parameter, (event.x + off[0], event.y + off[1]), value)
            job = set_params(scene.job, item.id, [(handle.name, value)])
            shown = Shown(job, (), f"{parameter.label} {format_number(value)}{parameter.unit}")
        if event.is_released:
            return Edit(f"{parameter.label} of the shape", shown.job)
        event = yield shown


def _value_at(scene: Scene, parameter: Parameter, at: tuple[float, float], value: float) -> float:
    """Return the value whose handle is nearest to a point, by steps along the way the handle moves."""
    item = scene.item
    assert isinstance(item.shape, ParametricShape)
    assert item.shape_placement is not None
    shape, placement = item.shape, item.shape_placement
    if parameter.is_whole:
        return count_at(parameter, shape, placement, *at)
    spot = tracked_point(shape, placement, parameter.name)
    low, high = param_range(parameter, placement)
    if spot is None:
        return round(slide_at(parameter, placement, *at), _DECIMALS[parameter.unit])
    nudge = (high - low) / 400
    for _ in range(_STEPS):
        step = nudge if value + nudge <= high else -nudge
        here = _place(scene, parameter.name, value, spot)
        way = (_place(scene, parameter.name, value + step, spot) - here) / step
        length = float(way @ way)
        if length < 1e-12:
            break
        value = min(max(value + float((np.array(at) - here) @ way) / length, low), high)
    return min(max(round(value, _DECIMALS[parameter.unit]), low), high)


def _place(scene: Scene, name: str, value: float, spot: Spot) -> Points:
    item = scene.item
    assert isinstance(item.shape, ParametricShape)
    assert item.shape_placement is not None
    placed = with_param(item.shape, item.shape_placement, name, value)
    contours = followed(*placed, is_sample=spot.is_sample)
    contour = contours[min(spot.contour, len(contours) - 1)]
    return np.asarray(contour[min(spot.number, len(contour) - 1)])


def _round_corner(scene: Scene, press: PointerEvent, handle: FormHandle) -> Tool:
    """Round all corners alike, with Ctrl only the one held."""
    item = scene.item
    assert item.shape is not None
    length = math.hypot(*handle.way)
    ux, uy = handle.way[0] / length, handle.way[1] / length
    start = _radius_of(scene, handle)
    shown, event = Shown(scene.job), press
    while True:
        if (event.x, event.y) != (press.x, press.y):
            along = (event.x - press.x) * ux + (event.y - press.y) * uy
            radius = float(max(0, round(start + along * handle.sine)))
            job = _rounded_to(scene, handle.number if event.has_ctrl else None, radius)
            which = "This corner" if event.has_ctrl else "Corners"
            shown = Shown(job, (), f"{which} {format_number(radius)} px")
        if event.is_released:
            return Edit("Round the corners", shown.job)
        event = yield shown


def _radius_of(scene: Scene, handle: FormHandle) -> float:
    shape = scene.item.shape
    assert shape is not None
    if isinstance(shape, ParametricShape) and shape.name == "rectangle":
        return dict(shape.params)[CORNERS[handle.number]]
    return dict(shape.corners).get(handle.number, shape.round)


def _rounded_to(scene: Scene, corner: int | None, radius: float) -> Job:
    shape = scene.item.shape
    if isinstance(shape, ParametricShape) and shape.name == "rectangle":
        names = CORNERS if corner is None else (CORNERS[corner],)
        return set_params(scene.job, scene.item.id, [(name, radius) for name in names])
    return set_round(scene.job, scene.item.id, radius, corner)
