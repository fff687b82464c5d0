"""Which shape of a drawing to take, when there are several: a picture of each, and of all together."""

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPixmap, QTransform
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QListView,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from glasscap.app.bench.overlay import PathSink
from glasscap.app.theme.style import colours
from glasscap.app.widgets.labels import label
from glasscap.core.geometry.outline import Outline

_PICTURE, _MOST = 72, 400


class PartChoice(QDialog):
    """`chosen` are the numbers of the parts taken; all of them for the first card."""

    def __init__(self, parts: Sequence[tuple[str, Outline]], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Choose shapes")
        self.resize(520, 420)
        self._count = len(parts)
        self.cards = QListWidget()
        self.cards.setAccessibleName("Shapes of the drawing")
        self.cards.setViewMode(QListView.ViewMode.IconMode)
        self.cards.setResizeMode(QListView.ResizeMode.Adjust)
        self.cards.setMovement(QListView.Movement.Static)
        self.cards.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.cards.setIconSize(QSize(_PICTURE, _PICTURE))
        self.cards.setGridSize(QSize(_PICTURE + 26, _PICTURE + 34))
        self._add("All together", [o for _, o in parts])
        for name, outline in parts[:_MOST]:
            self._add(name, [outline])
        self.cards.setCurrentRow(0)
        self.cards.itemDoubleClicked.connect(self.accept)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(label(f"The drawing holds {len(parts)} shapes. Take one, several, or all together.", ""))
        column.addWidget(self.cards, 1)
        column.addWidget(buttons)

    def _add(self, name: str, outlines: Sequence[Outline]) -> None:
        sink = PathSink()
        for outline in outlines:
            outline.draw(sink)
        sink.path.setFillRule(Qt.FillRule.WindingFill)
        self.cards.addItem(QListWidgetItem(QIcon(_picture(sink.path)), name))

    @property
    def chosen(self) -> list[int]:
        """The numbers of the parts taken."""
        rows = sorted(self.cards.row(i) for i in self.cards.selectedItems())
        return list(range(self._count)) if not rows or rows[0] == 0 else [r - 1 for r in rows]


def _picture(path: QPainterPath) -> QPixmap:
    pixmap = QPixmap(2 * _PICTURE, 2 * _PICTURE)
    pixmap.setDevicePixelRatio(2)
    pixmap.fill(Qt.GlobalColor.transparent)
    box = path.boundingRect()
    scale = (_PICTURE - 8) / max(box.width(), box.height(), 1e-9)
    fit = QTransform().translate(_PICTURE / 2, _PICTURE / 2).scale(scale, scale)
    fit.translate(-box.center().x(), -box.center().y())
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillPath(fit.map(path), QColor(colours().teal))
    painter.end()
    return pixmap
