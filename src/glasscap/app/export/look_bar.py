"""The bar that sets the view of compared pictures: fitted, px for px, the edge enlarged; the background."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QLinearGradient, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLayout, QToolButton

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_panel import qcolor
from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.paint import ColourPaint, GradientPaint

_SWATCH = 20


LookedOn = str | Backdrop | None


class Swatch(QToolButton):
    """A background to look at it on; None is the checkerboard."""

    def __init__(self, name: str, backdrop: LookedOn, on_click: Callable[[], object]) -> None:
        super().__init__()
        self.backdrop = backdrop
        self.setObjectName("flat")
        self.setToolTip(f"Over {name}")
        self.setAccessibleName(f"Over {name}")
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
    """`look_chosen(name)` and `backdrop_chosen(colour, backdrop or None)`."""

    look_chosen = Signal(str)
    backdrop_chosen = Signal(object)
    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("bar")
        self.setAccessibleName("How it is looked at")
        self.looks = Choice(
            "Look", [("fit", "Fit"), ("whole", "100 %"), ("edge", "Edge 8×")], self.look_chosen.emit
        )
        self.swatches: list[Swatch] = []
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(6, 4, 10, 4)
        self._row.setSpacing(4)
        self._row.addWidget(self.looks)
        # As large as what it holds, also when its words are measured only once it is seen.
        self._row.setSizeConstraint(QLayout.SizeConstraint.SetFixedSize)

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

    def show_look(self, look: str, backdrop: LookedOn) -> None:
        """Press the buttons of what is shown."""
        self.looks.show_choice(look)
        for swatch in self.swatches:
            swatch.setChecked(swatch.backdrop == backdrop)
