"""The file formats pictures are written in: one table."""

from importlib import import_module
from typing import Literal

from msgspec import Struct

from glasscap.core.document.model.outputs import FileOptions, FormatName
from glasscap.core.errors import ExportError
from glasscap.core.formats.by_pillow import write_avif, write_jpeg, write_webp
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.formats.png_indexed import write_indexed
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Bytes, Levels
from glasscap.core.work.ticket import Progress, no_progress

Keeps = Literal["transparency", "vector", "layers", "nothing"]


class FileFormat(Struct, frozen=True):
    """A format: its label, endings (the first is ours), what it keeps, and which options concern it."""

    name: FormatName
    label: str
    endings: tuple[str, ...]
    keeps: Keeps
    options: tuple[str, ...] = ()
    is_pixels: bool = True

    @property
    def ending(self) -> str:
        """The ending we write."""
        return self.endings[0]


FORMATS: dict[FormatName, FileFormat] = {
    f.name: f
    for f in (
        FileFormat("png", "PNG", (".png",), "transparency", ("is_small", "bits")),
        FileFormat("indexed", "PNG, indexed", (".png",), "transparency", ("colours", "dither")),
        FileFormat("webp", "WebP", (".webp",), "transparency", ("is_lossless", "quality")),
        FileFormat("avif", "AVIF", (".avif",), "transparency", ("quality",)),
        FileFormat("tiff", "TIFF", (".tif", ".tiff"), "transparency", ("bits", "is_premultiplied")),
        FileFormat("svg", "SVG", (".svg",), "vector", ("has_live_letters", "is_small"), is_pixels=False),
        FileFormat("pdf", "PDF", (".pdf",), "vector", (), is_pixels=False),
        FileFormat("ora", "OpenRaster", (".ora",), "layers", (), is_pixels=False),
        FileFormat("jpeg", "JPEG over a colour", (".jpg", ".jpeg"), "nothing", ("quality", "background")),
    )
}


def format_of(ending: str) -> FileFormat:
    """Return the format of a file's ending. Raises ExportError."""
    for found in FORMATS.values():
        if ending.lower() in found.endings:
            return found
    known = ", ".join(dict.fromkeys(e for f in FORMATS.values() for e in f.endings))
    raise ExportError(ending or "The file name", "no format has this ending", f"end it in {known}")


def encode_pixels(rgba: Levels, options: FileOptions, tags: Tags, progress: Progress = no_progress) -> bytes:
    """Return a file's bytes from straight RGBA, uint8 (uint16 for PNG and TIFF alone), in the tags' profile.

    Raises ExportError.
    """
    if 0 in rgba.shape:
        raise ExportError("The picture", "nothing of it is visible", "check inset, opacity and place")
    if options.format == "png":
        return write_png(rgba, PngOptions(options.is_small, tags.ppi, tags.icc, tags.exif), progress)
    if options.format == "tiff":
        # Its library is loaded only where it is wanted: every call of the command line would wait for it.
        data: bytes = import_module("glasscap.core.formats.tiff").write_tiff(rgba, options, tags)
        return data
    pixels: Bytes = rgba if rgba.dtype == "uint8" else (rgba >> 8).astype("uint8")
    if options.format == "indexed":
        return write_indexed(pixels, options, tags, progress)
    return {"webp": write_webp, "avif": write_avif, "jpeg": write_jpeg}[options.format](pixels, options, tags)
