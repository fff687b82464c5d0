"""Artwork: SVG drawings, cleaned of all that runs or reaches outside, drawn at any resolution."""

import re
from collections.abc import Iterator
from xml.etree.ElementTree import Element, ParseError, tostring

import cv2
import numpy as np
from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

from glasscap.core.errors import PhotoError, PhotoTooBigError
from glasscap.core.formats.drawing_process import drawn_png
from glasscap.core.raster.pixels import PhotoPixels

ENDING = ".svg"
_LARGEST_FILE, _MOST_ELEMENTS, _MOST_COPIES, _DEEPEST = 32 << 20, 200_000, 20_000, 200
_LONGEST_SIDE = 16_384
_SVG = "{http://www.w3.org/2000/svg}"
_RUNS = ("script", "foreignObject", "iframe", "audio", "video", "handler", "set", "animate", "animateTransform")
_HREFS = ("href", "{http://www.w3.org/1999/xlink}href")
# The plus after a star keeps the search from going back: in an address without an end that would take minutes.
_OUTSIDE_URL = re.compile(
    r"url\(\s*+['\"]?+(?!#|data:image/(?:png|jpe?g|gif|webp))[^()]*+\)|@import[^;]*;?", re.IGNORECASE
)
_INNER = re.compile(r"#|data:image/(?:png|jpeg|jpg|gif|webp)[;,]", re.I)
_LENGTH = re.compile(r"\s*([0-9.]+(?:e[-+]?\d+)?)\s*(px|pt|pc|mm|cm|in)?\s*$", re.I)
# CSS Values 4, 6.2: px in a unit.
_PX = {None: 1.0, "px": 1.0, "pt": 96 / 72, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}
_DEFAULT_SIZE = (300.0, 150.0)


def is_artwork(data: bytes) -> bool:
    """Whether bytes look like an SVG file."""
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    return head.startswith(b"<") and b"<svg" in data[:65536]


def cleaned(data: bytes, name: str) -> tuple[bytes, tuple[int, int], bool]:
    """Return a drawing without what runs or reaches outside, its size in px, and whether anything was left out.

    Raises
    ------
    PhotoError
        For what is no SVG, expands entities, or is too large.
    """
    root = parsed_drawing(data, name)
    was_changed = _clean(root)
    check_copies(root, name)
    return tostring(root), drawing_size(root, name), was_changed


def draw_artwork(data: bytes, name: str, width_px: int | None = None) -> PhotoPixels:
    """Draw an SVG file `width_px` wide, or at its own size. Raises PhotoError."""
    clean, (width, height), _ = cleaned(data, name)
    target = width if width_px is None else width_px
    longest = max(target, round(target * height / width))
    if longest > _LONGEST_SIDE:
        target = max(1, int(target * _LONGEST_SIDE / longest))
    try:
        png = drawn_png(clean, target)
    except ValueError as error:
        raise PhotoError(name, f"it cannot be drawn ({error})", "save the drawing anew") from error
    found = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_UNCHANGED)
    if found is None or found.ndim != 3:
        raise PhotoError(name, "it cannot be drawn", "save the drawing anew")
    rgba = cv2.cvtColor(found, cv2.COLOR_BGRA2RGBA if found.shape[2] == 4 else cv2.COLOR_BGR2RGBA)
    return PhotoPixels(np.asarray(rgba), is_opaque=bool((rgba[..., 3] == 255).all()))


def parsed_drawing(data: bytes, name: str) -> Element:
    """Return the root of an SVG file, entities and outside references not followed. Raises PhotoError."""
    if len(data) > _LARGEST_FILE:
        raise PhotoTooBigError(name, "the drawing is over 32 MB", "simplify it")
    try:
        root: Element = ElementTree.fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as error:
        raise PhotoError(name, "it defines entities, which are not read", "save it without them") from error
    except (ParseError, ValueError, LookupError) as error:
        raise PhotoError(name, f"it is no whole SVG file ({error})", "save the drawing anew") from error
    if root.tag not in ("svg", f"{_SVG}svg"):
        raise PhotoError(name, "it is no SVG drawing", "use an .svg file")
    if sum(1 for _ in root.iter()) > _MOST_ELEMENTS:
        raise PhotoTooBigError(name, f"it has more than {_MOST_ELEMENTS} elements", "simplify it")
    if _is_deeper(root, _DEEPEST):
        raise PhotoTooBigError(name, f"its groups lie more than {_DEEPEST} deep in one another", "ungroup some")
    return root


