"""What is painted alike again and again, kept as a picture from one repaint to the next."""

from collections.abc import Callable, Hashable, Sequence
from time import monotonic

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

from glasscap.core.render.cache import ValueCache

Paint = Callable[[QPainter], None]


class KeptLayer:
    """One layer over a widget; what was painted is shown again until its key or its size changes.

    An opaque one is covered wholly by what is painted, and shown the faster for it.
    """

    def __init__(self, *, is_opaque: bool = False) -> None:
        self._is_opaque = is_opaque
        self._key: object = None
        self._pixmap = QPixmap()

    def paint(self, painter: QPainter, key: object, size: QSize, ratio: float, paint: Paint) -> None:
        """Show the layer, `size` logical px of `ratio` device px each; `key` tells all that `paint` goes by."""
        whole = (key, size, ratio)
        if self._key != whole:
            self._pixmap = _painted(QRect(QPoint(0, 0), size), ratio, paint, painter, self._is_opaque)
            self._key = whole
        painter.drawPixmap(0, 0, self._pixmap)


class GrowingLayer:
    """A layer of many parts, as many of which are painted at once as fit in a while; the rest the next times.

    What was painted is kept like a `KeptLayer`'s.
    """

    def __init__(self, clock: Callable[[], float] = monotonic) -> None:
        self._clock = clock
        self._key: object = None
        self._pixmap = QPixmap()
        self._done = 0

    def paint(
        self, painter: QPainter, key: object, size: QSize, ratio: float, parts: Sequence[Paint], seconds: float
    ) -> bool:
        """Show the layer as far as it goes; whether it is whole. One part more is painted each time at least."""
        whole, box = (key, size, ratio), QRect(QPoint(0, 0), size)
        if self._key != whole:
            self._key, self._done, self._pixmap = whole, 0, _empty(box, ratio)
        if self._done < len(parts):
            end, inner = self._clock() + seconds, _painter_on(self._pixmap, box, painter)
            while True:
                parts[self._done](inner)
                self._done += 1
                if self._done == len(parts) or self._clock() >= end:
                    break
            inner.end()
        painter.drawPixmap(0, 0, self._pixmap)
        return self._done == len(parts)


class KeptPictures:
    """Small pictures by their keys, the least recently shown dropped first when `capacity_bytes` is passed."""

    def __init__(self, capacity_bytes: int) -> None:
        self._kept = ValueCache(capacity_bytes)

    def paint(self, painter: QPainter, key: Hashable, box: QRect, ratio: float, paint: Paint) -> None:
        """Show what `paint` paints within a box (logical px of `ratio` device px each)."""
        if box.isEmpty():
            return
        if ratio != int(ratio):
            # Between device px a picture would be shown blurred.
            paint(painter)
            return
        whole = (key, box.getRect(), ratio)
        pixmap = self._kept.get(whole, lambda: _painted(box, ratio, paint, painter, False), _bytes)
        painter.drawPixmap(box.topLeft(), pixmap)


def _painted(box: QRect, ratio: float, paint: Paint, like: QPainter, is_opaque: bool) -> QPixmap:
    pixmap = _empty(box, ratio, is_opaque=is_opaque)
    inner = _painter_on(pixmap, box, like)
    paint(inner)
    inner.end()
    return pixmap


def _empty(box: QRect, ratio: float, *, is_opaque: bool = False) -> QPixmap:
    pixmap = QPixmap(box.size() * ratio)
    pixmap.setDevicePixelRatio(ratio)
    if not is_opaque:
        pixmap.fill(Qt.GlobalColor.transparent)
    return pixmap


def _painter_on(pixmap: QPixmap, box: QRect, like: QPainter) -> QPainter:
    inner = QPainter(pixmap)
    inner.setRenderHints(like.renderHints())
    inner.translate(-box.topLeft())
    return inner


def _bytes(pixmap: QPixmap) -> int:
    return 4 * pixmap.width() * pixmap.height()
