"""Photos as they come in Python: a path, a file's bytes, an array, a picture of the Pillow library."""

import io
from pathlib import Path
from typing import TYPE_CHECKING, Any, Union

import numpy as np
from numpy.typing import NDArray

from glasscap.core.errors import CallError
from glasscap.core.formats.png import write_png
from glasscap.files.atomic import read_bytes

if TYPE_CHECKING:
    from PIL import Image

Photo = Union[str, Path, bytes, NDArray[np.uint8], "Image.Image"]
_KINDS = "a path, the bytes of a picture file, a uint8 array of shape (height, width, 3 or 4), or a Pillow image"


def bytes_of(photo: Photo) -> tuple[bytes, str]:
    """Return a photo as a picture file's bytes, and a name for it.

    Raises
    ------
    CallError
        For what is no photo.
    FileProblemError
        If a path cannot be read.
    """
    if isinstance(photo, (str, Path)):
        path = Path(photo)
        return read_bytes(path), path.name
    if isinstance(photo, (bytes, bytearray, memoryview)):
        return bytes(photo), "photo"
    if isinstance(photo, np.ndarray):
        return write_png(_rgba(photo)), "array.png"
    if hasattr(photo, "save") and hasattr(photo, "mode"):
        return _png(photo), "picture.png"
    raise CallError("photo", f"a {type(photo).__name__} is no photo", f"give {_KINDS}")


def _rgba(array: NDArray[Any]) -> NDArray[np.uint8]:
    is_fine = array.dtype == np.uint8 and array.ndim == 3 and array.shape[2] in (3, 4) and array.size > 0
    if not is_fine:
        what = f"an array of {array.dtype} of shape {array.shape}"
        raise CallError("photo", f"{what} is no photo", f"give {_KINDS}")
    if array.shape[2] == 4:
        return np.ascontiguousarray(array)
    return np.dstack((array, np.full(array.shape[:2], 255, np.uint8)))


def _png(picture: Any) -> bytes:
    out = io.BytesIO()
    icc = picture.info.get("icc_profile")
    try:
        whole = picture if picture.mode in ("RGB", "RGBA", "L", "LA", "I;16") else picture.convert("RGBA")
    except ValueError as error:
        why = f"a picture of mode {picture.mode} is no photo"
        raise CallError("photo", why, "convert it to RGB or RGBA") from error
    whole.save(out, "PNG", compress_level=1, **({"icc_profile": icc} if icc and whole is picture else {}))
    return out.getvalue()
