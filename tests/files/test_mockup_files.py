"""The shipped places, and mock-ups as files read by other libraries."""

import io
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.edits.items import remove_items
from glasscap.core.document.edits.versions import add_version, rename_version
from glasscap.core.document.model.mockups import Mockup, OwnPlace
from glasscap.core.document.outputs.mockups import (
    add_mockup,
    change_mockup,
    find_mockup,
    live_mockups,
    move_corner,
    own_place,
    remove_mockups,
    rename_mockup,
)
from glasscap.core.errors import ExportError, GlassCapError, JobFileError, PlacementError, ShapeError
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.formats.page import PAGE
from glasscap.files.mockup_files import all_versions, mockup_pixels, write_mockup
from glasscap.files.place_book import PLACES, shipped_place
from tests.samples import photo_job, png_photo

JOB, STORE = photo_job(png_photo(300, 200))
KEY = JOB.sheets[0].items[0].id


def put(place: str = "card", subject: str = KEY) -> tuple:
    job, key = add_mockup(JOB, subject, place, PLACES[place])
    return job, find_mockup(job, key)


@pytest.mark.parametrize("key", PLACES)
def test_every_place_takes_a_picture(key: str) -> None:
    place = shipped_place(key)
    assert place.size == (1600, 1200)
    assert place.label == PLACES[key]
    assert (place.backdrop[..., 3] == 255).all()
    corners = np.array([c for s in place.surfaces for c in s.corners])
    assert (corners >= 0).all() and (corners <= place.size).all()
    job, mockup = put(key)
    (pixels,) = mockup_pixels(job, mockup, STORE, scale=0.25)
    assert pixels.shape == (300, 400, 4)
    changed = np.abs(pixels[..., :3].astype(int) - _small(place.backdrop)).max(axis=-1) > 12
    box = changed.any(axis=0).sum(), changed.any(axis=1).sum()
    assert min(box) > 20
    middle = corners.mean(axis=0) / 4
    assert changed[
        round(middle[1]) - 20 : round(middle[1]) + 20, round(middle[0]) - 20 : round(middle[0]) + 20
    ].any()


def _small(rgba: np.ndarray) -> np.ndarray:
    return np.asarray(Image.fromarray(rgba[..., :3]).resize((400, 300), Image.Resampling.BOX)).astype(int)


def test_the_same_mockup_gives_the_same_bytes(tmp_path: Path) -> None:
    job, mockup = put("tote")
    for name in ("a.pdf", "b.pdf", "a.png", "b.png"):
        write_mockup(tmp_path / name, job, mockup, STORE, scale=0.25)
    for ending in ("pdf", "png"):
        assert (tmp_path / f"a.{ending}").read_bytes() == (tmp_path / f"b.{ending}").read_bytes()


@pytest.mark.parametrize("ending", ["png", "jpg", "webp", "tif"])
def test_pictures_are_read_by_another_library(tmp_path: Path, ending: str) -> None:
    job, mockup = put("card", "s1")
    (path,) = write_mockup(tmp_path / f"card.{ending}", job, mockup, STORE, scale=0.5)
    with Image.open(path) as picture:
        assert picture.size == (800, 600)
        seen = np.asarray(picture.convert("RGB")).astype(int)
    (pixels,) = mockup_pixels(job, mockup, STORE, scale=0.5)
    assert np.abs(seen - pixels[..., :3]).mean() < 2