def _is_deeper(root: Element, most: int) -> bool:
    """Whether elements lie deeper in one another: what looks into each by calling itself would fail."""
    level = [root]
    for _ in range(most):
        level = [child for element in level for child in element]
        if not level:
            return False
    return True


def _clean(root: Element) -> bool:
    was_changed = False
    for parent in list(root.iter()):
        for child in list(parent):
            if local_name(child) in _RUNS or not isinstance(child.tag, str):
                parent.remove(child)
                was_changed = True
        for key, value in list(parent.attrib.items()):
            kept = _kept(key, value)
            if kept != value:
                was_changed = True
                if kept is None:
                    del parent.attrib[key]
                else:
                    parent.attrib[key] = kept
        if local_name(parent) == "style" and parent.text and _OUTSIDE_URL.search(parent.text):
            parent.text = _OUTSIDE_URL.sub("", parent.text)
            was_changed = True
    return was_changed


def _kept(key: str, value: str) -> str | None:
    """Return what stays of an attribute, None for nothing."""
    if key.lower().startswith("on"):
        return None
    if key in _HREFS:
        return value if _INNER.match(value.strip()) else None
    return _OUTSIDE_URL.sub("none", value)


def local_name(element: Element) -> str:
    """Return an element's name without its namespace."""
    return element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""


def check_copies(root: Element, name: str) -> None:
    """Refuse drawings whose `use` elements multiply without end."""
    by_id = {e.get("id"): e for e in root.iter() if e.get("id")}
    counted: dict[int, int] = {}

    def count(element: Element, depth: int) -> int:
        if depth > 64:
            return _MOST_COPIES + 1
        known = counted.get(id(element))
        if known is not None:
            return known
        counted[id(element)] = _MOST_COPIES + 1
        total = 1 + sum(count(child, depth + 1) for child in element)
        if local_name(element) == "use":
            total += sum(count(by_id[key], depth + 1) for key in link_targets(element) if key in by_id)
        counted[id(element)] = min(total, _MOST_COPIES + 1)
        return counted[id(element)]

    uses = [e for e in root.iter() if local_name(e) == "use"]
    if uses and sum(count(e, 0) for e in uses) > _MOST_COPIES:
        raise PhotoTooBigError(name, "its copies of copies are too many to draw", "simplify it")


def link_targets(element: Element) -> Iterator[str]:
    """Yield the ids of this drawing that an element links to."""
    for key in _HREFS:
        value = element.get(key, "")
        if value.startswith("#"):
            yield value[1:]


def drawing_size(root: Element, name: str) -> tuple[int, int]:
    """Return the drawing's own size in whole px: width and height, else the viewBox, else 300 x 150 (CSS 2.1)."""
    box = [_number(v) for v in re.split(r"[\s,]+", root.get("viewBox", "").strip()) if v]
    has_box = len(box) == 4 and box[2] > 0 and box[3] > 0
    width, height = length_px(root.get("width")), length_px(root.get("height"))
    if width is None and height is None:
        width, height = (box[2], box[3]) if has_box else _DEFAULT_SIZE
    elif height is None:
        height = width * box[3] / box[2] if has_box and width else _DEFAULT_SIZE[1]
    elif width is None:
        width = height * box[2] / box[3] if has_box else _DEFAULT_SIZE[0]
    assert width is not None
    if not (0 < width <= 1e6 and 0 < height <= 1e6):
        raise PhotoError(name, f"{width:g} x {height:g} px is no size of a drawing", "give it a width and height")
    longest = max(width, height)
    factor = min(1.0, _LONGEST_SIDE / longest)
    return max(1, round(width * factor)), max(1, round(height * factor))


def length_px(text: str | None) -> float | None:
    """Return a length in px, or None for anything else (percentages too)."""
    found = _LENGTH.match(text or "")
    return None if found is None else _number(found[1]) * _PX[found[2].lower() if found[2] else None]


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        return 0.0
    return value if np.isfinite(value) else 0.0
