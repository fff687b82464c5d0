"""Formats the picture library writes: WebP, AVIF, JPEG."""

import io
from typing import Any

import numpy as np
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.document.model.paint import rgba_of
from glasscap.core.errors import ExportError
from glasscap.core.formats import avif_process
from glasscap.core.formats.metadata import with_density
from glasscap.core.formats.row_bands import bands
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.own_process import GaveUpError

# The largest side the formats themselves allow.
_WEBP_SIDE, _JPEG_SIDE = 16_383, 65_500
_AVIF_THREADS = 4
# The mean of a JPEG's block is stored times eight: in steps of seven it is right to under half a level.
_COARSEST_MEAN = 7


def write_webp(rgba: Bytes, options: FileOptions, tags: Tags) -> bytes:
    """Encode as WebP: lossless with every colour kept, or lossy with alpha untouched."""
    _check_side("WebP", rgba, _WEBP_SIDE)
    effort = 6 if options.is_small else 4
    if options.is_lossless:
        return _saved(rgba, tags, "WEBP", lossless=True, exact=True, quality=60, method=effort)
    return _saved(rgba, tags, "WEBP", quality=options.quality, alpha_quality=100, method=effort)


def write_avif(rgba: Bytes, options: FileOptions, tags: Tags) -> bytes:
    """Encode as AVIF; alpha is lossless, for a rim of its errors would be seen."""
    how: dict[str, Any] = {
        "quality": 100 if options.is_lossless else options.quality,
        "subsampling": "4:4:4",
        "speed": 4 if options.is_small else 6,
        # Tiles and threads change what comes out: the same on every machine, however many processors it has.
        "autotiling": False,
        "tile_rows": 1,
        "tile_cols": 1,
        "max_threads": _AVIF_THREADS,
        "advanced": {"a:lossless": "1"},
    }
    if rgba.shape[0] * rgba.shape[1] <= avif_process.LARGE_PX:
        return _saved(rgba, tags, "AVIF", **how)
    extra = {key: value for key, value in (("icc_profile", tags.icc), ("exif", tags.exif)) if value}
    try:
        return avif_process.encode(rgba, how, extra)
    except GaveUpError as error:
        raise ExportError("AVIF", f"the picture cannot be encoded ({error})", "choose another format") from error


def write_jpeg(rgba: Bytes, options: FileOptions, tags: Tags) -> bytes:
    """Encode as JPEG over a colour; flat corners are exactly that colour.

    Colour has full resolution, and the mean of a block at least a seventh of a level (times eight) of
    precision; a colour that luma and chroma of eight bits cannot name is written as red, green and blue.
    """
    _check_side("JPEG", rgba, _JPEG_SIDE)
    how: dict[str, Any] = {
        "qtables": _fine_means(options.quality),
        "subsampling": "4:4:4",
        "optimize": options.is_small,
    }
    if not _is_exact(options.background, how):
        how["keep_rgb"] = True
        # The header that names a density says luma and chroma, too: here EXIF has to name it.
        if tags.ppi is not None:
            tags = replace(tags, ppi=None, exif=with_density(tags.exif, tags.ppi))
    return _saved(over_colour(rgba, options.background), tags, "JPEG", **how)


def _fine_means(quality: int) -> list[list[int]]:
    """Return the library's quantisation tables of a quality with the means of blocks kept fine."""
    with Image.open(io.BytesIO(_saved(np.zeros((8, 8, 3), np.uint8), Tags(), "JPEG", quality=quality))) as image:
        tables: dict[int, list[int]] = image.quantization  # type: ignore[attr-defined]
    return [[min(table[0], _COARSEST_MEAN), *table[1:]] for table in tables.values()]


def _is_exact(colour: str, how: dict[str, Any]) -> bool:
    """Whether a flat picture of a colour comes back as it is."""
    flat = np.full((16, 16, 3), rgba_of(colour)[:3], np.uint8)
    with Image.open(io.BytesIO(_saved(flat, Tags(), "JPEG", **how))) as image:
        return bool(np.array_equal(np.asarray(image), flat))


def over_colour(rgba: Bytes, colour: str) -> Bytes:
    """Return straight pixels laid over an opaque colour, uint8 of shape (h, w, 3), round half up."""
    beneath = np.array(rgba_of(colour)[:3], np.uint32)
    out = np.empty((*rgba.shape[:2], 3), np.uint8)
    for rows in bands(*rgba.shape[:2]):
        alpha = rgba[rows, :, 3:].astype(np.uint32)
        out[rows] = (rgba[rows, :, :3] * alpha + beneath * (255 - alpha) + 127) // 255
    return out


def _check_side(name: str, rgba: Bytes, most: int) -> None:
    side = max(rgba.shape[:2])
    if side > most:
        raise ExportError(name, f"it cannot hold {side} px on a side", f"write PNG, or at most {most} px")


def _saved(pixels: Bytes, tags: Tags, kind: str, **how: Any) -> bytes:
    out = io.BytesIO()
    extra = {
        key: value for key, value in (("icc_profile", tags.icc), ("exif", tags.exif), ("dpi", tags.dpi)) if value
    }
    try:
        Image.fromarray(np.ascontiguousarray(pixels)).save(out, kind, **how, **extra)
    except (OSError, ValueError) as error:
        raise ExportError(kind, f"the picture cannot be encoded ({error})", "choose another format") from error
    return out.getvalue()
