"""Shapes out of an SVG file: paths and basic shapes under their transforms, `use`, clip paths, fill rules."""

import math
import re
from collections.abc import Callable, Iterator, Mapping
from xml.etree.ElementTree import Element

from msgspec import Struct

from glasscap.core.errors import GlassCapError, ShapeError
from glasscap.core.formats.artwork import (
    check_copies,
    drawing_size,
    length_px,
    link_targets,
    local_name,
    parsed_drawing,
)
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.boolean import combined, normalised
from glasscap.core.geometry.outline import FillRule, Outline
from glasscap.core.geometry.path_data import read_path_data
from glasscap.core.geometry.pen import Pen
from glasscap.core.geometry.types import Affine

MOST_SEGMENTS = 60_000
_MOST_PARTS = 2000
_DEEPEST = 24
_UNSEEN = [
    "defs",
    "symbol",
    "clipPath",
    "mask",
    "pattern",
    "marker",
    "linearGradient",
    "radialGradient",
    "filter",
    "style",
    "title",
    "desc",
    "metadata",
    "script",
    "text",
    "image",
    "foreignObject",
]
_TRANSFORM = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_URL = re.compile(r"url\(\s*['\"]?#([^)'\"]+)['\"]?\s*\)")


class SvgPart(Struct, frozen=True):
    """One shape of a drawing, in the drawing's px: what it is called there, and its outline, normalised."""

    label: str
    outline: Outline


class _Look(Struct, frozen=True):
    """The properties that elements hand down to their children."""

    affine: Affine
    fill_rule: FillRule = "nonzero"
    clip: Outline | None = None
    depth: int = 0


def svg_shapes(data: bytes, name: str) -> tuple[SvgPart, ...]:
    """Return the shapes of an SVG file from back to front; open paths are closed, lines and text left out.

    Raises
    ------
    PhotoError
        For what is no SVG file, defines entities, or is too large.
    ShapeError
        For a drawing without a shape, or with too many segments.
    """
    root = parsed_drawing(data, name)
    check_copies(root, name)
    reader = _Reader(root, name)
    parts = tuple(reader.parts())
    if not parts:
        why = reader.problem or "there is no closed shape in it"
        raise ShapeError(name, why, "draw paths or basic shapes")
    return parts


