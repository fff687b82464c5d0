"""The point, handle or segment of an outline under the pointer; places in sheet px."""

import math
from typing import Literal

import numpy as np
from msgspec import Struct

from glasscap.core.geometry.bezier import nearest_on
from glasscap.core.shapes.nodes import Node, Nodes, Place, outline_of_nodes

HitKind = Literal["node", "before", "after", "segment"]


# The rings that pull a control point out: so many reaches from their point, for so many chosen points at most.
_RING_AWAY, _RING_REACH, _MOST_RINGED = 1.8, 0.6, 12


class PointHit(Struct, frozen=True):
    """A point, one of its control points, or a place at `t` on the segment that a point starts."""

    kind: HitKind
    place: Place
    t: float = 0.0


def controls_shown(nodes: Nodes, chosen: frozenset[Place]) -> list[tuple[Place, HitKind, tuple[float, float]]]:
    """Return the control points that show: those of chosen points, and their neighbours' towards them."""
    found: dict[tuple[Place, HitKind], tuple[float, float]] = {}
    for contour, number in chosen:
        points = nodes[contour]
        count = len(points)
        back, ahead = (number - 1) % count, (number + 1) % count
        for at, side in ((number, "before"), (number, "after"), (back, "after"), (ahead, "before")):
            node = points[at]
            if side == "before" and node.has_before:
                found[((contour, at), "before")] = node.before
            elif side == "after" and node.has_after:
                found[((contour, at), "after")] = node.after
    return [(place, kind, at) for (place, kind), at in found.items()]


def rings_shown(
    nodes: Nodes, chosen: frozenset[Place], reach: float
) -> list[tuple[Place, HitKind, tuple[float, float]]]:
    """Return the rings beside chosen points that pull out a control point they lack.

    Each lies towards its neighbour, `reach` sheet px being that of the pointer; there is none on a short side.
    """
    found: list[tuple[Place, HitKind, tuple[float, float]]] = []
    if len(chosen) > _MOST_RINGED:
        return found
    for contour, number in chosen:
        points = nodes[contour]
        node, back, ahead = points[number], points[number - 1], points[(number + 1) % len(points)]
        if not node.has_before:
            found += _ring((contour, number), "before", node, back.after, reach)
        if not node.has_after:
            found += _ring((contour, number), "after", node, ahead.before, reach)
    return found


def _ring(
    place: Place, kind: HitKind, node: Node, towards: tuple[float, float], reach: float
) -> list[tuple[Place, HitKind, tuple[float, float]]]:
    dx, dy = towards[0] - node.x, towards[1] - node.y
    length, away = math.hypot(dx, dy), _RING_AWAY * reach
    if length < 2 * away:
        return []
    return [(place, kind, (node.x + dx / length * away, node.y + dy / length * away))]


def point_at(nodes: Nodes, chosen: frozenset[Place], x: float, y: float, reach: float) -> PointHit | None:
    """Return what is nearest within `reach`: points first, then control points and rings, then the outline."""
    best: tuple[float, PointHit] | None = None
    for contour, points in enumerate(nodes):
        places = np.array([(n.x, n.y) for n in points])
        away = np.hypot(places[:, 0] - x, places[:, 1] - y)
        number = int(away.argmin())
        if away[number] <= reach and (best is None or away[number] < best[0]):
            best = (float(away[number]), PointHit("node", (contour, number)))
    for place, kind, at in controls_shown(nodes, chosen):
        far = math.hypot(at[0] - x, at[1] - y)
        if far <= reach and (best is None or far < best[0] * 0.7):
            best = (far, PointHit(kind, place))
    for place, kind, at in rings_shown(nodes, chosen, reach):
        far = math.hypot(at[0] - x, at[1] - y)
        if far <= reach * _RING_REACH and (best is None or far < best[0] * 0.7):
            best = (far, PointHit(kind, place))
    return best[1] if best is not None else _segment_at(nodes, x, y, reach)


def _segment_at(nodes: Nodes, x: float, y: float, reach: float) -> PointHit | None:
    best: tuple[float, PointHit] | None = None
    for number, points in enumerate(nodes):
        if len(points) < 2 or not _may_pass(points, x, y, reach):
            continue
        (contour,) = outline_of_nodes((points,)).contours
        segment, t, away = nearest_on(contour, x, y)
        if away <= reach and (best is None or away < best[0]):
            best = (away, PointHit("segment", (number, segment), t))
    return None if best is None else best[1]


def _may_pass(points: tuple[Node, ...], x: float, y: float, reach: float) -> bool:
    """Whether a contour comes near at all: it lies within the hull of its control points."""
    xs = [v for n in points for v in (n.x, n.before[0], n.after[0])]
    ys = [v for n in points for v in (n.y, n.before[1], n.after[1])]
    return min(xs) - reach <= x <= max(xs) + reach and min(ys) - reach <= y <= max(ys) + reach


def within(nodes: Nodes, x0: float, y0: float, x1: float, y1: float) -> frozenset[Place]:
    """Return the points inside a frame given by two corners."""
    left, right, top, foot = min(x0, x1), max(x0, x1), min(y0, y1), max(y0, y1)
    return frozenset(
        (k, n) for k, c in enumerate(nodes) for n, node in enumerate(c)
        if left <= node.x <= right and top <= node.y <= foot
    )  # fmt: skip


def node_of(nodes: Nodes, place: Place) -> Node:
    """Return a point."""
    return nodes[place[0]][place[1]]
