"""The bar that sets the view of compared pictures: fitted, px for px, the edge enlarged; the background."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QLinearGradient, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QFrame, QHBoxLayout, QLayout, QPushButton, QToolButton

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice, push
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_panel import qcolor
from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.paint import ColourPaint, GradientPaint

_SWATCH = 20
# The bar's margins and the space between its rows, px.
_AROUND = 28


LookedOn = str | Backdrop | None


class Swatch(QToolButton):
    """A background to look at it on; None is the checkerboard."""

    def __init__(self, name: str, backdrop: LookedOn, on_click: Callable[[], object]) -> None:
        super().__init__()
        self.backdrop = backdrop
        self.setObjectName("flat")
        self.setToolTip(f"On {name.lower()}")
        self.setAccessibleName(f"On {name.lower()}")
        self.setCheckable(True)
        self.setFixedSize(30, 30)
        self.clicked.connect(lambda: on_click())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint a square of it."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = (self.width() - _SWATCH) // 2
        is_strong = self.isChecked() or self.hasFocus()
        painter.setPen(QPen(QColor(colours().teal if is_strong else colours().line), 2 if is_strong else 1))
        painter.setBrush(self._brush(QRectF(x, x, _SWATCH, _SWATCH)))
        painter.drawRoundedRect(x, x, _SWATCH, _SWATCH, 5, 5)
        painter.end()

    def _brush(self, box: QRectF) -> QBrush:
        """Return a hint of the background: a picture and a texture are a slanted half."""
        backdrop = self.backdrop
        if backdrop is None:
            return QBrush(checkerboard(0.6))
        if isinstance(backdrop, str | ColourPaint):
            return QBrush(QColor(backdrop if isinstance(backdrop, str) else backdrop.colour))
        run = QLinearGradient(box.topLeft(), box.bottomRight())
        if isinstance(backdrop, GradientPaint):
            for stop in backdrop.stops:
                run.setColorAt(stop.at, qcolor(stop.colour))
        else:
            for at, colour in ((0.0, "#d9cfbd"), (0.49, "#d9cfbd"), (0.51, "#8d8371"), (1.0, "#8d8371")):
                run.setColorAt(at, QColor(colour))
        return QBrush(run)


class LookBar(QFrame):
    """`look_chosen(name)`, `glass_chosen(zoom)`, `filling_chosen(name)`, `backdrop_chosen(backdrop or None)`."""

    look_chosen = Signal(str)
    glass_chosen = Signal(int)
    filling_chosen = Signal(str)
    backdrop_chosen = Signal(object)
    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("bar")
        self.setAccessibleName("How it is looked at")
        self.looks = Choice("Look", [("fit", "Fit"), ("whole", "100 %")], self.look_chosen.emit)
        self.glasses = Choice(
            "Glass", [("1", "Glass 1×"), ("8", "Glass 8×")], lambda zoom: self.glass_chosen.emit(int(zoom))
        )
        self.file = push("Whole file", lambda: self._tell_filling("file", self.file))
        self.file.setToolTip("Show the whole view as the file; hold F over the picture for a moment's look")
        self.difference = push("Difference", lambda: self._tell_filling("difference", self.difference))
        self.difference.setToolTip("Show where the file differs from the bench, and how much")
        self.swatches: list[Swatch] = []
        # Two rows, side by side where there is room.
        self._rows = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._rows.setContentsMargins(6, 4, 10, 4)
        self._rows.setSpacing(4)
        self._first, self._row = QHBoxLayout(), QHBoxLayout()
        for row in (self._first, self._row):
            row.setSpacing(4)
            self._rows.addLayout(row)
        self._first.addWidget(self.looks)
        self._first.addWidget(self.glasses)
        for made in (self.file, self.difference):
            made.setCheckable(True)
            self._row.addWidget(made)
        # As large as what it holds, also when its words are measured only once it is seen.
        self._rows.setSizeConstraint(QLayout.SizeConstraint.SetFixedSize)

    def fit_into(self, width: int) -> None:
        """Take two rows where one has no room in a width, logical px."""
        wide = self._first.sizeHint().width() + self._row.sizeHint().width() + _AROUND
        to = QBoxLayout.Direction.LeftToRight if wide <= width else QBoxLayout.Direction.TopToBottom
        if self._rows.direction() != to:
            self._rows.setDirection(to)

    def show_backdrops(self, backdrops: Sequence[tuple[str, LookedOn]]) -> None:
        """Offer backgrounds, each with its name."""
        if [s.backdrop for s in self.swatches] == [b for _, b in backdrops]:
            return
        for gone in self.swatches:
            self._row.removeWidget(gone)
            gone.deleteLater()
        self.swatches = []
        for name, backdrop in backdrops:
            made = Swatch(name, backdrop, partial(self.backdrop_chosen.emit, backdrop))
            made.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            self.swatches.append(made)
            self._row.addWidget(made)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Tell who keeps it in its place."""
        super().resizeEvent(event)
        self.resized.emit()

    def _tell_filling(self, name: str, button: QPushButton) -> None:
        self.filling_chosen.emit(name if button.isChecked() else "bench")

    def show_look(self, look: str, glass: int, filling: str, backdrop: LookedOn) -> None:
        """Press the buttons of what is shown."""
        self.looks.show_choice(look)
        self.glasses.show_choice(str(glass))
        self.file.setChecked(filling == "file")
        self.difference.setChecked(filling == "difference")
        for swatch in self.swatches:
            swatch.setChecked(swatch.backdrop == backdrop)
