"""A few colours with graded alpha that stand for all: palettes computed on premultiplied colour.

Boxes of colours are cut where they vary most (Wan, Wong and Prusinkiewicz 1988), then moved to the means
of what they stand for (Lloyd 1957). Translucent pixels have a share of the palette of their own, or a
soft shadow would get a few steps only.
"""

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes

Colours = NDArray[np.float32]
Numbers = NDArray[np.int64]

_ROUNDS = 8
# The least and the most that translucent colours get of the palette.
_LEAST_SHARE, _MOST_SHARE = 0.2, 0.75
_CHUNK = 1 << 15
# Bits a channel by which colours alike are counted as one while the palette is found.
_COARSE_BITS = 5
# Ordered dithering by an 8 x 8 threshold matrix (Bayer 1973).
_BAYER_2 = np.array([[0, 2], [3, 1]])


class Indexed(Struct, frozen=True, eq=False):
    """Palette entries, uint8 straight RGBA of shape (n, 4), and each pixel's, uint8 of shape (h, w)."""

    palette: Bytes
    indices: Bytes

    @property
    def rgba(self) -> Bytes:
        """The picture it shows."""
        return self.palette[self.indices]


def quantised(rgba: Bytes, count: int, dither: float = 0.0) -> Indexed:
    """Return straight RGBA, uint8 of shape (h, w, 4), in at most `count` (2 to 256) colours.

    `dither` (0 to 1) spreads the error over neighbouring pixels; alpha is dithered less than colour.
    """
    flat = premultiplied_floats(rgba.reshape(-1, 4))
    words = np.ascontiguousarray(rgba).reshape(-1, 4).view(np.uint32)[:, 0]
    unique, inverse = np.unique(words, return_inverse=True)
    pure = unique.view(np.uint8).reshape(-1, 4)
    if len(unique) <= count:
        return Indexed(pure, inverse.astype(np.uint8).reshape(rgba.shape[:2]))
    amounts = np.bincount(inverse).astype(np.float32)
    exact = premultiplied_floats(pure)
    palette = _palette(exact, amounts, pure[:, 3] == 255, count)
    if dither == 0:
        return _indexed(palette, _nearest(exact, palette)[inverse], rgba.shape)
    return _indexed(palette, _dithered(flat, rgba.shape[:2], palette, dither), rgba.shape)


def _indexed(palette: Colours, number: Numbers, shape: tuple[int, ...]) -> Indexed:
    return Indexed(straight_bytes_of(palette), number.astype(np.uint8).reshape(shape[:2]))


def premultiplied_floats(rgba: Bytes) -> Colours:
    """Return straight RGBA of shape (n, 4) premultiplied, 0 to 255, float32."""
    out = rgba.astype(np.float32)
    out[:, :3] *= out[:, 3:] / np.float32(255)
    return out


def straight_bytes_of(colours: Colours) -> Bytes:
    """Return premultiplied colours of shape (n, 4) as straight bytes."""
    alpha = np.round(np.clip(colours[:, 3:], 0, 255))
    colour = np.where(alpha > 0, colours[:, :3] * 255 / np.maximum(colours[:, 3:], 1e-3), 0)
    return np.concatenate([np.clip(np.round(colour), 0, 255), alpha], axis=1).astype(np.uint8)


def _palette(colours: Colours, amounts: Colours, is_opaque: NDArray[np.bool_], count: int) -> Colours:
    """Return the palette; a pixel that is not there at all has an entry of its own."""
    is_clear = colours[:, 3] == 0
    groups = [g for g in (is_opaque, ~is_opaque & ~is_clear) if g.any()]
    entries = [np.zeros((1, 4), np.float32)] if is_clear.any() else []
    left = count - len(entries)
    sizes = (
        [left] if len(groups) == 1 else _shares([colours[g] for g in groups], [amounts[g] for g in groups], left)
    )
    for group, size in zip(groups, sizes, strict=True):
        if size:
            entries.append(_means(*_coarse(colours[group], amounts[group]), size))
    return np.concatenate(entries)[:count]


def _shares(groups: list[Colours], amounts: list[Colours], left: int) -> list[int]:
    """Part the palette between opaque and translucent colours by how much they vary."""
    spread = [
        float(np.sqrt(((g - g.mean(axis=0)) ** 2 * a[:, None]).sum()))
        for g, a in zip(groups, amounts, strict=True)
    ]
    share = spread[1] / max(sum(spread), 1e-9)
    translucent = round(left * min(max(share, _LEAST_SHARE), _MOST_SHARE))
    translucent = min(max(translucent, 1), left - 1, len(groups[1])) if left > 1 else 0
    opaque = min(left - translucent, len(groups[0]))
    return [opaque, min(left - opaque, len(groups[1]))]


