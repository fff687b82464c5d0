"""Step 6: a plate behind the cutout."""

from typing import Unpack

from msgspec.structs import replace
from PySide6.QtWidgets import QGridLayout, QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.widgets.buttons import CheckBox, push, tool
from glasscap.app.widgets.colour_well import ColourWell
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.layouts import show_only
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.paint_editor import PaintEditor
from glasscap.app.widgets.slider_row import LABEL_WIDTH, SliderRow
from glasscap.core.document.finishing.edits import change_mount, set_mount
from glasscap.core.document.finishing.fields import LightFields, MountFields, StrokeFields, one_field
from glasscap.core.document.finishing.first_numbers import first_mount
from glasscap.core.document.model.finishes import LONGEST, Mount, Shadow, Stroke
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.paint import ColourPaint, TexturePaint
from glasscap.core.document.model.query import find_item

_SIDES = (("top", 0, 1), ("right", 0, 2), ("bottom", 1, 1), ("left", 1, 2))
# A heavy bottom is this many times the other margins.
_HEAVY = 3.5


class MountStep(StepBody):
    """Margins, corner, paint, own stroke and shadow, opacity."""

    is_for_all = True

    def __init__(self, session: Session, photo_colours: PhotoColours, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.is_on = CheckBox("Mount behind the cutout")
        self.is_on.clicked.connect(self._on_switched)
        self.even = push("Even", lambda: self._set("Even margins", **_even(self._mount().top)))
        self.heavy = push("Heavy bottom", self._on_heavy_clicked)
        self.link = tool("link-2", "Change all margins together", lambda: None)
        self.link.setCheckable(True)
        self.link.setChecked(True)
        self.fields = {
            name: NumberField(NumberSpec(f"Margin {name}", name[0], -LONGEST, LONGEST), self._ppi)
            for name, _, _ in _SIDES
        }
        self.corner = self._slider(
            NumberSpec("Corner", "px", 0, LONGEST), (0, 80), lambda v: _mount(corner=v), step="Round the mount"
        )
        self.paint = PaintEditor("Paint", photo_colours.now, self._picture_name)
        self.stroke = CheckBox("Stroke")
        self.stroke_colour = ColourWell("Mount stroke", photo_colours.now)
        self.stroke_width = self._slider(
            NumberSpec("Width", "px", 0, LONGEST),
            (0, 30),
            lambda v: _mount_stroke(width=v),
            step="Widen the mount's stroke",
            reset_to=2.0,
        )
        self.shadow = CheckBox("Shadow")
        self.shadow_colour = ColourWell("Mount shadow", photo_colours.now)
        self.shadow_down = self._shadow_row("Down", "dy", (-60, 60), -LONGEST, 8.0)
        self.shadow_blur = self._shadow_row("Blur", "blur", (0, 100), 0.0, 24.0)
        self.opacity = self._slider(
            NumberSpec("Opacity", "%", 0, 100),
            (0, 100),
            lambda v: _mount(opacity=v / 100),
            step="Change the mount's opacity",
            reset_to=100.0,
        )
        self._lay_out()
        self._connect()

    def _shadow_row(
        self, name: str, field: str, span: tuple[float, float], low: float, reset_to: float
    ) -> SliderRow:
        return self._slider(
            NumberSpec(name, "px", low, LONGEST),
            span,
            lambda v: _mount_shadow(**one_field(LightFields, field, v)),
            step="Change the mount's shadow",
            reset_to=reset_to,
        )

    def _lay_out(self) -> None:
        column = body_column(self)
        column.addWidget(self.is_on)
        margins = QWidget()
        grid = QGridLayout(margins)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        name = label("Margins", "muted")
        name.setFixedWidth(LABEL_WIDTH)
        grid.addWidget(name, 0, 0)
        grid.addWidget(self.link, 1, 0)
        for side, row, place in _SIDES:
            grid.addWidget(self.fields[side], row, place)
        self._stroke_rows = (named_row("Colour", self.stroke_colour), self.stroke_width)
        self._shadow_rows = (named_row("Colour", self.shadow_colour), self.shadow_down, self.shadow_blur)
        self._rows: tuple[QWidget, ...] = (
            named_row("", self.even, self.heavy), margins, self.corner, self.paint, self.stroke,
            *self._stroke_rows,
            self.shadow, *self._shadow_rows, self.opacity,
        )  # fmt: skip
        for widget in self._rows:
            column.addWidget(widget)

    def _connect(self) -> None:
        for side, field in self.fields.items():
            field.stepped.connect(lambda value, side=side: self._on_margin(side, value))
            field.refused.connect(self._session.problem_found)
        self.paint.moved.connect(lambda paint: self._preview(_mount(paint=paint)))
        self.paint.stepped.connect(lambda paint: self._set("Paint the mount", paint=paint))
        self.paint.own_asked.connect(self._on_own_asked)
        self.stroke.clicked.connect(lambda on: self._edit("Stroke the mount", _mount_stroke(is_on=on)))
        self.shadow.clicked.connect(lambda on: self._edit("Let the mount cast a shadow", _mount_shadow(is_on=on)))
        for part in (self.paint, self.stroke_colour, self.shadow_colour):
            part.refused.connect(self._session.problem_found)
        self.stroke_colour.moved.connect(lambda c: self._preview(_mount_stroke(paint=ColourPaint(c))))
        self.stroke_colour.stepped.connect(
            lambda c: self._edit("Colour the mount's stroke", _mount_stroke(paint=ColourPaint(c)))
        )
        self.shadow_colour.moved.connect(lambda c: self._preview(_mount_shadow(colour=c)))
        self.shadow_colour.stepped.connect(
            lambda c: self._edit("Colour the mount's shadow", _mount_shadow(colour=c))
        )

    def _on_switched(self, is_on: bool) -> None:
        given = self._session.given

        def edit(job: Job, key: str) -> Job:
            there = find_item(job, key).finishes.mount
            begun = first_mount(job, key, given) if there is None else there
            return set_mount(job, key, replace(begun, is_on=is_on))

        self._edit("Mount on" if is_on else "Mount off", edit)

    def _mount(self) -> Mount:
        item = self._session.item
        return (None if item is None else item.finishes.mount) or Mount()

    def _set(self, step: str, **fields: Unpack[MountFields]) -> None:
        self._edit(step, _mount(**fields))

    def show_item(self, item: Item, job: Job) -> None:
        """Show the mount of an item."""
        mount = item.finishes.mount
        is_on = mount is not None and mount.is_on
        self.setEnabled(not item.is_locked)
        self.is_on.setChecked(is_on)
        if mount is None or not is_on:
            show_only((), self._rows)
            return
        stroke, shadow = mount.stroke, mount.shadow
        self.stroke.setChecked(stroke is not None and stroke.is_on)
        self.shadow.setChecked(shadow is not None and shadow.is_on)
        hidden = () if self.stroke.isChecked() else self._stroke_rows
        hidden = hidden if self.shadow.isChecked() else (*hidden, *self._shadow_rows)
        show_only(set(self._rows).difference(hidden), self._rows)
        for side, field in self.fields.items():
            field.show_value(getattr(mount, side))
        self.corner.show_value(mount.corner)
        self.paint.show_paint(mount.paint)
        self.opacity.show_value(mount.opacity * 100)
        if stroke is not None:
            self.stroke_colour.show_colour(
                stroke.paint.colour if isinstance(stroke.paint, ColourPaint) else "#000000"
            )
            self.stroke_width.show_value(stroke.width)
        if shadow is not None:
            self.shadow_colour.show_colour(shadow.colour)
            self.shadow_down.show_value(shadow.dy)
            self.shadow_blur.show_value(shadow.blur)

    def _on_margin(self, side: str, value: float) -> None:
        mount = self._mount()
        self._offer(f"mount {side}", value)
        if not self.link.isChecked():
            self._set("Change a margin", **one_field(MountFields, side, value))
            return
        step = value - getattr(mount, side)
        margins = MountFields(
            top=mount.top + step, right=mount.right + step, bottom=mount.bottom + step, left=mount.left + step
        )
        self._set("Change the margins", **margins)

    def _on_heavy_clicked(self) -> None:
        top = self._mount().top
        self._set("Heavy bottom", **(_even(top) | MountFields(bottom=round(top * _HEAVY))))

    def _on_own_asked(self, tiles: TexturePaint) -> None:
        item = self._session.item
        if item is not None:
            self.picture_wanted.emit(
                "Choose a picture for the texture",
                "Paint the mount",
                lambda job, photo: change_mount(job, item.id, paint=replace(tiles, texture=photo.sha256)),
            )


def _even(margin: float) -> MountFields:
    return MountFields(top=margin, right=margin, bottom=margin, left=margin)


def _mount(**fields: Unpack[MountFields]) -> ItemEdit:
    return lambda job, key: change_mount(job, key, **fields)


def _mount_stroke(**fields: Unpack[StrokeFields]) -> ItemEdit:
    def edit(job: Job, key: str) -> Job:
        mount = find_item(job, key).finishes.mount or Mount()
        stroke = mount.stroke or Stroke(2.0, side="inside")
        return change_mount(job, key, stroke=replace(stroke, **fields))

    return edit


def _mount_shadow(**fields: Unpack[LightFields]) -> ItemEdit:
    def edit(job: Job, key: str) -> Job:
        mount = find_item(job, key).finishes.mount or Mount()
        shadow = mount.shadow or Shadow(0.0, 8.0, 24.0)
        return change_mount(job, key, shadow=replace(shadow, **fields))

    return edit
