"""Premultiplied pixels as four float planes: red, green, blue, alpha, each 0 to 255."""

from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.raster.picking import starts_of_runs
from glasscap.core.raster.pixels import Bytes, Planar, Plane
from glasscap.core.raster.resample import Quality

# A hair above one: what single precision leaves just under a half is rounded up like a half.
HALF_UP = 1.0000002


def planar_of(rgba: Bytes, *, is_premultiplied: bool, is_opaque: bool) -> Planar:
    """Return uint8 RGBA of shape (h, w, 4) as planes, shape (4, h, w)."""
    height, width = rgba.shape[:2]
    out = np.empty((4, height, width), np.float32)
    for channel, plane in enumerate(_split(rgba)[: 3 if is_opaque else 4]):
        out[channel] = plane
    if is_opaque:
        out[3] = 255.0
    elif not is_premultiplied:
        out[:3] *= out[3] * np.float32(1 / 255)
    return out


def interleaved(rgba: Bytes, *, is_opaque: bool) -> Planar:
    """Return straight uint8 RGBA as premultiplied floats, pixel by pixel, shape (h, w, 4)."""
    out = rgba.astype(np.float32)
    if not is_opaque:
        out[..., :3] *= out[..., 3:] * np.float32(1 / 255)
    return out


def weighted_planes(rgba: Bytes, weight: Plane) -> Planar:
    """Return opaque uint8 RGBA times a weight (0 to 1) as premultiplied planes, shape (4, h, w)."""
    height, width = rgba.shape[:2]
    out = np.empty((4, height, width), np.float32)
    for channel, plane in enumerate(_split(rgba)[:3]):
        cv2.multiply(plane, weight, dst=out[channel], dtype=cv2.CV_32F)
    np.multiply(weight, np.float32(255), out=out[3])
    return out


def _split(rgba: Bytes) -> tuple[Bytes, ...]:
    """Return the four channels apart: far quicker than reading every fourth byte again and again."""
    return tuple(np.asarray(plane) for plane in cv2.split(rgba))


def lay_under(top: Planar, below: Planar) -> None:
    """Put `below` beneath `top`, in place: top + (1 - alpha_top) below (Porter-Duff over)."""
    rest = 1 - top[3] * np.float32(1 / 255)
    for channel in range(4):
        top[channel] += below[channel] * rest


def premultiplied_bytes(planes: Planar) -> Bytes:
    """Return planes as premultiplied uint8 RGBA, shape (h, w, 4)."""
    return np.asarray(cv2.merge([cv2.convertScaleAbs(plane) for plane in planes]))


def opaque_bytes(planes: Iterable[Plane]) -> Bytes:
    """Return four planes of opaque pixels as uint8 RGBA, shape (h, w, 4), round half up."""
    return np.asarray(cv2.merge([cv2.convertScaleAbs(plane, alpha=HALF_UP) for plane in planes]))


def straight_bytes(planes: Planar) -> Bytes:
    """Return planes as straight uint8 RGBA, shape (h, w, 4), round half up; colour is 0 where alpha is 0."""
    alpha = planes[3]
    factor = np.asarray(cv2.divide(HALF_UP * 255, np.maximum(alpha, np.float32(1e-3))))
    factor *= alpha >= np.float32(0.5)
    colours = [cv2.multiply(plane, factor, dtype=cv2.CV_8U) for plane in planes[:3]]
    return np.asarray(cv2.merge([*colours, cv2.convertScaleAbs(alpha, alpha=HALF_UP)]))


def straight_words(planes: Planar) -> NDArray[np.uint16]:
    """Return planes as straight uint16 RGBA, 0 to 65535, shape (h, w, 4), round half up."""
    alpha = np.clip(planes[3].astype(np.float64) / 255, 0, 1)
    factor = np.where(alpha >= 0.5 / 65535, 1 / np.maximum(alpha, 1e-9), 0.0)
    colour = np.clip(planes[:3] * (factor / 255), 0, 1)
    words = np.concatenate([colour, alpha[None]]) * 65535 + 0.5
    return np.ascontiguousarray(np.moveaxis(words, 0, -1).astype(np.uint16))


