"""Circles and ellipses through points on a rim."""

import math

import numpy as np
from msgspec import Struct

from glasscap.core.geometry.outline import Points

_STEPS = 60


class Rim(Struct, frozen=True):
    """A fitted circle or ellipse: centre, half axes, turn in degrees, and how far the points are from it.

    `misfit` is the root mean square distance of the points, in their unit; `why` says why there is none.
    """

    x: float = 0.0
    y: float = 0.0
    rx: float = 0.0
    ry: float = 0.0
    degrees: float = 0.0
    misfit: float = 0.0
    why: str = ""

    def __bool__(self) -> bool:
        return not self.why


def fit_circle(points: Points) -> Rim:
    """Return the circle through three points, or the one of least squared distances to more.

    The start is Kåsa's algebraic circle; Gauss-Newton steps on the distances follow (Gander, Golub, Strebel,
    "Least-squares fitting of circles and ellipses", BIT 34, 1994).
    """
    if len(points) < 3:
        return Rim(why="three points are needed")
    middle = points.mean(axis=0)
    scale = float(np.abs(points - middle).max())
    if scale <= 0:
        return Rim(why="the points are all in one place")
    u = (points - middle) / scale
    # Points on a line have no spread across it.
    if np.linalg.svd(u, compute_uv=False)[1] < 1e-4:
        return Rim(why="the points lie on a line")
    columns = np.column_stack([2 * u, np.ones(len(u))])
    (a, b, c), *_ = np.linalg.lstsq(columns, (u * u).sum(axis=1), rcond=None)
    r = math.sqrt(max(c + a * a + b * b, 1e-18))
    for _ in range(_STEPS if len(points) > 3 else 3):
        dx, dy = u[:, 0] - a, u[:, 1] - b
        far = np.maximum(np.hypot(dx, dy), 1e-12)
        slope = np.column_stack([-dx / far, -dy / far, -np.ones(len(u))])
        step, *_ = np.linalg.lstsq(slope, -(far - r), rcond=None)
        a, b, r = a + step[0], b + step[1], r + step[2]
        if np.abs(step).max() < 1e-13:
            break
    if not (math.isfinite(r) and 0 < r < 1e4):
        return Rim(why="the points lie nearly on a line")
    x, y = middle + np.array([a, b]) * scale
    away = np.hypot(points[:, 0] - x, points[:, 1] - y) - r * scale
    radius = float(r) * scale
    return Rim(float(x), float(y), radius, radius, 0.0, float(np.sqrt((away**2).mean())))


def fit_ellipse(points: Points) -> Rim:
    """Return the ellipse near five or more points.

    Start: the direct least squares fit of Fitzgibbon, Pilu and Fisher (IEEE PAMI 21, 1999) in the stable form of
    Halíř and Flusser (WSCG 1998); then Gauss-Newton steps on the true distances (Gander et al., BIT 34, 1994).
    """
    if len(points) < 5:
        return Rim(why="five points are needed")
    middle = points.mean(axis=0)
    scale = float(np.abs(points - middle).max())
    if scale <= 0:
        return Rim(why="the points are all in one place")
    u = (points - middle) / scale
    start = _direct_ellipse(u)
    if start is None:
        return Rim(why="no ellipse lies near these points")
    x, y, rx, ry, turn = _refined(u, start)
    if not (np.isfinite([x, y, rx, ry, turn]).all() and min(rx, ry) > 1e-4 and max(rx, ry) < 1e3):
        return Rim(why="no ellipse lies near these points")
    if ry > rx:
        rx, ry, turn = ry, rx, turn + math.pi / 2
    away, _ = _distances(u, (x, y, rx, ry, turn))
    degrees = math.degrees(turn) % 180
    degrees = degrees - 180 if degrees > 90 else degrees
    cx, cy = middle + np.array([x, y]) * scale
    misfit = float(np.sqrt((away**2).mean())) * scale
    return Rim(float(cx), float(cy), rx * scale, ry * scale, degrees, misfit)


Ellipse = tuple[float, float, float, float, float]


