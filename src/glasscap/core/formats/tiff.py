"""Writing TIFF 6.0 with deflate: 8 or 16 bits a channel, alpha straight or premultiplied and marked as such."""

import io

import numpy as np
import tifffile

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.formats.metadata import tiff_with_metadata
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Levels, premultiplied

_SRGB_PPI = 96.0


def write_tiff(rgba: Levels, options: FileOptions, tags: Tags) -> bytes:
    """Encode straight RGBA, uint8 or uint16 of shape (h, w, 4).

    ExtraSamples is 1 for premultiplied ("associated") alpha, 2 for straight (TIFF 6.0, section 18). Metadata goes
    into the file's own directory.
    """
    pixels = premultiplied(rgba) if options.is_premultiplied else rgba
    ppi = tags.ppi or _SRGB_PPI
    out = io.BytesIO()
    tifffile.imwrite(
        out,
        np.ascontiguousarray(pixels),
        photometric="rgb",
        extrasamples=["assocalpha" if options.is_premultiplied else "unassalpha"],
        compression="zlib",
        iccprofile=tags.icc or None,
        resolution=(ppi, ppi),
        resolutionunit=2,
        rowsperstrip=64,
        metadata=None,
        software=False,
        byteorder="<",
    )
    return tiff_with_metadata(out.getvalue(), tags.exif)
