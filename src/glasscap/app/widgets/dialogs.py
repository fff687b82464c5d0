"""Dialogs in the program's own dress: its mark, its icons, buttons of words alone."""

from functools import cache

from PySide6.QtCore import QFileInfo, QSize
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import (
    QAbstractButton,
    QDialogButtonBox,
    QFileDialog,
    QFileIconProvider,
    QMessageBox,
    QToolButton,
    QWidget,
)

from glasscap.app.theme.icons import app_icon, icon
from glasscap.app.theme.style import colours

_MARK = 40
# Buttons of the toolkit's file dialog by their names in it; what is no icon of ours stays unseen.
_FILE_ICONS = {
    "backButton": "arrow-left",
    "forwardButton": "arrow-right",
    "toParentButton": "arrow-up",
    "newFolderButton": "folder-plus",
    "listModeButton": "rows",
    "detailModeButton": "columns",
}


def message_box(parent: QWidget, words: str) -> QMessageBox:
    """Return a box that says something; its buttons are the caller's. `dress` it when they are there."""
    box = QMessageBox(parent)
    box.setWindowTitle("Glass Cap")
    box.setText(words)
    box.setIconPixmap(app_icon().pixmap(QSize(_MARK, _MARK), parent.devicePixelRatioF()))
    return box


def dress(dialog: QWidget) -> None:
    """Take the toolkit's icons from a dialog's buttons; those of a file dialog get the program's own."""
    for buttons in dialog.findChildren(QDialogButtonBox):
        for button in buttons.buttons():
            button.setIcon(QIcon())
    if isinstance(dialog, QFileDialog):
        # The dialog does not own it: it lives as long as the program.
        dialog.setIconProvider(_file_icons())
        for name, own in _FILE_ICONS.items():
            found = dialog.findChild(QToolButton, name)
            if found is not None:
                _give_icon(found, own)


class _FileIcons(QFileIconProvider):
    """Folders and files as the program draws them."""

    def icon(self, what: QFileIconProvider.IconType | QFileInfo) -> QIcon:
        """Return the icon of a kind of thing, or of a file or folder that is there."""
        is_file = what.isFile() if isinstance(what, QFileInfo) else what == QFileIconProvider.IconType.File
        is_job = isinstance(what, QFileInfo) and what.suffix() == "glasscap"
        return app_icon() if is_job else icon("image" if is_file else "folder-open", colours().muted)


@cache
def _file_icons() -> _FileIcons:
    return _FileIcons()


def _give_icon(button: QAbstractButton, name: str) -> None:
    button.setIcon(icon(name, colours().ink))
    button.setIconSize(QSize(16, 16))
