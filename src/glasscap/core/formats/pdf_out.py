"""Writing PDF (ISO 32000-1, version 1.4): clip paths, soft masks, one page as large as the picture.

Strokes and flat colours are filled paths, content is an image under a clip path or a soft mask; blurs, which
PDF does not have, come as images of one colour under a soft mask. All colour is tagged with an sRGB profile.
"""

import io
import zlib
from collections.abc import Iterator

import numpy as np
import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from glasscap.core.document.model.paint import ColourPaint, rgba_of
from glasscap.core.formats.drawing import Drawing
from glasscap.core.formats.icc import SRGB_PRIMARIES, matrix_profile
from glasscap.core.formats.page_size import points_per_px
from glasscap.core.formats.svg_out import simplified
from glasscap.core.geometry.outline import bounds
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import straight_bytes
from glasscap.core.render.paint.paints import paint_planes
from glasscap.core.render.vector_scene import (
    Group,
    NestedOp,
    Op,
    PathOp,
    Polygons,
    SoftOp,
    faded,
    tinted,
    vector_scene,
)

_LEVEL = 6
# Images are this much (px) smaller all round: drawn a hair larger they would be spread over one more pixel.
_HAIR = 0.002


def write_pdf(drawing: Drawing) -> bytes:
    """Return a PDF file of one page; the same picture gives the same bytes. Raises PhotoError."""
    return _Writer(drawing).file()


