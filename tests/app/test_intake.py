"""What comes into the window: photos dropped, pasted and opened, shapes that wait, files that are no pictures."""

import threading
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication, QImage

from glasscap.app.tray.card import TrayCard
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.photos.store import PhotoStore
from tests.app.conftest import Hand, drop, files
from tests.samples import noise_rgba, png_photo

pytestmark = pytest.mark.shared_window


def test_a_dropped_photo_lies_under_the_largest_circle(hand: Hand, photo: Path) -> None:
    assert not hand.studio.has_job
    drop(hand.studio.shell.start, files(photo), QPoint(200, 200))
    hand.settle()
    item = hand.item()
    assert hand.studio.has_job
    assert item.name == "Blue plate"
    assert item.shape_placement.width == 300
    assert hand.session.selected == (item.id,)
    assert hand.studio.shell.windowTitle() == "Untitled[*] - Glass Cap"


def test_several_photos_become_several_cutouts(hand: Hand, tmp_path: Path) -> None:
    paths = []
    for n in range(3):
        paths.append(tmp_path / f"p{n}.png")
        paths[-1].write_bytes(png_photo(100, 80, seed=n))
    hand.drop(*paths)
    assert [i.name for i in hand.session.sheet.items] == ["P0", "P1", "P2"]
    assert len(hand.studio.workbench.tray.cards) == 3


def test_a_photo_dropped_on_a_cutout_swaps_in(placed: Hand, tmp_path: Path) -> None:
    before = placed.item()
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(90, 200, seed=4))
    drop(placed.bench, files(other), placed.at(200, 150))
    placed.settle()
    now = placed.item()
    assert len(placed.session.sheet.items) == 1
    assert now.content != before.content
    assert (now.shape, now.shape_placement, now.name) == (before.shape, before.shape_placement, "Other")
    placed.do("undo")
    assert placed.item() == before


def test_a_photo_dropped_beside_or_on_a_card(placed: Hand, tmp_path: Path) -> None:
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(90, 200, seed=4))
    drop(placed.bench, files(other), QPoint(3, 3))
    placed.settle()
    assert len(placed.session.sheet.items) == 2
    first = placed.session.sheet.items[0]
    drop(placed.studio.workbench.tray.cards[first.id], files(other), QPoint(20, 20))
    placed.settle()
    assert placed.session.sheet.items[0].content == placed.session.sheet.items[1].content


def test_a_locked_cutout_takes_no_photo(placed: Hand, photo: Path) -> None:
    placed.do("lock")
    before = placed.session.job
    drop(placed.studio.workbench.tray.cards[placed.item().id], files(photo), QPoint(20, 20))
    placed.settle()
    assert placed.session.job is before
    assert "locked" in placed.studio.toast.text.text()


def test_a_locked_cutout_is_not_drawn_anew(placed: Hand) -> None:
    placed.do("lock")
    placed.do("draw")
    assert placed.session.drawing is None
    assert "locked" in placed.studio.toast.text.text()


def test_picture_data_is_pasted(hand: Hand) -> None:
    rgba = noise_rgba(60, 40)
    image = QImage(rgba.data, 60, 40, QImage.Format.Format_RGBA8888)
    QGuiApplication.clipboard().setImage(image.copy())
    hand.do("paste")
    hand.settle()
    assert hand.item().shape_placement.width == 40
    photo = hand.session.photo
    assert np.array_equal(hand.session.store.pyramid(photo).photo.rgba, rgba)


def test_start_from_a_shape_waits_for_a_photo(hand: Hand, photo: Path) -> None:
    hand.studio.shell.start.shape.click()
    assert hand.session.drawing == "circle"
    hand.drag((200, 200), (800, 800))
    shape = hand.item()
    assert shape.content is None
    assert shape.shape_placement.width > 550
    drop(hand.bench, files(photo), hand.at(500, 500))
    hand.settle()
    assert hand.item().content is not None
    assert hand.item().shape_placement == shape.shape_placement


def test_the_demo_job_opens_unsaved(hand: Hand) -> None:
    hand.studio.shell.start.demo.click()
    hand.settle()
    assert [s.name for s in hand.session.job.sheets] == ["Card front", "Card back"]
    assert not hand.session.is_saved
    assert len(hand.session.job.photos) >= 8


@pytest.mark.parametrize("content", [b"", b"hello", b"\xff\xd8\xff\xe0 cut"], ids=["empty", "text", "cut"])
def test_a_bad_file_is_said_and_loses_nothing(placed: Hand, tmp_path: Path, content: bytes) -> None:
    before = placed.session.job
    bad = tmp_path / "bad.jpg"
    bad.write_bytes(content)
    placed.drop(bad)
    assert placed.session.job is before
    assert placed.studio.toast.isVisible()
    assert placed.studio.toast.text.text().startswith("bad.jpg: ")


def test_a_truncated_photo_is_refused_but_the_others_come(hand: Hand, photo: Path, tmp_path: Path) -> None:
    cut = tmp_path / "cut.png"
    cut.write_bytes(photo.read_bytes()[:20_000])
    hand.drop(cut, photo, tmp_path)
    assert [i.name for i in hand.session.sheet.items] == ["Blue plate"]
    assert "cut.png" in hand.studio.toast.text.text()
    assert "folder" in hand.studio.toast.text.text()


@pytest.mark.parametrize("where", ["bench", "tray", "card", "start"])
def test_a_drop_is_a_copy_whatever_is_offered(placed: Hand, photo: Path, where: str) -> None:
    studio = placed.studio
    tray = studio.workbench.tray
    target = {
        "bench": placed.bench,
        "tray": tray,
        "card": tray.findChild(TrayCard),
        "start": studio.shell.start,
    }[where]
    both = Qt.DropAction.CopyAction | Qt.DropAction.MoveAction
    done = drop(target, files(photo), target.rect().center(), both)
    placed.wait_for_errands()
    assert done == Qt.DropAction.CopyAction
    assert photo.is_file()


def test_photos_are_looked_at_in_a_thread_of_their_own_alone(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    really, threads = PhotoStore.quick, []

    def quick(store: PhotoStore, photo: PhotoRecord):
        threads.append(threading.current_thread())
        return really(store, photo)

    monkeypatch.setattr(PhotoStore, "quick", quick)
    (tmp_path / "jug.png").write_bytes(png_photo(90, 70))
    placed.drop(tmp_path / "jug.png")
    assert threads
    assert threading.main_thread() not in threads
