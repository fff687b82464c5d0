"""A soft contour: the matte of a part's photo along its outline, and its colours without the surroundings'."""

import math

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.finishes import WIDEST_BAND, BandStroke, SoftContour
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.geometry.outline import Ints, bounds
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.contour_matte import Matte, PaintedStroke, contour_matte
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.pixels import Bytes, PhotoPixels, Plane, view_of
from glasscap.core.raster.resample import Pyramid, Quality, sample
from glasscap.core.render.offsets.silhouette import shrunk
from glasscap.core.render.plan.part import Part

# Open pixels the matte is solved for: a file may take a second, a drag a tenth.
_MOST_OPEN: dict[Quality, int] = {"final": 24_000, "preview": 12_000, "moving": 2_500}
# The screen's mattes reach this far beyond the view in bands, and begin on a grid of photo px, so that they last.
_BANDS_AROUND, _GRID, _MARGIN = 2.0, 128, 4
# Photo px: outlines that differ by less have one matte.
_SAME = 1e-3
# Halvings of a photo for the screen.
_DEEPEST = 6
_TOLERANCE = 0.1


class _Photo(Struct, frozen=True, eq=False):
    """The pixels a matte is computed from, `scale` of them a px of the photo: for the screen fewer."""

    rgba: Bytes
    scale: float
    level: int

    @property
    def box(self) -> PixelBox:
        """All of it."""
        return PixelBox(0, 0, self.rgba.shape[1], self.rgba.shape[0])


def _photo_for(part: Part, pyramid: Pyramid, quality: Quality) -> _Photo:
    """Return the photo as it is written, or at the level of its pyramid that the screen shows."""
    level = 0
    if quality != "final" and pyramid.photo.is_opaque:
        shown = abs(part.region.photo_to_output.determinant) ** 0.5 / _held(part, pyramid)
        level = max(0, min(math.floor(-math.log2(shown)), _DEEPEST))
    rgba = pyramid.halved(level) if level else pyramid.photo.rgba
    return _Photo(rgba, rgba.shape[1] / _photo_of(part).width, level)


def _held(part: Part, pyramid: Pyramid) -> float:
    """Return px at hand a px of the photo: below 1 for a draft."""
    return pyramid.photo.size[0] / _photo_of(part).width


class _Placed(Struct, frozen=True, eq=False):
    """A matte, the px of the picture it was computed from that it lies on, and itself as a picture."""

    matte: Matte
    box: PixelBox
    picture: Pyramid
    scale: float

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return self.matte.nbytes + self.picture.nbytes


class MattePlane:
    """A matte as shares of output px; beyond the band all or nothing is let through."""

    def __init__(self, part: Part, placed: _Placed | None, quality: Quality) -> None:
        self._part, self._placed, self._quality = part, placed, quality

    def plane(self, box: PixelBox) -> Plane:
        """Return how much is let through in a box, 0 to 1; not to be written to."""
        out = np.zeros((box.height, box.width), np.float32)
        if self._placed is None:
            return out
        placed = self._placed
        to_photo = Affine.scaling(1 / placed.scale).after(Affine.translation(placed.box.x0, placed.box.y0))
        to_output = self._part.region.photo_to_output.after(to_photo)
        pixels, where = sample(placed.picture, to_output, box, self._quality)
        if not where.is_empty:
            view_of(out, box, where)[:] = pixels[..., 0] * np.float32(1 / 255)
        return out

    def at(self, ys: Ints, xs: Ints) -> Plane:
        """Return how much is let through of single pixels, shape (n,)."""
        box = box_of_pixels(ys, xs)
        return np.asarray(self.plane(box)[ys - box.y0, xs - box.x0])

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        """Return how much is let through, moved by some px, of cells of k px; of the shape of `cells`."""
        small = shrunk(self._part, Affine.scaling(1 / k).after(Affine.translation(*shift)))
        quality: Quality = "preview" if self._quality == "final" else self._quality
        return MattePlane(small, self._placed, quality).plane(cells)


def matte_plane(
    part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
) -> MattePlane:
    """Return the matte of a part with a soft contour. Raises PhotoError."""
    return MattePlane(part, _placed_matte(part, window, photos, quality, cache), quality)


def pyramid_with_clean_rim(
    part: Part, photos: PhotoSource, window: PixelBox, quality: Quality, cache: ValueCache
) -> Pyramid:
    """Return the photo of a part; with a cleaned rim it has the object's own colours there. Raises PhotoError."""
    photo = _photo_of(part)
    pyramid, soft = photos.pyramid(photo), part.edge.soft
    if soft is None or not soft.cleans_rim:
        return pyramid
    placed = _placed_matte(part, window, photos, quality, cache)
    if placed is None or placed.matte.colours is None:
        return pyramid
    key = ("clean rim", _key(part, window, pyramid, quality, soft))

    def made() -> Pyramid:
        rgba = _photo_for(part, pyramid, quality).rgba.copy()
        box, open_px = placed.box, placed.matte.is_open
        here = rgba[box.y0 : box.y1, box.x0 : box.x1]
        assert placed.matte.colours is not None
        here[open_px, :3] = placed.matte.colours[open_px]
        return Pyramid(PhotoPixels(rgba, pyramid.photo.is_opaque), pyramid.size)

    return cache.get(key, made, lambda p: p.nbytes)


