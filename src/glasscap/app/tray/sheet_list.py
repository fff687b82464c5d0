"""The sheets at the tray's left: shown by a click, added, renamed, duplicated, put in order, deleted."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QMenu, QPushButton, QVBoxLayout, QWidget

from glasscap.app.services import asking
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.menus import add_entry
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.document.edits.sheets import add_sheet, duplicate_sheet, move_sheet, remove_sheet, rename_sheet
from glasscap.core.document.edits.versions import show_version, shown_version, version_names
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_sheet

WIDTH = 120
# Logical px of a button that its name does not have.
_BESIDE_NAME = 28


class SheetButton(QPushButton):
    """Shows a sheet by a click; a double click edits its name."""

    double_clicked = Signal()

    def __init__(self, name: str) -> None:
        super().__init__(name)
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Ask for the name."""
        self.double_clicked.emit()


class SheetList(QWidget):
    """One button a sheet, a menu behind each."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.buttons: dict[str, QPushButton] = {}
        self.setFixedWidth(WIDTH)
        self.add = push("+ Sheet", self._on_add, style="link")
        self.add.setToolTip("Add a sheet as large as this one")
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(2)
        self._column.addWidget(self.add)
        self._column.addStretch(1)

    def show_state(self) -> None:
        """Show the sheets as they are."""
        sheets = self._session.job.sheets
        if list(self.buttons) != [s.id for s in sheets]:
            self._make_buttons()
        for sheet in sheets:
            button, version = self.buttons[sheet.id], shown_version(sheet)
            metrics, room = button.fontMetrics(), WIDTH - _BESIDE_NAME
            lines = [sheet.name, version] if version else [sheet.name]
            button.setText("\n".join(metrics.elidedText(t, Qt.TextElideMode.ElideMiddle, room) for t in lines))
            words = f", {version}" if version else ""
            button.setAccessibleName(f"Sheet {sheet.name}{words}")
            button.setToolTip(f"{sheet.name}{words}, {sheet.width} × {sheet.height} px")
            button.setChecked(sheet.id == self._session.sheet_id)

    def _make_buttons(self) -> None:
        for button in self.buttons.values():
            self._column.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = {}
        for place, sheet in enumerate(self._session.job.sheets):
            made = SheetButton(sheet.name)
            made.clicked.connect(partial(self._session.show_sheet, sheet.id))
            made.double_clicked.connect(partial(self.begin_rename, sheet.id))
            made.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            made.customContextMenuRequested.connect(partial(self._on_menu, sheet.id))
            self.buttons[sheet.id] = made
            self._column.insertWidget(place, made)

    def _on_menu(self, sheet_id: str, at: QPoint) -> None:
        menu = self.menu_for(sheet_id)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.buttons[sheet_id].mapToGlobal(at))

    def menu_for(self, sheet_id: str) -> QMenu:
        """Return what can be done with a sheet."""
        job = self._session.job
        place, last = [s.id for s in job.sheets].index(sheet_id), len(job.sheets) - 1
        menu = QMenu(self)
        rows: tuple[tuple[str, Callable[[], object], bool], ...] = (
            ("Rename…", partial(self.ask_name, sheet_id), True),
            ("Duplicate", partial(self._duplicate, sheet_id), True),
            ("Move up", partial(self._move, sheet_id, place - 1), place > 0),
            ("Move down", partial(self._move, sheet_id, place + 1), place < last),
            ("Delete the sheet", partial(self._remove, sheet_id), last > 0),
        )
        for words, run, is_possible in rows:
            add_entry(menu, words, run, is_possible=is_possible)
        sheet = find_sheet(job, sheet_id)
        if sheet.versions:
            menu.addSeparator()
        for name in version_names(sheet):
            made = add_entry(menu, name, partial(self._show_version, sheet_id, name))
            made.setCheckable(True)
            made.setChecked(name == shown_version(sheet))
        return menu

    def _show_version(self, sheet_id: str, name: str) -> None:
        self._session.show_sheet(sheet_id)
        self._session.apply(f"Show {name}", lambda job: show_version(job, sheet_id, name))

    def begin_rename(self, sheet_id: str) -> None:
        """Edit the name of a sheet in its place."""
        button = self.buttons[sheet_id]
        name = find_sheet(self._session.job, sheet_id).name
        editor = NameEditor(button, name, button.rect(), "Name of the sheet")
        editor.named.connect(partial(self._rename, sheet_id))

    def _rename(self, sheet_id: str, name: str) -> None:
        self._session.apply("Rename the sheet", lambda job: rename_sheet(job, sheet_id, name))

    def ask_name(self, sheet_id: str) -> None:
        """Ask for another name."""
        old = find_sheet(self._session.job, sheet_id).name
        asking.ask_text(self, "Rename the sheet", "Name", partial(self._rename, sheet_id), text=old)

    def _on_add(self) -> None:
        after = self._session.sheet_id
        self._new("Add a sheet", lambda job: add_sheet(job, after))

    def _duplicate(self, sheet_id: str) -> None:
        self._new("Duplicate the sheet", lambda job: duplicate_sheet(job, sheet_id))

    def _new(self, step: str, edit: Callable[[Job], Job]) -> None:
        """Do an edit that adds a sheet, and show that one."""
        before = {s.id for s in self._session.job.sheets}
        if self._session.apply(step, edit):
            self._session.show_sheet(next(s.id for s in self._session.job.sheets if s.id not in before))

    def _move(self, sheet_id: str, place: int) -> None:
        self._session.apply("Reorder the sheets", lambda job: move_sheet(job, sheet_id, place))

    def _remove(self, sheet_id: str) -> None:
        self._session.apply("Delete the sheet", lambda job: remove_sheet(job, sheet_id))
