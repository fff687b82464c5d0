"""The demo job: real-looking photographs of the kinds the program must take, on two sheets."""

import io
import json
from importlib.resources import files
from pathlib import Path

import jsonschema
import numpy as np
from PIL import Image

from glasscap.core.document.arranging.cover import bare_share
from glasscap.core.document.edits.versions import version_names
from glasscap.core.document.model.query import items_of, photo_of
from glasscap.core.formats.job import encode_job
from glasscap.core.formats.photo_header import read_header
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet
from glasscap.core.shapes.kinds import LettersShape
from glasscap.demo.job import demo_job
from tests.samples import cache

DATA = {e.name: e.read_bytes() for e in (files("glasscap.demo") / "data").iterdir()}
JPEGS = {name: data for name, data in DATA.items() if name.endswith(".jpg")}


def test_six_jpegs_of_8_to_24_megapixels_under_20_mb() -> None:
    sizes = {name: read_header(data, name).size for name, data in JPEGS.items()}
    assert len(sizes) >= 6
    assert all(8e6 <= w * h <= 24e6 for w, h in sizes.values()), sizes
    assert sum(map(len, JPEGS.values())) < 20e6
    assert max(map(len, DATA.values())) < 4 << 20


def test_the_special_kinds_are_there() -> None:
    headers = {name: read_header(data, name) for name, data in DATA.items()}
    assert any(h.orientation != 1 for h in headers.values())
    assert any(h.icc for h in headers.values())
    assert any(h.bits == 16 for h in headers.values())
    with Image.open(io.BytesIO(DATA["makers-mark.png"])) as mark:
        alpha = np.asarray(mark)[..., 3]
    assert (alpha == 0).any()
    assert ((alpha > 0) & (alpha < 255)).any()


def test_the_photographs_carry_no_camera_data() -> None:
    for name, data in JPEGS.items():
        with Image.open(io.BytesIO(data)) as image:
            assert set(image.getexif()) <= {274}, name


def test_every_photo_covers_its_shape_and_both_cards_render() -> None:
    job, store = demo_job()
    assert [s.name for s in job.sheets] == ["Card front", "Card back"]
    for _, item in items_of(job):
        assert not bare_share(item, photo_of(job, item)), item.name
    for sheet in job.sheets:
        picture = render(plan_sheet(job, sheet, scale=0.25), store, cache())
        assert (picture.width, picture.height) == (450, 300)
        assert picture.rgba[150, 225, 3] == 255


def test_the_demo_shows_groups_letters_inside_versions_and_mockups() -> None:
    job, _ = demo_job()
    (shelf,) = [i for i in job.sheets[1].items if i.is_group]
    (window,) = [i for i in shelf.items if i.is_group]
    assert shelf.shape is not None and window.shape is not None
    assert [i.shape.letters.text for i in window.items if isinstance(i.shape, LettersShape)] == ["OPEN"]
    plate = next(i for i in job.sheets[0].items if i.name == "Blue plate")
    assert version_names(plate) == ("Bordered", "Plain")
    assert [m.place for m in job.mockups] == ["card", "tote"]
    schema = json.loads((Path(__file__).parents[2] / "docs" / "job-file.schema.json").read_text())
    jsonschema.validate(json.loads(encode_job(job)), schema)
