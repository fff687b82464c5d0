"""Names that are no UTF-8: printed, kept in a job, found again."""

import os
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.files.jobs import open_job, save_job
from glasscap.files.path_text import path_of_text, printable, text_of_path
from glasscap.files.photo_reading import read_photos
from tests.samples import photo_job, png_photo

names = st.binary(min_size=1, max_size=20).map(os.fsdecode)


@given(names)
def test_any_name_is_printed_and_comes_back(name: str) -> None:
    printable(name).encode("utf-8")
    text = text_of_path(name)
    text.encode("utf-8")
    assert path_of_text(text) == name


@pytest.mark.parametrize("name", ["plate.jpg", "Krüge/blau 1.png", "50%.png", "../a/b.png"])
def test_a_plain_name_stays_as_it_is(name: str) -> None:
    assert printable(name) == text_of_path(name) == name


def test_a_photo_and_a_folder_that_are_no_utf_8(tmp_path: Path) -> None:
    folder = tmp_path / os.fsdecode(b"t\xf6pfe")
    folder.mkdir()
    photo = folder / os.fsdecode(b"kr\xfcge.png")
    photo.write_bytes(png_photo(40, 30))
    job, store = photo_job(png_photo(40, 30))
    (found,), problems = read_photos([photo], store)
    assert problems == []
    assert found.record.name == "kr%FCge.png"
    path = tmp_path / "cards.glasscap"
    link = text_of_path(os.path.relpath(photo, tmp_path))
    linked = replace(job, photos=(replace(job.photos[0], name=found.record.name, link=link),))
    save_job(path, linked, store)
    opened = open_job(path)
    assert opened.problems == ()
    assert opened.photos.data(opened.job.photos[0]) == png_photo(40, 30)
