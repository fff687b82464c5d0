"""Tags of a picture file: profile, density, metadata."""

from msgspec import Struct


class Tags(Struct, frozen=True):
    """`icc` is the profile's bytes, empty for sRGB; `ppi` px an inch; `exif` what was asked to be kept."""

    icc: bytes = b""
    ppi: float | None = None
    exif: bytes = b""

    @property
    def dpi(self) -> tuple[float, float] | None:
        """The density as the picture library takes it."""
        return None if self.ppi is None else (self.ppi, self.ppi)
