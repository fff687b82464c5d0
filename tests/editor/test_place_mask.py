"""Placing a picture mask on the bench."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge, Finishes, PictureMask
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.handles import photo_frame
from glasscap.editor.tools.place_mask import mask_frame, place_mask
from glasscap.editor.tools.pointer import PointerEvent, Scene
from tests.samples import photo_job, png_photo


def masked_job(mask: dict[str, object], *, rotation: float = 0.0, **item: object) -> Job:
    """A 100 x 50 rectangle at (120, 80) masked by a 40 x 40 picture."""
    job, _ = photo_job(png_photo(240, 200), png_photo(40, 40))
    edge = Edge(mask=PictureMask(job.photos[1].sha256, **mask))
    one = replace(
        job.sheets[0].items[0],
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(120, 80, 100, 50, rotation),
        finishes=Finishes(edge),
        **item,
    )
    return replace(job, sheets=(replace(job.sheets[0], items=(one,)),))


def dragged(job: Job, start: tuple[float, float], end: tuple[float, float], **keys: bool) -> PictureMask | None:
    """The mask after a drag."""
    item = job.sheets[0].items[0].id
    tool = place_mask(Scene(job, job.sheets[0].id, (item,), "shape", 5), PointerEvent(*start, **keys))
    next(tool)
    tool.send(PointerEvent(*end, **keys))
    with pytest.raises(StopIteration) as done:
        tool.send(PointerEvent(*end, is_released=True, **keys))
    return find_item(done.value.value.job, item).finishes.edge.mask


def test_a_mask_covers_the_frame_or_is_stretched_to_it() -> None:
    covering = masked_job({})
    frame = mask_frame(covering, covering.sheets[0], covering.sheets[0].items[0])
    assert frame.point(-1, -1) == pytest.approx((70, 30)) and frame.point(1, 1) == pytest.approx((170, 130))
    stretched = masked_job({"is_stretched": True, "x": 0.1})
    frame = mask_frame(stretched, stretched.sheets[0], stretched.sheets[0].items[0])
    assert frame.point(-1, -1) == pytest.approx((80, 55)) and frame.point(1, 1) == pytest.approx((180, 105))


def test_a_turned_hole_and_a_bare_photo_have_masks_of_their_own_frame() -> None:
    hole = masked_job({"is_stretched": True}, rotation=30)
    item = hole.sheets[0].items[0]
    turned = mask_frame(hole, hole.sheets[0], replace(item, shape=replace(item.shape, keeps="outside")))
    assert turned.point(1, 1) == pytest.approx(item.shape_placement.to_sheet.apply(50, 25))
    bare = mask_frame(hole, hole.sheets[0], replace(item, is_masked=False))
    photo = photo_frame(item, hole.photos[0])
    assert all(bare.point(u, v) == pytest.approx(photo.point(u, v)) for u, v in ((-1, -1), (1, -1), (1, 1)))


def test_a_mask_moves_in_the_turned_frame_of_its_shape() -> None:
    mask = dragged(masked_job({}, rotation=90), (120, 80), (120, 105))
    assert (mask.x, mask.y) == (pytest.approx(0.25), pytest.approx(0, abs=1e-9))


def test_shift_sizes_and_alt_turns() -> None:
    job = masked_job({"x": 0.1})
    assert dragged(job, (140, 80), (150, 80), has_shift=True).size == pytest.approx(2)
    assert dragged(job, (140, 80), (130, 95), has_ctrl=True).rotation == pytest.approx(90)


def test_without_a_mask_or_locked_nothing_begins() -> None:
    for job in (masked_job({}, is_locked=True), photo_job(png_photo(40, 40))[0]):
        item = job.sheets[0].items[0].id
        tool = place_mask(Scene(job, job.sheets[0].id, (item,), "shape", 5), PointerEvent(0, 0))
        with pytest.raises(StopIteration) as done:
            next(tool)
        assert done.value.value is None
