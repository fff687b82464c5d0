"""A mask turned into curves: its level line, fitted clean."""

from typing import Literal

import contourpy
import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.fit import fit_ways
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.types import Affine

_LEVEL = 127.5
MOST_POINTS = 500_000
# A photo is traced at no more px than this.
_MOST_PX = 2_000_000
# Grain of a photo, smoothness of its outline, and the least spot that is taken, px, px, px^2 and a share.
_GRAIN, _SMOOTHNESS, _SPOT, _SPOT_SHARE = 1.6, 1.2, 24.0, 1e-4

Bytes = NDArray[np.uint8]
PhotoPart = Literal["transparency", "dark", "light"]


def trace_photo(rgba: Bytes, part: PhotoPart) -> Outline:
    """Return the outline of a part of a photo, shape (h, w, 4), in its px.

    What is not transparent, darker, or lighter than the middle grey. Raises ShapeError as `trace_mask` does.
    """
    height, width = rgba.shape[:2]
    scale = min(1.0, (_MOST_PX / (width * height)) ** 0.5)
    small = rgba
    if scale < 1.0:
        size = (max(1, round(width * scale)), max(1, round(height * scale)))
        small = np.asarray(cv2.resize(rgba, size, interpolation=cv2.INTER_AREA), np.uint8)
    mask = _mask(small, part)
    if part != "transparency":
        # Grain is no shape: without it the line is as long as what is seen.
        mask = np.asarray(cv2.GaussianBlur(mask, (0, 0), _GRAIN), np.uint8)
    spot = max(_SPOT, mask.size * _SPOT_SHARE)
    outline = trace_mask(mask, smoothness=_SMOOTHNESS, smallest=spot)
    return outline.transformed(Affine.scaling(width / small.shape[1], height / small.shape[0]))


def _mask(rgba: Bytes, part: PhotoPart) -> Bytes:
    if part == "transparency":
        return rgba[..., 3]
    grey = np.asarray(cv2.cvtColor(rgba, cv2.COLOR_RGBA2GRAY), np.uint8)
    return 255 - grey if part == "dark" else grey


def trace_mask(mask: Bytes, *, smoothness: float = 1.0, smallest: float = 24.0) -> Outline:
    """Return the outline of what is above half in a mask.

    Parameters
    ----------
    mask : uint8 array, shape (h, w)
    smoothness : float
        Largest distance of the curve from the mask's own half-level line, px.
    smallest : float
        Area below which a spot or a hole is left out, px squared.

    Returns
    -------
    Outline
        In px, pixel (row y, column x) being the square [x, x + 1) x [y, y + 1).

    Raises
    ------
    ShapeError
        For a mask with nothing in it, or with too many points.
    """
    kept = level_lines(mask, smallest=smallest)
    if not kept:
        raise ShapeError("Mask", "there is nothing in it", "choose a picture with transparent or dark parts")
    if sum(len(line) for line in kept) > MOST_POINTS:
        raise ShapeError("Mask", "its outline is too ragged to be a shape", "blur the picture first")
    return normalised(fit_ways(kept, tolerance=smoothness))


def level_lines(mask: Bytes, *, smallest: float = 24.0) -> list[Points]:
    """Return the closed half-level lines of a mask, shape (n, 2) in px, those around at least an area."""
    # A rim of nothing closes what touches the border; pixel centres lie at half px.
    field = np.pad(mask.astype(np.float32), 1)
    lines = contourpy.contour_generator(z=field, name="serial").lines(_LEVEL)
    kept = [np.asarray(line[:-1], np.float64) - 0.5 for line in lines if len(line) > 4]
    return [line for line in kept if abs(signed_area(line)) >= smallest]
