"""The edge strip in a step: asks for its picture while it is on screen, and edits by its marks."""

from PySide6.QtWidgets import QVBoxLayout

from glasscap.app.services.render_service import RenderService, Work
from glasscap.app.session import Session
from glasscap.app.steps.picture_row import PictureRow
from glasscap.app.steps.step_body import ItemEdit
from glasscap.app.widgets.edge_strip import PICTURE_HEIGHT, EdgeStrip
from glasscap.app.widgets.labels import label
from glasscap.core.document.finishing.edits import change_finishes
from glasscap.core.document.model.finishes import Finishes
from glasscap.core.document.model.job import Item
from glasscap.editor.edge_profile import Strip, StripRequest, as_kept_inside, edge_strip, is_hole


class StripRow(PictureRow):
    """One strip; `name` is its channel of the service."""

    def __init__(self, session: Session, service: RenderService, name: str) -> None:
        super().__init__(session, service, name, self._work, self._show_answer)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(3)
        column.addWidget(label("Across the edge, drag the marks", "small"))
        self.strip = EdgeStrip()
        self.strip.setToolTip("Wheel enlarges 1 to 16 times, double click fits")
        column.addWidget(self.strip)
        self._is_hole = False
        self.strip.moved.connect(lambda finishes: self._preview(self._given(finishes)))
        self.strip.stepped.connect(lambda finishes: self._edit("Change the edge", self._given(finishes)))
        self.strip.zoom_changed.connect(self._soon.start)

    def show_item(self, item: Item) -> None:
        """Follow an item."""
        self._is_hole = is_hole(item)
        self.strip.show_finishes(self._turned(item.finishes))
        self.strip.setEnabled(not item.is_locked)
        self._soon.start()

    def _work(self, item: Item) -> Work:
        ratio = self.strip.devicePixelRatioF()
        size = round(self.strip.width() * ratio), round(PICTURE_HEIGHT * ratio)
        request = StripRequest(self._session.job, item.id, size, self.strip.zoom * ratio)
        return lambda photos, cache: edge_strip(request, photos, cache)

    def _show_answer(self, answer: object) -> None:
        if isinstance(answer, Strip):
            self.strip.show_frame(answer.frame, answer.request.zoom / self.strip.devicePixelRatioF())

    def _turned(self, finishes: Finishes) -> Finishes:
        """Return an item's finishes as the strip shows them, or the other way round."""
        return as_kept_inside(finishes) if self._is_hole else finishes

    def _given(self, shown: Finishes) -> ItemEdit:
        finishes = self._turned(shown)
        return lambda job, key: change_finishes(job, key, lambda _: finishes)
