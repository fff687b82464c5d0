"""A picture as paths, images and blurs, back to front, for formats that keep them apart.

Opaque strokes are nested shapes, each painted over the wider one: at a joint the pixel is a pure mix of the two
neighbours whatever draws it. What no path can be (brush strokes, bevels, picture masks) comes as pixels.
"""

from collections.abc import Iterable, Iterator, Sequence

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.finishes import Shadow, Stroke
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, is_opaque_paint
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.pixels import Bytes, Plane
from glasscap.core.raster.planar import straight_bytes
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.compose.group import Silhouette
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.offsets.silhouette import silhouette_terms
from glasscap.core.render.paint.content import PaintPart, content_frame
from glasscap.core.render.paint.paints import PaintFrame
from glasscap.core.render.plan.bands import OUTLINE, Band, OffsetKey
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import Plan
from glasscap.core.render.plan.touching import share_an_edge
from glasscap.core.render.shares.content_end import ContentEnd
from glasscap.core.render.shares.feather import TAIL

Polygons = tuple[Points, ...]
# So far (output px) what is beneath a stroke reaches under it.
_UNDER = 1.5


class Fade(Struct, frozen=True, eq=False):
    """A soft mask: an outline blurred (sigma in output px), its alpha to a power, cut by another outline.

    Before that its alpha from `tail` to 1 - `tail` is stretched to go from 0 to 1. `plane` is the same as pixels
    of the scene's box, 0 to 1.
    """

    polygons: Polygons
    sigma: float
    strength: float
    within: Polygons | None
    beyond: Polygons | None
    tail: float
    plane: np.ndarray


class PathOp(Struct, frozen=True, eq=False):
    """A filled path (even-odd): a paint laid out by a frame, its opacity; `dashes` cut it."""

    polygons: Polygons
    paint: Paint
    frame: PaintFrame
    opacity: float = 1.0
    dashes: Polygons | None = None


class ImageOp(Struct, frozen=True, eq=False):
    """Pixels (straight RGBA, upper left corner at x, y), clipped by a path or faded by a soft mask."""

    rgba: Bytes
    x: int
    y: int
    clip: Polygons | None = None
    fade: Fade | None = None
    is_outline: bool = False


class SoftOp(Struct, frozen=True, eq=False):
    """A blurred path (even-odd) in one colour; `beneath` is taken away from it. `plane`: the same as pixels."""

    polygons: Polygons
    sigma: float
    colour: tuple[float, float, float]
    opacity: float
    beneath: Polygons | None
    plane: np.ndarray


class NestedOp(Struct, frozen=True, eq=False):
    """The contents of a group, back to front, clipped by a path."""

    groups: "tuple[Group, ...]"
    clip: Polygons | None


Op = PathOp | ImageOp | SoftOp | NestedOp


def faded(op: ImageOp, box: PixelBox) -> Bytes:
    """Return an image's pixels with its soft mask in their alpha; `box` is the scene's."""
    if op.fade is None:
        return op.rgba
    height, width = op.rgba.shape[:2]
    y, x = op.y - box.y0, op.x - box.x0
    out = op.rgba.copy()
    out[..., 3] = np.clip(out[..., 3] * op.fade.plane[y : y + height, x : x + width] + 0.5, 0, 255)
    return out


def tinted(op: SoftOp) -> Bytes:
    """Return a blurred path as pixels of the scene's box; what lies beneath the body is there, too."""
    out = np.empty((*op.plane.shape, 4), np.uint8)
    out[..., :3] = np.round(op.colour)
    out[..., 3] = np.clip(op.plane * 255 + 0.5, 0, 255)
    return out


class Group(Struct, frozen=True, eq=False):
    """The drawing of one part, and its opacity; `pixels_for` says why it came as pixels, if it did."""

    part: Part
    ops: tuple[Op, ...]
    opacity: float = 1.0
    pixels_for: str = ""


def vector_scene(plan: Plan, photos: PhotoSource, cache: ValueCache) -> tuple[Group, ...]:
    """Return a plan's parts, back to front. Raises PhotoError."""
    return tuple(_Builder(part, plan.box, photos, cache).group() for part in plan.parts)


