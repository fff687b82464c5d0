"""Working lines and handles over the photographs: two-tone, legible on anything."""

from collections.abc import Sequence
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from glasscap.app.bench.pills import Pills
from glasscap.app.theme.colours import LINE_AMBER, LINE_LIGHT, LINE_TEAL
from glasscap.app.theme.style import colours
from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.region import shape_outline
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import Shape
from glasscap.editor.distances import Distance
from glasscap.editor.form_handles import FormHandle
from glasscap.editor.handles import Frame, Handle
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import Guide

HANDLE_PX = 5.5
# Outlines kept as the toolkit's paths from one repaint to the next.
_KEPT_PATHS = 64
# How strong the line is that shows where the keys go, of 255.
_QUIET = 120


class PathSink:
    """Draws an outline into a path of the toolkit."""

    def __init__(self) -> None:
        self.path = QPainterPath()

    def move_to(self, x: float, y: float) -> None:
        """Start a contour."""
        self.path.moveTo(x, y)

    def curve_to(self, x1: float, y1: float, x2: float, y2: float, x: float, y: float) -> None:
        """Add a cubic."""
        self.path.cubicTo(x1, y1, x2, y2, x, y)

    def close(self) -> None:
        """Close the contour."""
        self.path.closeSubpath()


def shape_path(item: Cutout, to_view: Affine) -> QPainterPath | None:
    """Return the outline of an item's shape in view px, or None."""
    if item.shape is None or item.shape_placement is None:
        return None
    return _placed_path(item.shape, item.shape_placement, to_view)


@lru_cache(maxsize=_KEPT_PATHS)
def _placed_path(shape: Shape, placement: ShapePlacement, to_view: Affine) -> QPainterPath:
    sink = PathSink()
    shape_outline(shape, placement).transformed(to_view).draw(sink)
    return sink.path


def box_path(x0: float, y0: float, x1: float, y1: float) -> QPainterPath:
    """Return an upright box in view px."""
    path = QPainterPath()
    path.addRect(QRectF(x0, y0, x1 - x0, y1 - y0))
    return path


def way_path(start: QPointF, end: QPointF) -> QPainterPath:
    """Return a straight way in view px."""
    path = QPainterPath(start)
    path.lineTo(end)
    return path


def frame_path(frame: Frame, to_view: Affine) -> QPainterPath:
    """Return a turned frame in view px."""
    path = QPainterPath()
    corners = [to_view.apply(*frame.point(u, v)) for u, v in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    path.addPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))
    path.closeSubpath()
    return path


def draw_way(painter: QPainter, way: tuple[float, float, float, float], to_view: Affine) -> None:
    """Draw a measured way with a bar across each end."""
    start, end = (QPointF(*to_view.apply(*way[n : n + 2])) for n in (0, 2))
    along = end - start
    size = max((along.x() ** 2 + along.y() ** 2) ** 0.5, 1e-6)
    across = QPointF(-along.y(), along.x()) * (7 / size)
    path = QPainterPath()
    for one, other in ((start, end), (start - across, start + across), (end - across, end + across)):
        path.moveTo(one)
        path.lineTo(other)
    draw_line(painter, path, LINE_AMBER)


def draw_line(painter: QPainter, path: QPainterPath, colour: str, *, is_dashed: bool = False) -> None:
    """Draw a line light beneath, coloured above."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.strokePath(path, _pen(LINE_LIGHT, 3.2, is_dashed=False))
    painter.strokePath(path, _pen(colour, 1.5, is_dashed=is_dashed))


@lru_cache(maxsize=16)
def _pen(colour: str, width: float, *, is_dashed: bool) -> QPen:
    made = QPen(QColor(colour), width)
    if is_dashed:
        made.setDashPattern([4.0, 3.0])
    return made


def draw_handles(painter: QPainter, handles: Sequence[Handle], to_view: Affine) -> None:
    """Draw handles: round and teal for shapes and both, square and amber for photos."""
    for handle in handles:
        x, y = to_view.apply(handle.x, handle.y)
        colour = QColor(LINE_AMBER if handle.grip == "photo" else LINE_TEAL)
        painter.setPen(QPen(colour, 2))
        painter.setBrush(QColor(LINE_LIGHT))
        box = QRectF(x - HANDLE_PX, y - HANDLE_PX, 2 * HANDLE_PX, 2 * HANDLE_PX)
        if handle.kind == "turn":
            painter.setBrush(colour)
            painter.drawEllipse(box.adjusted(1.5, 1.5, -1.5, -1.5))
        elif handle.grip == "photo":
            painter.drawRect(box)
        else:
            painter.drawEllipse(box)


def draw_forms(
    painter: QPainter, forms: Sequence[FormHandle], to_view: Affine, corner: int | None = None
) -> None:
    """Draw the handles of a shape's numbers: diamonds for parameters, small rings for corners, one filled."""
    for form in forms:
        x, y = to_view.apply(form.x, form.y)
        painter.setPen(QPen(QColor(LINE_TEAL), 1.8))
        painter.setBrush(QColor(LINE_LIGHT))
        if form.kind == "round":
            if form.number == corner:
                painter.setBrush(QColor(LINE_TEAL))
            painter.drawEllipse(QPointF(x, y), 3.6, 3.6)
        else:
            far = HANDLE_PX + 0.5
            points = [QPointF(x + u * far, y + v * far) for u, v in ((0, -1), (1, 0), (0, 1), (-1, 0))]
            painter.setBrush(QColor(LINE_TEAL))
            painter.setPen(QPen(QColor(LINE_LIGHT), 1.6))
            painter.drawPolygon(QPolygonF(points))