class _Reader:
    def __init__(self, root: Element, name: str) -> None:
        self._root, self._name = root, name
        self._by_id = {e.get("id"): e for e in root.iter() if e.get("id")}
        self._segments = self._count = 0
        self.problem = ""

    def parts(self) -> Iterator[SvgPart]:
        yield from self._children(self._root, _Look(_view_box(self._root, drawing_size(self._root, self._name))))

    def _children(self, element: Element, look: _Look) -> Iterator[SvgPart]:
        if look.depth > _DEEPEST:
            return
        for child in element:
            if local_name(child) not in _UNSEEN:
                yield from self._element(child, look)

    def _element(self, element: Element, look: _Look) -> Iterator[SvgPart]:
        style = _style(element)
        if style.get("display") == "none" or style.get("visibility") in ("hidden", "collapse"):
            return
        look = self._within(element, look, style)
        kind = local_name(element)
        if kind in ("g", "a", "switch"):
            yield from self._children(element, look)
        elif kind == "svg":
            x, y = length_px(element.get("x")) or 0.0, length_px(element.get("y")) or 0.0
            size = (length_px(element.get("width")) or 100.0, length_px(element.get("height")) or 100.0)
            inner = look.affine.after(Affine.translation(x, y)).after(_view_box(element, size))
            yield from self._children(element, _Look(inner, look.fill_rule, look.clip, look.depth + 1))
        elif kind == "use":
            yield from self._used(element, look)
        elif kind in _BASIC:
            part = self._shape(element, look)
            if part is not None:
                yield part

    def _within(self, element: Element, look: _Look, style: Mapping[str, str]) -> _Look:
        affine = look.affine.after(read_transform(element.get("transform", "")))
        word = style.get("fill-rule", "")
        rule: FillRule = "evenodd" if word == "evenodd" else "nonzero" if word == "nonzero" else look.fill_rule
        clip = look.clip
        found = _URL.match(style.get("clip-path", ""))
        if found is not None and found[1] in self._by_id:
            own = self._clip(self._by_id[found[1]], element, affine, look.depth)
            clip = own if clip is None else combined(clip, own, "intersect")
        return _Look(affine, rule, clip, look.depth + 1)

    def _used(self, element: Element, look: _Look) -> Iterator[SvgPart]:
        x, y = length_px(element.get("x")) or 0.0, length_px(element.get("y")) or 0.0
        inner = look.affine.after(Affine.translation(x, y))
        for key in link_targets(element):
            target = self._by_id.get(key)
            if target is None or look.depth > _DEEPEST:
                continue
            at = _Look(inner, look.fill_rule, look.clip, look.depth + 1)
            if local_name(target) == "symbol":
                size = (length_px(element.get("width")) or 100.0, length_px(element.get("height")) or 100.0)
                box = _view_box(target, size) if target.get("viewBox") else Affine()
                yield from self._children(target, _Look(inner.after(box), at.fill_rule, at.clip, at.depth))
            else:
                yield from self._element(target, at)

    def _clip(self, clip: Element, user: Element, affine: Affine, depth: int) -> Outline:
        """Return a clip path's region: the union of its shapes (CSS Masking 1, 7)."""
        inner = affine
        if clip.get("clipPathUnits") == "objectBoundingBox":
            own = self._plain(user)
            if own is None or not own.contours:
                return Outline(())
            box = outline_box(own)
            inner = affine.after(Affine(box.width, 0, 0, box.height, box.x0, box.y0))
        inner = inner.after(read_transform(clip.get("transform", "")))
        whole = Outline(())
        for child in clip:
            style = _style(child)
            rule: FillRule = "evenodd" if style.get("clip-rule") == "evenodd" else "nonzero"
            for part in self._element(child, _Look(inner, rule, None, depth + 1)):
                whole = combined(whole, part.outline, "add") if whole.contours else part.outline
        return whole

    def _shape(self, element: Element, look: _Look) -> SvgPart | None:
        plain = self._plain(element)
        if plain is None or not plain.contours:
            return None
        self._segments += sum(len(c) // 3 for c in plain.contours)
        self._count += 1
        if self._segments > MOST_SEGMENTS or self._count > _MOST_PARTS:
            raise ShapeError(self._name, f"it has more than {MOST_SEGMENTS} segments", "simplify the drawing")
        placed = Outline(plain.contours, look.fill_rule).transformed(look.affine)
        outline = normalised(placed)
        if look.clip is not None:
            outline = combined(outline, look.clip, "intersect")
        if not outline.contours:
            return None
        return SvgPart(element.get("id") or local_name(element).capitalize(), outline)

    def _plain(self, element: Element) -> Outline | None:
        make = _BASIC.get(local_name(element))
        if make is None:
            return None
        try:
            return make(element)
        except GlassCapError as error:
            self.problem = error.why
            return None


def _style(element: Element) -> dict[str, str]:
    """Return presentation attributes under the declarations of the style attribute."""
    found = {k: v.strip() for k, v in element.attrib.items()}
    for declaration in element.get("style", "").split(";"):
        key, colon, value = declaration.partition(":")
        if colon:
            found[key.strip()] = value.replace("!important", "").strip()
    return found


def read_transform(text: str) -> Affine:
    """Return the map of a transform attribute (SVG 1.1, 7.6); what is no transform is left out."""
    whole = Affine()
    for kind, arguments in _TRANSFORM.findall(text):
        v = [float(n) for n in _NUMBER.findall(arguments)]
        if any(not abs(n) < 1e12 for n in v):
            continue
        one = _one_transform(kind, v)
        if one is not None:
            whole = whole.after(one)
    return whole


def _one_transform(kind: str, v: list[float]) -> Affine | None:
    if kind == "matrix" and len(v) == 6:
        return Affine(*v)
    if kind == "translate" and v:
        return Affine.translation(v[0], v[1] if len(v) > 1 else 0.0)
    if kind == "scale" and v:
        return Affine.scaling(v[0], v[1] if len(v) > 1 else v[0])
    if kind == "rotate" and v:
        turn = Affine.rotation(v[0])
        if len(v) >= 3:
            return Affine.translation(v[1], v[2]).after(turn).after(Affine.translation(-v[1], -v[2]))
        return turn
    if kind in ("skewX", "skewY") and v:
        slope = math.tan(math.radians(v[0]))
        return Affine(c=slope) if kind == "skewX" else Affine(b=slope)
    return None


def _view_box(element: Element, size: tuple[float, float]) -> Affine:
    """Return the map of a viewBox onto a size, kept in proportion and centred (SVG 2, 8.2) unless "none"."""
    v = [float(n) for n in _NUMBER.findall(element.get("viewBox", ""))]
    if len(v) != 4 or v[2] <= 0 or v[3] <= 0:
        return Affine()
    sx, sy = size[0] / v[2], size[1] / v[3]
    if element.get("preserveAspectRatio", "").strip().startswith("none"):
        return Affine.scaling(sx, sy).after(Affine.translation(-v[0], -v[1]))
    scale = min(sx, sy)
    middle = Affine.translation((size[0] - v[2] * scale) / 2, (size[1] - v[3] * scale) / 2)
    return middle.after(Affine.scaling(scale)).after(Affine.translation(-v[0], -v[1]))


def _value(element: Element, key: str, default: float = 0.0) -> float:
    text = element.get(key)
    if text is None:
        return default
    match = _NUMBER.match(text.strip())
    px = length_px(text)
    value = px if px is not None else float(match[0]) if match else default
    if not abs(value) <= 1e7:
        raise ShapeError("Drawing", f"a coordinate is beyond {1e7:g}", "scale the drawing down")
    return value


def _path(element: Element) -> Outline:
    return read_path_data(element.get("d", ""))


def _rect(element: Element) -> Outline:
    x, y, w, h = (_value(element, k) for k in ("x", "y", "width", "height"))
    if w <= 0 or h <= 0:
        return Outline(())
    rx, ry = element.get("rx"), element.get("ry")
    a = _value(element, "rx") if rx not in (None, "auto") else _value(element, "ry")
    b = _value(element, "ry") if ry not in (None, "auto") else a
    a, b = min(max(a, 0.0), w / 2), min(max(b, 0.0), h / 2)
    if a <= 0 or b <= 0:
        return Pen().move(x, y).line((x + w, y), (x + w, y + h), (x, y + h)).close().outline()
    pen = Pen()
    for cx, cy, start in (
        (x + a, y + b, 180),
        (x + w - a, y + b, 270),
        (x + w - a, y + h - b, 0),
        (x + a, y + h - b, 90),
    ):
        pen.arc(cx, cy, a, start, 90, ry=b)
    return pen.close().outline()


def _circle(element: Element) -> Outline:
    r = _value(element, "r")
    return Pen().circle(_value(element, "cx"), _value(element, "cy"), r).outline() if r > 0 else Outline(())


def _ellipse(element: Element) -> Outline:
    rx, ry = _value(element, "rx"), _value(element, "ry")
    if rx <= 0 or ry <= 0:
        return Outline(())
    return Pen().circle(_value(element, "cx"), _value(element, "cy"), rx, ry).outline()


def _polygon(element: Element) -> Outline:
    return read_path_data("M" + element.get("points", "") + "Z")


_BASIC: dict[str, Callable[[Element], Outline]] = {
    "path": _path,
    "rect": _rect,
    "circle": _circle,
    "ellipse": _ellipse,
    "polygon": _polygon,
    "polyline": _polygon,
}
