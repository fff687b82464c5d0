"""Photos the job knows and cannot find: the user shows where they are, or what is to stand in their place."""

import os
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, run_errand, waited
from glasscap.app.session import Session
from glasscap.core.document.edits.photo_return import photo_replaced, photo_returned
from glasscap.core.document.model.job import PhotoRecord
from glasscap.files.atomic import read_bytes
from glasscap.files.photos import FoundPhoto, photo_from_bytes


class MissingPhotos(QObject):
    """Asks for one missing photo after the other; each is one step. `said(text)` carries problems."""

    said = Signal(str)

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window = session, window

    @property
    def missing(self) -> tuple[PhotoRecord, ...]:
        """Photos whose bytes are not at hand."""
        session = self._session
        return tuple(p for p in session.committed.photos if p.sha256 not in session.store)

    def ask(self) -> Running[None]:
        """Ask for every missing photo until the user leaves off."""
        return run_errand(self._asking(), self._window, self.said.emit)

    def _asking(self) -> Errand[None]:
        missing = self.missing
        if not missing:
            self.said.emit("No photo is missing")
        for photo in missing:
            start = asking.Place("photographs", self._place(photo))
            chosen = yield from asking.file_to_open(self._window, f"Find {photo.name}", start, "")
            if chosen is None:
                return
            yield from self._taking(photo, chosen)

    def _place(self, photo: PhotoRecord) -> Path:
        """Return the folder to look in first: the photo's own if it still exists, or the job's."""
        folder = self._session.path.parent if self._session.path else Path.home()
        linked = folder / (photo.link or photo.name)
        return linked if linked.parent.is_dir() else folder

    def take(self, photo: PhotoRecord, path: Path) -> Running[bool]:
        """Take a file as a missing photo, or in its place if the user agrees. Whether it was taken."""
        return run_errand(self._taking(photo, path), self._window, self.said.emit)

    def _taking(self, photo: PhotoRecord, path: Path) -> Errand[bool]:
        session = self._session
        store = session.store
        found = yield from waited(
            f"Opening {path.name}", lambda ticket: photo_from_bytes(read_bytes(path), path.name)
        )
        is_same = found.record.sha256 == photo.sha256
        if not is_same and not (yield from self._may_replace(photo, found, path)):
            return False
        if session.store is not store:
            return False
        session.store.add(found.data, found.record.sha256)
        if is_same:
            link = self._link(photo, path)
            return session.apply(f"Find {photo.name}", lambda job: photo_returned(job, photo, link))
        return session.apply(f"Replace {photo.name}", lambda job: photo_replaced(job, photo, found.record))

    def _link(self, photo: PhotoRecord, path: Path) -> str | None:
        """Link it where it lies if it was linked before, else take it into the job."""
        if photo.link is None or self._session.path is None:
            return None
        return os.path.relpath(path.resolve(), self._session.path.parent.resolve())

    def _may_replace(self, photo: PhotoRecord, found: FoundPhoto, path: Path) -> Errand[bool]:
        record = found.record
        sizes = f"{record.width} × {record.height} px"
        if (record.width, record.height) != (photo.width, photo.height):
            sizes += f" instead of {photo.width} × {photo.height}"
        words = (
            f"{path.name} is not the picture that {photo.name} was ({sizes}). Use it in its place? "
            "Shapes and finishes stay."
        )
        return (yield from asking.is_agreed(self._window, words))
