"""TIFF of 16 bits a channel, read as TIFF 6.0 describes it, however they lie in the file.

The TIFF library reads most; what is packed in a way it does not know (LZW) is read by the vision library, which
knows no more than grey and colours side by side.
"""

import io
import logging
from importlib import import_module
from typing import Any

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.errors import PhotoError
from glasscap.core.formats.photo_deep import to_8_bit
from glasscap.core.formats.row_bands import bands
from glasscap.core.raster.pixels import Bytes

Deep = NDArray[np.uint16]
_SIGNATURES = (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+")
# TIFF 6.0: PhotometricInterpretation, PlanarConfiguration, ExtraSamples, SampleFormat.
_MIN_IS_WHITE, _MIN_IS_BLACK, _RGB, _CMYK = 0, 1, 2, 5
_CONTIGUOUS, _ASSOCIATED, _UNASSOCIATED, _UNSIGNED = 1, 1, 2, 1
_CHANNELS = {_MIN_IS_WHITE: 1, _MIN_IS_BLACK: 1, _RGB: 3, _CMYK: 4}
_MOST = 65535
_ICC, _ORIENTATION = 34675, 274


class DeepTiff(Struct, frozen=True, eq=False):
    """What a deep TIFF says of itself; `page` is the library's."""

    width: int
    height: int
    orientation: int
    icc: bytes | None
    photometric: int
    is_apart: bool
    extra_samples: tuple[int, ...]
    page: Any

    @property
    def mode(self) -> str:
        """The name of its colours in headers."""
        return {_RGB: "RGB", _CMYK: "CMYK"}.get(self.photometric, "L")


def read_deep_tiff(data: bytes) -> DeepTiff | None:
    """Return what a TIFF of 16 bits a channel says of itself; None for anything else, and for a damaged one."""
    if not data.startswith(_SIGNATURES):
        return None
    # What the library makes of damage is said by the error alone.
    logging.getLogger("tifffile").setLevel(logging.CRITICAL)
    try:
        page = import_module("tifffile").TiffFile(io.BytesIO(data)).pages[0]
        photometric, tags = int(page.photometric), page.tags
        is_known = photometric in _CHANNELS and int(page.sampleformat) == _UNSIGNED
        if page.bitspersample != 16 or not is_known:
            return None
        icc, orientation = tags.valueof(_ICC), tags.valueof(_ORIENTATION, default=1)
        return DeepTiff(
            int(page.imagewidth),
            int(page.imagelength),
            orientation if isinstance(orientation, int) and 1 <= orientation <= 8 else 1,
            icc if isinstance(icc, bytes) and icc else None,
            photometric,
            int(page.planarconfig) != _CONTIGUOUS,
            tuple(int(kind) for kind in page.extrasamples),
            page,
        )
    except Exception:  # noqa: BLE001
        # The library raises whatever a damaged directory leads to.
        return None


def decode_deep_tiff(data: bytes, name: str) -> tuple[Bytes, Bytes | None]:
    """Decode to eight bits: RGBA, or CMYK and its alpha; each of shape (height, width, 4) and (height, width).

    Raises PhotoError for what is damaged, or packed in a way that is not known.
    """
    found = read_deep_tiff(data)
    if found is None:
        raise PhotoError(name, "it holds numbers of another kind", "save it with 8 or 16 bits per channel")
    pixels = _pixels(data, found, name)
    count = _CHANNELS[found.photometric]
    height, width = found.height, found.width
    if pixels.ndim != 3 or pixels.shape[2] < count or pixels.shape[:2] != (height, width):
        raise PhotoError(name, "the file is cut short or damaged", "fetch it anew")
    out = np.full((height, width, 4), 255, np.uint8)
    own_alpha = np.empty((height, width), np.uint8) if found.photometric == _CMYK else out[..., 3]
    has_alpha = False
    for rows in bands(height, width):
        colours, alpha = _read(pixels[rows], found, count)
        out[rows, :, : max(3, count)] = to_8_bit(colours)
        if alpha is not None:
            own_alpha[rows], has_alpha = to_8_bit(alpha), True
    return out, own_alpha if has_alpha and found.photometric == _CMYK else None


def _read(pixels: Deep, found: DeepTiff, count: int) -> tuple[Deep, Deep | None]:
    """Return straight colours and alpha, None for none, of some rows of all channels."""
    colours = pixels[..., :count]
    if found.photometric == _MIN_IS_WHITE:
        colours = _MOST - colours
    kinds = found.extra_samples
    if kinds[:1] not in ((_ASSOCIATED,), (_UNASSOCIATED,)) or pixels.shape[2] <= count:
        return colours, None
    alpha = pixels[..., count]
    return _straight(colours, alpha) if kinds[0] == _ASSOCIATED else colours, alpha


def _straight(colours: Deep, alpha: Deep) -> Deep:
    """Return premultiplied colours divided by their alpha, to the nearest level."""
    share = alpha[..., None].astype(np.uint64)
    divided = (colours.astype(np.uint64) * _MOST + share // 2) // np.maximum(share, 1)
    return np.where(share > 0, np.minimum(divided, _MOST), 0).astype(np.uint16)


def _pixels(data: bytes, found: DeepTiff, name: str) -> Deep:
    """Return all channels side by side, shape (h, w, n)."""
    try:
        pixels = np.asarray(found.page.asarray(), np.uint16)
    except Exception as error:
        # See above; a packing that it does not know is told by a ValueError.
        other = None if found.is_apart or found.photometric == _CMYK else _by_opencv(data)
        if other is None:
            remedy = "save it uncompressed, or with ZIP compression"
            raise PhotoError(name, f"it cannot be unpacked ({error})", remedy) from error
        return other
    if pixels.ndim == 2:
        return pixels[..., None]
    return np.moveaxis(pixels, 0, -1) if found.is_apart else pixels


def _by_opencv(data: bytes) -> Deep | None:
    try:
        found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED | cv2.IMREAD_IGNORE_ORIENTATION)
    except cv2.error:
        return None
    if found is None or found.dtype != np.uint16:
        return None
    if found.ndim == 2:
        return np.asarray(found[..., None], np.uint16)
    order = [2, 1, 0, *range(3, found.shape[2])]
    return np.asarray(found[..., order] if found.shape[2] >= 3 else found, np.uint16)
