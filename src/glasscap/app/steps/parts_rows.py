"""The parts of a combined shape: what each does, which is open, add and take away."""

from functools import partial
from typing import get_args

from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.step_body import StepBody
from glasscap.app.widgets.buttons import leave_keys, push, tool
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.shapes.combining import add_part, change_part, remove_part
from glasscap.core.geometry.boolean import Operation
from glasscap.core.shapes.kinds import CombinedShape, ShapePart
from glasscap.core.shapes.outlines import shape_label

OPERATIONS: tuple[Operation, ...] = get_args(Operation)
_WORDS: dict[Operation, str] = {
    "add": "that adds",
    "subtract": "that subtracts",
    "intersect": "to intersect with",
    "exclude": "that excludes",
}


class PartRow(QWidget):
    """One part: its operation, its name (opens it), shown or left out, away with it."""

    def __init__(self, session: Session, number: int) -> None:
        super().__init__()
        self._session, self._number = session, number
        self.does = DropDown()
        self.does.addItems([o.capitalize() for o in OPERATIONS])
        self.does.setAccessibleName(f"What part {number + 1} does")
        self.does.activated.connect(self._on_operation)
        self.name = push("", self._on_name_clicked)
        self.name.setCheckable(True)
        self.name.setToolTip("Open this part: handles and numbers are its own")
        self.eye = tool("eye", f"Leave part {number + 1} out", self._on_eye, style="flat")
        self.away = tool("x", f"Take part {number + 1} away", self._on_away, style="flat")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(self.does)
        row.addWidget(self.name, 1)
        row.addWidget(self.eye)
        row.addWidget(self.away)
        self._is_off = False

    def show_part(self, part: ShapePart, *, is_open: bool) -> None:
        """Show what a part is."""
        self._is_off = part.is_off
        self.does.setCurrentIndex(OPERATIONS.index(part.does))
        self.does.setEnabled(self._number > 0)
        self.name.setText(shape_label(part.shape))
        self.name.setAccessibleName(f"ShapePart {self._number + 1}: {shape_label(part.shape)}")
        self.name.setChecked(is_open)
        self.name.setEnabled(not part.is_off)
        words = "Use" if part.is_off else "Leave out"
        self.eye.setToolTip(f"{words} part {self._number + 1}")

    def _do(self, step: str, **change: object) -> None:
        item = self._session.item
        if item is not None:
            self._session.apply(step, lambda job: change_part(job, item.id, self._number, **change))  # type: ignore[arg-type]

    def _on_operation(self, index: int) -> None:
        self._do(f"ShapePart: {OPERATIONS[index]}", does=OPERATIONS[index])

    def _on_eye(self) -> None:
        self._do("Use a part" if self._is_off else "Leave a part out", is_off=not self._is_off)

    def _on_name_clicked(self) -> None:
        self._session.open_part(self._number if self.name.isChecked() else None)

    def _on_away(self) -> None:
        item = self._session.item
        if item is not None:
            self._session.open_part(None)
            self._session.apply("Take a part away", lambda job: remove_part(job, item.id, self._number))


class PartsRows(StepBody):
    """Shown for any shape: its parts where it has some, and *Add a part*."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.rows: list[PartRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(5)
        self.add = QPushButton("Add a part")
        leave_keys(self.add)
        self.add.setAccessibleName("Add a part")
        self.add.setToolTip("Combine this shape with another inside the cutout")
        menu = QMenu(self.add)
        for does in OPERATIONS:
            menu.addAction(f"A part {_WORDS[does]}").triggered.connect(partial(self._on_add, does))
        self.add.setMenu(menu)
        line = QHBoxLayout()
        line.addWidget(self.add)
        line.addStretch(1)
        self._column.addLayout(line)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the parts of an item's shape."""
        parts = item.shape.parts if isinstance(item.shape, CombinedShape) else ()
        self.setVisible(item.shape is not None)
        self.setEnabled(not item.is_locked)
        while len(self.rows) > len(parts):
            gone = self.rows.pop()
            self._column.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        while len(self.rows) < len(parts):
            self.rows.append(PartRow(self._session, len(self.rows)))
            self._column.insertWidget(len(self.rows) - 1, self.rows[-1])
        for number, (row, part) in enumerate(zip(self.rows, parts, strict=True)):
            row.show_part(part, is_open=self._session.part == number)

    def _on_add(self, does: Operation) -> None:
        item = self._session.item
        if item is None:
            return
        if self._session.apply(f"Add a part: {does}", lambda job: add_part(job, item.id, does)):
            now = self._session.item
            if now is not None and isinstance(now.shape, CombinedShape):
                self._session.open_part(len(now.shape.parts) - 1)
