"""Crisp bodies: runs of content and of solid strokes are copied; only where an outline passes is reckoned.

The same shares and the same sums as in `finished`, for the few pixels that need them.
"""

from collections.abc import Sequence

import cv2
import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import Writing, for_screen, once_each
from glasscap.core.raster.words import filled_with
from glasscap.core.render.light.bevel import BevelPlanes
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.offsets.nested import OutlinePixels
from glasscap.core.render.paint.content import PaintPart, PhotoPart
from glasscap.core.render.paint.strokes import StrokePaint
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.plan.bounds import content_box
from glasscap.core.render.plan.part import Part
from glasscap.core.render.quick.crisp_parts import CrispParts
from glasscap.core.render.quick.crisp_rows import CrispRows
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.lit_content import LitContent
from glasscap.core.render.quick.row_outlines import RowOutlines
from glasscap.core.render.shares.shares import Weights


class CrispBody:
    """Runs of content and of strokes through masks, whatever there are of them."""

    def __init__(self, parts: CrispParts) -> None:
        self._parts = parts
        self._colours: dict[int, Bytes] = {}

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros, uint8 of shape (box height, box width, 4))."""
        self._parts.write_beneath(out, box, writing)
        content = self._parts.content.bytes(box)
        outlines = {
            key: OutlinePixels(coverage, box) for key, coverage in self._parts.weights.nested.coverages.items()
        }
        self._write_runs(out, content, outlines)
        places = once_each(np.concatenate([outline.places for outline in outlines.values()]))
        if len(places):
            values = {key: outline.at(places)[None] for key, outline in outlines.items()}
            self._parts.write_cells(out, content, places, values, box, writing)

    def _write_runs(self, out: Bytes, content: Bytes, outlines: dict[OffsetKey, OutlinePixels]) -> None:
        weights, box_shape = self._parts.weights, content.shape[:2]
        cv2.copyTo(content, outlines[weights.innermost].filled, out)
        for band in weights.bands:
            if not (band.strokes or band.is_inside):
                continue
            between = cv2.subtract(outlines[band.outer].filled, outlines[band.inner].touched)
            shown = content
            if band.strokes:
                shown = self._stroke_colour(band.strokes[0], box_shape)
            cv2.copyTo(shown, between, out)

    def _stroke_colour(self, number: int, shape: tuple[int, int]) -> Bytes:
        """Return a stroke's colour all over a box; kept, since there are many boxes of nearly one size."""
        (height, width), kept = shape, self._colours.get(number)
        if kept is None or kept.shape[0] < height or kept.shape[1] < width:
            kept = self._colours[number] = filled_with(self._colour(number), shape)
        return kept[:height, :width]

    def _colour(self, number: int) -> Sequence[float]:
        colour = self._parts.strokes[number].colour
        assert colour is not None
        return colour


def solid_parts(
    part: Part,
    weights: Weights,
    content: PhotoPart | PaintPart,
    casts: Sequence[Cast],
    strokes: Sequence[StrokePaint],
    bevel: BevelPlanes | None,
) -> CrispParts | None:
    """Return a part as opaque content in strokes over shadows, or None where it is more than that."""
    if not content.is_opaque or part.opacity < 1 or part.mount is not None:
        return None
    shown: PhotoPart | PaintPart | LitContent | None = content
    inner, casts = [c for c in casts if c.is_inner], [c for c in casts if not c.is_inner]
    if inner:
        seen = weights.window.intersection(content_box(part))
        is_shaded = weights.are_for_screen and not seen.is_empty
        shown = LitContent(content, inner, seen, for_screen(weights.quality).multiply) if is_shaded else None
    if shown is None:
        return None
    if bevel is None or bevel.is_inner:
        return CrispParts(weights, shown, strokes, casts, bevel)
    # A shadow cut out beneath a body is cut out beneath its bevel, too.
    is_clear = any(cast.is_clear_beneath for cast in casts)
    return None if is_clear else CrispParts(weights, shown, strokes, [*bevel.casts, *casts])


def crisp_body(parts: CrispParts) -> CrispBody | None:
    """Return what writes a crisp body through masks.

    None where it fades, has light on it, or a stroke is not of one colour.
    """
    is_plain = parts.bevel is None and all(
        parts.strokes[n].colour is not None and not parts.weights.is_broken(n)
        for n in parts.weights.shown_strokes
    )
    return CrispBody(parts) if is_plain and parts.weights.is_crisp else None


def rows_of(parts: CrispParts) -> CrispRows | FadingRows | None:
    """Return what writes whole rows a run at a time, or None where masks or composing are quicker."""
    fading = parts.weights.fading
    if not (parts.weights.is_crisp or fading):
        return None
    outlines = RowOutlines(parts)
    if not outlines.are_few:
        return None
    return CrispRows(parts, outlines) if fading is None else FadingRows(parts, outlines, fading)
