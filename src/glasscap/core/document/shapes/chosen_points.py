"""Edits of chosen points by command: kind, delete, nudge, align, number."""

from collections.abc import Callable

from glasscap.core.document.arranging.several import Edge
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.points import nodes_on_sheet, set_nodes
from glasscap.core.shapes.nodes import Node, NodeKind, Nodes, Place, changed, present, removed, with_kind

Chosen = frozenset[Place]


def set_kind(job: Job, item_id: str, chosen: Chosen, kind: NodeKind) -> Job:
    """Make points corners, smooth or symmetric."""

    def change(nodes: Nodes, place: Place) -> Node:
        points, n = nodes[place[0]], place[1]
        return with_kind(points[n], kind, points[n - 1], points[(n + 1) % len(points)])

    return _each(job, item_id, chosen, change)


def move_points(job: Job, item_id: str, chosen: Chosen, dx: float, dy: float) -> Job:
    """Move points with their control points."""
    return _each(job, item_id, chosen, lambda nodes, p: nodes[p[0]][p[1]].moved(dx, dy))


def delete_points(job: Job, item_id: str, chosen: Chosen) -> Job:
    """Take points away. Raises ShapeError when nothing would be left."""
    nodes = nodes_on_sheet(find_item(job, item_id))
    places = present(nodes, chosen)
    return set_nodes(job, item_id, removed(nodes, places)) if places else job


def straighten(job: Job, item_id: str, chosen: Chosen) -> Job:
    """Take the control points of points away, so that sides between two of them are straight."""

    def change(nodes: Nodes, place: Place) -> Node:
        node = nodes[place[0]][place[1]]
        return Node(node.x, node.y, (node.x, node.y), (node.x, node.y))

    return _each(job, item_id, chosen, change)


def align_points(job: Job, item_id: str, chosen: Chosen, edge: Edge) -> Job:
    """Bring points onto one upright or level line: an edge or the middle of their box."""
    nodes = nodes_on_sheet(find_item(job, item_id))
    places = [nodes[k][n] for k, n in present(nodes, chosen)]
    if len(places) < 2:
        return job
    is_across = edge in ("left", "middle", "right")
    values = [p.x if is_across else p.y for p in places]
    low, high = min(values), max(values)
    target = {"left": low, "top": low, "right": high, "bottom": high}.get(edge, (low + high) / 2)

    def change(nodes: Nodes, place: Place) -> Node:
        node = nodes[place[0]][place[1]]
        return node.moved(target - node.x, 0) if is_across else node.moved(0, target - node.y)

    return _each(job, item_id, chosen, change)


def _each(job: Job, item_id: str, chosen: Chosen, change: Callable[[Nodes, Place], Node]) -> Job:
    nodes = nodes_on_sheet(find_item(job, item_id))
    places = present(nodes, chosen)
    return set_nodes(job, item_id, changed(nodes, {p: change(nodes, p) for p in places})) if places else job