Multiply = Callable[[Bytes, Bytes, Planar, Planar | None], None]


class Writing(NamedTuple):
    """The way from premultiplied planes to uint8 RGBA, and from one colour.

    `tint(out, plane, factor, colour)`: into zeros; the colour's alpha is plane times factor, 0 to 255.
    `fade(out, content, share, below, factor, colour)`: opaque content of which a share is seen, over a colour
    whose alpha is `below` times factor, all 0 to 1.
    `multiply(out, content, factors, added)`: see `multiplied_by`.
    """

    planes: Callable[[Planar], Bytes]
    tint: Callable[[Bytes, Plane, float, Sequence[float]], None]
    fade: Callable[[Bytes, Bytes, Plane, Plane, float, Sequence[float]], None]
    multiply: Multiply
    is_straight: bool


def _premultiplied_tint(out: Bytes, plane: Plane, factor: float, colour: Sequence[float]) -> None:
    if not any(colour):
        out[..., 3] = cv2.convertScaleAbs(plane, alpha=factor)
        return
    cv2.merge([cv2.convertScaleAbs(plane, alpha=factor * level / 255) for level in (*colour, 255)], dst=out)


def _straight_tint(out: Bytes, plane: Plane, factor: float, colour: Sequence[float]) -> None:
    opacity = np.asarray(cv2.convertScaleAbs(plane, alpha=HALF_UP * factor))
    if not any(colour):
        out[..., 3] = opacity
        return
    dark = np.zeros_like(opacity)
    shown = [
        np.asarray(cv2.threshold(opacity, 0, level, cv2.THRESH_BINARY)[1]) if level else dark for level in colour
    ]
    cv2.merge([*shown, opacity], dst=out)


def _premultiplied_fade(
    out: Bytes, content: Bytes, share: Plane, below: Plane, factor: float, colour: Sequence[float]
) -> None:
    rest = np.asarray(cv2.multiply(1 - share, below, scale=factor), np.float32)
    factors = np.asarray(cv2.merge([share, share, share, rest + share]), np.float32)
    added = rest[..., None] * np.array([*colour, 0], np.float32) if any(colour) else None
    multiplied_by(out, content, factors, added)


def _moving_fade(
    out: Bytes, content: Bytes, share: Plane, below: Plane, factor: float, colour: Sequence[float]
) -> None:
    if any(colour):
        # Sums of rounded numbers might be more than their alpha, which no painter expects.
        _premultiplied_fade(out, content, share, below, factor, colour)
        return
    alpha = cv2.add(cv2.multiply(1 - share, below, scale=factor), share)
    own, whole = (cv2.convertScaleAbs(plane, alpha=255) for plane in (share, alpha))
    _multiplied_by_bytes(out, content, np.asarray(cv2.merge([own, own, own, whole]), np.uint8))


def _straight_fade(
    out: Bytes, content: Bytes, share: Plane, below: Plane, factor: float, colour: Sequence[float]
) -> None:
    alpha = np.asarray(cv2.multiply(1 - share, below, scale=factor), np.float32)
    alpha += share
    # The content's part of the colour; the rest is the colour below.
    own: Plane = np.asarray(cv2.divide(share, alpha, scale=HALF_UP), np.float32)
    mixed = _mixed(content, own, 1 - own if any(colour) else own, colour)
    opacity = np.asarray(cv2.convertScaleAbs(alpha, alpha=255 * HALF_UP))
    if cv2.countNonZero(opacity) < opacity.size:
        seen = cv2.threshold(opacity, 0, 255, cv2.THRESH_BINARY)[1]
        mixed = [np.asarray(cv2.bitwise_and(plane, seen)) for plane in mixed]
    cv2.merge([*mixed, opacity], dst=out)


