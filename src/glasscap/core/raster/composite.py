"""Layers with sparse coverage into straight RGBA: premultiplied inside, un-premultiplied once.

out = top + (1 - alpha_top) below (Porter-Duff over, W3C Compositing and Blending Level 1), on sRGB-encoded
values. Where the topmost layer is full and opaque its bytes are copied; only the other pixels are computed.
"""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Bytes, view_of
from glasscap.core.raster.run_blocks import copy_runs
from glasscap.core.raster.words import words


class CoveredPixels(Struct, frozen=True, eq=False):
    """Pixels seen through a coverage.

    Attributes
    ----------
    coverage : Coverage
    pixels : uint8 array, shape (h, w, 4), straight alpha
    box : PixelBox
        Where the pixels lie.
    opacity : float
    is_opaque : bool
        Whether every pixel's alpha is 255.
    """

    coverage: Coverage
    pixels: Bytes
    box: PixelBox
    opacity: float
    is_opaque: bool

    @property
    def is_solid(self) -> bool:
        """Whether a full run hides everything below."""
        return self.is_opaque and self.opacity == 1.0


def composite(out: Bytes, box: PixelBox, layers: Sequence[CoveredPixels]) -> None:
    """Write layers, back to front, into `out` (zeros, shape (box height, box width, 4)), straight alpha."""
    if len(layers) == 1:
        _one(out, box, layers[0])
    elif layers and all(layer.is_solid for layer in layers):
        _solid(out, box, layers)
    elif layers:
        _dense(out, box, layers)


def _one(out: Bytes, box: PixelBox, layer: CoveredPixels) -> None:
    """Write one layer: its colours stay as they are, alpha is its own times coverage times opacity."""
    _copy_runs(out, box, layer)
    if layer.opacity != 1.0:
        np.floor(out[..., 3] * layer.opacity + 0.5, out=out[..., 3], casting="unsafe")
    ys, xs, cover = _cells_on(layer)
    pixels = layer.pixels[ys - layer.box.y0, xs - layer.box.x0].copy()
    pixels[:, 3] = np.floor(pixels[:, 3] * (cover * layer.opacity) + 0.5).astype(np.uint8)
    out[ys - box.y0, xs - box.x0] = pixels
    if layer.is_opaque and layer.opacity >= 0.5:
        empty = pixels[:, 3] == 0
        out[ys[empty] - box.y0, xs[empty] - box.x0] = 0
    else:
        out[out[..., 3] == 0] = 0


def _cells_on(layer: CoveredPixels) -> tuple[Ints, Ints, Points]:
    """Return the boundary pixels for which the layer has pixels."""
    c, b = layer.coverage, layer.box
    on = (c.cell_y >= b.y0) & (c.cell_y < b.y1) & (c.cell_x >= b.x0) & (c.cell_x < b.x1)
    if on.all():
        return c.cell_y, c.cell_x, c.cell_value
    return c.cell_y[on], c.cell_x[on], c.cell_value[on]


def _copy_runs(out: Bytes, box: PixelBox, layer: CoveredPixels) -> None:
    """Copy a layer's full pixels."""
    part = box.intersection(layer.box)
    if not part.is_empty:
        to, source = view_of(out, box, part), view_of(layer.pixels, layer.box, part)
        copy_runs(words(to), words(source), layer.coverage.runs_in(part))


def _solid(out: Bytes, box: PixelBox, layers: Sequence[CoveredPixels]) -> None:
    """Copy full runs back to front, then compute only the pixels where some layer is partial."""
    for layer in layers:
        _copy_runs(out, box, layer)
    cells = [_cells_on(layer) for layer in layers]
    keys = np.unique(np.concatenate([(y - box.y0) * box.width + (x - box.x0) for y, x, _ in cells]))
    ys, xs = keys // box.width + box.y0, keys % box.width + box.x0
    total = np.zeros((len(keys), 4))
    for layer in layers:
        cover = layer.coverage.at(ys, xs)
        rows = np.clip(ys - layer.box.y0, 0, layer.box.height - 1)
        columns = np.clip(xs - layer.box.x0, 0, layer.box.width - 1)
        top = layer.pixels[rows, columns].astype(float)
        total = top * cover[:, None] + total * (1 - cover)[:, None]
    out[ys - box.y0, xs - box.x0] = unpremultiplied(total)


def _dense(out: Bytes, box: PixelBox, layers: Sequence[CoveredPixels]) -> None:
    """Compose whole planes in float; `out` is a band of few rows."""
    total = np.zeros((box.height, box.width, 4), np.float32)
    for layer in layers:
        part = box.intersection(layer.box)
        if part.is_empty:
            continue
        cover = (layer.coverage.dense() * layer.opacity).astype(np.float32)
        where = np.s_[part.y0 - box.y0 : part.y1 - box.y0, part.x0 - box.x0 : part.x1 - box.x0]
        b = layer.box
        top = layer.pixels[part.y0 - b.y0 : part.y1 - b.y0, part.x0 - b.x0 : part.x1 - b.x0].astype(np.float32)
        alpha = top[..., 3:] * (cover[where][..., None] / 255)
        top[..., 3] = 255
        total[where] = top * alpha + total[where] * (1 - alpha)
    out[...] = unpremultiplied(total)


def unpremultiplied(total: NDArray[np.floating]) -> Bytes:
    """Return premultiplied float RGBA (0 to 255), shape (..., 4), as straight bytes, round half up."""
    alpha = np.floor(total[..., 3:] + 0.5)
    safe = np.where(total[..., 3:] > 0, total[..., 3:], 1)
    colour = np.where(alpha > 0, np.floor(total[..., :3] * (255 / safe) + 0.5), 0)
    return np.concatenate([np.minimum(colour, 255), np.minimum(alpha, 255)], axis=-1).astype(np.uint8)
