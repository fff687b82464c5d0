"""The tray of a sheet with many cutouts: cards are made a few at a time, in their order, and go at once."""

import pytest

from glasscap.app.tray import tray as module
from glasscap.core.document.arranging.several import repeat_in_row
from glasscap.core.document.edits.items import move_to_place
from glasscap.core.document.edits.sheets import add_sheet
from glasscap.core.document.model.kinds import has_name
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window

MANY = 90


@pytest.fixture
def many(placed: Hand) -> Hand:
    """A row of cutouts, just made."""
    key = placed.item().id
    placed.session.apply("Repeat", lambda job: repeat_in_row(job, key, MANY, 5))
    return placed


def row(hand: Hand) -> list[str]:
    """The names on the cards as they stand in the row."""
    line = hand.studio.workbench.tray._line
    cards = [line.itemAt(n).widget() for n in range(line.count())]
    return [c.item.name for c in cards if isinstance(c, module.TrayCard) and not c.isHidden()]


def names(hand: Hand) -> list[str]:
    return [i.name for i in hand.session.sheet.items]


def test_a_few_cards_are_made_at_once_and_the_others_soon(many: Hand) -> None:
    there = row(many)
    assert module._AT_ONCE <= len(there) < MANY
    assert there == names(many)[: len(there)]
    many.settle(lambda: len(row(many)) == MANY)
    assert row(many) == names(many)


def test_what_is_there_already_stays_where_it_belongs(many: Hand) -> None:
    last = many.session.sheet.items[-1].id
    many.settle(lambda: len(row(many)) == MANY)
    many.session.apply("To the back", lambda job: move_to_place(job, last, 0))
    assert row(many) == names(many)


def test_cards_of_another_sheet_are_gone_at_once(many: Hand) -> None:
    many.settle(lambda: len(row(many)) == MANY)
    first, tray = many.session.sheet_id, many.studio.workbench.tray
    many.session.apply("Add a sheet", lambda job: add_sheet(job, first))
    many.session.show_sheet(many.session.job.sheets[1].id)
    assert (row(many), tray.cards) == ([], {})
    # The button that adds one and the space behind it are all that is left.
    assert tray._line.count() == 2
    many.session.show_sheet(first)
    many.settle(lambda: len(row(many)) == MANY)
    assert row(many) == names(many)


def test_of_many_that_are_found_the_cards_come_too(many: Hand) -> None:
    tray = many.studio.workbench.tray
    tray.begin_find()
    tray.finder.setText("3")
    wanted = [n for n in names(many) if has_name(many.item(names(many).index(n)), "3")]
    assert 10 < len(wanted) < MANY
    many.settle(lambda: row(many) == wanted)
    tray.finder.clear()
    many.settle(lambda: row(many) == names(many))
