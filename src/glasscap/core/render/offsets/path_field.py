"""The nearest place along an outline, pixel by pixel."""

import cv2
import numpy as np

from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Plane


def path_field(polygons: tuple[Points, ...], box: PixelBox, margin: int) -> tuple[Plane, Plane]:
    """Return, for each pixel of a box, the place along the outline and the distance to it.

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
        px.
    box : PixelBox
    margin : int
        How far from the box (px) the outline is still looked for.

    Returns
    -------
    share : float32 array, shape of the box
        0 to 1 along each contour's length.
    distance : float32 array
        px, to half a pixel; `margin` where there is no outline near.
    """
    wide = box.grown(margin)
    share = np.full((wide.height, wide.width), -1, np.float32)
    for polygon in polygons:
        points, places = _dense(polygon)
        x, y = (np.floor(points).astype(np.int64) - (wide.x0, wide.y0)).T
        on = (x >= 0) & (x < wide.width) & (y >= 0) & (y < wide.height)
        share[y[on], x[on]] = places[on]
    on_line = share >= 0
    shape = (box.height, box.width)
    if not on_line.any():
        return np.zeros(shape, np.float32), np.full(shape, margin, np.float32)
    distance, labels = cv2.distanceTransformWithLabels(
        np.where(on_line, 0, 255).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    by_label = np.zeros(int(labels.max()) + 1, np.float32)
    by_label[labels[on_line]] = share[on_line]
    inner = np.s_[margin : margin + box.height, margin : margin + box.width]
    return by_label[labels[inner]], np.asarray(distance[inner])


def _dense(polygon: Points) -> tuple[Points, Points]:
    """Return points of the contour at most half a pixel apart, and their places 0 to 1."""
    closed = np.concatenate([polygon, polygon[:1]])
    at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    count = max(4, int(at[-1] * 2.2) + 1)
    places = np.linspace(0, at[-1], count, endpoint=False)
    points = np.stack([np.interp(places, at, closed[:, 0]), np.interp(places, at, closed[:, 1])], axis=1)
    return points, places / max(float(at[-1]), 1e-12)
