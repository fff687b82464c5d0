"""Handles of a shape's own numbers: one a parameter, one a corner that can be rounded; in sheet px."""

import math
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.refit import regrown
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Points, transform
from glasscap.core.shapes.kinds import ParametricShape, Shape
from glasscap.core.shapes.library.rectangle import CORNERS, limited_radii
from glasscap.core.shapes.library.spec import Parameter
from glasscap.core.shapes.library.table import complete_params, find_shape
from glasscap.core.shapes.outlines import corners_of_shape, outline_of

FormKind = Literal["param", "round"]
# More corners than this would hide the shape: only the first has a handle then, which rounds them all.
_MOST_CORNERS = 12
# A shape smaller than so many reaches would have its middle full of handles.
_ROOM = 5.0
_NUDGE = 1 / 400
# Points an outline is followed by; a point that moves more frame sizes over the range than this has jumped.
_SAMPLES, _JUMP = 240, 12.0
# A seed has no direction to drag in; a count is dragged round the shape or along it.
_SEEDS = ("variant",)


class FormHandle(Struct, frozen=True):
    """One handle: `name` of a parameter, or `number` of a corner; `way` and `sine` lead into a corner."""

    kind: FormKind
    x: float
    y: float
    name: str = ""
    number: int = 0
    way: tuple[float, float] = (0.0, 0.0)
    sine: float = 1.0


def form_handles(cutout: Cutout, reach: float) -> tuple[FormHandle, ...]:
    """Return the handles of a cutout's shape; `reach` sheet px from a sharp corner to its handle."""
    shape, placement = cutout.shape, cutout.shape_placement
    if shape is None or placement is None or cutout.is_locked:
        return ()
    try:
        return (*_param_handles(shape, placement), *_round_handles(shape, placement, reach))
    except GlassCapError:
        return ()


def params_of(shape: Shape) -> tuple[Parameter, ...]:
    """Return the parameters a shape is dragged by."""
    if not isinstance(shape, ParametricShape) or shape.name == "rectangle":
        return ()
    return tuple(p for p in find_shape(shape.name).stored if p.name not in _SEEDS)


def with_param(
    shape: ParametricShape, placement: ShapePlacement, name: str, value: float
) -> tuple[ParametricShape, ShapePlacement]:
    """Return shape and placement with one parameter changed, before sizes are made whole."""
    after = replace(shape, params=complete_params(shape.name, (*shape.params, (name, value))))
    return after, regrown(placement, shape, after, is_whole=False)


def param_range(parameter: Parameter, placement: ShapePlacement) -> tuple[float, float]:
    """Return the range that can be dragged: a length reaches half the shorter side."""
    if parameter.unit == "px":
        return parameter.low, min(parameter.high, min(placement.width, placement.height) / 2)
    return parameter.low, parameter.high


def count_place(parameter: Parameter, shape: ParametricShape, placement: ShapePlacement, count: float) -> Points:
    """Return where the handle of a count is: one step round from the top, or along the upper side."""
    share = 1 / max(count, 1.0)
    if find_shape(shape.name).natural is not None:
        angle = math.radians(-90 + 360 * share)
        at = (math.cos(angle), math.sin(angle))
    elif parameter.name == "down":
        at = (-1.0, -1 + 2 * share)
    else:
        at = (-1 + 2 * share, -1.0)
    return np.array(placement.point(*at))


def count_at(
    parameter: Parameter, shape: ParametricShape, placement: ShapePlacement, x: float, y: float
) -> float:
    """Return the count whose handle is nearest to a sheet point."""
    u, v = placement.to_sheet.inverse().apply(x, y)
    u, v = u / (placement.width / 2), v / (placement.height / 2)
    if find_shape(shape.name).natural is not None:
        share = (math.degrees(math.atan2(v, u)) + 90) % 360 / 360
    else:
        share = ((v if parameter.name == "down" else u) + 1) / 2
    share = min(max(share, 1 / parameter.high), 1 / parameter.low)
    return float(min(max(round(1 / share), parameter.low), parameter.high))


class Spot(NamedTuple):
    """A point of an outline that can be followed: of its own points, or of samples spread along it."""

    is_sample: bool
    contour: int
    number: int


