"""The distance of pixels from the edge of a coverage, to a small part of a pixel.

After the anti-aliased distance transform (S. Gustavson and R. Strand, 2011): the nearest pixel beyond the edge is
looked up, and the edge itself is placed beside that by the areas covered there.
"""

import cv2
import numpy as np

from glasscap.core.geometry.outline import Ints
from glasscap.core.raster.pixels import Plane

# Sideways from the pixel beyond the edge by more than this (px), the edge is taken to end there.
_STRAIGHT = 2.0


def distance_within(coverage: Plane, far: float) -> Plane:
    """Return how far each pixel's centre lies within the edge; 0 or less outside of it.

    Parameters
    ----------
    coverage : float32 array, shape (h, w)
        The area of each pixel that is covered, 0 to 1.
    far : float
        px; what lies deeper is told to be so deep.

    Returns
    -------
    float32 array, shape (h, w)
    """
    width = coverage.shape[1]
    inside = (coverage >= 0.5).view(np.uint8)
    out = inside.astype(np.float32)
    out *= np.float32(far)
    beyond = np.flatnonzero(cv2.dilate(inside, cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))) > inside)
    if len(beyond) == 0:
        return out
    free = np.full(coverage.shape, 255, np.uint8)
    free.ravel()[beyond] = 0
    rough, labels = cv2.distanceTransformWithLabels(free, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    flat = np.asarray(labels).ravel()
    number = np.zeros(int(flat[beyond].max()) + 1, np.int64)
    number[flat[beyond]] = np.arange(len(beyond))
    near = np.flatnonzero((np.asarray(rough) < far + 1) & (coverage > 0))
    edge = _Edge(coverage, beyond)
    y = near // width
    x = near - y * width
    nearest = number[flat[near]]
    # What was looked up is about the nearest: what is so to the foot on the edge it tells of may be nearer.
    foot_y, foot_x = edge.foot(y, x, nearest)
    rows, columns = np.clip(foot_y, 0, len(coverage) - 1), np.clip(foot_x, 0, width - 1)
    again = number[flat[rows * width + columns]]
    depth = np.minimum(edge.depth(y, x, nearest), edge.depth(y, x, again))
    out.ravel()[near] = np.minimum(depth, np.float32(far))
    return out


class _Edge:
    """The edge beside pixels beyond it, of each as though it were straight."""

    def __init__(self, coverage: Plane, beyond: Ints) -> None:
        self._y = beyond // coverage.shape[1]
        self._x = beyond - self._y * coverage.shape[1]
        self._depth, self._across_x, self._across_y = _edge_beside(coverage, self._y, self._x)

    def foot(self, y: Ints, x: Ints, number: Ints) -> tuple[Ints, Ints]:
        """Return the rows and columns nearest to the feet of some pixels on the edge beside numbered ones."""
        _, sideways = self._seen(y, x, number)
        along_x, along_y = self._across_y[number], -self._across_x[number]
        by_y, by_x = (np.rint(sideways * part).astype(np.int64) for part in (along_y, along_x))
        return self._y[number] + by_y, self._x[number] + by_x

    def depth(self, y: Ints, x: Ints, number: Ints) -> Plane:
        """Return how far within the edge pixels are, from the edge beside numbered ones or its end."""
        inwards, sideways = self._seen(y, x, number)
        away = np.where(np.abs(sideways) <= _STRAIGHT, inwards, np.hypot(inwards, sideways))
        return np.asarray(away + self._depth[number], np.float32)

    def _seen(self, y: Ints, x: Ints, number: Ints) -> tuple[Plane, Plane]:
        """Return how far pixels lie inwards of numbered ones, and how far sideways."""
        from_y, from_x = (y - self._y[number]).astype(np.float32), (x - self._x[number]).astype(np.float32)
        across_x, across_y = self._across_x[number], self._across_y[number]
        return from_x * across_x + from_y * across_y, from_x * across_y - from_y * across_x


def _edge_beside(coverage: Plane, y: Ints, x: Ints) -> tuple[Plane, Plane, Plane]:
    """Return how far within the edge pixels lie (below 0: beyond it), and the direction inwards; shape (n,).

    Of a straight edge the area in a row of five pixels across it is the distance from the middle one's centre.
    """
    padded = np.pad(coverage, 3, mode="edge")
    row, step = padded.ravel(), padded.shape[1]
    at = (y + 3) * step + x + 3

    def area(across: Ints | int, by: Ints | int) -> Plane:
        middle = at + by
        return np.asarray(sum(row[middle + number * across] for number in (-2, -1, 0, 1, 2)), np.float32)

    # The edge leans by less than half a right angle against one of the axes.
    upright = np.abs(area(step, 1) - area(step, -1)) <= np.abs(area(1, step) - area(1, -step))
    across, along = np.where(upright, step, 1), np.where(upright, 1, step)
    lean = (area(across, along) - area(across, -along)) / 2
    size = np.sqrt(1 + lean * lean)
    # To which side what is covered lies.
    onwards = np.sign(row[at + across] + row[at + 2 * across] - row[at - across] - row[at - 2 * across]) / size
    depth = (area(across, 0) - np.float32(2.5)) / size
    sideways = lean / size
    across_x, across_y = np.where(upright, sideways, onwards), np.where(upright, onwards, sideways)
    return np.asarray(depth, np.float32), np.asarray(across_x, np.float32), np.asarray(across_y, np.float32)
