"""The rows of the light step: all that light does, one line each, what is not there yet among them."""

import math

from msgspec import Struct

from glasscap.core.document.finishing.edits import Light
from glasscap.core.document.model.finishes import Bevel, Lights, Shadow
from glasscap.editor.lamp import direction_from, follows
from glasscap.editor.numbers import format_number
from glasscap.editor.step_words import LIGHT_KINDS, lights_in


class LightLine(Struct, frozen=True):
    """One row: `light` is None where there is none yet; `has_own_way` tells that it left the lamp."""

    kind: str
    index: int
    name: str
    words: str
    light: Light | None = None
    has_own_way: bool = False

    @property
    def is_on(self) -> bool:
        """Whether it is seen."""
        return self.light is not None and self.light.is_on


def light_lines(lights: Lights) -> list[LightLine]:
    """Return a line for each shadow beneath (at least one), and one for each other kind."""
    there = {(kind, index): light for kind, index, light in lights_in(lights)}
    places = [("shadow", n) for n in range(max(len(lights.shadows), 1))]
    places += [(kind, 0) for kind in LIGHT_KINDS if kind != "shadow"]
    return [_line(lights, kind, index, there.get((kind, index))) for kind, index in places]


def _line(lights: Lights, kind: str, index: int, light: Light | None) -> LightLine:
    name = LIGHT_KINDS[kind] + (f" {index + 1}" if index else "")
    if light is None or not light.is_on:
        return LightLine(kind, index, name, "off", light, _left(lights, kind, index, light))
    return LightLine(kind, index, name, _words(kind, light), light, _left(lights, kind, index, light))


def _left(lights: Lights, kind: str, index: int, light: Light | None) -> bool:
    return light is not None and direction_from(light) is not None and not follows(lights, kind, index)


def _words(kind: str, light: Light) -> str:
    if isinstance(light, Bevel):
        return f"{format_number(light.width)} px"
    if kind == "shadow" and isinstance(light, Shadow):
        return f"{format_number(math.hypot(light.dx, light.dy))} px, blur {format_number(light.blur)}"
    return f"blur {format_number(light.blur)}"
