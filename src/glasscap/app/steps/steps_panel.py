"""The left column: the selected cutout as numbered steps in the order the work goes."""

from functools import cached_property
from typing import TypeVar

from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.commands.lettering import Lettering
from glasscap.app.photos.colours import PhotoColours
from glasscap.app.services.following import Follower
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.arrange_card import ArrangeCard
from glasscap.app.steps.edge_step import EdgeStep
from glasscap.app.steps.first_shape import FirstShape
from glasscap.app.steps.light_step import LightStep
from glasscap.app.steps.look_card import LookCard
from glasscap.app.steps.mount_step import MountStep
from glasscap.app.steps.photo_step import PhotoStep
from glasscap.app.steps.shape_step import ShapeStep
from glasscap.app.steps.sheet_card import SheetCard
from glasscap.app.steps.step_body import StepBody
from glasscap.app.steps.step_card import StepCard
from glasscap.app.steps.strokes_step import StrokesStep
from glasscap.app.versions.version_bar import VersionBar
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.layouts import settle_layouts
from glasscap.app.widgets.wheel import ScrollPanel
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import group_of
from glasscap.editor.step_words import (
    edge_words,
    lights_words,
    mount_words,
    photo_words,
    shape_words,
    strokes_words,
    whole_words,
)

PANEL_WIDTH = 332
_TITLES = {
    "photo": "Photo",
    "shape": "Shape",
    "edge": "Edge",
    "strokes": "Strokes",
    "light": "Shadow & light",
    "mount": "Mount",
    "look": "Whole cutout",
    "arrange": "Arrange",
}
# The step that is open at the start, those that place rather than finish, and what an idle step says.
_OPEN_AT_START = "shape"
_PLACING = ("photo", "shape", "arrange")
_IDLE = ("Sharp", "none", "off")
_AHEAD_MS = 400
B = TypeVar("B", bound=StepBody)