def _coarse(colours: Colours, amounts: Colours) -> tuple[Colours, Colours]:
    """Return means and amounts of colours that agree in their upper bits; alpha keeps two bits more."""
    shifts = np.array([8 - _COARSE_BITS] * 3 + [6 - _COARSE_BITS])
    cells = colours.astype(np.int64) >> shifts
    keys = (cells * (1 << np.array([0, 8, 16, 24]))).sum(axis=1)
    _, inverse = np.unique(keys, return_inverse=True)
    total = np.bincount(inverse, amounts)
    sums = np.stack([np.bincount(inverse, amounts * colours[:, n]) for n in range(4)], axis=1)
    return (sums / total[:, None]).astype(np.float32), total.astype(np.float32)


def _means(colours: Colours, amounts: Colours, count: int) -> Colours:
    """Return at most `count` colours that stand for weighted ones with little error."""
    if len(colours) <= count:
        return colours
    centres = _cut_boxes(colours, amounts, count)
    for _ in range(_ROUNDS):
        owner = _nearest(colours, centres)
        total = np.bincount(owner, amounts, len(centres))
        sums = np.stack([np.bincount(owner, amounts * colours[:, n], len(centres)) for n in range(4)], axis=1)
        is_used = total > 0
        moved = np.where(is_used[:, None], sums / np.maximum(total, 1e-9)[:, None], centres).astype(np.float32)
        if np.abs(moved - centres).max() < 0.25:
            break
        centres = moved
    return centres


def _cut_boxes(colours: Colours, amounts: Colours, count: int) -> Colours:
    boxes = [np.arange(len(colours))]
    scores = [_spread(colours, amounts)]
    while len(boxes) < count:
        worst = int(np.argmax([s for s, _ in scores]))
        if scores[worst][0] <= 0:
            break
        members, axis = boxes[worst], scores[worst][1]
        values = colours[members, axis]
        middle = float(np.average(values, weights=amounts[members]))
        low = values <= middle
        if low.all():
            low = values < values.max()
        for place, part in ((worst, members[low]), (len(boxes), members[~low])):
            score = _spread(colours[part], amounts[part])
            if place == worst:
                boxes[place], scores[place] = part, score
            else:
                boxes.append(part)
                scores.append(score)
    return np.array([np.average(colours[b], axis=0, weights=amounts[b]) for b in boxes], np.float32)


def _spread(colours: Colours, amounts: Colours) -> tuple[float, int]:
    """Return the weighted variance summed over the axis that varies most, and that axis."""
    if len(colours) < 2:
        return 0.0, 0
    mean = np.average(colours, axis=0, weights=amounts)
    spread = ((colours - mean) ** 2 * amounts[:, None]).sum(axis=0)
    axis = int(spread.argmax())
    return float(spread[axis]), axis


def _nearest(colours: Colours, palette: Colours) -> Numbers:
    """Return for each colour the palette's nearest."""
    out = np.empty(len(colours), np.int64)
    lengths = (palette**2).sum(axis=1)
    for start in range(0, len(colours), _CHUNK):
        part = colours[start : start + _CHUNK]
        out[start : start + _CHUNK] = (lengths - 2 * (part @ palette.T)).argmin(axis=1)
    return out


def _dithered(flat: Colours, shape: tuple[int, int], palette: Colours, amount: float) -> Numbers:
    """Return each pixel's nearest entry after an ordered nudge as wide as the palette is coarse there."""
    first = _nearest(flat, palette)
    error = flat - palette[first]
    # As far as neighbouring entries lie apart: the root of the mean squared error, uniform over the gap.
    width = np.sqrt(
        np.bincount(first, (error**2).sum(axis=1), len(palette))
        / np.maximum(np.bincount(first, minlength=len(palette)), 1)
    )
    reach = (width * np.sqrt(3.0) * amount)[first].astype(np.float32)
    nudged = flat + (thresholds(shape).ravel() * reach)[:, None] * np.array([1, 1, 1, 0.5], np.float32)
    # What is wholly clear or opaque stays so: a dithered rim would be rough.
    nudged[:, 3] = np.where((flat[:, 3] == 0) | (flat[:, 3] == 255), flat[:, 3], nudged[:, 3])
    nudged[flat[:, 3] == 0] = 0
    return _nearest(nudged, palette)


def thresholds(shape: tuple[int, int]) -> Colours:
    """Return the threshold matrix tiled over a picture, -1 to 1."""
    matrix = _BAYER_2
    for _ in range(2):
        matrix = np.block([[4 * matrix + _BAYER_2[y, x] for x in range(2)] for y in range(2)])
    unit = (matrix + 0.5) / matrix.size * 2 - 1
    rows, columns = -(-shape[0] // 8), -(-shape[1] // 8)
    return np.tile(unit, (rows, columns))[: shape[0], : shape[1]].astype(np.float32)
