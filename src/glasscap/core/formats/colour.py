"""Colour management of photos: any embedded profile to sRGB, by LittleCMS.

Relative colorimetric with black-point compensation, as print and web designers expect of a photo.
"""

import io
from functools import lru_cache

import numpy as np
from PIL import Image, ImageCms

# Below this many levels of difference on a test grid a profile *is* sRGB, and the bytes stay untouched.
_SAME_LEVELS = 1


class BrokenProfileError(ValueError):
    """An embedded profile cannot be used."""


@lru_cache(maxsize=1)
def srgb_profile() -> ImageCms.ImageCmsProfile:
    """Return the sRGB profile (IEC 61966-2-1)."""
    return ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))


def profile_name(icc: bytes) -> str:
    """Return the description in an ICC profile, or "unnamed profile"."""
    try:
        name = ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(icc)))
    except (OSError, ImageCms.PyCMSError, TypeError, ValueError):
        return "broken profile"
    return " ".join(name.replace("\0", " ").split()) or "unnamed profile"


def to_srgb(image: Image.Image, icc: bytes) -> Image.Image:
    """Convert a picture of mode L, RGB or CMYK from its profile to sRGB, mode RGB.

    Returns `image` itself where its profile is sRGB already.

    Raises
    ------
    BrokenProfileError
        For a profile that cannot be read or is for other channels than the picture's.
    """
    try:
        transform = ImageCms.buildTransform(
            ImageCms.ImageCmsProfile(io.BytesIO(icc)),
            srgb_profile(),
            image.mode,
            "RGB",
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )
        if image.mode == "RGB" and _changes_nothing(transform):
            return image
        converted = ImageCms.applyTransform(image, transform)
    except (OSError, ImageCms.PyCMSError, TypeError, ValueError) as error:
        raise BrokenProfileError(str(error)) from error
    assert converted is not None
    return converted


def _changes_nothing(transform: ImageCms.ImageCmsTransform) -> bool:
    steps = np.linspace(0, 255, 9).round().astype(np.uint8)
    grid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(27, 27, 3)
    changed = ImageCms.applyTransform(Image.fromarray(grid), transform)
    return int(np.abs(np.asarray(changed).astype(int) - grid).max()) <= _SAME_LEVELS
