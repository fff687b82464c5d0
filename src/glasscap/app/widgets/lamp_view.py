"""The lamp on a small picture of the cutout: dragged round and away, its light made softer by the wheel."""

import math

from PySide6.QtCore import QEvent, QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QRadialGradient,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from glasscap.app.runs import Run
from glasscap.app.theme.fonts import font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.wheel import NOTCH, takes_wheel
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.lamp import Lamp

HEIGHT, CUTOUT_SIDE = 172, 84
# The lamp stands above the cutout at the ring, and at the farthest this far from the border.
_RING, _RIM, _KNOB, _NEAR = 46.0, 14.0, 7.0, 14.0
_LEAST_RANGE = 10.0
_STEP, _WIDE_STEP = 1.0, 15.0
_WORDS = "Drag the lamp: round and away"
_TURNS = {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0}
_PUSHES = {Qt.Key.Key_Down: -1.0, Qt.Key.Key_Up: 1.0}
_BLURS = {Qt.Key.Key_PageDown: -1.0, Qt.Key.Key_PageUp: 1.0}
_OWN_KEYS = (*_TURNS, *_PUSHES, *_BLURS)


class LampView(QWidget):
    """`moved(lamp)` while the lamp is dragged, `stepped(lamp)` at its end, `given_up()` after Escape.

    Keys tell `nudged(degrees, px)`: turned, or farther away; keys and the wheel `softened(px)`. Keys and notches
    without a pause are one run.
    """

    moved = Signal(object)
    stepped = Signal(object)
    given_up = Signal()
    nudged = Signal(float, float)
    softened = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Lamp")
        self.setFixedHeight(HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setToolTip("Drag the lamp round and away; Shift for 15° steps. The wheel makes its light softer.")
        self._lamp = Lamp()
        self._is_lit = False
        self._held: QPointF | None = None
        self._has_moved = False
        self._before = self._lamp
        self._run = Run()
        self._frame: Frame | None = None

    def show_lamp(self, lamp: Lamp | None, words: str) -> None:
        """Show where the lamp stands; None where no light has a direction yet."""
        self._is_lit = lamp is not None
        if self._held is None:
            self._lamp = lamp or Lamp(reach=0.2)
        self.setAccessibleDescription(words)
        self.update()

    def show_frame(self, frame: Frame | None) -> None:
        """Show the cutout, drawn for this view in device px."""
        self._frame = frame
        self.update()

    # where things are

    @property
    def _middle(self) -> QPointF:
        return QPointF(self.width() / 2, self.height() / 2)

    def _range(self, degrees: float) -> float:
        """Return how many px the lamp can go away in a direction."""
        angle = math.radians(degrees)
        across, down = abs(math.cos(angle)), abs(math.sin(angle))
        half_width, half_height = self.width() / 2 - _RIM, self.height() / 2 - _RIM
        end = min(half_width / max(across, 1e-9), half_height / max(down, 1e-9))
        return max(end - _RING, _LEAST_RANGE)

    def knob(self) -> QPointF:
        """Return where the lamp is drawn."""
        angle = math.radians(self._lamp.direction)
        far = _RING + self._lamp.reach * self._range(self._lamp.direction)
        return self._middle + QPointF(math.cos(angle), math.sin(angle)) * far

    def _lamp_at(self, place: QPointF, *, is_coarse: bool) -> Lamp:
        away = place - self._middle
        degrees = math.degrees(math.atan2(away.y(), away.x()))
        step = _WIDE_STEP if is_coarse else _STEP
        degrees = math.remainder(round(degrees / step) * step, 360.0)
        reach = (math.hypot(away.x(), away.y()) - _RING) / self._range(degrees)
        return Lamp(degrees, min(max(reach, 0.0), 1.0))

    # the hand

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take the lamp, or call it to the pointer."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        offset = self.knob() - event.position()
        is_near = math.hypot(offset.x(), offset.y()) <= _NEAR
        self._held, self._has_moved, self._before = (offset if is_near else QPointF()), False, self._lamp
        if not is_near:
            self._follow(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Carry the lamp."""
        if self._held is not None:
            self._follow(event)

    def _follow(self, event: QMouseEvent) -> None:
        assert self._held is not None
        is_coarse = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        self._lamp, self._has_moved = self._lamp_at(event.position() + self._held, is_coarse=is_coarse), True
        self.update()
        self.moved.emit(self._lamp)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Set the lamp down."""
        if self._held is not None:
            self._held = None
            if self._has_moved:
                self.stepped.emit(self._lamp)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Make the light softer or harder where the lamp is in use."""
        if takes_wheel(self):
            with self._run.notch():
                self.softened.emit(event.angleDelta().y() / NOTCH)
            event.accept()
        else:
            event.ignore()

    def event(self, event: QEvent) -> bool:
        """Keep the lamp's own keys from the window's commands."""
        is_asked = event.type() == QEvent.Type.ShortcutOverride
        if is_asked and isinstance(event, QKeyEvent):
            key = Qt.Key(event.key())
            if key in _OWN_KEYS or (key == Qt.Key.Key_Escape and self._held is not None):
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Turn with left and right, farther and nearer with up and down, softer with Page Up; Shift for more."""
        key, many = Qt.Key(event.key()), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key == Qt.Key.Key_Escape and self._held is not None:
            self._lamp, self._held = self._before, None
            self.given_up.emit()
            self.update()
        elif key in _OWN_KEYS:
            with self._run.notch():
                self._push(key, 10.0 if many else 1.0, _WIDE_STEP if many else _STEP)
        else:
            super().keyPressEvent(event)

    def _push(self, key: Qt.Key, px: float, degrees: float) -> None:
        if key in _TURNS:
            self.nudged.emit(_TURNS[key] * degrees, 0.0)
        elif key in _PUSHES:
            self.nudged.emit(0.0, _PUSHES[key] * px)
        else:
            self.softened.emit(_BLURS[key] * px)

    # the picture

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the lit ground, the cutout, and the lamp."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        lamp, chosen = self.knob(), colours()
        box = QRectF(self.rect()).adjusted(0.75, 0.75, -0.75, -0.75)
        ground = QRadialGradient(lamp, self.width() * 0.9)
        ground.setColorAt(0.0, QColor(chosen.field if self._is_lit else chosen.card))
        ground.setColorAt(1.0, QColor(chosen.line if self._is_lit else chosen.panel))
        has_focus = self.hasFocus()
        painter.setPen(QPen(QColor(chosen.ink if has_focus else chosen.line), 1.5 if has_focus else 1.0))
        painter.setBrush(ground)
        painter.drawRoundedRect(box, 6, 6)
        self._paint_cutout(painter)
        painter.setPen(QColor(chosen.muted))
        painter.setFont(font(11))
        painter.drawText(box.adjusted(8, 0, -8, -7), Qt.AlignmentFlag.AlignBottom, _WORDS)
        self._paint_lamp(painter, lamp)
        painter.end()

    def _paint_cutout(self, painter: QPainter) -> None:
        if self._frame is None:
            return
        image, ratio = to_image(self._frame), self.devicePixelRatioF()
        place = QPointF(self._frame.x / ratio, self._frame.y / ratio)
        size = QSizeF(image.width() / ratio, image.height() / ratio)
        painter.drawImage(QRectF(place, size), image)

    def _paint_lamp(self, painter: QPainter, lamp: QPointF) -> None:
        amber = QColor(colours().amber if self._is_lit else colours().muted)
        painter.setPen(QPen(amber, 1.0))
        painter.drawLine(lamp, self._middle)
        glow = QColor(amber)
        glow.setAlpha(60)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(glow)
        painter.drawEllipse(lamp, _KNOB + 6, _KNOB + 6)
        painter.setPen(QPen(amber, 3.0))
        painter.setBrush(QColor(colours().field))
        painter.drawEllipse(lamp, _KNOB, _KNOB)
