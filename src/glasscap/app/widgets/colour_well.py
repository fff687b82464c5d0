"""A colour: a field to type it into, and a swatch beside it that opens the panel."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.colour_field import ColourField
from glasscap.app.widgets.colour_panel import ColourPanel, qcolor

Proposals = Callable[[], Sequence[str]]
_SIDE = 28


def _none() -> Sequence[str]:
    return ()


class SwatchButton(QToolButton):
    """A square of the colour."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(_SIDE, _SIDE)
        self.setObjectName("flat")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.colour = "#000000"

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the colour over the checkerboard."""
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = self.rect().adjusted(4, 4, -4, -4)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(checkerboard(0.5))
        painter.drawRoundedRect(box, 4, 4)
        painter.setPen(QColor(colours().ink if self.hasFocus() else colours().line))
        painter.setBrush(qcolor(self.colour))
        painter.drawRoundedRect(box, 4, 4)
        painter.end()


class ColourWell(QWidget):
    """`moved(colour)` while one is being looked for, `stepped(colour)` when it is chosen or typed."""

    moved = Signal(str)
    stepped = Signal(str)
    refused = Signal(str)

    def __init__(self, name: str, proposals: Proposals = _none) -> None:
        super().__init__()
        self._name, self._proposals = name, proposals
        self.panel: ColourPanel | None = None
        self.swatch, self.field = SwatchButton(), ColourField(name)
        self.swatch.setToolTip(f"{name}: choose a colour")
        self.field.setFixedWidth(84)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        row.addWidget(self.swatch)
        row.addWidget(self.field)
        self.swatch.clicked.connect(self.open)
        self.field.stepped.connect(self._on_chosen)
        self.field.refused.connect(self.refused)
        self.show_colour("#000000")

    @property
    def colour(self) -> str:
        """The colour shown."""
        return self.swatch.colour

    def show_colour(self, colour: str) -> None:
        """Show a colour without telling."""
        self.swatch.colour = colour
        self.swatch.setAccessibleName(f"Choose {self._name[0].lower()}{self._name[1:]}, {colour}")
        self.swatch.update()
        self.field.show_colour(colour)

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