def test_the_page_holds_every_version_and_their_names(tmp_path: Path) -> None:
    job = rename_version(add_version(JOB, KEY), KEY, "Version 1", "Plain")
    job, key = add_mockup(job, KEY, "badge", "Enamel badge")
    mockup = find_mockup(job, key)
    versions = all_versions(job, mockup)
    assert versions == ("Plain", "Version 2")
    (path,) = write_mockup(tmp_path / "client.pdf", job, mockup, STORE, versions, scale=0.5)
    with pikepdf.open(path) as pdf:
        (page,) = pdf.pages
        assert [float(v) for v in page.mediabox] == pytest.approx([0, 0, *PAGE], abs=0.01)
        images = list(page.get_images().values())
        assert [(int(i.Width), int(i.Height)) for i in images] == [(800, 600)] * 2
        assert images[0].ColorSpace[0] == "/ICCBased"
        first = Image.open(io.BytesIO(images[0].read_raw_bytes()))
        assert first.size == (800, 600)
    page = pypdfium2.PdfDocument(path)[0]
    seen = np.asarray(page.render(scale=2).to_pil().convert("L"))
    dark = seen < 100
    # The title at the upper left, two captions below two pictures.
    assert dark[80:120, 70:600].any()
    assert not dark[:70].any()
    captions = dark[820:1000]
    assert captions[:, : seen.shape[1] // 2].any()
    assert captions[:, seen.shape[1] // 2 :].any()


def test_pictures_of_versions_have_their_names(tmp_path: Path) -> None:
    job, mockup = put()
    job = add_version(job, KEY)
    paths = write_mockup(tmp_path / "card.png", job, mockup, STORE, all_versions(job, mockup), scale=0.1)
    assert [p.name for p in paths] == ["card-version-1.png", "card-version-2.png"]


def test_what_cannot_be_written_is_said_before_work_begins(tmp_path: Path) -> None:
    job, mockup = put()
    for name in ("card.svg", "card.ora", "card.txt", "card"):
        with pytest.raises(ExportError):
            write_mockup(tmp_path / name, job, mockup, STORE)
    gone = remove_items(job, [KEY])
    assert live_mockups(gone) == ()
    with pytest.raises(ExportError, match="not in the job any more"):
        mockup_pixels(gone, mockup, STORE)
    with pytest.raises(PlacementError, match="there are card, flyer"):
        mockup_pixels(job, replace(mockup, place="moon"), STORE)
    with pytest.raises(PlacementError, match="it has no version"):
        mockup_pixels(job, mockup, STORE, ("Gold",))
    assert list(tmp_path.iterdir()) == []


def test_a_place_of_ones_own_is_in_a_photo() -> None:
    photo = JOB.photos[0]
    job, key = add_mockup(JOB, "s1", own_place(photo), "Wall")
    (before,) = mockup_pixels(job, find_mockup(job, key), STORE)
    assert before.shape == (200, 300, 4)
    moved = move_corner(job, key, 0, 10.0, 20.0)
    assert find_mockup(moved, key).place.corners[0] == (10.0, 20.0)
    (after,) = mockup_pixels(moved, find_mockup(moved, key), STORE)
    assert (before != after).any()
    with pytest.raises(ShapeError, match="no convex"):
        move_corner(job, key, 0, 280.0, 190.0)
    with pytest.raises(PlacementError, match="fixed corners"):
        move_corner(put()[0], "m1", 0, 1.0, 1.0)


def test_mockups_are_edited_saved_and_read() -> None:
    job, first = put()
    job, second = add_mockup(job, "s1", "card", PLACES["card"])
    assert [m.name for m in job.mockups] == ["Card on a table", "Card on a table 2"]
    job = rename_mockup(change_mockup(job, second, lambda m: replace(m, fit="cover")), second, "  On  oak ")
    assert rename_mockup(job, second, " ") is job
    assert (find_mockup(job, second).name, find_mockup(job, second).fit) == ("On oak", "cover")
    assert read_job(write_job(job, STORE.data), "x").job == job
    assert remove_mockups(job, [first.id, second]).mockups == ()
    with pytest.raises(KeyError):
        find_mockup(job, "m9")


def test_wrong_mockups_in_a_file_are_refused() -> None:
    job, _ = put()
    with pytest.raises(JobFileError, match="have one id"):
        replace(job, mockups=job.mockups * 2)
    with pytest.raises(JobFileError, match="not listed"):
        replace(job, mockups=(Mockup("m1", "Wall", "s1", OwnPlace("0" * 64, own_place(JOB.photos[0]).corners)),))
    with pytest.raises(GlassCapError, match="no name"):
        Mockup("m1", " ", "s1", "card")
