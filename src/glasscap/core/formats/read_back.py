"""Picture files read again, by another decoder than wrote them, and what they hold."""

import io
import zipfile
from importlib import import_module

import cv2
import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from PIL import Image, UnidentifiedImageError

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.errors import ExportError, PhotoError
from glasscap.core.formats.archive import ZIP_FAULTS
from glasscap.core.formats.artwork import draw_artwork, is_artwork
from glasscap.core.formats.by_pillow import over_colour
from glasscap.core.formats.colour import profile_name
from glasscap.core.formats.photo_header import DECODER_FAULTS
from glasscap.core.formats.tags import Tags
from glasscap.core.formats.tiff_tags import has_associated_alpha, is_deep_tiff
from glasscap.core.raster.pixels import Bytes, Levels, premultiplied

_CHECKED_ROWS = 64
# A visible pixel's colour and that of the clear one beside it further apart than this (levels) may show.
_FRINGE_LEVELS = 24
# A drawing is like the picture where this share of its pixels is within so many levels.
_LIKE_LEVELS, _LIKE_SHARE = 12, 0.93
# The picture library writes these itself.
_BY_OPENCV = ("JPEG", "WEBP")
# A page of which nothing else is known (px).
_PAGE = (1000, 1000)


class ReadBack(Struct, frozen=True, eq=False):
    """A file's pixels as straight RGBA, uint8 or uint16; what it says of them."""

    pixels: Levels
    kind: str
    icc: bytes
    ppi: float | None
    has_alpha: bool

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        return self.pixels.shape[1], self.pixels.shape[0]


class FileFacts(Struct, frozen=True):
    """The contents of a picture file, for people and scripts."""

    format: str
    width: int
    height: int
    bits: int
    alpha_low: int
    alpha_high: int
    partly_transparent: int
    profile: str
    ppi: float | None
    fringe: float
    fringe_risk: str


def read_back(data: bytes, name: str, size: tuple[int, int] | None = None) -> ReadBack:
    """Decode a picture file; drawings come at a size in px. Raises ExportError for what is none."""
    drawn = _drawn(data, name, size)
    return _decoded(data, name) if drawn is None else drawn


def _drawn(data: bytes, name: str, size: tuple[int, int] | None) -> ReadBack | None:
    """Draw what is no picture of pixels, or return None."""
    if data.startswith(b"%PDF-"):
        draw_pdf = import_module("glasscap.core.formats.pdf_read").draw_pdf
        return ReadBack(draw_pdf(data, size or _PAGE, name), "PDF", b"", None, has_alpha=True)
    if data.startswith(b"PK"):
        return replace(_decoded(_member(data, name), name), kind="OpenRaster")
    if is_artwork(data):
        try:
            pixels = draw_artwork(data, name, None if size is None else size[0]).rgba
        except PhotoError as error:
            raise ExportError(name, error.why, error.remedy) from error
        return ReadBack(pixels, "SVG", b"", None, has_alpha=True)
    return None


