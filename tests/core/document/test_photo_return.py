"""A photo found again, or another in its place wherever it is used."""

from glasscap.core.document.edits.photo_return import photo_replaced, photo_returned
from glasscap.core.document.model.job import PhotoContent, pictures_of
from glasscap.core.document.model.query import items_of
from glasscap.demo.job import demo_job
from tests.samples import photo_job, png_photo

JOB, _ = demo_job()
(NEW,) = photo_job(png_photo(120, 80))[0].photos


def test_another_picture_stands_wherever_the_old_one_was_used() -> None:
    for old in JOB.photos:
        done = photo_replaced(JOB, old, NEW)
        assert [(user, key) for user, key in pictures_of(done)] == [
            (user, NEW.sha256 if key == old.sha256 else key) for user, key in pictures_of(JOB)
        ]
        assert old not in done.photos
        assert NEW in done.photos
        for (_, before), (_, after) in zip(items_of(JOB), items_of(done), strict=True):
            assert after.shape_placement == before.shape_placement
            if isinstance(before.content, PhotoContent) and before.content.sha256 != old.sha256:
                assert after == before


def test_a_photo_found_again_changes_its_link_alone() -> None:
    done = photo_returned(JOB, JOB.photos[2], "scans/jug.jpg")
    assert [p.link for p in done.photos] == [None, None, "scans/jug.jpg", *[None] * (len(JOB.photos) - 3)]
    assert done.sheets == JOB.sheets
    assert photo_returned(done, JOB.photos[2], None) == JOB
