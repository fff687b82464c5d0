"""Finished pictures as Python takes them on."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.raster.pixels import Picture
from glasscap.files.pictures import write_picture

if TYPE_CHECKING:
    from PIL import Image


class FinishedPicture(Struct, frozen=True, eq=False):
    """A picture with straight alpha in sRGB, and where its corner lies in the photo's or the sheet's px."""

    picture: Picture

    @property
    def array(self) -> NDArray[np.uint8]:
        """Straight RGBA, uint8 of shape (height, width, 4), read-only."""
        return self.picture.rgba

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        return self.picture.width, self.picture.height

    @property
    def corner(self) -> tuple[int, int]:
        """(x, y) of its top-left px, in output px of the photo or the sheet."""
        return self.picture.x, self.picture.y

    def to_pillow(self) -> "Image.Image":
        """Return it as a picture of the Pillow library, mode RGBA."""
        from PIL import Image

        return Image.fromarray(self.picture.rgba)

    def save(self, path: str | Path, **options: Any) -> Path:
        """Write it in the format of the path's ending; return the path.

        `options` are those of `FileOptions`: quality, background, is_lossless, ppi and others. The file is
        written whole, read again by another decoder and compared.

        Raises
        ------
        ExportError
            If no format has the ending, or the file read again differs.
        FileProblemError
            If the disk says no; nothing is left behind.
        """
        return write_picture(Path(path), self.picture, FileOptions(**options)).path
