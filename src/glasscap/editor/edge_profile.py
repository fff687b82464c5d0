"""The edge strip: the profile across the edge, drawn by the real renderer on a straight edge, and its marks.

The strip looks at the outline where the first shadow falls (else at its right), turned so that what is kept lies
to the left. Lengths are sheet px from the outline as it was before the inset, outwards positive: away from what
is kept. Of a hole that is inwards, and its strokes are told of `as_kept_inside`.
"""

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Bevel, Finishes, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import locate, photo_of
from glasscap.core.document.model.region import cutout_region
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine, PixelBox, Similarity
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.offsets.outlines import outline_polygons
from glasscap.core.render.plan.plan import Plan, part_of
from glasscap.core.render.screen.frames import Frame
from glasscap.core.shapes.kinds import Keeps, library_shape
from glasscap.editor.frames import ScreenPhotos, alone

LEAST_ZOOM, MOST_ZOOM = 1.0, 16.0
# The share of the strip inside the outline.
INSIDE_SHARE = 0.4
_LONG = 200_000.0


class Mark(Struct, frozen=True):
    """A line of the strip that can be dragged: what it stands for, of which stroke or shadow, and where."""

    kind: str
    index: int
    at: float


class StripRequest(Struct, frozen=True):
    """The strip of one cutout: `size` in device px, `zoom` in device px per sheet px."""

    job: Job
    cutout_id: str
    size: tuple[int, int]
    zoom: float


class Strip(Struct, frozen=True, eq=False):
    """The answer; None when there is nothing to draw."""

    request: StripRequest
    frame: Frame | None


def marks_of(finishes: Finishes) -> tuple[Mark, ...]:
    """Return the marks of what is on."""
    edge = finishes.edge
    line = -edge.inset if edge.is_on else 0.0
    marks = [Mark("inset", 0, line)]
    if edge.is_on and edge.feather > 0:
        marks.append(Mark("feather", 0, line - edge.feather))
    for index, stroke in enumerate(finishes.strokes):
        if stroke.is_on:
            low, high = stroke.band
            marks += [Mark("inner", index, line + low), Mark("outer", index, line + high)]
    for index, shadow in enumerate(finishes.lights.shadows):
        if shadow.is_on:
            far = math.hypot(shadow.dx, shadow.dy) + shadow.spread
            marks.append(Mark("shadow", index, outer_edge(finishes) + far))
    return tuple(marks)


def is_hole(item: Cutout) -> bool:
    """Whether what lies around an item's shape shows; with the mask off nothing is cut."""
    return item.is_masked and item.shape is not None and item.shape.keeps == "outside"


def as_kept_inside(finishes: Finishes) -> Finishes:
    """Return the finishes of a hole as a shape has them that keeps its inside, or the other way round."""
    return replace(finishes, strokes=tuple(_on_other_side(stroke) for stroke in finishes.strokes))


def _on_other_side(stroke: Stroke) -> Stroke:
    if stroke.side == "centre":
        return replace(stroke, gap=-stroke.gap)
    return replace(stroke, side="outside" if stroke.side == "inside" else "inside")


def outer_edge(finishes: Finishes) -> float:
    """Return where the body ends."""
    line = -finishes.edge.inset if finishes.edge.is_on else 0.0
    return line + max([0.0, *(s.band[1] for s in finishes.strokes if s.is_on)])


def with_mark_at(finishes: Finishes, mark: Mark, at: float) -> Finishes:
    """Return the finishes that put a mark at a place, as near as they can."""
    return _MOVES[mark.kind](finishes, mark.index, round(at, 2))


def _inset_at(finishes: Finishes, index: int, at: float) -> Finishes:
    return replace(finishes, edge=replace(finishes.edge, inset=-at, is_on=True))


def _feather_at(finishes: Finishes, index: int, at: float) -> Finishes:
    edge = finishes.edge
    return replace(finishes, edge=replace(edge, feather=max(0.0, -edge.inset - at)))


def _line(finishes: Finishes) -> float:
    return -finishes.edge.inset if finishes.edge.is_on else 0.0


def _inner_at(finishes: Finishes, index: int, at: float) -> Finishes:
    """Move a stroke by its inner border; one inside is widened by it."""
    stroke = finishes.strokes[index]
    low = at - _line(finishes)
    if stroke.side == "inside":
        return _with_stroke(finishes, index, width=round(max(0.0, -low - stroke.gap), 2))
    gap = max(0.0, low) if stroke.side == "outside" else low + stroke.width / 2
    return _with_stroke(finishes, index, gap=round(gap, 2))


def _outer_at(finishes: Finishes, index: int, at: float) -> Finishes:
    """Widen a stroke by its outer border; one inside is moved by it."""
    stroke = finishes.strokes[index]
    high = at - _line(finishes)
    if stroke.side == "inside":
        return _with_stroke(finishes, index, gap=round(max(0.0, -high), 2))
    low = stroke.gap
    width = high - low if stroke.side == "outside" else 2 * (high - stroke.gap)
    return _with_stroke(finishes, index, width=round(max(0.0, width), 2))


def _shadow_at(finishes: Finishes, index: int, at: float) -> Finishes:
    shadow = finishes.lights.shadows[index]
    far = max(0.0, at - outer_edge(finishes) - shadow.spread)
    dx, dy = direction_of(shadow)
    moved = replace(shadow, dx=round(far * dx, 2), dy=round(far * dy, 2))
    shadows = finishes.lights.shadows
    lights = replace(finishes.lights, shadows=(*shadows[:index], moved, *shadows[index + 1 :]))
    return replace(finishes, lights=lights)


