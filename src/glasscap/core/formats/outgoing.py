"""From a row of the export list to a file's bytes."""

from collections.abc import Callable
from importlib import import_module

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.job import Job, PhotoContent
from glasscap.core.document.model.outputs import FileOptions, Output
from glasscap.core.document.model.query import photo_of
from glasscap.core.errors import ExportError
from glasscap.core.formats.drawing import Drawing, PhotoFiles
from glasscap.core.formats.metadata import photo_exif, with_density
from glasscap.core.formats.profiles import from_srgb, p3_profile, photo_icc, to_p3
from glasscap.core.formats.registry import FORMATS, encode_pixels
from glasscap.core.formats.tags import Tags
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.pixels import Levels
from glasscap.core.render.outputs import OutputPlan, job_of, plan_output, render_output, subject_of
from glasscap.core.work.ticket import no_progress

_RENDER_SHARE = 0.5
_DRAWN = {
    "ora": ("openraster", "write_openraster"),
    "svg": ("svg_out", "write_svg"),
    "pdf": ("pdf_out", "write_pdf"),
}


class Encoded(Struct, frozen=True, eq=False):
    """A file's bytes, and the pixels it is to hold: straight, in the tags' profile, shape (h, w, 4)."""

    data: bytes
    pixels: Levels
    tags: Tags
    planned: OutputPlan
    file: FileOptions


def encode_output(
    job: Job,
    output: Output,
    photos: PhotoFiles,
    cache: ValueCache,
    progress: Callable[[float], None] = no_progress,
) -> Encoded:
    """Render and encode one output.

    `progress` is called with the share done, 0 to 1; what it raises stops the work.
    Raises ExportError, PhotoError.
    """
    job = job_of(job, output)
    planned = plan_output(job, replace(output, version=""), photos, cache)
    done = 0.0

    def check() -> None:
        nonlocal done
        # How many bands there are is the renderer's; the share creeps up to its half.
        done += (_RENDER_SHARE - done) / 8
        progress(done)

    check()
    pixels = render_output(planned, output, photos, cache, check)
    cutout = subject_of(job, output.item_id)[1]
    if cutout is not None and not pixels[..., 3].any():
        raise ExportError(cutout.name, "nothing is left of it to see", "check opacity and place")
    tags = output_tags(job, output, photos, planned)
    pixels = in_profile(pixels, output, tags)
    if FORMATS[output.file.format].is_pixels:
        data = encode_pixels(
            pixels, output.file, tags, lambda s: progress(_RENDER_SHARE + s * (1 - _RENDER_SHARE))
        )
    else:
        data = _drawn(Drawing(job, output, planned, photos, cache, pixels, tags))
    return Encoded(data, pixels, tags, planned, output.file)


def _drawn(drawing: Drawing) -> bytes:
    """Return a file that is more than its pixels; its library is loaded only where it is wanted."""
    module, name = _DRAWN[drawing.output.file.format]
    data: bytes = getattr(import_module(f"glasscap.core.formats.{module}"), name)(drawing)
    return data


def output_tags(job: Job, output: Output, photos: PhotoFiles, planned: OutputPlan) -> Tags:
    """Return what the file says of its pixels: density from the sheet, profile, the photo's metadata if asked."""
    sheet, cutout = subject_of(job, output.item_id)
    photo = None
    if cutout is not None and isinstance(cutout.content, PhotoContent):
        photo = photo_of(job, cutout)
    options = output.file
    if not FORMATS[options.format].is_pixels:
        # Layers and paths are sRGB, as SVG and OpenRaster have it.
        options = replace(options, profile="srgb")
    ppi = options.ppi or sheet.resolution_ppi * planned.scale
    exif = photo_exif(photos.data(photo)) if options.keeps_metadata and photo is not None else b""
    # The photo's own density is not that of the picture.
    exif = with_density(exif, ppi) if exif else exif
    if options.profile == "p3":
        return Tags(p3_profile(), ppi, exif)
    icc = photo_icc(photos.data(photo)) if options.profile == "photo" and photo is not None else b""
    return Tags(icc, ppi, exif)


def in_profile(pixels: Levels, output: Output, tags: Tags) -> Levels:
    """Return sRGB pixels in the profile that is written. Raises ExportError."""
    if tags.icc == p3_profile():
        return to_p3(pixels)
    if not tags.icc:
        return pixels
    if pixels.dtype != "uint8":
        raise ExportError(
            "Profile", "the photo's own holds 8 bits a channel only here", "choose sRGB or Display P3"
        )
    return from_srgb(pixels, tags.icc)
