"""A colour that opens a panel when clicked."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QPushButton

from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_panel import ColourPanel, qcolor

Proposals = Callable[[], Sequence[str]]


def _none() -> Sequence[str]:
    return ()


class ColourWell(QPushButton):
    """`moved(colour)` while one is being looked for, `stepped(colour)` when it is chosen."""

    moved = Signal(str)
    stepped = Signal(str)

    def __init__(self, name: str, proposals: Proposals = _none) -> None:
        super().__init__()
        self._name, self._proposals = name, proposals
        self.colour = "#000000"
        self.panel: ColourPanel | None = None
        self.setFixedWidth(112)
        self.setAutoDefault(False)
        self.show_colour(self.colour)
        self.clicked.connect(self.open)

    def show_colour(self, colour: str) -> None:
        """Show a colour without telling."""
        self.colour = colour
        self.setText(f"      {colour}")
        self.setToolTip(f"{self._name}: {colour}")
        self.setAccessibleName(f"{self._name}, {colour}")
        self.update()

    def open(self) -> None:
        """Open the panel."""
        self.panel = ColourPanel(self, self.colour, self._proposals())
        self.panel.moved.connect(self.moved)
        self.panel.chosen.connect(self._on_chosen)
        self.panel.destroyed.connect(self._forget)
        self.panel.open_below(self)

    def _forget(self) -> None:
        self.panel = None

    def _on_chosen(self, colour: str) -> None:
        self.show_colour(colour)
        self.stepped.emit(colour)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint a square of the colour on the button."""
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        side = 16
        y = (self.height() - side) // 2
        painter.setBrush(checkerboard(0.5))
        painter.drawRoundedRect(7, y, side, side, 4, 4)
        painter.setPen(QColor(colours().line))
        painter.setBrush(qcolor(self.colour))
        painter.drawRoundedRect(7, y, side, side, 4, 4)
        painter.end()
