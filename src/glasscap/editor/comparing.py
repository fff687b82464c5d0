"""The export view's picture: the bench's pixels beside those of the file, really encoded and read again."""

import cv2
import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share
from glasscap.core.document.model.job import Job, PhotoRecord, walk
from glasscap.core.document.model.outputs import FileOptions, Output
from glasscap.core.document.model.query import find_item, has_item, photo_of
from glasscap.core.errors import ExportError, GlassCapError
from glasscap.core.formats.outgoing import Encoded, encode_output
from glasscap.core.formats.page_size import page_ppi
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.formats.profiles import to_shown
from glasscap.core.formats.read_back import read_back
from glasscap.core.formats.registry import FORMATS
from glasscap.core.formats.verdict import Measured, Verdict, measured, verdict
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Bytes, Levels, premultiplied
from glasscap.core.raster.quantise import quantised
from glasscap.core.render.outputs import plan_output
from glasscap.core.render.screen.frames import Frame
from glasscap.core.render.vector_scene import pixel_reasons
from glasscap.editor.export_rows import small_picture
from glasscap.editor.frames import ScreenPhotos

_MOST_COLOURS = 256
# A second palette is tried on no more pixels than this: the answer is wanted while one looks.
_TRIED_PX = 400_000


class CompareRequest(Struct, frozen=True):
    """One row of the list, and the rooms (device px) for the picture and for a small one of the file."""

    job: Job
    output: Output
    room: tuple[int, int]
    small_room: tuple[int, int] = (0, 0)


class Comparison(Struct, frozen=True, eq=False):
    """The answer: premultiplied pixels of bench and file, whole and fitted, the file small; sizes; verdict."""

    request: CompareRequest
    bench: Bytes | None = None
    file: Bytes | None = None
    fitted: tuple[Bytes, Bytes] | None = None
    small: Frame | None = None
    nbytes: int = 0
    png_bytes: int = 0
    found: Measured | None = None
    verdict: Verdict | None = None
    note: str = ""
    problem: str = ""
    drafts: tuple[PhotoRecord, ...] = ()

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        return (0, 0) if self.bench is None else (self.bench.shape[1], self.bench.shape[0])


class BenchSide(Struct, frozen=True, eq=False):
    """The bench's picture of a row, fitted into the room: shown while its file is still being made."""

    request: CompareRequest
    frame: Frame | None


def bench_side(request: CompareRequest, photos: ScreenPhotos, cache: ValueCache) -> BenchSide:
    """Render no more pixels than the room has; None for what cannot be drawn, which the comparison tells."""
    photos.begin()
    job, output = request.job, request.output
    try:
        width, height = plan_output(job, output, photos, cache).size
        share = min(1.0, request.room[0] / width, request.room[1] / height)
        side = max(1, round(max(width, height) * share))
        return BenchSide(request, small_picture(job, output, side, photos, cache))
    except GlassCapError:
        return BenchSide(request, None)


def compare(request: CompareRequest, photos: ScreenPhotos, cache: ValueCache) -> Comparison:
    """Render, encode, read again, measure. Errors become words in the answer."""
    photos.begin()
    try:
        return _compared(request, photos.store, cache)
    except GlassCapError as error:
        return Comparison(request, problem=error.line)


def _compared(request: CompareRequest, store: PhotoStore, cache: ValueCache) -> Comparison:
    output = request.output
    encoded = encode_output(request.job, output, store, cache)
    wanted = _shown(encoded.pixels, encoded)
    size = (wanted.shape[1], wanted.shape[0])
    found = _shown(read_back(encoded.data, output.name, size).pixels, encoded)
    if found.shape != wanted.shape:
        raise ExportError(output.name, "the file has another size than the picture", "report this")
    figures = measured(wanted, found)
    colours = output.file.colours if output.file.format == "indexed" else None
    bench, file = premultiplied(wanted), premultiplied(found)
    answer = Comparison(
        request,
        bench,
        file,
        (_fitted(bench, request.room), _fitted(file, request.room)),
        _small(file, request.small_room),
        len(encoded.data),
        _png_size(encoded, output.file),
        figures,
        verdict(figures, colours=colours, better_levels=_better_levels(wanted, colours)),
    )
    return _with_bare_told(replace(answer, note=_note(encoded)))


