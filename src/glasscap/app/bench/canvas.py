"""The canvas, the bench as its parts know it: its viewport, and a call to paint it anew."""

from PySide6.QtWidgets import QWidget

from glasscap.app.bench.backdrop_image import BackdropImage
from glasscap.app.commands.lettering import Lettering
from glasscap.app.services.following import Follower
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.core.geometry.types import Affine
from glasscap.editor.viewport import Viewport

# How long lines wait for the next picture: painted at every step of the pointer the bench would take the
# interpreter from its own pictures half of the time.
_REPAINT_MS = 50


class Canvas(QWidget):
    """A sheet seen through a viewport."""

    def __init__(self, session: Session, service: RenderService, lettering: Lettering) -> None:
        super().__init__()
        self.viewport, self.lettering = Viewport(), lettering
        self.backdrop = BackdropImage(session, service)
        # Characters an input method still composes while letters are typed.
        self.composing = ""
        self._repaint = Follower(session, lambda: self.update(), self, every_ms=_REPAINT_MS)

    @property
    def ratio(self) -> float:
        """Device px per logical px."""
        return self.devicePixelRatioF()

    @property
    def to_view(self) -> Affine:
        """The map from sheet px to logical px of this widget."""
        return Affine.scaling(1 / self.ratio).after(self.viewport.to_device)

    def to_sheet(self, x: float, y: float) -> tuple[float, float]:
        """Return the sheet point at a logical point."""
        return self.viewport.to_sheet(x * self.ratio, y * self.ratio)

    def show_soon(self) -> None:
        """Be painted anew; what is dragged waits for the next picture, but not for long."""
        self._repaint.begin()
