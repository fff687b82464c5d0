"""One page for a client: pictures side by side, each with words below (PDF, ISO 32000-1, version 1.4).

Pictures are JPEG streams in sRGB, words are filled outlines, so nothing depends on the reader's fonts.
"""

import io
import math
from collections.abc import Sequence

import numpy as np
import pikepdf
from msgspec import Struct
from pikepdf import Array, Dictionary, Name, Stream
from PIL import Image

from glasscap.core.formats.icc import SRGB_PRIMARIES, matrix_profile
from glasscap.core.geometry.outline import Points
from glasscap.core.raster.pixels import Bytes

# ISO 216 A4 lying, in points.
PAGE = (841.89, 595.276)
_MARGIN, _GAP, _TITLE, _CAPTION = 40.0, 18.0, 17.0, 11.0
_INK = (0x22 / 255, 0x26 / 255, 0x2A / 255)
_QUALITY = 92


class Words(Struct, frozen=True, eq=False):
    """Words as polygons with type size 1: baseline at y = 0, y down, from x = 0 on."""

    polygons: tuple[Points, ...]
    width: float


class PagePicture(Struct, frozen=True, eq=False):
    """An opaque picture, uint8 of shape (h, w, 4), and the words below it (None for none)."""

    rgba: Bytes
    caption: Words | None


def write_page(title: Words | None, pictures: Sequence[PagePicture]) -> bytes:
    """Return a PDF of one page; the same pictures give the same bytes."""
    pdf = pikepdf.new()
    icc = _stream(pdf, matrix_profile("sRGB", SRGB_PRIMARIES), N=3, Alternate=Name.DeviceRGB)
    colours = Array([Name.ICCBased, icc])
    images, lines = Dictionary(), [f"/sRGB cs {' '.join(f'{c:.4g}' for c in _INK)} sc"]
    top = PAGE[1] - _MARGIN
    if title is not None:
        lines += _set(title, _MARGIN, top - _TITLE, _TITLE, PAGE[0] - 2 * _MARGIN)
        top -= _TITLE + _GAP
    for number, (x, y, width, height) in enumerate(_cells(pictures, top)):
        picture = pictures[number]
        images[f"/I{number}"] = _image(pdf, picture.rgba, colours)
        room = height - (_CAPTION * 1.9 if picture.caption is not None else 0.0)
        rows, columns = picture.rgba.shape[:2]
        scale = min(width / columns, room / rows)
        wide, high = columns * scale, rows * scale
        left, foot = x + (width - wide) / 2, y + height - (room - high) / 2 - high
        lines.append(f"q {wide:.4f} 0 0 {high:.4f} {left:.4f} {foot:.4f} cm /I{number} Do Q")
        if picture.caption is not None:
            start = x + max(0.0, (width - picture.caption.width * _CAPTION) / 2)
            lines += _set(picture.caption, start, foot - _CAPTION * 1.5, _CAPTION, width)
    page = pdf.add_blank_page(page_size=PAGE)
    page.obj.Resources = Dictionary(XObject=images, ColorSpace=Dictionary(sRGB=colours))
    page.obj.Contents = _stream(pdf, "\n".join(lines).encode())
    out = io.BytesIO()
    pdf.save(out, min_version="1.4", deterministic_id=True, compress_streams=True)
    return out.getvalue()


def _cells(pictures: Sequence[PagePicture], top: float) -> list[tuple[float, float, float, float]]:
    """Return a cell (x, y, width, height) for each picture: as many columns as make pictures largest."""
    width, height = PAGE[0] - 2 * _MARGIN, top - _MARGIN
    rows, columns = pictures[0].rgba.shape[:2]

    def size(across: int) -> float:
        down = math.ceil(len(pictures) / across)
        cell = (width - _GAP * (across - 1)) / across, (height - _GAP * (down - 1)) / down
        return float(min(cell[0] / columns, cell[1] / rows))

    across = max(range(1, len(pictures) + 1), key=size)
    down = math.ceil(len(pictures) / across)
    wide, high = (width - _GAP * (across - 1)) / across, (height - _GAP * (down - 1)) / down
    return [
        (_MARGIN + (n % across) * (wide + _GAP), top - high - (n // across) * (high + _GAP), wide, high)
        for n in range(len(pictures))
    ]


def _set(words: Words, x: float, y: float, size: float, room: float) -> list[str]:
    """Return filled outlines with the baseline at y, smaller where they would not fit."""
    scale = min(size, room / max(words.width, 1e-6))
    lines = [f"q {scale:.5f} 0 0 {-scale:.5f} {x:.4f} {y:.4f} cm"]
    for points in words.polygons:
        pairs = [f"{px:.4f} {py:.4f}" for px, py in points.tolist()]
        lines.append(f"{pairs[0]} m {' '.join(f'{p} l' for p in pairs[1:])} h")
    return [*lines, "f Q"]


def _image(pdf: pikepdf.Pdf, rgba: Bytes, colours: Array) -> Stream:
    out = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(rgba[..., :3])).save(out, "JPEG", quality=_QUALITY, subsampling="4:4:4")
    made = Stream(pdf, out.getvalue())
    rows, columns = rgba.shape[:2]
    made.stream_dict = Dictionary(
        Type=Name.XObject, Subtype=Name.Image, Width=columns, Height=rows, BitsPerComponent=8,
        ColorSpace=colours, Filter=Name.DCTDecode,
    )  # fmt: skip
    return made


def _stream(pdf: pikepdf.Pdf, data: bytes, **entries: object) -> Stream:
    made = Stream(pdf, data)
    made.stream_dict = Dictionary({f"/{k}": v for k, v in entries.items()})
    return made
