"""A series in the window: begun from the selected cutout, filled by dialog and drop, made in one step."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtTest import QTest

from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.query import find_item
from glasscap.files.jobs import open_job
from tests.app.answers import answer
from tests.app.conftest import Hand, drop, files, finished
from tests.samples import png_photo

pytestmark = pytest.mark.shared_window

NAMES = ("tall-jug.png", "shelf.png", "tile.png")
SIZES = ((120, 220), (400, 150), (90, 90))


@pytest.fixture
def photos(tmp_path: Path) -> tuple[Path, ...]:
    for n, (name, size) in enumerate(zip(NAMES, SIZES, strict=True)):
        (tmp_path / name).write_bytes(png_photo(*size, seed=20 + n))
    return tuple(tmp_path / name for name in NAMES)


def begun(hand: Hand):
    hand.studio.topbar.series.click()
    return hand.studio.workbench.series


def chosen(monkeypatch: pytest.MonkeyPatch, *paths: Path) -> None:
    answer(monkeypatch, "files_to_open", tuple(paths))


@pytest.fixture
def panel(placed: Hand, photos: tuple[Path, ...], monkeypatch: pytest.MonkeyPatch):
    """The panel of a series of three photos."""
    made = begun(placed)
    chosen(monkeypatch, *photos)
    made.add.click()
    placed.settle()
    return made


def frame(card) -> np.ndarray:
    return card._frame.rgba


def test_it_is_empty_at_first_and_makes_nothing(placed: Hand) -> None:
    panel = begun(placed)
    assert panel.isVisible()
    assert panel.title.text() == "Series of Blue plate"
    assert not panel.make.isEnabled()
    QTest.keyClick(panel, Qt.Key.Key_Escape)
    assert not panel.isVisible()


def test_every_photo_is_shown_as_it_will_be(panel) -> None:
    assert [c.name for c in panel.cards.cards.values()] == ["Tall jug", "Shelf", "Tile"]
    assert all(c._frame is not None for c in panel.cards.cards.values())
    assert panel.make.text() == "Make 3 cutouts"


def test_it_is_made_in_one_step_and_goes_out(placed: Hand, panel, tmp_path: Path) -> None:
    before = placed.session.job
    panel.make.click()
    session = placed.session
    sheet = session.job.sheets[1]
    assert (sheet.name, session.sheet_id) == ("Blue plate, series", sheet.id)
    assert [i.name for i in sheet.items] == ["Tall jug", "Shelf", "Tile"]
    assert session.selected == tuple(i.id for i in sheet.items)
    assert [o.item_id for o in session.job.outputs] == [i.id for i in sheet.items]
    assert not panel.isVisible()
    toast = placed.studio.toast
    assert toast.text.text() == "3 cutouts on the sheet “Blue plate, series”, and 3 on the export list"
    path = tmp_path / "series.glasscap"
    finished(placed.studio.files.save_to(path))
    placed.settle()
    assert open_job(path).job == session.job
    toast._more.click()
    assert placed.studio.workbench.page == "export"
    placed.studio.workbench.show_page("bench")
    session.undo()
    assert session.job == before
    placed.settle()


def test_without_rows_the_export_list_stays_as_it_was(placed: Hand, panel) -> None:
    panel.rows.click()
    panel.make.click()
    assert placed.session.job.outputs == ()
    assert "export" not in placed.studio.toast.text.text()


def test_photos_are_dropped_once_and_left_out_by_cross_and_key(
    placed: Hand, panel, photos: tuple[Path, ...], tmp_path: Path
) -> None:
    more = tmp_path / "bowl.png"
    more.write_bytes(png_photo(80, 60, seed=44))
    drop(panel, files(photos[0], more), QPoint(40, 200))
    placed.settle()
    cards = panel.cards.cards
    assert [c.name for c in cards.values()] == ["Tall jug", "Shelf", "Tile", "Bowl"]
    first, second, *_ = cards.values()
    first.cross.click()
    placed.click(second, QPoint(20, 20))
    QTest.keyClick(second, Qt.Key.Key_Delete)
    QTest.keyClick(panel, Qt.Key.Key_Delete)
    placed.settle()
    assert panel.isVisible()
    assert [c.name for c in cards.values()] == ["Tile", "Bowl"]
    assert panel.make.text() == "Make 2 cutouts"
    assert placed.session.job.photos == placed.session.job.photos[:1]


def test_what_cannot_be_opened_is_said_and_the_others_come(
    placed: Hand, photos: tuple[Path, ...], tmp_path: Path
) -> None:
    panel = begun(placed)
    (tmp_path / "words.png").write_text("no picture")
    drop(panel, files(tmp_path / "words.png", photos[0]), QPoint(40, 200))
    placed.settle()
    assert placed.studio.toast.text.text().startswith("words.png: ")
    assert len(panel.photos) == 1


def test_what_is_no_picture_is_said(placed: Hand) -> None:
    mime = QMimeData()
    mime.setUrls([QUrl("https://pellowick.example/jug.png")])
    drop(begun(placed), mime, QPoint(40, 200))
    assert "no picture" in placed.studio.toast.text.text()
    placed.studio.workbench.series.cancel.click()


def test_photos_lie_like_the_one_there_is(placed: Hand, panel) -> None:
    shelf = list(panel.cards.cards.values())[1]
    centred = frame(shelf).copy()
    item = placed.item()
    placed.session.apply(
        "Move",
        lambda job: update_item(
            job, item.id, lambda i: replace(i, content_placement=i.content_placement.moved(40, 0))
        ),
    )
    panel.placings.buttons["alike"].click()
    placed.settle()
    assert frame(shelf).shape == centred.shape
    assert (frame(shelf) != centred).any()
    panel.make.click()
    made = find_item(placed.session.job, placed.session.selected[1])
    assert made.content_placement.x - made.shape_placement.x == pytest.approx(40)


def test_pictures_follow_every_step(placed: Hand, panel) -> None:
    card = next(iter(panel.cards.cards.values()))
    before = frame(card).copy()
    item = placed.item()
    placed.session.apply("Fade", lambda job: update_item(job, item.id, lambda i: replace(i, opacity=0.4)))
    placed.settle()
    assert frame(card)[..., 3].max() == pytest.approx(before[..., 3].max() * 0.4, abs=1)
    placed.session.undo()
    placed.settle()
    assert (frame(card) == before).all()


def test_it_is_put_away_with_its_cutout(placed: Hand, panel) -> None:
    placed.do("delete")
    assert not panel.isVisible()
    placed.session.undo()
    placed.session.select([placed.item().id])
    assert len(begun(placed).photos) == 3
    placed.session.set_library(True)
    assert not panel.isVisible()
    placed.session.set_library(False)
    begun(placed).cancel.click()
    assert not panel.isVisible()
    assert begun(placed).photos == ()


def test_another_job_has_nothing_of_it(placed: Hand, panel) -> None:
    placed.session.mark_saved(Path("kept.glasscap"), placed.session.committed)
    finished(placed.studio.open_demo())
    placed.settle()
    assert not panel.isVisible()
    placed.session.select([i.id for i in placed.session.items if not i.is_group][-1:])
    assert begun(placed).photos == ()
    panel.hide()


def test_it_needs_a_cutout(placed: Hand) -> None:
    placed.session.select(())
    placed.do("series")
    assert "Select the cutout" in placed.studio.toast.text.text()
    placed.session.select([placed.item().id])
    placed.do("group")
    placed.do("series")
    assert "is a group" in placed.studio.toast.text.text()


def test_a_photo_that_ends_within_a_soft_edge_is_told_of_and_covered(placed: Hand) -> None:
    bar, steps = placed.studio.workbench.bar, placed.studio.workbench.steps
    assert bar.meter.text() == "Photo covers the shape"
    steps.open_only("edge")
    placed.type(steps.edge.feather.field, "12")
    placed.settle()
    assert bar.meter.text() == "Photo ends within the edge"
    bar.cover_button.click()
    placed.settle()
    assert bar.meter.text() == "Photo covers the shape"
    assert not bar.cover_button.isVisible()
    assert placed.item().content_placement.scale_x > 1
    assert placed.session.undo_label == "Just cover the shape"
