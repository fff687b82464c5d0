"""Alpha mattes: how much of each pixel of a photo belongs to an object with hair, fur, glass or motion.

The matte is solved in closed form (Levin, Lischinski, Weiss, "A Closed-Form Solution to Natural Image Matting",
IEEE TPAMI 30 (2), 2008) at a working size, and brought to the photo's own by the guided filter's linear models
(He, Sun, Tang, "Guided Image Filtering", IEEE TPAMI 35 (6), 2013; He, Sun, "Fast Guided Filter", 2015).
"""

from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes, Plane

BACKGROUND, UNKNOWN, OBJECT = 0, 128, 255
# The ridge of the linear models, on colours from 0 to 1, above the grain of a photo (Levin et al. have none and
# take 1e-7).
_RIDGE, _GUIDE_RIDGE = 1e-5, 1e-5
_SIDE = 3
_COUNT = _SIDE * _SIDE
# A tiny pull towards the middle keeps pixels without any neighbour that is known from having no solution.
_PULL = 1e-9


if TYPE_CHECKING:
    from scipy import sparse


def closed_form(rgb: Bytes, trimap: Bytes) -> Plane:
    """Return the alpha of a picture where its trimap leaves it open.

    Parameters
    ----------
    rgb : uint8 array, shape (h, w, 3)
    trimap : uint8 array, shape (h, w)
        `BACKGROUND`, `UNKNOWN` or `OBJECT`.

    Returns
    -------
    float32 array, shape (h, w), 0 to 1
    """
    alpha = np.asarray(trimap == OBJECT, np.float32)
    is_open = trimap == UNKNOWN
    count = int(is_open.sum())
    if count == 0 or min(trimap.shape) < _SIDE:
        return alpha
    # Half a second to load, and seldom needed.
    from scipy import sparse
    from scipy.sparse.linalg import splu

    laplacian, pixels = _laplacian(rgb, is_open)
    if laplacian is None:
        return alpha
    open_now = is_open.ravel()[pixels]
    known = alpha.ravel()[pixels[~open_now]].astype(np.float64)
    rows = laplacian[open_now]
    system = (rows[:, open_now] + _PULL * sparse.identity(int(open_now.sum()), format="csr")).tocsc()
    right = -(rows[:, ~open_now] @ known) + _PULL * 0.5
    solved = splu(system, permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True}).solve(right)
    alpha.ravel()[pixels[open_now]] = np.clip(solved, 0.0, 1.0)
    return alpha


def _laplacian(rgb: Bytes, is_open: NDArray[np.bool_]) -> "tuple[sparse.csr_matrix | None, NDArray[np.int64]]":
    """Return the matting Laplacian over all windows that hold an open pixel, and the pixels it is about."""
    width = is_open.shape[1]
    from scipy import sparse

    near = cv2.dilate(is_open.astype(np.uint8), np.ones((_SIDE, _SIDE), np.uint8)).astype(bool)
    near[[0, -1], :] = False
    near[:, [0, -1]] = False
    centres = np.flatnonzero(near)
    if len(centres) == 0:
        return None, centres
    around = (np.arange(-1, 2)[:, None] * width + np.arange(-1, 2)).ravel()
    members = centres[:, None] + around
    colours = rgb.reshape(-1, 3)[members].astype(np.float64) / 255.0
    spread = colours - colours.mean(axis=1, keepdims=True)
    covariance = np.einsum("nki,nkj->nij", spread, spread) / _COUNT + _RIDGE / _COUNT * np.eye(3)
    alike = np.einsum("nki,nij,nlj->nkl", spread, np.linalg.inv(covariance), spread, optimize=True)
    weights = np.eye(_COUNT) - (1.0 + alike) / _COUNT
    pixels, where = np.unique(members, return_inverse=True)
    where = where.reshape(members.shape)
    rows = np.repeat(where, _COUNT, axis=1).ravel()
    columns = np.tile(where, (1, _COUNT)).ravel()
    size = (len(pixels), len(pixels))
    return sparse.coo_matrix((weights.ravel(), (rows, columns)), shape=size).tocsr(), pixels


def linear_models(rgb: Bytes, alpha: Plane, radius: int) -> tuple[NDArray[np.float32], Plane]:
    """Return the guided filter's models of an alpha: slopes, shape (h, w, 3), and offsets, shape (h, w).

    In the neighbourhood of a pixel alpha is about slope . colour + offset, with colours from 0 to 1; models of
    all windows of `radius` px around it are averaged.
    """
    guide = np.asarray(rgb.astype(np.float32) / 255, np.float32)

    def mean(plane: NDArray[np.floating[Any]]) -> Plane:
        side = 2 * radius + 1
        return np.asarray(cv2.blur(plane, (side, side), borderType=cv2.BORDER_REFLECT), np.float32)

    colour, share = mean(guide), mean(alpha)
    crossed = np.stack([mean(guide[..., c] * alpha) - colour[..., c] * share for c in range(3)], axis=-1)
    pairs = np.empty((*alpha.shape, 3, 3), np.float32)
    for one in range(3):
        for other in range(one, 3):
            value = mean(guide[..., one] * guide[..., other]) - colour[..., one] * colour[..., other]
            pairs[..., one, other] = pairs[..., other, one] = value
    pairs += np.float32(_GUIDE_RIDGE) * np.eye(3, dtype=np.float32)
    slopes = np.linalg.solve(pairs, crossed[..., None])[..., 0]
    offsets = share - (slopes * colour).sum(axis=-1)
    return np.asarray(mean(slopes), np.float32), mean(offsets)
