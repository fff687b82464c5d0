"""Edits of finishes: each names one cutout (or several) and says what changes; locks hold."""

from collections.abc import Callable, Iterable
from typing import TypeVar, Unpack

from msgspec.structs import replace

from glasscap.core.document.edits.items import add_photo, change_item, change_items, update_sheet
from glasscap.core.document.finishing.fields import (
    AdjustmentFields,
    EdgeFields,
    LightFields,
    MountFields,
    SoftFields,
    StrokeFields,
)
from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.finishes import (
    Adjustments,
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    PictureMask,
    Shadow,
    SoftContour,
    Stroke,
)
from glasscap.core.document.model.job import Cutout, FinishSet, Job, PaintContent, PhotoContent, PhotoRecord
from glasscap.core.document.model.paint import Paint, check_number
from glasscap.core.document.model.query import find_item, has_soft_contour
from glasscap.core.errors import FinishError

T = TypeVar("T")

# The lights a cutout has one of at most, and what each begins as.
Light = Shadow | Glow | Bevel
SINGLE_LIGHTS: dict[str, Callable[[], Light]] = {
    "inner_shadow": lambda: Shadow(0.0, 4.0, 14.0, opacity=0.5),
    "outer_glow": Glow,
    "inner_glow": lambda: Glow(18.0),
    "bevel": Bevel,
}


def change_finishes(job: Job, item_id: str, change: Callable[[Finishes], Finishes]) -> Job:
    """Replace the finishes of one cutout by `change(finishes)`. Raises FinishError."""
    return change_item(job, item_id, lambda item: replace(item, finishes=change(item.finishes)))


def set_finishes(job: Job, item_ids: Iterable[str], finishes: Finishes) -> Job:
    """Give cutouts finishes, whole."""
    return change_items(job, item_ids, lambda item: replace(item, finishes=finishes))


def change_edge(job: Job, item_id: str, **fields: Unpack[EdgeFields]) -> Job:
    """Change fields of the edge. Raises FinishError."""
    return change_finishes(job, item_id, lambda f: replace(f, edge=replace(f.edge, **fields)))


def change_soft(job: Job, item_id: str, **fields: Unpack[SoftFields]) -> Job:
    """Change fields of the soft contour, which is made if there is none. Raises FinishError."""
    if not has_soft_contour(find_item(job, item_id)):
        name = find_item(job, item_id).name
        raise FinishError(name, "only a photo within a shape has a soft contour", "give it a photo and a shape")

    def change(edge: Edge) -> Edge:
        return replace(edge, is_on=True, soft=replace(edge.soft or SoftContour(), **fields))

    return change_finishes(job, item_id, lambda f: replace(f, edge=change(f.edge)))


def set_picture_mask(job: Job, item_id: str, photo: PhotoRecord) -> Job:
    """Let a picture mask a cutout; it is listed in the job."""
    job = add_photo(job, photo)

    def change(edge: Edge) -> Edge:
        kind = edge.mask.kind if edge.mask is not None else "luminance"
        return replace(edge, mask=PictureMask(photo.sha256, kind))

    return change_finishes(job, item_id, lambda f: replace(f, edge=change(f.edge)))


# strokes


def add_stroke(job: Job, item_id: str, first: Stroke | None = None) -> Job:
    """Add a stroke beneath the others, right outside them; `first` has its other numbers."""
    begun = first or Stroke()

    def change(finishes: Finishes) -> Finishes:
        reach = max((s.band[1] for s in finishes.strokes), default=0.0)
        return replace(finishes, strokes=(*finishes.strokes, replace(begun, gap=max(reach, 0.0))))

    return change_finishes(job, item_id, change)


def change_stroke(job: Job, item_id: str, index: int, **fields: Unpack[StrokeFields]) -> Job:
    """Change fields of one stroke; dashes keep their proportion to its width. Raises FinishError."""

    def change(finishes: Finishes) -> Finishes:
        there = _one_of(finishes.strokes, index)
        if there is None:
            raise FinishError(find_item(job, item_id).name, "it has no such stroke", "add one first")
        return replace(finishes, strokes=_with(finishes.strokes, index, _changed_stroke(there, fields)))

    return change_finishes(job, item_id, change)


def _changed_stroke(stroke: Stroke, fields: StrokeFields) -> Stroke:
    changed: Stroke = replace(stroke, **fields)
    grown = changed.width / stroke.width if stroke.width > 0 and changed.width > 0 else 1.0
    if grown == 1.0 or not stroke.dashes or "dashes" in fields:
        return changed
    dashes = tuple(round(length * grown, 2) for length in stroke.dashes)
    return replace(changed, dashes=dashes, dash_offset=round(changed.dash_offset * grown, 2))


def remove_stroke(job: Job, item_id: str, index: int) -> Job:
    """Take a stroke away."""
    return change_finishes(job, item_id, lambda f: replace(f, strokes=_without(f.strokes, index)))


def move_stroke(job: Job, item_id: str, index: int, step: int) -> Job:
    """Give a stroke another place in the list (0 lies on top), clamped."""

    def change(finishes: Finishes) -> Finishes:
        strokes = list(finishes.strokes)
        if _one_of(finishes.strokes, index) is None:
            return finishes
        moved = strokes.pop(index)
        strokes.insert(min(max(index + step, 0), len(strokes)), moved)
        return replace(finishes, strokes=tuple(strokes))

    return change_finishes(job, item_id, change)


