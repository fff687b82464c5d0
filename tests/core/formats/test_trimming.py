"""Photos made smaller for good: the pictures stay, byte for byte."""

import io

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Adjustments, Edge, Finishes, PictureMask, Stroke
from glasscap.core.document.model.job import Cutout, Job, PhotoContent
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import items_of
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.formats.photo import read_photo
from glasscap.core.formats.trimming import hidden_removed, resampled
from glasscap.core.geometry.types import PixelBox
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.plan.shown_pixels import crops_of
from glasscap.core.shapes.kinds import library_shape
from tests.samples import cache, noise_rgba, photo_job

PHOTO = Image.fromarray(noise_rgba(900, 700, seed=12)[..., :3])


def photo_bytes() -> bytes:
    out = io.BytesIO()
    PHOTO.save(out, "PNG", compress_level=1)
    return out.getvalue()


def made(**changes: object):
    """A large photo under a small circle."""
    job, store = photo_job(photo_bytes())
    whole = {
        "shape": library_shape("circle"),
        "shape_placement": ShapePlacement(300, 260, 120, 120),
        "content_placement": ContentPlacement(450, 350),
    }
    item = replace(job.sheets[0].items[0], **(whole | changes))
    return replace(job, sheets=(replace(job.sheets[0], items=(item,)),)), store


def picture(job: Job, store) -> np.ndarray:
    sheet = job.sheets[0]
    return render(plan_cutout(job, sheet, sheet.items[0]), store, cache()).rgba


@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"content_placement": ContentPlacement(330, 250, 0.37, 0.37)},
        {"content_placement": ContentPlacement(320, 260, 0.6, 0.6, rotation=33.0)},
        {"content_placement": ContentPlacement(450.3, 350.6, 1.7, 1.7, is_mirrored=True)},
        {"content_placement": ContentPlacement(330, 250, 0.15, 0.15)},
        {"finishes": Finishes(edge=Edge(feather=30), strokes=(Stroke(9),))},
    ],
    ids=["as it is", "smaller", "turned", "mirrored and larger", "much smaller", "feathered"],
)
def test_the_picture_stays_byte_for_byte(changes: dict[str, object]) -> None:
    job, store = made(**changes)
    before, size = picture(job, store), len(photo_bytes())
    found = hidden_removed(job, store)
    assert np.array_equal(picture(found.job, store), before)
    assert found.photos == 1
    assert found.freed == size - len(found.files[0]) > 0
    assert len(write_job(found.job, store.data)) < len(write_job(job, store.data))
    assert read_job(write_job(found.job, store.data), "x").job == found.job
    # What no cutout shows is gone from the file, whether it was cut off or made black.
    (box,) = crops_of(job).values()
    left = read_photo(found.files[0], "x").rgba.copy()
    if left.shape[:2] == (700, 900):
        left[box.y0 : box.y1, box.x0 : box.x1] = 0
        assert not left[..., :3].any()
    else:
        assert left.shape[:2] == (box.height, box.width)


def test_most_of_a_hidden_photo_goes() -> None:
    job, store = made()
    found = hidden_removed(job, store)
    (record,) = found.job.photos
    assert record.width <= 256
    assert found.freed > 0.7 * len(photo_bytes())
    wider = hidden_removed(job, store, margin=100).job.photos[0]
    assert wider.width > record.width
    assert hidden_removed(found.job, store).photos == 0


def test_two_cutouts_keep_what_either_shows_and_one_alone_gets_its_own() -> None:
    job, store = made()
    first = job.sheets[0].items[0]
    second = replace(first, id="i9", name="Other", shape_placement=ShapePlacement(640, 470, 120, 120))
    both = replace(job, sheets=(replace(job.sheets[0], items=(first, second)),))
    (box,) = crops_of(both).values()
    assert box.holds(PixelBox(240, 200, 360, 320))
    assert box.holds(PixelBox(580, 410, 700, 530))
    found = hidden_removed(both, store)
    assert len(found.job.photos) == 1
    one = hidden_removed(both, store, [first.id])
    keys = [i.content.sha256 for _, i in items_of(one.job)]
    assert keys[0] != keys[1] == job.photos[0].sha256
    # The other cutout still needs the whole photo: nothing is freed.
    assert one.freed < 0


@pytest.mark.parametrize(
    "changes",
    [
        {"is_masked": False},
        {"shape": replace(library_shape("circle"), keeps="outside")},
        {"shape": None, "shape_placement": None},
    ],
    ids=["mask off", "hole", "no shape"],
)
def test_what_shows_the_whole_photo_keeps_it(changes: dict[str, object]) -> None:
    job, store = made(**changes)
    assert crops_of(job) == {}
    assert hidden_removed(job, store).job == job


def test_a_photo_used_as_a_mask_stays_whole() -> None:
    job, _ = made()
    key = job.photos[0].sha256
    assert crops_of(job)
    masked = update_item(
        job, job.sheets[0].items[0].id, lambda i: replace(i, finishes=Finishes(edge=Edge(mask=PictureMask(key))))
    )
    assert crops_of(masked) == {}


def test_a_blurred_photo_keeps_what_the_blur_reaches() -> None:
    job, _ = made()
    blurred = made(content=PhotoContent(job.photos[0].sha256, Adjustments(blur=60)))[0]
    (near,), (far,) = crops_of(job).values(), crops_of(blurred).values()
    assert far.holds(near)
    assert far != near


def test_photos_are_reduced_to_what_is_needed_and_stay_in_place() -> None:
    job, store = made(content_placement=ContentPlacement(330, 250, 0.2, 0.2))
    before = picture(job, store)
    found = resampled(job, store, density=2.0)
    (record,) = found.job.photos
    assert (record.width, record.height) == (360, 280)
    item: Cutout = found.job.sheets[0].items[0]
    assert item.content_placement.scale_x == pytest.approx(0.5)
    assert item.content_placement.x == 330
    after = picture(found.job, store)
    assert after.shape == before.shape
    assert np.abs(after.astype(int) - before).mean() < 3
    assert resampled(found.job, store, density=2.0).photos == 0
