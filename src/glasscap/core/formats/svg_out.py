"""Writing SVG 1.1: outlines as clip paths, strokes as paths, feather and shadow as filters, content embedded.

SVG's `stdDeviation` is the Gaussian's sigma; ours, as CSS box-shadow has it, is half the radius that is typed.
"""

import base64
from collections.abc import Iterator
from xml.sax.saxutils import escape, quoteattr

import numpy as np
import shapely

from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, rgba_of
from glasscap.core.document.model.query import items_of
from glasscap.core.formats.drawing import Drawing
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.geometry.outline import Points, bounds
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.paint.paints import PaintFrame
from glasscap.core.render.plan.part import Part
from glasscap.core.render.vector_scene import (
    Fade,
    Group,
    ImageOp,
    NestedOp,
    PathOp,
    Polygons,
    SoftOp,
    faded,
    tinted,
    vector_scene,
)
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.outlines import own_to_frame

# A path may leave the outline by this share of a px; numbers have three decimals.
_TOLERANCE, _DECIMALS = 1 / 64, 3
_TYPE_SIZE = 100.0
_BLACK = 'fill="#000"'


def write_svg(drawing: Drawing) -> bytes:
    """Return an SVG file as large as the picture. Raises PhotoError."""
    return _Writer(drawing).file()