def _direct_ellipse(u: Points) -> Ellipse | None:
    x, y = u[:, 0], u[:, 1]
    d1, d2 = np.column_stack([x * x, x * y, y * y]), np.column_stack([x, y, np.ones(len(u))])
    s1, s2, s3 = d1.T @ d1, d1.T @ d2, d2.T @ d2
    try:
        t = -np.linalg.solve(s3, s2.T)
        m = s1 + s2 @ t
        m = np.array([m[2] / 2, -m[1], m[0] / 2])
        _, vectors = np.linalg.eig(m)
    except np.linalg.LinAlgError:
        return None
    vectors = np.real(vectors)
    condition = 4 * vectors[0] * vectors[2] - vectors[1] ** 2
    if not (condition > 1e-12).any():
        return None
    first = vectors[:, int(np.argmax(condition))]
    return _axes(*first, *(t @ first))


def _axes(a: float, b: float, c: float, d: float, e: float, f: float) -> Ellipse | None:
    """Return centre, half axes and turn of the conic a x^2 + b x y + c y^2 + d x + e y + f = 0."""
    quadric = np.array([[a, b / 2], [b / 2, c]])
    if abs(np.linalg.det(quadric)) < 1e-15:
        return None
    x, y = np.linalg.solve(-2 * quadric, np.array([d, e]))
    rest = a * x * x + b * x * y + c * y * y + d * x + e * y + f
    values, vectors = np.linalg.eigh(quadric)
    squares = -rest / values
    if not (squares > 0).all():
        return None
    return float(x), float(y), *map(float, np.sqrt(squares)), math.atan2(vectors[1, 0], vectors[0, 0])  # type: ignore[return-value]


def _distances(u: Points, ellipse: Ellipse) -> tuple[Points, Points]:
    """Return signed distances of points from an ellipse and the angles of their feet, by Newton's method."""
    x, y, rx, ry, turn = ellipse
    c, s = math.cos(turn), math.sin(turn)
    px, py = (u[:, 0] - x) * c + (u[:, 1] - y) * s, (u[:, 1] - y) * c - (u[:, 0] - x) * s
    t = np.arctan2(py * rx, px * ry)
    for _ in range(12):
        fx, fy = rx * np.cos(t), ry * np.sin(t)
        gx, gy = -rx * np.sin(t), ry * np.cos(t)
        top = (fx - px) * gx + (fy - py) * gy
        foot = gx * gx + gy * gy - (fx - px) * fx - (fy - py) * fy
        t = t - top / np.where(np.abs(foot) < 1e-9, 1e-9, np.abs(foot))
    fx, fy = rx * np.cos(t), ry * np.sin(t)
    away = np.hypot(px - fx, py - fy)
    outside = (px / rx) ** 2 + (py / ry) ** 2 > 1
    return np.where(outside, away, -away), t


def _refined(u: Points, start: Ellipse) -> Ellipse:
    at = np.array(start)
    best, best_sum = at, float((_distances(u, tuple(at))[0] ** 2).sum())
    damping = 1e-3
    for _ in range(_STEPS):
        away, t = _distances(u, tuple(best))
        _, _, rx, ry, turn = best
        c, s = math.cos(turn), math.sin(turn)
        nx, ny = np.cos(t) / rx, np.sin(t) / ry
        size = np.hypot(nx, ny)
        nx, ny = nx / size, ny / size
        gx, gy = nx * c - ny * s, nx * s + ny * c
        slope = -np.column_stack(
            [gx, gy, nx * np.cos(t), ny * np.sin(t), nx * (-ry * np.sin(t)) + ny * (rx * np.cos(t))]
        )
        normal = slope.T @ slope
        step = np.linalg.lstsq(
            normal + damping * np.diag(np.diag(normal) + 1e-12), -(slope.T @ away), rcond=None
        )[0]
        tried = best + step
        if min(tried[2], tried[3]) <= 0:
            damping *= 10
            continue
        total = float((_distances(u, tuple(tried))[0] ** 2).sum())
        if total < best_sum:
            is_done = best_sum - total < 1e-16 * max(best_sum, 1e-30)
            best, best_sum, damping = tried, total, damping / 4
            if is_done:
                break
        else:
            damping *= 6
            if damping > 1e8:
                break
    return tuple(float(v) for v in best)  # type: ignore[return-value]
