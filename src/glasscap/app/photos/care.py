"""Care of the job's photos as files: cropped to the visible part, reduced, embedded, linked, collected."""

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, answered, run_errand, waited
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import Choice, push
from glasscap.app.widgets.form_row import form_row
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.core.document.model.job import Job
from glasscap.core.formats.trimming import Trimmed, hidden_removed, resampled
from glasscap.core.work.ticket import Ticket
from glasscap.editor.numbers import bytes_words, counted
from glasscap.files.photo_links import embedded, linked, photos_folder

_WIDTH = 380
_THIN = "\N{NARROW NO-BREAK SPACE}"


class TrimDialog(QDialog):
    """Asks for which cutouts, and for one number."""

    def __init__(
        self, parent: QWidget, title: str, words: str, number: NumberSpec, value: float, *, can_choose: bool
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Glass Cap")
        self.setFixedWidth(_WIDTH)
        self.scope = "selected" if can_choose else "job"
        self.choice = Choice("For", [("selected", "The selected"), ("job", "The whole job")], self._on_scope)
        self.choice.buttons["selected"].setEnabled(can_choose)
        self.choice.show_choice(self.scope)
        self.number = NumberField(number)
        self.number.show_value(value)
        explained = label(words, "muted")
        explained.setWordWrap(True)
        self.go_on = push("Look what it frees", self.accept, style="primary")
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 16)
        column.setSpacing(10)
        column.addWidget(label(title, "strong"))
        column.addWidget(explained)
        column.addWidget(form_row("For", self.choice))
        column.addWidget(form_row(number.name, self.number))
        column.addWidget(self.go_on)

    def _on_scope(self, scope: str) -> None:
        self.scope = scope


class PhotoCare(QObject):
    """Commands of the Photos menu, each one step. `said(text)` carries problems and what was done."""

    said = Signal(str)

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window = session, window
        self.table: dict[str, Callable[[], object]] = {
            "remove_hidden": self.ask_remove_hidden,
            "reduce_photos": self.ask_reduce,
            "embed_photos": self.embed,
            "link_photos": lambda: self.link(only_linked=False),
            "collect_photos": lambda: self.link(only_linked=True),
        }

    # smaller photos

    def _run(self, errand: Errand[bool]) -> Running[bool]:
        return run_errand(errand, self._window, self.said.emit)

    def ask_remove_hidden(self) -> Running[bool]:
        """Ask, then cut photos to what is shown."""
        return self._run(self._asking_remove_hidden())

    def _asking_remove_hidden(self) -> Errand[bool]:
        asked = yield from self._asked(
            "Remove what is hidden for good",
            "Photo pixels no cutout shows are cut away. Every picture stays the same, byte for byte; undo brings "
            "the pixels back.",
            NumberSpec("Margin", "px", 0, 10_000),
            20.0,
        )
        return asked is not None and (yield from self._removing_hidden(*asked))

    def remove_hidden(self, ids: tuple[str, ...] | None, margin: float) -> Running[bool]:
        """Cut photos to what cutouts show; say what that frees and ask. Whether it was done."""
        return self._run(self._removing_hidden(ids, margin))

    def _removing_hidden(self, ids: tuple[str, ...] | None, margin: float) -> Errand[bool]:
        return self._trim(
            "Remove what is hidden",
            lambda job, ticket: hidden_removed(job, self._session.store, ids, margin, ticket.report),
            "There is nothing hidden that could leave without changing a picture",
        )

    def ask_reduce(self) -> Running[bool]:
        """Ask, then reduce photos."""
        return self._run(self._asking_reduce())

    def _asking_reduce(self) -> Errand[bool]:
        asked = yield from self._asked(
            "Reduce photos to what is needed",
            "Photos keep so many px for each px they are shown at; 2 is enough for pictures twice as large. The "
            "pictures change a little.",
            NumberSpec("Density", "px", 0.5, 16),
            2.0,
        )
        return asked is not None and (yield from self._reducing(*asked))

    def reduce(self, ids: tuple[str, ...] | None, density: float) -> Running[bool]:
        """Reduce photos; say what that frees and ask. Whether it was done."""
        return self._run(self._reducing(ids, density))

    def _reducing(self, ids: tuple[str, ...] | None, density: float) -> Errand[bool]:
        return self._trim(
            "Reduce photos",
            lambda job, ticket: resampled(job, self._session.store, ids, density),
            "No photo has more pixels than that, or would be smaller for it",
        )

    def _asked(
        self, title: str, words: str, number: NumberSpec, value: float
    ) -> Errand[tuple[tuple[str, ...] | None, float] | None]:
        dialog = TrimDialog(self._window, title, words, number, value, can_choose=bool(self._session.selected))
        is_accepted = yield from answered(dialog)
        found = (self._session.selected if dialog.scope == "selected" else None, dialog.number.value or 0.0)
        dialog.deleteLater()
        return found if is_accepted else None

    def _trim(self, step: str, work: Callable[[Job, Ticket], Trimmed], nothing: str) -> Errand[bool]:
        job = self._session.committed
        found = yield from waited(step, lambda ticket: work(job, ticket))
        if found.photos == 0 or (found.freed <= 0 and not found.pixels):
            self.said.emit(nothing)
            return False
        photos = counted(found.photos, "photo")
        size = f"{bytes_words(abs(found.freed))} {'less' if found.freed >= 0 else 'more'} in the job"
        gone = f"{found.pixels:,} pixels leave, ".replace(",", _THIN) if found.pixels else ""
        words = f"{step}: {photos}, {gone}{size}. Go on?"
        if not (yield from asking.is_agreed(self._window, words)):
            return False
        return self._take(step, job, found.job)

    def _take(self, step: str, before: Job, after: Job) -> bool:
        """Make a job that was worked out in a thread a step, unless it was changed meanwhile."""
        if self._session.committed is not before:
            self.said.emit(f"{step}: the job was changed meanwhile; do it again")
            return False
        return self._session.apply(step, lambda _: after)

    # where photos lie

    def embed(self) -> None:
        """Take every photo into the job file."""
        store = self._session.store
        self._session.apply("Embed the photos", lambda job: embedded(job, store))

    def link(self, *, only_linked: bool) -> Running[bool]:
        """Put photos into a folder beside the job file and link them there. Whether it was done."""
        return self._run(self._linking(only_linked=only_linked))

    def _linking(self, *, only_linked: bool) -> Errand[bool]:
        path, store, job = self._session.path, self._session.store, self._session.committed
        if path is None:
            self.said.emit("Save the job first: its photos go into a folder beside it")
            return False
        step = "Collect the linked photos" if only_linked else "Link the photos"
        made = yield from waited(step, lambda ticket: linked(job, store, path, only_linked=only_linked))
        if made == job:
            self.said.emit(f"Nothing to do: no photo lies elsewhere than in {photos_folder(path).name}")
            return False
        return self._take(step, job, made)
