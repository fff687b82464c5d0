"""Writing indexed PNG: a palette with graded alpha (W3C PNG Specification, 11.2.2 and 11.3.1.1)."""

from collections.abc import Callable

import numpy as np

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.formats.png import deflated_small
from glasscap.core.formats.png_chunks import (
    INDEXED,
    SIGNATURE,
    chunk,
    colour_chunks,
    end_chunk,
    header_chunk,
    side_chunks,
)
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.quantise import Indexed, quantised


def write_indexed(rgba: Bytes, options: FileOptions, tags: Tags, progress: Callable[[float], None]) -> bytes:
    """Encode straight RGBA, uint8 of shape (h, w, 4), in at most `options.colours` colours."""
    found = _translucent_first(quantised(rgba, options.colours, options.dither))
    count = len(found.palette)
    bits = next(b for b in (1, 2, 4, 8) if count <= 1 << b)
    alpha = found.palette[:, 3]
    graded = int(np.count_nonzero(alpha < 255))
    height, width = rgba.shape[:2]
    parts = [
        SIGNATURE,
        header_chunk(width, height, bits, INDEXED),
        *colour_chunks(tags.icc),
        chunk(b"PLTE", found.palette[:, :3].tobytes()),
        *([chunk(b"tRNS", alpha[:graded].tobytes())] if graded else []),
        *side_chunks(tags.ppi, tags.exif),
        *(chunk(b"IDAT", part) for part in deflated_small(_packed(found.indices, bits), progress)),
        end_chunk(),
    ]
    return b"".join(parts)


def _translucent_first(found: Indexed) -> Indexed:
    """Return the same with translucent entries first: tRNS need not list the others."""
    order = np.argsort(found.palette[:, 3], kind="stable")
    place = np.empty(len(order), np.uint8)
    place[order] = np.arange(len(order))
    return Indexed(found.palette[order], place[found.indices])


def _packed(indices: Bytes, bits: int) -> Bytes:
    """Return rows of indices as bytes, shape (h, row bytes, 1); the leftmost pixel in the highest bits."""
    if bits == 8:
        return indices[..., None]
    each = 8 // bits
    height, width = indices.shape
    wide = np.zeros((height, -(-width // each) * each), np.uint8)
    wide[:, :width] = indices
    shifts = np.arange(each)[::-1] * bits
    packed: Bytes = (wide.reshape(height, -1, each) << shifts).sum(axis=2).astype(np.uint8)
    return packed[..., None]