def _member(data: bytes, name: str) -> bytes:
    """Return the merged picture of an OpenRaster file."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return archive.read("mergedimage.png")
    except (*ZIP_FAULTS, KeyError) as error:
        raise ExportError(name, "it is no OpenRaster file", "write it again") from error


def _decoded(data: bytes, name: str) -> ReadBack:
    try:
        with Image.open(io.BytesIO(data)) as image:
            kind, mode, info = image.format or "", image.mode, dict(image.info)
            is_deep = _is_deep(data, kind)
            if is_deep or kind in _BY_OPENCV:
                pixels = _by_opencv(data, name)
            else:
                pixels = np.asarray(image if mode == "RGBA" else image.convert("RGBA"))
    except UnidentifiedImageError as error:
        raise ExportError(name, "it is no picture that can be read", "write it again") from error
    except DECODER_FAULTS as error:
        raise ExportError(name, f"it is damaged ({error})", "write it again") from error
    if is_deep and kind == "TIFF" and has_associated_alpha(data):
        pixels = _dissociated(pixels)
    icc = info.get("icc_profile") or b""
    dpi = info.get("dpi")
    has_alpha = "A" in mode or "a" in mode or "transparency" in info
    return ReadBack(pixels, kind, icc, None if dpi is None else float(dpi[0]), has_alpha)


def _is_deep(data: bytes, kind: str) -> bool:
    """Whether a file has 16 bits a channel: the picture library would read eight."""
    return (kind == "PNG" and len(data) > 24 and data[24] == 16) or (kind == "TIFF" and is_deep_tiff(data))


def _by_opencv(data: bytes, name: str) -> Levels:
    try:
        found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    except cv2.error:
        found = None
    if found is None or found.dtype not in (np.uint8, np.uint16) or (found.ndim == 3 and found.shape[2] < 3):
        raise ExportError(name, "it is no picture that can be read", "write it again")
    if found.ndim == 2:
        found = cv2.cvtColor(found, cv2.COLOR_GRAY2BGR)
    order = cv2.COLOR_BGR2RGBA if found.shape[2] == 3 else cv2.COLOR_BGRA2RGBA
    rgba = cv2.cvtColor(found, order)
    return np.asarray(rgba, np.uint16) if rgba.dtype == np.uint16 else np.asarray(rgba, np.uint8)


def _dissociated(pixels: Levels) -> Levels:
    most = float(np.iinfo(pixels.dtype).max)
    alpha = pixels[..., 3:].astype(np.float64)
    out = pixels.copy()
    out[..., :3] = np.clip(pixels[..., :3] * (most / np.maximum(alpha, 1)) + 0.5, 0, most)
    return out


def check_file(data: bytes, wanted: Levels, options: FileOptions, tags: Tags, name: str) -> None:
    """Read a file again and compare: size, alpha, profile, and every pixel where nothing may be lost.

    Raises ExportError.
    """
    found = read_back(data, name, (wanted.shape[1], wanted.shape[0]))
    if found.size != (wanted.shape[1], wanted.shape[0]):
        raise ExportError(name, f"it was read back as {found.size[0]} x {found.size[1]} px", "report this")
    if options.format in ("svg", "pdf"):
        _check_likeness(found.pixels, wanted, name)
        return
    if (found.icc or b"") != tags.icc and (tags.icc or options.format not in ("png", "indexed")):
        raise ExportError(name, "it was read back with another profile", "report this")
    if options.format == "jpeg":
        _check_background(found.pixels, wanted, options, name)
        return
    if is_exact(options) and _are_same(found.pixels, wanted, options):
        return
    _check_alpha(found.pixels, wanted, options, name)
    if is_exact(options):
        raise ExportError(name, "it was read back with other pixels", "report this")


def is_exact(options: FileOptions) -> bool:
    """Whether a format gives back every pixel."""
    return options.format in ("png", "tiff", "ora") or (options.format == "webp" and options.is_lossless)


def _check_alpha(found: Levels, wanted: Levels, options: FileOptions, name: str) -> None:
    """Compare the range of alpha; an indexed picture may be off by what its palette lacks."""
    slack = 24 if options.format == "indexed" else 0
    for one, other in ((found[..., 3].min(), wanted[..., 3].min()), (found[..., 3].max(), wanted[..., 3].max())):
        if abs(int(one) - int(other)) > slack:
            raise ExportError(name, "it was read back with another transparency", "report this")


def _are_same(found: Levels, wanted: Levels, options: FileOptions) -> bool:
    is_associated = options.is_premultiplied and options.format == "tiff"
    for y in range(0, len(wanted), _CHECKED_ROWS):
        one, other = found[y : y + _CHECKED_ROWS], wanted[y : y + _CHECKED_ROWS]
        if is_associated:
            # The decoder divides by alpha and drops what is left over: a level at the most.
            one, other = premultiplied(one).astype(np.int64), premultiplied(other).astype(np.int64)
            is_same = bool(np.abs(one - other).max() <= 1)
        else:
            is_same = np.array_equal(one, other)
        if not is_same:
            return False
    return True


def _check_likeness(found: Levels, wanted: Levels, name: str) -> None:
    """Compare a drawing with the picture: rims and blurs differ a little from program to program."""
    one, other = premultiplied(_bytes(found)).astype(np.int16), premultiplied(_bytes(wanted)).astype(np.int16)
    if float((np.abs(one - other).max(axis=2) <= _LIKE_LEVELS).mean()) < _LIKE_SHARE:
        raise ExportError(name, "it was drawn otherwise when it was read back", "report this")


def _check_background(found: Levels, wanted: Levels, options: FileOptions, name: str) -> None:
    """Compare the mean of a JPEG with that of the picture over its colour."""
    laid = over_colour(_bytes(wanted), options.background)
    off = np.abs(found[..., :3].astype(np.float64).mean(axis=(0, 1)) - laid.mean(axis=(0, 1))).max()
    if off > 6:
        raise ExportError(name, "it was read back in other colours", "report this")


def _bytes(levels: Levels) -> Bytes:
    return np.asarray(levels if levels.dtype == np.uint8 else levels >> 8, np.uint8)


def file_facts(data: bytes, name: str) -> FileFacts:
    """Return what a picture file holds. Raises ExportError for what is no picture."""
    found = read_back(data, name)
    alpha = found.pixels[..., 3]
    most = int(np.iinfo(alpha.dtype).max)
    fringe = fringe_levels(_bytes(found.pixels))
    return FileFacts(
        found.kind,
        *found.size,
        16 if most > 255 else 8,
        int(alpha.min()),
        int(alpha.max()),
        int(np.count_nonzero((alpha > 0) & (alpha < most))),
        profile_name(found.icc) if found.icc else "sRGB",
        None if found.ppi is None else round(found.ppi, 2),
        round(fringe, 1),
        "some" if fringe > _FRINGE_LEVELS else "none",
    )


def fringe_levels(rgba: Bytes) -> float:
    """Return how far colours beside the rim's clear pixels differ from those under them, mean levels.

    A program that filters straight alpha mixes in the colour of clear pixels: that is the dark fringe.
    """
    is_clear = (rgba[..., 3] == 0).astype(np.uint8)
    beside = (cv2.dilate(is_clear, np.ones((3, 3), np.uint8)) > 0) & (rgba[..., 3] > 0)
    if not beside.any():
        return 0.0
    counts = cv2.boxFilter(
        is_clear.astype(np.float32), -1, (3, 3), normalize=False, borderType=cv2.BORDER_CONSTANT
    )
    colour = rgba[..., :3].astype(np.float32) * is_clear[..., None]
    sums = cv2.boxFilter(colour, -1, (3, 3), normalize=False, borderType=cv2.BORDER_CONSTANT)
    mean = sums[beside] / np.maximum(counts[beside], 1)[:, None]
    return float(np.abs(mean - rgba[..., :3][beside]).max(axis=1).mean())
