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
# A contour is found in a small picture first; in the large one only a band of so many small px beside it
# is cut anew.
_COARSE_PX, _BAND = 40_000, 2.5
_IS_OBJECT = (cv2.GC_FGD, cv2.GC_PR_FGD)
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
    area = (outer[2] - outer[0]) * (outer[3] - outer[1])
    fine = window_of(rgba, outer, min(1.0, (_CUT_PX / max(1.0, area)) ** 0.5))
    coarse = _reduced(fine, _COARSE_PX)
    labels = _drawn_labels(coarse, box, hints)
    if not np.isin(labels, _IS_OBJECT).any():
        return fine, np.zeros(fine.rgb.shape[:2], np.uint8)
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    for n in range(_ITERATIONS):
        ticket.report(n / (_ITERATIONS + 1))
        mode = cv2.GC_EVAL if n else cv2.GC_INIT_WITH_MASK
        cv2.grabCut(coarse.rgb, labels, (0, 0, 1, 1), *models, 1, mode)
    ticket.report(_ITERATIONS / (_ITERATIONS + 1))
    if fine.rgb.shape != coarse.rgb.shape:
        labels = _labels_near(labels, coarse, fine, _drawn_labels(fine, box, hints))
        cv2.grabCut(fine.rgb, labels, (0, 0, 1, 1), *models, 1, cv2.GC_EVAL_FREEZE_MODEL)
    ticket.report(1.0)
    whole = cv2.morphologyEx(
        np.isin(labels, _IS_OBJECT).astype(np.uint8) * 255, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)
    )
    return fine, np.asarray(cv2.GaussianBlur(_main_parts(np.asarray(whole, np.uint8)), (0, 0), 1.2), np.uint8)


def _reduced(window: Window, most: int) -> Window:
    """Return a window with no more than some px."""
    height, width = window.rgb.shape[:2]
    scale = min(1.0, (most / (height * width)) ** 0.5)
    if scale == 1.0:
        return window
    size = (max(_LEAST_SIDE, round(width * scale)), max(_LEAST_SIDE, round(height * scale)))
    small = np.asarray(cv2.resize(window.rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
    return Window(small, window.x, window.y, window.scale * size[0] / width)


def _drawn_labels(window: Window, box: tuple[float, float, float, float], hints: tuple[Hint, ...]) -> Bytes:
    """Return what a box and strokes say of a window's pixels: surroundings, probably the object, or certainly."""
    height, width = window.rgb.shape[:2]
    labels = np.full((height, width), cv2.GC_BGD, np.uint8)
    (u0, v0), (u1, v1) = window.to_working(*box[:2]), window.to_working(*box[2:])
    left, top = max(1, round(u0)), max(1, round(v0))
    right, foot = min(width - 1, round(u1)), min(height - 1, round(v1))
    labels[top:foot, left:right] = cv2.GC_PR_FGD
    for hint in hints:
        places = np.array([window.to_working(*p) for p in hint.points]).round().astype(np.int32)
        colour = cv2.GC_FGD if hint.is_object else cv2.GC_BGD
        thick = max(1, round(2 * hint.radius * window.scale))
        cv2.polylines(labels, [places.reshape(-1, 1, 2)], False, int(colour), thick)
    return labels


def _labels_near(found: Bytes, coarse: Window, fine: Window, drawn: Bytes) -> Bytes:
    """Return labels of the fine window: open along the contour found in the coarse one, elsewhere as found."""
    height, width = drawn.shape
    is_object = np.isin(found, _IS_OBJECT).astype(np.uint8)
    large = np.asarray(cv2.resize(is_object, (width, height), interpolation=cv2.INTER_NEAREST))
    reach = 2 * int(np.ceil(_BAND * fine.scale / coarse.scale)) + 1
    brush = np.ones((reach, reach), np.uint8)
    inner, outer = np.asarray(cv2.erode(large, brush)), np.asarray(cv2.dilate(large, brush))
    labels = np.where(large > 0, np.uint8(cv2.GC_PR_FGD), np.uint8(cv2.GC_PR_BGD))
    labels[inner > 0] = cv2.GC_FGD
    labels[outer == 0] = cv2.GC_BGD
    # What was drawn for certain stays so.
    certain = (drawn == cv2.GC_FGD) | ((drawn == cv2.GC_BGD) & (labels != cv2.GC_FGD))
    return np.where(certain, drawn, labels)


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
