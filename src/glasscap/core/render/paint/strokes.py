"""The paint of a stroke, and the share that dashes and a rough brush leave of it."""

from functools import lru_cache

import numpy as np

from glasscap.core.document.arranging.seen_beyond import rough_reach
from glasscap.core.document.model.finishes import Stroke
from glasscap.core.document.model.paint import GradientPaint, TexturePaint, is_opaque_paint
from glasscap.core.geometry.dashes import dash_polygons, path_length
from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.endless import bordered, reduced, wrapped_within
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.pixels import Planar, Plane
from glasscap.core.raster.planar import add_colour, straight_bytes
from glasscap.core.raster.scan import cover
from glasscap.core.raster.words import Words, picked, words
from glasscap.core.render.offsets.edges import Edges
from glasscap.core.render.offsets.path_places import PathPlaces, begun
from glasscap.core.render.paint.content import content_frame
from glasscap.core.render.paint.paints import (
    PaintFrame,
    paint_pixels,
    paint_planes,
    solid_colour,
    tiled,
    tiled_at,
)
from glasscap.core.render.plan.bands import OUTLINE, OffsetKey
from glasscap.core.render.plan.bounds import stroke_spill
from glasscap.core.render.plan.part import Part
from glasscap.core.textures.tiles import SIDE, grain_tile

# Rows of the brush's tile to a sheet px, and how deep its far side is ragged, in stroke widths.
_ROWS_PER_PX = 1.6
_RAGGED = 0.3
# How soft that end is, sheet px.
_SOFT = 2.0
# Sheet px to a px of the chalk's and crayon's tile.
_TOOTH = 0.6


# Pixels are painted one by one where at most one of so many is to be painted.
_FEW = 3


class StrokePaint:
    """Adds a stroke's colour to premultiplied planes."""

    def __init__(self, part: Part, stroke: Stroke, edges: Edges, photos: PhotoSource) -> None:
        self._stroke, self._part, self._edges = stroke, part, edges
        self._colour = solid_colour(stroke.paint)
        self._path = PathPlaces(part, edges, _reach(part, stroke))
        own = part.picture(getattr(stroke.paint, "texture", ""))
        self._own = None if own is None else photos.pyramid(own)

    @property
    def colour(self) -> tuple[float, float, float, float] | None:
        """Its one colour, premultiplied, 0 to 255; None where it varies."""
        return self._colour

    @property
    def is_opaque(self) -> bool:
        """Whether it certainly lets nothing through."""
        return is_opaque_paint(self._stroke.paint)

    def add_at(self, planes: Planar, weight: Plane, ys: Ints, xs: Ints) -> None:
        """Add the paint to single pixels, in place: planes (4, 1, n), weight (1, n)."""
        if self._colour is not None:
            add_colour(planes, weight, self._colour)
        else:
            planes += self._pixels(ys, xs)[:, None] * weight

    def words_at(self, ys: Ints, xs: Ints) -> Words:
        """Return single pixels of a paint that `is_opaque`, shape (n,)."""
        return words(straight_bytes(self._pixels(ys, xs)[:, None])[0])

    def add(self, out: Planar, weight: Plane, box: PixelBox) -> None:
        """Add the paint, `weight` of each pixel, in place."""
        if self._colour is not None:
            add_colour(out, weight, self._colour)
            return
        places = np.flatnonzero(weight)
        if len(places) * _FEW > weight.size:
            out += paint_planes(self._stroke.paint, box, self.frame(), self._own) * weight
        elif len(places):
            ys, xs = np.divmod(places, box.width)
            colours, shares = self._pixels(ys + box.y0, xs + box.x0), weight.reshape(-1)[places]
            for plane, colour in zip(out, colours, strict=True):
                plane[ys, xs] += colour * shares

    def _pixels(self, ys: Ints, xs: Ints) -> Planar:
        paint = self._stroke.paint
        assert isinstance(paint, GradientPaint | TexturePaint)
        return paint_pixels(paint, ys, xs, self.frame(), self._own)

    def frame(self) -> PaintFrame:
        """Return what the paint is laid out by."""
        frame = content_frame(self._part)
        grown = 2 * max(0.0, self._stroke.band[1])
        return PaintFrame(
            frame.to_output,
            frame.width + grown,
            frame.height + grown,
            frame.sheet_to_output,
            self._path,
        )


