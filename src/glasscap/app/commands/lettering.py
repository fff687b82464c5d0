"""Letters of the selected cutout: set as they are typed, one step when the typing rests."""

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from glasscap.app.session import Session
from glasscap.core.document.model.history import History
from glasscap.core.document.model.job import Item
from glasscap.core.document.shapes.lettering import set_letters, split_letters, waiting_letters
from glasscap.core.errors import GlassCapError
from glasscap.core.shapes.kinds import Letters, LettersShape
from glasscap.core.shapes.typesetting import SetLetters, set_type
from glasscap.editor.text_entry import Entry
from glasscap.files.font_book import DEFAULT_FONT, FontBook, list_ahead

_REST_MS = 900
FIRST_WORD = "KILN"


class Lettering(QObject):
    """Holds the fonts, the text being typed and the caret. `changed()` when the text or the caret did."""

    changed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.fonts = FontBook()
        list_ahead()
        self.entry = Entry("", 0, 0)
        self._set: SetLetters | None = None
        self._draft: Letters | None = None
        # The text since typing began, and the value that makes all of it one step.
        self._typed: History[Entry] = History((self.entry,))
        self._run = object()
        self._is_in_box = self._was_typing = False
        self._rest = QTimer(self, singleShot=True, interval=_REST_MS)
        self._rest.timeout.connect(session.settle)
        session.view_changed.connect(self._on_view_changed)
        session.saved_changed.connect(self._follow)
        self._on_view_changed()

    # what is there

    @property
    def letters(self) -> Letters | None:
        """The selected cutout's letters, as typed by now."""
        if self._draft is not None:
            return self._draft
        item = self._session.seen_item
        return item.shape.letters if item is not None and isinstance(item.shape, LettersShape) else None

    def made(self, letters: Letters) -> SetLetters | None:
        """Return letters as they are set; None, with a message, where nothing would be seen."""
        if self._set is not None and self._set.letters == letters:
            return self._set
        try:
            self._set = set_type(letters, self.fonts)
        except GlassCapError as error:
            self._session.problem_found.emit(error.line)
            return None
        return self._set

    # changing it

    def begin(self) -> None:
        """Give the selected cutout letters, or with none selected make some that wait; then type."""
        session, item = self._session, self._session.seen_item
        if item is not None and item.is_locked:
            session.problem_found.emit(f"{item.name} is locked; unlock it first")
            return
        if item is None or not isinstance(item.shape, LettersShape):
            made = self.made(Letters(FIRST_WORD, DEFAULT_FONT))
            if made is None:
                return
            if item is None:
                new = waiting_letters(session.committed, session.container_id, made)
                session.apply("Letters", lambda _: new[0])
                session.select((new[1],))
            else:
                session.apply_to_shape("Letters", lambda job: set_letters(job, item.id, made))
        session.set_typing(True)
        self.entry = self.entry.all()
        self._begin_typing()
        self.changed.emit()

    def change(self, step: str, **changes: object) -> None:
        """Change how the letters are set, as one step."""
        self._session.settle()
        item, letters = self._session.item, self.letters
        if item is None or letters is None:
            return
        try:
            wanted = replace(letters, **changes)
        except GlassCapError as error:
            self._session.problem_found.emit(error.line)
            return
        made = self.made(wanted)
        if made is not None:
            self._session.apply_to_shape(step, lambda job: set_letters(job, item.id, made))
            self._say_missing(made)

    def preview(self, **changes: object) -> None:
        """Show how the letters would be set."""
        item, letters = self._session.item, self.letters
        made = None if item is None or letters is None else self.made(replace(letters, **changes))
        if made is not None and item is not None:
            self._preview_made(item, made)

    def type(self, entry: Entry) -> None:
        """Take a change of text or caret; the text becomes a step when the typing rests."""
        item, letters = self._session.item, self.letters
        if item is None or letters is None or item.is_locked:
            return
        if entry.text != self.entry.text:
            self._typed = self._typed.applied("letter", entry)
        self._show(item, letters, entry)

    def _show(self, item: Item, letters: Letters, entry: Entry) -> None:
        is_new, self.entry = entry.text != self.entry.text, entry
        if is_new:
            self._draft = replace(letters, text=entry.text)
            if entry.text.strip():
                self._show_draft(item, self._draft)
        self.changed.emit()
        self._session.saved_changed.emit()

    # what is typed, in hand

    def _begin_typing(self) -> None:
        self._typed, self._run = History((self.entry,)), object()
        self._session.take_in_hand(self)

    def set_in_box(self, is_in_box: bool) -> None:
        """Remember that the words are typed into their box in the panel, or no longer."""
        self._is_in_box = is_in_box
        if is_in_box:
            self._begin_typing()
        elif not self._session.is_typing:
            self._session.put_down(self)

    @property
    def back(self) -> str:
        """The name of the step that undo takes back."""
        return "what was typed last" if self._typed.undo_label else ""

    @property
    def again(self) -> str:
        """The name of the step that redo puts back."""
        return "what was typed last" if self._typed.redo_label else ""

    def take_back(self) -> None:
        """Take the last letter back."""
        self._go(self._typed.undone())

    def put_back(self) -> None:
        """Have it again."""
        self._go(self._typed.redone())

    def _go(self, typed: "History[Entry]") -> None:
        item, letters = self._session.item, self.letters
        self._typed = typed
        if item is not None and letters is not None:
            self._show(item, letters, typed.value)

    def settle(self) -> None:
        """Make what was typed a step now."""
        self._session.settle()

    def _show_draft(self, item: Item, draft: Letters) -> None:
        made = self.made(draft)
        if made is None:
            return
        self._preview_made(item, made)
        self._session.pending = lambda: self._commit(item.id, made)
        self._rest.start()

    def _preview_made(self, item: Item, made: SetLetters) -> None:
        session = self._session
        session.preview(session.unfocus(set_letters(session.focus(session.committed), item.id, made)))

    def _commit(self, item_id: str, made: SetLetters) -> None:
        self._draft = None
        self._rest.stop()
        self._session.apply_to_shape("Type letters", lambda job: set_letters(job, item_id, made), self._run)
        self._say_missing(made)

    def _say_missing(self, made: SetLetters) -> None:
        if made.is_replaced:
            text = f"The font {made.letters.font} is not installed; {DEFAULT_FONT} stands in, its name is kept"
            self._session.problem_found.emit(text)
        elif made.missing:
            self._session.problem_found.emit(f"No font here has {made.missing}")

    def split(self) -> None:
        """Make one cutout per letter."""
        self._session.settle()
        item, letters = self._session.item, self.letters
        made = None if letters is None else self.made(letters)
        if item is None or made is None:
            return
        job, ids = split_letters(self._session.committed, item.id, made)
        if ids:
            self._session.apply("One cutout per letter", lambda _: job)
            self._session.select(ids)
        else:
            self._session.problem_found.emit("There is only one letter")

    def _on_view_changed(self) -> None:
        session = self._session
        if not session.is_typing:
            self._draft = None
        if session.is_typing != self._was_typing:
            self._was_typing = session.is_typing
            if session.is_typing:
                self._begin_typing()
            elif not self._is_in_box:
                session.put_down(self)
        self._follow()

    def _follow(self) -> None:
        """Show the letters as they are once a step, or another selection, has changed them."""
        letters = self.letters
        text = "" if letters is None else letters.text
        if text != self.entry.text and self._draft is None:
            self.entry = Entry(text, len(text), len(text))
            self.changed.emit()