_MOVES: dict[str, Callable[[Finishes, int, float], Finishes]] = {
    "inset": _inset_at,
    "feather": _feather_at,
    "inner": _inner_at,
    "outer": _outer_at,
    "shadow": _shadow_at,
}


def _with_stroke(finishes: Finishes, index: int, **fields: float) -> Finishes:
    strokes = finishes.strokes
    return replace(finishes, strokes=(*strokes[:index], replace(strokes[index], **fields), *strokes[index + 1 :]))


def direction_of(shadow: Shadow) -> tuple[float, float]:
    """Return the unit direction a shadow falls; down for one that is not shifted."""
    far = math.hypot(shadow.dx, shadow.dy)
    return (shadow.dx / far, shadow.dy / far) if far > 1e-9 else (0.0, 1.0)


def fitting_zoom(finishes: Finishes, width: float) -> float:
    """Return the zoom at which a strip `width` logical px wide shows every mark, 1 to 16."""
    marks = [m.at for m in marks_of(finishes)]
    blur = max((s.blur / 2 for s in finishes.lights.shadows if s.is_on), default=0.0)
    outside = max(1.0, max(marks) + blur) / (1 - INSIDE_SHARE)
    inside = max(1.0, -min(marks)) / INSIDE_SHARE
    return min(max(0.85 * width / max(outside, inside, 12.0), LEAST_ZOOM), MOST_ZOOM)


def edge_strip(request: StripRequest, photos: ScreenPhotos, cache: ValueCache) -> Strip:
    """Render the strip."""
    return Strip(request, alone(lambda: _strip_plan(request), photos, cache))


def _strip_plan(request: StripRequest) -> Plan | None:
    sheet, item, _ = locate(request.job, request.cutout_id)
    found = _edge_point(request.job, item)
    if found is None:
        return None
    x, y, degrees = found
    width, height = request.size
    straight = _straightened(item, x, y, -degrees)
    origin = Affine.translation(INSIDE_SHARE * width, height / 2)
    to_output = origin.after(Affine.scaling(request.zoom)).after(Affine.translation(-x, -y))
    part = part_of(request.job, sheet, straight, to_output)
    return None if part is None else Plan(PixelBox(0, 0, width, height), (part,), "preview")


def _straightened(item: Cutout, x: float, y: float, degrees: float) -> Cutout:
    """Return the cutout turned about an edge point, its shape a half plane left of it, or a hole right of it."""
    turn = Similarity(x, y, degrees=degrees)
    content = item.content_placement
    keeps: Keeps = "outside" if is_hole(item) else "inside"
    half_plane = ShapePlacement(x + (_LONG / 2 if is_hole(item) else -_LONG / 2), y, _LONG, _LONG)
    return replace(
        item,
        id=f"{item.id} strip",
        content_placement=None if content is None else content.under(turn),
        shape=library_shape("rectangle", keeps),
        shape_placement=half_plane,
        is_hidden=False,
        is_masked=True,
        opacity=1.0,
        finishes=replace(item.finishes, lights=_turned(item.finishes.lights, degrees), mount=None),
    )


def _turned(lights: Lights, degrees: float) -> Lights:
    turn = Similarity(degrees=degrees)

    def shadow(given: Shadow) -> Shadow:
        dx, dy = turn.apply(given.dx, given.dy)
        return replace(given, dx=dx, dy=dy)

    def bevel(given: Bevel) -> Bevel:
        return replace(given, direction=given.direction + degrees)

    return replace(
        lights,
        shadows=tuple(shadow(s) for s in lights.shadows),
        inner_shadow=None if lights.inner_shadow is None else shadow(lights.inner_shadow),
        bevel=None if lights.bevel is None else bevel(lights.bevel),
    )


def _edge_point(job: Job, item: Cutout) -> tuple[float, float, float] | None:
    """Return the outline's point the strip looks at and the direction of its normal, degrees."""
    sheet, _, _ = locate(job, item.id)
    photo = photo_of(job, item)
    size = None if photo is None else (photo.width, photo.height)
    region = cutout_region(item, size, (sheet.width, sheet.height), Affine())
    if region is None:
        return None
    plain = outline_polygons(region, replace(item.finishes.edge, inset=0.0, rough=None, mask=None))
    if not plain:
        return None
    shadows = [s for s in item.finishes.lights.shadows if s.is_on]
    wanted = direction_of(shadows[0]) if shadows and math.hypot(shadows[0].dx, shadows[0].dy) > 0 else (1.0, 0.0)
    return _point_facing(max(plain, key=len), wanted, sign=-1 if region.is_hole else 1)


def _point_facing(polygon: Points, wanted: tuple[float, float], *, sign: int) -> tuple[float, float, float]:
    """Return the middle of the edge of a polygon whose normal, times a sign, comes nearest to a direction."""
    after = np.roll(polygon, -1, axis=0)
    along = after - polygon
    length = np.hypot(along[:, 0], along[:, 1])
    normal = sign * np.stack([along[:, 1], -along[:, 0]], axis=1) / np.maximum(length, 1e-12)[:, None]
    facing = normal @ np.array(wanted) + 1e-9 * length
    facing[length < 1e-9] = -2
    index = int(np.argmax(facing))
    x, y = (polygon[index] + after[index]) / 2
    return float(x), float(y), math.degrees(math.atan2(normal[index, 1], normal[index, 0]))
