"""Colours proposed from the photo of the cutout selected last, found off the interface thread."""

from PySide6.QtCore import QObject

from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.document.model.paint import colour_of
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.palette import proposed_colours
from glasscap.editor.frames import ScreenPhotos

_COUNT = 7


class PhotoColours(QObject):
    """Asks once for every photo; `now()` is empty until the answer comes."""

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self._session, self._service = session, service
        self._known: dict[str, tuple[str, ...]] = {}
        session.view_changed.connect(self._ask)
        session.job_changed.connect(self._ask)
        service.answered.connect(self._on_answered)

    def now(self) -> tuple[str, ...]:
        """Return the proposals for the photo at hand."""
        photo = self._session.photo
        return () if photo is None else self._known.get(photo.sha256, ())

    def _ask(self) -> None:
        photo = self._session.photo
        if photo is not None and photo.sha256 not in self._known:
            self._known[photo.sha256] = ()
            self._service.ask(("palette", photo.sha256), lambda photos, cache: _found(photo, photos, cache))

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(channel, tuple) and channel[0] == "palette" and isinstance(answer, tuple):
            self._known[channel[1]] = answer


def _found(photo: PhotoRecord, photos: ScreenPhotos, cache: ValueCache) -> tuple[str, ...]:
    photos.begin()
    return tuple(colour_of(*c) for c in proposed_colours(photos.pyramid(photo).photo.rgba[::4, ::4], _COUNT))