def _placed_matte(
    part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
) -> _Placed | None:
    """Return the matte of a part's photo, kept while outline, band and photo stay. Raises PhotoError."""
    soft, pyramid = part.edge.soft, photos.pyramid(_photo_of(part))
    assert soft is not None
    return cache.get(
        ("matte", _key(part, window, pyramid, quality, soft)),
        lambda: _computed(part, window, pyramid, quality, soft),
        lambda placed: 64 if placed is None else placed.nbytes,
    )


def _key(part: Part, window: PixelBox, pyramid: Pyramid, quality: Quality, soft: SoftContour) -> object:
    region, placement = part.region, part.region.placement
    assert placement is not None
    to_photo = region.photo_to_output.inverse().after(region.sheet_to_output).after(placement.to_sheet)
    place = tuple(round(v / _SAME) for v in (to_photo.e, to_photo.f))
    turn = tuple(round(v * max(placement.width, placement.height) / _SAME) for v in to_photo[:4])
    photo = _photo_for(part, pyramid, quality)
    where = None if quality == "final" else _in_sight(part, window, photo)
    asked = (_photo_of(part).sha256, pyramid.is_draft, photo.level, soft, quality)
    return asked, region.shape, place, turn, round(_photo_px(part), 6), where


def _photo_px(part: Part) -> float:
    """Return photo px per sheet px."""
    region = part.region
    return float(abs(region.sheet_to_output.determinant / region.photo_to_output.determinant) ** 0.5)


def _computed(
    part: Part, window: PixelBox, pyramid: Pyramid, quality: Quality, soft: SoftContour
) -> _Placed | None:
    region, placement, shape = part.region, part.region.placement, part.region.shape
    assert shape is not None
    assert placement is not None
    photo = _photo_for(part, pyramid, quality)
    to_picture = Affine.scaling(photo.scale).after(region.photo_to_output.inverse()).after(region.sheet_to_output)
    polygons = shape_polygons(shape, placement, to_picture, tolerance=_TOLERANCE)
    if not polygons:
        return None
    unit = _photo_px(part) * photo.scale
    box = bounds(polygons).rounded_out().grown(math.ceil(soft.reach * unit) + _MARGIN).intersection(photo.box)
    if quality != "final":
        box = box.intersection(_in_sight(part, window, photo))
    if box.is_empty or min(box.width, box.height) < 3:
        return None
    corner = np.array([box.x0, box.y0], np.float64)
    to_frame = to_picture.after(placement.to_sheet)
    strokes = [_stroke(s, to_frame, (placement.width, placement.height), unit, corner) for s in soft.strokes]
    matte = contour_matte(
        np.ascontiguousarray(photo.rgba[box.y0 : box.y1, box.x0 : box.x1, :3]),
        [polygon - corner for polygon in polygons],
        soft.width * unit,
        strokes,
        widest=WIDEST_BAND,
        most_open=_MOST_OPEN[quality],
        wants_colours=soft.cleans_rim,
    )
    held = np.zeros((*matte.alpha.shape, 4), np.uint8)
    held[..., 0], held[..., 3] = matte.alpha, 255
    picture = Pyramid(PhotoPixels(held, is_opaque=True), (box.width, box.height))
    return _Placed(matte, box, picture, photo.scale)


def _stroke(
    stroke: BandStroke, to_picture: Affine, size: tuple[float, float], unit: float, corner: np.ndarray
) -> PaintedStroke:
    points = np.array([to_picture.apply(u * size[0], v * size[1]) for u, v in stroke.points]).reshape(-1, 2)
    return PaintedStroke(points - corner, stroke.radius * min(size) * unit, stroke.is_wider)


def _in_sight(part: Part, window: PixelBox, photo: _Photo) -> PixelBox:
    """Return the picture's px a window shows, with some around, on a coarse grid."""
    to_picture = Affine.scaling(photo.scale).after(part.region.photo_to_output.inverse())
    corners = [to_picture.apply(x, y) for x in (window.x0, window.x1) for y in (window.y0, window.y1)]
    soft = part.edge.soft
    around = 0.0 if soft is None else _BANDS_AROUND * soft.width * _photo_px(part) * photo.scale

    def low(value: float) -> int:
        return math.floor((value - around) / _GRID) * _GRID

    def high(value: float) -> int:
        return math.ceil((value + around) / _GRID) * _GRID

    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    seen = PixelBox(low(min(xs)), low(min(ys)), high(max(xs)), high(max(ys)))
    return seen.intersection(photo.box)


def _photo_of(part: Part) -> PhotoRecord:
    assert part.photo is not None
    return part.photo
