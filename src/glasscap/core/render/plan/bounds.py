"""Bounds of a part: a box of output px outside which it shows nothing."""

import math

from glasscap.core.document.arranging.seen_beyond import TAIL_SIGMAS, feather_spill, rough_reach
from glasscap.core.document.model.finishes import Edge, Glow, Shadow
from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.region import photo_quad, region_polygons
from glasscap.core.geometry.outline import bounds
from glasscap.core.geometry.types import NOTHING, Box, PixelBox
from glasscap.core.render.plan.bands import bands_of
from glasscap.core.render.plan.part import FLATNESS, Part


def part_bounds(part: Part) -> PixelBox:
    """Return a box that holds every visible pixel of a part."""
    box = _sharp_bounds(part) if part.is_plain else _finished_bounds(part)
    return box if part.mount is None else box.union(part_bounds(part.mount))


def _sharp_bounds(part: Part) -> PixelBox:
    region = part.region
    if region.shape is not None and not region.is_hole:
        flat = region_polygons(region, tolerance=FLATNESS)
    else:
        flat = (photo_quad(region.photo_to_output, region.photo_size),)
    if not any(len(p) for p in flat):
        return NOTHING
    return bounds(flat).rounded_out()


def outline_box(part: Part) -> Box:
    """Return the box of the outline's frame, before inset."""
    region, placement = part.region, part.region.placement
    if region.shape is None or placement is None:
        return frame_box(region.photo_to_output, 0, 0, *region.photo_size)
    to_output = region.sheet_to_output.after(placement.to_sheet)
    width, height = placement.width, placement.height
    return frame_box(to_output, -width / 2, -height / 2, width, height)


def _finished_bounds(part: Part) -> PixelBox:
    """Return the frame grown by all that spills; for a hole the photo's box as well."""
    region, scale = part.region, part.scale
    box = _grown(outline_box(part), outer_reach(part))
    if region.is_hole:
        box = box.union(frame_box(region.photo_to_output, 0, 0, *region.photo_size))
    whole = box
    lights = part.lights
    for light in (*lights.shadows, *((lights.outer_glow,) if lights.outer_glow else ())):
        dx, dy = (light.dx * scale, light.dy * scale) if isinstance(light, Shadow) else (0.0, 0.0)
        cast = _grown(box, light_reach(light) * scale)
        whole = whole.union(Box(cast.x0 + dx, cast.y0 + dy, cast.x1 + dx, cast.y1 + dy))
    return whole.rounded_out()


def light_reach(light: Shadow | Glow) -> float:
    """Return how far a shadow spills around its silhouette, sheet px."""
    return max(0.0, light.spread) + light.blur / 2 * TAIL_SIGMAS


def outer_reach(part: Part) -> float:
    """Return how far edge, strokes and an outer bevel stand out of the outline's frame, output px."""
    scale = part.scale
    bands = bands_of(part.finishes.strokes, scale)
    outer = max([0.0, *(b.outer.distance * _miter(b.outer.join, b.outer.mitre_limit) for b in bands)])
    bevel = part.lights.bevel
    if bevel is not None and bevel.side == "outer":
        outer += (bevel.width + 2 * bevel.softness) * scale
    return content_reach(part) + outer


def content_box(part: Part) -> PixelBox:
    """Return a box outside of which nothing is seen of the content's own pixels."""
    if part.region.is_hole:
        return frame_box(part.region.photo_to_output, 0, 0, *part.region.photo_size).rounded_out()
    return _grown(outline_box(part), content_reach(part)).rounded_out()


def content_reach(part: Part) -> float:
    """Return how far the content itself may show beyond the outline's frame, output px."""
    scale, edge = part.scale, part.edge
    # A hole is inset into the kept side: its outline moves outwards.
    outwards = edge.inset if part.region.is_hole else -edge.inset
    reach = max(0.0, outwards) * _corner(edge) * scale + feather_spill(edge) * scale
    return reach + rough_reach(edge) * scale + 1.0


def stroke_spill(edge: Edge) -> float:
    """Return how far strokes show beyond their own width, sheet px: where they fade as the content does."""
    return feather_spill(edge) if edge.feathers_strokes else 0.0


def _corner(edge: Edge) -> float:
    return 4.0 if edge.join == "mitre" else 1.0


def _miter(join: str, limit: float) -> float:
    return limit if join == "mitre" else 1.0


def _grown(box: Box, by: float) -> Box:
    by = math.ceil(by)
    return Box(box.x0 - by, box.y0 - by, box.x1 + by, box.y1 + by)