def draw_turn_stem(painter: QPainter, frame: Frame, handles: Sequence[Handle], to_view: Affine) -> None:
    """Draw the short line from the frame to its turn handle."""
    knob = next((h for h in handles if h.kind == "turn"), None)
    if knob is None:
        return
    path = QPainterPath(QPointF(*to_view.apply(*frame.point(0, -1))))
    path.lineTo(QPointF(*to_view.apply(knob.x, knob.y)))
    draw_line(painter, path, LINE_AMBER if knob.grip == "photo" else LINE_TEAL)


def draw_guides(painter: QPainter, guides: Sequence[Guide], to_view: Affine, width: int, height: int) -> None:
    """Draw the lines that were snapped to across the whole bench."""
    pen = QPen(QColor(LINE_AMBER), 1)
    pen.setDashPattern([3.0, 3.0])
    painter.setPen(pen)
    for guide in guides:
        if guide.is_vertical:
            x = round(to_view.apply(guide.at, 0)[0]) + 0.5
            painter.drawLine(QPointF(x, 0), QPointF(x, height))
        else:
            y = round(to_view.apply(0, guide.at)[1]) + 0.5
            painter.drawLine(QPointF(0, y), QPointF(width, y))


def draw_distances(painter: QPainter, gaps: Sequence[Distance], to_view: Affine, pills: Pills) -> None:
    """Draw gaps to neighbours as lines with a bar across each end and their px; equal ones are bolder."""
    for gap in gaps:
        start, end = (QPointF(*to_view.apply(*at)) for at in ((gap.x0, gap.y0), (gap.x1, gap.y1)))
        if (end - start).manhattanLength() < 2:
            continue
        painter.setPen(QPen(QColor(LINE_AMBER), 2 if gap.is_equal else 1))
        painter.drawLine(start, end)
        is_level = gap.y0 == gap.y1
        bar = QPointF(0, 4) if is_level else QPointF(4, 0)
        for tip in (start, end):
            painter.drawLine(tip - bar, tip + bar)
        pills.draw_beside(format_number(gap.length, 1), (start + end) / 2, is_level=is_level, size_px=10)


def draw_sheet_shadow(painter: QPainter, box: QRectF) -> None:
    """Draw a soft edge round a sheet: thin strips, since a whole filled sheet would cost a frame's time."""
    x0, y0, x1, y1 = (round(v) for v in (box.left(), box.top(), box.right(), box.bottom()))
    for far, alpha in ((1, 40), (2, 26), (3, 16), (4, 9), (5, 5)):
        shade = QColor(0, 0, 0, alpha)
        wide, high = x1 - x0 + 2 * far, y1 - y0 + 2 * far - 2
        painter.fillRect(x0 - far, y0 - far + 1, wide, 1, shade)
        painter.fillRect(x0 - far, y1 + far, wide, 1, shade)
        painter.fillRect(x0 - far, y0 - far + 2, 1, high, shade)
        painter.fillRect(x1 + far - 1, y0 - far + 2, 1, high, shade)


def draw_old_line(painter: QPainter, path: QPainterPath) -> None:
    """Draw the outline that a shape in progress is to take the place of."""
    painter.setPen(QPen(QColor(128, 128, 128, 190), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(path)


def draw_keys_are_here(painter: QPainter, box: QRectF) -> None:
    """Draw a thin line around the bench: arrows and keys work there."""
    line = QColor(colours().ink)
    line.setAlpha(_QUIET)
    painter.setPen(QPen(line, 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))


def draw_soft_shadow(painter: QPainter, box: QRectF) -> None:
    """Draw the shadow of a rounded bar beneath it."""
    painter.setPen(Qt.PenStyle.NoPen)
    for far, alpha in ((7, 6), (5, 9), (3, 13), (1, 18)):
        grown = box.adjusted(-far, -far + 3, far, far + 3)
        painter.setBrush(QColor(0, 0, 0, alpha))
        painter.drawRoundedRect(grown, grown.height() / 2, grown.height() / 2)
