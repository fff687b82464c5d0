"""One proof: the cutout on a colour; a click makes that colour the bench's."""

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.editor.frames import Frame

_RADIUS, _GAP = 8, 8


class ProofCard(QWidget):
    """Pictures side by side on a background; `colour` None is the checkerboard."""

    clicked = Signal()

    def __init__(self, name: str, colour: str | None, height: int, *, captions: tuple[str, ...] = ()) -> None:
        super().__init__()
        self.name, self.colour, self._captions = name, colour, captions
        self._frames: tuple[Frame | None, ...] = ()
        self.is_chosen = False
        self.zoom = 1
        self.setFixedHeight(height)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(f"Proof on {name}")
        self.setToolTip(f"Show the bench on {name.lower()}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_frames(self, *frames: Frame | None) -> None:
        """Show pictures, premultiplied, in device px."""
        self._frames = frames
        self.update()

    def show_colour(self, colour: str | None, *, is_chosen: bool) -> None:
        """Change the background, and whether the bench has it too."""
        self.colour, self.is_chosen = colour, is_chosen
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose it with Enter or Space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint background, pictures, name, border."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        path = QPainterPath()
        path.addRoundedRect(box, _RADIUS, _RADIUS)
        painter.setClipPath(path)
        if self.colour is None:
            painter.fillRect(self.rect(), checkerboard(0.8))
        else:
            painter.fillRect(self.rect(), QColor(self.colour))
        self._paint_frames(painter)
        if self.name:
            self._paint_name(painter)
        painter.setClipping(False)
        strong = self.is_chosen or self.hasFocus()
        painter.setPen(QPen(QColor(colours().teal if strong else colours().line), 2 if strong else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        painter.end()

    def _paint_frames(self, painter: QPainter) -> None:
        ratio = self.devicePixelRatioF() / self.zoom
        shown = [f for f in self._frames if f is not None]
        widths = [f.rgba.shape[1] / ratio for f in shown]
        spread = sum(widths) + 2 * _GAP * max(0, len(shown) - 1)
        x = (self.width() - spread) / 2
        caption_room = 16 if self._captions else 0
        base = self.height() - caption_room - 6
        for index, (frame, width) in enumerate(zip(shown, widths, strict=True)):
            height = frame.rgba.shape[0] / ratio
            y = base - height if self._captions else (self.height() - height) / 2
            target = QRectF(x, y, width, height)
            if self.zoom == 1:
                target.moveTo(round(x * ratio) / ratio, round(y * ratio) / ratio)
            painter.drawImage(target, to_image(frame))
            if self._captions:
                self._paint_caption(painter, self._captions[index], x + width / 2)
            x += width + 2 * _GAP

    def _paint_caption(self, painter: QPainter, text: str, x: float) -> None:
        painter.setFont(font(11))
        painter.setPen(QColor("#6c7075"))
        painter.drawText(QRectF(x - 30, self.height() - 19, 60, 14), Qt.AlignmentFlag.AlignCenter, text)

    def _paint_name(self, painter: QPainter) -> None:
        painter.setFont(font(11, MEDIUM))
        width = painter.fontMetrics().horizontalAdvance(self.name) + 10
        plate = QRectF(7, 6, width, 17)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(255, 255, 255, 205))
        painter.drawRoundedRect(plate, 4, 4)
        painter.setPen(QColor("#22262a"))
        painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, self.name)
