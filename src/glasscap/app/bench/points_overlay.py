"""Points, sketches in progress and the magnifier, drawn over the bench."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from glasscap.app.bench.overlay import draw_line
from glasscap.app.theme.colours import LINE_AMBER, LINE_LIGHT, LINE_TEAL
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.nodes import Nodes, Place
from glasscap.editor.point_picking import controls_shown, rings_shown
from glasscap.editor.sketches.sketch import SketchShown

_POINT, _CONTROL, _RING = 4.0, 3.2, 3.6
_LENS, _MAGNIFIED, _LENS_AWAY = 58, 4.0, 12
# More points than this are drawn only where chosen: they would hide the outline.
_MOST = 3000
_TINT = QColor(11, 122, 117, 64)


def draw_points(painter: QPainter, nodes: Nodes, chosen: frozenset[Place], to_view: Affine, reach: float) -> None:
    """Draw points, square for corners and round for smooth ones, the chosen ones filled, with their controls.

    `reach` is the pointer's in sheet px: rings that pull a control point out lie as far as it finds them.
    """
    for (contour, number), _, at in rings_shown(nodes, chosen, reach):
        node = nodes[contour][number]
        _draw_ring(painter, QPointF(*to_view.apply(node.x, node.y)), QPointF(*to_view.apply(*at)))
    for (contour, number), _, at in controls_shown(nodes, chosen):
        node = nodes[contour][number]
        _draw_control(painter, QPointF(*to_view.apply(node.x, node.y)), QPointF(*to_view.apply(*at)))
    shows_all = sum(len(c) for c in nodes) <= _MOST
    for k, points in enumerate(nodes):
        for n, node in enumerate(points):
            is_chosen = (k, n) in chosen
            if is_chosen or shows_all:
                place = QPointF(*to_view.apply(node.x, node.y))
                _draw_point(painter, place, is_chosen=is_chosen, is_corner=node.kind == "corner")


def _draw_control(painter: QPainter, start: QPointF, end: QPointF) -> None:
    path = QPainterPath(start)
    path.lineTo(end)
    draw_line(painter, path, LINE_AMBER)
    painter.setPen(QPen(QColor(LINE_AMBER), 1.6))
    painter.setBrush(QColor(LINE_LIGHT))
    painter.drawEllipse(end, _CONTROL, _CONTROL)


def _draw_ring(painter: QPainter, start: QPointF, end: QPointF) -> None:
    path = QPainterPath(start)
    path.lineTo(end)
    draw_line(painter, path, LINE_AMBER, is_dashed=True)
    painter.setPen(QPen(QColor(LINE_AMBER), 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(end, _RING, _RING)


def _draw_point(painter: QPainter, at: QPointF, *, is_chosen: bool, is_corner: bool) -> None:
    painter.setPen(QPen(QColor(LINE_LIGHT if is_chosen else LINE_TEAL), 1.6))
    painter.setBrush(QColor(LINE_TEAL if is_chosen else LINE_LIGHT))
    size = _POINT + (0.6 if is_chosen else 0)
    if is_corner:
        painter.drawRect(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size))
    else:
        painter.drawEllipse(at, size + 0.4, size + 0.4)


def draw_band(painter: QPainter, band: tuple[float, float, float, float], to_view: Affine) -> None:
    """Draw the frame that gathers points."""
    one, other = QPointF(*to_view.apply(*band[:2])), QPointF(*to_view.apply(*band[2:]))
    box = QRectF(one, other).normalized()
    painter.fillRect(box, QColor(11, 122, 117, 30))
    path = QPainterPath()
    path.addRect(box)
    draw_line(painter, path, LINE_TEAL, is_dashed=True)


def draw_brush(painter: QPainter, radius: float, at: QPointF, *, takes_away: bool) -> None:
    """Draw the ring of the brush around the pointer, as wide (view px) as what a stroke paints."""
    if radius > 0:
        ring = QPainterPath()
        ring.addEllipse(at, radius, radius)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        draw_line(painter, ring, LINE_AMBER if takes_away else LINE_TEAL)


def draw_sketch(painter: QPainter, shown: SketchShown, to_view: Affine) -> None:
    """Draw a sketch: what it would keep tinted, its lines, what is not fixed yet dashed, points and controls."""
    kept = QPainterPath()
    kept.setFillRule(Qt.FillRule.WindingFill)
    for line in shown.tinted:
        kept.addPath(_path(line, to_view))
    painter.fillPath(kept, _TINT)
    for line in shown.lines:
        draw_line(painter, _path(line, to_view), LINE_TEAL)
    for line in shown.loose:
        draw_line(painter, _path(line, to_view), LINE_TEAL, is_dashed=True)
    for x0, y0, x1, y1 in shown.controls:
        path = QPainterPath(QPointF(*to_view.apply(x0, y0)))
        path.lineTo(QPointF(*to_view.apply(x1, y1)))
        draw_line(painter, path, LINE_AMBER)
        painter.setPen(QPen(QColor(LINE_AMBER), 1.6))
        painter.setBrush(QColor(LINE_LIGHT))
        for x, y in ((x0, y0), (x1, y1)):
            painter.drawEllipse(QPointF(*to_view.apply(x, y)), _CONTROL, _CONTROL)
    for number, (x, y) in enumerate(shown.dots):
        at = QPointF(*to_view.apply(x, y))
        _draw_point(painter, at, is_chosen=number == len(shown.dots) - 1, is_corner=True)


def _path(line: Points, to_view: Affine) -> QPainterPath:
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(*to_view.apply(x, y)) for x, y in line.tolist()]))
    return path


def draw_magnified(painter: QPainter, at: QPointF, room: QRect, paint: Callable[[QPainter], None]) -> None:
    """Draw what `paint` draws around a point enlarged, in a lens in the upper corner that is farther from it."""
    x = room.width() - _LENS - _LENS_AWAY if at.x() < room.width() / 2 else _LENS + _LENS_AWAY
    y = _LENS + _LENS_AWAY
    lens = QPainterPath()
    lens.addEllipse(QPointF(x, y), _LENS, _LENS)
    painter.save()
    painter.setClipPath(lens)
    painter.translate(x, y)
    painter.scale(_MAGNIFIED, _MAGNIFIED)
    painter.translate(-at.x(), -at.y())
    paint(painter)
    painter.restore()
    cross = QPainterPath()
    for dx, dy in ((1, 0), (0, 1)):
        for side in (-1, 1):
            cross.moveTo(x + dx * side * 6, y + dy * side * 6)
            cross.lineTo(x + dx * side * 14, y + dy * side * 14)
    draw_line(painter, cross, LINE_TEAL)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    draw_line(painter, lens, LINE_TEAL)