def pixel_reasons(parts: Iterable[Part]) -> set[str]:
    """Return why parts, and what they hold, cannot be paths; none where they can."""
    parts = tuple(parts)
    own = {reason for part in parts if (reason := pixel_reason(part))}
    return own.union(*(pixel_reasons(part.inside) for part in parts))


def pixel_reason(part: Part) -> str:
    """Return why a part cannot be paths, empty where it can."""
    region, edge = part.region, part.edge
    strokes = [s for s in part.finishes.strokes if s.is_on and s.width > 0]
    if edge.mask is not None:
        return "a picture as mask"
    if edge.soft is not None:
        return "a soft contour"
    if part.lights.bevel is not None:
        return "a bevel"
    if region.is_hole:
        return "a hole"
    if edge.feathers_strokes and edge.feather > 0 and strokes:
        return "strokes that fade"
    if any(s.texture != "smooth" for s in strokes):
        return "a brush stroke"
    if any(not _is_plain_paint(s.paint) for s in strokes):
        return "a stroke no path has"
    return ""


def _is_plain_paint(paint: Paint) -> bool:
    return isinstance(paint, ColourPaint) or (
        isinstance(paint, GradientPaint) and paint.way in ("linear", "radial")
    )


class _Builder:
    def __init__(self, part: Part, box: PixelBox, photos: PhotoSource, cache: ValueCache) -> None:
        self._part, self._box, self._photos, self._cache = part, box, photos, cache
        self._finished = FinishedPart(part, box, photos, "final", cache)
        self._weights, self._edges = self._finished.weights, self._finished.weights.edges
        self._frame = ContentEnd(part, box, cache).coverage()

    @property
    def outline(self) -> Silhouette | None:
        """The body's outline, where its alpha is just an area."""
        return self._finished.silhouette()

    def group(self) -> Group:
        part = self._part
        reason = pixel_reason(part)
        if reason:
            whole = straight_bytes(self._finished.planes(self._box))
            return Group(part, (ImageOp(whole, self._box.x0, self._box.y0),), 1.0, reason)
        ops = [*self._mount(), *self._beneath(), *self._body()]
        return Group(part, tuple(ops), part.opacity)

    def _mount(self) -> Iterator[Op]:
        if self._part.mount is not None:
            # The plate has an opacity of its own.
            yield NestedOp((_Builder(self._part.mount, self._box, self._photos, self._cache).group(),), None)

    # shadows and glows

    def _beneath(self) -> Iterator[Op]:
        lights = self._part.lights
        shown = [*([lights.outer_glow.as_shadow] if lights.outer_glow else []), *lights.shadows]
        casts = [c for c in self._finished.casts if not c.is_inner]
        for shadow, cast in reversed(list(zip(shown, casts, strict=True))):
            yield self._cast(shadow, cast)

    def _cast(self, shadow: Shadow, cast: Cast) -> Op:
        plane = cast.plane(self._box)
        terms, spread = silhouette_terms(self._part), shadow.spread * self._part.scale
        is_paths = terms is not None and self._finished.content.is_opaque and (spread == 0 or len(terms) == 1)
        if not is_paths or self._part.edge.feather > 0:
            return self._as_image(plane, cast)
        assert terms is not None
        scale = self._part.scale
        shift = np.array([shadow.dx, shadow.dy]) * scale
        polygons = [p for _, key in terms for p in self._edges.polygons(key.moved(spread))]
        body = tuple(p for _, key in terms for p in self._edges.polygons(key))
        return SoftOp(
            tuple(p + shift for p in polygons),
            shadow.blur * scale / 2,
            cast.colour,
            cast.opacity,
            body if cast.is_clear_beneath else None,
            plane,
        )

    def _as_image(self, share: np.ndarray, cast: Cast) -> ImageOp:
        """Return a shade as pixels: its silhouette is painted rather than outlined."""
        if cast.is_clear_beneath:
            share = share * (1 - self._finished.alpha(self._box))
        return ImageOp(_tinted(share, cast), self._box.x0, self._box.y0)

    # body

    def _body(self) -> Iterator[Op]:
        bands = self._weights.bands
        shown = {n for band in bands for n in band.strokes}
        is_nested = self._part.edge.feather == 0 and all(self._hides(n) for n in shown)
        if is_nested and self._is_full():
            yield from self._nested(bands)
            return
        if is_nested:
            yield from self._hollow(bands)
            return
        yield from self._content(self._edges.polygons(OUTLINE), is_outline=True)
        yield from self._rings(bands)

    def _hides(self, number: int) -> bool:
        """Whether nothing beneath a stroke is seen."""
        stroke = self._part.finishes.strokes[number]
        return stroke.opacity == 1 and not stroke.dashes and is_opaque_paint(stroke.paint)

    def _nested(self, bands: tuple[Band, ...]) -> Iterator[Op]:
        """Paint from the outermost band inwards; a gap that is seen through is left out of what holds it."""
        for index in range(len(bands) - 1, -1, -1):
            band = bands[index]
            polygons = self._edges.polygons(band.outer)
            if band.strokes:
                below = bands[index - 1] if index else None
                is_open = below is not None and not below.is_inside and not below.strokes
                hollow = self._edges.polygons(band.inner) if is_open else ()
                yield self._stroke(band.strokes[0], (*polygons, *hollow))
            elif band.is_inside:
                yield from self._content(polygons, is_outline=band.outer == OUTLINE)
        innermost = self._weights.innermost
        yield from self._content(self._edges.polygons(innermost), is_outline=innermost == OUTLINE)

    def _is_full(self) -> bool:
        """Whether the content leaves nothing bare within the strokes: the widest one is not seen through it."""
        return self._frame is None and self._finished.content.is_opaque

    def _hollow(self, bands: tuple[Band, ...]) -> Iterator[Op]:
        """Paint the content, then strokes from the innermost outwards, each hollow where content may be bare.

        What is beneath another reaches a little under it, so that a joint is a mix of these two alone.
        """
        shown = [index for index, band in enumerate(bands) if band.is_inside and not band.strokes]
        last = shown[-1] if shown else -1
        content = bands[last].outer if shown else self._weights.innermost
        beneath = self._beneath_next(bands, last, content)
        yield from self._content(self._edges.polygons(beneath), is_outline=beneath == OUTLINE)
        for index, band in enumerate(bands):
            if band.strokes:
                outer = self._beneath_next(bands, index, band.outer)
                polygons = (*self._edges.polygons(outer), *self._edges.polygons(band.inner))
                yield self._stroke(band.strokes[0], polygons)

    @staticmethod
    def _beneath_next(bands: tuple[Band, ...], index: int, outer: OffsetKey) -> OffsetKey:
        """Return how far what ends at a band's outer border is painted: to within the stroke that follows."""
        if index + 1 >= len(bands) or not bands[index + 1].strokes:
            return outer
        return outer.moved(_under(bands[index + 1]))

    def _rings(self, bands: tuple[Band, ...]) -> Iterator[PathOp]:
        """Yield strokes, the topmost last: what is seen of each, and a little of what goes on beneath another."""
        seen: dict[int, list[int]] = {}
        for index, band in enumerate(bands):
            for number in band.strokes:
                seen.setdefault(number, []).append(index)
                if self._hides(number):
                    break
        for number in sorted(seen, reverse=True):
            for first, last in _runs(seen[number]):
                inner, outer = bands[first].inner, bands[last].outer
                if first > 0 and number in bands[first - 1].strokes:
                    inner = inner.moved(-_under(bands[first - 1]))
                if last + 1 < len(bands) and number in bands[last + 1].strokes:
                    outer = outer.moved(_under(bands[last + 1]))
                yield self._stroke(number, (*self._edges.polygons(outer), *self._edges.polygons(inner)))

    def _stroke(self, number: int, polygons: Polygons) -> PathOp:
        stroke: Stroke = self._part.finishes.strokes[number]
        dashes = self._weights.textures[number].dashes() if stroke.dashes else None
        return PathOp(polygons, stroke.paint, self._finished.strokes[number].frame(), stroke.opacity, dashes)

    def _content(self, clip: Polygons, *, is_outline: bool) -> Sequence[Op]:
        """Return the content within a path, or faded."""
        content, paint = self._finished.content, self._part.paint
        has_inner = any(c.is_inner for c in self._finished.casts)
        fade = self._fade() if is_outline and self._part.edge.feather > 0 else None
        held = self._held(clip) if self._part.inside and fade is None else None
        if held is not None:
            return held, *self._shades(clip)
        is_flat = isinstance(content, PaintPart) and paint is not None and _is_plain_paint(paint)
        if is_flat and fade is None and not has_inner:
            assert paint is not None
            return (PathOp(clip, paint, content_frame(self._part)),)
        box = self._content_box(clip, fade)
        frame = self._frame
        share = np.ones((box.height, box.width), np.float32) if frame is None else frame.plane(box)
        lit = self._finished.lit(box, share, is_clipped=False)
        rgba = straight_bytes(np.array(lit, np.float32))
        return (ImageOp(rgba, box.x0, box.y0, None if fade is not None else clip, fade, is_outline),)

    def _held(self, clip: Polygons) -> NestedOp | None:
        """Return what a group holds as paths; None where outlines share an edge, which only pixels show once."""
        part = self._part
        builders = [_Builder(p, self._box, self._photos, self._cache) for p in part.inside]
        outlines = [found.polygons for b in builders if (found := b.outline) is not None]
        is_cut = part.region.shape is not None
        if share_an_edge([*outlines, clip] if is_cut else outlines):
            return None
        return NestedOp(tuple(b.group() for b in builders), clip if is_cut else None)

    def _shades(self, clip: Polygons) -> Iterator[ImageOp]:
        """Yield inner shadows and glows as pixels on what a group holds."""
        inner = [cast for cast in self._finished.casts if cast.is_inner]
        if not inner:
            return
        box = self._content_box(clip, None)
        alpha = self._finished.content.planes(box)[3] / np.float32(255)
        for cast in inner:
            yield ImageOp(_tinted(cast.plane(box) * alpha, cast), box.x0, box.y0, clip)

    def _content_box(self, clip: Polygons, fade: Fade | None) -> PixelBox:
        """Return the px that are needed: photos are cropped to them."""
        if fade is not None or not clip:
            return self._box
        low = np.floor(np.min([p.min(axis=0) for p in clip], axis=0)).astype(int) - 1
        high = np.ceil(np.max([p.max(axis=0) for p in clip], axis=0)).astype(int) + 1
        return PixelBox(*low.tolist(), *high.tolist()).intersection(self._box)

    def _fade(self) -> Fade:
        edge = self._part.edge
        offset, sigma = self._weights.fade_outline()
        outline = self._edges.polygons(OUTLINE)
        plane = self._weights.fade_plane(self._box)
        assert plane is not None
        return Fade(
            self._edges.polygons(offset),
            sigma,
            edge.strength,
            outline if edge.feather_side == "inside" else None,
            outline if edge.feather_side == "outside" else None,
            TAIL if edge.feather_side == "inside" else 0.0,
            plane,
        )


def _under(band: Band) -> float:
    """Return how far what lies beside a band reaches beneath the stroke in it, output px."""
    return min((band.outer.distance - band.inner.distance) / 2, _UNDER)


def _runs(indices: Sequence[int]) -> Iterator[tuple[int, int]]:
    """Yield the first and last of each run of numbers that follow one another."""
    first = last = indices[0]
    for index in indices[1:]:
        if index != last + 1:
            yield first, last
            first = index
        last = index
    yield first, last


def _tinted(share: Plane, cast: Cast) -> Bytes:
    """Return a shade as pixels of its colour."""
    planes = np.stack([*(share * np.float32(c) for c in cast.colour), share * np.float32(255)])
    return straight_bytes(planes.astype(np.float32))
