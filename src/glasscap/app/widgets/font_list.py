"""The list of fonts: every family shows the designer's own words; pictures are made as rows come into sight."""

from PySide6.QtCore import QEvent, QPoint, QRect, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPainterPath, QPaintEvent, QTransform
from PySide6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from glasscap.app.bench.overlay import PathSink
from glasscap.app.theme.fonts import font
from glasscap.app.theme.style import colours
from glasscap.core.errors import GlassCapError
from glasscap.core.shapes.kinds import Letters
from glasscap.core.shapes.typesetting import set_type
from glasscap.files.font_book import FontBook

_ROW, _WIDTH, _HEIGHT, _WORDS = 46, 300, 420, 24


class WordPicture(QWidget):
    """A family's name above the words set in it."""

    def __init__(self, family: str) -> None:
        super().__init__()
        self.family = family
        self.path: QPainterPath | None = None

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint name and words."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QColor(colours().muted))
        painter.setFont(font(10))
        painter.drawText(QRect(8, 2, self.width() - 16, 14), Qt.AlignmentFlag.AlignLeft, self.family)
        if self.path is not None:
            box = self.path.boundingRect()
            scale = min((self.width() - 18) / max(box.width(), 1e-6), 22 / max(box.height(), 1e-6))
            to_row = QTransform().translate(8, 18 + 12 - box.height() * scale / 2).scale(scale, scale)
            to_row.translate(-box.left(), -box.top())
            painter.fillPath(to_row.map(self.path), QColor(colours().ink))
        painter.end()


class FontList(QFrame):
    """A popup; `chosen(family)`."""

    chosen = Signal(str)

    def __init__(self, fonts: FontBook, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("popup")
        self.setFixedSize(_WIDTH, _HEIGHT)
        self._fonts, self._words = fonts, ""
        # One picture a turn, so that a slow font never holds up the window.
        self._next = QTimer(self, singleShot=True, interval=0)
        self._next.timeout.connect(self._draw_one)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a font")
        self.search.setAccessibleName("Find a font")
        self.search.textChanged.connect(self._on_search)
        self.rows = QListWidget()
        self.rows.setObjectName("shapegrid")
        self.rows.setAccessibleName("Fonts")
        self.rows.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.rows.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.rows.itemClicked.connect(self._on_clicked)
        self.rows.itemActivated.connect(self._on_clicked)
        self.rows.verticalScrollBar().valueChanged.connect(lambda: self._next.start())
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 8, 8, 8)
        column.addWidget(self.search)
        column.addWidget(self.rows, 1)
        self.search.installEventFilter(self)

    def open_at(self, at: QPoint, words: str, current: str) -> None:
        """Show the list for some words."""
        self._words = " ".join(words.split())[:_WORDS] or "Abc"
        self._fill()
        for n in range(self.rows.count()):
            if self._row(n).family == current:
                self.rows.setCurrentRow(n)
        self.move(at)
        self.show()
        self.search.setFocus()
        self._next.start()

    def _fill(self) -> None:
        self.rows.clear()
        for family in self._fonts.families:
            item = QListWidgetItem()
            item.setSizeHint(QSize(_WIDTH - 40, _ROW))
            item.setData(Qt.ItemDataRole.AccessibleTextRole, family)
            self.rows.addItem(item)
            self.rows.setItemWidget(item, WordPicture(family))

    def _row(self, n: int) -> WordPicture:
        widget = self.rows.itemWidget(self.rows.item(n))
        assert isinstance(widget, WordPicture)
        return widget

    def _draw_one(self) -> None:
        box = self.rows.viewport().rect()
        for n in range(self.rows.count()):
            row = self._row(n)
            is_waiting = row.path is None and not self.rows.item(n).isHidden()
            if is_waiting and self.rows.visualItemRect(self.rows.item(n)).intersects(box):
                row.path = self._picture(row.family)
                row.update()
                self._next.start()
                return

    def _picture(self, family: str) -> QPainterPath:
        sink = PathSink()
        try:
            made = set_type(Letters(self._words, family), self._fonts)
        except GlassCapError:
            return sink.path
        for _, outline in made.clusters:
            outline.draw(sink)
        sink.path.setFillRule(Qt.FillRule.WindingFill)
        return sink.path

    def _on_search(self, text: str) -> None:
        for n in range(self.rows.count()):
            self.rows.item(n).setHidden(text.lower() not in self._row(n).family.lower())
        self._next.start()

    def _on_clicked(self, item: QListWidgetItem) -> None:
        family = self._row(self.rows.row(item)).family
        self.hide()
        self.chosen.emit(family)

    def eventFilter(self, watched: object, event: object) -> bool:
        """Walk the list from the search field; Enter takes the row."""
        if watched is self.search and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            shown = [n for n in range(self.rows.count()) if not self.rows.item(n).isHidden()]
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step is not None and shown:
                at = shown.index(self.rows.currentRow()) + step if self.rows.currentRow() in shown else 0
                self.rows.setCurrentRow(shown[min(max(at, 0), len(shown) - 1)])
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and shown:
                row = self.rows.currentRow() if self.rows.currentRow() in shown else shown[0]
                self._on_clicked(self.rows.item(row))
                return True
        return False
