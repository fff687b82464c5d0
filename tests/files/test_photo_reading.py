"""Many photographs read into a store beside one another."""

from pathlib import Path

import pytest

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import CancelledError, PhotoError
from glasscap.core.photos.store import sha256_of
from glasscap.core.work.ticket import Ticket
from glasscap.files.jobs import new_store
from glasscap.files.photo_reading import read_photos
from tests.samples import png_photo


def some_files(folder: Path) -> list[Path]:
    """Five photos, the third of which is none."""
    for n in range(5):
        (folder / f"{n}.png").write_bytes(b"no picture" if n == 2 else png_photo(40 + n, 30, seed=n))
    return [folder / f"{n}.png" for n in range(5)]


def test_photos_are_read_beside_one_another_and_told_in_their_order(tmp_path: Path) -> None:
    seen: list[PhotoRecord] = []
    loose = (png_photo(20, 20, seed=9), "Pasted picture")
    found, problems = read_photos([*some_files(tmp_path), loose], new_store(), look=seen.append)
    assert [p.record.name for p in found] == ["0.png", "1.png", "3.png", "4.png", "Pasted picture"]
    assert {p.name for p in seen} == {p.record.name for p in found}
    assert len(problems) == 1
    assert problems[0].line.startswith("2.png: ")


def test_reading_stops_when_it_is_cancelled(tmp_path: Path) -> None:
    ticket, store = Ticket(), new_store()
    ticket.stop.set()
    paths = some_files(tmp_path)
    with pytest.raises(CancelledError):
        read_photos(paths, store, ticket)
    assert sha256_of(paths[0].read_bytes()) not in store


def test_what_cannot_be_seen_is_that_photo_s_problem(tmp_path: Path) -> None:
    def look(photo: PhotoRecord) -> None:
        if photo.width == 41:
            raise PhotoError(photo.name, "it is cut short")

    found, problems = read_photos(some_files(tmp_path), new_store(), look=look)
    assert [p.record.name for p in found] == ["0.png", "3.png", "4.png"]
    assert [p.line.split(":")[0] for p in problems] == ["1.png", "2.png"]


def test_of_nothing_nothing_is_read() -> None:
    assert read_photos([], new_store()) == ([], [])
