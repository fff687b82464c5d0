"""Finishes at work: what is off left out, so that it costs nothing and equals having none."""

from msgspec.structs import replace

from glasscap.core.document.finishes import AS_SHOT, Adjustments, Edge, Finishes, Glow, Lights, Rough, Shadow


def working(finishes: Finishes) -> Finishes:
    """Return finishes without those that are off or do nothing; the mount is left to the plan."""
    return Finishes(
        edge=_edge(finishes.edge),
        strokes=tuple(s for s in finishes.strokes if s.is_on and s.width > 0 and s.opacity > 0),
        lights=_lights(finishes.lights),
    )


def working_adjustments(adjustments: Adjustments) -> Adjustments:
    """Return adjustments at work, `AS_SHOT` when they change nothing."""
    return adjustments if adjustments.is_on else AS_SHOT


def _edge(edge: Edge) -> Edge:
    if not edge.is_on:
        return Edge()
    changes: dict[str, object] = {"rough": _rough(edge.rough)}
    if edge.mask is not None and not edge.mask.is_on:
        changes["mask"] = None
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
