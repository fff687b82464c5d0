"""The job: frozen values that share everything an edit did not touch.

Every placement is in sheet pixels; there are no nested transforms. Items are found by a stable id. Tagged
unions (items, contents, shapes) are where later kinds join without touching what is there.
"""

from collections.abc import Iterable, Iterator, Sequence

from msgspec import Struct

from glasscap.core.document.model.backdrop import Backdrop, PhotoBackdrop
from glasscap.core.document.model.finishes import AS_SHOT, NO_FINISHES, Adjustments, Finishes
from glasscap.core.document.model.mockups import Mockup, OwnPlace
from glasscap.core.document.model.outputs import NamedSize, Output
from glasscap.core.document.model.paint import ColourPaint, Paint, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.proofs import ProofSettings
from glasscap.core.errors import JobFileError, PlacementError
from glasscap.core.shapes.kinds import Shape

LARGEST_SIDE = 100_000
# How many groups may lie in one another.
DEEPEST_GROUP = 64


class PhotoRecord(Struct, frozen=True, forbid_unknown_fields=True):
    """The job's record of one photograph; its bytes lie elsewhere under `sha256`.

    `width` and `height` are upright px (after the orientation tag); `link` is a path relative to the job
    file for a linked photo, None for an embedded one; `profile` is the embedded profile's name.
    """

    sha256: str
    name: str
    width: int
    height: int
    profile: str = ""
    link: str | None = None

    @property
    def is_drawing(self) -> bool:
        """Whether it is artwork, drawn anew at every output resolution."""
        return self.name.lower().endswith(".svg")

    def __post_init__(self) -> None:
        if len(self.sha256) != 64 or any(c not in "0123456789abcdef" for c in self.sha256):
            raise JobFileError(self.name or "A photo", "its SHA-256 is not 64 hexadecimal digits")
        if not (self.width > 0 and self.height > 0):
            raise JobFileError(self.name, f"{self.width} x {self.height} px is not a picture's size")


class PhotoContent(Struct, frozen=True, tag="photo", forbid_unknown_fields=True):
    """A photograph, or artwork (an SVG drawing), shows through."""

    sha256: str
    adjustments: Adjustments = AS_SHOT


class PaintContent(Struct, frozen=True, tag="paint", forbid_unknown_fields=True):
    """A colour, gradient or texture shows through; it has no placement and covers any shape."""

    paint: Paint = ColourPaint()


class GroupContent(Struct, frozen=True, tag="group", forbid_unknown_fields=True):
    """Cutouts and groups held together, back to front, show through as one."""

    items: "tuple[Cutout, ...]"

    def __post_init__(self) -> None:
        if not self.items:
            raise PlacementError("A group", "there is nothing in it", "put at least one cutout into it")


Content = PhotoContent | PaintContent | GroupContent


class Version(Struct, frozen=True, forbid_unknown_fields=True):
    """An alternative under a name; `item` is None for the one that is shown."""

    name: str
    item: "Cutout | None" = None


