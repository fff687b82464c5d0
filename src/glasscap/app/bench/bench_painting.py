"""Painting of the bench: surround, sheet, frame and ghost, the selected cutout's lines and handles, words."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QTransform

from glasscap.app.bench import overlay, points_overlay, typing
from glasscap.app.bench.canvas import Canvas
from glasscap.app.bench.item_lines import ItemLines
from glasscap.app.bench.pills import Pills, pill_width
from glasscap.app.bench.pointer_driver import PointerDriver
from glasscap.app.session import Session
from glasscap.app.theme.colours import LINE_AMBER, LINE_TEAL
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.kept_layer import KeptLayer
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.query import find_item, has_item
from glasscap.core.geometry.types import Affine
from glasscap.editor.frames import BenchFrame
from glasscap.editor.handles import contents_frame

# Logical px kept free at the foot, for the grip bar and the words above it.
BAR_RESERVE = 92
_GHOST_OPACITY = 0.34
# How much of the surround's grey lies over what is beyond the sheet, and outside the open group.
_VEIL, _GROUP_VEIL = 0.55, 0.6
# Px from the pointer to the top of the pill beside it: above, further above, below; and from the bench's sides.
_SAID_WAYS = (-44, -72, 24)
_SAID_FROM_SIDES, _SAID_FROM_TOP = 8, 6


class BenchPainting:
    """Paints one bench from its session, its tool and the last frame."""

    def __init__(self, session: Session, bench: Canvas, driver: PointerDriver) -> None:
        self._session, self._bench, self._driver = session, bench, driver
        self._drop_target: str | None = None
        self._lines = ItemLines(session, bench)
        self._beneath, self._ground = KeptLayer(is_opaque=True), KeptLayer(is_opaque=True)

    def paint(self, painter: QPainter, shown: BenchFrame | None, drop_target: str | None, words: str) -> None:
        """Paint everything; `drop_target` is the cutout that would take what is dragged in."""
        self._drop_target = drop_target
        self._paint_ground(painter, shown)
        self._paint_lines(painter)
        self._paint_points(painter, self._bench.to_view)
        self._paint_sketch(painter, self._bench.to_view)
        self._paint_magnifier(painter, shown)
        if self._session.is_typing and self._session.item is not None:
            lettering = self._bench.lettering
            carets = typing.carets_on_sheet(self._session.item, lettering)
            typing.draw_caret(painter, carets, lettering.entry, self._bench.to_view, self._bench.composing)
        self._paint_words(painter, words)

    def _paint_ground(self, painter: QPainter, shown: BenchFrame | None) -> None:
        """Paint all that lies beneath the lines: the same as a rule while the pointer moves over the bench."""
        session, bench = self._session, self._bench
        sheet = session.sheet
        frame = None if session.is_wire else shown

        def paint_beneath(inner: QPainter) -> None:
            inner.fillRect(bench.rect(), QColor(colours().surround))
            self._paint_sheet(inner)

        beneath = (
            bench.viewport.to_device,
            (sheet.width, sheet.height),
            session.backdrop,
            bench.backdrop.shown,
            colours().surround,
        )

        def paint(inner: QPainter) -> None:
            # While something is dragged each frame is another, and the sheet beneath it the same.
            self._beneath.paint(inner, beneath, bench.size(), bench.ratio, paint_beneath)
            if frame is not None:
                self._paint_frame(inner, frame)
            self._paint_beyond(inner)

        key = (*beneath, frame, sheet.bleed, session.is_wire, self._open_group())
        self._ground.paint(painter, key, bench.size(), bench.ratio, paint)

    def _open_group(self) -> Item | None:
        """Return the group whose surroundings are dimmed, if one is open."""
        job, opened = self._session.job, self._session.open_group
        return find_item(job, opened) if opened is not None and has_item(job, opened) else None

    def _paint_sheet(self, painter: QPainter) -> None:
        sheet = self._session.sheet
        x0, y0 = self._bench.to_view.apply(0, 0)
        x1, y1 = self._bench.to_view.apply(sheet.width, sheet.height)
        box = QRectF(x0, y0, x1 - x0, y1 - y0)
        overlay.draw_sheet_shadow(painter, box)
        backdrop = self._session.backdrop
        if isinstance(backdrop, str):
            painter.fillRect(box, QColor(backdrop))
        elif not self._bench.backdrop.paint(painter, box):
            painter.save()
            painter.setBrushOrigin(box.topLeft())
            painter.fillRect(box, checkerboard())
            painter.restore()

    def _paint_frame(self, painter: QPainter, shown: BenchFrame) -> None:
        now, then = self._bench.viewport.to_device, shown.request.to_device
        moved = now.after(then.inverse())
        painter.save()
        painter.scale(1 / self._bench.ratio, 1 / self._bench.ratio)
        painter.setTransform(QTransform(moved.a, moved.b, moved.c, moved.d, moved.e, moved.f), True)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, now != then)
        for frame, opacity in ((shown.sheet, 1.0), (shown.ghost, _GHOST_OPACITY)):
            if frame is not None:
                painter.setOpacity(opacity)
                painter.drawImage(frame.x, frame.y, to_image(frame))
        painter.restore()

    def _paint_beyond(self, painter: QPainter) -> None:
        """Dim what lies beyond the sheet, and all but the open group."""
        session, to_view = self._session, self._bench.to_view
        sheet, veil = session.sheet, QColor(colours().surround)
        if session.is_wire:
            return
        x0, y0 = to_view.apply(-sheet.bleed, -sheet.bleed)
        x1, y1 = to_view.apply(sheet.width + sheet.bleed, sheet.height + sheet.bleed)
        veil.setAlphaF(_VEIL)
        for strip in _around(QRectF(x0, y0, x1 - x0, y1 - y0), QRectF(self._bench.rect())):
            painter.fillRect(strip, veil)
        if sheet.bleed:
            a, b = to_view.apply(0, 0), to_view.apply(sheet.width, sheet.height)
            overlay.draw_line(painter, overlay.box_path(*a, *b), LINE_AMBER, is_dashed=True)
        group = self._open_group()
        path = None if group is None else self._group_path(group)
        if path is not None:
            veil.setAlphaF(_GROUP_VEIL)
            # Odd and even: what both hold is left out.
            beyond = QPainterPath(path)
            beyond.setFillRule(Qt.FillRule.OddEvenFill)
            beyond.addRect(QRectF(self._bench.rect()))
            painter.fillPath(beyond, veil)
            overlay.draw_line(painter, path, LINE_TEAL)

    def _group_path(self, group: Item) -> QPainterPath | None:
        """Return the line round a group: its own shape, else the box of what it holds."""
        to_view = self._bench.to_view
        if group.shape is not None and group.is_masked and group.shape.keeps == "inside":
            return overlay.shape_path(group, to_view)
        frame = contents_frame(self._session.job, group)
        return None if frame is None else overlay.frame_path(frame, to_view)

    def _paint_lines(self, painter: QPainter) -> None:
        session, to_view = self._session, self._bench.to_view
        others = [
            item
            for item in session.items
            if (session.is_wire or item.content is None or item.id == self._drop_target)
            and (item.id not in session.selected or not self._has_lines)
            and not item.is_hidden
        ]
        self._lines.paint(painter, others, is_selected=False)
        if self._has_lines:
            self._lines.paint(painter, session.chosen, is_selected=True)
            self._paint_handles(painter)
        seen = session.seen_item
        path = None if session.part is None or seen is None else overlay.shape_path(seen, to_view)
        if path is not None:
            overlay.draw_line(painter, path, LINE_TEAL, is_dashed=True)
        shown = self._driver.shown
        if shown is not None:
            if shown.way is not None:
                overlay.draw_way(painter, shown.way, to_view)
            overlay.draw_guides(painter, shown.guides, to_view, self._bench.width(), self._bench.height())

    @property
    def _has_lines(self) -> bool:
        """Whether the selected cutout's lines and handles show."""
        session = self._session
        return not session.is_finishing or self._driver.is_active or self._bench.underMouse() or session.is_wire

    @property
    def _is_drawing(self) -> bool:
        """Whether the bench's clicks set points rather than move what the grip holds."""
        session = self._session
        return (
            bool(session.drawing) or session.sketch is not None or session.is_editing_points or session.is_typing
        )

    def _paint_handles(self, painter: QPainter) -> None:
        """Paint the handles of what is selected, and the frame round several."""
        session, driver, to_view = self._session, self._driver, self._bench.to_view
        if self._is_drawing or not session.selected or session.aim is not None:
            return
        handles, frame = driver.handles(), driver.frame()
        if frame is not None and len(session.chosen_ids) > 1:
            overlay.draw_line(painter, overlay.frame_path(frame, to_view), LINE_TEAL, is_dashed=True)
        if frame is not None and handles:
            overlay.draw_turn_stem(painter, frame, handles, to_view)
        overlay.draw_handles(painter, handles, to_view)
        overlay.draw_forms(painter, driver.forms(), to_view, session.corner)

    def _paint_points(self, painter: QPainter, to_view: Affine) -> None:
        nodes = self._driver.nodes()
        if nodes:
            points_overlay.draw_points(painter, nodes, self._driver.chosen, to_view, self._driver.point_reach)
        shown = self._driver.shown
        if shown is not None and shown.band is not None:
            points_overlay.draw_band(painter, shown.band, to_view)

    def _paint_sketch(self, painter: QPainter, to_view: Affine) -> None:
        sketched, zoom = self._driver.sketching.shown, abs(to_view.determinant) ** 0.5
        if sketched is not None:
            points_overlay.draw_sketch(painter, sketched, to_view)
            self._paint_brush(painter, sketched.brush * zoom, takes_away=sketched.choice == "take")
        aim = self._session.aim
        if aim is not None:
            reach = self._driver.pointer_reach * zoom
            self._paint_brush(painter, aim.brush * reach, takes_away=aim.takes_away)

    def _paint_brush(self, painter: QPainter, radius: float, *, takes_away: bool) -> None:
        if self._bench.underMouse():
            points_overlay.draw_brush(painter, radius, QPointF(*self._driver.at), takes_away=takes_away)

    def _paint_magnifier(self, painter: QPainter, shown: BenchFrame | None) -> None:
        """Show what lies under the pointer enlarged, while points are set or moved."""
        driver, session = self._driver, self._session
        is_setting = session.sketch is not None or (session.is_editing_points and driver.is_active)
        if shown is None or not is_setting or not self._bench.underMouse():
            return
        at = QPointF(*driver.at)

        def paint(inner: QPainter) -> None:
            inner.fillRect(self._bench.rect(), QColor(colours().surround))
            self._paint_sheet(inner)
            self._paint_frame(inner, shown)
            self._paint_points(inner, self._bench.to_view)
            self._paint_sketch(inner, self._bench.to_view)

        points_overlay.draw_magnified(painter, at, self._bench.rect(), paint)

    def _paint_words(self, painter: QPainter, words: str) -> None:
        """Paint what dragging does, the gaps to neighbours, and beside the pointer what it has done so far."""
        bench, driver, pills = self._bench, self._driver, Pills(painter)
        pills.draw(words, [QPointF(bench.width() / 2, bench.height() - BAR_RESERVE + 2)], size_px=11)
        shown, sketched = driver.shown, driver.sketching.shown
        if shown is not None:
            overlay.draw_distances(painter, shown.distances, bench.to_view, pills)
        if shown is not None and shown.words:
            x, y = driver.at
            from_side = pill_width(shown.words) / 2 + _SAID_FROM_SIDES
            x = min(max(x, from_side), bench.width() - from_side)
            pills.draw(shown.words, [QPointF(x, max(y + way, _SAID_FROM_TOP)) for way in _SAID_WAYS])
        elif sketched is not None and sketched.words:
            # Beneath the edge of the bench, off what is drawn around.
            pills.draw(sketched.words, [QPointF(bench.width() / 2, _SAID_FROM_TOP)])


def _around(box: QRectF, whole: QRectF) -> list[QRectF]:
    """Return the four strips of a rectangle that lie around a box, the empty ones left out."""
    x0, x1 = max(box.left(), whole.left()), min(box.right(), whole.right())
    y0, y1 = max(box.top(), whole.top()), min(box.bottom(), whole.bottom())
    if x1 <= x0 or y1 <= y0:
        return [whole]
    strips = (
        QRectF(whole.left(), whole.top(), whole.width(), y0 - whole.top()),
        QRectF(whole.left(), y1, whole.width(), whole.bottom() - y1),
        QRectF(whole.left(), y0, x0 - whole.left(), y1 - y0),
        QRectF(x1, y0, whole.right() - x1, y1 - y0),
    )
    return [strip for strip in strips if strip.width() > 0 and strip.height() > 0]
