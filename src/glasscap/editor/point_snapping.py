"""Snapping points to the points and edges of other shapes and of the sheet, so that neighbours meet exactly."""

import math
from collections.abc import Iterable

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.job import Item, Sheet
from glasscap.core.document.model.region import polygons_on_sheet
from glasscap.core.document.shapes.points import outline_nodes
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine

_TOLERANCE = 1 / 64


class Targets(Struct, frozen=True, eq=False):
    """Points, shape (n, 2), and edges as (start, end), shape (m, 2, 2), in sheet px."""

    points: Points
    edges: Points

    def nearest(self, x: float, y: float, reach: float) -> tuple[float, float] | None:
        """Return the nearest point within `reach`, else the nearest place on an edge, else None."""
        if len(self.points):
            away = np.hypot(self.points[:, 0] - x, self.points[:, 1] - y)
            best = int(away.argmin())
            if away[best] <= reach:
                return float(self.points[best, 0]), float(self.points[best, 1])
        if not len(self.edges):
            return None
        start, along = self.edges[:, 0], self.edges[:, 1] - self.edges[:, 0]
        length = np.maximum((along * along).sum(axis=1), 1e-18)
        share = np.clip(((np.array([x, y]) - start) * along).sum(axis=1) / length, 0, 1)
        feet = start + along * share[:, None]
        away = np.hypot(feet[:, 0] - x, feet[:, 1] - y)
        best = int(away.argmin())
        return (float(feet[best, 0]), float(feet[best, 1])) if away[best] <= reach else None


def targets_of(sheet: Sheet, without: Iterable[str]) -> Targets:
    """Return what the shapes of a sheet offer, but for some items and hidden ones."""
    left_out = set(without)
    points, edges = _of_sheet(sheet)
    for item in sheet.items:
        if item.id not in left_out and not item.is_hidden and item.shape is not None:
            points += _points_of(item)
            edges += _edges_of(item)
    return Targets(
        np.array(points, np.float64).reshape(-1, 2),
        np.concatenate(edges),
    )


def _of_sheet(sheet: Sheet) -> tuple[list[tuple[float, float]], list[Points]]:
    """Return the corners and edges of a sheet, and of its bleed."""
    points: list[tuple[float, float]] = []
    edges: list[Points] = []
    for far in dict.fromkeys((0.0, float(sheet.bleed))):
        x, y = sheet.width + far, sheet.height + far
        corners = [(-far, -far), (x, -far), (x, y), (-far, y)]
        points += corners
        around = np.array(corners, np.float64)
        edges.append(np.stack([around, np.roll(around, -1, axis=0)], axis=1))
    return points, edges


def _points_of(item: Item) -> list[tuple[float, float]]:
    try:
        return [(n.x, n.y) for c in outline_nodes(item, Affine()) for n in c]
    except GlassCapError:
        return []


def _edges_of(item: Item) -> list[Points]:
    assert item.shape is not None
    assert item.shape_placement is not None
    try:
        flat = polygons_on_sheet(item.shape, item.shape_placement, tolerance=_TOLERANCE)
    except GlassCapError:
        return []
    return [np.stack([p, np.roll(p, -1, axis=0)], axis=1) for p in flat]


def in_steps(x: float, y: float, from_x: float, from_y: float, degrees: float = 15.0) -> tuple[float, float]:
    """Return the point as far from another, in a direction that is a whole number of steps."""
    angle = round(math.degrees(math.atan2(y - from_y, x - from_x)) / degrees) * degrees
    way = math.radians(angle)
    length = (x - from_x) * math.cos(way) + (y - from_y) * math.sin(way)
    return from_x + length * math.cos(way), from_y + length * math.sin(way)
