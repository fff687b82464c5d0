"""Seeded noise that repeats without a seam."""

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float64]


def white(side: int, seed: int) -> Field:
    """Return independent normal values, shape (side, side)."""
    return np.random.default_rng(seed).standard_normal((side, side))


def smooth(field: Field, along_x: float, along_y: float, degrees: float = 0.0) -> Field:
    """Return a periodic field blurred by Gaussians of two widths (px) along turned axes, variance made 1."""
    side = len(field)
    fx, fy = np.meshgrid(np.fft.rfftfreq(side), np.fft.fftfreq(side))
    angle = np.deg2rad(degrees)
    u, v = fx * np.cos(angle) + fy * np.sin(angle), -fx * np.sin(angle) + fy * np.cos(angle)
    weight = np.exp(-2 * np.pi**2 * ((u * along_x) ** 2 + (v * along_y) ** 2))
    weight[0, 0] = 0
    out = np.fft.irfft2(np.fft.rfft2(field) * weight, (side, side))
    return np.asarray(out / max(float(out.std()), 1e-12))


def octaves(side: int, seed: int, widest: float, count: int, falloff: float = 0.6) -> Field:
    """Return a sum of smooth fields, each half as wide as the one before; variance 1."""
    total = np.zeros((side, side))
    for n in range(count):
        width = widest / 2**n
        total += smooth(white(side, seed + n), width, width) * falloff**n
    return np.asarray(total / total.std())


def ranked(field: Field) -> Field:
    """Return the field's values replaced by their rank, 0 to 1: a known share lies below any level."""
    order = np.argsort(field, axis=None)
    out = np.empty(field.size)
    out[order] = np.linspace(0, 1, field.size)
    return out.reshape(field.shape)
