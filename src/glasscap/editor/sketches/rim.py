"""A circle or an ellipse through points clicked on the rim of something round."""

import math

import numpy as np

from glasscap.core.document.rims import fit_rim, rim_points, rim_shape
from glasscap.core.geometry.conic_fit import Rim
from glasscap.core.geometry.outline import Points
from glasscap.core.shapes.kinds import RimKind
from glasscap.editor.numbers import format_number
from glasscap.editor.sketches.sketch import Sketch, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Edit, Scene

_NEEDED: dict[RimKind, int] = {"circle": 3, "ellipse": 5}
_SEEN = 96


def mark_rim(scene: Scene, kind: RimKind) -> Sketch:
    """Set points, drag those there are, take the last back; Enter or a double click gives the shape.

    A shape made this way before begins with its points.
    """
    points = rim_points(scene.item, kind) if scene.selected else []
    held: int | None = None
    last_press = -1.0, -1.0
    at = (0.0, 0.0)
    event = yield _shown(points, kind, None)
    while True:
        at = (event.x, event.y)
        if event.kind == "press":
            held = _near(points, at, scene.reach * 1.5)
            if held is not None and at == last_press and fit_rim(points, kind):
                return _done(scene, points, kind)
            if held is None:
                points.append(at)
                held = len(points) - 1
            last_press = at
        elif event.kind == "move" and held is not None:
            points[held] = at
        elif event.kind == "release":
            held = None
        elif event.kind == "back" and points:
            points.pop()
        elif event.kind == "enter" and fit_rim(points, kind):
            return _done(scene, points, kind)
        event = yield _shown(points, kind, at if held is None else None)


def _near(points: list[tuple[float, float]], at: tuple[float, float], reach: float) -> int | None:
    far = [(math.hypot(x - at[0], y - at[1]), n) for n, (x, y) in enumerate(points)]
    return min(far)[1] if far and min(far)[0] <= reach else None


def _shown(points: list[tuple[float, float]], kind: RimKind, at: tuple[float, float] | None) -> SketchShown:
    rim = fit_rim(points, kind)
    missing = _NEEDED[kind] - len(points)
    if missing > 0:
        words = f"{missing} more point{'s' if missing > 1 else ''} on the rim"
    elif not rim:
        words = rim.why[:1].upper() + rim.why[1:]
    else:
        size = f"{format_number(2 * rim.rx, 1)} px across"
        if kind == "ellipse":
            size = f"{format_number(2 * rim.rx, 1)} × {format_number(2 * rim.ry, 1)} px"
        words = f"{size}, misfit {format_number(rim.misfit)} px"
    lines = (_line(rim),) if rim else ()
    return SketchShown(lines, (), tuple(points), (), words)


def _line(rim: Rim) -> Points:
    t = np.linspace(0, 2 * math.pi, _SEEN + 1)
    turn = math.radians(rim.degrees)
    u, v = rim.rx * np.cos(t), rim.ry * np.sin(t)
    return np.stack(
        [rim.x + u * math.cos(turn) - v * math.sin(turn), rim.y + u * math.sin(turn) + v * math.cos(turn)], axis=1
    )


def _done(scene: Scene, points: list[tuple[float, float]], kind: RimKind) -> Edit:
    shape, placement = rim_shape(points, kind)
    return finished(scene, f"{kind.capitalize()} through rim points", shape, placement)


MARK_CIRCLE = SketchKind(
    "circle-rim",
    lambda scene, _: mark_rim(scene, "circle"),
    "Click three rim points or more · drag to correct · Backspace takes one back · Enter ends · Escape leaves",
)
MARK_ELLIPSE = SketchKind(
    "ellipse-rim",
    lambda scene, _: mark_rim(scene, "ellipse"),
    "Click five rim points or more · drag to correct · Backspace takes one back · Enter ends · Escape leaves",
)
