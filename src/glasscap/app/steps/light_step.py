"""Step 5: the lamp, and the five things its light does."""

import math
from typing import Any, Unpack

from PySide6.QtWidgets import QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.lamp_row import LampRow, lit
from glasscap.app.steps.light_rows import LightRows
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.steps.strip_row import StripRow
from glasscap.app.widgets.buttons import CheckBox, Choice, push
from glasscap.app.widgets.colour_well import ColourWell
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.finishing.edits import Light, add_light, change_light, remove_light
from glasscap.core.document.finishing.fields import LightFields, one_field
from glasscap.core.document.finishing.first_numbers import first_light
from glasscap.core.document.model.finishes import LONGEST, Bevel, Glow, Lights, Shadow
from glasscap.core.document.model.job import Item, Job
from glasscap.editor import lamp
from glasscap.editor.edge_profile import direction_of
from glasscap.editor.light_lines import LightLine, light_lines
from glasscap.editor.step_words import LIGHT_KINDS, lights_in


class LightStep(StepBody):
    """The lamp, a row for each light, and the numbers of the one chosen."""

    is_for_all = True

    def __init__(
        self, session: Session, service: RenderService, photo_colours: PhotoColours, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent)
        # The kind and number of the light whose numbers are shown.
        self._chosen = ("shadow", 0)
        # There before a cutout is shown, so that they are found by their names.
        self._lines = light_lines(Lights())
        self.lamp = LampRow(session, service)
        self.rows = LightRows()
        self.rows.show_lines(self._lines, 0)
        self.add = push("Another shadow", lambda: self.add_light("shadow"), icon_name="plus", style="link")
        self.back = push("Follow the lamp", lambda: self._bring_back(*self._chosen), style="link")
        self.strip = StripRow(session, service, "light")
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
        column.addWidget(self.lamp)
        column.addWidget(self.rows)
        column.addWidget(named_row("", self.add, self.back))
        self._colour_row = named_row("Colour", self.colour)
        self._highlight_row = named_row("Highlight", self.highlight)
        self._shade_row = named_row("Shade", self.shade)
        self._side_row = named_row("Lies", self.side)
        glow = (self._colour_row, self.blur, self.spread, self.opacity)
        cast = (self.distance, self.direction, self.place)
        self._shown: dict[str, tuple[QWidget, ...]] = {
            "shadow": (*glow, *cast, self.clear),
            "inner_shadow": (*glow, *cast),
            "outer_glow": glow,
            "inner_glow": glow,
            "bevel": (
                self.slope, self.softness, self.direction, self.elevation, self._highlight_row, self._shade_row,
                self._side_row,
            ),
        }  # fmt: skip
        self._numbers: tuple[QWidget, ...] = (
            self._colour_row, self.slope, self.softness, self.blur, self.spread, self.opacity, self.distance,
            self.direction, self.place, self.elevation, self._highlight_row, self._shade_row, self._side_row,
            self.clear,
        )  # fmt: skip
        for widget in self._numbers:
            column.addWidget(widget)
        column.addWidget(self.strip)

    def _connect(self) -> None:
        self.rows.chosen.connect(lambda number: self._choose(self._lines[number]))
        self.rows.switched.connect(self._on_switched)
        self.rows.delete_asked.connect(self._on_delete_asked)
        self.rows.back_asked.connect(lambda n: self._bring_back(self._lines[n].kind, self._lines[n].index))
        self.place.stepped.connect(self._on_place)
        self.place.reset_asked.connect(lambda: self._edit("Take the shift away", self._moved_to(0.0, 0.0)))
        self.place.refused.connect(self._session.problem_found)
        self.clear.clicked.connect(lambda on: self._set("Clear beneath the cutout", is_clear_beneath=on))
        for well, field in ((self.colour, "colour"), (self.highlight, "highlight"), (self.shade, "shade")):
            well.refused.connect(self._session.problem_found)
            well.moved.connect(lambda c, field=field: self._preview(self._given_one(field, c)))
            well.stepped.connect(lambda c, field=field: self._set_one("Colour the light", field, c))

    # edits

    def _bring_back(self, kind: str, index: int) -> None:
        self._edit("Follow the lamp", lit(lambda lights: lamp.brought_back(lights, kind, index)))

    def _now(self) -> tuple[str, int, Light] | None:
        """Return the light whose numbers are shown, as it is now: the rows may be a moment behind."""
        item = self._session.item
        found = [] if item is None else lights_in(item.finishes.lights)
        return next((light for light in found if light[:2] == self._chosen), None)

    def _given(self, **fields: Unpack[LightFields]) -> ItemEdit:
        now = self._now()
        if now is None:
            return lambda job, key: job
        kind, index, _ = now
        return lambda job, key: change_light(job, key, kind, index, **fields)

    def _polar(self, *, degrees: float | None = None, distance: float | None = None) -> ItemEdit:
        """Change the direction a shadow falls in or its distance, or where a slope's light comes from."""
        now = self._now()
        light = None if now is None else now[2]
        if isinstance(light, Bevel):
            turned = light.direction if degrees is None else degrees
            if self._leads():
                return lit(lambda lights: lamp.led_to(lights, turned, 0.0))
            return self._given(direction=turned)
        if not isinstance(light, Shadow):
            return self._given()
        far = math.hypot(light.dx, light.dy) if distance is None else distance
        if degrees is None:
            dx, dy = direction_of(light)
        else:
            dx, dy = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        return self._moved_to(round(far * dx, 2), round(far * dy, 2))

    def _moved_to(self, dx: float, dy: float) -> ItemEdit:
        """Shift the chosen shadow; the one that holds the lamp takes the others along."""
        if not self._leads() or (dx == 0 and dy == 0):
            return self._given(dx=dx, dy=dy)
        comes, far = math.degrees(math.atan2(-dy, -dx)), math.hypot(dx, dy)
        exact = self._given(dx=dx, dy=dy)
        led = lit(lambda lights: lamp.led_to(lights, comes, far))
        return lambda job, key: exact(led(job, key), key)

    def _leads(self) -> bool:
        item = self._session.item
        leader = None if item is None else lamp.leader_of(item.finishes.lights)
        return leader is not None and leader[:2] == self._chosen

    def _given_one(self, name: str, value: object) -> ItemEdit:
        return self._given(**one_field(LightFields, name, value))

    def _set_one(self, step: str, name: str, value: object) -> None:
        """Change one field by its name."""
        self._set(step, **one_field(LightFields, name, value))

    def _set(self, step: str, **fields: Unpack[LightFields]) -> None:
        self._edit(step, self._given(**fields))

    # what is shown

    def show_item(self, item: Item, job: Job) -> None:
        """Show the lights of an item."""
        lights = item.finishes.lights
        self._lines = light_lines(lights)
        places = [(line.kind, line.index) for line in self._lines]
        if self._chosen not in places or self._now() is None:
            self._chosen = next(((n.kind, n.index) for n in self._lines if n.light is not None), places[0])
        self.strip.show_item(item)
        self.setEnabled(not item.is_locked)
        self.rows.show_lines(self._lines, places.index(self._chosen))
        self.lamp.show_item(item, job)
        self.add.setVisible(bool(lights.shadows))
        kind, index, light = self._now() or ("", 0, None)
        self.back.setVisible(any(n.has_own_way for n in self._lines if (n.kind, n.index) == (kind, index)))
        for widget in self._numbers:
            widget.setVisible(widget in self._shown.get(kind, ()))
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
            self.direction.show_value(round(degrees, 2))
            self.distance.show_value(round(math.hypot(light.dx, light.dy), 2))
            self.place.show_values(light.dx, light.dy)
            self.clear.setChecked(light.is_clear_beneath)

    def _show_bevel(self, bevel: Bevel) -> None:
        self.slope.show_value(bevel.width)
        self.softness.show_value(bevel.softness)
        self.direction.show_value(bevel.direction)
        self.elevation.show_value(bevel.elevation)
        self.highlight.show_colour(bevel.highlight)
        self.shade.show_colour(bevel.shade)
        self.side.show_choice(bevel.side)

    # rows

    def add_light(self, kind: str) -> None:
        """Add a light, or switch it on, and choose it."""
        given = self._session.given

        def edit(job: Job, key: str) -> Job:
            return add_light(job, key, kind, first_light(job, key, kind, given))

        self._edit(f"Add: {LIGHT_KINDS[kind].lower()}", edit)
        item = self._session.item
        if item is not None:
            count = len(item.finishes.lights.shadows)
            self._chosen = (kind, max(count - 1, 0) if kind == "shadow" else 0)
            self.show_item(item, self._session.job)

    def _choose(self, line: LightLine) -> None:
        self._chosen = (line.kind, line.index)
        if self._session.item is not None:
            self.show_item(self._session.item, self._session.job)

    def _on_switched(self, number: int, is_on: bool) -> None:
        line = self._lines[number]
        if line.light is None:
            self.add_light(line.kind)
            return
        words = "Show the light" if is_on else "Hide the light"
        self._chosen = (line.kind, line.index)
        self._edit(words, lambda job, key: change_light(job, key, line.kind, line.index, is_on=is_on))

    def _on_delete_asked(self, number: int) -> None:
        line = self._lines[number]
        if line.light is not None:
            self._edit("Take the light away", lambda job, key: remove_light(job, key, line.kind, line.index))

    def _on_place(self, x: float | None, y: float | None) -> None:
        now = self._now()
        if now is None or not isinstance(now[2], Shadow):
            return
        for name, value in (("dx", x), ("dy", y)):
            if value is not None:
                self._offer(self._offered_as(name), value)
        dx, dy = (was if value is None else value for was, value in ((now[2].dx, x), (now[2].dy, y)))
        self._edit("Shift the shadow", self._moved_to(dx, dy))
