"""The help: a search field, the pages found, the page."""

from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QTextBlockFormat, QTextCharFormat, QTextCursor, QTextDocument, QTextLength, QTextTable
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QListWidget, QTextBrowser, QVBoxLayout, QWidget

from glasscap.app.help.book import PAGES, Page, pages, search
from glasscap.app.theme.fonts import STRONG, font

_SIZE, _LIST_WIDTH = (880, 640), 210
_TITLE_PX, _AIR, _LINE_PERCENT, _TABLE_PERCENT = 20, 10.0, 116.0, 96.0


class HelpWindow(QDialog):
    """Stays beside the window while one works."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Help - Glass Cap")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(min(_SIZE[0], parent.width()), min(_SIZE[1], parent.height()))
        self._found: tuple[Page, ...] = ()
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find help, such as cut out, border, see-through")
        self.search.setAccessibleName("Find help")
        self.list = QListWidget()
        self.list.setObjectName("names")
        self.list.setAccessibleName("Pages")
        self.list.setFixedWidth(_LIST_WIDTH)
        self.text = QTextBrowser()
        self.text.setAccessibleName("Page")
        self.text.setOpenLinks(False)
        self.text.setSearchPaths([str(PAGES)])
        left = QVBoxLayout()
        left.addWidget(self.search)
        left.addWidget(self.list, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 14, 14, 14)
        row.setSpacing(12)
        row.addLayout(left)
        row.addWidget(self.text, 1)
        self.search.textChanged.connect(self._on_searched)
        self.list.currentRowChanged.connect(self._on_row)
        self.text.anchorClicked.connect(self._on_link)
        self._on_searched("")
        self.search.setFocus()

    def _on_searched(self, wanted: str) -> None:
        self._found = search(wanted)
        self.list.blockSignals(True)
        self.list.clear()
        self.list.addItems([page.title for page in self._found])
        self.list.blockSignals(False)
        if self._found:
            self.list.setCurrentRow(0)
        else:
            several = len(wanted.split()) > 1
            self.text.setPlainText(
                "No page has all of these words. Try one of them alone." if several else "No page has this word."
            )

    def _on_row(self, row: int) -> None:
        if 0 <= row < len(self._found):
            self.show_page(self._found[row])

    def show_page(self, page: Page) -> None:
        """Show a page."""
        document = QTextDocument(self.text)
        document.setBaseUrl(QUrl.fromLocalFile(f"{PAGES}/"))
        document.setMarkdown(page.text)
        document.setDefaultFont(font(13))
        document.setDocumentMargin(16)
        _set_apart(document)
        self.text.setDocument(document)

    def _on_link(self, link: QUrl) -> None:
        self.show_named(link.toString().removesuffix(".md"))

    def show_named(self, name: str) -> None:
        """Show the page of a name, if there is one."""
        page = next((p for p in pages() if p.name == name), None)
        if page is not None:
            self.search.clear()
            self.list.setCurrentRow(pages().index(page))


def help_of(window: QWidget) -> HelpWindow:
    """Return a window's help, to the fore; there is one at most."""
    there = window.findChild(HelpWindow)
    made = HelpWindow(window) if there is None else there
    made.show()
    made.raise_()
    made.activateWindow()
    return made


def _set_apart(document: QTextDocument) -> None:
    """Give the title its size and paragraphs some air: what comes from Markdown has neither."""
    block = document.begin()
    while block.isValid():
        cursor = QTextCursor(block)
        spaced = block.blockFormat()
        is_title = spaced.headingLevel() == 1
        spaced.setBottomMargin(_AIR)
        spaced.setLineHeight(_LINE_PERCENT, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
        cursor.setBlockFormat(spaced)
        if is_title:
            cursor.select(QTextCursor.SelectionType.BlockUnderCursor)
            large = QTextCharFormat()
            large.setFont(font(_TITLE_PX, STRONG))
            cursor.mergeCharFormat(large)
        block = block.next()
    for frame in document.rootFrame().childFrames():
        if isinstance(frame, QTextTable):
            _set_table_apart(frame)


def _set_table_apart(table: QTextTable) -> None:
    """Show a table as columns alone: without lines, and without the empty head that Markdown asks for."""
    table.removeRows(0, 1)
    look = table.format()
    look.setBorder(0)
    look.setCellPadding(2)
    look.setCellSpacing(0)
    look.setWidth(QTextLength(QTextLength.Type.PercentageLength, _TABLE_PERCENT))
    table.setFormat(look)