# light


def add_light(job: Job, item_id: str, kind: str, first: Light | None = None) -> Job:
    """Add a drop shadow ("shadow"), or one of `SINGLE_LIGHTS`, which is switched on if it is there.

    `first` is the light it begins as.
    """

    def change(lights: Lights) -> Lights:
        if kind == "shadow":
            begun = first if isinstance(first, Shadow) else Shadow()
            return replace(lights, shadows=(*lights.shadows, begun))
        there = getattr(lights, kind)
        made = (first or SINGLE_LIGHTS[kind]()) if there is None else replace(there, is_on=True)
        return replace(lights, **{kind: made})

    return change_finishes(job, item_id, lambda f: replace(f, lights=change(f.lights)))


def change_light(job: Job, item_id: str, kind: str, index: int, **fields: Unpack[LightFields]) -> Job:
    """Change fields of one light; `index` counts drop shadows. Raises FinishError, also without such a light."""

    def change(lights: Lights) -> Lights:
        there: Light | None = _one_of(lights.shadows, index) if kind == "shadow" else getattr(lights, kind)
        if there is None:
            raise FinishError(find_item(job, item_id).name, "it has no such light", "add one first")
        return put_light(lights, kind, index, replace(there, **fields))

    return change_finishes(job, item_id, lambda f: replace(f, lights=change(f.lights)))


def put_light(lights: Lights, kind: str, index: int, light: Light) -> Lights:
    """Return lights with one in the place of another; `index` counts drop shadows."""
    if kind == "shadow":
        return replace(lights, shadows=_with(lights.shadows, index, light))
    return replace(lights, **{kind: light})


def remove_light(job: Job, item_id: str, kind: str, index: int) -> Job:
    """Take a light away."""

    def change(lights: Lights) -> Lights:
        if kind == "shadow":
            return replace(lights, shadows=_without(lights.shadows, index))
        return replace(lights, **{kind: None})

    return change_finishes(job, item_id, lambda f: replace(f, lights=change(f.lights)))


# mount, opacity, content, backdrop


def set_mount(job: Job, item_id: str, mount: Mount | None) -> Job:
    """Give a cutout a mount, whole, or none."""
    return change_finishes(job, item_id, lambda finishes: replace(finishes, mount=mount))


def change_mount(job: Job, item_id: str, **fields: Unpack[MountFields]) -> Job:
    """Change fields of the mount, which is made if there is none. Raises FinishError."""

    def change(finishes: Finishes) -> Finishes:
        return replace(finishes, mount=replace(finishes.mount or Mount(), **fields))

    return change_finishes(job, item_id, change)


def set_opacity(job: Job, item_ids: Iterable[str], opacity: float) -> Job:
    """Change the opacity of cutouts, 0 to 1. Raises FinishError."""
    check_number("Opacity", opacity, 0.0, 1.0)
    return change_items(job, item_ids, lambda item: replace(item, opacity=opacity))


def set_adjustments(job: Job, item_id: str, adjustments: Adjustments) -> Job:
    """Give the photo of a cutout adjustments, whole. Raises FinishError."""
    return _adjusted(job, item_id, lambda _: adjustments)


def change_adjustments(job: Job, item_id: str, **fields: Unpack[AdjustmentFields]) -> Job:
    """Change the photo adjustments of a cutout. Raises FinishError."""
    return _adjusted(job, item_id, lambda adjustments: replace(adjustments, **fields))


def _adjusted(job: Job, item_id: str, change: Callable[[Adjustments], Adjustments]) -> Job:
    def changed(item: Cutout) -> Cutout:
        content = item.content
        if not isinstance(content, PhotoContent):
            return item
        return replace(item, content=replace(content, adjustments=change(content.adjustments)))

    return change_item(job, item_id, changed)


def set_paint_content(job: Job, item_id: str, paint: Paint) -> Job:
    """Let a paint show through a cutout's shape in place of its photo."""

    def change(item: Cutout) -> Cutout:
        if item.shape is None:
            raise FinishError(item.name, "a colour, gradient or texture needs a shape", "draw one first")
        return replace(item, content=PaintContent(paint), content_placement=None)

    return change_item(job, item_id, change)


def set_backdrop(job: Job, sheet_id: str, backdrop: Backdrop | None) -> Job:
    """Lay something beneath everything on a sheet, or nothing."""
    return update_sheet(job, sheet_id, lambda sheet: replace(sheet, backdrop=backdrop))


# sets


def keep_set(job: Job, name: str, finishes: Finishes) -> Job:
    """Keep finishes under a name; one of that name is replaced. Raises FinishError for an empty name."""
    clean = " ".join(name.split())
    if not clean:
        raise FinishError("Finishes", "they need a name", "type one")
    others = tuple(s for s in job.finish_sets if s.name != clean)
    return replace(job, finish_sets=(*others, FinishSet(clean, finishes)))


def drop_set(job: Job, name: str) -> Job:
    """Forget a kept set."""
    return replace(job, finish_sets=tuple(s for s in job.finish_sets if s.name != name))


def _one_of(values: tuple[T, ...], index: int) -> T | None:
    return values[index] if index < len(values) else None


def _with(values: tuple[T, ...], index: int, value: T) -> tuple[T, ...]:
    return (*values[:index], value, *values[index + 1 :])


def _without(values: tuple[T, ...], index: int) -> tuple[T, ...]:
    return (*values[:index], *values[index + 1 :])
