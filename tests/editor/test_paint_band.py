"""The brush over a soft contour's band."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.finishing.edits import change_soft
from glasscap.core.document.model.job import Job
from glasscap.editor.tools.paint_band import BRUSH_REACHES, paint_band
from glasscap.editor.tools.pointer import PointerEvent, Scene
from tests.samples import photo_job


def painted(job: Job, *places: tuple[float, float], is_wider: bool = True) -> Job:
    item = job.sheets[0].items[0]
    tool = paint_band(
        Scene(job, job.sheets[0].id, (item.id,), "shape", 4.0), PointerEvent(*places[0]), is_wider=is_wider
    )
    next(tool)
    for place in places[1:]:
        tool.send(PointerEvent(*place))
    with pytest.raises(StopIteration) as ended:
        tool.send(PointerEvent(*places[-1], is_released=True))
    return ended.value.value.job


def test_a_drag_is_one_stroke_in_shares_of_the_frame() -> None:
    job, _ = photo_job()
    item = job.sheets[0].items[0]
    job = change_soft(job, item.id, width=20.0)
    placed = item.shape_placement
    edge = (placed.x + placed.width / 2, placed.y)
    job = painted(job, edge, (edge[0], edge[1] + 0.1), (edge[0], edge[1] + 30), is_wider=True)
    (stroke,) = job.sheets[0].items[0].finishes.edge.soft.strokes
    assert stroke.points[0] == (0.5, 0.0)
    # A point that is next to the last one adds nothing.
    assert len(stroke.points) == 2
    assert stroke.radius == pytest.approx(BRUSH_REACHES * 4 / min(placed.width, placed.height), abs=1e-5)
    assert stroke.is_wider
    more = painted(job, edge, is_wider=False)
    assert [s.is_wider for s in more.sheets[0].items[0].finishes.edge.soft.strokes] == [True, False]


def test_without_a_soft_contour_or_with_a_lock_nothing_begins() -> None:
    job, _ = photo_job()
    sheet, item = job.sheets[0], job.sheets[0].items[0]
    locked = replace(change_soft(job, item.id).sheets[0].items[0], is_locked=True)
    for one in (job, replace(job, sheets=(replace(sheet, items=(locked,)),))):
        tool = paint_band(Scene(one, sheet.id, (item.id,), "shape", 4.0), PointerEvent(0, 0), is_wider=True)
        with pytest.raises(StopIteration) as ended:
            next(tool)
        assert ended.value.value is None
