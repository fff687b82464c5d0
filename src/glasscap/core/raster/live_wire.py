"""Lines that cling to edges of a photo, and objects cut out of their surroundings, both in a small window.

Built on a general vision library: intelligent scissors (Mortensen and Barrett, "Intelligent Scissors for Image
Composition", SIGGRAPH 1995) and GrabCut (Rother, Kolmogorov, Blake, SIGGRAPH 2004).
"""

from typing import Any

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.ticket import Ticket

# Larger windows take longer to search than a pointer waits.
_WIRE_SIDE, _CUT_PX = 640, 260_000
_SNAP, _ITERATIONS = 2, 4
_LEAST_SIDE = 16
Ints = NDArray[np.int32]


class Window(Struct, frozen=True, eq=False):
    """A part of a photo at a working size: photo px = origin + working px / scale."""

    rgb: Bytes
    x: float
    y: float
    scale: float

    def to_working(self, x: float, y: float) -> tuple[float, float]:
        """Return working px of a place in photo px."""
        return (x - self.x) * self.scale, (y - self.y) * self.scale

    def to_photo(self, points: NDArray[Any]) -> NDArray[np.float64]:
        """Return photo px, shape (n, 2), of working px: pixel centres."""
        placed: NDArray[np.float64] = (np.asarray(points, np.float64) + 0.5) / self.scale + np.array(
            [self.x, self.y]
        )
        return placed

    def holds(self, x: float, y: float, margin: float = 2.0) -> bool:
        """Whether a place in photo px is in the window."""
        u, v = self.to_working(x, y)
        height, width = self.rgb.shape[:2]
        return bool(margin <= u <= width - 1 - margin and margin <= v <= height - 1 - margin)


def window_around(rgba: Bytes, x: float, y: float, scale: float) -> Window:
    """Return the window about a place in photo px at working px per photo px (1 or below)."""
    half = _WIRE_SIDE / 2 / scale
    return window_of(rgba, (x - half, y - half, x + half, y + half), scale)


def window_of(rgba: Bytes, box: tuple[float, float, float, float], scale: float) -> Window:
    """Return a box of a photo (photo px) at a working scale, cut by the photo's border."""
    height, width = rgba.shape[:2]
    x0, y0 = (int(max(0, min(np.floor(box[k]), size - _LEAST_SIDE))) for k, size in ((0, width), (1, height)))
    x1, y1 = (int(min(size, max(np.ceil(box[k + 2]), low + _LEAST_SIDE)))
              for k, size, low in ((0, width, x0), (1, height, y0)))  # fmt: skip
    part = np.ascontiguousarray(rgba[y0:y1, x0:x1, :3])
    if scale < 1.0:
        size = (max(_LEAST_SIDE, round((x1 - x0) * scale)), max(_LEAST_SIDE, round((y1 - y0) * scale)))
        part = np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_AREA), np.uint8)
        return Window(part, float(x0), float(y0), size[0] / (x1 - x0))
    return Window(part, float(x0), float(y0), 1.0)


class LiveWire:
    """The cheapest ways along edges from one anchor to anywhere in a window."""

    def __init__(self, window: Window, x: float, y: float) -> None:
        """Search from an anchor in photo px, moved to the strongest edge within a few working px."""
        self.window = window
        grey = cv2.cvtColor(window.rgb, cv2.COLOR_RGB2GRAY)
        self._slope = _slope(np.asarray(grey, np.uint8))
        self._wires = cv2.segmentation.IntelligentScissorsMB()
        self._wires.setEdgeFeatureCannyParameters(32, 100)
        self._wires.applyImage(window.rgb)
        self.anchor = self.snapped(x, y)
        self._wires.buildMap(self._pixel(*self.anchor))

    def snapped(self, x: float, y: float) -> tuple[float, float]:
        """Return the strongest edge within a few working px of a place, in photo px."""
        u, v = self._pixel(x, y)
        top, left = max(0, v - _SNAP), max(0, u - _SNAP)
        near = self._slope[top : v + _SNAP + 1, left : u + _SNAP + 1]
        if near.size == 0 or near.max() < 8:
            return x, y
        row, column = np.unravel_index(int(near.argmax()), near.shape)
        (found,) = self.window.to_photo(np.array([[left + column, top + row]]))
        return float(found[0]), float(found[1])

    def way_to(self, x: float, y: float) -> NDArray[np.float64]:
        """Return the way from the anchor to a place in photo px, shape (n, 2), n >= 2."""
        found = self._wires.getContour(self._pixel(x, y))
        points = self.window.to_photo(np.asarray(found).reshape(-1, 2))
        if len(points) < 2:
            return np.array([self.anchor, (x, y)])
        return points

    def _pixel(self, x: float, y: float) -> tuple[int, int]:
        u, v = self.window.to_working(x, y)
        height, width = self._slope.shape
        return int(min(max(u, 0), width - 1)), int(min(max(v, 0), height - 1))