class _Writer:
    def __init__(self, drawing: Drawing) -> None:
        self._drawing, self._box = drawing, drawing.planned.plan.box
        self._defs: list[str] = []
        self._known: dict[object, str] = {}
        self._names = {item.id: item.name for _, item in items_of(drawing.job)}

    def file(self) -> bytes:
        drawing, box = self._drawing, self._box
        scene = vector_scene(drawing.planned.plan, drawing.photos, drawing.cache)
        body = "\n".join(self._group(group) for group in scene)
        size = f'width="{box.width}" height="{box.height}"'
        view = f'viewBox="{box.x0} {box.y0} {box.width} {box.height}"'
        spaces = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
        defs = "\n".join(self._defs)
        return f"<svg {spaces} {size} {view}>\n<defs>\n{defs}\n</defs>\n{body}\n</svg>\n".encode()

    def _group(self, group: Group) -> str:
        lines = []
        for op in group.ops:
            if isinstance(op, PathOp):
                lines.append(self._path(op))
            elif isinstance(op, NestedOp):
                lines.append(self._nested(op))
            elif isinstance(op, ImageOp):
                lines.append(self._image(op, group.part))
            else:
                lines.append(self._soft(op))
        title = escape(self._names.get(group.part.cutout_id, "Backdrop"))
        note = f"<desc>Drawn as pixels: {escape(group.pixels_for)}</desc>" if group.pixels_for else ""
        opacity = f' opacity="{group.opacity:g}"' if group.opacity != 1 else ""
        return f"<g{opacity}><title>{title}</title>{note}\n" + "\n".join(lines) + "\n</g>"

    # operations

    def _nested(self, op: NestedOp) -> str:
        clip = "" if op.clip is None else f' clip-path="url(#{self._clip(op.clip)})"'
        return f"<g{clip}>\n" + "\n".join(self._group(group) for group in op.groups) + "\n</g>"

    def _path(self, op: PathOp) -> str:
        clip = f' clip-path="url(#{self._clip(op.dashes)})"' if op.dashes is not None else ""
        opacity = f' fill-opacity="{op.opacity:g}"' if op.opacity != 1 else ""
        return _path(path_data(op.polygons), f"{self._fill(op.paint, op.frame)}{opacity}{clip}")

    def _image(self, op: ImageOp, part: Part) -> str:
        if op.rgba.size == 0:
            return ""
        if op.fade is not None and self._leaves(op.fade.polygons):
            return self._pixels(faded(op, self._box), op.x, op.y)
        image = self._pixels(op.rgba, op.x, op.y)
        if op.fade is not None:
            return f'<g mask="url(#{self._mask(op.fade)})">{image}</g>'
        if op.clip is None:
            return image
        live = self._letters_clip(part) if op.is_outline else None
        return f'<g clip-path="url(#{live or self._clip(op.clip)})">{image}</g>'

    def _pixels(self, rgba: Bytes, x: int, y: int) -> str:
        height, width = rgba.shape[:2]
        place = f'x="{x}" y="{y}" width="{width}" height="{height}"'
        return f'<image {place} xlink:href="{_data_url(rgba, self._drawing.output.file.is_small)}"/>'

    def _leaves(self, polygons: Polygons) -> bool:
        """Whether an outline leaves the page: there are readers that blur no more of it than the page holds."""
        return bool(polygons) and not self._box.holds(bounds(polygons).rounded_out())

    def _soft(self, op: SoftOp) -> str:
        if op.sigma > 0 and self._leaves(op.polygons):
            image = self._pixels(tinted(op), self._box.x0, self._box.y0)
            mask = "" if op.beneath is None else f' mask="url(#{self._hole(op.beneath)})"'
            return f"<g{mask}>{image}</g>"
        red, green, blue = (round(v) for v in op.colour)
        mask = f' mask="url(#{self._hole(op.beneath)})"' if op.beneath is not None else ""
        blur = f' filter="url(#{self._blur(op.sigma)})"' if op.sigma > 0 else ""
        shape = _path(path_data(op.polygons), f'fill="#{red:02x}{green:02x}{blue:02x}"{blur}')
        return f'<g opacity="{op.opacity:g}"{mask}>{shape}</g>'

    # definitions

    def _define(self, key: object, kind: str, element: str) -> str:
        """Return the id of a definition; one that is there already is used again."""
        if key not in self._known:
            self._known[key] = f"{kind}{len(self._known) + 1}"
            self._defs.append(element.replace("@", self._known[key], 1))
        return self._known[key]

    def _clip(self, polygons: Polygons) -> str:
        data = path_data(polygons)
        return self._define(
            ("clip", data), "clip", f'<clipPath id="@"><path d="{data}" clip-rule="evenodd"/></clipPath>'
        )

    def _area(self) -> str:
        """Return the whole picture as the region of a filter or mask: nothing is cut off beside it."""
        b = self._box
        return f'x="{b.x0 - b.width}" y="{b.y0 - b.height}" width="{3 * b.width}" height="{3 * b.height}"'

    def _blur(self, sigma: float, power: float = 1.0, tail: float = 0.0) -> str:
        steps = f'<feGaussianBlur stdDeviation="{sigma:g}"/>'
        if tail:
            slope = 1 / (1 - 2 * tail)
            line = f'slope="{slope:.6g}" intercept="{-tail * slope:.6g}"'
            steps += f'<feComponentTransfer><feFuncA type="linear" {line}/></feComponentTransfer>'
        if power != 1:
            steps += f'<feComponentTransfer><feFuncA type="gamma" exponent="{power:g}"/></feComponentTransfer>'
        element = (
            f'<filter id="@" filterUnits="userSpaceOnUse" {self._area()} '
            f'color-interpolation-filters="sRGB">{steps}</filter>'
        )
        return self._define(("blur", sigma, power, tail), "blur", element)

    def _mask(self, fade: Fade) -> str:
        data = path_data(fade.polygons)
        blur = self._blur(fade.sigma, fade.strength, fade.tail)
        soft = _path(data, f'fill="#fff" filter="url(#{blur})"')
        if fade.within is not None:
            soft = f'<g clip-path="url(#{self._clip(fade.within)})">{soft}</g>'
        if fade.beyond is not None:
            soft += _path(path_data(fade.beyond), 'fill="#fff"')
        element = f'<mask id="@" maskUnits="userSpaceOnUse" {self._area()}>{soft}</mask>'
        return self._define(("mask", data, fade.sigma, fade.strength, fade.within is None), "mask", element)

    def _hole(self, polygons: Polygons) -> str:
        data = path_data(polygons)
        element = (
            f'<mask id="@" maskUnits="userSpaceOnUse" {self._area()}><rect {self._area()} fill="#fff"/>'
            f"{_path(data, _BLACK)}</mask>"
        )
        return self._define(("hole", data), "mask", element)

    def _fill(self, paint: Paint, frame: PaintFrame) -> str:
        if isinstance(paint, ColourPaint):
            colour, opacity = _css(paint.colour)
            return f'fill="{colour}"' + (f' fill-opacity="{opacity:g}"' if opacity != 1 else "")
        assert isinstance(paint, GradientPaint)
        return f'fill="url(#{self._gradient(paint, frame)})"'

    def _gradient(self, paint: GradientPaint, frame: PaintFrame) -> str:
        stops = "".join(_stop(s.at, s.colour) for s in paint.stops)
        units = f'gradientUnits="userSpaceOnUse" gradientTransform="{_matrix(frame.to_output)}"'
        if paint.way == "radial":
            far = np.hypot(frame.width, frame.height) / 2
            element = f'<radialGradient id="@" {units} cx="0" cy="0" r="{far:g}">{stops}</radialGradient>'
        else:
            c, s = np.cos(np.radians(paint.angle)), np.sin(np.radians(paint.angle))
            half = (abs(frame.width * c) + abs(frame.height * s)) / 2
            ends = f'x1="{-half * c:g}" y1="{-half * s:g}" x2="{half * c:g}" y2="{half * s:g}"'
            element = f'<linearGradient id="@" {units} {ends}>{stops}</linearGradient>'
        return self._define(("gradient", element), "paint", element)

    def _letters_clip(self, part: Part) -> str | None:
        """Return a clip path of live text where that is asked for; lines along a circle stay paths."""
        region, shape = part.region, part.region.shape
        wanted = self._drawing.output.file.has_live_letters
        if not wanted or not isinstance(shape, LettersShape) or region.placement is None or shape.letters.circle:
            return None
        letters, placement = shape.letters, region.placement
        place = own_to_frame(shape, placement.width, placement.height)
        to_output = (
            region.sheet_to_output.after(placement.to_sheet).after(place).after(Affine.scaling(1 / _TYPE_SIZE))
        )
        anchor = {"left": "start", "centre": "middle", "right": "end"}[letters.align]
        style = ' font-style="italic"' if letters.is_italic else ""
        spacing = f' letter-spacing="{letters.tracking / 1000 * _TYPE_SIZE:g}"' if letters.tracking else ""
        head = (
            f'font-family={quoteattr(letters.font)} font-size="{_TYPE_SIZE:g}" font-weight="{letters.weight:g}"'
            f'{style} text-anchor="{anchor}"{spacing} transform="{_matrix(to_output)}"'
        )
        lines = "".join(
            f'<text {head} x="0" y="{n * letters.line * _TYPE_SIZE:g}">{escape(line)}</text>'
            for n, line in enumerate(letters.text.split("\n"))
        )
        return self._define(("text", lines), "letters", f'<clipPath id="@">{lines}</clipPath>')


