"""Photographs into the job: files, dropped data, the clipboard; read off the interface thread."""

from collections.abc import Callable, Sequence
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QBuffer, QIODevice, QMimeData, QObject, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QWidget

from glasscap.app.services.errands import Errand, Running, run_errand, waited
from glasscap.app.session import Session
from glasscap.core.document.edits.intake import add_photos, fill_shape, job_of_photos
from glasscap.core.document.edits.items import add_photo, swap_photo
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import find_item, items_of
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work.ticket import Ticket
from glasscap.files.photo_reading import Source, read_photos
from glasscap.files.photos import FoundPhoto

PictureEdit = Callable[[Job, PhotoRecord], Job]
_RAW_KINDS = ("image/png", "image/jpeg", "image/webp", "image/tiff")


class Incoming(Struct, frozen=True):
    """Files and loose picture data, (bytes, name)."""

    paths: tuple[Path, ...] = ()
    data: tuple[tuple[bytes, str], ...] = ()


class _Read(Struct, frozen=True):
    """Photos that were read, problems in words, and the SHA-256 of those with a transparency of their own."""

    found: list[FoundPhoto]
    problems: list[str]
    cut_out: frozenset[str] = frozenset()


def incoming_from(mime: QMimeData) -> Incoming:
    """Return the files or the picture data in dropped or pasted data."""
    paths = tuple(Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile())
    if paths:
        return Incoming(paths)
    for kind in _RAW_KINDS:
        if mime.hasFormat(kind):
            return Incoming(data=((bytes(mime.data(kind).data()), "Pasted picture"),))
    if mime.hasImage():
        image = mime.imageData()
        if isinstance(image, QImage) and not image.isNull():
            return Incoming(data=((_png_of(image), "Pasted picture"),))
    return Incoming()


def _png_of(image: QImage) -> bytes:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    return bytes(buffer.data().data())


def _read(incoming: Incoming, store: PhotoStore, ticket: Ticket) -> _Read:
    """Read photos into the store and look at each: what the first frame needs is at hand then."""
    sources: tuple[Source, ...] = (*incoming.paths, *incoming.data)
    cut_out: set[str] = set()

    def look(photo: PhotoRecord) -> None:
        if not store.quick(photo).photo.is_opaque:
            cut_out.add(photo.sha256)

    found, problems = read_photos(sources, store, ticket, look=look)
    return _Read(found, [problem.line for problem in problems], frozenset(cut_out))


class PhotoIntake(QObject):
    """Adds photos to the session's job, or swaps one into a cutout. `said(text)` carries problems."""

    said = Signal(str)
    job_needed = Signal(object)

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window = session, window

    def take(self, incoming: Incoming, target: str | None = None, *, is_new_job: bool = False) -> None:
        """Read photos, then add them; with a target the first swaps into that cutout."""
        if not incoming.paths and not incoming.data:
            return
        if target is not None and find_item(self._session.job, target).is_locked:
            self.said.emit(f"{find_item(self._session.job, target).name} is locked; unlock it first")
            return
        self._run(self._taking(incoming, target, is_new_job=is_new_job))

    def _taking(self, incoming: Incoming, target: str | None, *, is_new_job: bool) -> Errand[None]:
        read = yield from self._reading(incoming)
        if read.found:
            self._add(read.found, target, read.cut_out, is_new_job=is_new_job)
        self._tell(read.problems)

    def read(self, incoming: Incoming, then: Callable[[list[PhotoRecord]], object]) -> Running[None]:
        """Read photos into the store; hand on those that can be seen. Problems are told of."""
        return self._run(self._reading_for(incoming, then))

    def _reading_for(self, incoming: Incoming, then: Callable[[list[PhotoRecord]], object]) -> Errand[None]:
        read = yield from self._reading(incoming)
        self._tell(read.problems)
        then([photo.record for photo in read.found])

    def _run(self, errand: Errand[None]) -> Running[None]:
        return run_errand(errand, self._window, self.said.emit)

    def _reading(self, incoming: Incoming, title: str = "Opening photographs") -> Errand[_Read]:
        """Read photos for the job that is shown; none where another one is by the time they are read."""
        store = self._session.store
        read = yield from waited(title, lambda ticket: _read(incoming, store, ticket))
        if self._session.store is not store:
            return _Read([], [])
        notes = [f"{photo.record.name}: {photo.facts.note}" for photo in read.found if photo.facts.note]
        return replace(read, problems=[*read.problems, *notes])

    def _tell(self, problems: Sequence[str]) -> None:
        if problems:
            self.said.emit("\n".join(problems[:4]) + ("\n…" if len(problems) > 4 else ""))

    def lend(self, path: Path, step: str, edit: PictureEdit) -> None:
        """Read a picture that a finish uses; apply ``edit(job, record)`` as one step."""
        self._run(self._lending(path, step, edit))

    def _lending(self, path: Path, step: str, edit: PictureEdit) -> Errand[None]:
        read = yield from self._reading(Incoming((path,)), "Opening a picture")
        if read.problems:
            self.said.emit(read.problems[0])
        if read.found:
            record = read.found[0].record
            self._session.apply(step, lambda job: edit(add_photo(job, record), record))

    def _fill(self, item_id: str, records: list[PhotoRecord]) -> None:
        """Put photos into the selected shape that waits for one, and into copies of it."""
        session = self._session
        words = "Put the photo in" if len(records) == 1 else f"Put {len(records)} photos in"
        before = {i.id for _, i in items_of(session.job)}
        if session.apply(words, lambda job: fill_shape(job, item_id, records)):
            fresh = [i.id for _, i in items_of(session.job) if i.id not in before]
            session.select([item_id, *fresh])

    def _add(
        self, found: Sequence[FoundPhoto], target: str | None, cut_out: frozenset[str], *, is_new_job: bool
    ) -> None:
        session = self._session
        if target is None and is_new_job:
            self.job_needed.emit(job_of_photos([p.record for p in found], cut_out))
            return
        waiting = session.item
        takes = target is None and waiting is not None and waiting.content is None and not waiting.is_locked
        if takes and waiting is not None and waiting.shape is not None:
            self._fill(waiting.id, [p.record for p in found])
            return
        first, rest = found[0], found[1:]
        if target is not None:
            session.apply("Swap the photo", lambda job: swap_photo(job, target, first.record))
            session.select((target,))
            found = rest
        if found:
            before = {i.id for i in session.items}
            there, records = session.container_id, [p.record for p in found]
            words = "Add a photo" if len(found) == 1 else f"Add {len(found)} photos"
            session.apply(words, lambda job: add_photos(job, there, records, cut_out))
            session.select([i.id for i in session.items if i.id not in before])
