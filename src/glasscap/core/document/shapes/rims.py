"""Circles and ellipses through points on a rim, as shapes on the sheet."""

from collections.abc import Sequence

import numpy as np

from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.conic_fit import Rim, fit_circle, fit_ellipse
from glasscap.core.shapes.kinds import RimKind, RimShape

Place = tuple[float, float]


def fit_rim(points: Sequence[Place], kind: RimKind) -> Rim:
    """Return the circle or ellipse near points; a false one says why there is none."""
    places = np.array(points, np.float64).reshape(-1, 2)
    return fit_circle(places) if kind == "circle" else fit_ellipse(places)


def rim_points(item: Cutout, kind: RimKind) -> list[Place]:
    """Return the rim points of a cutout's shape in sheet px; none for another kind of shape."""
    shape, placement = item.shape, item.shape_placement
    if not isinstance(shape, RimShape) or placement is None or shape.kind != kind:
        return []
    return [placement.to_sheet.apply(u * placement.width, v * placement.height) for u, v in shape.points]


def rim_shape(points: Sequence[Place], kind: RimKind) -> tuple[RimShape, ShapePlacement]:
    """Return the shape through rim points in sheet px. Raises ShapeError where there is none."""
    rim = fit_rim(points, kind)
    if not rim:
        raise ShapeError("Rim", rim.why, "give points spread around the rim")
    placement = ShapePlacement(rim.x, rim.y, 2 * rim.rx, 2 * rim.ry, rim.degrees)
    back = placement.to_sheet.inverse()
    shares = tuple((u / placement.width, v / placement.height) for u, v in (back.apply(*p) for p in points))
    return RimShape(shares, kind), placement
