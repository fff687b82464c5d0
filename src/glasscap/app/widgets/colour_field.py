"""A colour that is typed: digits with or without a #, or a name of CSS."""

from PySide6.QtCore import Signal

from glasscap.app.widgets.line_field import LineField
from glasscap.app.widgets.wrong import mark_wrong
from glasscap.core.document.model.paint import read_colour, rgba_of
from glasscap.core.errors import FinishError

_OPAQUE = 255


class ColourField(LineField):
    """`stepped(colour)` once for each colour entered; a wrong entry is marked, said and kept."""

    stepped = Signal(str)
    refused = Signal(str)

    def __init__(self, name: str, *, see_through: bool = True) -> None:
        super().__init__()
        self._name, self._see_through = name, see_through
        self.colour = "#000000"
        self.setAccessibleName(name)
        self.editingFinished.connect(self._on_editing_finished)
        self.textEdited.connect(lambda: self._mark(""))
        self._mark("")

    def show_colour(self, colour: str) -> None:
        """Show a colour without telling; what is being typed is left alone."""
        self.colour = colour
        if not (self.hasFocus() and self.isModified()):
            self.restore()

    def restore(self) -> None:
        """Show the colour again."""
        self.show_text(self.colour)
        self._mark("")

    def _on_editing_finished(self) -> None:
        if not self.isModified():
            return
        try:
            colour = read_colour(self.text())
        except FinishError as error:
            self._refuse(error.line)
            return
        if not self._see_through and rgba_of(colour)[3] != _OPAQUE:
            self._refuse(f"Colour {self.text()!r}: it cannot be see-through here; leave out the last two digits")
            return
        is_new, self.colour = colour != self.colour, colour
        self.restore()
        if is_new:
            self.stepped.emit(colour)

    def _refuse(self, why: str) -> None:
        self._mark(why)
        self.refused.emit(why)

    def _mark(self, why: str) -> None:
        mark_wrong(self, is_wrong=bool(why))
        self.setToolTip(why or f"{self._name}: type #b4532c, or a name such as teal")
