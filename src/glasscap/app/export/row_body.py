"""How a row is written, in the row itself: format, picture, name, and the rest behind *More*."""

from PySide6.QtCore import QEvent, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QWidget

from glasscap.app.export.format_panel import FormatPanel
from glasscap.app.export.picture_panel import PicturePanel
from glasscap.app.widgets.columns import row_column


class RowBody(QWidget):
    """The controls of the chosen rows; `changed()` when they need another height."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("How it is written")
        self.format, self.picture = FormatPanel(), PicturePanel()
        column = row_column(self)
        column.addWidget(self.format)
        column.addWidget(self.picture)

    def height_for(self, width: int) -> int:
        """Return the height of all controls at a width, logical px."""
        layout = self.layout()
        assert layout is not None
        return layout.totalHeightForWidth(width)

    def event(self, event: QEvent) -> bool:
        """Tell when controls came or went."""
        if event.type() == QEvent.Type.LayoutRequest:
            self.changed.emit()
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Keep a press between the controls from the row: it neither drags nor renames."""

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Keep a double click as well."""
