"""Linked photos that were moved, changed or are missing: found, shown by hand, or replaced."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from glasscap.app.services.asking import Button
from glasscap.files.jobs import open_job, save_job
from glasscap.files.locks import JobHold
from tests.app.answers import answer
from tests.app.conftest import Hand
from tests.samples import photo_job, png_photo

pytestmark = pytest.mark.shared_window


def test_a_moved_photo_is_said_and_saved_where_it_is(hand: Hand, tmp_path: Path) -> None:
    job, store = photo_job(png_photo(60, 40))
    path = tmp_path / "trail.glasscap"
    photo = replace(job.photos[0], name="jug.png", link="photos/jug.png")
    save_job(path, replace(job, photos=(photo,)), store)
    (tmp_path / "sent").mkdir()
    (tmp_path / "sent" / "jug.png").write_bytes(png_photo(60, 40))
    hand.drop(path)
    assert hand.studio.toast.text.text() == "jug.png was found at sent/jug.png"
    assert not hand.session.is_saved
    hand.do("save")
    hand.settle()
    assert open_job(path).job.photos[0].link == "sent/jug.png"
    assert open_job(path).moved == ()


@pytest.fixture
def missing(hand: Hand, tmp_path: Path) -> Hand:
    """A window with a job whose linked photo is not there."""
    job, store = photo_job(png_photo(60, 40))
    photo = replace(job.photos[0], name="jug.png", link="photos/jug.png")
    save_job(tmp_path / "trail.glasscap", replace(job, photos=(photo,)), store)
    hand.drop(tmp_path / "trail.glasscap")
    assert "Find missing photos" in hand.studio.toast.text.text()
    return hand


def seen(hand: Hand) -> int:
    """How many colours the sheet shows on the bench: the one grey of a placeholder, or a photo's."""
    box = hand.bench.grab().toImage()
    at = [hand.at(hand.session.sheet.width * n / 20, hand.session.sheet.height / 2) for n in range(7, 14)]
    return len({box.pixelColor(p).name() for p in at})


def choosing(monkeypatch: pytest.MonkeyPatch, path: Path | None) -> None:
    answer(monkeypatch, "file_to_open", path)


def answering(monkeypatch: pytest.MonkeyPatch, name: str) -> None:
    answer(monkeypatch, "question", Button[name])


def test_a_missing_photo_is_found_again_by_hand(
    missing: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "far").mkdir()
    target = tmp_path / "far" / "renamed.png"
    target.write_bytes(png_photo(60, 40))
    assert seen(missing) == 1
    choosing(monkeypatch, target)
    missing.do("find_photos")
    missing.settle()
    assert missing.session.job.photos[0].link == "far/renamed.png"
    assert seen(missing) > 3
    missing.do("find_photos")
    assert missing.studio.toast.text.text() == "No photo is missing"
    missing.session.undo()
    assert missing.session.job.photos[0].link == "photos/jug.png"


def test_a_changed_photo_is_taken_as_it_is_now(
    missing: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    changed = tmp_path / "jug.png"
    changed.write_bytes(png_photo(120, 80, seed=5))
    choosing(monkeypatch, changed)
    answering(monkeypatch, "Cancel")
    before = missing.item()
    missing.do("find_photos")
    assert missing.item() == before
    answering(monkeypatch, "Ok")
    missing.do("find_photos")
    missing.settle()
    after = missing.item()
    assert [p.width for p in missing.session.job.photos] == [120]
    assert after.shape_placement == before.shape_placement
    assert after.content_placement.scale_x == before.content_placement.scale_x / 2
    assert seen(missing) > 3
    missing.session.undo()
    assert missing.item() == before


def test_leaving_off_and_what_is_no_picture(
    missing: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = missing.session.job
    choosing(monkeypatch, None)
    missing.do("find_photos")
    text = tmp_path / "note.png"
    text.write_text("no picture")
    choosing(monkeypatch, text)
    missing.do("find_photos")
    assert "note.png" in missing.studio.toast.text.text()
    assert missing.session.job is before


def test_a_read_only_job_says_so_beside_its_missing_photos(hand: Hand, tmp_path: Path) -> None:
    job, store = photo_job(png_photo(60, 40))
    path, other = tmp_path / "trail.glasscap", JobHold()
    photo = replace(job.photos[0], name="jug.png", link="photos/jug.png")
    save_job(path, replace(job, photos=(photo,)), store)
    assert other.take(path)
    hand.drop(path)
    read_only, missing = hand.studio.toast.text.text().splitlines()
    assert "open in another window" in read_only
    assert "jug.png" in missing
    other.release()
