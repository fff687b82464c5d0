"""From a row of the export list to a file's bytes."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from glasscap.core.document.model import Job, PhotoContent, PhotoRecord
from glasscap.core.document.outputs import Output
from glasscap.core.document.query import photo_of
from glasscap.core.errors import ExportError
from glasscap.core.formats.profiles import from_srgb, p3_profile, photo_exif, photo_icc, to_p3
from glasscap.core.formats.registry import encode_pixels
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Levels
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.outputs import OutputPlan, plan_output, render_output, subject_of
from glasscap.core.render.photos import PhotoSource

_RENDER_SHARE = 0.5


class PhotoFiles(PhotoSource, Protocol):
    """Photos as pixels and as files."""

    def data(self, photo: PhotoRecord) -> bytes:
        """Return a photo's original bytes. Raises PhotoMissingError."""


@dataclass(frozen=True, eq=False)
class Encoded:
    """A file's bytes, and the pixels it is to hold: straight, in the tags' profile, shape (h, w, 4)."""

    data: bytes
    pixels: Levels
    tags: Tags
    planned: OutputPlan


def _go_on(share: float) -> None:
    """Report progress to nobody."""


def encode_output(
    job: Job,
    output: Output,
    photos: PhotoFiles,
    cache: ValueCache,
    progress: Callable[[float], None] = _go_on,
) -> Encoded:
    """Render and encode one output.

    `progress` is called with the share done, 0 to 1; what it raises stops the work.
    Raises ExportError, PhotoError.
    """
    planned = plan_output(job, output, photos, cache)
    done = 0.0

    def check() -> None:
        nonlocal done
        # How many bands there are is the renderer's; the share creeps up to its half.
        done += (_RENDER_SHARE - done) / 8
        progress(done)

    check()
    pixels = render_output(planned, output, photos, cache, check)
    tags = output_tags(job, output, photos, planned)
    pixels = in_profile(pixels, output, tags)
    data = encode_pixels(pixels, output.file, tags, lambda s: progress(_RENDER_SHARE + s * (1 - _RENDER_SHARE)))
    return Encoded(data, pixels, tags, planned)


def output_tags(job: Job, output: Output, photos: PhotoFiles, planned: OutputPlan) -> Tags:
    """Return what the file says of its pixels: density from the sheet, profile, the photo's metadata if asked."""
    sheet, cutout = subject_of(job, output.item_id)
    photo = None
    if cutout is not None and isinstance(cutout.content, PhotoContent):
        photo = photo_of(job, cutout)
    options = output.file
    ppi = options.ppi or sheet.resolution_ppi * planned.scale
    exif = photo_exif(photos.data(photo)) if options.keeps_metadata and photo is not None else b""
    if options.profile == "p3":
        return Tags(p3_profile(), ppi, exif)
    icc = photo_icc(photos.data(photo)) if options.profile == "photo" and photo is not None else b""
    return Tags(icc, ppi, exif)


def in_profile(pixels: Levels, output: Output, tags: Tags) -> Levels:
    """Return sRGB pixels in the profile that is written. Raises ExportError."""
    if output.file.profile == "p3":
        return to_p3(pixels)
    if not tags.icc:
        return pixels
    if pixels.dtype != "uint8":
        raise ExportError(
            "Profile", "the photo's own holds 8 bits a channel only here", "choose sRGB or Display P3"
        )
    return from_srgb(pixels, tags.icc)
