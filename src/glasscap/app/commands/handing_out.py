"""Pictures out by hand: on the clipboard, or dragged into another program as a file."""

import shutil
import tempfile
from concurrent.futures import Future, ThreadPoolExecutor
from functools import partial
from pathlib import Path

from PySide6.QtCore import QByteArray, QMetaType, QMimeData, QObject, QPoint, Qt, QUrl, Signal
from PySide6.QtGui import QDrag, QGuiApplication
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.commands.mimes import FILES_MIME, ITEM_MIME, OUT_MIME, PNG_MIME, SVG_MIME
from glasscap.app.services.errands import Errand, Running, run_errand, waited
from glasscap.app.services.threads import interface_turn, stay_behind
from glasscap.app.session import Session
from glasscap.core.document.model.backdrop import Backdrop, PhotoBackdrop
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import FileOptions, Output
from glasscap.core.document.model.paint import Paint
from glasscap.core.document.model.query import find_item
from glasscap.core.document.outputs.rows import subject_name
from glasscap.core.document.outputs.titles import dashed_name
from glasscap.core.errors import GlassCapError
from glasscap.core.formats.outgoing import encode_output
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work.threads import workers
from glasscap.core.work.ticket import Ticket
from glasscap.files.atomic import write_atomically

_CACHE_BYTES = 64 << 20


def picture_of(job: Job, item_id: str, kind: str, background: Paint | None = None) -> Output:
    """Return what goes out by hand: a cutout as far as it is seen, or a sheet as it is."""
    is_sheet = any(s.id == item_id for s in job.sheets)
    crop = "sheet" if is_sheet else "visible"
    return Output("o1", item_id, crop=crop, background=background, file=FileOptions(kind))  # type: ignore[arg-type]


class DraggedFile(QMimeData):
    """A file that is made in a thread from the start of a drag, and waited for when it is dropped."""

    def __init__(self, path: Path, making: "Future[bytes]", ticket: Ticket) -> None:
        super().__init__()
        self._path, self._making, self._ticket = path, making, ticket
        self._is_written = False
        self.setData(OUT_MIME, b"1")

    def formats(self) -> list[str]:
        """Name what can be asked for."""
        return [*super().formats(), FILES_MIME]

    def hasFormat(self, kind: str) -> bool:
        """Whether it can be asked for."""
        return kind == FILES_MIME or super().hasFormat(kind)

    def retrieveData(self, kind: str, wanted: QMetaType | QMetaType.Type) -> object:
        """Give the file's address, once it is written."""
        if kind != FILES_MIME:
            return super().retrieveData(kind, wanted)
        try:
            if not self._is_written:
                # The interface itself waits for it now.
                interface_turn().set_free()
                write_atomically(self._path, self._making.result())
                self._is_written = True
        except GlassCapError:
            return None
        return QByteArray(QUrl.fromLocalFile(str(self._path)).toEncoded() + b"\r\n")

    def give_up(self) -> None:
        """Stop making it: it was dropped where no file is wanted."""
        self._ticket.stop.set()


