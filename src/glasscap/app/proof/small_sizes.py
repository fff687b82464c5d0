"""The cutout at small sizes, pixel for pixel: left to right, in as many rows as they need."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.render.screen.frames import Frame

_RADIUS, _LUMINANCE_MIDDLE, _GAP, _CAPTION, _EDGE = 8, 140, 10, 16, 8
_NARROWEST = 30


class SmallSizes(QWidget):
    """Shows one picture a size, in device px; never scaled."""

    def __init__(self, sizes: tuple[int, ...]) -> None:
        super().__init__()
        self._sizes, self._frames = sizes, tuple[Frame | None, ...]()
        self._made_for: tuple[tuple[int, ...], int, float] | None = None
        self._colour = "#ffffff"
        self.setAccessibleName("Proof at small sizes")
        self.setToolTip("The longest side in px, pixel for pixel")
        self.setMinimumHeight(60)

    def show_frames(self, *frames: Frame | None) -> None:
        """Show pictures, premultiplied."""
        self._frames = frames
        self.update()

    def show_sizes(self, sizes: tuple[int, ...], width: int) -> None:
        """Make room for other sizes in a column of some width."""
        shown = (sizes, width, self.devicePixelRatioF())
        if shown == self._made_for:
            return
        self._sizes, self._made_for = sizes, shown
        places = self._places(width)
        ratio = self.devicePixelRatioF()
        self.setFixedHeight(
            round(max(y + s / ratio for (_, y), s in zip(places, sizes, strict=True)) + _CAPTION + 6)
        )
        self.update()

    def show_colour(self, colour: str) -> None:
        """Change the background."""
        if colour != self._colour:
            self._colour = colour
            self.update()

    def _places(self, width: int) -> list[tuple[float, float]]:
        """Return the middle and top of each size; a row takes as many as fit, narrow ones below one another."""
        ratio = self.devicePixelRatioF()
        found: list[tuple[float, float]] = []
        x, y, row, below = float(_EDGE), float(_EDGE), 0.0, 0.0
        for index, size in enumerate(self._sizes):
            side = size / ratio
            wide = max(side, _NARROWEST)
            if index and below and below + side + _CAPTION <= row:
                # There is room under the one before.
                found.append((found[-1][0], y + below))
                below += side + _CAPTION + 6
                continue
            if index and x + wide > width - _EDGE:
                x, y, row = float(_EDGE), y + row + 6, 0.0
            found.append((x + wide / 2, y))
            x += wide + _GAP
            row = max(row, side + _CAPTION)
            below = side + _CAPTION + 6 if index else 0.0
        return found

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint background, pictures, captions."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        path = QPainterPath()
        path.addRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), _RADIUS, _RADIUS)
        painter.fillPath(path, QColor(self._colour))
        ratio = self.devicePixelRatioF()
        for size, frame, (x, y) in zip(self._sizes, self._frames, self._places(self.width()), strict=False):
            side = size / ratio
            if frame is not None:
                self._paint_one(painter, frame, x, y + side / 2)
            self._paint_caption(painter, str(size), x, y + side + 1)
        painter.setPen(QPen(QColor(colours().line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        painter.end()

    def _paint_one(self, painter: QPainter, frame: Frame, centre_x: float, centre_y: float) -> None:
        ratio = self.devicePixelRatioF()
        height, width = frame.rgba.shape[:2]
        x = round((centre_x - width / ratio / 2) * ratio) / ratio
        y = round((centre_y - height / ratio / 2) * ratio) / ratio
        painter.drawImage(QRectF(x, y, width / ratio, height / ratio), to_image(frame))

    def _paint_caption(self, painter: QPainter, text: str, x: float, y: float) -> None:
        painter.setFont(font(11))
        is_dark = QColor(self._colour).lightness() < _LUMINANCE_MIDDLE
        painter.setPen(QColor("#e4e2dc" if is_dark else "#6c7075"))
        painter.drawText(QRectF(x - 30, y, 60, 15), Qt.AlignmentFlag.AlignCenter, text)
