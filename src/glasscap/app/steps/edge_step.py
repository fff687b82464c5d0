"""Step 3: inset, feather, strength, rough edge, a picture as mask."""

from collections.abc import Callable
from typing import Any, Unpack

from msgspec.structs import replace
from PySide6.QtWidgets import QPushButton, QWidget

from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.steps.strip_row import StripRow
from glasscap.app.widgets.buttons import CheckBox, Choice, push, tool
from glasscap.app.widgets.labels import ElidedLabel
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pictogram import picture_choice
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.finishing.edits import change_edge, change_soft, set_picture_mask
from glasscap.core.document.finishing.fields import (
    EdgeFields,
    PictureMaskFields,
    RoughFields,
    SoftFields,
    one_field,
)
from glasscap.core.document.finishing.first_numbers import first_rough, first_soft
from glasscap.core.document.model.finishes import (
    FARTHEST_MASK,
    LARGEST_MASK,
    LONGEST,
    SMALLEST_MASK,
    Edge,
    PictureMask,
    Rough,
    SoftContour,
)
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item, has_soft_contour, photo_record
from glasscap.editor.tools.aim import NARROWING_BAND, PLACING_MASK, WIDENING_BAND, Aim

_KINDS = (("brushed", "Brushed"), ("torn", "Torn"), ("deckled", "Deckled"), ("stamped", "Stamped"))
JOINS = (("mitre", "Pointed corners"), ("round", "Round corners"), ("bevel", "Cut corners"))


