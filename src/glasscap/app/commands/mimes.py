"""Data of drags and the clipboard; a light module, for the start view is there before all others."""

from PySide6.QtCore import QMimeData, Qt
from PySide6.QtGui import QDropEvent

# An item of the tray, and the mark of a picture that is being handed out.
ITEM_MIME = "application/x-glasscap-item"
OUT_MIME = "application/x-glasscap-out"
PNG_MIME, SVG_MIME, FILES_MIME = "image/png", "image/svg+xml", "text/uri-list"


def takes_photos(mime: QMimeData) -> bool:
    """Whether what is dragged in may be a photo: a file or a picture that did not come from here."""
    return (mime.hasUrls() or mime.hasImage()) and not mime.hasFormat(OUT_MIME)


def take_copy(event: QDropEvent) -> None:
    """Accept what is dragged in as a copy, whatever is proposed: after a move the source may delete its file."""
    if event.possibleActions() & Qt.DropAction.CopyAction:
        event.setDropAction(Qt.DropAction.CopyAction)
        event.accept()
    else:
        event.ignore()
