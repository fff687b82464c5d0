"""The versions of what is selected as a row of names: a click shows one, a menu behind each."""

from functools import partial

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QMenu, QPushButton, QWidget

from glasscap.app.services import asking
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.flow import FlowLayout
from glasscap.app.widgets.menus import add_entry
from glasscap.core.document.edits.versions import (
    add_version,
    find_subject,
    remove_version,
    rename_version,
    show_version,
    shown_version,
    version_names,
)


class VersionBar(QWidget):
    """Follows the selected cutout, or the sheet while nothing is selected."""

    compare_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setAccessibleName("Versions")
        self._session = session
        self.buttons: dict[str, QPushButton] = {}
        self.add = push("+ Version", self.begin, style="link")
        self.add.setToolTip("Keep this as it is, and work on another version of it")
        self.compare = push("Compare", self.compare_asked.emit, style="link")
        self.compare.setToolTip("See the versions side by side")
        self._row = FlowLayout(8)
        self._row.setContentsMargins(0, 0, 0, 0)
        self.setLayout(self._row)
        self._row.addWidget(self.add)
        self._row.addWidget(self.compare)

    @property
    def subject_id(self) -> str:
        """The id of what the versions are of."""
        item = self._session.item
        return self._session.sheet_id if item is None else item.id

    def show_state(self) -> None:
        """Show the versions there are."""
        subject = find_subject(self._session.job, self.subject_id)
        names = version_names(subject)
        if tuple(self.buttons) != names:
            self._make_buttons(names)
        shown = shown_version(subject)
        for name, button in self.buttons.items():
            button.setChecked(name == shown)
        self.compare.setVisible(len(names) > 1)

    def _make_buttons(self, names: tuple[str, ...]) -> None:
        for button in self.buttons.values():
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        for widget in (self.add, self.compare):
            self._row.removeWidget(widget)
        self.buttons = {}
        for name in names:
            made = push(name, partial(self.show_one, name))
            made.setCheckable(True)
            made.setProperty("tight", True)
            made.setAccessibleName(f"Version {name}")
            made.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            made.customContextMenuRequested.connect(partial(self._on_menu, name))
            self.buttons[name] = made
            self._row.addWidget(made)
        for widget in (self.add, self.compare):
            self._row.addWidget(widget)

    def begin(self) -> None:
        """Add a version, for now like the one that is shown."""
        subject = self.subject_id
        self._session.apply("Add a version", lambda job: add_version(job, subject))

    def show_one(self, name: str) -> None:
        """Show another version."""
        subject = self.subject_id
        self._session.apply(f"Show {name}", lambda job: show_version(job, subject, name))
        self.show_state()

    def _on_menu(self, name: str, at: QPoint) -> None:
        menu = self.menu_for(name)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.buttons[name].mapToGlobal(at))

    def menu_for(self, name: str) -> QMenu:
        """Return what can be done with a version."""
        menu = QMenu(self)
        add_entry(menu, "Rename…", partial(self.ask_name, name))
        add_entry(menu, "Delete the version", partial(self.remove, name))
        return menu

    def ask_name(self, name: str) -> None:
        """Ask for another name."""
        asking.ask_text(self, "Rename the version", "Name", partial(self.rename, name), text=name)

    def rename(self, name: str, new: str) -> None:
        """Give a version another name."""
        subject = self.subject_id
        self._session.apply("Rename the version", lambda job: rename_version(job, subject, name, new))

    def remove(self, name: str) -> None:
        """Drop a version."""
        subject = self.subject_id
        self._session.apply("Delete the version", lambda job: remove_version(job, subject, name))
