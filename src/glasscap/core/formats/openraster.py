"""Writing OpenRaster (freedesktop.org, version 0.0.6): one layer a part, and the merged picture."""

import io
import zipfile
from collections.abc import Iterator, Sequence
from xml.sax.saxutils import quoteattr

import cv2
import numpy as np
from msgspec import Struct

from glasscap.core.document.model.query import items_of
from glasscap.core.formats.archive import put_member
from glasscap.core.formats.drawing import Drawing
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.formats.tags import Tags
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, Picture, visible_box
from glasscap.core.raster.planar import straight_bytes
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.compose.layer import Layer

MIMETYPE = "image/openraster"
_VERSION = "0.0.6"
# Thumbnails fit into a square of this side (px).
_THUMBNAIL = 256


class _Stored(Struct, frozen=True, eq=False):
    """A layer's element, and its file where it has one."""

    element: str
    name: str = ""
    data: bytes = b""


def write_openraster(drawing: Drawing) -> bytes:
    """Return an OpenRaster file.

    Content and strokes of a cutout share their joints, so they add up (``svg:plus``) within a stack of their
    own; shadows, bevel and mount lie beneath it. Raises PhotoError.
    """
    box, tags = drawing.planned.plan.box, drawing.tags
    numbers = iter(range(1_000_000))
    names = {i.id: i.name for _, i in items_of(drawing.job)}
    stacks: list[_Stored] = []
    for part in drawing.planned.plan.parts:
        finished = FinishedPart(part, box, drawing.photos, "final", drawing.cache)
        title = names.get(part.cutout_id, "Backdrop")
        stacks[:0] = list(_part_stack(finished, title, part.opacity, box, numbers, tags))
    merged = drawing.merged
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        put_member(archive, "mimetype", MIMETYPE.encode())
        put_member(archive, "stack.xml", _stack_xml(box, tags, stacks), is_packed=True)
        for stored in stacks:
            if stored.name:
                put_member(archive, stored.name, stored.data)
        whole = write_png(merged, PngOptions(pixels_per_inch=tags.ppi, icc=tags.icc))
        put_member(archive, "mergedimage.png", whole)
        put_member(archive, "Thumbnails/thumbnail.png", write_png(_thumbnail(merged)))
    return out.getvalue()


def _part_stack(
    part: FinishedPart, title: str, opacity: float, box: PixelBox, numbers: Iterator[int], tags: Tags
) -> Iterator[_Stored]:
    """Yield a cutout's elements from the top down, as the file lists them."""
    yield _Stored(f'<stack name={quoteattr(title)} opacity="{opacity:g}" isolation="isolate">')
    yield _Stored('<stack name="Body" isolation="isolate">')
    body = part.body_layers(box)
    for place, layer in reversed(list(enumerate(body))):
        yield from _layer(layer, box, numbers, tags, "svg:plus" if place else "svg:src-over")
    yield _Stored("</stack>")
    for layer in reversed(part.layers(box)):
        yield from _layer(layer, box, numbers, tags, "svg:src-over")
    yield _Stored("</stack>")


def _layer(layer: Layer, box: PixelBox, numbers: Iterator[int], tags: Tags, mode: str) -> Iterator[_Stored]:
    whole = Picture(straight_bytes(layer.planes), 0, 0)
    seen = whole.cut(visible_box(whole))
    if seen.rgba.size == 0:
        return
    name = f"data/{next(numbers):03d}.png"
    element = (
        f'<layer name={quoteattr(layer.name)} src="{name}" x="{seen.x}" y="{seen.y}" opacity="1.0" '
        f'visibility="visible" composite-op="{mode}"/>'
    )
    yield _Stored(element, name, write_png(seen.rgba, PngOptions(icc=tags.icc)))


def _stack_xml(box: PixelBox, tags: Tags, stacks: Sequence[_Stored]) -> bytes:
    ppi = round(tags.ppi) if tags.ppi else 96
    head = f'<image version="{_VERSION}" w="{box.width}" h="{box.height}" xres="{ppi}" yres="{ppi}"><stack>'
    body = "\n".join(s.element for s in stacks)
    return f"<?xml version='1.0' encoding='UTF-8'?>\n{head}\n{body}\n</stack></image>\n".encode()


def _thumbnail(merged: Bytes) -> Bytes:
    height, width = merged.shape[:2]
    share = min(1.0, _THUMBNAIL / max(height, width))
    size = (max(1, round(width * share)), max(1, round(height * share)))
    premultiplied = merged.astype(np.float32)
    premultiplied[..., :3] *= premultiplied[..., 3:] / 255
    small = np.asarray(cv2.resize(premultiplied, size, interpolation=cv2.INTER_AREA))
    return straight_bytes(np.ascontiguousarray(np.moveaxis(small, -1, 0)))
