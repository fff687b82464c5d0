"""What product.md promises, as properties."""

from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.document.arranging.by_number import fit_photos, place_content, place_shape
from glasscap.core.document.arranging.cover import bare_share, just_covering
from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.history import History
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import find_item, fresh_ids, photo_of
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.geometry.types import Similarity
from glasscap.core.shapes.kinds import library_shape
from tests.core.document.strategies import JOB, STORE, item_ids, jobs, similarities


def places(job: Job) -> list[tuple[object, ...]]:
    return [(i.content_placement, i.shape_placement) for i in job.sheets[0].items]


@given(jobs(), item_ids, st.booleans())
def test_masking_moves_nothing_and_keeps_the_order(job: Job, item_id: str, is_on: bool) -> None:
    after = edits.set_masked(job, [item_id], is_on)
    assert places(after) == places(job)
    assert [i.id for i in after.sheets[0].items] == [i.id for i in job.sheets[0].items]
    assert edits.set_masked(after, [item_id], True) == edits.set_masked(job, [item_id], True)


@given(jobs(), item_ids)
def test_join_undoes_take_apart(job: Job, item_id: str) -> None:
    (shape_id,) = fresh_ids(job, 1)
    apart = edits.take_apart(job, item_id, shape_id)
    assert find_item(apart, item_id).content_placement == find_item(job, item_id).content_placement
    assert find_item(apart, shape_id).shape_placement == find_item(job, item_id).shape_placement
    assert edits.joinable(apart, [item_id]) == (item_id, shape_id)
    assert edits.joinable(apart, [shape_id]) == (item_id, shape_id)
    assert edits.join(apart, item_id, shape_id) == job


@given(jobs(), item_ids, similarities)
def test_the_shape_never_moves_the_photo(job: Job, item_id: str, change: Similarity) -> None:
    after = transform_items(job, [item_id], "shape", change)
    assert find_item(after, item_id).content_placement == find_item(job, item_id).content_placement


@given(jobs(), item_ids, similarities)
def test_the_photo_never_moves_the_shape(job: Job, item_id: str, change: Similarity) -> None:
    after = transform_items(job, [item_id], "photo", change)
    assert find_item(after, item_id).shape_placement == find_item(job, item_id).shape_placement
    assert find_item(after, item_id).shape == find_item(job, item_id).shape


@given(jobs(), item_ids, similarities)
def test_no_grip_distorts_a_photo(job: Job, item_id: str, change: Similarity) -> None:
    for grip in ("photo", "together", "shape"):
        placement = find_item(transform_items(job, [item_id], grip, change), item_id).content_placement
        assert isinstance(placement, ContentPlacement)
        assert placement.scale_x == placement.scale_y


@given(jobs(), item_ids, similarities)
def test_an_edit_shares_what_it_did_not_touch(job: Job, item_id: str, change: Similarity) -> None:
    after = transform_items(job, [item_id], "together", change)
    for before, now in zip(job.sheets[0].items, after.sheets[0].items, strict=True):
        assert before is now or before.id == item_id


@given(jobs(), item_ids, similarities)
def test_a_lock_holds_against_every_edit(job: Job, item_id: str, change: Similarity) -> None:
    locked = edits.set_locked(job, [item_id], True)
    item = find_item(locked, item_id)
    assert transform_items(locked, [item_id], "together", change) is locked
    assert edits.set_masked(locked, [item_id], not item.is_masked) is locked
    assert edits.set_keeps(locked, [item_id], "outside") is locked
    assert edits.set_shape(locked, item_id, library_shape("ellipse"), ShapePlacement(1, 2, 3, 4)) is locked
    assert edits.take_apart(locked, item_id, "i99") is locked
    assert edits.swap_photo(locked, item_id, JOB.photos[0]) is locked
    assert place_content(locked, item_id, x=1.5) is locked
    assert place_shape(locked, item_id, x=1.5) is locked
    assert fit_photos(locked, [item_id], just_covering) is locked


@given(jobs(), item_ids)
def test_covering_covers(job: Job, item_id: str) -> None:
    item = find_item(job, item_id)
    photo = photo_of(job, item)
    assert photo is not None
    placement = just_covering(item, photo)
    assert placement is not None
    after = find_item(edits.set_content_placement(job, item_id, placement), item_id)
    share = bare_share(after, photo)
    assert share is not None
    assert share < 1e-4


@given(jobs(), item_ids, similarities, st.sampled_from(["photo", "shape", "together"]))
def test_a_kept_cover_is_never_bared(job: Job, item_id: str, change: Similarity, grip: str) -> None:
    item = find_item(job, item_id)
    photo = photo_of(job, item)
    assert photo is not None
    placement = just_covering(item, photo)
    assert placement is not None
    job = edits.set_keeps_covered(edits.set_content_placement(job, item_id, placement), [item_id], True)
    before = bare_share(find_item(job, item_id), photo) or 0
    after = transform_items(job, [item_id], grip, change)  # type: ignore[arg-type]
    assert (bare_share(find_item(after, item_id), photo) or 0) <= max(1e-4, before + 1e-9)


@given(st.lists(st.integers(0, 5), max_size=8), st.integers(0, 9))
def test_undo_then_redo_is_identity(values: list[int], count: int) -> None:
    history = History((object(),))
    for value in values:
        history = history.applied(f"step {value}", object())
    back = history
    for _ in range(count):
        back = back.undone()
    for _ in range(count):
        back = back.redone()
    assert back.value is history.value
    assert back.undo_label == history.undo_label


@given(jobs())
def test_a_job_file_gives_the_job_back(job: Job) -> None:
    data = write_job(job, STORE.data, b"preview")
    found = read_job(data, "job")
    assert found.job == job
    assert found.preview == b"preview"
    assert found.photos == {p.sha256: STORE.data(p) for p in JOB.photos}
    assert write_job(found.job, STORE.data, b"preview") == data