@lru_cache(256)
def tracked_point(shape: ParametricShape, placement: ShapePlacement, name: str) -> Spot | None:
    """Return the point of the outline that a parameter moves most, or None where the outline jumps."""
    parameter = next(p for p in params_of(shape) if p.name == name)
    low, high = param_range(parameter, placement)
    value = dict(shape.params)[name]
    step = (high - low) * _NUDGE
    now = with_param(shape, placement, name, value)
    other = with_param(shape, placement, name, value + step if value + step <= high else value - step)
    farthest = _JUMP * step * max(placement.width, placement.height) / (high - low)
    for is_sample in (False, True):
        here, there = followed(*now, is_sample=is_sample), followed(*other, is_sample=is_sample)
        if [len(p) for p in here] != [len(p) for p in there]:
            continue
        best, found = 1e-3 * step, None
        for number, (one, two) in enumerate(zip(here, there, strict=True)):
            # Among points that move alike the upper right one counts.
            moved = np.hypot(*(two - one).T) * (1 + 1e-3 * ((one[:, 0] - one[:, 1]) / (1 + np.abs(one).max())))
            if moved.max() > best:
                best, found = float(moved.max()), Spot(is_sample, number, int(moved.argmax()))
        if found is not None and best <= farthest:
            return found
    return None


@lru_cache(64)
def followed(shape: Shape, placement: ShapePlacement, *, is_sample: bool) -> tuple[Points, ...]:
    """Return the points of a shape's outline without rounding, or samples along it, sheet px, by contour."""
    bare = replace(shape, round=0.0, corners=())
    outline = outline_of(bare, placement.width, placement.height)
    fine = max(placement.width, placement.height) * 1e-4
    contours = (
        [_spread(p) for p in flatten(outline, tolerance=fine)]
        if is_sample
        else [c[:-1:3] for c in outline.contours]
    )
    return tuple(transform(c, placement.to_sheet) for c in contours)


def _spread(polygon: Points) -> Points:
    closed = np.concatenate([polygon, polygon[:1]])
    way = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    at = np.arange(_SAMPLES) / _SAMPLES * way[-1]
    return np.stack([np.interp(at, way, closed[:, 0]), np.interp(at, way, closed[:, 1])], axis=1)


def slide_place(parameter: Parameter, placement: ShapePlacement, value: float) -> Points:
    """Return where the handle of a number is that moves no single point: along the lower side."""
    low, high = param_range(parameter, placement)
    return np.array(placement.point(-1 + 2 * (value - low) / (high - low), 1.0))


def slide_at(parameter: Parameter, placement: ShapePlacement, x: float, y: float) -> float:
    """Return the number whose handle on the lower side is nearest to a sheet point."""
    low, high = param_range(parameter, placement)
    share = placement.to_sheet.inverse().apply(x, y)[0] / placement.width + 0.5
    return low + (high - low) * min(max(share, 0.0), 1.0)


def _param_handles(shape: Shape, placement: ShapePlacement) -> list[FormHandle]:
    found: list[FormHandle] = []
    if not isinstance(shape, ParametricShape):
        return found
    for parameter in params_of(shape):
        value = dict(shape.params)[parameter.name]
        if parameter.is_whole:
            x, y = count_place(parameter, shape, placement, value)
        else:
            spot = tracked_point(shape, placement, parameter.name)
            if spot is None:
                x, y = slide_place(parameter, placement, value)
            else:
                x, y = followed(shape, placement, is_sample=spot.is_sample)[spot.contour][spot.number]
        found.append(FormHandle("param", float(x), float(y), parameter.name))
    return found


def _round_handles(shape: Shape, placement: ShapePlacement, reach: float) -> list[FormHandle]:
    if min(placement.width, placement.height) < _ROOM * reach:
        return []
    places, ways, sines = corners_of_shape(sharp(shape), placement.width, placement.height)
    shown = range(len(places)) if len(places) <= _MOST_CORNERS else range(1)
    found = []
    for n in shown:
        radius = corner_radius(shape, placement, n)
        far = max(radius / max(float(sines[n]), 1e-3), reach)
        x, y = placement.to_sheet.apply(*(places[n] + ways[n] * far))
        u, v = placement.to_sheet.apply(*(places[n] + ways[n]))
        u0, v0 = placement.to_sheet.apply(*places[n])
        found.append(FormHandle("round", x, y, number=n, way=(u - u0, v - v0), sine=float(sines[n])))
    return found


def sharp(shape: Shape) -> Shape:
    """Return a shape with no corner rounded."""
    if isinstance(shape, ParametricShape) and shape.name == "rectangle":
        return replace(shape, params=tuple((name, 0.0) for name in CORNERS))
    return shape


def corner_radius(shape: Shape, placement: ShapePlacement, number: int) -> float:
    """Return the radius of a corner as it is asked for (a rectangle's as far as there is room)."""
    if isinstance(shape, ParametricShape) and shape.name == "rectangle":
        return limited_radii(placement.width, placement.height, dict(shape.params))[number]
    return dict(shape.corners).get(number, shape.round)
