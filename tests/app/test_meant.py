"""What is selected is what is meant."""

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from glasscap.app.bench.item_lines import waiting_words_box
from glasscap.app.bench.typing import carets_on_sheet
from glasscap.cli.main import main
from glasscap.core.document.edits.items import add_items
from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.formats.png import write_png
from glasscap.core.shapes.kinds import LettersShape, library_shape
from glasscap.editor.picking import shows_at
from tests.app.answers import answer
from tests.app.conftest import Hand, drop, files, finished
from tests.samples import png_photo

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def said(hand: Hand) -> str:
    return "" if hand.studio.toast.isHidden() else hand.studio.toast.text.text()


@pytest.fixture
def waiting(placed: Hand) -> Hand:
    """A selected heart that waits for a photo, beside a cutout."""
    heart = Cutout("w1", "Heart", shape=library_shape("heart"), shape_placement=ShapePlacement(60, 60, 80, 70))
    placed.session.apply("Add a shape", lambda job: add_items(job, "s1", [heart]))
    placed.session.select(("w1",))
    return placed


@pytest.fixture
def two(placed: Hand, tmp_path: Path) -> Hand:
    """Two cutouts, both selected."""
    (tmp_path / "jug.png").write_bytes(png_photo(120, 200, seed=5))
    placed.drop(tmp_path / "jug.png")
    placed.session.select([i.id for i in placed.session.sheet.items])
    return placed


@pytest.mark.parametrize("way", ["add", "beside", "paste"])
def test_a_waiting_shape_that_is_selected_takes_what_comes(waiting: Hand, tmp_path: Path, way: str) -> None:
    paths = [tmp_path / "jug.png", tmp_path / "bowl.png"]
    for n, path in enumerate(paths):
        path.write_bytes(png_photo(90 + n, 70, seed=n))
    if way == "beside":
        drop(waiting.bench, files(*paths), QPoint(4, 4))
    else:
        waiting.studio.take_paths(tuple(paths))
    waiting.settle()
    first, second = (i for i in waiting.session.sheet.items if i.shape.name == "heart")
    assert (first.id, first.name, second.name) == ("w1", "Jug", "Bowl")
    assert (first.shape_placement.width, second.shape_placement.width) == (80, 80)
    assert second.shape_placement.x == 60 + 80 + 20
    assert set(waiting.session.selected) == {first.id, second.id}
    waiting.do("undo")
    assert find_item(waiting.session.job, "w1").content is None


def test_the_words_of_a_waiting_shape_are_clicked(waiting: Hand, picture: Path, monkeypatch) -> None:
    answer(monkeypatch, "files_to_open", (picture,))
    waiting.session.select(())
    item = find_item(waiting.session.job, "w1")
    box = waiting_words_box(waiting.session.job, item, waiting.bench.to_view)
    waiting.click(waiting.bench, box.center().toPoint())
    waiting.wait_for_errands()
    assert find_item(waiting.session.job, "w1").content is not None
    assert waiting.session.selected == ("w1",)


def test_a_picture_with_its_own_transparency_lands_as_it_is(placed: Hand, tmp_path: Path) -> None:
    rgba = np.zeros((60, 80, 4), np.uint8)
    rgba[10:50, 10:70] = (200, 90, 30, 255)
    logo, photo = tmp_path / "mark.png", tmp_path / "jug.png"
    logo.write_bytes(write_png(rgba))
    photo.write_bytes(png_photo(90, 70))
    placed.drop(logo, photo)
    mark, jug = placed.session.sheet.items[-2:]
    assert (mark.name, mark.shape) == ("Mark", None)
    assert jug.shape.name == "circle"


COMMANDS = (
    "copy", "cut", "duplicate", "delete", "group", "ungroup", "enter", "hide", "lock", "mask", "take_apart", "join",
    "another", "cover", "fit_inside", "forward", "to_back", "select_alike", "copy_picture", "series",
)  # fmt: skip


def test_no_command_does_nothing_in_silence(placed: Hand) -> None:
    placed.session.select(())
    job = placed.session.job
    for command in COMMANDS:
        placed.studio.toast.hide()
        placed.do(command)
        assert placed.session.job is job
        assert said(placed).startswith(("Select", "To join")), command


def test_join_takes_a_new_shape_for_the_mask(waiting: Hand) -> None:
    photo = waiting.session.sheet.items[0]
    waiting.session.select((photo.id, "w1"))
    waiting.do("join")
    (joined,) = waiting.session.sheet.items
    assert (joined.id, joined.shape.name) == (photo.id, "heart")
    assert joined.content_placement == photo.content_placement


def test_shapes_sizes_and_fits_change_all_that_are_selected(two: Hand) -> None:
    two.studio.workbench.library.grid.chosen.emit("heart")
    assert {i.shape.name for i in two.session.sheet.items} == {"heart"}
    steps = two.studio.workbench.steps
    steps.open_only("shape")
    two.type(steps.shape.size_row.first, "90")
    assert {i.shape_placement.width for i in two.session.sheet.items} == {90}
    before = [i.content_placement.scale_x for i in two.session.sheet.items]
    two.do("cover")
    after = [i.content_placement.scale_x for i in two.session.sheet.items]
    assert all(a < b for a, b in zip(after, before, strict=True))
    two.do("undo")
    assert [i.content_placement.scale_x for i in two.session.sheet.items] == before


