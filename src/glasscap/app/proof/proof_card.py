"""One proof: the cutout on a background; a click makes that background the bench's."""

from PySide6.QtCore import QPoint, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.focus_ring import draw_focus_ring
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.menus import MenuEntry, open_menu
from glasscap.core.render.screen.frames import Frame

_RADIUS, _DRAG = 8, 8


class ProofCard(QWidget):
    """A picture in the middle of a background; `colour` None is the checkerboard.

    A drag takes the picture to another program. One of the designer's own may be changed and removed:
    `change_asked()` and `remove_asked()`.
    """

    clicked = Signal()
    change_asked = Signal()
    remove_asked = Signal()
    drag_asked = Signal(QPoint)

    def __init__(
        self, name: str, colour: str | None, height: int, *, is_own: bool = False, shows: str = "Show the bench"
    ) -> None:
        super().__init__()
        self.name, self.colour, self._shows = name, colour, shows
        self._frame: Frame | None = None
        self._background: Frame | None = None
        self.is_chosen = False
        self.zoom = 1
        self.setFixedHeight(height)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(f"Proof on {name}")
        self.setToolTip(f"{shows} on {name.lower()}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._press: QPoint | None = None
        self._tools, self._is_own = [], is_own
        if is_own:
            change = tool("pencil", f"Change {name.lower()}", self.change_asked.emit)
            remove = tool("x", f"Remove {name.lower()}", self.remove_asked.emit)
            self._tools = [change, remove]
            for made in self._tools:
                made.setParent(self)

    def show_frame(self, frame: Frame | None) -> None:
        """Show a picture, premultiplied, in device px."""
        self._frame = frame
        self.update()

    def show_background(self, frame: Frame | None) -> None:
        """Show a background that is no flat colour."""
        self._background = frame
        self.update()

    def show_colour(self, colour: str | None, *, is_chosen: bool) -> None:
        """Change the background, and whether the bench has it too."""
        if (colour, is_chosen) != (self.colour, self.is_chosen):
            self.colour, self.is_chosen = colour, is_chosen
            self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the tools at the right."""
        for index, made in enumerate(reversed(self._tools)):
            made.move(self.width() - 33 - 31 * index, 5)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin a click or a drag."""
        if event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Ask for a drag once it is one."""
        at = event.position().toPoint()
        if self._press is not None and (at - self._press).manhattanLength() >= _DRAG:
            self._press = None
            self.drag_asked.emit(at)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        if self._press is not None:
            self._press = None
            self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose it with Enter or Space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Offer what can be done with this background."""
        words = f"{self._shows} on {'the checkerboard' if self.is_chosen else self.name.lower()}"
        entries = [MenuEntry(words, self.clicked.emit)]
        if self._is_own:
            entries += [MenuEntry("Change…", self.change_asked.emit), MenuEntry("Remove", self.remove_asked.emit)]
        open_menu(self, entries, event.globalPos())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint background, pictures, name, border."""
        painter = QPainter(self)
        box, path = clipped_card(painter, self)
        if self._background is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(box, to_image(self._background))
        elif self.colour is None:
            painter.fillRect(self.rect(), checkerboard(0.8))
        else:
            painter.fillRect(self.rect(), QColor(self.colour))
        self._paint_frame(painter)
        if self.name:
            paint_name(painter, self.name)
        painter.setClipping(False)
        strong = self.is_chosen
        painter.setPen(QPen(QColor(colours().teal if strong else colours().line), 2 if strong else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        if self.hasFocus():
            draw_focus_ring(painter, QRectF(self.rect()).adjusted(3, 3, -3, -3))
        painter.end()

    def _paint_frame(self, painter: QPainter) -> None:
        if self._frame is None:
            return
        ratio = self.devicePixelRatioF() / self.zoom
        height, width = (side / ratio for side in self._frame.rgba.shape[:2])
        target = QRectF(0, 0, width, height)
        target.moveCenter(QRectF(self.rect()).center())
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
        if self.zoom == 1:
            target.moveTo(round(target.x() * ratio) / ratio, round(target.y() * ratio) / ratio)
        painter.drawImage(target, to_image(self._frame))


def clipped_card(painter: QPainter, widget: QWidget) -> tuple[QRectF, QPainterPath]:
    """Clip a painter to a widget's rounded card; return its box and its border."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    box = QRectF(widget.rect()).adjusted(1, 1, -1, -1)
    path = QPainterPath()
    path.addRoundedRect(box, _RADIUS, _RADIUS)
    painter.setClipPath(path)
    return box, path


def paint_name(painter: QPainter, name: str) -> None:
    """Paint a name on a plate in the upper left corner."""
    painter.setFont(font(11, MEDIUM))
    plate = QRectF(7, 6, painter.fontMetrics().horizontalAdvance(name) + 10, 17)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(255, 255, 255, 205))
    painter.drawRoundedRect(plate, 4, 4)
    painter.setPen(QColor("#22262a"))
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, name)