class Cutout(Struct, frozen=True, tag="cutout", tag_field="kind", forbid_unknown_fields=True):
    """Content under a shape; a group is a cutout whose content is other cutouts.

    Either may be missing: a shape that waits for a photo, or the two parts of a cutout taken apart.
    `is_masked` is the mask's switch; `keeps_covered` stops drags that would bare part of the shape. Cutouts
    with the same `shape_link` share one shape: what changes it in one changes it in all. `versions` are its
    alternatives in their order, the one shown among them.
    """

    id: str
    name: str
    content: Content | None = None
    content_placement: ContentPlacement | None = None
    shape: Shape | None = None
    shape_placement: ShapePlacement | None = None
    is_masked: bool = True
    is_hidden: bool = False
    is_locked: bool = False
    keeps_covered: bool = False
    opacity: float = 1.0
    finishes: Finishes = NO_FINISHES
    shape_link: str = ""
    versions: tuple[Version, ...] = ()

    @property
    def items(self) -> "tuple[Cutout, ...]":
        """The items of a group, back to front; none for any other cutout."""
        return self.content.items if isinstance(self.content, GroupContent) else ()

    @property
    def is_group(self) -> bool:
        """Whether other cutouts show through it."""
        return isinstance(self.content, GroupContent)

    def __post_init__(self) -> None:
        if isinstance(self.content, PhotoContent) != (self.content_placement is not None):
            raise PlacementError(self.name, "a photo and its placement go together")
        if isinstance(self.content, PaintContent) and self.shape is None:
            raise PlacementError(self.name, "a colour, gradient or texture needs a shape")
        if (self.shape is None) != (self.shape_placement is None):
            raise PlacementError(self.name, "a shape and its placement go together")
        if self.content is None and self.shape is None:
            raise PlacementError(self.name, "a cutout needs a photo or a shape")
        if not 0.0 <= self.opacity <= 1.0:
            raise PlacementError(self.name, "opacity is out of range", "use 0 to 1")
        check_versions(self.name, [(v.name, v.item is None) for v in self.versions])


def check_versions(name: str, versions: Sequence[tuple[str, bool]]) -> None:
    """Raise PlacementError unless names are one of a kind and just one version is the shown one."""
    if versions and (sum(is_shown for _, is_shown in versions) != 1 or len(dict(versions)) != len(versions)):
        raise PlacementError(name, "its versions are muddled", "open a copy of the job")


Item = Cutout


def walk(items: Iterable[Item]) -> Iterator[Item]:
    """Yield items back to front, each before what it holds."""
    for item in items:
        yield item
        yield from walk(item.items)


def depth_of(items: Iterable[Item]) -> int:
    """Return how many groups lie in one another at most, 0 for none."""
    return max((1 + depth_of(i.items) for i in items if i.is_group), default=0)


class SheetVersion(Struct, frozen=True, forbid_unknown_fields=True):
    """An alternative of a whole sheet under a name; `items` is None for the one that is shown."""

    name: str
    items: tuple[Item, ...] | None = None
    backdrop: Backdrop | None = None


class Sheet(Struct, frozen=True, forbid_unknown_fields=True):
    """A surface in pixels; items lie on it back to front.

    `bleed` px around it are printed and cut away; `versions` are alternatives of what lies on it.
    """

    id: str
    name: str
    width: int
    height: int
    resolution_ppi: float = 96.0
    items: tuple[Item, ...] = ()
    backdrop: Backdrop | None = None
    bleed: int = 0
    versions: tuple[SheetVersion, ...] = ()

    def __post_init__(self) -> None:
        if not 0 <= self.bleed <= LARGEST_SIDE:
            raise PlacementError(self.name, f"{self.bleed} px is no bleed", "use 0 or more")
        check_versions(self.name, [(v.name, v.items is None) for v in self.versions])
        for side in (self.width, self.height):
            if not 1 <= side <= LARGEST_SIDE:
                raise PlacementError(self.name, f"{side} px is no side of a sheet", f"use 1 to {LARGEST_SIDE}")
        if not 0 < self.resolution_ppi <= 100_000:
            raise PlacementError(self.name, "the resolution is out of range", "use 1 to 100000 ppi")


class FinishSet(Struct, frozen=True, forbid_unknown_fields=True):
    """Finishes kept under a name."""

    name: str
    finishes: Finishes


