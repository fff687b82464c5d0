"""The sheet's size: px or any unit, resolution, sizes by use, or from what lies on it."""

from functools import partial

from PySide6.QtWidgets import QComboBox, QMenu, QPushButton, QWidget

from glasscap.app.services.errands import Errand, run_errand, waited
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.form_row import form_row
from glasscap.app.widgets.menus import add_entry
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.edits.sheets import PRESETS, resize_sheet, set_bleed, sheet_around
from glasscap.core.document.model.job import LARGEST_SIDE, Item, Job
from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.query import find_sheet, photo_of
from glasscap.core.document.model.region import shape_outline
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.types import Box
from glasscap.core.render.picture import seen_box

_STEP = "Size the sheet"


class SheetSize(QWidget):
    """Edits the sheet on the bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        sides = (
            NumberSpec("Sheet width", "w", 1, LARGEST_SIDE),
            NumberSpec("Sheet height", "h", 1, LARGEST_SIDE),
        )
        self.sides = PairRow("Size", *sides, self._ppi, reset_words="as large as what is visible")
        self.ppi = NumberField(NumberSpec("Resolution", "ppi", 1, 100_000, decimals=1))
        self.bleed = NumberField(NumberSpec("Bleed", "px", 0, LARGEST_SIDE), self._ppi)
        self.bleed.setToolTip("Around the sheet, printed and cut away; the backdrop runs on into it")
        self.presets = DropDown()
        self.presets.setAccessibleName("Size by use")
        self.presets.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.presets.addItem("Sizes by use", None)
        for index, preset in enumerate(PRESETS):
            self.presets.addItem(preset.label, index)
        self.fit: QPushButton = push("Fit the sheet to", lambda: None)
        self.fit.setMenu(QMenu(self.fit))
        self.fit.menu().aboutToShow.connect(self._fill_menu)
        column = row_column(self)
        for row in (
            self.sides,
            form_row("Density", self.ppi),
            form_row("Bleed", self.bleed),
            form_row("", self.presets, fills=True),
            form_row("", self.fit),
        ):
            column.addWidget(row)
        self.sides.stepped.connect(self._on_size)
        self.sides.reset_asked.connect(self.fit_visible)
        self.ppi.stepped.connect(self._on_ppi)
        self.bleed.stepped.connect(self._on_bleed)
        self.presets.activated.connect(self._on_preset)
        for widget in (self.sides, self.ppi, self.bleed):
            widget.refused.connect(session.problem_found)

    def _ppi(self) -> float:
        return self._session.sheet.resolution_ppi

    def show_sheet(self) -> None:
        """Show the sheet on the bench without telling."""
        sheet = self._session.sheet
        self.sides.show_values(sheet.width, sheet.height)
        self.ppi.show_value(sheet.resolution_ppi)
        self.bleed.show_value(float(sheet.bleed))
        now = (sheet.width, sheet.height, sheet.resolution_ppi)
        found = next((n for n, p in enumerate(PRESETS) if (p.width, p.height, p.ppi) == now), None)
        self.presets.setCurrentIndex(0 if found is None else found + 1)

    def _on_size(self, width: float | None, height: float | None) -> None:
        sheet = self._session.sheet
        self._resize(width or sheet.width, height or sheet.height)

    def _on_ppi(self, ppi: float) -> None:
        sheet = self._session.sheet
        self._resize(sheet.width, sheet.height, ppi, "Change the resolution")

    def _on_bleed(self, bleed: float) -> None:
        sheet_id = self._session.sheet_id
        self._session.apply("Set the bleed", lambda job: set_bleed(job, sheet_id, bleed))

    def _on_preset(self) -> None:
        index = self.presets.currentData()
        if index is not None:
            preset = PRESETS[index]
            self._resize(preset.width, preset.height, preset.ppi)

    def _resize(
        self, width: float, height: float, ppi: float | None = None, step: str = "Size the sheet"
    ) -> None:
        sheet_id = self._session.sheet_id
        self._session.apply(step, lambda job: resize_sheet(job, sheet_id, width, height, ppi))

    # from what lies on it

    def _fill_menu(self) -> None:
        menu = self.fit.menu()
        menu.clear()
        items = self._session.sheet.items
        add_entry(menu, "Everything visible", self.fit_visible)
        for item in reversed(items):
            if photo_of(self._session.job, item) is not None:
                add_entry(menu, f"The photo of {item.name}", partial(self.fit_photo, item))
            if item.shape is not None:
                add_entry(menu, f"The shape of {item.name}", partial(self.fit_shape, item))

    def fit_visible(self) -> None:
        """Make the sheet as large as what is seen on it and beyond."""
        run_errand(self._fitting_visible(), self, self._session.problem_found.emit)

    def _fitting_visible(self) -> Errand[None]:
        job, store, sheet_id = self._session.committed, self._session.store, self._session.sheet_id

        def work(ticket: object) -> Box:
            return seen_box(job, find_sheet(job, sheet_id), store)

        box = yield from waited("Looking what is visible", work)
        if self._session.committed is not job:
            return
        if box.width and box.height:
            self._around(box)
        else:
            self._session.problem_found.emit("Nothing on the sheet is visible")

    def fit_photo(self, item: Item) -> None:
        """Make the sheet as large as a photo where it lies."""
        photo, placement = photo_of(self._session.job, item), item.content_placement
        if photo is not None and placement is not None:
            to_sheet = placement.to_sheet(photo.width, photo.height)
            self._around(frame_box(to_sheet, 0, 0, photo.width, photo.height))

    def fit_shape(self, item: Item) -> None:
        """Make the sheet as large as a shape where it lies."""
        if item.shape is not None and item.shape_placement is not None:
            self._around(outline_box(shape_outline(item.shape, item.shape_placement)))

    def _around(self, box: Box) -> None:
        sheet_id = self._session.sheet_id

        def edit(job: Job) -> Job:
            return sheet_around(job, sheet_id, box)

        self._session.apply(_STEP, edit)
