"""Outputs, the rows of the export list: each a picture of a cutout or a sheet in one file format."""

import math
from typing import Literal

from msgspec import Struct

from glasscap.core.document.model.paint import ColourPaint, Paint, check_number
from glasscap.core.document.model.proofs import VideoCorner
from glasscap.core.errors import ExportError

FormatName = Literal["png", "indexed", "webp", "avif", "tiff", "jpeg", "svg", "pdf", "ora"]
Profile = Literal["srgb", "p3", "photo"]
OutputCrop = Literal["visible", "shape", "square", "centred", "sheet", "bleed"]
Stage = Literal["alone", "corner", "behind"]
SizeKind = Literal["scale", "width", "height", "longest", "box"]

CROPS: tuple[OutputCrop, ...] = ("visible", "shape", "square", "centred", "sheet", "bleed")
PROFILES: tuple[Profile, ...] = ("srgb", "p3", "photo")
LARGEST_OUTPUT_SIDE = 40_000


class FileOptions(Struct, frozen=True, forbid_unknown_fields=True):
    """Options of a written file; each format reads those that concern it.

    `colours` (2 to 256) and `dither` (0 to 1) are those of an indexed picture, `quality` (1 to 100) that of
    lossy ones; `background` is what JPEG lays beneath; `bits` 8 or 16 a channel. `ppi` is stored where given.
    """

    format: FormatName = "png"
    is_small: bool = False
    bits: int = 8
    colours: int = 256
    dither: float = 0.5
    quality: int = 85
    is_lossless: bool = False
    is_premultiplied: bool = False
    profile: Profile = "srgb"
    background: str = "#ffffff"
    ppi: float | None = None
    keeps_metadata: bool = False
    has_live_letters: bool = False

    def __post_init__(self) -> None:
        if self.bits not in (8, 16):
            raise ExportError("Bits", f"{self.bits} a channel cannot be written", "use 8 or 16")
        if not 2 <= self.colours <= 256:
            raise ExportError("Colours", f"{self.colours} is out of range", "use 2 to 256")
        if not 1 <= self.quality <= 100:
            raise ExportError("Quality", f"{self.quality} is out of range", "use 1 to 100")
        check_number("Dither", self.dither, 0.0, 1.0)
        ColourPaint(self.background)
        if self.ppi is not None and not (math.isfinite(self.ppi) and 0 < self.ppi <= 100_000):
            raise ExportError("Resolution", f"{self.ppi} ppi is out of range", "use 1 to 100000")


class OutputSize(Struct, frozen=True, forbid_unknown_fields=True):
    """The size of an output: a scale, or px of the width, the height, the longest side, or a padded box."""

    kind: SizeKind = "scale"
    scale: float = 1.0
    width: int = 0
    height: int = 0

    def __post_init__(self) -> None:
        if not (math.isfinite(self.scale) and 0 < self.scale <= 1000):
            raise ExportError("Scale", f"{self.scale} is out of range", "use for example 2")
        wanted = {"scale": (), "width": (self.width,), "height": (self.height,)}
        sides = wanted.get(self.kind, (self.width, self.height) if self.kind == "box" else (self.width,))
        for side in sides:
            if not 1 <= side <= LARGEST_OUTPUT_SIDE:
                raise ExportError("Size", f"{side} px is out of range", f"use 1 to {LARGEST_OUTPUT_SIDE}")

    @property
    def label(self) -> str:
        """The size in words."""
        words = {
            "scale": f"{self.scale:g}×",
            "width": f"{self.width} px wide",
            "height": f"{self.height} px high",
            "longest": f"{self.width} px",
        }
        return words.get(self.kind, f"{self.width} × {self.height} px")


class NamedSize(Struct, frozen=True, forbid_unknown_fields=True):
    """A size under a name of the designer's."""

    name: str
    size: OutputSize


# Sizes by use; common practice, no source.
NAMED_SIZES = (
    *(
        NamedSize(f"Icon {side}", OutputSize("box", width=side, height=side))
        for side in (16, 32, 64, 128, 256, 512)
    ),
    NamedSize("Avatar", OutputSize("box", width=400, height=400)),
    NamedSize("Thumbnail", OutputSize("longest", width=320)),
    NamedSize("Corner logo", OutputSize("longest", width=240)),
)


class Output(Struct, frozen=True, forbid_unknown_fields=True):
    """One row: what (the id of a cutout or a sheet), how large, how cropped, and how it is written.

    `margin` is px at 1x around the crop; `carry` px of colour run on into transparent pixels; `name` is a
    pattern of words in braces; `folder` is relative to the list's folder, or absolute. `stage` is where the
    picture stands: alone, in the corner of a video's frame, or (its photo enlarged and blurred) behind it;
    the frame is the size's box. `version` names the version of it that is meant, "" the one shown.
    """

    id: str
    item_id: str
    size: OutputSize = OutputSize()
    crop: OutputCrop = "visible"
    margin: float = 0.0
    background: Paint | None = None
    carry: int = 0
    name: str = "{name}{@scale}"
    folder: str = ""
    file: FileOptions = FileOptions()
    stage: Stage = "alone"
    corner: VideoCorner = VideoCorner()
    version: str = ""

    def __post_init__(self) -> None:
        if self.stage != "alone" and self.size.kind != "box":
            raise ExportError("Video frame", "its size is not stated", "give it a width and a height")
        check_number("Margin", self.margin, 0.0, 20_000.0)
        if not 0 <= self.carry <= 256:
            raise ExportError("Colour carried", f"{self.carry} px is out of range", "use 0 to 256")
