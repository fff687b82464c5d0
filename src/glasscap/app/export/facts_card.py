"""The verdict in words, and the file in numbers."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.labels import label
from glasscap.editor.comparing import Comparison
from glasscap.editor.numbers import bytes_words

_HEAD = "File"
_ROWS = ("Full PNG", "Largest difference", "Mean difference", "Levels of alpha", "Size")


class FactsCard:
    """Shows a comparison: `head` (the weight), `verdict`, `figures` and `note` have their places in a panel."""

    def __init__(self) -> None:
        self.values = {name: label("", "strong") for name in (_HEAD, *_ROWS)}
        self.head = self._made_head()
        self.verdict = QFrame()
        self.title, self.text = label("", "strong"), label("")
        self.title.setWordWrap(True)
        self.text.setWordWrap(True)
        inner = QVBoxLayout(self.verdict)
        inner.setContentsMargins(10, 8, 10, 8)
        inner.setSpacing(2)
        inner.addWidget(self.title)
        inner.addWidget(self.text)
        self.figures = QWidget()
        grid = QGridLayout(self.figures)
        grid.setContentsMargins(0, 2, 0, 2)
        grid.setVerticalSpacing(5)
        for row, name in enumerate(_ROWS):
            grid.addWidget(label(name, "muted"), row, 0)
            grid.addWidget(self.values[name], row, 1, Qt.AlignmentFlag.AlignRight)
        grid.setColumnStretch(0, 1)
        self.note = label("", "amber")
        self.note.setWordWrap(True)
        self.show_answer(None)

    def _made_head(self) -> QWidget:
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(12, 0, 12, 0)
        row.setSpacing(4)
        row.addWidget(label("Proof of the file", "muted"))
        row.addStretch(1)
        row.addWidget(self.values[_HEAD])
        return head

    def show_waiting(self) -> None:
        """Say that a file is being made; no size or verdict of an earlier one stays."""
        self.show_answer(None)
        self._style("quiet")
        self.title.setText("Making the file…")
        self.text.setText("")
        self.verdict.setAccessibleName(self.title.text())
        self.verdict.show()
        self.values[_HEAD].setText("…")

    def show_answer(self, answer: Comparison | None) -> None:
        """Show what was found, or nothing while a file is being made."""
        found = None if answer is None else answer.found
        self.verdict.setVisible(answer is not None and (answer.verdict is not None or bool(answer.problem)))
        self.note.setVisible(answer is not None and bool(answer.note))
        self.note.setText("" if answer is None else answer.note)
        for value in self.values.values():
            value.setText("")
        if answer is None:
            return
        words = answer.verdict
        is_good = words is not None and words.tone == "good"
        self._style("done" if is_good else "verdict")
        self.title.setText(words.title if words is not None else "It cannot be written.")
        self.text.setText(words.text if words is not None else answer.problem)
        self.verdict.setAccessibleName(f"{self.title.text()} {self.text.text()}")
        if found is None:
            return
        width, height = answer.size
        self.values[_HEAD].setText(bytes_words(answer.nbytes))
        self.values["Full PNG"].setText(bytes_words(answer.png_bytes))
        self.values["Largest difference"].setText(f"{found.largest} of 255")
        self.values["Mean difference"].setText(f"{found.mean:.2f}")
        self.values["Levels of alpha"].setText(f"{found.alpha_levels_left} of {found.alpha_levels}")
        self.values["Size"].setText(f"{width} × {height} px")

    def _style(self, name: str) -> None:
        if self.verdict.objectName() != name:
            self.verdict.setObjectName(name)
            self.verdict.style().unpolish(self.verdict)
            self.verdict.style().polish(self.verdict)
