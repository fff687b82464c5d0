"""The steps' values in words, as their headers show them."""

import math

from glasscap.core.document.model.finishes import Bevel, Finishes, Glow, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Cutout, Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, TexturePaint
from glasscap.core.document.model.query import photo_of
from glasscap.core.shapes.outlines import has_equal_sides, shape_label
from glasscap.editor.numbers import counted, format_number

LIGHT_KINDS = {
    "shadow": "Shadow beneath",
    "inner_shadow": "Shade within",
    "outer_glow": "Light around",
    "inner_glow": "Light within",
    "bevel": "Sloped edge",
}
Light = Shadow | Glow | Bevel


_PAINT_WORDS = {ColourPaint: "Colour", GradientPaint: "Gradient", TexturePaint: "Texture"}


def photo_words(item: Cutout, job: Job) -> str:
    """Return what shows through."""
    if item.is_group:
        count = len(item.items)
        return counted(count, "cutout")
    if isinstance(item.content, PaintContent):
        return _PAINT_WORDS[type(item.content.paint)]
    photo = photo_of(job, item)
    return "waits for a photo" if photo is None else f"{photo.name} · {photo.width}×{photo.height}"


def shape_words(item: Cutout) -> str:
    """Return the shape and its size."""
    shape, placement = item.shape, item.shape_placement
    if shape is None or placement is None:
        return "none"
    width, height = format_number(placement.width), format_number(placement.height)
    size = width if has_equal_sides(shape) else f"{width} × {height}"
    off = "" if item.is_masked else ", mask off"
    hole = " hole" if shape.keeps == "outside" else ""
    return f"{shape_label(shape)}{hole}, {size} px{off}"


def edge_words(finishes: Finishes) -> str:
    """Return what turns the outline into an edge."""
    edge = finishes.edge
    if not edge.is_on:
        return "off"
    parts = []
    if edge.inset:
        parts.append(f"{'In' if edge.inset > 0 else 'Out'} {format_number(abs(edge.inset))}")
    if edge.feather:
        parts.append(f"Feather {format_number(edge.feather)} px")
    if edge.soft is not None and edge.soft.is_on:
        parts.append(f"Soft contour {format_number(edge.soft.width)} px")
    if edge.rough is not None and edge.rough.is_on:
        parts.append(edge.rough.kind.capitalize())
    if edge.mask is not None and edge.mask.is_on:
        parts.append("Picture mask")
    return ", ".join(parts) or "Sharp"


def stroke_words(stroke: Stroke) -> str:
    """Return one stroke."""
    width = f"{format_number(stroke.width)} px"
    if stroke.gap and stroke.side != "centre":
        return f"{width}, {format_number(stroke.gap)} px {'away' if stroke.side == 'outside' else 'within'}"
    return f"{width} {'on the outline' if stroke.side == 'centre' else stroke.side}"


def strokes_words(finishes: Finishes) -> str:
    """Return how many strokes show."""
    count = sum(s.is_on for s in finishes.strokes)
    return {0: "none", 1: "1 stroke"}.get(count, f"{count} strokes")


def lights_in(lights: Lights) -> list[tuple[str, int, Light]]:
    """Return every light with its kind and, for drop shadows, its number."""
    found: list[tuple[str, int, Light]] = [("shadow", n, s) for n, s in enumerate(lights.shadows)]
    for kind in LIGHT_KINDS:
        light = None if kind == "shadow" else getattr(lights, kind)
        if light is not None:
            found.append((kind, 0, light))
    return found


def light_words(kind: str, light: Light) -> str:
    """Return one light."""
    if isinstance(light, Bevel):
        return f"Sloped edge, {format_number(light.width)} px"
    blur = f"blur {format_number(light.blur)}"
    if kind != "shadow" or not isinstance(light, Shadow):
        return f"{LIGHT_KINDS[kind]}, {blur}"
    far = format_number(math.hypot(light.dx, light.dy))
    way = "down" if light.dx == 0 and light.dy > 0 else "away"
    return f"{far} px {way}, {blur}"


def lights_words(finishes: Finishes) -> str:
    """Return the first light that shows, and how many more."""
    shown = [(kind, light) for kind, _, light in lights_in(finishes.lights) if light.is_on]
    if not shown:
        return "none"
    first = light_words(*shown[0])
    return first if len(shown) == 1 else f"{first} +{len(shown) - 1}"


def mount_words(finishes: Finishes) -> str:
    """Return the mount's margins."""
    mount = finishes.mount
    if mount is None or not mount.is_on:
        return "none"
    margins = (mount.top, mount.right, mount.bottom, mount.left)
    return f"{format_number(margins[0])} px" if len(set(margins)) == 1 else " ".join(map(format_number, margins))


def whole_words(item: Cutout) -> str:
    """Return the whole cutout's opacity where it is not full."""
    percent = round(item.opacity * 100)
    return "finishes, opacity" if percent == 100 else f"{percent} %"
