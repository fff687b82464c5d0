"""The bench: the sheet through a viewport, the selected cutout's lines and handles, pointer tools."""

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QEnterEvent,
    QInputMethodEvent,
    QKeyEvent,
    QMouseEvent,
    QNativeGestureEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.bench import overlay, typing
from glasscap.app.bench.backing_out import back_out
from glasscap.app.bench.bench_painting import BAR_RESERVE, BenchPainting
from glasscap.app.bench.canvas import Canvas
from glasscap.app.bench.item_lines import waiting_words_box
from glasscap.app.bench.pointer_driver import PointerDriver
from glasscap.app.bench.words import GRIP_NAMES, bench_words
from glasscap.app.commands.lettering import Lettering
from glasscap.app.commands.mimes import take_copy, takes_photos
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.core.document.arranging.grips import held, transform_items
from glasscap.core.document.edits.items import move_to_place, set_masked
from glasscap.core.document.finishing.edits import set_finishes
from glasscap.core.document.model.finishes import NO_FINISHES
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import siblings
from glasscap.core.document.shapes.chosen_points import move_points
from glasscap.core.geometry.types import Box, Similarity
from glasscap.core.shapes.kinds import LettersShape, PointsShape
from glasscap.editor.frames import BenchFrame, BenchRequest, bench_frame
from glasscap.editor.handles import shape_frame
from glasscap.editor.picking import frame_holds, innermost_at
from glasscap.editor.sketches.sketch import EventKind
from glasscap.editor.text_entry import Entry
from glasscap.editor.viewport import Viewport

_WHEEL_NOTCH, _WHEEL_PAN, _ZOOM_STEP = 120, 60, 1.25
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
# A double click opens these for editing: with the shape held, also those of groups.
_OPENED_SHAPES = (PointsShape, LettersShape)
_SKETCH_KEYS: dict[Qt.Key, EventKind] = {
    Qt.Key.Key_Return: "enter",
    Qt.Key.Key_Enter: "enter",
    Qt.Key.Key_Backspace: "back",
}


