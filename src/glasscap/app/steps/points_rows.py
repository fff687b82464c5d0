"""Editing an outline's points by number and command, beneath the shape's own numbers."""

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.shape_body import ShapeBody
from glasscap.app.widgets.buttons import CheckBox, push
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.menus import MenuEntry
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.core.document.arranging.several import Edge
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.placement import FARTHEST
from glasscap.core.document.shapes.chosen_points import (
    align_points,
    delete_points,
    move_points,
    set_kind,
    straighten,
)
from glasscap.core.document.shapes.points import nodes_on_sheet, to_points
from glasscap.core.shapes.kinds import PointsShape
from glasscap.core.shapes.nodes import NodeKind, Nodes, present

_ALIGNMENTS: tuple[tuple[Edge, str], ...] = (
    ("left", "Align points left"),
    ("middle", "Align points to one upright line"),
    ("right", "Align points right"),
    ("top", "Align points at the top"),
    ("centre", "Align points to one level line"),
    ("bottom", "Align points at the bottom"),
)


class PointsRows(ShapeBody):
    """Edit points, or turn the shape into points first; handles, place, menu of the chosen ones."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.edit = push("Edit points", self._on_edit_clicked)
        self.edit.setCheckable(True)
        self.turn = push("Turn into points", self._on_turn_clicked)
        self.turn.setToolTip(
            "The shape keeps its form; every point of it can be moved. Undo brings its numbers back"
        )
        self.is_even = CheckBox("Even handles")
        self.is_even.setToolTip("Both handles of the chosen points are in line and equally long")
        self.is_even.clicked.connect(self._on_even)
        self.place = PairRow(
            "Point",
            NumberSpec("Point x", "x", -FARTHEST, FARTHEST),
            NumberSpec("Point y", "y", -FARTHEST, FARTHEST),
            self._ppi,
            reset_words="",
        )
        self.place.label.setToolTip("Where the chosen point is")
        self.place.stepped.connect(self._on_place_stepped)
        self.place.refused.connect(session.problem_found)
        self.straight = push("Straighten", self._on_straighten)
        self.straight.setToolTip("Take the chosen points' handles away")
        self.delete = push("Delete", self._on_delete)
        self.delete.setAccessibleName("Delete points")
        self._chosen_rows = self._lay_out()

    def _lay_out(self) -> QWidget:
        column = row_column(self)
        column.addLayout(_row(self.edit, self.turn))
        made = QWidget()
        rows = row_column(made)
        rows.addWidget(self.is_even)
        rows.addWidget(self.place)
        rows.addLayout(_row(self.straight, self.delete))
        column.addWidget(made)
        return made

    def show_item(self, item: Item, job: Job) -> None:
        """Show what can be done with the points of an item's shape."""
        is_points, is_editing = isinstance(item.shape, PointsShape), self._session.is_editing_points
        self.setVisible(item.shape is not None)
        self.setEnabled(not item.is_locked)
        self.edit.setVisible(is_points)
        self.edit.setChecked(is_editing)
        self.turn.setVisible(not is_points)
        self._chosen_rows.setVisible(is_editing)
        if is_editing:
            self._show_chosen(nodes_on_sheet(item))

    def _show_chosen(self, nodes: Nodes) -> None:
        chosen = [nodes[k][n] for k, n in present(nodes, self._session.chosen_points)]
        for widget in (self.is_even, self.place, self.straight, self.delete):
            widget.setEnabled(bool(chosen))
        self.is_even.setChecked(bool(chosen) and all(n.kind == "symmetric" for n in chosen))
        xs, ys = {round(n.x, 6) for n in chosen}, {round(n.y, 6) for n in chosen}
        self.place.show_values(xs.pop() if len(xs) == 1 else None, ys.pop() if len(ys) == 1 else None)

    def _on_edit_clicked(self) -> None:
        self._session.set_editing_points(self.edit.isChecked())

    def _on_turn_clicked(self) -> None:
        self._edit("Turn into points", to_points)
        item = self._session.seen_item
        if item is not None and isinstance(item.shape, PointsShape):
            self._session.set_editing_points(True)

    @property
    def entries(self) -> list[MenuEntry | None]:
        """What can be done to the chosen points, as a menu."""
        item = self._session.seen_item
        nodes = () if item is None else nodes_on_sheet(item)
        chosen = [nodes[k][n] for k, n in present(nodes, self._session.chosen_points)]
        is_even = bool(chosen) and all(n.kind == "symmetric" for n in chosen)
        there, several = bool(chosen), len(chosen) > 1
        words = "Uneven handles" if is_even else "Even handles"
        aligned = [MenuEntry(name, partial(self.align, key), is_possible=several) for key, name in _ALIGNMENTS]
        return [
            MenuEntry(words, partial(self._on_even, not is_even), "", there),
            MenuEntry("Straighten", self._on_straighten, "", there),
            None,
            *aligned,
            None,
            MenuEntry("Delete points", self._on_delete, "Del", there),
        ]

    def _on_even(self, is_even: bool) -> None:
        chosen = self._session.chosen_points
        kind: NodeKind = "symmetric" if is_even else "smooth"
        words = "Even handles" if is_even else "Uneven handles"
        self._edit(words, lambda job, item_id: set_kind(job, item_id, chosen, kind))

    def _on_place_stepped(self, x: float | None, y: float | None) -> None:
        """Move the chosen points so that the first of them is at a typed place."""
        item = self._session.seen_item
        nodes = () if item is None else nodes_on_sheet(item)
        chosen = present(nodes, self._session.chosen_points)
        if not chosen:
            return
        first = nodes[min(chosen)[0]][min(chosen)[1]]
        dx, dy = (0.0 if x is None else x - first.x), (0.0 if y is None else y - first.y)
        self._edit("Place points", lambda job, item_id: move_points(job, item_id, chosen, dx, dy))

    def align(self, edge: Edge) -> None:
        """Bring the chosen points onto one line."""
        chosen = self._session.chosen_points
        self._edit("Align points", lambda job, item_id: align_points(job, item_id, chosen, edge))

    def _on_straighten(self) -> None:
        chosen = self._session.chosen_points
        self._edit("Straighten", lambda job, item_id: straighten(job, item_id, chosen))

    def _on_delete(self) -> None:
        chosen = self._session.chosen_points
        self._edit("Delete points", lambda job, item_id: delete_points(job, item_id, chosen))
        self._session.choose_points(frozenset())


def _row(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setSpacing(5)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return row
