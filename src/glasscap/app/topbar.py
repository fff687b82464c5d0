"""The top row: job and saved state, undo and redo, add photos, make a series, zoom, export."""

from collections.abc import Mapping
from typing import Literal

from PySide6.QtCore import QSize
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QToolButton, QWidget

from glasscap.app.session import Session
from glasscap.app.theme.icons import app_icon
from glasscap.app.widgets.buttons import leave_keys, push, tool
from glasscap.app.widgets.labels import label
from glasscap.editor.actions import ACTIONS

HEIGHT = 44
Page = Literal["bench", "export", "mockups"]
# The groups of the main menu, and the sections of commands in each.
_MENU = {"Job": ("Job",), "Edit": ("Edit",), "Cutout": ("Cutout", "Grips"), "Photos": ("Photos",),
         "View": ("View",), "Help": ("Help",)}  # fmt: skip


class TopBar(QFrame):
    """Buttons of actions; nothing of its own."""

    def __init__(self, session: Session, actions: Mapping[str, QAction]) -> None:
        super().__init__()
        self.setObjectName("topbar")
        self.setAccessibleName("Top bar")
        self.setFixedHeight(HEIGHT)
        self._session, self._actions, self._has_job = session, actions, False
        self.menu_button = QToolButton()
        leave_keys(self.menu_button)
        self.menu_button.setObjectName("flat")
        self.menu_button.setIcon(app_icon())
        self.menu_button.setIconSize(QSize(24, 24))
        self.menu_button.setAccessibleName("Main menu")
        self.menu_button.setToolTip("Main menu")
        self.menu_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu_button.setMenu(self._menu())
        self.name, self.state = label("", "strong"), label("", "muted")
        self.undo = tool("undo-2", "Undo", actions["undo"].trigger, style="flat")
        self.redo = tool("redo-2", "Redo", actions["redo"].trigger, style="flat")
        self.open = push("Open…", actions["open"].trigger, icon_name="folder-open")
        self.add = push("Add photos", actions["add_photos"].trigger, icon_name="image-plus")
        self.series = push("Make a series", actions["series"].trigger, icon_name="series")
        self.series.setToolTip("Run the steps of the selected cutout over many photos")
        self.zoom = push("100 %", actions["actual"].trigger, style="flat")
        self.zoom.setToolTip("Show at 100 % (Ctrl+1)")
        self.fit = push("Fit", actions["fit"].trigger)
        self.mockups = push("Mock-ups", actions["mockups"].trigger)
        self.export = push("Export…", actions["export"].trigger, style="primary")
        self._lay_out()
        session.saved_changed.connect(self.show_state)
        self.show_state()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 14, 0)
        row.setSpacing(8)
        left: tuple[QWidget, ...] = (self.menu_button, self.name, self.state, self.undo, self.redo)
        right: tuple[QWidget, ...] = (
            self.open, self.add, self.series, self.zoom, self.fit, self.mockups, self.export,
        )  # fmt: skip
        for widget in left:
            row.addWidget(widget)
        row.addStretch(1)
        for widget in right:
            row.addWidget(widget)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        menu.addAction(self._actions["find_command"])
        menu.addSeparator()
        for title, sections in _MENU.items():
            part = menu.addMenu(title)
            for number, section in enumerate(sections):
                if number:
                    part.addSeparator()
                for action in ACTIONS:
                    if action.section == section:
                        part.addAction(self._actions[action.id])
        return menu

    def show_state(self) -> None:
        """Show name, saved state, and what undo and redo would do."""
        session = self._session
        self.name.setText(session.name if self._has_job else "Glass Cap")
        state = "saved" if session.is_saved else "not saved"
        self.state.setText(f"{state}, read-only" if session.is_read_only else state)
        for button, verb, name in (
            (self.undo, "Undo", session.undo_label),
            (self.redo, "Redo", session.redo_label),
        ):
            button.setEnabled(name is not None)
            button.setToolTip(verb if name is None else f"{verb}: {name}")
            button.setAccessibleName(button.toolTip())

    def show_zoom(self, zoom: float) -> None:
        """Show the zoom."""
        percent = zoom * 100
        self.zoom.setText(f"{percent:.0f} %" if percent >= 10 else f"{percent:.1f} %")

    def show_place(self, *, has_job: bool, page: Page) -> None:
        """Show what belongs to the view."""
        self._has_job = has_job
        self.show_state()
        bench_only: tuple[QWidget, ...] = (self.add, self.series, self.zoom, self.fit)
        job_only: tuple[QWidget, ...] = (self.state, self.undo, self.redo, self.export, self.mockups)
        self.open.setVisible(not has_job)
        for widget in bench_only:
            widget.setVisible(has_job and page == "bench")
        for widget in job_only:
            widget.setVisible(has_job)
        self.export.setText("Back to bench" if page == "export" else "Export…")
        self.mockups.setText("Back to bench" if page == "mockups" else "Mock-ups")
        for button in (self.export, self.mockups):
            button.setAccessibleName(button.text())
