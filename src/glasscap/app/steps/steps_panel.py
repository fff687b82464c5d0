"""The left column: the selected cutout as numbered steps in the order the work goes."""

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.photo_colours import PhotoColours
from glasscap.app.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.edge_step import EdgeStep
from glasscap.app.steps.light_step import LightStep
from glasscap.app.steps.look_card import LookCard
from glasscap.app.steps.mount_step import MountStep
from glasscap.app.steps.photo_step import PhotoStep
from glasscap.app.steps.shape_step import ShapeStep
from glasscap.app.steps.sheet_card import SheetCard
from glasscap.app.steps.step_card import StepCard
from glasscap.app.steps.strokes_step import StrokesStep
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.scroll import scrolled
from glasscap.core.document.model import Item, Job

PANEL_WIDTH = 312
# Steps that are open at the start.
_OPEN_AT_START = ("photo", "shape")


class StepsPanel(QFrame):
    """Shows the steps of the item selected last."""

    add_asked = Signal()
    draw_asked = Signal()
    picture_wanted = Signal(str, str, object)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setAccessibleName("Steps")
        self.setFixedWidth(PANEL_WIDTH)
        self._session = session
        self._name = ElidedLabel("strong")
        self.photo_colours = PhotoColours(session, service)
        self.photo, self.shape = PhotoStep(session, self.photo_colours), ShapeStep(session)
        self.edge = EdgeStep(session, service)
        self.strokes = StrokesStep(session, service, self.photo_colours)
        self.light = LightStep(session, service, self.photo_colours)
        self.mount = MountStep(session, self.photo_colours)
        self.look = LookCard(session, service)
        self.sheet = SheetCard(session, self.photo_colours)
        self.cards = self._make_cards()
        self._sheet_card = StepCard(None, "Sheet", self.sheet)
        self._empty = self._nothing_selected()
        self._lay_out()
        self._refresh = QTimer(self, singleShot=True, interval=0)
        self._refresh.timeout.connect(self.show_state)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self.show_state)
        bodies = (self.photo, self.edge, self.strokes, self.light, self.mount, self.sheet)
        for body in bodies:
            body.picture_wanted.connect(self.picture_wanted)
        self.show_state()

    def _make_cards(self) -> dict[str, StepCard]:
        bodies: tuple[tuple[str, str, QWidget], ...] = (
            ("photo", "Photo", self.photo),
            ("shape", "Shape", self.shape),
            ("edge", "Edge", self.edge),
            ("strokes", "Strokes", self.strokes),
            ("light", "Shadow & light", self.light),
            ("mount", "Mount", self.mount),
        )
        made = {
            key: StepCard(number, title, body, is_open=key in _OPEN_AT_START)
            for number, (key, title, body) in enumerate(bodies, 1)
        }
        made["look"] = StepCard(None, "Whole cutout", self.look, is_open=False)
        for key, card in made.items():
            card.opened.connect(lambda key=key: self.open_only(key))
        return made

    def open_only(self, key: str) -> None:
        """Open one step and close the others, so that it is all on screen."""
        for name, card in self.cards.items():
            card.set_open(name == key)
        self.show_state()

    def _nothing_selected(self) -> QWidget:
        box = QWidget()
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        words = label("Nothing is selected. Click a cutout on the bench or in the tray, or make one:", "muted")
        words.setWordWrap(True)
        column.addWidget(words)
        column.addWidget(push("Add photos…", self.add_asked.emit, icon_name="image-plus"))
        column.addWidget(push("Draw a shape", self.draw_asked.emit, icon_name="circle-dashed"))
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
        inner = QWidget()
        cards = QVBoxLayout(inner)
        cards.setContentsMargins(12, 0, 12, 12)
        cards.setSpacing(9)
        for card in self.cards.values():
            cards.addWidget(card)
        cards.addWidget(self._empty)
        cards.addWidget(self._sheet_card)
        cards.addStretch(1)
        column.addWidget(scrolled(inner, is_upright=True), 1)

    def _on_job_changed(self, old: Job, new: Job) -> None:
        self._refresh.start()

    def show_state(self) -> None:
        """Show the item selected last, or that there is none."""
        item, job = self._session.item, self._session.job
        for card in self.cards.values():
            card.setVisible(item is not None)
        self._empty.setVisible(item is None)
        self._sheet_card.setVisible(item is None)
        self._lead.setText("Steps for" if item else "Steps")
        self._name.set_whole(item.name if item else "")
        if item is None:
            self.sheet.show_sheet()
        else:
            self._show_item(item, job)

    def _show_item(self, item: Item, job: Job) -> None:
        self.photo.show_item(item, job)
        self.shape.show_item(item, job)
        for key, body in (
            ("edge", self.edge), ("strokes", self.strokes), ("light", self.light), ("mount", self.mount),
            ("look", self.look),
        ):  # fmt: skip
            if self.cards[key].is_open:
                body.show_item(item, job)
        self.cards["photo"].show_words(self.photo.words(item, job), is_doing=item.content is not None)
        self.cards["shape"].show_words(self.shape.words(item), is_doing=item.shape is not None and item.is_masked)
        self._show_words("edge", self.edge.words(item), "Sharp")
        self._show_words("strokes", self.strokes.words(item), "none")
        self._show_words("light", self.light.words(item), "none")
        self._show_words("mount", self.mount.words(item), "none")
        opacity = round(item.opacity * 100)
        self.cards["look"].show_words("finishes, opacity" if opacity == 100 else f"{opacity} %")

    def _show_words(self, key: str, words: str, when_idle: str) -> None:
        self.cards[key].show_words(words, is_doing=words not in (when_idle, "off"))
