"""The silhouette that casts a shadow: a sum of offset curves where these are all, else the painted alpha."""

import math

from msgspec.structs import replace

from glasscap.core.document.model.paint import is_opaque_paint
from glasscap.core.document.model.region import covers_shape
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.resample import Quality
from glasscap.core.render.plan.bands import OffsetKey, bands_of, solid_spans
from glasscap.core.render.plan.bounds import content_reach
from glasscap.core.render.plan.part import Part

Terms = tuple[tuple[float, OffsetKey], ...]
# Cells to a sigma on which a painted silhouette is spread.
_SPREAD_CELLS_PER_SIGMA: dict[Quality, int] = {"final": 12, "preview": 12, "moving": 6}


def finer_cells(k: float, sigma: float, quality: Quality) -> int:
    """Return how many times finer than cells of k px a silhouette is spread: a disc of few cells is none."""
    wanted = math.ceil(_SPREAD_CELLS_PER_SIGMA[quality] * k / max(sigma, 1e-6))
    return max(1, min(math.floor(k), wanted))


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


def silhouette_terms(part: Part) -> Terms | None:
    """Return a body's alpha as a sum of parallel outlines, or None where it is not so simple."""
    region, edge, strokes = part.region, part.edge, part.finishes.strokes
    if region.is_hole:
        return None
    if edge.is_masked or not covers_shape(region, 0 if region.shape is None else content_reach(part)):
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