def _with_bare_told(answer: Comparison) -> Comparison:
    """Say of what its photo covers in part alone that it is so, and not that nothing is lost."""
    job, words = answer.request.job, answer.verdict
    if words is None or words.tone != "good" or not has_item(job, answer.request.output.item_id):
        return answer
    shown = [i for i in walk([find_item(job, answer.request.output.item_id)]) if not i.is_hidden]
    bare = [i.name for i in shown if bare_share(i, photo_of(job, i))]
    if not bare:
        return answer
    title = "The file is as the bench shows it."
    text = f"Of {', '.join(bare)} the photo leaves a part of the shape bare."
    return replace(answer, verdict=replace(words, title=title, text=text))


def _shown(pixels: Levels, encoded: Encoded) -> Bytes:
    """Return pixels as the screen shows them: sRGB of eight bits."""
    flat: Bytes = np.asarray(pixels if pixels.dtype == np.uint8 else pixels >> 8, np.uint8)
    return to_shown(flat, encoded.tags.icc)


def _fitted(pixels: Bytes, room: tuple[int, int]) -> Bytes:
    """Return premultiplied pixels made small enough for the room, by area; never enlarged."""
    height, width = pixels.shape[:2]
    share = min(1.0, room[0] / width, room[1] / height)
    if share == 1.0:
        return pixels
    size = (max(1, round(width * share)), max(1, round(height * share)))
    return np.asarray(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), np.uint8)


def _small(pixels: Bytes, room: tuple[int, int]) -> Frame | None:
    return None if 0 in room else Frame(_fitted(pixels, room), 0, 0)


def _png_size(encoded: Encoded, options: FileOptions) -> int:
    """Return what a full PNG of the same picture takes."""
    if options.format == "png":
        return len(encoded.data)
    flat = encoded.pixels if encoded.pixels.dtype == np.uint8 else encoded.pixels >> 8
    return len(write_png(flat.astype(np.uint8), PngOptions(is_small=options.is_small)))


def _better_levels(wanted: Bytes, colours: int | None) -> int | None:
    """Return how many steps of alpha the largest palette leaves; None where there is nothing to gain."""
    if colours is None or colours >= _MOST_COLOURS:
        return None
    step = max(1, int((wanted.shape[0] * wanted.shape[1] / _TRIED_PX) ** 0.5 + 0.999))
    tried = np.ascontiguousarray(wanted[::step, ::step])
    alpha = quantised(tried, _MOST_COLOURS).rgba[..., 3]
    return len(np.unique(alpha[(alpha > 0) & (alpha < 255)]))


def _note(encoded: Encoded) -> str:
    """Say when a photo is enlarged, or a page cannot be as large as was asked for."""
    ppi = page_ppi(*encoded.planned.size, encoded.tags.ppi) if encoded.file.format == "pdf" else None
    if ppi is not None:
        return f"No PDF page can have that size; this one is written at {ppi:.4g} ppi"
    if FORMATS[encoded.file.format].keeps == "vector":
        reasons = pixel_reasons(encoded.planned.plan.parts)
        if reasons:
            return f"Drawn as pixels: {', '.join(sorted(reasons))}"
    shown = [p for p in encoded.planned.plan.parts if p.photo is not None and not p.photo.is_drawing]
    densest = min((abs(p.region.photo_to_output.determinant) ** -0.5 for p in shown), default=1.0)
    return "" if densest >= 1 - 1e-9 else f"The photo is enlarged: {densest:.2f} photo px per px"


def default_output(job: Job, item_id: str) -> Output:
    """Return the row an empty list begins with: a cutout as far as it is seen, or a sheet as it is."""
    is_sheet = any(s.id == item_id for s in job.sheets)
    return Output("o1", item_id, crop="sheet" if is_sheet else "visible")
