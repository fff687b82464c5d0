"""The lamp in a step: over a small picture of the selected cutout, it changes all lights that follow it."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtWidgets import QVBoxLayout

from glasscap.app.services.render_service import RenderService, Work
from glasscap.app.session import Session
from glasscap.app.steps.picture_row import PictureRow
from glasscap.app.steps.step_body import ItemEdit
from glasscap.app.widgets.lamp_view import CUTOUT_SIDE, LampView
from glasscap.core.document.finishing.edits import add_light, change_finishes
from glasscap.core.document.finishing.first_numbers import first_light, shorter_side
from glasscap.core.document.model.finishes import Lights
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item
from glasscap.editor import lamp
from glasscap.editor.lamp import Lamp
from glasscap.editor.lamp_picture import LampPicture, LampRequest, lamp_picture
from glasscap.editor.step_words import lights_words


def lit(change: Callable[[Lights], Lights]) -> ItemEdit:
    """Return an edit of all lights of a cutout."""
    return lambda job, key: change_finishes(job, key, lambda f: replace(f, lights=change(f.lights)))


class LampRow(PictureRow):
    """One lamp; where no light has a direction yet, moving it lights a shadow beneath."""

    is_for_all = True

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__(session, service, "lamp", self._work, self._show_answer)
        self.view = LampView()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)
        self.view.moved.connect(lambda to: self._preview(self._moved_to(to)))
        self.view.stepped.connect(lambda to: self._edit("Move the lamp", self._moved_to(to)))
        self.view.given_up.connect(session.drop_preview)
        self.view.nudged.connect(self._on_nudged)
        self.view.softened.connect(self._on_softened)

    def show_item(self, item: Item, job: Job) -> None:
        """Follow an item."""
        stands = lamp.lamp_of(item.finishes.lights, shorter_side(job, item.id))
        self.view.show_lamp(stands, lights_words(item.finishes))
        self._soon.start()

    def _on_nudged(self, degrees: float, px: float) -> None:
        self._edit("Move the lamp", self._changed(lambda now, side: lamp.nudged(now, degrees=degrees, px=px)))

    def _on_softened(self, px: float) -> None:
        self._edit("Make the light softer", self._changed(lambda now, side: lamp.softened(now, px)))

    def _moved_to(self, to: Lamp) -> ItemEdit:
        return self._changed(lambda now, side: lamp.with_lamp(now, to, side))

    def _changed(self, change: Callable[[Lights, float], Lights]) -> ItemEdit:
        """Return an edit that lights a shadow where nothing holds the lamp, and then moves it."""
        given = dict(self._session.given)

        def edit(job: Job, key: str) -> Job:
            if lamp.leader_of(find_item(job, key).finishes.lights) is None:
                job = add_light(job, key, "shadow", first_light(job, key, "shadow", given))
            side = shorter_side(job, key)
            return lit(lambda now: change(now, side))(job, key)

        return edit

    def _work(self, item: Item) -> Work:
        ratio = self.view.devicePixelRatioF()
        size = round(self.view.width() * ratio), round(self.view.height() * ratio)
        request = LampRequest(self._session.job, item.id, size, CUTOUT_SIDE * ratio)
        return lambda photos, cache: lamp_picture(request, photos, cache)

    def _show_answer(self, answer: object) -> None:
        if isinstance(answer, LampPicture):
            self.view.show_frame(answer.frame)
