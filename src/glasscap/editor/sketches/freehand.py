"""Drawing freehand: one stroke, fitted to a clean curve."""

import math

import numpy as np

from glasscap.core.geometry.fit import fit_closed, sharp_turns
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.shapes.nodes import nodes_of
from glasscap.editor.sketches.sketch import Sketch, SketchKind, SketchShown, finished_points
from glasscap.editor.tools.pointer import Scene

# The curve may leave the hand's way by this share of the snapping distance; a turn sharper than this is a corner.
_SLACK, _CORNER = 0.4, 65.0


def freehand(scene: Scene, pixels: object = None) -> Sketch:
    """Follow the pointer while it is down; letting go closes the shape."""
    way: list[tuple[float, float]] = []
    step = scene.reach / 4
    event = yield SketchShown()
    while True:
        if event.kind == "press":
            way = [(event.x, event.y)]
        elif way and event.kind in ("move", "release"):
            if math.hypot(event.x - way[-1][0], event.y - way[-1][1]) >= step:
                way.append((event.x, event.y))
            if event.kind == "release":
                if len(way) >= 6:
                    contour = clean_curve(np.array(way), tolerance=scene.reach * _SLACK)
                    nodes = nodes_of(Outline((contour,)))
                    return finished_points(scene, "Draw freehand", nodes, "Freehand shape")
                way = []
        elif event.kind == "back":
            way = []
        line = np.array(way).reshape(-1, 2)
        loose = (np.array([way[-1], way[0]]),) if len(way) > 2 else ()
        event = yield SketchShown(
            (line,) if len(way) > 1 else (),
            loose,
            words="Let go to close the shape" if way else "",
            back="the stroke" if way else "",
        )


def clean_curve(way: Points, *, tolerance: float) -> Points:
    """Return a closed contour of cubics near a hand-drawn way, its corners kept."""
    closed = _without_double_end(way, tolerance)
    return fit_closed(
        closed, tolerance=tolerance, corners=sharp_turns(closed, reach=4 * tolerance, least=_CORNER)
    )


def _without_double_end(way: Points, tolerance: float) -> Points:
    keep = np.concatenate([[True], np.hypot(*np.diff(way, axis=0).T) > 1e-9])
    way = way[keep]
    while len(way) > 4 and math.hypot(*(way[-1] - way[0])) < tolerance / 4:
        way = way[:-1]
    return way


FREEHAND = SketchKind(
    "freehand", freehand, "Draw around the shape in one stroke · letting go closes it · Escape leaves"
)
