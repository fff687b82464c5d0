"""The backdrop of a sheet: a paint, or a photo that covers it."""

from msgspec import Struct

from glasscap.core.document.model.paint import ColourPaint, GradientPaint, TexturePaint, check_number


class PhotoBackdrop(Struct, frozen=True, tag="photo", tag_field="paint", forbid_unknown_fields=True):
    """A photo that covers the sheet, `zoom` times as large as it need be, blurred (radius in sheet px)."""

    sha256: str
    blur: float = 0.0
    zoom: float = 1.0

    def __post_init__(self) -> None:
        check_number("Backdrop blur", self.blur, 0.0, 100_000.0)
        check_number("Backdrop zoom", self.zoom, 1.0, 100.0)


Backdrop = ColourPaint | GradientPaint | TexturePaint | PhotoBackdrop
