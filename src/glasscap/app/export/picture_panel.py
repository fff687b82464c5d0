"""The picture of a row: size, crop, margin, background, colour space, name."""

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from glasscap.app.services import asking
from glasscap.app.widgets.buttons import CheckBox, Choice, push, tool
from glasscap.app.widgets.colour_well import ColourWell
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.form_row import form_row
from glasscap.app.widgets.line_field import LineField
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.model.outputs import LARGEST_OUTPUT_SIDE, NAMED_SIZES, NamedSize, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.outputs.rows import keep_size

_CROPS = (
    ("visible", "Everything visible"),
    ("shape", "The shape"),
    ("square", "Visible, square"),
    ("centred", "Centred on the shape"),
    ("sheet", "The sheet"),
    ("bleed", "The sheet with its bleed"),
)
_KINDS = (
    ("scale", "Scale"),
    ("width", "Width"),
    ("height", "Height"),
    ("longest", "Longest side"),
    ("box", "Exact box"),
)
_PROFILES = (("srgb", "sRGB"), ("p3", "Display P3"), ("photo", "The photo's own"))
_SCALES = ("1", "2", "3")
_SIDE = 512
_MORE_WIDTH = 220


class PicturePanel(QWidget):
    """`changed(label, change)` carries a change of chosen rows, `job_changed(label, edit)` one of the job."""

    changed = Signal(str, object)
    job_changed = Signal(str, object)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._output: Output | None = None
        self._sizes: tuple[NamedSize, ...] = NAMED_SIZES
        self.named = DropDown()
        self.named.setAccessibleName("Named size")
        self.named.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.keep = tool("star", "Keep this size under a name", self._on_keep)
        self.kind = _combo("Size by", _KINDS)
        self.scales = Choice("Scale", [(s, f"{s}×") for s in _SCALES], self._on_scale, is_tight=True)
        self.scale = NumberField(NumberSpec("Scale", "×", 0.01, 1000))
        self.width_field = NumberField(NumberSpec("Picture width", "w", 1, LARGEST_OUTPUT_SIDE, decimals=0))
        self.height_field = NumberField(NumberSpec("Picture height", "h", 1, LARGEST_OUTPUT_SIDE, decimals=0))
        self.crop = _combo("Crop to", _CROPS)
        self.margin = NumberField(NumberSpec("Margin", "px", 0, 20_000))
        self.carry = NumberField(NumberSpec("Colour carried", "px", 0, 256, decimals=0))
        self.carry.setToolTip("Colour run on into transparent pixels, so that no dark fringe shows elsewhere")
        self.has_background = CheckBox("Fill")
        self.background = ColourWell("Background")
        self.profile = _combo("Colour space", _PROFILES)
        self.ppi = NumberField(NumberSpec("Resolution", "ppi", 1, 100_000, decimals=1))
        self.keeps_metadata = CheckBox("Keep camera data and location")
        self.name = LineField()
        self.name.setAccessibleName("File name pattern")
        self.name.setToolTip(
            "{name} {number} {scale} {@scale} {size} {width} {height} {format} {sheet} {version}"
        )
        self.folder = LineField()
        self.folder.setAccessibleName("Folder within the list's folder")
        self.folder.setPlaceholderText("the list's own")
        self.more = push("More", lambda: self.show_more(not self._rest.isVisibleTo(self)), style="link")
        self._rest = QWidget()
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = row_column(self)
        self._scale_row = form_row("", self.scales, self.scale)
        self._px_row = form_row("", self.width_field, self.height_field)
        for row in (
            form_row("Crop to", self.crop, fills=True),
            form_row("Size by", self.kind, fills=True),
            self._scale_row,
            self._px_row,
            form_row("Named", self.keep, self.named, fills=True),
            form_row("Name", self.name, fills=True),
            self.more,
        ):
            column.addWidget(row)
        rest = row_column(self._rest)
        for row in (
            form_row("Folder", self.folder, fills=True),
            form_row("Margin", self.margin),
            form_row("Backdrop", self.has_background, self.background),
            form_row("Carried", self.carry),
            form_row("Colours", self.profile, fills=True),
            form_row("Density", self.ppi),
            self.keeps_metadata,
        ):
            rest.addWidget(row)
        column.addWidget(self._rest)
        self._rest.hide()

    def show_more(self, is_open: bool) -> None:
        """Show the rows that are seldom needed, or hide them."""
        self._rest.setVisible(is_open)
        self._show_more_words()

    def _show_more_words(self) -> None:
        """Name what is set behind *More*, so that nothing works unseen."""
        if self._rest.isVisibleTo(self):
            words = "Less"
        else:
            words = " · ".join(["More", *([] if self._output is None else _set_there(self._output))])
        self.more.setText(self.more.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, _MORE_WIDTH))
        self.more.setAccessibleName(words)
        self.more.setToolTip("Folder, margin, backdrop, colour carried, colour space, density, camera data")

    def _connect(self) -> None:
        self.crop.activated.connect(lambda _: self._tell("Change the crop", crop=self.crop.currentData()))
        self.kind.activated.connect(self._on_kind)
        self.named.activated.connect(self._on_named)
        self.scale.stepped.connect(lambda v: self._tell_size(OutputSize(scale=v)))
        self.width_field.stepped.connect(lambda v: self._on_px(width=round(v)))
        self.height_field.stepped.connect(lambda v: self._on_px(height=round(v)))
        self.margin.stepped.connect(lambda v: self._tell("Change the margin", margin=v))
        self.carry.stepped.connect(lambda v: self._tell("Carry colour on", carry=round(v)))
        self.has_background.clicked.connect(self._on_background)
        self.background.refused.connect(self.refused)
        self.background.stepped.connect(lambda c: self._tell("Change the backdrop", background=ColourPaint(c)))
        self.profile.activated.connect(
            lambda _: self._tell_file("Change the colour space", profile=self.profile.currentData())
        )
        self.ppi.stepped.connect(lambda v: self._tell_file("Change the density", ppi=v))
        self.keeps_metadata.clicked.connect(lambda on: self._tell_file("Change the metadata", keeps_metadata=on))
        self.name.editingFinished.connect(lambda: self._on_text(self.name, "name"))
        self.folder.editingFinished.connect(lambda: self._on_text(self.folder, "folder"))
        for field in (self.scale, self.width_field, self.height_field, self.margin, self.carry, self.ppi):
            field.refused.connect(self.refused)

    def show_output(
        self, output: Output, sizes: tuple[NamedSize, ...], size: tuple[int, int], ppi: float
    ) -> None:
        """Show a row without telling; `size` is what it comes out at, `ppi` the density it will have."""
        self._output = output
        self._show_named(sizes)
        self.kind.setCurrentIndex(self.kind.findData(output.size.kind))
        self._scale_row.setVisible(output.size.kind == "scale")
        self._px_row.setVisible(output.size.kind != "scale")
        self.scales.show_choice(next((s for s in _SCALES if float(s) == output.size.scale), None))
        self.scale.show_value(output.size.scale)
        self.width_field.setVisible(output.size.kind != "height")
        self.height_field.setVisible(output.size.kind in ("height", "box"))
        self.width_field.show_value(output.size.width or size[0] or None)
        self.height_field.show_value(output.size.height or size[1] or None)
        self.crop.setCurrentIndex(self.crop.findData(output.crop))
        self.margin.show_value(output.margin)
        self.carry.show_value(output.carry)
        colour = output.background.colour if isinstance(output.background, ColourPaint) else "#ffffff"
        self.has_background.setChecked(output.background is not None)
        self.background.setEnabled(output.background is not None)
        self.background.show_colour(colour)
        self.profile.setCurrentIndex(self.profile.findData(output.file.profile))
        self.ppi.show_value(output.file.ppi or ppi)
        self.keeps_metadata.setChecked(output.file.keeps_metadata)
        for field, text in ((self.name, output.name), (self.folder, output.folder)):
            if not (field.hasFocus() and field.isModified()):
                field.setText(text)
        self._show_more_words()

    def show_size(self, size: tuple[int, int]) -> None:
        """Show what the picture comes out at where that is not typed."""
        output = self._output
        if output is not None and size != (0, 0) and output.size.kind in ("scale", "longest", "width"):
            self.height_field.show_value(size[1])

    def _show_named(self, sizes: tuple[NamedSize, ...]) -> None:
        assert self._output is not None
        self._sizes = (*NAMED_SIZES, *sizes)
        self.named.clear()
        self.named.addItem("Named sizes", None)
        for index, kept in enumerate(self._sizes):
            self.named.addItem(f"{kept.name} · {kept.size.label}", index)
        found = next((n for n, kept in enumerate(self._sizes) if kept.size == self._output.size), None)
        self.named.setCurrentIndex(0 if found is None else found + 1)

    def _on_kind(self) -> None:
        kind = self.kind.currentData()
        width, height = (round(f.value or _SIDE) for f in (self.width_field, self.height_field))
        table = {
            "scale": OutputSize(),
            "width": OutputSize("width", width=width),
            "height": OutputSize("height", height=height),
            "longest": OutputSize("longest", width=max(width, height)),
            "box": OutputSize("box", width=width, height=height),
        }
        self._tell_size(table[kind])

    def _on_px(self, **sides: int) -> None:
        assert self._output is not None
        self._tell_size(replace(self._output.size, **sides))

    def _on_scale(self, scale: str) -> None:
        self._tell_size(OutputSize(scale=float(scale)))

    def _on_named(self) -> None:
        index = self.named.currentData()
        if index is not None:
            self._tell_size(self._sizes[index].size)

    def _on_keep(self) -> None:
        assert self._output is not None
        size = self._output.size

        def keep(name: str) -> None:
            self.job_changed.emit("Keep a size", lambda job: keep_size(job, name, size))

        asking.ask_text(self, "Keep this size", f"A name for {size.label}", keep)

    def _on_background(self, is_on: bool) -> None:
        paint = ColourPaint(self.background.colour) if is_on else None
        self._tell("Change the backdrop", background=paint)

    def _on_text(self, field: QLineEdit, name: str) -> None:
        if field.isModified():
            field.setModified(False)
            self._tell(f"Change the {name}", **{name: field.text().strip()})

    def _tell_size(self, size: OutputSize) -> None:
        self._tell("Change the size", size=size)

    def _tell(self, words: str, **values: object) -> None:
        self.changed.emit(words, lambda output: replace(output, **values))

    def _tell_file(self, words: str, **values: object) -> None:
        self.changed.emit(words, lambda output: replace(output, file=replace(output.file, **values)))


def _set_there(output: Output) -> list[str]:
    """Return in words what is set that the rows behind *More* hold."""
    profiles = dict(_PROFILES)
    there = {
        f"in {output.folder}": bool(output.folder),
        f"margin {output.margin:g} px": bool(output.margin),
        "a backdrop": output.background is not None,
        f"{output.carry} px carried": bool(output.carry),
        profiles[output.file.profile]: output.file.profile != "srgb",
        f"{output.file.ppi or 0:g} ppi": output.file.ppi is not None,
        "camera data": output.file.keeps_metadata,
    }
    return [words for words, is_set in there.items() if is_set]


def _combo(name: str, choices: tuple[tuple[str, str], ...]) -> QComboBox:
    made = DropDown()
    made.setAccessibleName(name)
    for key, text in choices:
        made.addItem(text, key)
    return made