class HandOut(QObject):
    """Copies and drags pictures of one session's cutouts and sheets. `said(text)` carries problems."""

    said = Signal(str)

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window = session, window
        self._pool: ThreadPoolExecutor | None = None
        self._folder: Path | None = None

    def copy_selected(self) -> None:
        """Copy the picture of the cutout selected last."""
        item = self._session.item
        if item is None or item.content is None:
            self.said.emit("Select a cutout with something in it to copy its picture")
        else:
            self.copy(item.id)

    def copy_sheet(self) -> None:
        """Copy the whole sheet as a picture."""
        self.copy(self._session.sheet_id)

    def copy(self, item_id: str) -> Running[None]:
        """Put a picture on the clipboard: PNG with its alpha, and SVG."""
        return run_errand(self._copying(item_id), self._window, self.said.emit)

    def _copying(self, item_id: str) -> Errand[None]:
        job, store = self._session.job, self._session.store

        def work(ticket: Ticket) -> tuple[bytes, bytes]:
            cache = ValueCache(_CACHE_BYTES)
            made = []
            for kind in ("png", "svg"):
                made.append(encode_output(job, picture_of(job, item_id, kind), store, cache, ticket.report).data)
            return made[0], made[1]

        png, svg = yield from waited("Copying the picture", work)
        mime = QMimeData()
        mime.setData(PNG_MIME, png)
        mime.setData(SVG_MIME, svg)
        QGuiApplication.clipboard().setMimeData(mime)

    def drag_card(self, item_id: str, card: QWidget, at: QPoint) -> None:
        """Drag a tray card: over the tray it is put in order, elsewhere it is a file."""
        has_picture = find_item(self._session.job, item_id).content is not None
        mime = self.mime(item_id) if has_picture else QMimeData()
        mime.setData(ITEM_MIME, item_id.encode())
        self.drag(card, mime, at)

    def drag_proof(self, backdrop: Backdrop, card: QWidget, at: QPoint) -> None:
        """Drag a proof: the selected cutout on that background as a file."""
        item = self._session.item
        if item is not None and item.content is not None:
            paint = None if isinstance(backdrop, PhotoBackdrop) else backdrop
            self.drag(card, self.mime(item.id, paint), at)

    def mime(self, item_id: str, background: Paint | None = None) -> DraggedFile:
        """Return what a drag carries: a PNG file named after the cutout."""
        job = self._session.job
        name = f"{dashed_name(subject_name(job, item_id))}.png"
        return self._made(picture_of(job, item_id, "png", background), name)

    def drag_row(self, output: Output, name: str, card: QWidget, at: QPoint) -> None:
        """Drag a row of the export list: its file, under the name it has there."""
        self.drag(card, self._made(output, name), at)

    def _made(self, output: Output, name: str) -> DraggedFile:
        job, store, ticket = self._session.job, self._session.store, Ticket()
        path = self._own_folder() / name
        return DraggedFile(path, self._threads().submit(_encoded, job, output, store, ticket), ticket)

    def drag(self, widget: QWidget, mime: QMimeData, at: QPoint) -> None:
        """Drag something out of a widget until it is let go."""
        drag = QDrag(widget)
        drag.setMimeData(mime)
        drag.setPixmap(widget.grab())
        drag.setHotSpot(at)
        done = drag.exec(_actions(mime))
        # Within this program an item was dropped, not a file.
        is_unwanted = done == Qt.DropAction.IgnoreAction or drag.target() is not None
        if is_unwanted and isinstance(mime, DraggedFile):
            mime.give_up()

    def _threads(self) -> ThreadPoolExecutor:
        if self._pool is None:
            self._pool = workers("hand-out", begin=stay_behind)
        return self._pool

    def _own_folder(self) -> Path:
        """Return a folder for dragged files; it goes when the program ends."""
        if self._folder is None:
            self._folder = Path(tempfile.mkdtemp(prefix="glasscap-"))
            # Not at the interpreter's own end: the program leaves without it.
            remove = partial(shutil.rmtree, self._folder, ignore_errors=True)
            QApplication.instance().aboutToQuit.connect(remove)  # type: ignore[union-attr]
        return self._folder

    def stop(self) -> None:
        """End the thread."""
        if self._pool is not None:
            self._pool.shutdown(wait=True, cancel_futures=True)
            self._pool = None


def _actions(mime: QMimeData) -> Qt.DropAction:
    both = Qt.DropAction.CopyAction | Qt.DropAction.MoveAction
    return both if mime.hasFormat(ITEM_MIME) else Qt.DropAction.CopyAction


def _encoded(job: Job, output: Output, store: PhotoStore, ticket: Ticket) -> bytes:
    turn = interface_turn()
    turn.begin()
    cache = ValueCache(_CACHE_BYTES, pause=turn.give_way)
    return encode_output(job, output, store, cache, ticket.report).data
