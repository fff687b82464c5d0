"""The outline of any kind of shape within a frame, as cubics or as polygons."""

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.boolean import combined, normalised
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import FillRule, Outline, Points
from glasscap.core.geometry.path_data import read_path_data
from glasscap.core.geometry.rounding import corner_frames, rounded
from glasscap.core.geometry.types import Affine, Box
from glasscap.core.shapes.kinds import CombinedShape, LettersShape, ParametricShape, PointsShape, RimShape, Shape
from glasscap.core.shapes.library.ellipse import ellipse_outline, ellipse_polygon
from glasscap.core.shapes.library.table import find_shape

# Outlines kept ready; each is small, and a job shows few shapes at a time.
_KEPT = 64


def outline_of(shape: Shape, width: float, height: float) -> Outline:
    """Return the outline of a shape that fills a frame centred on the origin, corners rounded.

    Contours neither cross nor overlap; outer ones are clockwise on screen, holes the other way.
    Raises ShapeError for a shape without a region.
    """
    return _rounded(shape, width, height) if shape.round or shape.corners else _plain(shape, width, height)


def polygons_of_shape(shape: Shape, width: float, height: float, *, tolerance: float) -> tuple[Points, ...]:
    """Return the same outline as polygons within `tolerance`, of exact area where a formula gives it."""
    if not (shape.round or shape.corners):
        if isinstance(shape, ParametricShape) and (make := find_shape(shape.name).polygon) is not None:
            return make(width, height, dict(shape.params), tolerance)
        if isinstance(shape, RimShape):
            return ellipse_polygon(width, height, {}, tolerance)
    return flatten(outline_of(shape, width, height), tolerance=tolerance)


def corners_of_shape(shape: Shape, width: float, height: float) -> tuple[Points, Points, Points]:
    """Return place, inward way and half angle's sine of the corners before rounding, numbered as `corners`."""
    return corner_frames(_plain(shape, width, height))


def has_equal_sides(shape: Shape) -> bool:
    """Whether width and height of a shape are always the same."""
    if isinstance(shape, ParametricShape):
        return find_shape(shape.name).has_equal_sides
    return isinstance(shape, RimShape) and shape.kind == "circle"


def natural_ratio(shape: Shape) -> float | None:
    """Return width over height at which nothing of a shape is stretched; None where any ratio will do."""
    if has_equal_sides(shape):
        return 1.0
    box = own_box(shape)
    return None if box is None else box.width / box.height


def own_box(shape: Shape) -> Box | None:
    """Return the box of a shape in its own units, or None for one that has none."""
    if isinstance(shape, PointsShape | LettersShape):
        return _own(shape.path, _fill(shape))[1]
    if isinstance(shape, ParametricShape):
        return _natural_box(shape.name, shape.params)
    return _joined(shape.parts)[1] if isinstance(shape, CombinedShape) else None


def own_to_frame(shape: Shape, width: float, height: float) -> Affine:
    """Return the map from a shape's own units to a frame centred on the origin."""
    box = own_box(shape)
    return Affine() if box is None else box_to_frame(box, width, height)


def shape_label(shape: Shape) -> str:
    """Return what a shape is called in the window."""
    if isinstance(shape, ParametricShape):
        return find_shape(shape.name).label
    if isinstance(shape, LettersShape):
        return "Letters"
    if isinstance(shape, RimShape):
        return f"{shape.kind.capitalize()} through {len(shape.points)} points"
    return shape.made_by if isinstance(shape, PointsShape) else f"Combined, {len(shape.parts)} parts"


def shape_name(shape: Shape) -> str:
    """Return a shape's name for programs: the library's, or what kind it is."""
    return shape.name if isinstance(shape, ParametricShape) else str(shape.__struct_config__.tag)


def box_to_frame(box: Box, width: float, height: float) -> Affine:
    """Return the map of a box onto a frame centred on the origin."""
    x, y = box.centre
    return Affine.scaling(width / box.width, height / box.height).after(Affine.translation(-x, -y))


def _fill(shape: PointsShape | LettersShape) -> FillRule:
    return shape.fill if isinstance(shape, PointsShape) else "nonzero"


@lru_cache(_KEPT)
def _rounded(shape: Shape, width: float, height: float) -> Outline:
    return normalised(rounded(_plain(shape, width, height), shape.round, dict(shape.corners)))


@lru_cache(_KEPT)
def _plain(shape: Shape, width: float, height: float) -> Outline:
    make: Callable[[Any, float, float], Outline] = _MAKERS[type(shape)]
    return make(shape, width, height)


def _parametric(shape: ParametricShape, width: float, height: float) -> Outline:
    return find_shape(shape.name).outline(width, height, dict(shape.params))


def _path(shape: PointsShape | LettersShape, width: float, height: float) -> Outline:
    outline, box = _own(shape.path, _fill(shape))
    return outline.transformed(box_to_frame(box, width, height))


def _rim(shape: RimShape, width: float, height: float) -> Outline:
    return ellipse_outline(width, height, {})


def _combined(shape: CombinedShape, width: float, height: float) -> Outline:
    outline, box = _joined(shape.parts)
    return outline.transformed(box_to_frame(box, width, height))


@lru_cache(_KEPT)
def _own(path: str, fill: FillRule) -> tuple[Outline, Box]:
    return _with_box(normalised(read_path_data(path, fill)))


@lru_cache(_KEPT)
def _natural_box(name: str, params: tuple[tuple[str, float], ...]) -> Box | None:
    natural = find_shape(name).natural
    return None if natural is None else outline_box(natural(dict(params)))


@lru_cache(_KEPT)
def _joined(parts: tuple[Any, ...]) -> tuple[Outline, Box]:
    whole, is_begun = Outline(()), False
    for part in parts:
        if not part.is_off:
            placed = outline_of(part.shape, part.width, part.height).transformed(part.to_whole)
            whole = combined(whole, placed, part.does) if is_begun else normalised(placed)
            is_begun = True
    return _with_box(whole)


def _with_box(outline: Outline) -> tuple[Outline, Box]:
    if outline.contours:
        box = outline_box(outline)
        if box.width > 0 and box.height > 0:
            return outline, box
    raise ShapeError("Shape", "nothing is left of it: it has no area", "give it points that enclose one")


_MAKERS: dict[type, Callable[[Any, float, float], Outline]] = {
    ParametricShape: _parametric,
    PointsShape: _path,
    RimShape: _rim,
    LettersShape: _path,
    CombinedShape: _combined,
}
