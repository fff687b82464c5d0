"""A small panel that makes or changes a background to judge on."""

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.colour_well import Proposals
from glasscap.app.widgets.paint_editor import PaintEditor
from glasscap.core.document.model.paint import Paint, TexturePaint


class BackgroundPopup(QFrame):
    """`stepped(paint)` for each paint settled on; `picture_asked()` for a photo that covers."""

    stepped = Signal(object)
    picture_asked = Signal()

    def __init__(self, owner: QWidget, paint: Paint, proposals: Proposals) -> None:
        super().__init__(owner, Qt.WindowType.Popup)
        self.setObjectName("popup")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setFixedWidth(270)
        self.editor = PaintEditor("Proof", proposals, lambda key: "")
        self.editor.show_paint(paint)
        self.editor.stepped.connect(self._on_stepped)
        self.editor.own_asked.connect(self._on_picture)
        self.picture = push("Own picture…", self._on_picture, style="link")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.addWidget(self.editor)
        column.addWidget(self.picture)

    def _on_stepped(self, paint: Paint) -> None:
        self.editor.show_paint(paint)
        if not (isinstance(paint, TexturePaint) and paint.is_own):
            self.stepped.emit(paint)

    def _on_picture(self) -> None:
        self.close()
        self.picture_asked.emit()

    def open_beside(self, owner: QWidget) -> None:
        """Open at the left of a widget, within the screen."""
        self.adjustSize()
        at = owner.mapToGlobal(QPoint(-self.width() - 8, 0))
        room = owner.screen().availableGeometry()
        y = min(max(at.y(), room.top()), room.bottom() - self.height())
        self.move(max(at.x(), room.left()), y)
        self.show()
