"""Pixels in another colour space than sRGB, and the profile that says so."""

import io

import numpy as np
from PIL import Image, ImageCms

from glasscap.core.errors import ExportError
from glasscap.core.formats.colour import srgb_profile, to_srgb
from glasscap.core.formats.icc import P3_PRIMARIES, SRGB_PRIMARIES, matrix_profile, rgb_to_xyz
from glasscap.core.raster.pixels import Bytes, Levels
from glasscap.core.raster.srgb import srgb_encoded, srgb_linear

P3_NAME = "Display P3"
_BAND_ROWS = 256


def p3_profile() -> bytes:
    """Return a Display P3 profile of our own making."""
    return matrix_profile(P3_NAME, P3_PRIMARIES)


def to_p3(rgba: Levels) -> Levels:
    """Return straight sRGB pixels, uint8 or uint16 of shape (h, w, 4), in Display P3; alpha stays.

    The matrices of CSS Color 4, 10.9, by way of linear light; both spaces share curve and white.
    """
    most = float(np.iinfo(rgba.dtype).max)
    matrix = np.linalg.inv(rgb_to_xyz(P3_PRIMARIES)) @ rgb_to_xyz(SRGB_PRIMARIES)
    out = rgba.copy()
    for y0 in range(0, len(rgba), _BAND_ROWS):
        band = rgba[y0 : y0 + _BAND_ROWS, :, :3] / most
        encoded = srgb_encoded(srgb_linear(band) @ matrix.T)
        out[y0 : y0 + _BAND_ROWS, :, :3] = np.clip(encoded * most + 0.5, 0, most)
    return out


def from_srgb(rgba: Bytes, icc: bytes) -> Bytes:
    """Return straight sRGB pixels, shape (h, w, 4), in another profile's space; alpha stays.

    Raises
    ------
    ExportError
        For a profile that cannot be read, or does not describe RGB.
    """
    try:
        transform = ImageCms.buildTransform(
            srgb_profile(),
            ImageCms.ImageCmsProfile(io.BytesIO(icc)),
            "RGB",
            "RGB",
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )
        converted = ImageCms.applyTransform(Image.fromarray(np.ascontiguousarray(rgba[..., :3])), transform)
    except (OSError, ImageCms.PyCMSError, TypeError, ValueError) as error:
        raise ExportError("Profile", "the photo's profile cannot be written into", "choose sRGB") from error
    out = rgba.copy()
    out[..., :3] = np.asarray(converted)
    # Fully transparent pixels keep their zeros, whatever black is in that space.
    out[rgba[..., 3] == 0] = rgba[rgba[..., 3] == 0]
    return out


def to_shown(rgba: Bytes, icc: bytes) -> Bytes:
    """Return straight pixels of a profile's space in sRGB, for the screen; empty: they are that already."""
    if not icc:
        return rgba
    out = rgba.copy()
    image = Image.fromarray(np.ascontiguousarray(rgba[..., :3]))
    out[..., :3] = np.asarray(to_srgb(image, icc))
    return out


def photo_icc(data: bytes) -> bytes:
    """Return the profile embedded in a photo, empty for none."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            icc = image.info.get("icc_profile", b"")
    except (OSError, ValueError, SyntaxError):
        return b""
    return icc if isinstance(icc, bytes) else b""
