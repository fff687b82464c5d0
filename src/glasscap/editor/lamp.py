"""The lamp: one place light comes from, which shadow, shade and slope share until one takes its own.

No file holds it. The lamp stands where the leader puts it, the first light that has a direction; every other
light of the same direction follows.
"""

import math

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.finishing.edits import Light, put_light
from glasscap.core.document.model.finishes import Bevel, Lights, Shadow
from glasscap.editor.step_words import lights_in

# Degrees by which a direction may differ, since shifts are rounded to hundredths of a px.
_SAME = 1.0
# A lamp as far away as the picture goes shifts a shadow by this share of the cutout's shorter side.
_FARTHEST = 0.3
_ABOVE = -90.0
# A shadow that is shifted by less (px) has no direction any more that could be kept.
_NEAREST = 1.0
# The elevations of a slope's light that a lamp can have.
_LOWEST, _HIGHEST = 1.0, 89.0

Led = tuple[str, int, Light]


class Lamp(Struct, frozen=True):
    """Where light comes from.

    `direction` is in degrees (0 = right, 90 = below), `reach` 0 (right above the cutout) to 1 (far away).
    """

    direction: float = _ABOVE
    reach: float = 0.0


def direction_from(light: Light) -> float | None:
    """Return where a light comes from, degrees; None for one without a direction."""
    if isinstance(light, Bevel):
        return light.direction
    if isinstance(light, Shadow) and (light.dx or light.dy):
        return math.degrees(math.atan2(-light.dy, -light.dx))
    return None


def leader_of(lights: Lights) -> Led | None:
    """Return the light that holds the lamp: the first that is on and has a direction, or could have one."""
    able = [
        (kind, index, light)
        for kind, index, light in lights_in(lights)
        if light.is_on and isinstance(light, Shadow | Bevel)
    ]
    led = [found for found in able if direction_from(found[2]) is not None]
    return next(iter(led or able), None)


def follows(lights: Lights, kind: str, index: int) -> bool:
    """Whether a light comes from where the lamp stands."""
    return any(found[:2] == (kind, index) for found in _followers(lights))


def _followers(lights: Lights) -> list[Led]:
    """Return all lights that go with the lamp, the leader among them, also those that are off."""
    leader = leader_of(lights)
    if leader is None:
        return []
    stands = direction_from(leader[2])
    found = [leader]
    for kind, index, light in lights_in(lights):
        comes = direction_from(light)
        if (kind, index) == leader[:2] or comes is None or stands is None:
            continue
        if abs(math.remainder(comes - stands, 360.0)) <= _SAME:
            found.append((kind, index, light))
    return found


def lamp_of(lights: Lights, side: float) -> Lamp | None:
    """Return the lamp over a cutout whose shorter side is `side` px; None where no light has a direction."""
    leader = leader_of(lights)
    if leader is None:
        return None
    light, comes = leader[2], direction_from(leader[2])
    if isinstance(light, Bevel):
        return Lamp(light.direction, (_HIGHEST - light.elevation) / (_HIGHEST - _LOWEST))
    assert isinstance(light, Shadow)
    far = math.hypot(light.dx, light.dy) / (_FARTHEST * side)
    return Lamp(_ABOVE if comes is None else comes, min(math.sqrt(far), 1.0))


def with_lamp(lights: Lights, lamp: Lamp, side: float) -> Lights:
    """Return lights after the lamp was moved: the leader's numbers whole, the followers in proportion."""
    leader = leader_of(lights)
    if leader is None:
        return lights
    if isinstance(leader[2], Bevel):
        elevation = _HIGHEST - lamp.reach * (_HIGHEST - _LOWEST)
        return _turned(lights, lamp.direction, 1.0, elevation=round(elevation))
    return led_to(lights, lamp.direction, max(float(round(lamp.reach**2 * _FARTHEST * side)), _NEAREST))


def led_to(lights: Lights, direction: float, distance: float) -> Lights:
    """Return lights whose leader comes from a direction, shifted by `distance` px; followers in proportion."""
    leader = leader_of(lights)
    if leader is None:
        return lights
    if isinstance(leader[2], Bevel):
        return _turned(lights, direction, 1.0)
    assert isinstance(leader[2], Shadow)
    before = math.hypot(leader[2].dx, leader[2].dy)
    if before == 0:
        return put_light(lights, *leader[:2], _shifted(leader[2], direction, distance))
    return _turned(lights, direction, distance / before)


def _turned(lights: Lights, direction: float, farther: float, elevation: float | None = None) -> Lights:
    leads = leader_of(lights)
    for kind, index, light in _followers(lights):
        if isinstance(light, Bevel):
            turned: Light = replace(light, direction=round(direction, 2))
            if elevation is not None and leads is not None and leads[0] == kind:
                turned = replace(turned, elevation=elevation)
        else:
            assert isinstance(light, Shadow)
            turned = _shifted(light, direction, farther * math.hypot(light.dx, light.dy))
        lights = put_light(lights, kind, index, turned)
    return lights


def _shifted(shadow: Shadow, direction: float, distance: float) -> Shadow:
    """Return a shadow that falls away from a direction."""
    angle = math.radians(direction)
    # No negative zeros in files.
    dx, dy = round(-distance * math.cos(angle), 2) + 0.0, round(-distance * math.sin(angle), 2) + 0.0
    return replace(shadow, dx=dx, dy=dy)


def nudged(lights: Lights, *, degrees: float = 0.0, px: float = 0.0) -> Lights:
    """Return lights with the lamp turned by some degrees and moved away by some px (a slope's: some degrees)."""
    leader = leader_of(lights)
    if leader is None:
        return lights
    light = leader[2]
    comes = direction_from(light)
    direction = math.remainder((_ABOVE if comes is None else comes) + degrees, 360.0)
    if isinstance(light, Bevel):
        elevation = min(max(light.elevation - px, _LOWEST), _HIGHEST)
        return _turned(lights, direction, 1.0, elevation=elevation)
    assert isinstance(light, Shadow)
    return led_to(lights, direction, max(math.hypot(light.dx, light.dy) + px, _NEAREST))


def softened(lights: Lights, px: float) -> Lights:
    """Return lights with the leader blurred by some px more; followers in proportion."""
    leader = leader_of(lights)
    if leader is None:
        return lights
    before = _softness(leader[2])
    after = max(before + px, 0.0)
    for kind, index, light in _followers(lights):
        is_leader = (kind, index) == leader[:2]
        soft = after if is_leader or before == 0 else round(_softness(light) * after / before, 2)
        changed: Light = replace(light, softness=soft) if isinstance(light, Bevel) else replace(light, blur=soft)
        lights = put_light(lights, kind, index, changed)
    return lights


def _softness(light: Light) -> float:
    return light.softness if isinstance(light, Bevel) else light.blur


def brought_back(lights: Lights, kind: str, index: int) -> Lights:
    """Return lights with one of them coming from where the lamp stands again, as far away as it was."""
    leader = leader_of(lights)
    stands = None if leader is None else direction_from(leader[2])
    found = next((light for k, n, light in lights_in(lights) if (k, n) == (kind, index)), None)
    if stands is None or found is None:
        return lights
    if isinstance(found, Bevel):
        return put_light(lights, kind, index, replace(found, direction=round(stands, 2)))
    if not isinstance(found, Shadow):
        return lights
    return put_light(lights, kind, index, _shifted(found, stands, math.hypot(found.dx, found.dy)))
