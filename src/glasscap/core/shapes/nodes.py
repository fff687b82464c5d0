"""The points of an outline as a designer edits them: each with two control points and a kind."""

import math
from collections.abc import Iterable
from typing import Literal

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import cubics_of, split_at
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.path_data import write_path_data
from glasscap.core.geometry.polygon import following
from glasscap.core.geometry.types import Affine

NodeKind = Literal["corner", "smooth", "symmetric"]
LETTERS: dict[NodeKind, str] = {"corner": "c", "smooth": "s", "symmetric": "y"}
_KINDS: dict[str, NodeKind] = {letter: kind for kind, letter in LETTERS.items()}
# Control points this nearly in line with their point (radians) make it smooth when nothing else is known.
_IN_LINE = 0.02
MOST_NODES = 20_000
# A control point this near its point does not stand apart.
_APART = 1e-9
# Nearer than the path's last decimal, two points are one.
_SAME = 1.5e-6


class Node(Struct, frozen=True):
    """A point at (x, y); `before` and `after` are its control points on the segments that end and start there."""

    x: float
    y: float
    before: tuple[float, float]
    after: tuple[float, float]
    kind: NodeKind = "corner"

    @property
    def has_before(self) -> bool:
        """Whether the control point before it stands apart."""
        return math.hypot(self.before[0] - self.x, self.before[1] - self.y) > _APART

    @property
    def has_after(self) -> bool:
        """Whether the control point after it stands apart."""
        return math.hypot(self.after[0] - self.x, self.after[1] - self.y) > _APART

    def moved(self, dx: float, dy: float) -> "Node":
        """Return it with its control points moved along."""
        # Not by `replace`: of hundreds of points it is half of the time of a drag's step.
        before, after = self.before, self.after
        return Node(
            self.x + dx,
            self.y + dy,
            (before[0] + dx, before[1] + dy),
            (after[0] + dx, after[1] + dy),
            self.kind,
        )

    def mapped(self, affine: Affine) -> "Node":
        """Return it under an affine map."""
        x, y = affine.apply(self.x, self.y)
        return Node(x, y, affine.apply(*self.before), affine.apply(*self.after), self.kind)


Nodes = tuple[tuple[Node, ...], ...]
Place = tuple[int, int]


def corner_node(x: float, y: float) -> Node:
    """Return a corner without control points of its own."""
    return Node(x, y, (x, y), (x, y))


