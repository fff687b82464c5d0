"""Groups, several cutouts and arranging in the window, as a user works on them."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtTest import QTest

from glasscap.app.bench.pills import Pills
from glasscap.app.session import Session
from glasscap.app.tray.drop_place import drop_place
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.document.model.boxes import content_box, item_box
from glasscap.core.document.model.query import find_item, items_of
from glasscap.core.geometry.types import Box
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, finished
from tests.core.document.samples_of_many import COLOURS, job_of, painted, waiting

pytestmark = pytest.mark.shared_window

NO_KEYS, SHIFT = Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def many(hand: Hand) -> Hand:
    """Four squares in a row, and one below them."""
    boxes = [
        Box(20, 20, 80, 80),
        Box(100, 20, 160, 80),
        Box(200, 20, 260, 80),
        Box(320, 20, 380, 80),
        Box(20, 200, 80, 260),
    ]
    items = [painted(f"i{n}", box, COLOURS[n]) for n, box in enumerate(boxes, 1)]
    hand.studio.show_job(job_of(items), hand.session.store, None)
    hand.session.select(())
    hand.session.set_grip("together")
    hand.settle()
    return hand


def left(session: Session, key: str) -> float:
    return item_box(session.job, find_item(session.job, key)).x0


def grouped(hand: Hand, *keys: str) -> str:
    hand.session.select(keys)
    hand.do("group")
    hand.settle()
    return hand.session.selected[0]


def test_a_frame_selects_what_lies_in_it(many: Hand) -> None:
    many.drag((5, 5), (270, 120))
    assert many.session.selected == ("i1", "i2", "i3")
    many.drag((300, 5), (399, 120), keys=SHIFT)
    assert many.session.selected == ("i1", "i2", "i3", "i4")
    many.drag((5, 120), (270, 130))
    assert many.session.selected == ()
    assert many.session.undo_label is None


def test_several_move_scale_and_turn_together(many: Hand) -> None:
    session = many.session
    session.select(("i1", "i2"))
    many.drag((50, 50), (60, 60), keys=Qt.KeyboardModifier.ControlModifier)
    assert left(session, "i2") - left(session, "i1") == pytest.approx(80)
    assert left(session, "i1") > 25
    session.undo()
    handles = {(h.kind, h.u, h.v): h for h in many.bench.driver.handles()}
    corner = handles["corner", 1.0, 1.0]
    many.do("snap")
    many.drag((corner.x, corner.y), (corner.x + 140, corner.y + 60))
    many.do("snap")
    assert item_box(session.job, find_item(session.job, "i2")).width == pytest.approx(120, abs=1)
    session.undo()
    turn = handles["turn", 0.0, -1.0]
    many.drag((turn.x, turn.y), (200, 50), keys=SHIFT)
    assert find_item(session.job, "i1").shape_placement.rotation == 90
    session.undo()
    assert session.job.sheets[0].items[0].shape_placement.rotation == 0


def test_a_group_is_made_opened_left_and_ungrouped(many: Hand) -> None:
    session = many.session
    key = grouped(many, "i1", "i2")
    assert find_item(session.job, key).name == "Group"
    assert session.undo_label == "Group"
    many.click(many.bench, many.at(130, 50))
    assert session.selected == (key,)
    QTest.mouseDClick(many.bench, Qt.MouseButton.LeftButton, NO_KEYS, many.at(130, 50))
    assert (session.open_group, session.selected) == (key, ("i2",))
    many.drag((130, 50), (140, 130), keys=Qt.KeyboardModifier.ControlModifier)
    assert left(session, "i1") == 20
    assert left(session, "i2") != 100
    many.key(Qt.Key.Key_Escape)
    assert (session.open_group, session.selected) == (None, (key,))
    many.do("ungroup")
    assert session.selected == ("i1", "i2")
    for _ in range(3):
        session.undo()
    assert [i.id for i in session.sheet.items] == ["i1", "i2", "i3", "i4", "i5"]


def test_a_click_outside_leaves_the_open_group(many: Hand) -> None:
    session = many.session
    key = grouped(many, "i1", "i2")
    session.enter_group(key)
    many.click(many.bench, many.at(230, 50))
    assert (session.open_group, session.selected) == (None, ("i3",))
    session.enter_group(key)
    many.click(many.bench, many.at(300, 150))
    assert session.open_group is None


def test_grips_on_a_group_hold_contents_shape_or_both(many: Hand) -> None:
    session = many.session
    items = [*session.sheet.items, waiting("i9", Box(30, 10, 150, 90))]
    many.studio.show_job(job_of(items), session.store, None)
    key = grouped(many, "i1", "i2", "i9")
    before = find_item(session.job, key)
    for grip, moves in (("photo", (True, False)), ("shape", (False, True)), ("together", (True, True))):
        session.set_grip(grip)
        many.key(Qt.Key.Key_Right, SHIFT)
        now = find_item(session.job, key)
        assert (content_box(session.job, now) != content_box(session.job, before)) == moves[0]
        assert (now.shape_placement != before.shape_placement) == moves[1]
        session.undo()


def test_the_tray_shows_groups_in_place_and_takes_drops(many: Hand) -> None:
    session, tray = many.session, many.studio.workbench.tray
    key = grouped(many, "i1", "i2")
    frame = tray.groups[key]
    assert frame.accessibleName() == "Group Group, 2"
    assert [frame.line.itemAt(n).widget().item.id for n in range(2)] == ["i1", "i2"]
    inside = drop_place(tray._row, tray._line, frame.x() + frame.width() // 2 + 8)
    assert (inside.container_id, inside.place) == (key, 1)
    tray.reorder("i5", inside.place, inside.container_id)
    assert [i.id for i in find_item(session.job, key).items] == ["i1", "i5", "i2"]
    many.settle()
    outside = drop_place(tray._row, tray._line, tray.cards["i4"].geometry().right())
    assert (outside.container_id, outside.place) == ("", 3)
    tray.reorder("i1", outside.place)
    assert [i.id for i in session.sheet.items] == [key, "i3", "i4", "i1"]


def test_a_group_folds_up_in_the_tray(many: Hand) -> None:
    session, tray = many.session, many.studio.workbench.tray
    key = grouped(many, "i1", "i2")
    many.click(tray.groups[key], QPoint(12, 12))
    many.settle()
    assert key in tray.cards
    assert "i1" not in tray.cards
    assert tray.cards[key].accessibleName() == "Group Group"
    many.click(tray.cards[key], QPoint(12, 12))
    assert key in tray.groups
    tray.fold(key)
    session.select(("i2",))
    assert "i2" in tray.cards


def test_clicks_on_a_groups_head_select_and_open_it(many: Hand) -> None:
    session, tray = many.session, many.studio.workbench.tray
    key = grouped(many, "i1", "i2")
    session.select(("i3",))
    many.click(tray.groups[key], QPoint(10, 60))
    assert session.selected == (key,)
    QTest.mouseDClick(tray.groups[key], Qt.MouseButton.LeftButton, NO_KEYS, QPoint(10, 60))
    assert session.open_group == key
    session.select((key,))
    many.do("rename")
    (editor,) = tray.groups[key].findChildren(NameEditor)
    editor.selectAll()
    QTest.keyClicks(editor, "Shelf")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert find_item(session.job, key).name == "Shelf"
    session.select(())
    QTest.keyClick(tray.groups[key], Qt.Key.Key_Space)
    assert session.selected == (key,)


def test_a_name_is_found(many: Hand) -> None:
    session, tray = many.session, many.studio.workbench.tray
    key = grouped(many, "i1", "i2")
    many.do("find")
    QTest.keyClicks(tray.finder, "tile I2")
    assert {i for i, c in tray.cards.items() if c.isVisible()} == {"i2"}
    assert tray.groups[key].isVisible()
    QTest.keyClick(tray.finder, Qt.Key.Key_Return)
    assert session.selected == ("i2",)
    QTest.keyClick(tray.finder, Qt.Key.Key_Escape)
    assert not tray.finder.isVisible()
    assert set(tray.cards) == {"i1", "i2", "i3", "i4", "i5"}


def test_finishes_and_opacity_are_the_groups_own(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    key = grouped(many, "i1", "i2")
    assert steps.cards["photo"].header.words.toolTip() == "2 cutouts"
    steps.open_only("look")
    many.type(steps.look.opacity.field, "40")
    assert find_item(session.job, key).opacity == 0.4
    steps.open_only("photo")
    many.click(steps.photo.held)
    assert session.open_group == key


def test_a_group_takes_a_shape_from_the_library(many: Hand) -> None:
    session = many.session
    key = grouped(many, "i1", "i2")
    session.set_library(True)
    many.settle()
    many.studio.workbench.library.grid.chosen.emit("circle")
    assert find_item(session.job, key).shape.name == "circle"
    assert len(find_item(session.job, key).items) == 2


def test_groups_are_saved_and_opened(many: Hand, tmp_path: Path) -> None:
    key = grouped(many, "i1", "i2")
    finished(many.studio.files.save_to(tmp_path / "cards.glasscap"))
    assert [i.id for i in find_item(open_job(tmp_path / "cards.glasscap").job, key).items] == ["i1", "i2"]


def test_a_photo_dropped_on_a_group_goes_into_the_cutout_beneath(many: Hand, photo: Path) -> None:
    grouped(many, "i1", "i2")
    many.session.select(())
    at = many.at(130, 50)
    assert many.bench._item_at(at.x(), at.y()).id == "i2"
    many.drop(photo, on="i2")
    assert many.session.photo is not None


def test_copy_paste_and_duplicate_keep_groups_whole(many: Hand) -> None:
    session = many.session
    key = grouped(many, "i1", "i2")
    many.do("copy")
    many.do("paste")
    assert [len(i.items) for i in session.sheet.items if i.is_group] == [2, 2]
    many.do("duplicate")
    assert [len(i.items) for i in session.sheet.items if i.is_group] == [2, 2, 2]
    ids = [i.id for _, i in items_of(session.job)]
    assert len(ids) == len(set(ids))
    session.select((key, "i1"))
    many.do("delete")
    assert key not in [i.id for _, i in items_of(session.job)]


def test_same_kind_selects_alike(many: Hand) -> None:
    key = grouped(many, "i1", "i2")
    many.session.select(("i3",))
    many.do("select_alike")
    assert set(many.session.selected) == {"i3", "i4", "i5"}
    assert key not in many.session.selected


# arranging


def test_what_is_selected_is_aligned_and_spread(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    session.select(("i1", "i2", "i3", "i4"))
    steps.open_only("arrange")
    card = steps.arrange
    many.click(card.across)
    assert [left(session, f"i{n}") for n in range(1, 5)] == [20, 120, 220, 320]
    many.settle()
    assert card.gap.value == 40
    many.type(card.gap, "10")
    assert [left(session, f"i{n}") for n in range(1, 5)] == [20, 90, 160, 230]
    many.click(card.against.buttons["each other"])
    many.click(card.edges[0])
    assert [left(session, f"i{n}") for n in range(1, 5)] == [20] * 4
    assert session.undo_label == "Align"
    for _ in range(3):
        session.undo()
    assert left(session, "i3") == 200


def test_against_a_group_is_offered_within_one(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    grouped(many, "i1", "i2")
    session.select(("i1",))
    steps.open_only("arrange")
    card = steps.arrange
    assert card.against.buttons["group"].text() == "Group"
    many.click(card.against.buttons["group"])
    many.click(card.edges[2])
    assert left(session, "i1") == 100
    session.select(("i4",))
    many.settle()
    assert card.against.buttons["group"].isHidden()


def test_scale_and_turn_are_seen_before_they_are_done(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    session.select(("i1", "i2"))
    steps.open_only("arrange")
    card = steps.arrange
    card.scale.moved.emit(200.0)
    assert session.is_previewing
    assert item_box(session.job, find_item(session.job, "i1")).width == 120
    card.scale.stepped.emit(200.0)
    assert (session.undo_label, session.is_previewing) == ("Scale", False)
    session.undo()
    card.turn.moved.emit(90.0)
    card.turn.stepped.emit(90.0)
    assert find_item(session.job, "i1").shape_placement.rotation == 90


def test_copies_in_a_row_and_in_a_ring(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    session.select(("i5",))
    steps.open_only("arrange")
    card = steps.arrange
    many.type(card.count, "3")
    many.type(card.distance, "20")
    many.click(card.row)
    assert [item_box(session.job, i).x0 for i in session.sheet.items[4:]] == [20, 100, 180]
    session.undo()
    many.type(card.count, "5")
    many.type(card.distance, "40")
    many.click(card.ring)
    assert len(session.sheet.items) == 9
    session.undo()
    assert len(session.sheet.items) == 5


def test_gaps_to_neighbours_are_shown_and_become_equal(many: Hand) -> None:
    session = many.session
    session.select(("i3",))
    # From a gap of 40 to one like the others' 20: 180 is where it would be equal.
    many.drag((230, 50), (212, 50), is_released=False)
    shown = many.bench.driver.shown
    assert {round(d.length) for d in shown.distances} >= {20}
    assert any(d.is_equal for d in shown.distances)
    many.settle()
    many.move(QPointF(many.at(212, 50)), NO_KEYS)
    QTest.mouseRelease(many.bench, Qt.MouseButton.LeftButton, NO_KEYS, many.at(212, 50))
    assert left(session, "i3") == 180


def test_what_a_drag_has_done_does_not_hide_the_gaps_to_neighbours(
    many: Hand, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn: dict[str, QRectF] = {}
    draw = Pills.draw

    def noted(pills: Pills, words: str, places: list[QPointF], **more: int) -> QRectF:
        drawn[words] = draw(pills, words, places, **more)
        return drawn[words]

    many.session.select(("i3",))
    # Where the pill above the pointer would lie over the gap's.
    many.drag((205, 70), (195, 70), is_released=False)
    many.settle()
    monkeypatch.setattr(Pills, "draw", noted)
    many.bench.grab()
    QTest.mouseRelease(many.bench, Qt.MouseButton.LeftButton, NO_KEYS, many.at(195, 70))
    boxes = list(drawn.values())
    assert len(boxes) > 3
    assert not any(one.intersects(other) for n, one in enumerate(boxes) for other in boxes[:n])


def test_one_value_changes_all_that_are_selected(many: Hand) -> None:
    session, steps = many.session, many.studio.workbench.steps
    session.select(("i1", "i2", "i3"))
    steps.open_only("look")
    many.type(steps.look.opacity.field, "50")
    assert [i.opacity for i in session.sheet.items] == [0.5, 0.5, 0.5, 1.0, 1.0]
    assert session.undo_label == "Change the opacity"
    session.undo()
    assert {i.opacity for i in session.sheet.items} == {1.0}


def test_what_is_made_while_a_group_is_open_lies_in_it(many: Hand, photo: Path) -> None:
    session = many.session
    key = grouped(many, "i1", "i2")
    session.enter_group(key)
    many.do("draw")
    many.drag((30, 120), (90, 180))
    assert [i.id for i in find_item(session.job, key).items][:2] == ["i1", "i2"]
    assert len(find_item(session.job, key).items) == 3
    session.enter_group(key)
    many.drop(photo)
    assert len(find_item(session.job, key).items) == 4
    session.enter_group(key)
    many.studio.workbench.bench.lettering.begin()
    assert len(find_item(session.job, key).items) == 5
    assert [i.id for i in session.sheet.items] == [key, "i3", "i4", "i5"]
