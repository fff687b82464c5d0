"""A small panel that chooses a colour: proposed ones, hue, strength, light, opacity, digits, a dropper."""

from collections.abc import Sequence

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QColor, QHideEvent, QKeyEvent, QLinearGradient, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_field import ColourField
from glasscap.app.widgets.dropper import Dropper
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import give_keys_back
from glasscap.core.document.model.paint import colour_of, rgba_of

_WIDTH = 236
_TRACK_HEIGHT = 16
_OPAQUE = 255
_HOUSE = ("#ffffff", "#000000", "#fbfaf7", "#22262a", "#b4532c", "#0b7a75", "#f4e9d8", "#c7a15a")


def qcolor(colour: str) -> QColor:
    """Return "#rrggbb" or "#rrggbbaa" as the toolkit's colour."""
    red, green, blue, alpha = (round(v) for v in rgba_of(colour))
    return QColor(red, green, blue, alpha)


def text_of(colour: QColor) -> str:
    """Return the toolkit's colour as "#rrggbb" or "#rrggbbaa"."""
    return colour_of(colour.red(), colour.green(), colour.blue(), colour.alpha())


class Track(QWidget):
    """A bar of colours along which a value 0 to 1 is dragged. `moved` while it lasts, `settled` at its end."""

    moved = Signal(float)
    settled = Signal(float)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setFixedHeight(_TRACK_HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._value, self._stops = 0.0, (QColor("black"), QColor("white"))

    def show_value(self, value: float, stops: Sequence[QColor]) -> None:
        """Show a value on a run of colours."""
        self._value, self._stops = value, tuple(stops)  # type: ignore[assignment]
        self.update()

    def _value_at(self, x: float) -> float:
        return min(max((x - 7) / max(self.width() - 14, 1), 0.0), 1.0)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin a drag."""
        self.moved.emit(self._value_at(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Go on."""
        self.moved.emit(self._value_at(event.position().x()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Settle."""
        self.settled.emit(self._value_at(event.position().x()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Step with the arrows."""
        step = {Qt.Key.Key_Left: -0.01, Qt.Key.Key_Right: 0.01}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.settled.emit(min(max(self._value + step, 0.0), 1.0))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the colours and the knob."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        run = QLinearGradient(7, 0, self.width() - 7, 0)
        for index, stop in enumerate(self._stops):
            run.setColorAt(index / max(len(self._stops) - 1, 1), stop)
        bar = self.rect().adjusted(0, 4, 0, -4)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(checkerboard(0.5))
        painter.drawRoundedRect(bar, 4, 4)
        painter.setBrush(run)
        painter.drawRoundedRect(bar, 4, 4)
        x = 7 + self._value * (self.width() - 14)
        painter.setPen(QColor(colours().ink))
        painter.setBrush(QColor(colours().field))
        painter.drawRoundedRect(round(x) - 4, 1, 8, self.height() - 3, 3, 3)
        if self.hasFocus():
            painter.setPen(QColor(colours().teal))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(self.rect().adjusted(0, 0, -1, -1), 5, 5)
        painter.end()


class Swatch(QWidget):
    """A colour to click."""

    clicked = Signal(str)

    def __init__(self, colour: str, side: int = 22) -> None:
        super().__init__()
        self.setFixedSize(side, side)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.show_colour(colour)

    def show_colour(self, colour: str) -> None:
        """Show a colour."""
        self.colour = colour
        self.setToolTip(colour)
        self.setAccessibleName(f"Colour {colour}")
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.clicked.emit(self.colour)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose it."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.clicked.emit(self.colour)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint it over the checkerboard."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        box = self.rect().adjusted(1, 1, -1, -1)
        painter.setBrush(checkerboard(0.5))
        painter.drawRoundedRect(box, 5, 5)
        painter.setBrush(qcolor(self.colour))
        painter.setPen(QColor(colours().ink if self.hasFocus() else colours().line))
        painter.drawRoundedRect(box, 5, 5)
        painter.end()


class ColourPanel(QFrame):
    """Opens beside what it colours. `moved(colour)` while a track is dragged, `chosen(colour)` at its end.

    Of a colour that is not `see_through` there is no opacity to choose.
    """

    moved = Signal(str)
    chosen = Signal(str)

    def __init__(
        self, parent: QWidget, colour: str, proposals: Sequence[str] = (), *, see_through: bool = True
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setObjectName("popup")
        self.setAccessibleName("Colour")
        self.setFixedWidth(_WIDTH)
        self._owner, self._hsl = parent, (0.0, 0.0, 0.0, 1.0)
        self._see_through, self._is_moving = see_through, False
        self.tracks = {n: Track(n) for n in ("Hue", "Strength", "Light", *(["Opacity"] if see_through else []))}
        self.digits = ColourField("Colour digits or name", see_through=see_through)
        self.digits.stepped.connect(self._choose)
        self.dropper = tool("pipette", "Take a colour from the photo or anywhere in the window", self._on_dropper)
        self._lay_out(proposals)
        for place, track in enumerate(self.tracks.values()):
            track.moved.connect(lambda value, place=place: self._on_track(place, value, is_settled=False))
            track.settled.connect(lambda value, place=place: self._on_track(place, value, is_settled=True))
        self.show_colour(colour)

    def _lay_out(self, proposals: Sequence[str]) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(11, 9, 11, 11)
        column.setSpacing(5)
        self.proposed = self._swatch_row(column, "From the photo", proposals)
        self.house = self._swatch_row(column, "House colours", _HOUSE)
        grid = QGridLayout()
        grid.setSpacing(5)
        for row, (name, track) in enumerate(self.tracks.items()):
            grid.addWidget(label(name, "muted"), row, 0)
            grid.addWidget(track, row, 1)
        column.addLayout(grid)
        row_ = QHBoxLayout()
        row_.addWidget(self.digits, 1)
        row_.addWidget(self.dropper)
        column.addLayout(row_)
        self.wrong = label("", "small")
        self.wrong.setWordWrap(True)
        self.wrong.hide()
        column.addWidget(self.wrong)
        self.digits.refused.connect(self._on_refused)
        self.digits.textEdited.connect(lambda: self.wrong.hide())

    def _swatch_row(self, column: QVBoxLayout, words: str, choices: Sequence[str]) -> list[Swatch]:
        made = [Swatch(c) for c in choices]
        if made:
            column.addWidget(label(words, "small"))
            row = QHBoxLayout()
            row.setSpacing(4)
            for swatch in made:
                swatch.clicked.connect(self._choose)
                row.addWidget(swatch)
            row.addStretch(1)
            column.addLayout(row)
        return made

    @property
    def colour(self) -> str:
        """The colour shown."""
        return text_of(QColor.fromHslF(*self._hsl))

    def show_colour(self, colour: str) -> None:
        """Show a colour without telling."""
        given = qcolor(colour).toHsl()
        # A grey has no hue: the one there was stays.
        hue = given.hslHueF() if given.hslHueF() >= 0 and given.hslSaturationF() > 0 else self._hsl[0]
        self._hsl = (hue, given.hslSaturationF(), given.lightnessF(), given.alphaF())
        self._show()

    def _show(self) -> None:
        hue, strength, light, opacity = self._hsl
        solid = QColor.fromHslF(hue, strength, light)
        clear = QColor(solid)
        clear.setAlpha(0)
        runs = (
            [QColor.fromHslF(n / 12 % 1.0, 0.75, 0.55) for n in range(13)],
            [QColor.fromHslF(hue, n / 4, light) for n in range(5)],
            [QColor.fromHslF(hue, strength, n / 8) for n in range(9)],
            [clear, solid],
        )
        values = (hue, strength, light, opacity)
        for track, value, run in zip(self.tracks.values(), values, runs, strict=False):
            track.show_value(value, run)
        self.digits.show_colour(self.colour)

    def _on_track(self, place: int, value: float, *, is_settled: bool) -> None:
        values = list(self._hsl)
        values[place] = value
        self._hsl = (values[0], values[1], values[2], values[3])
        self._is_moving = not is_settled
        self._show()
        (self.chosen if is_settled else self.moved).emit(self.colour)

    def hideEvent(self, event: QHideEvent) -> None:
        """Choose what a track was at that is still held: nobody lets go of it any more."""
        if self._is_moving:
            self._is_moving = False
            self.chosen.emit(self.colour)
        super().hideEvent(event)
        give_keys_back(self._owner)

    def _choose(self, colour: str) -> None:
        self.show_colour(colour)
        self.chosen.emit(colour)

    def _on_refused(self, why: str) -> None:
        self.wrong.setText(why)
        self.wrong.show()
        self.adjustSize()

    def _on_dropper(self) -> None:
        dropper = Dropper(self._owner.window())
        dropper.taken.connect(self._choose)
        dropper.left.connect(self.deleteLater)
        # The panel's tellings reach its owner even while it is out of sight.
        self.hide()
        dropper.begin()

    def open_below(self, owner: QWidget) -> None:
        """Open under its owner, within the screen."""
        self.adjustSize()
        at = owner.mapToGlobal(QPoint(0, owner.height() + 4))
        room = owner.screen().availableGeometry()
        x = min(max(at.x(), room.left()), room.right() - self.width())
        y = at.y() if at.y() + self.height() <= room.bottom() else at.y() - owner.height() - self.height() - 8
        self.move(x, max(y, room.top()))
        self.show()
        self.digits.setFocus()
        self.digits.selectAll()
