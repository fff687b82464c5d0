"""The names of all controls laid over the window, until a click or a key."""

from PySide6.QtCore import QEvent, QObject, QPoint, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSlider,
    QComboBox,
    QLineEdit,
    QListWidget,
    QPlainTextEdit,
    QScrollBar,
    QWidget,
)

from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours

_KINDS = (QAbstractButton, QAbstractSlider, QComboBox, QLineEdit, QListWidget, QPlainTextEdit)
_PAD, _HEIGHT = 5, 15


class ControlNames(QWidget):
    """Covers a window and says what each of its controls is called."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setAccessibleName("Names of the controls")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setGeometry(window.rect())
        self.names = _names_in(window)
        window.installEventFilter(self)
        self.show()
        self.raise_()
        self.setFocus()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Veil the window a little and write the names, each as near its control as there is room."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(20, 24, 26, 120))
        painter.setFont(font(10, MEDIUM))
        taken: list[QRect] = []
        for box, name in self.names:
            painter.setPen(QColor(colours().amber))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(box), 6, 6)
            place = self._free_place(box, painter.fontMetrics().horizontalAdvance(name) + 2 * _PAD, taken)
            taken.append(place)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("#fff4e6"))
            painter.drawRoundedRect(QRectF(place), 4, 4)
            painter.setPen(QColor("#22262a"))
            painter.drawText(place, Qt.AlignmentFlag.AlignCenter, name)
        painter.end()

    def _free_place(self, box: QRect, width: int, taken: list[QRect]) -> QRect:
        """Return a place for a name over its control that no other name has, moved down where there is none."""
        x = max(2, min(box.center().x() - width // 2, self.width() - width - 2))
        for dy in (0, _HEIGHT, -_HEIGHT, 2 * _HEIGHT, -2 * _HEIGHT):
            place = QRect(x, box.center().y() - _HEIGHT // 2 + dy, width, _HEIGHT)
            if not any(place.intersects(other) for other in taken):
                return place
        return QRect(x, box.center().y() - _HEIGHT // 2, width, _HEIGHT)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Leave."""
        self.close()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leave."""
        self.close()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Leave when the window changes its size: the names would lie elsewhere."""
        if event.type() == QEvent.Type.Resize:
            self.close()
        return False


def control_name(widget: QWidget) -> str:
    """Return what a control is called, its words where it has no other name; "" for what is no control."""
    if not isinstance(widget, _KINDS) or isinstance(widget, QScrollBar):
        return ""
    words = widget.text() if isinstance(widget, QAbstractButton) else ""
    return widget.accessibleName() or words


def _names_in(window: QWidget) -> list[tuple[QRect, str]]:
    """Return where each control that is in sight lies, and its name."""
    found = []
    for child in window.findChildren(QWidget):
        name = control_name(child)
        if not name or not child.isVisible():
            continue
        seen = child.visibleRegion().boundingRect()
        if not seen.isEmpty():
            found.append((QRect(child.mapTo(window, QPoint(0, 0)) + seen.topLeft(), seen.size()), name))
    return found
