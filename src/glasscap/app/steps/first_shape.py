"""A row of shapes to begin with: the next drag on the bench draws the one that is chosen."""

from functools import partial

from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.flow import FlowLayout
from glasscap.app.widgets.labels import label
from glasscap.core.shapes.library.table import SHAPES
from glasscap.editor.sketches.draw_points import DRAW_POINTS
from glasscap.editor.sketches.freehand import FREEHAND
from glasscap.editor.sketches.sketch import SketchKind

_ALWAYS = ("circle", "ellipse", "rectangle")
_MOST_RECENT = 3
_BY_HAND: tuple[tuple[str, SketchKind], ...] = (("Point by point", DRAW_POINTS), ("Freehand", FREEHAND))


class FirstShape(QWidget):
    """Circle, ellipse, rectangle, the last shapes used, drawing by hand, and the library."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.buttons: dict[str, QPushButton] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(6)
        column.addWidget(label("Draw a shape that waits for a photo", "muted"))
        around = QWidget()
        self._flow = FlowLayout(5)
        around.setLayout(self._flow)
        column.addWidget(around)
        session.view_changed.connect(self._show_chosen)
        self.show_recent(())

    def show_recent(self, names: tuple[str, ...]) -> None:
        """Offer the shapes used last, the newest first, beside those that are always there."""
        recent = [n for n in names if n not in _ALWAYS][:_MOST_RECENT]
        if not self.buttons or recent != [*self.buttons][len(_ALWAYS) : -len(_BY_HAND) - 1]:
            self._offer(recent)
            self._show_chosen()

    def _offer(self, recent: list[str]) -> None:
        while (item := self._flow.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.buttons = {}
        for name in (*_ALWAYS, *recent):
            self._add(name, push(SHAPES[name].label, partial(self._draw, name)))
        for words, kind in _BY_HAND:
            self._add(words, push(words, partial(self._session.set_sketch, kind)))
        self._add("Library…", push("Library…", partial(self._session.set_library, True)))

    def _add(self, key: str, button: QPushButton) -> None:
        button.setProperty("tight", True)
        button.setCheckable(key in SHAPES)
        self.buttons[key] = button
        self._flow.addWidget(button)

    def _draw(self, name: str) -> None:
        self._session.set_drawing(None if self._session.drawing == name else name)

    def _show_chosen(self) -> None:
        for name, button in self.buttons.items():
            button.setChecked(name == self._session.drawing)
