"""A layer kept as a picture from one repaint to the next, as long as it looks the same."""

from collections.abc import Callable, Hashable, Sequence
from time import monotonic

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

from glasscap.core.photos.cache import ValueCache

Paint = Callable[[QPainter], None]


class KeptLayer:
    """One layer over a widget; what was painted is shown again until its key or its size changes.

    An opaque one is covered wholly by what is painted, and shown the faster for it.
    """

    def __init__(self, *, is_opaque: bool = False, clock: Callable[[], float] = monotonic) -> None:
        self._is_opaque, self._clock = is_opaque, clock
        self._key: object = None
        self._pixmap = QPixmap()
        self._done = 0

    def paint(self, painter: QPainter, key: object, size: QSize, ratio: float, paint: Paint) -> None:
        """Show the layer, `size` logical px of `ratio` device px each; `key` tells all that `paint` goes by."""
        self.grow(painter, key, size, ratio, (paint,), 0.0)

    def grow(
        self, painter: QPainter, key: object, size: QSize, ratio: float, parts: Sequence[Paint], seconds: float
    ) -> bool:
        """Show a layer of many parts as far as it goes; whether it is whole.

        As many more are painted each time as fit in some seconds, one at least.
        """
        whole, box = (key, size, ratio), QRect(QPoint(0, 0), size)
        if self._key != whole:
            self._key, self._done = whole, 0
            self._pixmap = _empty(box, ratio, is_opaque=self._is_opaque)
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
        pixmap = self._kept.get(whole, lambda: _painted(box, ratio, paint, painter), _bytes)
        painter.drawPixmap(box.topLeft(), pixmap)


def _painted(box: QRect, ratio: float, paint: Paint, like: QPainter) -> QPixmap:
    pixmap = _empty(box, ratio)
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
