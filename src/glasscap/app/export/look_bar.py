"""How the compared pictures are looked at: fitted, px for px, the edge enlarged; over which background."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QToolButton

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice
from glasscap.app.widgets.checker import checkerboard

_SWATCH = 20


class Swatch(QToolButton):
    """A background to look at it on; None is the checkerboard."""

    def __init__(self, name: str, colour: str | None, on_click: Callable[[], object]) -> None:
        super().__init__()
        self.colour = colour
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
        painter.setBrush(checkerboard(0.6) if self.colour is None else QColor(self.colour))
        painter.drawRoundedRect(x, x, _SWATCH, _SWATCH, 5, 5)
        painter.end()


class LookBar(QFrame):
    """`look_chosen(name)` and `backdrop_chosen(colour or None)`."""

    look_chosen = Signal(str)
    backdrop_chosen = Signal(object)

    def __init__(self, backdrops: Sequence[tuple[str, str | None]]) -> None:
        super().__init__()
        self.setObjectName("bar")
        self.setAccessibleName("How it is looked at")
        self.looks = Choice(
            "Look", [("fit", "Fit"), ("whole", "100 %"), ("edge", "Edge 8×")], self.look_chosen.emit
        )
        self.swatches: list[Swatch] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(6, 4, 10, 4)
        row.setSpacing(4)
        row.addWidget(self.looks)
        for name, colour in backdrops:
            made = Swatch(name, colour, lambda colour=colour: self.backdrop_chosen.emit(colour))  # type: ignore[misc]
            made.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            self.swatches.append(made)
            row.addWidget(made)

    def show_look(self, look: str, backdrop: str | None) -> None:
        """Press the buttons of what is shown."""
        self.looks.show_choice(look)
        for swatch in self.swatches:
            swatch.setChecked(swatch.colour == backdrop)
