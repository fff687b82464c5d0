"""The wheel scrolls panels; it changes a control only where that has the keys and the panel lies still."""

from time import monotonic

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import (
    QAbstractScrollArea,
    QComboBox,
    QScrollArea,
    QSlider,
    QStyle,
    QStyleOptionComboBox,
    QStylePainter,
    QWidget,
)

from glasscap.app.widgets.line_field import give_keys_back

NOTCH = 120
# A control that comes under the pointer while a panel scrolls is not meant.
_SCROLLING_SECONDS = 0.6
# Logical px of a drop-down list that its words do not have: padding, border and arrow; and beside an icon.
_BESIDE_TEXT, _BESIDE_ICON = 32, 4
_scrolled_at = [-1e9]


def takes_wheel(control: QWidget) -> bool:
    """Whether the wheel is meant for a control under the pointer."""
    return control.hasFocus() and monotonic() - _scrolled_at[0] > _SCROLLING_SECONDS


def note_scrolling() -> None:
    """Remember that a panel is scrolled now."""
    _scrolled_at[0] = monotonic()


def keep_bar(area: QAbstractScrollArea) -> None:
    """Have an upright bar always there, seen only where there is something to scroll.

    Else what is in the area would shift sideways.
    """
    area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
    bar = area.verticalScrollBar()
    bar.setEnabled(False)
    bar.rangeChanged.connect(lambda low, high: bar.setEnabled(high > low))


class ScrollPanel(QScrollArea):
    """A scroll area without a frame or a place in the tab order; what is in it has both."""

    def __init__(self, inner: QWidget, *, is_upright: bool) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        off = Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        if not is_upright:
            self.setVerticalScrollBarPolicy(off)
        else:
            self.setHorizontalScrollBarPolicy(off)
            keep_bar(self)
        self.setWidget(inner)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Scroll, and remember it."""
        note_scrolling()
        super().wheelEvent(event)


class DropDown(QComboBox):
    """A list that drops down."""

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._is_clicked = False

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint what is chosen, shortened in its middle where it does not fit."""
        painter, look = QStylePainter(self), QStyleOptionComboBox()
        self.initStyleOption(look)
        painter.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, look)
        icon = 0 if look.currentIcon.isNull() else look.iconSize.width() + _BESIDE_ICON
        room = self.width() - _BESIDE_TEXT - icon
        whole = look.currentText
        look.currentText = self.fontMetrics().elidedText(whole, Qt.TextElideMode.ElideMiddle, room)
        if look.currentText != whole and self.toolTip() != whole:
            self.setToolTip(whole)
        painter.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, look)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Drop down; once something is chosen the keys go back."""
        self._is_clicked = True
        super().mousePressEvent(event)

    def hidePopup(self) -> None:
        """Give the keys back that a click took."""
        super().hidePopup()
        if self._is_clicked:
            self._is_clicked = False
            give_keys_back(self)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Choose the next one only where the list is in use."""
        if takes_wheel(self):
            super().wheelEvent(event)
        else:
            event.ignore()


_KEYS = {
    Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1,
    Qt.Key.Key_PageDown: -10, Qt.Key.Key_PageUp: 10,
}  # fmt: skip


class Slider(QSlider):
    """`nudged(steps)` for arrow keys and notches of the wheel: the steps are those of the number beside it."""

    nudged = Signal(float)
    turned = Signal(float)

    def __init__(self) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Step by what the number shows, with Shift by ten."""
        steps = _KEYS.get(Qt.Key(event.key()))
        if steps is None:
            super().keyPressEvent(event)
            return
        self.nudged.emit(steps * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1))
        event.accept()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Step where the slider is in use."""
        if takes_wheel(self):
            self.turned.emit(event.angleDelta().y() / NOTCH)
            event.accept()
        else:
            event.ignore()
