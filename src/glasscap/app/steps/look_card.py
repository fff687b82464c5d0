"""Beneath the steps: the whole cutout's opacity, and finishes that travel from one cutout to another."""

from functools import partial

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QGridLayout, QLabel, QMenu, QToolButton, QWidget

from glasscap.app.services import asking
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.step_body import StepBody, body_column, named_row
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.core.document.finishing.edits import drop_set, keep_set, set_finishes, set_opacity
from glasscap.core.document.finishing.sets import SHIPPED_SETS
from glasscap.core.document.model.finishes import NO_FINISHES, Finishes
from glasscap.core.document.model.job import Item, Job
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.set_cards import SetCard, SetRequest, set_card

_PICTURE = QSize(58, 58)
_COLUMNS = 3


class SetButton(QToolButton):
    """A set of finishes, shown on the designer's own photo."""

    def __init__(self, name: str, *, is_own: bool) -> None:
        super().__init__()
        self.name, self.is_own = name, is_own
        self.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        self.setIconSize(_PICTURE)
        self.setText(name)
        self.setToolTip(f"Apply “{name}”")
        self.setAccessibleName(f"Apply finishes {name}")
        self.setObjectName("set")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def show_frame(self, frame: Frame | None) -> None:
        """Show the picture in the middle of the card."""
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(_PICTURE * ratio)
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        if frame is not None:
            painter = QPainter(pixmap)
            painter.fillRect(0, 0, _PICTURE.width(), _PICTURE.height(), checkerboard(0.6))
            height, width = frame.rgba.shape[:2]
            image = to_image(frame)
            image.setDevicePixelRatio(ratio)
            painter.drawImage(
                round((_PICTURE.width() - width / ratio) / 2),
                round((_PICTURE.height() - height / ratio) / 2),
                image,
            )
            painter.end()
        self.setIcon(QIcon(pixmap))


class LookCard(StepBody):
    """Opacity, copy and paste of finishes, sets."""

    is_for_all = True

    said = Signal(str)

    def __init__(self, session: Session, service: RenderService, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._service = service
        self.copied: Finishes | None = None
        self.opacity = self._slider(
            NumberSpec("Opacity", "%", 0, 100),
            (0, 100),
            lambda v: lambda job, key: set_opacity(job, [key], v / 100),
            step="Change the opacity",
            reset_to=100.0,
        )
        self.copy = push("Copy", self._on_copy_clicked)
        self.copy.setToolTip("Copy this cutout's finishes")
        self.copy.setAccessibleName("Copy finishes")
        self.paste = push("Paste", self._on_paste_clicked)
        self.paste.setToolTip("Give the selected cutouts the copied finishes")
        self.paste.setAccessibleName("Paste finishes")
        self.plain = push("None", self._on_plain_clicked)
        self.plain.setToolTip("Take all finishes away")
        self.plain.setAccessibleName("Take all finishes away")
        self.keep = push("Keep these…", self._on_keep_clicked, style="link")
        self.keep.setToolTip("Keep this cutout's finishes in the job under a name")
        self.buttons: dict[str, SetButton] = {}
        self._grid = QGridLayout()
        self._grid.setSpacing(4)
        column = body_column(self)
        column.addWidget(self.opacity)
        column.addWidget(named_row("Finishes", self.copy, self.paste, self.plain, width=52))
        column.addLayout(self._grid)
        self._note: QLabel = label("", "small")
        column.addWidget(self._note)
        column.addWidget(self.keep)
        self._soon = QTimer(self, singleShot=True, interval=120)
        self._soon.timeout.connect(self._ask)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._soon.start)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the opacity and the sets there are."""
        self.opacity.show_value(item.opacity * 100)
        for widget in (self.opacity, self.plain):
            widget.setEnabled(not item.is_locked)
        self.paste.setEnabled(self.copied is not None and not item.is_locked)
        self._show_sets(job)
        for button in self.buttons.values():
            button.setEnabled(not item.is_locked)
        if self.isVisible():
            self._soon.start()

    def showEvent(self, event: object) -> None:
        """Draw the cards when they come into sight."""
        self._soon.start()

    def sets(self, job: Job) -> dict[str, Finishes]:
        """Return the shipped sets and the job's own."""
        return {**SHIPPED_SETS, **{s.name: s.finishes for s in job.finish_sets}}

    def _show_sets(self, job: Job) -> None:
        names = list(self.sets(job))
        if names == list(self.buttons):
            return
        for button in self.buttons.values():
            self._grid.removeWidget(button)
            button.deleteLater()
        own = {s.name for s in job.finish_sets}
        self.buttons = {}
        for index, name in enumerate(names):
            made = SetButton(name, is_own=name in own)
            made.clicked.connect(lambda _=False, name=name: self.apply_set(name))
            if made.is_own:
                made.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
                made.customContextMenuRequested.connect(lambda at, made=made: self._show_menu(made, at))
            self.buttons[name] = made
            self._grid.addWidget(made, index // _COLUMNS, index % _COLUMNS)

    def _ask(self) -> None:
        item = self._session.item
        if item is None or item.content is None or not self.isVisible():
            return
        ratio = self.devicePixelRatioF()
        size = (round(_PICTURE.width() * ratio), round(_PICTURE.height() * ratio))
        for name, finishes in self.sets(self._session.job).items():
            request = SetRequest(self._session.committed, item.id, name, finishes, size)
            self._service.ask(("set", name), partial(set_card, request))

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(answer, SetCard) and answer.request.name in self.buttons:
            self.buttons[answer.request.name].show_frame(answer.frame)

    def apply_set(self, name: str) -> None:
        """Give the selected cutouts a set of finishes."""
        finishes, selected = self.sets(self._session.job)[name], self._session.selected
        self._session.apply(f"Finishes: {name}", lambda job: set_finishes(job, selected, finishes))

    def _on_copy_clicked(self) -> None:
        item = self._session.item
        if item is not None:
            self.copied = item.finishes
            self._note.setText(f"Copied from {item.name}")
            self.paste.setEnabled(not item.is_locked)

    def _on_paste_clicked(self) -> None:
        finishes, selected = self.copied, self._session.selected
        if finishes is not None:
            self._session.apply("Paste finishes", lambda job: set_finishes(job, selected, finishes))

    def _on_plain_clicked(self) -> None:
        selected = self._session.selected
        self._session.apply("Take all finishes away", lambda job: set_finishes(job, selected, NO_FINISHES))

    def _on_keep_clicked(self) -> None:
        asking.ask_text(self, "Keep these finishes", "Name", self.keep_as)

    def keep_as(self, name: str) -> None:
        """Keep the finishes of the item selected last."""
        item = self._session.item
        if item is None:
            return
        if name.strip() in SHIPPED_SETS:
            self._session.problem_found.emit(f"{name.strip()}: a shipped set has that name; choose another")
            return
        self._session.apply("Keep finishes", lambda job: keep_set(job, name, item.finishes))

    def _show_menu(self, button: SetButton, at: object) -> None:
        menu = QMenu(button)
        gone = menu.addAction("Take this set away")
        gone.triggered.connect(
            lambda: self._session.apply("Take a set away", lambda job: drop_set(job, button.name))
        )
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(button.mapToGlobal(at))  # type: ignore[call-overload]
