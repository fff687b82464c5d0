"""The file format, by what becomes of transparency, and the options that concern it."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.widgets.buttons import CheckBox, Choice
from glasscap.app.widgets.colour_well import ColourWell
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.form_row import form_row
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.model.outputs import FileOptions, Output
from glasscap.core.formats.registry import FORMATS

# Groups of formats; those on one line share a heading.
_LINES = (
    ("Keeps transparency", {"transparency": "Keeps transparency"}),
    ("Stays vector · keeps layers", {"vector": "Stays vector", "layers": "Keeps layers"}),
    ("Loses transparency", {"nothing": "Loses transparency"}),
)
FileChange = Callable[[FileOptions], FileOptions]


class FormatPanel(QWidget):
    """`changed(label, change)` carries a change of the file options of every chosen row."""

    changed = Signal(str, object)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.formats: dict[str, Choice] = {}
        self.colours = SliderRow(
            NumberSpec("Colours", "", 2, 256, decimals=0), reset_to=256.0, is_logarithmic=True
        )
        self.dither = SliderRow(NumberSpec("Dither", "%", 0, 100, decimals=0), reset_to=50.0)
        self.quality = SliderRow(NumberSpec("Quality", "", 1, 100, decimals=0), reset_to=85.0)
        self.bits = Choice("Bits a channel", [("8", "8 bits"), ("16", "16 bits")], self._on_bits, is_tight=True)
        self.background = ColourWell("Colour beneath")
        self.is_small = CheckBox("Smaller file, takes longer")
        self.is_lossless = CheckBox("Without loss")
        self.is_premultiplied = CheckBox("Premultiplied alpha")
        self.has_live_letters = CheckBox("Letters stay text")
        self._rows: dict[str, QWidget] = {}
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = row_column(self)
        for heading, groups in _LINES:
            column.addWidget(label(heading, "muted"))
            for keeps, title in groups.items():
                found = [(f.name, f.label) for f in FORMATS.values() if f.keeps == keeps]
                self.formats[keeps] = Choice(title, found, self._on_format, wraps=len(groups) == 1)
            if len(groups) == 1:
                column.addWidget(self.formats[next(iter(groups))])
            else:
                line = QHBoxLayout()
                line.setSpacing(6)
                for keeps in groups:
                    line.addWidget(self.formats[keeps])
                line.addStretch(1)
                column.addLayout(line)
            column.addSpacing(3)
        self._rows = {
            "colours": self.colours,
            "dither": self.dither,
            "is_lossless": self.is_lossless,
            "quality": self.quality,
            "bits": form_row("Depth", self.bits),
            "is_premultiplied": self.is_premultiplied,
            "background": form_row("Beneath", self.background),
            "is_small": self.is_small,
            "has_live_letters": self.has_live_letters,
        }
        for widget in self._rows.values():
            column.addWidget(widget)

    def _connect(self) -> None:
        for row, name, share in (
            (self.colours, "colours", 1),
            (self.dither, "dither", 100),
            (self.quality, "quality", 1),
        ):
            row.stepped.connect(lambda v, name=name, share=share: self._tell_number(name, v / share))
            row.refused.connect(self.refused)
        self.background.refused.connect(self.refused)
        self.background.stepped.connect(lambda c: self._tell("Change the colour beneath", background=c))
        for box, name, words in (
            (self.is_small, "is_small", "Change the file's size"),
            (self.is_lossless, "is_lossless", "Change the loss"),
            (self.is_premultiplied, "is_premultiplied", "Change the alpha"),
            (self.has_live_letters, "has_live_letters", "Change the letters"),
        ):
            box.clicked.connect(lambda on, name=name, words=words: self._tell(words, **{name: on}))

    def show_output(self, output: Output) -> None:
        """Show a row's options without telling."""
        file = output.file
        for choice in self.formats.values():
            choice.show_choice(file.format if file.format in choice.buttons else None)
        chosen = FORMATS[file.format].options
        for name, widget in self._rows.items():
            widget.setVisible(
                name in chosen and not (name == "quality" and "is_lossless" in chosen and file.is_lossless)
            )
        self.colours.show_value(file.colours)
        self.dither.show_value(file.dither * 100)
        self.quality.show_value(file.quality)
        self.bits.show_choice(str(file.bits))
        self.background.show_colour(file.background)
        for box, is_on in (
            (self.is_small, file.is_small),
            (self.is_lossless, file.is_lossless),
            (self.is_premultiplied, file.is_premultiplied),
            (self.has_live_letters, file.has_live_letters),
        ):
            box.setChecked(is_on)

    def _on_format(self, name: str) -> None:
        self._tell("Choose the format", format=name)

    def _on_bits(self, bits: str) -> None:
        self._tell("Change the depth", bits=int(bits))

    def _tell_number(self, name: str, value: float) -> None:
        self._tell(f"Change the {name}", **{name: value if name == "dither" else round(value)})

    def _tell(self, words: str, **values: object) -> None:
        self.changed.emit(words, lambda file: replace(file, **values))
