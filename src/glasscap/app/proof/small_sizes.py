"""The cutout at small sizes, pixel for pixel: the largest at the left, the others above one another."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.render.screen import Frame

_HEIGHT, _RADIUS, _LUMINANCE_MIDDLE = 158, 8, 140


class SmallSizes(QWidget):
    """Shows one picture a size, in device px; never scaled."""

    def __init__(self, sizes: tuple[int, ...]) -> None:
        super().__init__()
        self._sizes, self._frames = sizes, tuple[Frame | None, ...]()
        self._colour = "#ffffff"
        self.setFixedHeight(_HEIGHT)
        self.setAccessibleName("Proof at small sizes")
        self.setToolTip("The longest side in px, pixel for pixel")

    def show_frames(self, *frames: Frame | None) -> None:
        """Show pictures, premultiplied."""
        self._frames = frames
        self.update()

    def show_colour(self, colour: str) -> None:
        """Change the background."""
        if colour != self._colour:
            self._colour = colour
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint background, pictures, captions."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        path = QPainterPath()
        path.addRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), _RADIUS, _RADIUS)
        painter.fillPath(path, QColor(self._colour))
        ratio = self.devicePixelRatioF()
        left, right, y = 72.0, self.width() - 38.0, 8.0
        for index, (size, frame) in enumerate(zip(self._sizes, self._frames, strict=False)):
            side = size / ratio
            centre_x, top = (left, 8.0) if index == 0 else (right, y)
            if frame is not None:
                self._paint_one(painter, frame, centre_x, top + side / 2)
            self._paint_caption(painter, str(size), centre_x, top + side + 1)
            if index:
                y += side + 22
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