class StepsPanel(QFrame):
    """Shows the steps of the item selected last."""

    add_asked = Signal()
    draw_asked = Signal()
    swap_asked = Signal()
    take_apart_asked = Signal()
    join_asked = Signal()
    picture_wanted = Signal(str, str, object)

    def __init__(self, session: Session, service: RenderService, lettering: Lettering) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setAccessibleName("Steps")
        self.setFixedWidth(PANEL_WIDTH)
        self._session = session
        self._service, self._lettering = service, lettering
        self._name = ElidedLabel("strong")
        self.photo_colours = PhotoColours(session, service)
        self.cards = {
            key: StepCard(number, title)
            for number, (key, title) in zip((1, 2, 3, 4, 5, 6, None, None), _TITLES.items(), strict=True)
        }
        for key, card in self.cards.items():
            card.asked.connect(lambda is_open, key=key: self._on_asked(key, is_open))
        self._sheet_card = StepCard(None, "Sheet")
        self.versions = VersionBar(session)
        self._empty = self._nothing_selected()
        self._lay_out()
        self._follower = Follower(session, self.show_state, self)
        self._reveal = QTimer(self, singleShot=True, interval=0)
        self._reveal.timeout.connect(self._show_open_card)
        # Bodies out of sight are made one by one while nothing else is to be done.
        self._ahead = QTimer(self, singleShot=True, interval=_AHEAD_MS)
        self._ahead.timeout.connect(self._make_ahead)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self.show_state)
        self.cards[_OPEN_AT_START].set_open(True)
        self.show_state()
        self._ahead.start()

    # bodies

    @cached_property
    def photo(self) -> PhotoStep:
        """Step 1."""
        made = PhotoStep(self._session, self.photo_colours, self.cards["photo"].place)
        made.swap_asked.connect(self.swap_asked)
        return self._taken("photo", made)

    @cached_property
    def shape(self) -> ShapeStep:
        """Step 2."""
        made = ShapeStep(self._session, self._lettering, self.cards["shape"].place)
        made.take_apart_asked.connect(self.take_apart_asked)
        made.join_asked.connect(self.join_asked)
        made.draw_asked.connect(self.draw_asked)
        return self._taken("shape", made)

    @cached_property
    def edge(self) -> EdgeStep:
        """Step 3."""
        return self._taken("edge", EdgeStep(self._session, self._service, self.cards["edge"].place))

    @cached_property
    def strokes(self) -> StrokesStep:
        """Step 4."""
        place = self.cards["strokes"].place
        return self._taken("strokes", StrokesStep(self._session, self._service, self.photo_colours, place))

    @cached_property
    def light(self) -> LightStep:
        """Step 5."""
        place = self.cards["light"].place
        return self._taken("light", LightStep(self._session, self._service, self.photo_colours, place))

    @cached_property
    def mount(self) -> MountStep:
        """Step 6."""
        return self._taken("mount", MountStep(self._session, self.photo_colours, self.cards["mount"].place))

    @cached_property
    def look(self) -> LookCard:
        """The whole cutout."""
        return self._taken("look", LookCard(self._session, self._service, self.cards["look"].place))

    @cached_property
    def arrange(self) -> ArrangeCard:
        """All that is selected."""
        return self._taken("arrange", ArrangeCard(self._session, self.cards["arrange"].place))

    @cached_property
    def sheet(self) -> SheetCard:
        """The sheet, with nothing selected."""
        made = SheetCard(self._session, self.photo_colours, self._sheet_card.place)
        made.picture_wanted.connect(self.picture_wanted)
        self._sheet_card.set_open(True)
        self._sheet_card.set_body(made)
        return made

    def make_ready(self) -> bool:
        """Make one more of the cards' bodies that nobody opened yet; whether there was one."""
        for name in (*self.cards, "sheet"):
            if name not in self.__dict__:
                getattr(self, name)
                return True
        return False

    def _taken(self, key: str, body: B) -> B:
        body.picture_wanted.connect(self.picture_wanted)
        self.cards[key].set_body(body)
        return body

    def _make_ahead(self) -> None:
        if self.make_ready():
            self._ahead.start()

    def _on_asked(self, key: str, is_open: bool) -> None:
        if is_open:
            self.open_only(key)
        else:
            self.cards[key].set_open(False)
            self._session.set_finishing(False)

    def open_only(self, key: str) -> None:
        """Open one step and close the others, so that it is all on screen."""
        getattr(self, key)
        for name, card in self.cards.items():
            card.set_open(name == key)
        self._session.set_finishing(key not in _PLACING)
        self.show_state()
        # Its place is known when the cards have been laid out.
        self._reveal.start()

    def _show_open_card(self) -> None:
        card = next((c for c in self.cards.values() if c.is_open), None)
        if card is not None:
            settle_layouts()
            self._area.ensureWidgetVisible(card, 0, 0)
            self._area.ensureWidgetVisible(card.header, 0, 6)

    def _nothing_selected(self) -> QWidget:
        box = QWidget()
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        words = label("Nothing is selected. Click a cutout on the bench or in the tray, or make one:", "muted")
        words.setWordWrap(True)
        column.addWidget(words)
        column.addWidget(push("Add photos…", self.add_asked.emit, icon_name="image-plus"))
        column.addWidget(push("Set letters", self._lettering.begin, icon_name="type"))
        self.first_shape = FirstShape(self._session)
        column.addWidget(self.first_shape)
        return box

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 10, 0, 0)
        column.setSpacing(8)
        head = QHBoxLayout()
        head.setContentsMargins(12, 0, 12, 0)
        head.setSpacing(5)
        self._lead = label("Steps for", "muted")
        head.addWidget(self._lead)
        head.addWidget(self._name, 1)
        column.addLayout(head)
        versions = QHBoxLayout()
        versions.setContentsMargins(12, 0, 12, 0)
        versions.addWidget(self.versions)
        column.addLayout(versions)
        inner = QWidget()
        cards = QVBoxLayout(inner)
        cards.setContentsMargins(12, 0, 12, 12)
        cards.setSpacing(9)
        for card in self.cards.values():
            cards.addWidget(card)
        cards.addWidget(self._empty)
        cards.addWidget(self._sheet_card)
        cards.addStretch(1)
        self._area = ScrollPanel(inner, is_upright=True)
        column.addWidget(self._area, 1)

    def _on_job_changed(self, old: Job, new: Job) -> None:
        self._follower.begin()

    def show_state(self) -> None:
        """Show the item selected last, or that there is none."""
        item, job = self._session.item, self._session.job
        for card in self.cards.values():
            card.setVisible(item is not None)
        self._empty.setVisible(item is None)
        self._sheet_card.setVisible(item is None)
        self._lead.setText("Steps for" if item else "Steps")
        self._name.set_whole(self._title(item))
        self.versions.show_state()
        if item is not None:
            self._show_item(item, job)
        elif self.isVisible():
            self.sheet.show_sheet()
        settle_layouts()

    def _title(self, item: Item | None) -> str:
        """Return whose steps these are: the cutout selected last, and the group it lies in."""
        if item is None:
            return ""
        count, group = len(self._session.chosen_ids), group_of(self._session.job, item.id)
        others = f" and {count - 1} more" if count > 1 else ""
        return f"{item.name}{others}" + (f" in {group.name}" if group is not None else "")

    def showEvent(self, event: QShowEvent) -> None:
        """Fill what waited to be seen."""
        self._follower.begin()

    def _show_item(self, item: Item, job: Job) -> None:
        for key, card in self.cards.items():
            if card.is_open:
                getattr(self, key).show_item(item, job)
        finishes = item.finishes
        self.cards["photo"].show_words(photo_words(item, job), is_doing=item.content is not None)
        self.cards["shape"].show_words(shape_words(item), is_doing=item.shape is not None and item.is_masked)
        for key, words in (
            ("edge", edge_words(finishes)),
            ("strokes", strokes_words(finishes)),
            ("light", lights_words(finishes)),
            ("mount", mount_words(finishes)),
        ):
            self.cards[key].show_words(words, is_doing=words not in _IDLE)
        self.cards["look"].show_words(whole_words(item))
        count = len(self._session.chosen_ids)
        self.cards["arrange"].show_words("align, scale, repeat" if count == 1 else f"{count} selected")