class _Writer:
    def __init__(self, drawing: Drawing) -> None:
        self._drawing, self._box = drawing, drawing.planned.plan.box
        self._pdf = pikepdf.new()
        icc = self._stream(matrix_profile("sRGB", SRGB_PRIMARIES), N=3, Alternate=Name.DeviceRGB)
        self._colours = Array([Name.ICCBased, icc])

    def file(self) -> bytes:
        drawing, box = self._drawing, self._box
        k = points_per_px(box.width, box.height, drawing.tags.ppi)
        scene = vector_scene(drawing.planned.plan, drawing.photos, drawing.cache)
        forms, states, lines = Dictionary(), Dictionary(), []
        # From here on px of the picture, y down.
        lines.append(f"{k:.9g} 0 0 {-k:.9g} {-box.x0 * k:.9g} {box.y1 * k:.9g} cm")
        for number, group in enumerate(scene):
            forms[f"/G{number}"] = self._group(group)
            states[f"/A{number}"] = Dictionary(ca=group.opacity, CA=group.opacity)
            lines.append(f"/A{number} gs /G{number} Do")
        page = self._pdf.add_blank_page(page_size=(box.width * k, box.height * k))
        page.obj.Resources = Dictionary(XObject=forms, ExtGState=states)
        page.obj.Group = Dictionary(S=Name.Transparency, CS=self._colours)
        page.obj.Contents = self._stream("\n".join(lines).encode())
        out = io.BytesIO()
        self._pdf.save(out, min_version="1.4", deterministic_id=True, compress_streams=True)
        return out.getvalue()

    def _stream(self, data: bytes, **entries: object) -> Stream:
        made = Stream(self._pdf, zlib.compress(data, _LEVEL))
        made.stream_dict = Dictionary({"/Filter": Name.FlateDecode, **{f"/{k}": v for k, v in entries.items()}})
        return made

    def _group(self, group: Group) -> Stream:
        """Return a part as an isolated transparency group, so that its opacity is that of the whole."""
        b, resources, lines = self._box, _Resources(self._colours), []
        for op in group.ops:
            lines += ["q", *self._op(op, resources), "Q"]
        return self._stream(
            "\n".join(lines).encode(),
            Type=Name.XObject,
            Subtype=Name.Form,
            BBox=Array([b.x0, b.y0, b.x1, b.y1]),
            Group=Dictionary(S=Name.Transparency, I=True, CS=self._colours),
            Resources=resources.entries,
        )

    def _op(self, op: Op, resources: "_Resources") -> Iterator[str]:
        if isinstance(op, PathOp):
            yield from self._path(op, resources)
        elif isinstance(op, NestedOp):
            if op.clip is not None:
                yield from _clip(op.clip)
            for group in op.groups:
                yield f"/{resources.state(group.opacity)} gs /{resources.named(self._group(group))} Do"
        elif isinstance(op, SoftOp):
            yield from self._tinted(op, resources)
        elif op.rgba.size:
            if op.clip is not None:
                yield from _clip(op.clip)
            yield self._shown(faded(op, self._box), op.x, op.y, resources)

    def _path(self, op: PathOp, resources: "_Resources") -> Iterator[str]:
        if op.dashes is not None:
            yield from _clip(op.dashes, rule="W")
        colour = rgba_of(op.paint.colour) if isinstance(op.paint, ColourPaint) else None
        yield f"/{resources.state(op.opacity * (colour[3] / 255 if colour else 1.0))} gs"
        if colour is not None:
            red, green, blue = (v / 255 for v in colour[:3])
            yield f"/sRGB cs {red:.6g} {green:.6g} {blue:.6g} sc"
            yield from _drawn(op.polygons)
            yield "f*"
            return
        # A gradient's or texture's own pixels under the path.
        if op.polygons:
            box = bounds(op.polygons).rounded_out().intersection(self._box)
            rgba = straight_bytes(np.array(paint_planes(op.paint, box, op.frame, None), np.float32))
            yield from _clip(op.polygons)
            yield self._shown(rgba, box.x0, box.y0, resources)

    def _tinted(self, op: SoftOp, resources: "_Resources") -> Iterator[str]:
        if op.beneath is not None:
            # What the body hides is cut away by its path, drawn around the picture's box.
            b = self._box
            frame = np.array([(b.x0, b.y0), (b.x1, b.y0), (b.x1, b.y1), (b.x0, b.y1)], float)
            yield from _clip((frame, *op.beneath))
        yield self._shown(tinted(op), self._box.x0, self._box.y0, resources)

    def _shown(self, rgba: Bytes, x: int, y: int, resources: "_Resources") -> str:
        image = self._image(rgba)
        height, width = rgba.shape[:2]
        left, top, wide, high = x + _HAIR, y + _HAIR, width - 2 * _HAIR, height - 2 * _HAIR
        return f"{wide:.3f} 0 0 {-high:.3f} {left:.3f} {top + high:.3f} cm /{resources.named(image)} Do"

    def _image(self, rgba: Bytes) -> Stream:
        height, width = rgba.shape[:2]
        alpha = rgba[..., 3]
        size: dict[str, object] = {
            "Type": Name.XObject, "Subtype": Name.Image, "Width": width, "Height": height, "BitsPerComponent": 8,
        }  # fmt: skip
        made = self._stream(np.ascontiguousarray(rgba[..., :3]).tobytes(), ColorSpace=self._colours, **size)
        if alpha.min(initial=255) < 255:
            made.SMask = self._stream(np.ascontiguousarray(alpha).tobytes(), ColorSpace=Name.DeviceGray, **size)
        return made


class _Resources:
    """What one group's content names: images, opacities, the colour space."""

    def __init__(self, colours: Array) -> None:
        self.entries = Dictionary(
            XObject=Dictionary(), ExtGState=Dictionary(), ColorSpace=Dictionary(sRGB=colours)
        )
        self._count = 0

    def named(self, drawn: Stream) -> str:
        """Return the name of an image, or of a group in this one."""
        self._count += 1
        self.entries.XObject[f"/X{self._count}"] = drawn
        return f"X{self._count}"

    def state(self, opacity: float) -> str:
        name = f"S{round(opacity * 10_000)}"
        self.entries.ExtGState[f"/{name}"] = Dictionary(ca=opacity)
        return name


def _drawn(polygons: Polygons) -> Iterator[str]:
    for points in simplified(polygons):
        pairs = [f"{x:.3f} {y:.3f}" for x, y in points.tolist()]
        yield f"{pairs[0]} m {' '.join(f'{p} l' for p in pairs[1:])} h"


def _clip(polygons: Polygons, rule: str = "W*") -> Iterator[str]:
    lines = list(_drawn(polygons))
    yield from lines or ["0 0 m 0 0 l h"]
    yield f"{rule} n"
