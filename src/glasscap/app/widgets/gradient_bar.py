"""The stops of a gradient on a bar: drag one, click the bar for another, pull one off, click for its colour."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_panel import qcolor
from glasscap.app.widgets.menus import MenuEntry, open_menu
from glasscap.core.document.model.paint import GradientPaint, Stop, colour_of, rgba_of

_PAD, _BAR, _KNOB, _HEIGHT = 8, 18, 13, 38
_PULL_OFF = 26


class GradientBar(QWidget):
    """`moved(stops)` while one is dragged, `stepped(stops)` at its end, `stop_chosen(index)` for its colour."""

    moved = Signal(object)
    stepped = Signal(object)
    stop_chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Gradient stops")
        self.setToolTip("Drag a stop, click the bar for another, pull one off to take it away")
        self.setFixedHeight(_HEIGHT)
        self.setMinimumWidth(120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.chosen = 0
        self._stops: tuple[Stop, ...] = GradientPaint().stops
        self._held: int | None = None
        self._dragged: tuple[Stop, ...] | None = None

    @property
    def stops(self) -> tuple[Stop, ...]:
        """The stops shown."""
        return self._dragged if self._dragged is not None else self._stops

    def show_stops(self, stops: Sequence[Stop]) -> None:
        """Show stops without telling."""
        self._stops = tuple(stops)
        self.chosen = min(self.chosen, len(self._stops) - 1)
        self.update()

    def _x(self, at: float) -> float:
        return _PAD + at * (self.width() - 2 * _PAD)

    def _at(self, x: float) -> float:
        return round(min(max((x - _PAD) / max(self.width() - 2 * _PAD, 1), 0.0), 1.0), 4)

    def _stop_near(self, x: float) -> int | None:
        near = [(abs(self._x(s.at) - x), n) for n, s in enumerate(self._stops)]
        away, index = min(near)
        return index if away <= _KNOB / 2 + 2 else None

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Offer what can be done to the stop under the pointer, or to the one chosen."""
        found = self._stop_near(event.x())
        if found is not None:
            self.chosen = found
            self.stop_chosen.emit(found)
            self.update()
        stop = self.chosen
        entry = MenuEntry(
            "Take the stop away", lambda: self.remove(stop), "Del", is_possible=len(self._stops) > 1
        )
        open_menu(self, [entry], event.globalPos())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a stop, or make one."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        x = event.position().x()
        found = self._stop_near(x)
        if found is None:
            at = self._at(x)
            found = sum(s.at <= at for s in self._stops)
            stops = list(self._stops)
            stops.insert(found, Stop(at, colour_between(self._stops, at)))
            self._dragged = tuple(stops)
            self.moved.emit(self._dragged)
        self._held = self.chosen = found
        self.stop_chosen.emit(found)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move it between its neighbours, or off the bar."""
        if self._held is None:
            return
        whole = list(self._dragged or self._stops)
        if len(whole) <= self._held:
            return
        low = whole[self._held - 1].at if self._held > 0 else 0.0
        high = whole[self._held + 1].at if self._held + 1 < len(whole) else 1.0
        at = min(max(self._at(event.position().x()), low), high)
        whole[self._held] = Stop(at, whole[self._held].colour)
        self._dragged = tuple(whole)
        self.moved.emit(self._dragged)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Settle."""
        stops, held = self._dragged, self._held
        self._dragged = self._held = None
        is_off = not -_PULL_OFF <= event.position().y() <= _HEIGHT + _PULL_OFF
        if held is not None and is_off:
            self.remove(held)
        elif stops is not None:
            self._stops = stops
            self.stepped.emit(stops)
        self.update()

    def remove(self, index: int) -> None:
        """Take a stop away; the last one stays."""
        if len(self._stops) > 1 and index < len(self._stops):
            self._stops = (*self._stops[:index], *self._stops[index + 1 :])
            self.chosen = min(self.chosen, len(self._stops) - 1)
            self.stepped.emit(self._stops)
            self.stop_chosen.emit(self.chosen)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Step along the stops, move or delete one."""
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove(self.chosen)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if key == Qt.Key.Key_Right else -1
            self.chosen = min(max(self.chosen + step, 0), len(self._stops) - 1)
            self.stop_chosen.emit(self.chosen)
            self.update()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the bar and its stops."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        run = QLinearGradient(_PAD, 0, self.width() - _PAD, 0)
        for stop in self.stops:
            run.setColorAt(stop.at, qcolor(stop.colour))
        bar = QRectF(_PAD, 2, self.width() - 2 * _PAD, _BAR)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(checkerboard(0.5))
        painter.drawRoundedRect(bar, 5, 5)
        painter.setBrush(run)
        painter.setPen(QColor(colours().teal if self.hasFocus() else colours().line))
        painter.drawRoundedRect(bar, 5, 5)
        for index, stop in enumerate(self.stops):
            is_chosen = index == self.chosen
            painter.setPen(QPen(QColor(colours().teal if is_chosen else colours().ink), 2 if is_chosen else 1))
            painter.setBrush(QColor(colours().field))
            painter.drawEllipse(QPointF(self._x(stop.at), _BAR + 10), _KNOB / 2, _KNOB / 2)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(qcolor(stop.colour))
            painter.drawEllipse(QPointF(self._x(stop.at), _BAR + 10), _KNOB / 2 - 3, _KNOB / 2 - 3)
        painter.end()


def colour_between(stops: Sequence[Stop], at: float) -> str:
    """Return the colour a gradient has at a place."""
    before = max((s for s in stops if s.at <= at), key=lambda s: s.at, default=stops[0])
    after = min((s for s in stops if s.at >= at), key=lambda s: s.at, default=stops[-1])
    share = 0.0 if after.at <= before.at else (at - before.at) / (after.at - before.at)
    one, other = rgba_of(before.colour), rgba_of(after.colour)
    red, green, blue, alpha = (a + (b - a) * share for a, b in zip(one, other, strict=True))
    return colour_of(red, green, blue, alpha)