class Bench(Canvas):
    """Paints frames of the render service; hands pointer events to tools. Never rasterises itself."""

    zoom_changed = Signal(float)
    resized = Signal()
    menu_asked = Signal(QPoint)
    pointed = Signal(float, float)
    dropped = Signal(object, object)
    photo_asked = Signal()
    # A key nobody used here, to be accepted by who does.
    key_left = Signal(QKeyEvent)

    def __init__(self, session: Session, service: RenderService, lettering: Lettering) -> None:
        super().__init__(session, service, lettering)
        self.setAccessibleName("Bench")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setMinimumSize(360, 300)
        self._session, self._service = session, service
        lettering.changed.connect(self.update)
        self._is_fitted = True
        self._fitted_to = self._sheet_shown()
        self._mode: tuple[object, ...] = (None, False, False, None)
        self._frame: BenchFrame | None = None
        self._whole: tuple[int, tuple[str, ...], Job, Job] | None = None
        self._drop_target: str | None = None
        self.driver = PointerDriver(session, self)
        self.backdrop.changed.connect(self.update)
        self._painting = BenchPainting(session, self, self.driver)
        self._pan_from: QPoint | None = None
        self._refresh = QTimer(self, singleShot=True, interval=0)
        self._refresh.timeout.connect(self._ask)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self._on_view_changed)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._refresh.start)
        # A preview may become a step as it is: what was shown while it moved is to be put right all the same.
        session.saved_changed.connect(self._refresh.start)

    # the view

    def set_viewport(self, viewport: Viewport, *, is_fitted: bool = False) -> None:
        """Look at another part; the last frame stands in until the new one comes."""
        self.viewport, self._is_fitted = viewport, is_fitted
        self.zoom_changed.emit(viewport.zoom)
        self._refresh.start()
        self.update()

    def fit(self) -> None:
        """Show the whole sheet above the grip bar."""
        sheet = self._session.sheet
        size = round(self.width() * self.ratio), round(self.height() * self.ratio)
        fitted = self.viewport.resized(*size).fitted(
            Box(0, 0, sheet.width, sheet.height), bottom_reserve=round(BAR_RESERVE * self.ratio)
        )
        self._fitted_to = self._sheet_shown()
        self.set_viewport(fitted, is_fitted=True)

    def zoom_by(self, factor: float) -> None:
        """Zoom about the middle."""
        self.set_viewport(self.viewport.at_zoom(self.viewport.zoom * factor))

    def zoom_to(self, zoom: float) -> None:
        """Show so many device px per sheet px."""
        self.set_viewport(self.viewport.at_zoom(zoom))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep a fitted view fitted, any other centred."""
        if self._is_fitted:
            self.fit()
        else:
            size = round(self.width() * self.ratio), round(self.height() * self.ratio)
            self.set_viewport(self.viewport.resized(*size))
        self.resized.emit()

    # following the session

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self._is_fitted and not self.driver.is_active and self._sheet_shown() != self._fitted_to:
            self.fit()
        self._refresh.start()
        # The lines of items dragged elsewhere come with the picture.
        if self.driver.is_active or not self._session.is_previewing:
            self.show_soon()

    def _sheet_shown(self) -> tuple[str, float, float]:
        sheet = self._session.sheet
        return sheet.id, sheet.width, sheet.height

    def _on_view_changed(self) -> None:
        if self._frame is not None and self._frame.request.sheet_id != self._session.sheet_id:
            self._frame = None
            self.fit()
        self.driver.sketching.follow_session()
        session = self._session
        mode = (session.sketch, session.is_editing_points, session.is_typing, session.part)
        if mode != self._mode:
            # A tool that takes keys has them at once, wherever the click that began it was.
            self._mode = mode
            self.composing = ""
            self.setAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled, session.is_typing)
            if any(m not in (None, False) for m in mode):
                self.setFocus(Qt.FocusReason.OtherFocusReason)
        is_aiming = session.drawing or session.aim is not None or session.sketch is not None
        self.setCursor(Qt.CursorShape.CrossCursor if is_aiming else Qt.CursorShape.ArrowCursor)
        self._refresh.start()
        self.update()

    def _ask(self) -> None:
        session = self._session
        has_ghost = (
            not session.is_wire
            and not session.is_shaping
            and (not session.is_finishing or (self.driver.is_active and session.aim is None))
        )
        ghost = session.selected[-1] if len(session.selected) == 1 and has_ghost else None
        whole = session.selected if not session.is_previewing else ()
        view = self.viewport
        moving = session.is_previewing
        request = BenchRequest(
            self._shown_job(), session.sheet_id, view.to_device, view.box, ghost, whole, moving
        )
        self._service.ask("bench", lambda photos, cache: bench_frame(request, photos, cache))

    def _shown_job(self) -> Job:
        """Return the job to show: while a shape is drawn what is selected is whole, without mask and finishes."""
        session = self._session
        job, ids = session.job, session.selected
        if not session.is_shaping or not ids:
            return job
        if self._whole is None or self._whole[:2] != (id(job), ids):
            whole = set_masked(set_finishes(job, ids, NO_FINISHES), ids, False)
            for item_id in ids:
                # In front, too: nothing lies over what is drawn around.
                whole = move_to_place(whole, item_id, len(siblings(whole, item_id)) - 1)
            self._whole = (id(job), ids, whole, job)
        return self._whole[2]

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel != "bench" or not isinstance(answer, BenchFrame):
            return
        if answer.request.sheet_id != self._session.sheet_id:
            return
        self._frame = answer
        if answer.drafts:
            self._service.decode(answer.drafts)
        self._repaint.show_now()

    @property
    def is_current(self) -> bool:
        """Whether the frame on screen is of the job and view as they are, from whole photos."""
        frame = self._frame
        return (
            frame is not None
            and frame.request.job is self._shown_job()
            and frame.request.to_device == self.viewport.to_device
            and frame.request.is_moving == self._session.is_previewing
            and not frame.drafts
        )

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint surround, sheet, frame, ghost, lines, words."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._painting.paint(painter, self._frame, self._drop_target, self.words)
        for child in self.findChildren(QWidget, "bar", Qt.FindChildOption.FindDirectChildrenOnly):
            overlay.draw_soft_shadow(painter, QRectF(child.geometry()))
        if self.hasFocus():
            overlay.draw_keys_are_here(painter, QRectF(self.rect()))
        painter.end()

    def enterEvent(self, event: QEnterEvent) -> None:
        """Show the handles."""
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        """Take them away while finishing."""
        self.update()

    @property
    def words(self) -> str:
        """The effect of a drag, in words."""
        return bench_words(self._session)

    # pointer and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pan with the middle button, else begin a tool."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        if event.button() == Qt.MouseButton.MiddleButton:
            self._pan_from = event.position().toPoint()
        elif self._session.is_typing and self._is_over_letters(event.position().x(), event.position().y()):
            self._place_caret(event.position().x(), event.position().y())
        else:
            self._session.set_typing(False)
            if event.button() == Qt.MouseButton.LeftButton and self._asks_for_photo(event.position()):
                return
            self.driver.press(event)

    def _asks_for_photo(self, at: QPointF) -> bool:
        """Let the user choose a photo where a waiting shape says that it wants one; whether that was clicked."""
        session = self._session
        if session.is_shaping or session.is_editing_points or session.aim is not None:
            return False
        for item in session.items:
            words = (
                None if item.is_locked or item.is_hidden else waiting_words_box(session.job, item, self.to_view)
            )
            if words is not None and words.contains(at):
                session.select((item.id,))
                self.photo_asked.emit()
                return True
        return False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pan, or go on with the tool."""
        if self._pan_from is not None:
            at = event.position().toPoint()
            step = at - self._pan_from
            self._pan_from = at
            self.set_viewport(self.viewport.panned(step.x() * self.ratio, step.y() * self.ratio))
        else:
            self.driver.move(event)
            self.pointed.emit(*self.to_sheet(event.position().x(), event.position().y()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """End panning or the tool."""
        if event.button() == Qt.MouseButton.MiddleButton:
            self._pan_from = None
        else:
            self.driver.release(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Select the cutout under the pointer and ask for its menu; tools that draw keep the button."""
        session, driver = self._session, self.driver
        event.accept()
        has_tool = session.is_shaping or session.is_typing
        if has_tool or session.aim is not None or driver.is_active:
            return
        if session.is_editing_points:
            if event.reason() != QContextMenuEvent.Reason.Keyboard:
                driver.choose_point(*self.to_sheet(event.x(), event.y()))
            if session.chosen_points:
                self.menu_asked.emit(event.globalPos())
            return
        if event.reason() == QContextMenuEvent.Reason.Keyboard:
            self.menu_asked.emit(self.mapToGlobal(self._keyboard_place()))
            return
        found = driver.item_under(*self.to_sheet(event.x(), event.y()))
        if found is None:
            session.select(())
        elif found.id not in session.selected:
            session.select((found.id,))
        driver.cancel()
        self.menu_asked.emit(event.globalPos())

    def _keyboard_place(self) -> QPoint:
        """Return where a menu opens that a key asks for: on the cutout selected last, else in the middle."""
        item = self._session.item
        frame = None if item is None else shape_frame(item)
        if frame is None:
            return self.rect().center()
        x, y = self.to_view.apply(*frame.point(0.0, 0.0))
        return QPoint(round(x), round(y))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Type into letters, open a group or the points of a drawn shape, else hold the cutout's photo."""
        session, item = self._session, self._session.seen_item
        is_busy = session.sketch is not None or session.drawing or session.is_editing_points or session.is_typing
        word = None if is_busy else self._letters_at(event.position().x(), event.position().y())
        if word is not None:
            # However deep a word lies, one double click types into it.
            session.select((word.id,))
            session.set_typing(True)
            self._place_caret(event.position().x(), event.position().y())
        elif is_busy or item is None or item.is_locked:
            self.mousePressEvent(event)
        elif item.is_group and not (session.grip == "shape" and isinstance(item.shape, _OPENED_SHAPES)):
            session.enter_group(item.id)
            self.driver.choose_at(event)
        elif isinstance(item.shape, PointsShape):
            session.set_editing_points(True)
        else:
            under = self.driver.item_under(*self.to_sheet(event.position().x(), event.position().y()))
            if item.content_placement is not None and under is not None and under.id == item.id:
                session.hold_photo()
            self.mousePressEvent(event)

    def _letters_at(self, x: float, y: float) -> Item | None:
        """Return unlocked letters at a logical point: of the selected word's frame, else those seen there."""
        item = self._session.seen_item
        if item is not None and isinstance(item.shape, LettersShape) and self._is_over_letters(x, y):
            return None if item.is_locked else item
        found = self._item_at(x, y)
        is_word = found is not None and isinstance(found.shape, LettersShape) and not found.is_group
        return found if is_word and found is not None and not found.is_locked else None

    def _place_caret(self, x: float, y: float) -> None:
        item = self._session.item
        if item is not None:
            at = typing.caret_near(typing.carets_on_sheet(item, self.lettering), *self.to_sheet(x, y))
            self.lettering.type(Entry(self.lettering.entry.text, at, at))

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer with Ctrl, else move the view."""
        notches = event.angleDelta() / _WHEEL_NOTCH
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            at, share = event.position(), event.angleDelta().y() / _WHEEL_NOTCH
            factor = _ZOOM_STEP**share
            self.set_viewport(self.viewport.zoomed(factor, at.x() * self.ratio, at.y() * self.ratio))
        elif not event.pixelDelta().isNull():
            step = event.pixelDelta()
            self.set_viewport(self.viewport.panned(step.x() * self.ratio, step.y() * self.ratio))
        else:
            dx, dy = notches.x() * _WHEEL_PAN, notches.y() * _WHEEL_PAN
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                dx, dy = dy, dx
            self.set_viewport(self.viewport.panned(dx * self.ratio, dy * self.ratio))
        event.accept()

    def _pinched(self, event: QEvent) -> bool:
        pinch = Qt.NativeGestureType.ZoomNativeGesture
        if isinstance(event, QNativeGestureEvent) and event.gestureType() == pinch:
            at = event.position()
            factor = max(0.1, 1 + event.value())
            self.set_viewport(self.viewport.zoomed(factor, at.x() * self.ratio, at.y() * self.ratio))
            return True
        return False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Nudge with the arrows; Escape backs out one level. What lies over the bench keeps its own keys."""
        key = Qt.Key(event.key())
        focus = QApplication.focusWidget()
        if focus not in (None, self) and self.isAncestorOf(focus) and key != Qt.Key.Key_Escape:
            super().keyPressEvent(event)
            return
        if self._session.is_typing and key != Qt.Key.Key_Escape:
            entry = typing.entry_after(self.lettering.entry, event)
            if entry is not None:
                self.lettering.type(entry)
                event.accept()
                return
        if key in _ARROWS and self._session.selected:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            dx, dy = _ARROWS[key]
            self._nudge(dx * far, dy * far)
        elif key == Qt.Key.Key_Escape:
            self.back_out()
        elif key in _SKETCH_KEYS and self.driver.sketching.key(_SKETCH_KEYS[key]):
            pass
        else:
            event.ignore()
            self.key_left.emit(event)
            if not event.isAccepted():
                super().keyPressEvent(event)

    def back_out(self) -> None:
        """Leave the innermost thing that goes on."""
        back_out(self._session, self.driver)

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        """Type characters composed of several keys: accents by dead keys, scripts with an input method."""
        if not self._session.is_typing:
            super().inputMethodEvent(event)
            return
        self.composing = event.preeditString()
        entry = typing.entry_composed(self.lettering.entry, event)
        if entry != self.lettering.entry:
            self.lettering.type(entry)
        event.accept()
        self.update()

    def inputMethodQuery(self, query: Qt.InputMethodQuery) -> object:
        """Tell input methods where the caret is."""
        item = self._session.item
        if query == Qt.InputMethodQuery.ImCursorRectangle and self._session.is_typing and item is not None:
            carets = typing.carets_on_sheet(item, self.lettering)
            return typing.caret_box(carets, self.lettering.entry, self.to_view)
        return super().inputMethodQuery(query)

    def _is_over_letters(self, x: float, y: float) -> bool:
        frame = None if self._session.item is None else shape_frame(self._session.item)
        return frame is not None and frame_holds(frame, *self.to_sheet(x, y))

    def event(self, event: QEvent) -> bool:
        """Keep keys that are typed from the window's commands; zoom about the pointer with a pinch."""
        is_override = event.type() == QEvent.Type.ShortcutOverride
        if (
            is_override
            and isinstance(event, QKeyEvent)
            and self._session.is_typing
            and typing.entry_after(self.lettering.entry, event) is not None
        ):
            event.accept()
            return True
        return self._pinched(event) or super().event(event)

    def _nudge(self, dx: int, dy: int) -> None:
        session = self._session
        item = session.item
        if session.is_editing_points and item is not None:
            chosen = self.driver.chosen
            session.apply_to_shape("Nudge points", lambda job: move_points(job, item.id, chosen, dx, dy))
            return
        label = "Nudge" if item is None else f"Nudge {GRIP_NAMES[held(session.grip, item)]}"
        grip = self.driver.grip
        session.apply_to_shape(
            label, lambda job: transform_items(job, session.chosen_ids, grip, Similarity(dx=dx, dy=dy))
        )

    # dropping

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files and picture data."""
        if takes_photos(event.mimeData()):
            take_copy(event)

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        """Show which cutout would take the photo."""
        item = self._item_at(event.position().x(), event.position().y())
        self._drop_target = None if item is None else item.id
        self.update()
        take_copy(event)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        """Forget the target."""
        self._drop_target = None
        self.update()

    def dropEvent(self, event: QDropEvent) -> None:
        """Hand on what was dropped and on which cutout."""
        item = self._item_at(event.position().x(), event.position().y())
        self._drop_target = None
        self.update()
        take_copy(event)
        self.dropped.emit(event.mimeData(), None if item is None else item.id)

    def _item_at(self, x: float, y: float) -> Item | None:
        return innermost_at(self._session.job, self._session.items, *self.to_sheet(x, y))
