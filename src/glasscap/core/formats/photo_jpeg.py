"""JPEG decoding by libjpeg-turbo; CMYK goes another way."""

from concurrent.futures import Future
from threading import Thread

import numpy as np
import simplejpeg

from glasscap.core.errors import PhotoError
from glasscap.core.raster.pixels import Bytes

_PLAIN = ("YCbCr", "RGB", "Gray")
# What is being decoded before it is asked for: the file's bytes, and the pixels to come.
_BEGUN: list[tuple[bytes, Future[Bytes]]] = []


def has_plain_colour(data: bytes) -> bool:
    """Whether the file holds grey, RGB or YCbCr (not CMYK)."""
    try:
        return simplejpeg.decode_jpeg_header(data)[2] in _PLAIN
    except ValueError:
        return False


def decode_jpeg(data: bytes, name: str, *, fraction: int = 1) -> Bytes:
    """Decode to RGBA, shape (height, width, 4), at 1/`fraction` of the size (1, 2, 4, 8).

    Raises
    ------
    PhotoError
        If the file is truncated or damaged.
    """
    try:
        if fraction == 1:
            begun = next((number for number, (known, _) in enumerate(_BEGUN) if known == data), None)
            return _whole(data) if begun is None else _BEGUN.pop(begun)[1].result()
        height, width, *_ = simplejpeg.decode_jpeg_header(data)
        return np.asarray(
            simplejpeg.decode_jpeg(
                data,
                "RGBA",
                fastdct=True,
                fastupsample=True,
                min_height=-(-height // fraction),
                min_width=-(-width // fraction),
                min_factor=1,
            )
        )
    except ValueError as error:
        raise PhotoError(name, f"the file is cut short or damaged ({error})", "fetch it anew") from error


def decode_ahead(data: bytes, pixel_limit: int) -> None:
    """Begin to decode a file of at most so many px in another thread; `decode_jpeg` of it waits for that.

    What is wrong with the file is told there.
    """
    try:
        height, width, *_ = simplejpeg.decode_jpeg_header(data)
    except ValueError:
        return
    if width * height <= pixel_limit and has_plain_colour(data):
        begun: Future[Bytes] = Future()
        _BEGUN.append((data, begun))
        # It loads no modules: two threads that do may wait for each other.
        Thread(target=_decode, args=(data, begun), name="ahead").start()


def _decode(data: bytes, begun: Future[Bytes]) -> None:
    try:
        begun.set_result(_whole(data))
    except Exception as error:  # noqa: BLE001
        # Told where the photo is asked for; who waits there would wait for ever otherwise.
        begun.set_exception(error)


def _whole(data: bytes) -> Bytes:
    return np.asarray(simplejpeg.decode_jpeg(data, "RGBA"))
