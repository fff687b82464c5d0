"""One cutout in the tray: thumbnail, name below it, eye and lock."""

from PySide6.QtCore import QRect, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDropEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)

from glasscap.app.bench.overlay import PathSink
from glasscap.app.commands.mimes import take_copy, takes_photos
from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.tray.tray_thing import TrayThing
from glasscap.app.widgets.focus_ring import draw_focus_ring
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.region import shape_outline
from glasscap.core.geometry.types import Affine
from glasscap.core.render.screen.frames import Frame

WIDTH, HEIGHT, THUMB = 112, 84, (96, 54)
_ICON = 14


class TrayCard(TrayThing):
    """Shows one item; tells of clicks, renames, drops and moves."""

    eye_clicked = Signal(str)
    lock_clicked = Signal(str)
    unfolded = Signal(str)
    dropped = Signal(object, object)

    def __init__(self, item: Item) -> None:
        super().__init__(item)
        self._frame: Frame | None = None
        self._is_target = False
        self._signs = {"lock": self.lock_clicked, "eye": self.eye_clicked, "fold": self.unfolded}
        self.setFixedSize(WIDTH, HEIGHT)
        self.setAcceptDrops(True)
        self.setMouseTracking(True)
        self.show_item(item, is_selected=False)

    def show_item(self, item: Item, *, is_selected: bool) -> None:
        """Show an item; nothing is painted where nothing changed."""
        if item is self.item and is_selected == self.is_selected and self.accessibleName():
            return
        self.item, self.is_selected = item, is_selected
        self.setAccessibleName(f"{'Group' if item.is_group else 'Cutout'} {item.name}")
        self.setToolTip(item.name)
        self.update()

    def show_frame(self, frame: Frame | None) -> None:
        """Show its thumbnail."""
        self._frame = frame
        self.update()

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint card, thumbnail, name, signs."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = colours()
        strong = self.is_selected or self._is_target
        painter.setPen(QPen(QColor(chosen.teal if strong else chosen.line), 2 if strong else 1))
        painter.setBrush(QColor(chosen.teal_soft if self._is_target else chosen.field))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 8, 8)
        painter.setOpacity(0.3 if self.item.is_hidden else 1.0)
        self._paint_thumbnail(painter)
        painter.setOpacity(1.0)
        painter.setFont(font(11, MEDIUM))
        painter.setPen(QColor(chosen.muted if self.item.is_hidden else chosen.ink))
        name = painter.fontMetrics().elidedText(self.item.name, Qt.TextElideMode.ElideMiddle, WIDTH - 18)
        painter.drawText(QRect(9, HEIGHT - 22, WIDTH - 18, 16), Qt.AlignmentFlag.AlignLeft, name)
        self._paint_signs(painter)
        if self.hasFocus():
            draw_focus_ring(painter, QRectF(self.rect()).adjusted(3, 3, -3, -3))
        painter.end()

    def _paint_thumbnail(self, painter: QPainter) -> None:
        area = QRectF((WIDTH - THUMB[0]) / 2, 6, *THUMB)
        if self._frame is not None:
            ratio = self.devicePixelRatioF()
            height, width = self._frame.rgba.shape[:2]
            target = QRectF(0, 0, width / ratio, height / ratio)
            target.moveCenter(area.center())
            target.moveTo(round(target.x() * ratio) / ratio, round(target.y() * ratio) / ratio)
            painter.drawImage(target, to_image(self._frame))
        elif self.item.content is None and self.item.shape is not None and self.item.shape_placement is not None:
            self._paint_outline(painter, area)

    def _paint_outline(self, painter: QPainter, area: QRectF) -> None:
        shape, placement = self.item.shape, self.item.shape_placement
        assert shape is not None
        assert placement is not None
        box = placement.box
        scale = min(area.width() / box.width, area.height() / box.height) * 0.94
        centre = area.center()
        to_card = Affine(
            scale, 0, 0, scale, centre.x() - box.centre[0] * scale, centre.y() - box.centre[1] * scale
        )
        sink = PathSink()
        shape_outline(shape, placement).transformed(to_card).draw(sink)
        pen = QPen(QColor(colours().teal), 1.5)
        pen.setDashPattern([4, 3])
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(sink.path)

    def _sign_boxes(self) -> dict[str, QRect]:
        fold = {"fold": QRect(7, 7, _ICON, _ICON)} if self.item.is_group else {}
        return {
            **fold,
            "lock": QRect(WIDTH - 8 - _ICON, 7, _ICON, _ICON),
            "eye": QRect(WIDTH - 12 - 2 * _ICON, 7, _ICON, _ICON),
        }

    def _paint_signs(self, painter: QPainter) -> None:
        is_near = self.underMouse() or self.hasFocus()
        boxes = self._sign_boxes()
        if "fold" in boxes:
            icon("plus", colours().muted, _ICON).paint(painter, boxes["fold"])
        if self.item.is_locked or is_near:
            name = "lock" if self.item.is_locked else "lock-open"
            icon(name, colours().muted, _ICON).paint(painter, boxes["lock"])
        if self.item.is_hidden or is_near:
            name = "eye-off" if self.item.is_hidden else "eye"
            icon(name, colours().muted, _ICON).paint(painter, boxes["eye"])

    def enterEvent(self, event: object) -> None:
        """Show the signs."""
        self.update()

    def leaveEvent(self, event: object) -> None:
        """Hide the signs."""
        self.update()

    # pointer and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose, or switch a sign."""
        at = event.position().toPoint()
        for name, box in self._sign_boxes().items():
            if box.adjusted(-3, -3, 3, 3).contains(at):
                self._signs[name].emit(self.item.id)
                return
        self.take_press(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Rename."""
        self.begin_rename()

    def begin_rename(self) -> None:
        """Edit the name in place."""
        place = QRect(4, HEIGHT - 32, WIDTH - 8, 28)
        editor = NameEditor(self, self.item.name, place, "Name of the cutout")
        editor.named.connect(self.on_named)

    # dropping a photo

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files and picture data; cards go to the tray."""
        if takes_photos(event.mimeData()):
            self._is_target = True
            self.update()
            take_copy(event)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        """Forget it."""
        self._is_target = False
        self.update()

    def dropEvent(self, event: QDropEvent) -> None:
        """Hand on what was dropped."""
        self._is_target = False
        self.update()
        take_copy(event)
        self.dropped.emit(event.mimeData(), self.item.id)