class Job(Struct, frozen=True, forbid_unknown_fields=True):
    """The document. `proof_colours` are colours the proofs show cutouts on, "#rrggbb".

    `outputs` are the rows of the export list, `sizes` named sizes of the designer's own, `proofs` what else
    the proofs show, `mockups` where the work is shown to a client.
    """

    sheets: tuple[Sheet, ...]
    photos: tuple[PhotoRecord, ...] = ()
    proof_colours: tuple[str, ...] = ("#b4532c",)
    finish_sets: tuple[FinishSet, ...] = ()
    outputs: tuple[Output, ...] = ()
    sizes: tuple[NamedSize, ...] = ()
    proofs: ProofSettings = ProofSettings()
    mockups: tuple[Mockup, ...] = ()

    def __post_init__(self) -> None:
        if not self.sheets:
            raise JobFileError("Job", "it has no sheet")
        ids = [s.id for s in self.sheets] + [i.id for s in self.sheets for i in walk(s.items)]
        if len(set(ids)) != len(ids):
            raise JobFileError("Job", "an id is used twice")
        if any(depth_of(s.items) > DEEPEST_GROUP for s in self.sheets):
            raise JobFileError("Job", f"more than {DEEPEST_GROUP} groups lie in one another")
        if len({o.id for o in self.outputs}) != len(self.outputs):
            raise JobFileError("Job", "two rows of its export list have one id")
        if len({m.id for m in self.mockups}) != len(self.mockups):
            raise JobFileError("Job", "two of its mock-ups have one id")
        known = {p.sha256 for p in self.photos}
        for name, sha256 in pictures_of(self):
            if sha256 not in known:
                raise JobFileError(name, "its photo is not listed in the job")


def pictures_of(job: Job) -> Iterator[tuple[str, str]]:
    """Yield (name of the user, SHA-256) of every picture a job shows or proofs on."""
    yield from pictures_used(job.sheets, job.finish_sets)
    for backdrop in job.proofs.backgrounds:
        yield from (("A proof", key) for key in backdrop_pictures(backdrop))
    for mockup in job.mockups:
        if isinstance(mockup.place, OwnPlace):
            yield mockup.name, mockup.place.sha256
    for output in job.outputs:
        yield from (("The export list", key) for key in backdrop_pictures(output.background))


def backdrop_pictures(backdrop: Backdrop | None) -> Iterator[str]:
    """Yield the SHA-256 of the picture a backdrop uses, if it uses one."""
    if isinstance(backdrop, PhotoBackdrop):
        yield backdrop.sha256
    else:
        yield from _own_texture(backdrop)


def pictures_used(sheets: Iterable[Sheet], sets: Iterable[FinishSet] = ()) -> Iterator[tuple[str, str]]:
    """Yield (name of the user, SHA-256) of every picture shown: photos, masks, textures of the designer's own."""
    for sheet in sheets:
        yield from ((sheet.name, key) for key in backdrop_pictures(sheet.backdrop))
        for version in sheet.versions:
            yield from ((sheet.name, key) for key in backdrop_pictures(version.backdrop))
            yield from _item_pictures(version.items or ())
        yield from _item_pictures(sheet.items)
    for kept in sets:
        yield from ((kept.name, key) for key in _finish_pictures(kept.finishes))


def _item_pictures(items: Iterable[Item]) -> Iterator[tuple[str, str]]:
    for item in walk(items):
        if isinstance(item.content, PhotoContent):
            yield item.name, item.content.sha256
        yield from ((item.name, key) for key in finish_pictures(item))
        yield from _item_pictures(v.item for v in item.versions if v.item is not None)


def _own_texture(paint: Paint | None) -> Iterator[str]:
    if isinstance(paint, TexturePaint) and paint.is_own:
        yield paint.texture


def finish_pictures(cutout: Cutout) -> Iterator[str]:
    """Yield the SHA-256 of the pictures a cutout's paints and finishes use."""
    if isinstance(cutout.content, PaintContent):
        yield from _own_texture(cutout.content.paint)
    yield from _finish_pictures(cutout.finishes)


def _finish_pictures(finishes: Finishes) -> Iterator[str]:
    if finishes.edge.mask is not None:
        yield finishes.edge.mask.sha256
    for stroke in finishes.strokes:
        yield from _own_texture(stroke.paint)
    mount = finishes.mount
    if mount is not None:
        yield from _own_texture(mount.paint)
        yield from _own_texture(None if mount.stroke is None else mount.stroke.paint)