class StrokeTexture:
    """The share of a stroke that its dashes and its brush leave, 0 to 1."""

    def __init__(self, part: Part, stroke: Stroke, edges: Edges) -> None:
        self._part, self._stroke, self._edges = part, stroke, edges
        self._path = PathPlaces(part, edges, _reach(part, stroke))

    @staticmethod
    def is_needed(stroke: Stroke) -> bool:
        """Whether a stroke has dashes or is drawn by a brush."""
        return bool(stroke.dashes) or stroke.texture != "smooth"

    def plane(self, box: PixelBox) -> Plane:
        """Return what is left in a box."""
        out = np.ones((box.height, box.width), np.float32)
        if self._stroke.dashes:
            out *= self._dashes.plane(box)
        if self._stroke.texture != "smooth":
            out *= self._grain(box)
        return out

    def at(self, ys: Ints, xs: Ints) -> Plane:
        """Return what is left of single pixels, shape (n,)."""
        box = box_of_pixels(ys, xs)
        out = np.ones(len(ys), np.float32)
        if self._stroke.dashes:
            out *= picked(self._dashes.plane(box), ys - box.y0, xs - box.x0)
        if self._stroke.texture == "brush":
            fields = self._path.within(box)
            out *= self._bristles(*(picked(field, ys - box.y0, xs - box.x0) for field in fields))
        elif self._stroke.texture != "smooth":
            out *= tiled_at(*self._tooth, ys, xs)
        return out

    @property
    def _middle(self) -> float:
        low, high = self._stroke.band
        return (low + high) / 2 * self._part.scale

    @property
    def _dashes(self) -> Coverage:
        key = ("dashes", self._stroke, stroke_spill(self._part.edge))
        return self._edges.kept(key, lambda window: cover(self.dashes(), window))

    def dashes(self) -> tuple[Points, ...]:
        """Return the dashes as polygons in output px, measured along the stroke's own middle.

        Along a rough edge as it was before: the way along each tooth is no length of the shape's. But round ends
        lie where the teeth are.
        """
        stroke, scale = self._stroke, self._part.scale
        middle = OUTLINE if self._middle == 0 else OffsetKey(self._middle, stroke.join, stroke.mitre_limit)
        is_round = stroke.cap == "round"
        even = begun(self._part, self._edges.even_polygons(middle) or self._edges.even_polygons())
        lines = even
        if is_round and self._part.edge.rough is not None:
            lines = begun(self._part, self._edges.polygons(middle) or self._edges.polygons())
        beyond = stroke_spill(self._part.edge) + (0.0 if is_round else rough_reach(self._part.edge))
        return dash_polygons(
            lines,
            tuple(v * scale for v in stroke.dashes),
            offset=stroke.dash_offset * scale,
            width=stroke.width * scale,
            cap=stroke.cap,
            is_even=stroke.has_even_ends,
            tolerance=self._edges.key.flatness,
            beyond=1 + beyond * scale,
            measured=None if lines is even else even,
        )

    def _grain(self, box: PixelBox) -> Plane:
        if self._stroke.texture == "brush":
            return self._bristles(*self._path.within(box))
        return np.asarray(tiled(*self._tooth, box), np.float32)

    @property
    def _tooth(self) -> tuple[Plane, tuple[int, int], Affine]:
        """The tile of chalk or crayon, its size, and how it lies in output px."""
        stroke = self._stroke
        shift = Affine.translation(*np.random.default_rng(stroke.seed).uniform(0, SIDE, 2).tolist())
        to_output = self._part.region.sheet_to_output.after(Affine.scaling(_TOOTH)).after(shift)
        px = 1 / (_TOOTH * self._part.scale)
        return _reduced_grain(stroke.texture, px, px), (SIDE, SIDE), to_output

    def _bristles(self, share: Plane, distance: Plane) -> Plane:
        """Lay the tile along the outline: columns are length, rows distance; the far side is ragged.

        `share` and `distance` (px) tell where along it pixels lie, and how far from it; any shape.
        """
        stroke, scale = self._stroke, self._part.scale
        far = max(abs(v) for v in stroke.band)
        length = max((path_length(p) for p in self._edges.polygons()), default=1.0) / scale
        turns = max(1, round(length / SIDE))
        phase = np.random.default_rng(stroke.seed).uniform(0, SIDE, 3)
        along = (share * np.float32(turns * SIDE) + np.float32(phase[0])).astype(np.float32)
        away = distance / np.float32(scale)
        columns = turns * SIDE / (length * scale)
        tile = _bristle_tile(stroke.texture, columns, _ROWS_PER_PX / scale)
        bristle = _along(tile, along, away * np.float32(_ROWS_PER_PX) + np.float32(phase[1]))
        tips = _bristle_tile(stroke.texture, columns, 1.0)
        depth = _along(tips, along, np.full_like(along, phase[2])) * np.float32(_RAGGED * stroke.width)
        # The ragged end is a pixel soft at least.
        soft = np.float32(max(_SOFT, 1 / scale))
        left = np.clip((np.float32(far) - away - depth) / soft + np.float32(0.5), 0, 1)
        return np.asarray(bristle * left, np.float32)


@lru_cache(maxsize=16)
def _reduced_grain(texture: str, across: float, down: float) -> Plane:
    """Return the tile of a brush, chalk or crayon for being drawn with so many of its px to one."""
    return reduced(grain_tile(texture), across, down)


@lru_cache(maxsize=16)
def _bristle_tile(texture: str, across: float, down: float) -> tuple[Plane, float, float]:
    """Return a reduced tile that is bordered, and its columns and rows to one of the whole tile."""
    tile = _reduced_grain(texture, across, down)
    return bordered(tile), tile.shape[1] / SIDE, tile.shape[0] / SIDE


def _along(found: tuple[Plane, float, float], columns: Plane, rows: Plane) -> Plane:
    """Return the values of a `_bristle_tile` at columns and rows of the whole tile."""
    tile, x, y = found
    return wrapped_within(tile, columns * np.float32(x), rows * np.float32(y))


def _reach(part: Part, stroke: Stroke) -> float:
    """Return how far from the outline a stroke lies at most, output px."""
    return (max(abs(v) for v in stroke.band) + stroke_spill(part.edge)) * part.scale
