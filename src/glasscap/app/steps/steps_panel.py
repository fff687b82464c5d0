"""The left column: the selected cutout as numbered steps in the order the work goes."""

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.photo_step import PhotoStep
from glasscap.app.steps.shape_step import ShapeStep
from glasscap.app.steps.step_card import StepCard
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.scroll import scrolled
from glasscap.core.document.model import Job

PANEL_WIDTH = 296


class StepsPanel(QFrame):
    """Shows the steps of the item selected last."""

    add_asked = Signal()
    draw_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setAccessibleName("Steps")
        self.setFixedWidth(PANEL_WIDTH)
        self._session = session
        self._name = ElidedLabel("strong")
        self.photo, self.shape = PhotoStep(session), ShapeStep(session)
        self._cards = (StepCard(1, "Photo", self.photo), StepCard(2, "Shape", self.shape))
        self._empty = self._nothing_selected()
        self._lay_out()
        self._refresh = QTimer(self, singleShot=True, interval=0)
        self._refresh.timeout.connect(self.show_state)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self.show_state)
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
        for card in self._cards:
            cards.addWidget(card)
        cards.addWidget(self._empty)
        cards.addStretch(1)
        column.addWidget(scrolled(inner, is_upright=True), 1)

    def _on_job_changed(self, old: Job, new: Job) -> None:
        self._refresh.start()

    def show_state(self) -> None:
        """Show the item selected last, or that there is none."""
        item, job = self._session.item, self._session.job
        for card in self._cards:
            card.setVisible(item is not None)
        self._empty.setVisible(item is None)
        self._lead.setText("Steps for" if item else "Steps")
        self._name.set_whole(item.name if item else "")
        if item is None:
            return
        self.photo.show_item(item, job)
        self.shape.show_item(item, job)
        self._cards[0].show_words(self.photo.words(item, job), is_doing=item.content is not None)
        self._cards[1].show_words(self.shape.words(item), is_doing=item.shape is not None and item.is_masked)
