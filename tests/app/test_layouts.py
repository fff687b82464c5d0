"""Nested layouts are settled at once, and an opened step is in view."""

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from glasscap.app.widgets.layouts import settle_layouts
from glasscap.core.document.finishing.edits import add_stroke
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window


def test_a_row_that_comes_deep_within_is_laid_out_without_a_turn_of_the_event_loop(qtbot: QtBot) -> None:
    inner = QWidget()
    late = QLabel("one\ntwo\nthree")
    late.hide()
    holder = inner
    for level in range(6):
        column = QVBoxLayout(holder)
        if level == 5:
            column.addWidget(late)
            break
        below = QWidget()
        column.addWidget(below)
        holder = below
    area = QScrollArea(widgetResizable=True)
    area.setWidget(inner)
    qtbot.addWidget(area)
    area.resize(200, 20)
    area.show()
    qtbot.waitExposed(area)
    qtbot.wait(50)
    before = inner.height()
    late.show()
    settle_layouts()
    settled = inner.height()
    assert settled >= before + late.sizeHint().height()
    qtbot.wait(50)
    assert inner.height() == settled


@pytest.mark.parametrize(
    "way", [("mount", "strokes"), ("photo", "light"), ("arrange", "edge"), ("shape", "look")]
)
def test_an_opened_step_is_all_in_view_or_begins_at_the_top(placed: Hand, way: tuple[str, str]) -> None:
    steps, key = placed.studio.workbench.steps, placed.item().id
    placed.session.apply("Add strokes", lambda job: add_stroke(add_stroke(job, key), key))
    for name in way:
        steps.open_only(name)
        placed.settle()
    card, seen = steps.cards[way[-1]], steps._area.viewport()
    top = card.mapTo(seen, QPoint(0, 0)).y()
    assert top >= 0
    assert top + card.height() <= seen.height() or top <= 6


def test_no_card_is_wider_in_one_step_than_in_another(placed: Hand) -> None:
    """Else the panel would shift sideways from step to step, or be cut off at its right."""
    steps = placed.studio.workbench.steps
    widths = set()
    for key, card in steps.cards.items():
        steps.open_only(key)
        placed.settle()
        widths.add(card.width())
    assert len(widths) == 1
