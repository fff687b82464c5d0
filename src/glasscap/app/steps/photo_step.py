"""Step 1: the photo and where it lies."""

from functools import cached_property

from msgspec import structs
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.session import Session
from glasscap.app.steps.adjust_rows import AdjustRows
from glasscap.app.steps.step_body import ItemEdit, StepBody, named_row
from glasscap.app.widgets.buttons import CheckBox, Choice, push, tool
from glasscap.app.widgets.labels import ElidedLabel
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.paint_editor import PaintEditor
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.arranging.by_number import (
    Fit,
    centre_content,
    fit_photos,
    place_content,
    scale_content,
)
from glasscap.core.document.arranging.cover import fitted_inside, just_covering
from glasscap.core.document.edits.items import set_keeps_covered
from glasscap.core.document.finishing.edits import set_paint_content
from glasscap.core.document.model.job import Item, Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint, Paint, TexturePaint
from glasscap.core.document.model.placement import FARTHEST
from glasscap.core.document.model.query import photo_of

_SCALE_SLIDER = (5.0, 400.0)


class PhotoStep(StepBody):
    """Name, centre, scale, turn, mirror, covering."""

    is_for_all = True

    swap_asked = Signal()

    def __init__(self, session: Session, photo_colours: PhotoColours, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._photo_colours = photo_colours
        self.kinds = Choice(
            "Content", [("photo", "Photo"), ("paint", "Colour or texture")], self._on_kind, is_tight=True
        )
        self.adjust = AdjustRows(session)

        def ppi() -> float:
            return session.sheet.resolution_ppi

        self.profile = ElidedLabel("muted")
        self.swap = push("Swap…", self.swap_asked.emit)
        self.centre = PairRow(
            "Centre",
            NumberSpec("Photo centre x", "x", -FARTHEST, FARTHEST),
            NumberSpec("Photo centre y", "y", -FARTHEST, FARTHEST),
            ppi,
            reset_words="centre it on the sheet",
        )
        self.scale = SliderRow(NumberSpec("Scale", "%", 0.01, 1e5), reset_to=100.0, is_logarithmic=True)
        self.scale.set_slider_range(*_SCALE_SLIDER)
        self.turn = SliderRow(NumberSpec("Turn", "°", -360, 360), reset_to=0.0)
        self.turn.set_slider_range(-180, 180)
        self.mirror = tool("mirror", "Mirror the photo", self._on_mirror_clicked)
        self.mirror.setCheckable(True)
        self.cover = push("Just cover", lambda: self._fit("Just cover the shape", just_covering))
        self.cover.setToolTip("The smallest size that covers the shape (Ctrl+K)")
        self.inside = push("Fit inside", lambda: self._fit("Fit the photo inside", fitted_inside))
        self.inside.setToolTip("The largest size with the whole photo in the shape's frame (Ctrl+Shift+K)")
        self.keep = CheckBox("Keep covered")
        self.keep.setAccessibleName("Keep the shape covered")
        self.keep.setToolTip("Drags stop where the photo would bare part of the shape")
        self.keep.clicked.connect(self._on_keep_clicked)
        self.held = push("Open the group", self._on_open_clicked)
        self.held.setToolTip("Work on what the group holds; Escape closes it")
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = self._column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 9)
        column.setSpacing(7)
        column.addWidget(self.kinds)
        column.addWidget(self.held)
        self._name_row = QWidget()
        row = QHBoxLayout(self._name_row)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.profile, 1)
        row.addWidget(self.swap)
        column.addWidget(self._name_row)
        for widget in (self.centre, self.scale, self.turn):
            column.addWidget(widget)
        self._cover_row = named_row("", self.mirror, self.cover, self.inside)
        column.addWidget(self._cover_row)
        column.addWidget(self.keep)
        column.addWidget(self.adjust)

    def _fit(self, step: str, fit: Fit) -> None:
        self._edit(step, lambda job, key: fit_photos(job, [key], fit))

    def _connect(self) -> None:
        say = self._session.problem_found.emit
        self.centre.stepped.connect(
            lambda x, y: self._edit("Place the photo", lambda job, key: place_content(job, key, x=x, y=y))
        )
        self.centre.reset_asked.connect(lambda: self._edit("Centre the photo", centre_content))
        self.scale.stepped.connect(lambda percent: self._edit("Scale the photo", _scaled_to(percent)))
        self.scale.moved.connect(lambda percent: self._preview(_scaled_to(percent)))
        self.turn.stepped.connect(lambda degrees: self._edit("Turn the photo", _turned_to(degrees)))
        self.turn.moved.connect(lambda degrees: self._preview(_turned_to(degrees)))
        for row in (self.centre, self.scale, self.turn):
            row.refused.connect(say)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the numbers of an item."""
        self._show_kind(item)
        self.adjust.show_item(item)
        photo, placement = photo_of(job, item), item.content_placement
        has_photo = photo is not None and placement is not None
        for widget in (self.centre, self.scale, self.turn, self.mirror, self.cover, self.inside, self.keep):
            widget.setEnabled(has_photo and not item.is_locked)
        self.swap.setText("Swap…" if has_photo else "Choose…")
        if photo is None or placement is None:
            self.profile.set_whole("Drop one on the shape")
            self.centre.show_values(None, None)
            self.keep.setChecked(item.keeps_covered)
            self.scale.show_value(None)
            self.turn.show_value(None)
            return
        self.profile.set_whole(photo.profile or "No profile, read as sRGB")
        self.centre.show_values(placement.x, placement.y)
        self.scale.show_value(placement.scale_x * 100)
        self.turn.show_value(placement.rotation)
        self.mirror.setChecked(placement.is_mirrored)
        is_coverable = item.shape is not None and item.shape.keeps == "inside" and not item.is_locked
        self.cover.setEnabled(is_coverable)
        self.inside.setEnabled(is_coverable)
        self.keep.setEnabled(is_coverable)
        self.keep.setChecked(item.keeps_covered)

    @cached_property
    def paint(self) -> PaintEditor:
        """The paint of a shape without a photo; made when first wanted."""
        made = PaintEditor("Paint", self._photo_colours.now, self._picture_name, parent=self)
        made.moved.connect(lambda paint: self._preview(_painted(paint)))
        made.stepped.connect(lambda paint: self._edit("Paint the shape", _painted(paint)))
        made.own_asked.connect(self._on_own_asked)
        made.refused.connect(self._session.problem_found)
        self._column.insertWidget(1, made)
        return made

    def _show_kind(self, item: Item) -> None:
        content = item.content
        is_paint = isinstance(content, PaintContent)
        self.kinds.show_choice("paint" if is_paint else "photo")
        self.kinds.setVisible(item.shape is not None and not item.is_group)
        self.held.setVisible(item.is_group)
        self.kinds.setEnabled(not item.is_locked)
        if isinstance(content, PaintContent):
            self.paint.show_paint(content.paint)
            self.paint.setEnabled(not item.is_locked)
        if "paint" in self.__dict__:
            self.paint.setVisible(is_paint)
        for widget in (self._name_row, self.centre, self.scale, self.turn, self._cover_row, self.keep):
            widget.setVisible(not is_paint and not item.is_group)

    def _on_kind(self, kind: str) -> None:
        item = self._session.item
        if item is None:
            return
        if kind == "photo" and isinstance(item.content, PaintContent):
            self.swap_asked.emit()
        elif kind == "paint" and not isinstance(item.content, PaintContent):
            self._edit("Paint the shape", _painted(ColourPaint("#b4532c")))
        self._show_kind(self._session.item or item)

    def _on_own_asked(self, tiles: TexturePaint) -> None:
        item = self._session.item
        if item is not None:
            self.picture_wanted.emit(
                "Choose a picture for the texture",
                "Paint the shape",
                lambda job, photo: set_paint_content(job, item.id, structs.replace(tiles, texture=photo.sha256)),
            )

    def _on_open_clicked(self) -> None:
        item = self._session.item
        if item is not None and item.is_group:
            self._session.enter_group(item.id)

    def _on_mirror_clicked(self) -> None:
        is_on = self.mirror.isChecked()
        self._edit("Mirror the photo", lambda job, key: place_content(job, key, is_mirrored=is_on))

    def _on_keep_clicked(self, is_on: bool) -> None:
        selected = self._session.selected
        label_ = "Keep the shape covered" if is_on else "Let the shape be bared"
        self._session.apply(label_, lambda job: set_keeps_covered(job, selected, is_on))


def _painted(paint: Paint) -> ItemEdit:
    return lambda job, key: set_paint_content(job, key, paint)


def _scaled_to(percent: float) -> ItemEdit:
    return lambda job, key: scale_content(job, key, percent / 100)


def _turned_to(degrees: float) -> ItemEdit:
    return lambda job, key: place_content(job, key, rotation=degrees)