def _slope(grey: Bytes) -> NDArray[np.float32]:
    across = cv2.Sobel(grey, cv2.CV_32F, 1, 0, ksize=3, scale=0.25)
    down = cv2.Sobel(grey, cv2.CV_32F, 0, 1, ksize=3, scale=0.25)
    return np.asarray(cv2.magnitude(across, down), np.float32)


class Hint(Struct, frozen=True):
    """A stroke, shape (n, 2) in photo px and a radius in photo px, over what is part of the object or is not."""

    points: NDArray[np.float64]
    radius: float
    is_object: bool


def cut_object(
    rgba: Bytes,
    box: tuple[float, float, float, float],
    hints: tuple[Hint, ...] = (),
    ticket: Ticket | None = None,
) -> tuple[Window, Bytes]:
    """Return a window about a rough box (photo px) and a soft mask of the object in it, uint8, by graph cut.

    Raises CancelledError between the cut's rounds once the ticket says stop.
    """
    ticket = ticket or Ticket()
    x0, y0, x1, y1 = box
    margin = 0.12 * max(x1 - x0, y1 - y0) + 4
    outer = (x0 - margin, y0 - margin, x1 + margin, y1 + margin)
    scale = min(1.0, (_CUT_PX / max(1.0, (outer[2] - outer[0]) * (outer[3] - outer[1]))) ** 0.5)
    window = window_of(rgba, outer, scale)
    height, width = window.rgb.shape[:2]
    labels = np.full((height, width), cv2.GC_BGD, np.uint8)
    (u0, v0), (u1, v1) = window.to_working(x0, y0), window.to_working(x1, y1)
    left, top = max(1, round(u0)), max(1, round(v0))
    right, foot = min(width - 1, round(u1)), min(height - 1, round(v1))
    labels[top:foot, left:right] = cv2.GC_PR_FGD
    for hint in hints:
        places = np.array([window.to_working(*p) for p in hint.points]).round().astype(np.int32)
        colour = cv2.GC_FGD if hint.is_object else cv2.GC_BGD
        thick = max(1, round(2 * hint.radius * window.scale))
        cv2.polylines(labels, [places.reshape(-1, 1, 2)], False, int(colour), thick)
    if not ((labels == cv2.GC_PR_FGD) | (labels == cv2.GC_FGD)).any():
        return window, np.zeros((height, width), np.uint8)
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    for n in range(_ITERATIONS):
        ticket.report(n / _ITERATIONS)
        mode = cv2.GC_EVAL if n else cv2.GC_INIT_WITH_MASK
        cv2.grabCut(window.rgb, labels, (0, 0, 1, 1), *models, 1, mode)
    ticket.report(1.0)
    is_object = (labels == cv2.GC_FGD) | (labels == cv2.GC_PR_FGD)
    whole = cv2.morphologyEx(is_object.astype(np.uint8) * 255, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    return window, np.asarray(cv2.GaussianBlur(_main_parts(np.asarray(whole, np.uint8)), (0, 0), 1.2), np.uint8)


def _main_parts(mask: Bytes) -> Bytes:
    """Keep what is at least a fiftieth of the largest part, and fill holes as small."""
    for value in (255, 0):
        count, labels, stats, _ = cv2.connectedComponentsWithStats(
            (mask == value).astype(np.uint8), connectivity=4
        )
        if count < 2:
            continue
        sizes = stats[1:, cv2.CC_STAT_AREA]
        small = 1 + np.flatnonzero(sizes * 50 < (mask == 255).sum() if value == 0 else sizes * 50 < sizes.max())
        mask = np.where(np.isin(labels, small), np.uint8(255 - value), mask)
    return mask