def nodes_of(outline: Outline, kinds: str = "") -> Nodes:
    """Return an outline's points; `kinds` has a letter each, or is empty: then the form tells.

    A control point a third of the way along a straight side is taken for none.
    """
    made, number = [], 0
    for contour in outline.contours:
        contour_kinds = kinds[number : number + len(contour) // 3] if kinds else ""
        made.append(_contour_nodes(contour, contour_kinds))
        number += len(contour) // 3
    return tuple(made)


def _contour_nodes(contour: Points, kinds: str) -> tuple[Node, ...]:
    cubics = cubics_of(contour)
    straight = _are_straight(cubics)
    nodes = []
    for n, cubic in enumerate(cubics):
        at = _pair(cubic[0])
        before = at if straight[n - 1] else _pair(cubics[n - 1, 2])
        after = at if straight[n] else _pair(cubic[1])
        kind = _KINDS[kinds[n]] if n < len(kinds) else told_kind(Node(*at, before, after))
        nodes.append(Node(*at, before, after, kind))
    return tuple(nodes)


def _are_straight(cubics: Points) -> list[bool]:
    """Return of cubics, shape (n, 4, 2), which are straight: control points on the thirds, or on the ends."""
    first, last = cubics[:, 1] - cubics[:, 0], cubics[:, 3] - cubics[:, 2]
    third = (cubics[:, 3] - cubics[:, 0]) / 3
    size = np.maximum(1e-6 * (1e-6 + np.abs(third).max(axis=1)), 1e-6)

    def is_small(one: Points, other: Points) -> NDArray[np.bool_]:
        return np.asarray(np.maximum(np.abs(one), np.abs(other)).max(axis=1) < size)

    found: list[bool] = (is_small(first - third, last - third) | is_small(first, last)).tolist()
    return found


def told_kind(node: Node) -> NodeKind:
    """Return the kind a point's form tells."""
    if not (node.has_before and node.has_after):
        return "corner"
    bx, by = node.x - node.before[0], node.y - node.before[1]
    ax, ay = node.after[0] - node.x, node.after[1] - node.y
    turn = abs(math.atan2(bx * ay - by * ax, bx * ax + by * ay))
    if turn > _IN_LINE:
        return "corner"
    is_equal = abs(math.hypot(bx, by) - math.hypot(ax, ay)) < 1e-3 * math.hypot(ax, ay)
    return "symmetric" if is_equal else "smooth"


def outline_of_nodes(nodes: Nodes) -> Outline:
    """Return closed contours through points. Raises ShapeError for a contour of a single point."""
    if sum(len(c) for c in nodes) > MOST_NODES:
        raise ShapeError("Points", f"there are more than {MOST_NODES}", "use a smoother curve")
    return Outline(tuple(_contour(c) for c in nodes if len(c) > 1))


def _contour(nodes: tuple[Node, ...]) -> Points:
    at, before, after = _places(nodes)
    end, arriving = following(at), following(before)
    third = (end - at) / 3
    is_straight = ~(_is_apart(after, at) | _is_apart(arriving, end))
    after, arriving = after.copy(), arriving.copy()
    after[is_straight], arriving[is_straight] = (at + third)[is_straight], (end - third)[is_straight]
    return np.concatenate((at[:1], np.stack((after, arriving, end), axis=1).reshape(-1, 2)))


def _places(nodes: tuple[Node, ...]) -> tuple[Points, Points, Points]:
    """Return where points and their control points before and after lie, shape (n, 2) each."""
    places = np.array([(node.x, node.y, *node.before, *node.after) for node in nodes])
    return places[:, :2], places[:, 2:4], places[:, 4:]


def _is_apart(one: Points, other: Points) -> NDArray[np.bool_]:
    return np.asarray(np.hypot(*(one - other).T) > _APART)


def path_and_kinds(nodes: Nodes, decimals: int = 6) -> tuple[str, str]:
    """Return points as path data and a letter for each kind, repeated points once. Raises ShapeError."""
    kept = tuple(c for c in map(_apart, nodes) if len(c) > 1)
    return write_path_data(outline_of_nodes(kept), decimals), "".join(LETTERS[n.kind] for c in kept for n in c)


def _apart(contour: tuple[Node, ...]) -> tuple[Node, ...]:
    """Leave out points that stand on the one before them with nothing between."""
    return tuple(
        node
        for node, last in zip(contour, (contour[-1], *contour[:-1]), strict=True)
        if math.hypot(node.x - last.x, node.y - last.y) > _SAME or node.has_before or last.has_after
    )


def mapped_nodes(nodes: Nodes, affine: Affine) -> Nodes:
    """Return points under an affine map."""
    if affine == Affine():
        return nodes
    return tuple(tuple(n.mapped(affine) for n in c) for c in nodes)


def changed(nodes: Nodes, places: dict[Place, Node]) -> Nodes:
    """Return points with some replaced."""
    return tuple(tuple(places.get((k, n), node) for n, node in enumerate(c)) for k, c in enumerate(nodes))


def present(nodes: Nodes, places: Iterable[Place]) -> frozenset[Place]:
    """Return the places that are there: an edit may have left fewer points."""
    return frozenset((k, n) for k, n in places if k < len(nodes) and n < len(nodes[k]))


def with_kind(node: Node, kind: NodeKind, before: Node, after: Node) -> Node:
    """Return a point made a corner, smooth or symmetric; control points it lacks are set along its neighbours."""
    if kind == "corner":
        return replace(node, kind=kind)
    way = _way_through(node, before, after)
    back = math.hypot(node.x - node.before[0], node.y - node.before[1]) or _third(node, before)
    ahead = math.hypot(node.after[0] - node.x, node.after[1] - node.y) or _third(node, after)
    if kind == "symmetric":
        back = ahead = (back + ahead) / 2
    return replace(
        node,
        kind=kind,
        before=(node.x - way[0] * back, node.y - way[1] * back),
        after=(node.x + way[0] * ahead, node.y + way[1] * ahead),
    )


def _third(node: Node, other: Node) -> float:
    return math.hypot(other.x - node.x, other.y - node.y) / 3


def _way_through(node: Node, before: Node, after: Node) -> tuple[float, float]:
    if node.has_before and node.has_after:
        start, end = node.before, node.after
    elif node.has_after:
        start, end = (node.x, node.y), node.after
    elif node.has_before:
        start, end = node.before, (node.x, node.y)
    else:
        start, end = (before.x, before.y), (after.x, after.y)
    dx, dy = end[0] - start[0], end[1] - start[1]
    length = math.hypot(dx, dy)
    return (dx / length, dy / length) if length > 1e-12 else (1.0, 0.0)


def with_control(node: Node, x: float, y: float, *, is_before: bool, breaks: bool = False) -> Node:
    """Return a point with one control point moved; the other follows as the kind asks, unless it breaks."""
    if breaks:
        node = replace(node, kind="corner")
    moved = replace(node, before=(x, y)) if is_before else replace(node, after=(x, y))
    if node.kind == "corner":
        return moved
    other = moved.after if is_before else moved.before
    length = math.hypot(x - node.x, y - node.y)
    if length < 1e-9:
        return moved
    far = length if node.kind == "symmetric" else math.hypot(other[0] - node.x, other[1] - node.y)
    opposite = (node.x - (x - node.x) / length * far, node.y - (y - node.y) / length * far)
    return replace(moved, after=opposite) if is_before else replace(moved, before=opposite)


def without_control(node: Node, *, is_before: bool) -> Node:
    """Return a corner with one control point pushed into the point."""
    at = (node.x, node.y)
    bare = replace(node, before=at) if is_before else replace(node, after=at)
    return replace(bare, kind="corner")


def in_line(node: Node, x: float, y: float, reach: float, *, is_before: bool) -> tuple[float, float] | None:
    """Return the place near (x, y) where a control point is in line with the other one; None if none is near."""
    other = node.after if is_before else node.before
    dx, dy = node.x - other[0], node.y - other[1]
    length = math.hypot(dx, dy)
    if length < _APART:
        return None
    ux, uy = dx / length, dy / length
    along = (x - node.x) * ux + (y - node.y) * uy
    across = abs((x - node.x) * uy - (y - node.y) * ux)
    return (node.x + ux * along, node.y + uy * along) if along > 0 and across <= reach else None


def inserted(nodes: Nodes, contour: int, segment: int, t: float) -> tuple[Nodes, Place]:
    """Return points with one more on a segment, the curve unchanged, and where it is."""
    points = nodes[contour]
    one, other = points[segment], points[(segment + 1) % len(points)]
    is_line = not one.has_after and not other.has_before
    if is_line:
        fresh = corner_node(one.x + (other.x - one.x) * t, one.y + (other.y - one.y) * t)
        pieces = [*points[: segment + 1], fresh, *points[segment + 1 :]]
    else:
        cubic = np.array([(one.x, one.y), one.after, other.before, (other.x, other.y)])
        left, right = split_at(cubic, t)
        fresh = Node(*_pair(left[3]), _pair(left[2]), _pair(right[1]), "smooth")
        first = replace(one, after=_pair(left[1]))
        second = replace(other, before=_pair(right[2]))
        pieces = list(points)
        pieces[segment] = first
        pieces[(segment + 1) % len(points)] = second
        pieces.insert(segment + 1, fresh)
    made = tuple(tuple(pieces) if k == contour else c for k, c in enumerate(nodes))
    return made, (contour, segment + 1)


def _pair(point: Points) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def removed(nodes: Nodes, places: frozenset[Place]) -> Nodes:
    """Return points without some; a contour left with fewer than two points goes.

    Raises ShapeError when nothing would be left.
    """
    kept = tuple(tuple(n for i, n in enumerate(c) if (k, i) not in places) for k, c in enumerate(nodes))
    made = tuple(c for c in kept if len(c) > 2 or (len(c) == 2 and any(n.has_before or n.has_after for n in c)))
    if not made:
        raise ShapeError("Points", "the shape would have none left", "delete the cutout instead")
    return made