def test_the_bar_tells_the_worst_of_several(two: Hand) -> None:
    session = two.session
    jug = session.sheet.items[-1]
    session.select((jug.id,))
    session.set_grip("photo")
    two.bench.setFocus()
    for _ in range(5):
        two.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    session.select([i.id for i in session.sheet.items])
    two.settle(lambda: "bare" in two.studio.workbench.bar.meter.text())
    assert two.studio.workbench.bar.meter.text().startswith("Jug ")


def test_export_lists_all_that_are_selected_and_a_written_list_stays(two: Hand, tmp_path: Path) -> None:
    out = tmp_path / "out"
    out.mkdir()
    path = tmp_path / "trail.glasscap"
    finished(two.studio.files.save_to(path))
    two.do("export")
    view = two.studio.workbench.export
    assert len(view.outputs) == 2
    assert two.session.job.outputs == ()
    assert finished(view.write_to(out))
    assert len(two.session.job.outputs) == 2
    finished(two.studio.files.save())
    again = tmp_path / "again"
    again.mkdir()
    assert main(["export", str(path), "-o", str(again)]) == 0
    assert sorted(p.name for p in again.iterdir()) == sorted(p.name for p in out.iterdir())


def test_a_click_beside_the_cutout_does_not_turn_the_export_into_the_sheet(placed: Hand) -> None:
    key = placed.item().id
    placed.click(placed.bench, QPoint(3, 3))
    assert placed.session.selected == ()
    placed.do("export")
    assert [o.item_id for o in placed.studio.workbench.export.outputs] == [key]


def test_more_cutouts_are_added_or_offered(two: Hand) -> None:
    one, other = two.session.sheet.items
    two.session.select((one.id,))
    two.do("export")
    view = two.studio.workbench.export
    view.list.again.click()
    assert [o.item_id for o in two.session.job.outputs] == [one.id, one.id]
    assert len({o.name for o in two.session.job.outputs}) == 2
    two.session.select((other.id,))
    view.list.add_cutout.click()
    assert two.session.job.outputs[-1].item_id == other.id


# letters


@pytest.fixture
def word(placed: Hand) -> Hand:
    """A word without a photo over the plate."""
    placed.session.select(())
    placed.bench.lettering.begin()
    placed.key(Qt.Key.Key_Escape)
    assert isinstance(placed.item().shape, LettersShape)
    return placed


def between_letters(hand: Hand) -> tuple[float, float]:
    """A place in the word's frame, between its letters, where the plate shows through."""
    foot, head = carets_on_sheet(hand.item(), hand.bench.lettering)[2]
    x, y = (foot.x() + head.x()) / 2, (foot.y() + head.y()) / 2
    assert not shows_at(hand.session.job, hand.item(), x, y)
    return x, y


def test_a_drag_between_letters_means_the_word(word: Hand) -> None:
    key, before = word.item().id, word.item().shape_placement
    x, y = between_letters(word)
    word.drag((x, y), (x + 20, y + 10), keys=Qt.KeyboardModifier.ControlModifier)
    assert word.session.selected == (key,)
    now = word.item().shape_placement
    assert (now.x - before.x, now.y - before.y) == pytest.approx((20, 10), abs=1)


def test_a_double_click_between_letters_types(word: Hand) -> None:
    x, y = between_letters(word)
    QTest.mouseClick(word.bench, LEFT, NONE, word.at(x, y))
    QTest.mouseDClick(word.bench, LEFT, NONE, word.at(x, y))
    assert word.session.is_typing


def test_one_double_click_types_however_deep_the_word_lies(word: Hand) -> None:
    key = word.item().id
    for _ in range(2):
        word.do("group")
    word.session.select(())
    place = find_item(word.session.job, key).shape_placement
    x, y = place.x - place.width / 2 + 3, place.y
    QTest.mouseDClick(word.bench, LEFT, NONE, word.at(x, y))
    assert word.session.selected == (key,)
    assert word.session.is_typing


# undo, names, tray


def test_undo_and_redo_select_what_they_brought_back(two: Hand) -> None:
    gone = two.session.selected[0]
    two.session.select((gone,))
    two.do("delete")
    assert two.session.selected == ()
    two.do("undo")
    assert two.session.selected == (gone,)
    two.do("duplicate")
    copy = two.session.selected
    two.do("undo")
    two.do("redo")
    assert two.session.selected == copy


def test_a_new_card_comes_into_sight_and_none_is_cut_off(placed: Hand, tmp_path: Path) -> None:
    paths = []
    for n in range(14):
        paths.append(tmp_path / f"jug-{n}.png")
        paths[-1].write_bytes(png_photo(40, 30, seed=n))
    placed.drop(*paths)
    tray = placed.studio.workbench.tray
    newest = tray.cards[placed.session.selected[-1]]
    placed.settle(lambda: not newest.visibleRegion().isEmpty())
    assert newest.visibleRegion().boundingRect().height() == newest.height()


def test_a_sheet_is_renamed_by_a_double_click(placed: Hand) -> None:
    sheets = placed.studio.workbench.tray.sheets
    QTest.mouseDClick(sheets.buttons["s1"], LEFT)
    editor = placed.studio.shell.focusWidget()
    QTest.keyClicks(editor, "Card front")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert placed.session.sheet.name == "Card front"
    assert placed.bench.hasFocus()


def test_another_cutout_of_the_photo_lies_where_the_first_does(placed: Hand) -> None:
    first = placed.item()
    placed.do("another")
    second = placed.item()
    assert second.id != first.id
    assert (second.content_placement, second.shape_placement) == (first.content_placement, first.shape_placement)
