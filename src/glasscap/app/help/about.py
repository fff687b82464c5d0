"""About: version, licences, and where files are kept."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMessageBox, QWidget

from glasscap import __version__
from glasscap.app.theme.icons import app_icon
from glasscap.files.preferences import preferences_path
from glasscap.files.recent import state_folder


def about_words() -> str:
    """Return what the program is, under which licences, and its folders."""
    return (
        f"<b>Glass Cap {__version__}</b><br>Photographs under circles and other shapes.<br><br>"
        "MIT licence. With it ship seven typefaces (OFL 1.1) and icons from Lucide (ISC); "
        "PySide6, the toolkit, and python-bidi are LGPL-3.<br><br>"
        f"Unsaved work, recent jobs and shapes of your own: {state_folder()}<br>"
        f"Preferences: {preferences_path()}"
    )


def show_about(window: QWidget) -> QMessageBox:
    """Show it beside the window; it goes when it is closed."""
    box = QMessageBox(window)
    box.setWindowTitle("About Glass Cap")
    box.setIconPixmap(app_icon().pixmap(64, 64))
    box.setText(about_words())
    box.setStandardButtons(QMessageBox.StandardButton.Close)
    box.setModal(False)
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.show()
    return box
