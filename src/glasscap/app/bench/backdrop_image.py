"""A background that is no flat colour, as the bench shows it; rendered off the interface thread."""

from PySide6.QtCore import QObject, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPixmap

from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.errors import GlassCapError
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos
from glasscap.editor.proof_pictures import backdrop_picture

_LONGEST = 1400
# Side (logical px) up to which the scaled picture is kept; larger ones are mostly out of sight.
_LARGEST_KEPT = 2500
_SMOOTHLY = (Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation)


class BackdropImage(QObject):
    """Follows the session's backdrop; `changed()` when its picture has come."""

    changed = Signal()

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self._session, self._service = session, service
        self._asked: tuple[Backdrop, tuple[int, int]] | None = None
        self._frame: Frame | None = None
        self._scaled: QPixmap | None = None
        session.view_changed.connect(self._follow)
        session.job_changed.connect(self._follow)
        service.answered.connect(self._on_answered)

    def _backdrop(self) -> Backdrop | None:
        """Return the backdrop while it is one of the job's, or None for a flat colour and the checkerboard."""
        chosen = self._session.backdrop
        known = self._session.job.proofs.backgrounds
        return chosen if chosen is not None and not isinstance(chosen, str) and chosen in known else None

    def _follow(self) -> None:
        backdrop, sheet = self._backdrop(), self._session.sheet
        if backdrop is None:
            self._asked = self._frame = self._scaled = None
            return
        share = min(1.0, _LONGEST / max(sheet.width, sheet.height))
        size = (max(1, round(sheet.width * share)), max(1, round(sheet.height * share)))
        if self._asked == (backdrop, size):
            return
        self._asked, job = (backdrop, size), self._session.job

        def made(photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
            try:
                return backdrop_picture(job, backdrop, size, photos, cache)
            except GlassCapError:
                return None

        self._service.ask("backdrop", made)

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel == "backdrop" and self._asked is not None:
            self._frame = answer if isinstance(answer, Frame) else None
            self._scaled = None
            self.changed.emit()

    @property
    def shown(self) -> Frame | None:
        """The picture that is painted, if there is one."""
        return self._frame

    def paint(self, painter: QPainter, box: QRectF) -> bool:
        """Paint the backdrop into a box; whether there was one to paint."""
        if self._frame is None:
            return False
        if max(box.width(), box.height()) > _LARGEST_KEPT:
            painter.save()
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(box, to_image(self._frame))
            painter.restore()
            return True
        # The same size as a rule from one repaint to the next: scaled once, on whole device px.
        whole, ratio = box.toRect(), painter.device().devicePixelRatio()
        size = whole.size() * ratio
        if self._scaled is None or self._scaled.size() != size:
            self._scaled = QPixmap.fromImage(to_image(self._frame).scaled(size, *_SMOOTHLY))
            self._scaled.setDevicePixelRatio(ratio)
        painter.drawPixmap(whole.topLeft(), self._scaled)
        return True
