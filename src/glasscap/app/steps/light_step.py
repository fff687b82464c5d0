"""Step 5: drop shadows, inner shadow, glows and bevel."""

import math
from typing import Any, Unpack

from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.steps.strip_row import StripRow
from glasscap.app.widgets.buttons import CheckBox, Choice, push
from glasscap.app.widgets.colour_well import ColourWell
from glasscap.app.widgets.dial import Dial
from glasscap.app.widgets.finish_list import FinishList, Line
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.finishing.edits import add_light, change_light, remove_light
from glasscap.core.document.finishing.fields import LightFields, one_field
from glasscap.core.document.finishing.first_numbers import first_light
from glasscap.core.document.model.finishes import LONGEST, Bevel, Glow, Shadow
from glasscap.core.document.model.job import Item, Job
from glasscap.editor.edge_profile import direction_of
from glasscap.editor.step_words import LIGHT_KINDS, Light, light_words, lights_in


class LightStep(StepBody):
    """The list, and the light chosen in it."""

    is_for_all = True

    def __init__(
        self, session: Session, service: RenderService, photo_colours: PhotoColours, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent)
        self._chosen = 0
        self.strip = StripRow(session, service, "light")
        self.add = push("Shadow or light", self._on_add_clicked, icon_name="plus", style="link")
        self.add.setAccessibleName("Add a shadow or light")
        self.list = FinishList("Shadow and light", named_row("", self.add))
        self.dial = Dial("Direction")
        self.place = PairRow(
            "Shift",
            NumberSpec("Shadow x", "x", -LONGEST, LONGEST),
            NumberSpec("Shadow y", "y", -LONGEST, LONGEST),
            self._ppi,
            reset_words="no shift",
        )
        self.distance = self._row("Distance", "px", (0, 80), lambda v: self._polar(distance=v), high=LONGEST)
        self.direction = self._row(
            "Direction", "°", (-180, 180), lambda v: self._polar(degrees=v), low=-360, high=360
        )
        self.slope = self._row("Width", "px", (0, 60), lambda v: self._given(width=v), high=LONGEST, reset_to=10)
        self.softness = self._row(
            "Softness", "px", (0, 40), lambda v: self._given(softness=v), high=LONGEST, reset_to=4
        )
        self.elevation = self._row(
            "Elevation", "°", (1, 89), lambda v: self._given(elevation=v), low=1, high=89, reset_to=35
        )
        self.blur = self._row("Blur", "px", (0, 100), lambda v: self._given(blur=v), high=LONGEST, reset_to=18)
        self.spread = self._row(
            "Spread", "px", (-30, 30), lambda v: self._given(spread=v), low=-LONGEST, high=LONGEST
        )
        self.opacity = self._row(
            "Opacity", "%", (0, 100), lambda v: self._given(opacity=v / 100), high=100, reset_to=100
        )
        self.colour = ColourWell("Colour", photo_colours.now)
        self.highlight = ColourWell("Highlight", photo_colours.now)
        self.shade = ColourWell("Shade", photo_colours.now)
        self.clear = CheckBox("Clear beneath the cutout")
        self.side = Choice(
            "Slope lies",
            [("inner", "Inside"), ("outer", "Outside")],
            lambda key: self._set_one("Move the slope", "side", key),
        )
        self._lay_out()
        self._connect()

    def _row(
        self,
        name: str,
        unit: str,
        span: tuple[float, float],
        edit: Any,
        *,
        low: float = 0.0,
        high: float = 100.0,
        reset_to: float = 0.0,
    ) -> SliderRow:
        return self._slider(
            NumberSpec(name, unit, low, high),
            span,
            edit,
            step=f"Change the {name.lower()}",
            reset_to=reset_to,
            offered_as=lambda: self._offered_as(name.lower()),
        )

    def _offered_as(self, field: str) -> str:
        now = self._now()
        return "" if now is None else f"{now[0]} {field}"

    def _lay_out(self) -> None:
        column = body_column(self)
        column.addWidget(self.strip)
        column.addWidget(self.list)
        around = QWidget()
        row = QHBoxLayout(around)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(self.dial)
        numbers = QVBoxLayout()
        numbers.setSpacing(5)
        row.addLayout(numbers, 1)
        self.direction.label.setFixedWidth(56)
        self.distance.label.setFixedWidth(56)
        for part in (self.distance, self.direction):
            part.slider.setVisible(False)
            part.field.setFixedWidth(80)
            numbers.addWidget(part)
        self._colour_row = named_row("Colour", self.colour)
        self._highlight_row = named_row("Highlight", self.highlight)
        self._shade_row = named_row("Shade", self.shade)
        self._side_row = named_row("Lies", self.side)
        rows: tuple[QWidget, ...] = (
            self._colour_row, self.slope, self.softness, around, self.place, self.elevation, self.blur,
            self.spread, self.opacity, self._highlight_row, self._shade_row, self._side_row, self.clear,
        )  # fmt: skip
        shown = {
            "shadow": (self._colour_row, around, self.place, self.blur, self.spread, self.opacity, self.clear),
            "inner_shadow": (self._colour_row, around, self.place, self.blur, self.spread, self.opacity),
            "outer_glow": (self._colour_row, self.blur, self.spread, self.opacity),
            "inner_glow": (self._colour_row, self.blur, self.spread, self.opacity),
            "bevel": (
                self.slope, self.softness, around, self.elevation, self._highlight_row, self._shade_row,
                self._side_row,
            ),
        }  # fmt: skip
        self._rows, self._shown = rows, shown
        for widget in rows:
            column.addWidget(widget)

    def _connect(self) -> None:
        self.list.chosen.connect(self._on_chosen)
        self.list.switched.connect(self._on_switched)
        self.list.delete_asked.connect(self._on_delete_asked)
        self.place.stepped.connect(self._on_place)
        self.place.reset_asked.connect(lambda: self._set("Take the shift away", dx=0.0, dy=0.0))
        self.place.refused.connect(self._session.problem_found)
        self.dial.moved.connect(lambda v: self._preview(self._polar(degrees=v)))
        self.dial.stepped.connect(lambda v: self._edit("Turn the light", self._polar(degrees=v)))
        self.clear.clicked.connect(lambda on: self._set("Clear beneath the cutout", is_clear_beneath=on))
        for well, field in ((self.colour, "colour"), (self.highlight, "highlight"), (self.shade, "shade")):
            well.refused.connect(self._session.problem_found)
            well.moved.connect(lambda c, field=field: self._preview(self._given_one(field, c)))
            well.stepped.connect(lambda c, field=field: self._set_one("Colour the light", field, c))

    def _now(self) -> tuple[str, int, Light] | None:
        item = self._session.item
        found = [] if item is None else lights_in(item.finishes.lights)
        return found[self._chosen] if self._chosen < len(found) else None

    def _given(self, **fields: Unpack[LightFields]) -> ItemEdit:
        now = self._now()
        if now is None:
            return lambda job, key: job
        kind, index, _ = now
        return lambda job, key: change_light(job, key, kind, index, **fields)

    def _polar(self, *, degrees: float | None = None, distance: float | None = None) -> ItemEdit:
        """Change a shadow's direction or distance, or where a bevel's light comes from."""
        now = self._now()
        light = None if now is None else now[2]
        if isinstance(light, Bevel):
            return self._given(direction=light.direction if degrees is None else degrees)
        if not isinstance(light, Shadow):
            return self._given()
        far = math.hypot(light.dx, light.dy) if distance is None else distance
        if degrees is None:
            dx, dy = direction_of(light)
        else:
            dx, dy = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        return self._given(dx=round(far * dx, 2), dy=round(far * dy, 2))

    def _given_one(self, name: str, value: object) -> ItemEdit:
        return self._given(**one_field(LightFields, name, value))

    def _set_one(self, step: str, name: str, value: object) -> None:
        """Change one field by its name."""
        self._set(step, **one_field(LightFields, name, value))

    def _set(self, step: str, **fields: Unpack[LightFields]) -> None:
        self._edit(step, self._given(**fields))

    def show_item(self, item: Item, job: Job) -> None:
        """Show the lights of an item."""
        found = lights_in(item.finishes.lights)
        self._chosen = min(self._chosen, max(len(found) - 1, 0))
        self.strip.show_item(item)
        self.setEnabled(not item.is_locked)
        self.list.show_lines([_line(kind, light) for kind, _, light in found], self._chosen)
        kind, _, light = found[self._chosen] if found else ("", 0, None)
        for row in self._rows:
            row.setVisible(row in self._shown.get(kind, ()))
        if isinstance(light, Bevel):
            self._show_bevel(light)
        elif light is not None:
            self._show_cast(light)

    def _show_cast(self, light: Shadow | Glow) -> None:
        self.colour.show_colour(light.colour)
        self.blur.show_value(light.blur)
        self.spread.show_value(light.spread)
        self.opacity.show_value(light.opacity * 100)
        if isinstance(light, Shadow):
            dx, dy = direction_of(light)
            degrees = math.degrees(math.atan2(dy, dx))
            self.dial.show_value(degrees)
            self.direction.show_value(round(degrees, 2))
            self.distance.setVisible(True)
            self.distance.show_value(round(math.hypot(light.dx, light.dy), 2))
            self.place.show_values(light.dx, light.dy)
            self.clear.setChecked(light.is_clear_beneath)

    def _show_bevel(self, bevel: Bevel) -> None:
        self.slope.show_value(bevel.width)
        self.softness.show_value(bevel.softness)
        self.dial.show_value(bevel.direction)
        self.direction.show_value(bevel.direction)
        self.distance.setVisible(False)
        self.elevation.show_value(bevel.elevation)
        self.highlight.show_colour(bevel.highlight)
        self.shade.show_colour(bevel.shade)
        self.side.show_choice(bevel.side)

    def _on_add_clicked(self) -> None:
        item = self._session.item
        if item is None:
            return
        menu = QMenu(self)
        for kind, words in LIGHT_KINDS.items():
            action = menu.addAction(words)
            action.setEnabled(kind == "shadow" or getattr(item.finishes.lights, kind) is None)
            action.triggered.connect(lambda _=False, kind=kind: self.add_light(kind))
        menu.popup(self.add.mapToGlobal(self.add.rect().bottomLeft()))

    def add_light(self, kind: str) -> None:
        """Add a light and choose it."""
        given = self._session.given

        def edit(job: Job, key: str) -> Job:
            return add_light(job, key, kind, first_light(job, key, kind, given))

        self._edit(f"Add: {LIGHT_KINDS[kind].lower()}", edit)
        item = self._session.item
        if item is not None:
            found = lights_in(item.finishes.lights)
            places = [n for n, (k, _, _) in enumerate(found) if k == kind]
            self._on_chosen(places[-1] if places else 0)

    def _on_chosen(self, index: int) -> None:
        self._chosen = index
        if self._session.item is not None:
            self.show_item(self._session.item, self._session.job)

    def _on_switched(self, place: int, is_on: bool) -> None:
        item = self._session.item
        if item is not None:
            kind, index, _ = lights_in(item.finishes.lights)[place]
            words = "Show the light" if is_on else "Hide the light"
            self._edit(words, lambda job, key: change_light(job, key, kind, index, is_on=is_on))

    def _on_delete_asked(self, place: int) -> None:
        item = self._session.item
        if item is not None:
            kind, index, _ = lights_in(item.finishes.lights)[place]
            self._edit("Take the light away", lambda job, key: remove_light(job, key, kind, index))

    def _on_place(self, x: float | None, y: float | None) -> None:
        given = LightFields()
        if x is not None:
            given["dx"] = x
            self._offer(self._offered_as("dx"), x)
            self._offer(self._offered_as("dx"), x)
        if y is not None:
            given["dy"] = y
            self._offer(self._offered_as("dy"), y)
            self._offer(self._offered_as("dy"), y)
        self._set("Shift the shadow", **given)


def _line(kind: str, light: Light) -> Line:
    colours = (light.highlight[:7], light.shade[:7]) if isinstance(light, Bevel) else (light.colour,)
    return Line(light_words(kind, light), colours, light.is_on)
