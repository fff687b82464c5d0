"""The job: frozen values that share everything an edit did not touch.

Every placement is in sheet pixels; there are no nested transforms. Items are found by a stable id. Tagged
unions (items, contents, shapes) are where later kinds join without touching what is there.
"""

from typing import Literal

from msgspec import Struct

from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.errors import JobFileError, PlacementError, ShapeError
from glasscap.core.shapes.library.table import complete_params

Keeps = Literal["inside", "outside"]
LARGEST_SIDE = 100_000


class PhotoRecord(Struct, frozen=True, forbid_unknown_fields=True):
    """What the job knows of one photograph; its bytes lie elsewhere under `sha256`.

    `width` and `height` are upright px (after the orientation tag); `link` is a path relative to the job
    file for a linked photo, None for an embedded one; `profile` is the embedded profile's name.
    """

    sha256: str
    name: str
    width: int
    height: int
    profile: str = ""
    link: str | None = None

    def __post_init__(self) -> None:
        if len(self.sha256) != 64 or any(c not in "0123456789abcdef" for c in self.sha256):
            raise JobFileError(self.name or "A photo", "its SHA-256 is not 64 hexadecimal digits")
        if not (self.width > 0 and self.height > 0):
            raise JobFileError(self.name, f"{self.width} x {self.height} px is not a picture's size")


class PhotoContent(Struct, frozen=True, tag="photo", forbid_unknown_fields=True):
    """A photograph shows through."""

    sha256: str


class ParametricShape(Struct, frozen=True, tag="parametric", forbid_unknown_fields=True):
    """A shape of the library with its numbers, and the side of it that is kept."""

    name: str
    params: tuple[tuple[str, float], ...] = ()
    keeps: Keeps = "inside"

    def __post_init__(self) -> None:
        if complete_params(self.name, self.params) != self.params:
            raise ShapeError(f"Shape {self.name!r}", "a parameter is missing or out of order")


Content = PhotoContent
Shape = ParametricShape


def library_shape(name: str, keeps: Keeps = "inside", **params: float) -> ParametricShape:
    """Return a shape of the library, defaults filled in. Raises ShapeError."""
    return ParametricShape(name, complete_params(name, params.items()), keeps)


class Cutout(Struct, frozen=True, tag="cutout", tag_field="kind", forbid_unknown_fields=True):
    """Content under a shape.

    Either may be missing: a shape that waits for a photo, or the two parts of a cutout taken apart.
    `is_masked` is the mask's switch; `keeps_covered` stops drags that would bare part of the shape.
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

    def __post_init__(self) -> None:
        if (self.content is None) != (self.content_placement is None):
            raise PlacementError(self.name, "a content and its placement go together")
        if (self.shape is None) != (self.shape_placement is None):
            raise PlacementError(self.name, "a shape and its placement go together")
        if self.content is None and self.shape is None:
            raise PlacementError(self.name, "a cutout needs a photo or a shape")
        if not 0.0 <= self.opacity <= 1.0:
            raise PlacementError(self.name, "opacity is out of range", "use 0 to 1")


Item = Cutout


class Sheet(Struct, frozen=True, forbid_unknown_fields=True):
    """A surface in pixels; items lie on it back to front."""

    id: str
    name: str
    width: int
    height: int
    resolution_ppi: float = 96.0
    items: tuple[Item, ...] = ()

    def __post_init__(self) -> None:
        for side in (self.width, self.height):
            if not 1 <= side <= LARGEST_SIDE:
                raise PlacementError(self.name, f"{side} px is no side of a sheet", f"use 1 to {LARGEST_SIDE}")
        if not 0 < self.resolution_ppi <= 100_000:
            raise PlacementError(self.name, "the resolution is out of range", "use 1 to 100000 ppi")


class Job(Struct, frozen=True, forbid_unknown_fields=True):
    """The document. `proof_colours` are colours the proofs show cutouts on, "#rrggbb"."""

    sheets: tuple[Sheet, ...]
    photos: tuple[PhotoRecord, ...] = ()
    proof_colours: tuple[str, ...] = ("#b4532c",)

    def __post_init__(self) -> None:
        if not self.sheets:
            raise JobFileError("Job", "it has no sheet")
        ids = [s.id for s in self.sheets] + [i.id for s in self.sheets for i in s.items]
        if len(set(ids)) != len(ids):
            raise JobFileError("Job", "an id is used twice")
        known = {p.sha256 for p in self.photos}
        for item in (i for s in self.sheets for i in s.items):
            if item.content is not None and item.content.sha256 not in known:
                raise JobFileError(item.name, "its photo is not listed in the job")
