"""Beneath the steps: what is selected aligned, spread, scaled and turned together, repeated."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtWidgets import QWidget

from glasscap.app.session import Session
from glasscap.app.steps.step_body import StepBody, body_column, named_row
from glasscap.app.widgets.buttons import Choice, push, tool
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.arranging.several import (
    Against,
    Edge,
    Way,
    align,
    gap_of,
    repeat_in_ring,
    repeat_in_row,
    scale_items,
    spread,
    turn_items,
)
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item, group_of
from glasscap.core.document.shapes.chosen_points import align_points
from glasscap.core.errors import GlassCapError

_EDGES: tuple[tuple[Edge, str, str], ...] = (
    ("left", "align-start-vertical", "Align left"),
    ("middle", "align-center-vertical", "Align to the middle"),
    ("right", "align-end-vertical", "Align right"),
    ("top", "align-start-horizontal", "Align at the top"),
    ("centre", "align-center-horizontal", "Align to the centre line"),
    ("bottom", "align-end-horizontal", "Align at the bottom"),
)
ManyEdit = Callable[[Job, Sequence[str]], Job]
_SCALE_SLIDER, _SEVERAL = (10.0, 400.0), 2
_DEFAULT_COPIES, _DEFAULT_GAP, _LABEL = 6, 12.0, 48


class ArrangeCard(StepBody):
    """Acts on all that is selected; every control is one step."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._against: Against = "sheet"
        self._way: Way = "across"
        choices = (("sheet", "Sheet"), ("group", "Group"), ("each other", "Each other"))
        self.against = Choice("Against", choices, self._on_against, is_tight=True)
        self.edges = [tool(icon, name, partial(self._on_align, edge)) for edge, icon, name in _EDGES]
        self.across = tool("spread-across", "Equal gaps across", partial(self._on_spread, "across"))
        self.down = tool("spread-down", "Equal gaps down", partial(self._on_spread, "down"))
        self.gap = NumberField(NumberSpec("Gap", "px", -1e5, 1e5), self._ppi)
        self.gap.setToolTip("Type a gap: the first stays, the others follow it")
        self.scale = SliderRow(NumberSpec("Scale", "%", 0.1, 100_000), reset_to=100.0, is_logarithmic=True)
        self.scale.set_slider_range(*_SCALE_SLIDER)
        self.turn = SliderRow(NumberSpec("Turn", "°", -360, 360), reset_to=0.0)
        self.turn.set_slider_range(-180, 180)
        self.count = NumberField(NumberSpec("How many", "", 2, 1000, decimals=0))
        self.distance = NumberField(NumberSpec("Gap or radius", "px", -1e5, 1e5), self._ppi)
        self.row = push("Row", partial(self._on_repeat, is_ring=False))
        self.row.setToolTip("Copies side by side, the number is the gap between them")
        self.ring = push("Ring", partial(self._on_repeat, is_ring=True))
        self.ring.setToolTip("Copies round a ring, the number is its radius")
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = body_column(self)
        column.addWidget(named_row("Against", self.against, width=_LABEL))
        column.addWidget(named_row("Align", *self.edges, width=_LABEL, spacing=3))
        self._spread_row = named_row("Space", self.across, self.down, self.gap, width=_LABEL, spacing=3)
        column.addWidget(self._spread_row)
        column.addWidget(self.scale)
        column.addWidget(self.turn)
        column.addWidget(named_row("Repeat", self.count, self.row, self.ring))
        column.addWidget(named_row("Apart", self.distance))
        self.count.setFixedWidth(48)
        self.distance.setFixedWidth(84)
        self.gap.setFixedWidth(74)

    def _connect(self) -> None:
        self.scale.moved.connect(self._on_scale_moved)
        self.scale.stepped.connect(self._on_scaled)
        self.turn.moved.connect(self._on_turn_moved)
        self.turn.stepped.connect(self._on_turned)
        self.gap.stepped.connect(self._on_gap)
        for row in (self.scale, self.turn, self.gap, self.count, self.distance):
            row.refused.connect(self._session.problem_found)
        self.count.show_value(_DEFAULT_COPIES)
        self.distance.show_value(_DEFAULT_GAP)

    def show_item(self, item: Item, job: Job) -> None:
        """Show what can be done with what is selected."""
        session = self._session
        group, is_one = group_of(job, item.id), len(session.chosen_ids) < _SEVERAL
        self.against.buttons["group"].setVisible(group is not None)
        self.against.buttons["group"].setText("Group" if group is None else group.name)
        self.against.buttons["each other"].setVisible(not is_one)
        if (self._against == "group" and group is None) or (self._against == "each other" and is_one):
            self._against = "sheet"
        self.against.show_choice(self._against)
        self._spread_row.setVisible(not is_one)
        self.across.setEnabled(len(session.chosen_ids) > _SEVERAL)
        self.down.setEnabled(len(session.chosen_ids) > _SEVERAL)
        if not is_one:
            self._way = _way(job, session.chosen_ids)
            self.gap.show_value(gap_of(job, session.chosen_ids, self._way))
        if not session.is_previewing:
            self.scale.show_value(100.0)
            self.turn.show_value(0.0)

    def _on_against(self, key: str) -> None:
        self._against = next(k for k in ("sheet", "group", "each other") if k == key)
        self.against.show_choice(key)

    def _on_align(self, edge: Edge) -> None:
        session = self._session
        chosen, against, points = session.chosen_ids, self._against, session.chosen_points
        item = session.item
        if session.is_editing_points and item is not None and len(points) > 1:
            session.apply("Align points", lambda job: align_points(job, item.id, points, edge))
            return
        session.apply("Align", lambda job: align(job, chosen, edge, against))

    def _on_spread(self, way: Way) -> None:
        chosen = self._session.chosen_ids
        self._session.apply("Equal gaps", lambda job: spread(job, chosen, way))

    def _on_gap(self, gap: float) -> None:
        chosen, way = self._session.chosen_ids, self._way
        self._session.apply("Set the gaps", lambda job: spread(job, chosen, way, gap))

    def _on_scale_moved(self, percent: float) -> None:
        self._show(lambda job, chosen: scale_items(job, chosen, percent / 100))

    def _on_scaled(self, percent: float) -> None:
        chosen = self._session.chosen_ids
        self._session.apply("Scale", lambda job: scale_items(job, chosen, percent / 100))

    def _on_turn_moved(self, degrees: float) -> None:
        self._show(lambda job, chosen: turn_items(job, chosen, degrees))

    def _on_turned(self, degrees: float) -> None:
        chosen = self._session.chosen_ids
        self._session.apply("Turn", lambda job: turn_items(job, chosen, degrees))

    def _show(self, edit: ManyEdit) -> None:
        session = self._session
        try:
            session.preview(edit(session.committed, session.chosen_ids))
        except GlassCapError as error:
            session.problem_found.emit(error.line)

    def _on_repeat(self, *, is_ring: bool) -> None:
        item, count = self._session.item, round(self.count.value or _DEFAULT_COPIES)
        distance = self.distance.value or 0.0
        if item is None:
            return
        if is_ring:
            self._session.apply("Repeat in a ring", lambda job: repeat_in_ring(job, item.id, count, distance))
        else:
            self._session.apply("Repeat in a row", lambda job: repeat_in_row(job, item.id, count, distance))


def _way(job: Job, item_ids: tuple[str, ...]) -> Way:
    """Return the way items lie beside one another: the one their middles are further apart in."""
    boxes = [box for i in item_ids if (box := item_box(job, find_item(job, i))) is not None]
    xs, ys = ([box.centre[n] for box in boxes] or [0.0] for n in (0, 1))
    return "across" if max(xs) - min(xs) >= max(ys) - min(ys) else "down"
