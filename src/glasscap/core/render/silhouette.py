"""What casts a shadow: a sum of parallel outlines where that is all there is to it, else what is painted."""

import math

import cv2
import numpy as np
from msgspec.structs import replace

from glasscap.core.document.region import covers_shape
from glasscap.core.geometry.types import Affine
from glasscap.core.render.bands import OffsetKey, bands_of, solid_spans
from glasscap.core.render.bounds import content_reach
from glasscap.core.render.paints import is_opaque_paint
from glasscap.core.render.part import Part
from glasscap.core.render.planar import Plane

Terms = tuple[tuple[float, OffsetKey], ...]
# Cells to a sigma on which a painted silhouette is spread.
_SPREAD_CELLS_PER_SIGMA = 12


def finer_cells(k: float, sigma: float) -> int:
    """Return how many times finer than cells of k px a silhouette is spread: a disc of few cells is none."""
    return max(1, min(math.floor(k), math.ceil(_SPREAD_CELLS_PER_SIGMA * k / max(sigma, 1e-6))))


def shrunk(part: Part, change: Affine) -> Part:
    """Return a part, its mount and what it holds under a further map of the output."""
    region = part.region
    moved = replace(
        region,
        photo_to_output=change.after(region.photo_to_output),
        sheet_to_output=change.after(region.sheet_to_output),
    )
    mount = None if part.mount is None else shrunk(part.mount, change)
    return replace(part, region=moved, mount=mount, inside=tuple(shrunk(p, change) for p in part.inside))


def grown(plane: Plane, by: float) -> Plane:
    """Return a plane whose values spread (or, negative, shrink) by a disc of `by` px.

    Between two whole radii their mean is taken in proportion, which moves a straight edge by just that.
    """
    whole = math.floor(abs(by))
    rest = abs(by) - whole
    near = _morphed(plane, math.copysign(whole, by))
    if rest == 0:
        return near
    further = _morphed(plane, math.copysign(whole + 1, by))
    return np.asarray(near + (further - near) * np.float32(rest))


def _morphed(plane: Plane, by: float) -> Plane:
    side = round(abs(by))
    if side == 0:
        return plane
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * side + 1, 2 * side + 1))
    change = cv2.dilate if by > 0 else cv2.erode
    return np.asarray(change(plane, disc, borderType=cv2.BORDER_CONSTANT, borderValue=0))


def silhouette_terms(part: Part) -> Terms | None:
    """Return a body's alpha as a sum of parallel outlines, or None where it is not so simple."""
    region, edge, strokes = part.region, part.edge, part.finishes.strokes
    if region.shape is not None and region.shape.keeps == "outside":
        return None
    if edge.mask is not None or not covers_shape(region, 0 if region.shape is None else content_reach(part)):
        return None
    if edge.feather > 0 and (strokes or edge.strength != 1 or edge.feather_side != "centred"):
        return None
    if any(s.opacity < 1 or s.dashes or s.texture != "smooth" or not is_opaque_paint(s.paint) for s in strokes):
        return None
    spans = solid_spans(bands_of(strokes, part.scale))
    terms: list[tuple[float, OffsetKey]] = []
    for inner, outer in spans:
        terms.append((1.0, outer))
        if inner is not None:
            terms.append((-1.0, inner))
    return tuple(terms)
