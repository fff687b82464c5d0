"""Finishes at work: what is off left out, so that it costs nothing and equals having none."""

import math
from typing import TypeVar

from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    AS_SHOT,
    Adjustments,
    Edge,
    Finishes,
    Glow,
    Lights,
    Rough,
    Shadow,
)


def working(finishes: Finishes, longest: float = math.inf, *, can_be_soft: bool = True) -> Finishes:
    """Return finishes without those that are off or do nothing; the mount is left to the plan.

    A soft contour needs a photo within a shape (`can_be_soft`).

    Blurs and spreads end at twice the `longest` side (sheet px) of what they fall on. There a wider one is all
    but flat, and its memory and time would have no end.
    """
    found = Finishes(
        edge=_edge(finishes.edge, can_be_soft=can_be_soft),
        strokes=tuple(s for s in finishes.strokes if s.is_on and s.width > 0 and s.opacity > 0),
        lights=_lights(finishes.lights),
    )
    most = 2 * longest
    if found.edge.feather > most:
        found = replace(found, edge=replace(found.edge, feather=most))
    return replace(found, lights=_bounded(found.lights, most))


def working_adjustments(adjustments: Adjustments, longest: float = math.inf) -> Adjustments:
    """Return adjustments at work, `AS_SHOT` when they change nothing; a blur as `working` has it."""
    if not adjustments.is_on:
        return AS_SHOT
    return replace(adjustments, blur=2 * longest) if adjustments.blur > 2 * longest else adjustments


L = TypeVar("L", Shadow, Glow)


def _bounded(lights: Lights, most: float) -> Lights:
    def near(light: L) -> L:
        spread = min(max(light.spread, -most), most)
        is_near = light.blur <= most and spread == light.spread
        return light if is_near else replace(light, blur=min(light.blur, most), spread=spread)

    bevel = lights.bevel
    if bevel is not None and max(bevel.width, bevel.softness) > most:
        bevel = replace(bevel, width=min(bevel.width, most), softness=min(bevel.softness, most))
    return Lights(
        shadows=tuple(near(s) for s in lights.shadows),
        inner_shadow=None if lights.inner_shadow is None else near(lights.inner_shadow),
        outer_glow=None if lights.outer_glow is None else near(lights.outer_glow),
        inner_glow=None if lights.inner_glow is None else near(lights.inner_glow),
        bevel=bevel,
    )


def _edge(edge: Edge, *, can_be_soft: bool) -> Edge:
    if not edge.is_on:
        return Edge()
    changes: dict[str, object] = {"rough": _rough(edge.rough)}
    if edge.mask is not None and not edge.mask.is_on:
        changes["mask"] = None
    if edge.soft is not None:
        is_soft = can_be_soft and edge.soft.is_on and edge.soft.width > 0
        # The outline goes where nothing of the object is beyond it; the matte does the rest.
        changes |= {"inset": edge.inset - edge.soft.reach} if is_soft else {"soft": None}
    if edge.feather == 0:
        changes |= {"feather_side": "centred", "strength": 1.0, "feathers_strokes": False}
    return replace(edge, **changes)


def _rough(rough: Rough | None) -> Rough | None:
    return rough if rough is not None and rough.is_on and rough.amount > 0 else None


def _lights(lights: Lights) -> Lights:
    def shown(light: Shadow | Glow | None) -> bool:
        return light is not None and light.is_on and light.opacity > 0

    bevel = lights.bevel
    return Lights(
        shadows=tuple(s for s in lights.shadows if shown(s)),
        inner_shadow=lights.inner_shadow if shown(lights.inner_shadow) else None,
        outer_glow=lights.outer_glow if shown(lights.outer_glow) else None,
        inner_glow=lights.inner_glow if shown(lights.inner_glow) else None,
        bevel=bevel if bevel is not None and bevel.is_on and bevel.width > 0 else None,
    )