def _mixed(content: Bytes, own: Plane, rest: Plane, colour: Sequence[float]) -> list[Bytes]:
    """Return `own` of opaque pixels and `rest` of a colour, channel by channel."""
    return [
        np.asarray(cv2.convertScaleAbs(cv2.scaleAdd(rest, level, cv2.multiply(plane, own, dtype=cv2.CV_32F))))
        if level
        else np.asarray(cv2.multiply(plane, own, dtype=cv2.CV_8U))
        for plane, level in zip(_split(content), colour, strict=False)
    ]


def multiplied_by(out: Bytes, content: Bytes, factors: Planar, added: Planar | None) -> None:
    """Write pixels times factors and something added, channel by channel; float32 of shape (h, w, 4).

    Factors of shape (h, w) are those of the three colours.
    """
    height, width = content.shape[:2]
    if factors.ndim == 2:
        factors = np.asarray(cv2.merge([factors, factors, factors, np.ones_like(factors)]), np.float32)
    flat, row, by = (pixels.reshape(height, 4 * width) for pixels in (content, out, factors))
    if added is None:
        cv2.multiply(flat, by, dst=row, dtype=cv2.CV_8U)
        return
    total = np.asarray(cv2.multiply(flat, by, dtype=cv2.CV_32F), np.float32)
    total += added.reshape(height, 4 * width)
    cv2.convertScaleAbs(total, dst=row)


def multiplied_at_once(out: Bytes, content: Bytes, factors: Planar, added: Planar | None) -> None:
    """Write about what `multiplied_by` does: a level off at most, in two thirds of its time."""
    if added is not None:
        multiplied_by(out, content, factors, added)
        return
    by = np.asarray(cv2.convertScaleAbs(factors.reshape(len(out), -1), alpha=255), np.uint8)
    if factors.ndim == 2:
        by = np.asarray(cv2.merge([by, by, by, np.full_like(by, 255)]), np.uint8)
    _multiplied_by_bytes(out, content, by)


def _multiplied_by_bytes(out: Bytes, content: Bytes, factors: Bytes) -> None:
    """Write pixels times factors of 0 to 255."""
    flat, row, by = (pixels.reshape(len(out), -1) for pixels in (content, out, factors))
    cv2.multiply(flat, by, dst=row, scale=1 / 255)


# Bytes for the screen, for the screen while something moves, and for files.
PREMULTIPLIED = Writing(
    premultiplied_bytes, _premultiplied_tint, _premultiplied_fade, multiplied_by, is_straight=False
)
MOVING = PREMULTIPLIED._replace(fade=_moving_fade, multiply=multiplied_at_once)
STRAIGHT = Writing(straight_bytes, _straight_tint, _straight_fade, multiplied_by, is_straight=True)


def for_screen(quality: Quality) -> Writing:
    """Return how pixels of a quality are written for the screen."""
    return MOVING if quality == "moving" else PREMULTIPLIED


def lay_tint(planes: Planar, share: Plane, colour: Sequence[float]) -> None:
    """Lay a colour over premultiplied planes without changing their alpha, `share` of each pixel, in place."""
    rest = 1 - share
    seen = share * (planes[3] * np.float32(1 / 255))
    for channel, level in enumerate(colour):
        planes[channel] *= rest
        if level:
            planes[channel] += seen * np.float32(level)


def add_colour(planes: Planar, weight: Plane, colour: Sequence[float]) -> None:
    """Add a colour (premultiplied, 0 to 255 a channel), `weight` of each pixel, in place."""
    for plane, level in zip(planes, colour, strict=True):
        if level:
            # Multiplies and adds in one pass.
            cv2.scaleAdd(weight, level, plane, dst=plane)


def once_each(numbers: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return numbers ascending, each once; of the few there are this is quicker than hashing them."""
    numbers.sort()
    return numbers[starts_of_runs(numbers)]
