"""The left column: the rows, adding and removing them, the folder, writing, and what became of it."""

from pathlib import Path

from PySide6.QtCore import QPoint, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QToolButton, QVBoxLayout

from glasscap.app.export.row_body import RowBody
from glasscap.app.export.row_list import RowList
from glasscap.app.export.writing import Written
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import leave_keys, push, tool
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.menus import MenuEntry, open_menu
from glasscap.editor.export_rows import RowFacts
from glasscap.editor.numbers import counted

PANEL_WIDTH = 296


class ListPanel(QFrame):
    """`add_asked("cutout" | "sheet" | "again" | "versions")`, `video_asked("straight" | "premultiplied")`."""

    add_asked = Signal(str)
    video_asked = Signal(str)
    remove_asked = Signal()
    folder_asked = Signal()
    write_asked = Signal()
    show_asked = Signal()

    def __init__(self, body: RowBody) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setAccessibleName("Export list")
        self.setFixedWidth(PANEL_WIDTH)
        self.rows = RowList(body)
        self.rows.menu_asked.connect(self._show_row_menu)
        self.count = label("", "muted")
        self.add_cutout = push("+ Cutout", lambda: self.add_asked.emit("cutout"), style="link")
        self.add_sheet = push("+ Sheet", lambda: self.add_asked.emit("sheet"), style="link")
        self.video = QToolButton()
        leave_keys(self.video)
        self.video.setIcon(icon("frame", colours().ink))
        self.video.setToolTip("Add a video pack: in the corner of the frame, alone, and its photo behind")
        self.video.setAccessibleName("Add a video pack")
        self.video.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.video)
        for key, words in (
            ("straight", "Video pack, PNG with straight alpha"),
            ("premultiplied", "Video pack, premultiplied TIFF"),
        ):
            menu.addAction(words).triggered.connect(lambda _=False, key=key: self.video_asked.emit(key))
        self.video.setMenu(menu)
        self.again = tool("copy", "Add the chosen row once more", lambda: self.add_asked.emit("again"))
        self.versions = tool("layers", "Add every version of what is shown", self._on_versions)
        self.remove = tool("trash-2", "Remove the chosen rows", self.remove_asked.emit)
        self.folder_name = ElidedLabel("")
        self.write = push("Write the file", self.write_asked.emit, style="primary")
        self.result = QFrame()
        self.result_text = label("")
        self.show_folder_button = push("Show in folder", self.show_asked.emit, style="link")
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        head = QHBoxLayout()
        head.addWidget(label("What goes out", "muted"))
        head.addStretch(1)
        head.addWidget(self.count)
        column.addLayout(head)
        column.addWidget(self.rows, 1)
        # After the rows, so that Tab goes from them into what is open.
        self.rows.place.setParent(self)
        tools = QHBoxLayout()
        tools.setSpacing(6)
        for widget in (self.add_cutout, self.add_sheet):
            tools.addWidget(widget)
        tools.addStretch(1)
        tools.addWidget(self.video)
        tools.addWidget(self.again)
        tools.addWidget(self.versions)
        tools.addWidget(self.remove)
        column.addLayout(tools)
        self.result_text.setWordWrap(True)
        inner = QVBoxLayout(self.result)
        inner.setContentsMargins(10, 8, 10, 8)
        inner.setSpacing(2)
        inner.addWidget(self.result_text)
        inner.addWidget(self.show_folder_button)
        column.addWidget(self.result)
        folder = QHBoxLayout()
        folder.addWidget(label("Folder", "muted"))
        folder.addWidget(self.folder_name, 1)
        folder.addWidget(push("Change…", self.folder_asked.emit))
        column.addLayout(folder)
        column.addWidget(self.write)
        self.result.hide()

    def _show_row_menu(self, at: QPoint) -> None:
        entries = [
            MenuEntry("Add once more", lambda: self.add_asked.emit("again")),
            MenuEntry("Add every version", self._on_versions),
            MenuEntry("Rename", self.rows.rename, "F2"),
            None,
            MenuEntry("Remove", self.remove_asked.emit, "Del"),
        ]
        open_menu(self.rows, entries, at)

    def _on_versions(self) -> None:
        self.add_asked.emit("versions")

    def show_rows(self, rows: tuple[RowFacts, ...], chosen: tuple[str, ...]) -> None:
        """Show rows without telling."""
        self.rows.show_rows(rows, chosen)
        self.count.setText(counted(len(rows), "file"))
        if self.result.isHidden():
            self.write.setText(f"Write {len(rows)} files" if len(rows) > 1 else "Write the file")
            self.write.setAccessibleName(self.write.text())

    def show_addable(self, cutouts: list[str], sheet: str) -> None:
        """Say what would be added."""
        self.add_cutout.setToolTip(f"Add {', '.join(cutouts)}" if cutouts else "Choose a cutout to add")
        self.add_sheet.setToolTip(f"Add {sheet}")

    def show_folder(self, folder: Path) -> None:
        """Show where files go."""
        self.folder_name.set_whole(str(folder))

    def show_result(self, done: Written) -> None:
        """Show what became of the list."""
        self.result.setObjectName("done" if done.is_good else "verdict")
        self.result.style().unpolish(self.result)
        self.result.style().polish(self.result)
        self.result_text.setText(done.words)
        self.result.setAccessibleName(done.words)
        self.show_folder_button.setVisible(any(r.is_written for r in done.results))
        self.result.show()
        self.write.setText("Write again")
        self.write.setAccessibleName("Write again")

    def forget_result(self) -> None:
        """Show no result."""
        self.result.hide()