class EdgeStep(StepBody):
    """The controls that turn the outline into coverage: inset, feather, roughness, picture mask."""

    is_for_all = True

    def __init__(self, session: Session, service: RenderService, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.strip = StripRow(session, service, "edge")
        self.is_on = CheckBox("Edge on")
        self.is_on.clicked.connect(lambda on: self._set("Edge on" if on else "Edge off", is_on=on))
        self.inset = self._slider(
            NumberSpec("Inset", "px", -LONGEST, LONGEST), (-60, 60), _edge("inset"), step="Inset the edge"
        )
        self.joins = picture_choice(
            "join",
            "Corners",
            JOINS,
            lambda key: self._set_one("Join the corners", "join", key),
        )
        self.feather = self._slider(
            NumberSpec("Feather", "px", 0, LONGEST), (0, 120), _edge("feather"), step="Feather the edge"
        )
        self.side = Choice(
            "Feather lies",
            [("inside", "Inside"), ("centred", "Centred"), ("outside", "Outside")],
            lambda key: self._set_one("Move the feather", "feather_side", key),
            is_tight=True,
        )
        self.strength = self._slider(
            NumberSpec("Strength", "", 1, 8, 0.5),
            (1, 8),
            _edge("strength"),
            step="Strengthen the feather",
            reset_to=1.0,
        )
        self.strokes_too = CheckBox("Feather strokes too")
        self.strokes_too.clicked.connect(lambda on: self._set("Feather the strokes", feathers_strokes=on))
        self._make_soft()
        self._make_rough()
        self._make_mask()
        self._lay_out()

    def _make_soft(self) -> None:
        self.soft = CheckBox("Soft contour")
        self.soft.setToolTip("Hair, fur, glass: the photo's own colours decide in a band along the edge")
        self.soft.clicked.connect(self._on_soft_clicked)
        self.band = self._slider(
            NumberSpec("Band", "px", 0, LONGEST),
            (0, 120),
            lambda value: _soft(width=value, is_on=True),
            step="Widen the soft contour",
            reset_to=24.0,
            offered_as=lambda: "soft width",
        )
        self.wider = push("Widen", lambda: self._on_band_clicked(WIDENING_BAND, self.wider))
        self.wider.setToolTip("Stroke on the bench where hair or glass goes beyond the band")
        self.narrower = push("Narrow", lambda: self._on_band_clicked(NARROWING_BAND, self.narrower))
        self.narrower.setToolTip("Stroke on the bench where the edge is sharp")
        for button in (self.wider, self.narrower):
            button.setCheckable(True)
            button.setProperty("tight", True)
            button.setAccessibleName(f"{button.text()} the band by a brush")
        self.even = push("Even again", lambda: self._edit("Even the band", _soft(strokes=())))
        self.even.setProperty("tight", True)
        self.clean_rim = CheckBox("Clean the rim's colours")
        self.clean_rim.setToolTip("The object's own colours, without those of what lies behind it")
        self.clean_rim.clicked.connect(lambda on: self._edit("Clean the rim", _soft(cleans_rim=on)))

    def _make_rough(self) -> None:
        self.rough = CheckBox("Rough edge")
        self.rough.clicked.connect(self._on_rough_clicked)
        self.kind = DropDown()
        self.kind.setAccessibleName("Rough edge, kind")
        for key, words in _KINDS:
            self.kind.addItem(words, key)
        self.kind.activated.connect(
            lambda _: self._edit("Roughen the edge", _rough("kind")(self.kind.currentData()))
        )
        self.another = tool("shuffle", "Another edge of this kind", self._on_another_clicked)
        self.amount = self._slider(
            NumberSpec("Amount", "px", 0, LONGEST),
            (0, 40),
            _rough("amount"),
            step="Roughen the edge",
            reset_to=6.0,
            offered_as=lambda: "rough amount",
        )
        self.scale = self._slider(
            NumberSpec("Length", "px", 0.5, LONGEST),
            (2, 120),
            _rough("scale"),
            step="Roughen the edge",
            reset_to=24.0,
            offered_as=lambda: "rough scale",
        )
        self.seed = self._slider(
            NumberSpec("Seed", "", 0, 2**31, decimals=0),
            (1, 200),
            _rough("seed"),
            step="Roughen the edge",
            reset_to=1.0,
        )

    def _make_mask(self) -> None:
        self.mask_name = ElidedLabel("muted")
        self.mask_button = push("Picture as mask…", self._on_mask_asked)
        self.mask_kind = Choice(
            "Mask by",
            [("luminance", "Light"), ("alpha", "Alpha")],
            lambda key: self._edit("Change the mask", _mask(**one_field(PictureMaskFields, "kind", key))),
        )
        self.mask_inverted = CheckBox("Inverted")
        self.mask_inverted.clicked.connect(lambda on: self._edit("Invert the mask", _mask(is_inverted=on)))
        self.mask_on = CheckBox("Picture mask")
        self.mask_on.clicked.connect(lambda on: self._edit("Switch the mask", _mask(is_on=on)))
        self.mask_fit = Choice(
            "Mask fits",
            [("kept", "Covering"), ("stretched", "Stretched")],
            lambda key: self._edit("Fit the mask", _mask(is_stretched=key == "stretched")),
        )
        self.mask_placing = push("Place on the bench", self._on_placing_clicked)
        self.mask_placing.setCheckable(True)
        self.mask_across, self.mask_down = (
            self._mask_slider(name, (-100, 100), FARTHEST_MASK, key)
            for name, key in (("Across", "x"), ("Down", "y"))
        )
        self.mask_size = self._slider(
            NumberSpec("Size", "%", SMALLEST_MASK * 100, LARGEST_MASK * 100),
            (10, 400),
            lambda value: _mask(size=value / 100),
            step="Size the mask",
            reset_to=100.0,
        )
        self.mask_turn = self._slider(
            NumberSpec("Turn", "°", -360, 360),
            (-180, 180),
            lambda value: _mask(rotation=value),
            step="Turn the mask",
        )
        self.mask_gone = tool("trash-2", "Take the picture mask away", lambda: self._set("Unmask", mask=None))

    def _mask_slider(self, name: str, span: tuple[float, float], most: float, key: str) -> SliderRow:
        spec = NumberSpec(name, "%", -most * 100, most * 100)
        return self._slider(
            spec,
            span,
            _mask_share(key),
            step="Move the mask",
        )

    def _lay_out(self) -> None:
        column = body_column(self)
        self._side_row = named_row("Lies", self.side, width=34)
        self._join_row = named_row("Corners", self.joins)
        self._brush_row = named_row("Brush", self.wider, self.narrower, self.even)
        self._kind_row = named_row("Kind", self.kind, self.another)
        self._mask_rows: tuple[QWidget, ...] = (
            named_row("", self.mask_on, self.mask_gone),
            self.mask_name,
            named_row("Mask by", self.mask_kind),
            self.mask_inverted,
            self.mask_placing,
            named_row("Fits", self.mask_fit),
            self.mask_across,
            self.mask_down,
            self.mask_size,
            self.mask_turn,
        )
        rows = (
            self.strip, self.is_on, self.inset, self._join_row, self.feather, self._side_row, self.strength,
            self.strokes_too, self.soft, self.band, self._brush_row, self.clean_rim, self.rough,
            self._kind_row, self.amount, self.scale, self.seed, self.mask_button, *self._mask_rows,
        )  # fmt: skip
        for row in rows:
            column.addWidget(row)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the numbers of an item."""
        edge, rough = item.finishes.edge, item.finishes.edge.rough or Rough(is_on=False)
        self.strip.show_item(item)
        self.setEnabled(not item.is_locked)
        self.is_on.setChecked(edge.is_on)
        self.inset.show_value(edge.inset)
        self.joins.show_choice(edge.join)
        self._join_row.setVisible(edge.inset != 0)
        self.feather.show_value(edge.feather)
        self.side.show_choice(edge.feather_side)
        self.strength.show_value(edge.strength)
        self.strokes_too.setChecked(edge.feathers_strokes)
        for widget in (self._side_row, self.strength, self.strokes_too):
            widget.setVisible(edge.feather > 0)
        self._show_soft(item)
        self.rough.setChecked(rough.is_on)
        self.kind.setCurrentIndex(self.kind.findData(rough.kind))
        self.amount.show_value(rough.amount)
        self.scale.show_value(rough.scale)
        self.seed.show_value(rough.seed)
        for widget in (self._kind_row, self.amount, self.scale, self.seed):
            widget.setVisible(rough.is_on)
        self._show_mask(edge, job)

    def _show_soft(self, item: Item) -> None:
        soft = item.finishes.edge.soft or SoftContour(is_on=False)
        can_be = has_soft_contour(item)
        self.soft.setVisible(can_be)
        self.soft.setChecked(soft.is_on)
        for widget in (self.band, self._brush_row, self.clean_rim):
            widget.setVisible(can_be and soft.is_on)
        self.wider.setChecked(self._session.aim is WIDENING_BAND)
        self.narrower.setChecked(self._session.aim is NARROWING_BAND)
        self.even.setVisible(bool(soft.strokes))
        self.band.show_value(soft.width)
        self.clean_rim.setChecked(soft.cleans_rim)

    def _show_mask(self, edge: Edge, job: Job) -> None:
        mask = edge.mask
        self.mask_button.setVisible(mask is None)
        for widget in self._mask_rows:
            widget.setVisible(mask is not None)
        if mask is not None:
            self.mask_name.set_whole(photo_record(job, mask.sha256).name)
            self.mask_on.setChecked(mask.is_on)
            self.mask_kind.show_choice(mask.kind)
            self.mask_inverted.setChecked(mask.is_inverted)
            self.mask_fit.show_choice("stretched" if mask.is_stretched else "kept")
            self.mask_across.show_value(mask.x * 100)
            self.mask_down.show_value(mask.y * 100)
            self.mask_size.show_value(mask.size * 100)
            self.mask_turn.show_value(mask.rotation)
            self.mask_placing.setChecked(self._session.aim is PLACING_MASK)

    def _set_one(self, step: str, name: str, value: object) -> None:
        """Change one field by its name."""
        self._set(step, **one_field(EdgeFields, name, value))

    def _set(self, step: str, **fields: Unpack[EdgeFields]) -> None:
        self._edit(step, lambda job, key: change_edge(job, key, **fields))

    def _on_placing_clicked(self) -> None:
        self._session.set_aim(PLACING_MASK if self.mask_placing.isChecked() else None)

    def _on_mask_asked(self) -> None:
        item = self._session.item
        if item is not None:
            self.picture_wanted.emit(
                "Choose a picture as mask",
                "Mask by a picture",
                lambda job, photo: set_picture_mask(job, item.id, photo),
            )

    def _on_soft_clicked(self, is_on: bool) -> None:
        item = self._session.item
        if item is None:
            return
        if item.finishes.edge.soft is not None or not is_on:
            self._edit("Soft contour" if is_on else "Plain contour", _soft(is_on=is_on))
            return
        first = first_soft(self._session.job, item.id, self._session.given)
        self._edit("Soft contour", _soft(width=first.width, is_on=True))

    def _on_band_clicked(self, aim: Aim, button: QPushButton) -> None:
        self._session.set_aim(aim if button.isChecked() else None)

    def _on_rough_clicked(self, is_on: bool) -> None:
        item = self._session.item
        if item is None:
            return
        rough = item.finishes.edge.rough or first_rough(self._session.job, item.id, self._session.given)
        self._set("Roughen the edge" if is_on else "Smooth the edge", rough=replace(rough, is_on=is_on))

    def _on_another_clicked(self) -> None:
        item = self._session.item
        if item is not None and item.finishes.edge.rough is not None:
            seed = item.finishes.edge.rough.seed % 10_000 + 1
            self._edit("Another rough edge", _rough("seed")(seed))


def _edge(name: str) -> Callable[[float], ItemEdit]:
    def given(value: float) -> ItemEdit:
        fields = EdgeFields(is_on=True) | one_field(EdgeFields, name, value)
        return lambda job, key: change_edge(job, key, **fields)

    return given


def _soft(**fields: Unpack[SoftFields]) -> ItemEdit:
    return lambda job, key: change_soft(job, key, **fields)


def _rough(name: str) -> Callable[[Any], ItemEdit]:
    def given(value: Any) -> ItemEdit:
        def edit(job: Job, key: str) -> Job:
            rough = find_item(job, key).finishes.edge.rough or Rough()
            typed = int(value) if name == "seed" else value
            return change_edge(job, key, rough=replace(rough, **one_field(RoughFields, name, typed)))

        return edit

    return given


def _mask(**fields: Unpack[PictureMaskFields]) -> ItemEdit:
    def edit(job: Job, key: str) -> Job:
        mask: PictureMask | None = find_item(job, key).finishes.edge.mask
        return job if mask is None else change_edge(job, key, mask=replace(mask, **fields))

    return edit


def _mask_share(name: str) -> Callable[[float], ItemEdit]:
    return lambda percent: _mask(**one_field(PictureMaskFields, name, percent / 100))
