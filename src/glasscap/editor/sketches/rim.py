"""A circle or an ellipse through points clicked on the rim of something round."""

import math

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model.history import History
from glasscap.core.document.shapes.rims import fit_rim, rim_points, rim_shape
from glasscap.core.geometry.conic_fit import Rim
from glasscap.core.geometry.outline import Points
from glasscap.core.shapes.kinds import RimKind
from glasscap.editor.numbers import format_number
from glasscap.editor.sketches.sketch import Sketch, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Edit, Scene

_NEEDED: dict[RimKind, int] = {"circle": 3, "ellipse": 5}
_SEEN = 96
_POINT = "the last point"
_Points = tuple[tuple[float, float], ...]


def mark_rim(scene: Scene, kind: RimKind) -> Sketch:
    """Set points, drag those there are, take the last back; Enter or a double click gives the shape.

    A shape made this way before begins with its points.
    """
    begun: _Points = tuple(rim_points(scene.item, kind)) if scene.selected else ()
    done: History[_Points] = History((begun,))
    points, held = begun, None
    last_press = -1.0, -1.0
    event = yield _shown(points, kind, None)
    while True:
        at = (event.x, event.y)
        if event.kind == "press":
            held = _near(points, at, scene.reach * 1.5)
            if held is not None and at == last_press and fit_rim(points, kind):
                return _done(scene, points, kind)
            if held is None:
                points, held = (*points, at), len(points)
            last_press = at
        elif event.kind == "move" and held is not None:
            points = (*points[:held], at, *points[held + 1 :])
        elif event.kind == "release" and held is not None:
            done, held = done if points == done.value else done.applied("point", points), None
        elif event.kind in ("back", "again"):
            # A point that is held is let go of first.
            back = done if points != done.value else done.undone()
            done, held = back if event.kind == "back" else done.redone(), None
            points = done.value
        elif event.kind == "enter" and fit_rim(points, kind):
            return _done(scene, points, kind)
        shown = _shown(points, kind, at if held is None else None)
        can_back = done.undo_label is not None or points != done.value
        event = yield replace(shown, back=_POINT if can_back else "", again=_POINT if done.redo_label else "")


def _near(points: _Points, at: tuple[float, float], reach: float) -> int | None:
    far = [(math.hypot(x - at[0], y - at[1]), n) for n, (x, y) in enumerate(points)]
    return min(far)[1] if far and min(far)[0] <= reach else None


def _shown(points: _Points, kind: RimKind, at: tuple[float, float] | None) -> SketchShown:
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
    return SketchShown(lines, (), points, (), words)


def _line(rim: Rim) -> Points:
    t = np.linspace(0, 2 * math.pi, _SEEN + 1)
    turn = math.radians(rim.degrees)
    u, v = rim.rx * np.cos(t), rim.ry * np.sin(t)
    return np.stack(
        [rim.x + u * math.cos(turn) - v * math.sin(turn), rim.y + u * math.sin(turn) + v * math.cos(turn)], axis=1
    )


def _done(scene: Scene, points: _Points, kind: RimKind) -> Edit:
    shape, placement = rim_shape(points, kind)
    return finished(scene, f"{kind.capitalize()} through rim points", shape, placement)


MARK_CIRCLE = SketchKind(
    "circle-rim",
    lambda scene, _: mark_rim(scene, "circle"),
    "Click three rim points or more · drag to correct · Ctrl+Z takes one back · Enter ends · Escape leaves",
)
MARK_ELLIPSE = SketchKind(
    "ellipse-rim",
    lambda scene, _: mark_rim(scene, "ellipse"),
    "Click five rim points or more · drag to correct · Ctrl+Z takes one back · Enter ends · Escape leaves",
)