def _path(data: str, attributes: str) -> str:
    return f'<path d="{data}" fill-rule="evenodd" {attributes}/>'


def path_data(polygons: Polygons) -> str:
    """Return polygons as path data with no more points than the tolerance asks for."""
    return "".join(_ring(p) for p in simplified(polygons))


def simplified(polygons: Polygons) -> Iterator[Points]:
    """Yield polygons with no more points than the tolerance asks for."""
    for polygon in polygons:
        if len(polygon) < 3:
            continue
        line = shapely.simplify(shapely.linestrings(np.concatenate([polygon, polygon[:1]])), _TOLERANCE)
        points = shapely.get_coordinates(line)[:-1]
        yield points if len(points) >= 3 else polygon


def _ring(points: Points) -> str:
    pairs = [f"{x:g} {y:g}" for x, y in (np.round(points, _DECIMALS) + 0.0).tolist()]
    return f"M{' L'.join(pairs)}Z"


def _matrix(m: Affine) -> str:
    return "matrix(" + " ".join(f"{v:.9g}" for v in m) + ")"


def _css(colour: str) -> tuple[str, float]:
    red, green, blue, alpha = rgba_of(colour)
    return f"#{round(red):02x}{round(green):02x}{round(blue):02x}", alpha / 255


def _stop(at: float, colour: str) -> str:
    css, opacity = _css(colour)
    shown = f' stop-opacity="{opacity:g}"' if opacity != 1 else ""
    return f'<stop offset="{at:g}" stop-color="{css}"{shown}/>'


def _data_url(rgba: Bytes, is_small: bool) -> str:
    data = write_png(np.ascontiguousarray(rgba), PngOptions(is_small))
    return "data:image/png;base64," + base64.b64encode(data).decode()
