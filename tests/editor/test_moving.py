"""What moves is shown at once: photos warped once, outlines a little coarser; at rest all is exact."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.finishing.edits import change_finishes
from glasscap.core.document.model.finishes import Edge, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Job
from glasscap.core.geometry.types import Affine, PixelBox, Similarity
from glasscap.core.raster import resample
from glasscap.core.render.paint import content
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.frames import BenchFrame, BenchRequest, ScreenPhotos, bench_frame
from tests.core.document.strategies import JOB, STORE
from tests.samples import cache

FIRST = JOB.sheets[0].items[0]
# A quarter of a device px is one px of the sheet.
SCALE = 0.25


def dragged(dx: float, dy: float = 0.0) -> Job:
    return transform_items(JOB, [FIRST.id], "photo", Similarity(dx=dx / SCALE, dy=dy / SCALE))


class Bench:
    """Frames of one view, from what is kept; counts the warps of the last one."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch, view: PixelBox, scale: float = SCALE) -> None:
        self.photos, self.cache, self.view, self.warps = ScreenPhotos(STORE), cache(), view, 0
        self.to_device = Affine.scaling(scale)
        real = resample.sample_for_screen

        def counted(*args: object) -> object:
            self.warps += 1
            return real(*args)  # type: ignore[arg-type]

        monkeypatch.setattr(content, "sample_for_screen", counted)

    def frame(self, job: Job, *, is_moving: bool = False) -> BenchFrame:
        self.warps = 0
        request = BenchRequest(job, "s1", self.to_device, self.view, FIRST.id, is_moving=is_moving)
        return bench_frame(request, self.photos, self.cache)

    def fresh(self, job: Job) -> BenchFrame:
        """Return a frame from nothing kept."""
        request = BenchRequest(job, "s1", self.to_device, self.view, FIRST.id)
        return bench_frame(request, ScreenPhotos(STORE), cache())


def pixels(frame: BenchFrame, view: PixelBox) -> np.ndarray:
    """Return sheet and ghost in the whole view."""
    out = np.zeros((2, view.height, view.width, 4), int)
    for plane, part in zip(out, (frame.sheet, frame.ghost), strict=True):
        if part is not None:
            height, width = part.rgba.shape[:2]
            x, y = part.x - view.x0, part.y - view.y0
            plane[y : y + height, x : x + width] = part.rgba
    return out


def far(one: BenchFrame, other: BenchFrame, view: PixelBox) -> int:
    return int(np.abs(pixels(one, view) - pixels(other, view)).max())


WHOLE, NARROW = PixelBox(-40, -40, 200, 200), PixelBox(5, 5, 40, 40)


@pytest.mark.parametrize("view", [WHOLE, NARROW], ids=["all of it in view", "more than is in view"])
def test_by_whole_px_it_is_the_photo_warped_there(monkeypatch: pytest.MonkeyPatch, view: PixelBox) -> None:
    bench = Bench(monkeypatch, view)
    bench.frame(JOB)
    for dx, dy in ((1, 0), (2, -3), (9, 4), (8, 5), (0, 0), (-6, 2)):
        assert far(bench.frame(dragged(dx, dy)), bench.fresh(dragged(dx, dy)), view) <= 1


def test_it_is_warped_once(monkeypatch: pytest.MonkeyPatch) -> None:
    bench = Bench(monkeypatch, WHOLE)
    bench.frame(JOB)
    for dx in range(12):
        bench.frame(dragged(dx, -dx))
        assert bench.warps == 0


def test_while_it_is_moved_it_may_lie_an_eighth_off_and_is_put_right_after(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    bench = Bench(monkeypatch, WHOLE)
    bench.frame(JOB)
    between = dragged(3.1, 1.9)
    moving = bench.frame(between, is_moving=True)
    assert bench.warps == 0
    # A corner that no shape reaches is that of the photo whole px away.
    assert np.array_equal(moving.ghost.rgba[:2, :9], bench.fresh(dragged(3, 2)).ghost.rgba[:2, :9])
    assert not np.array_equal(moving.ghost.rgba[:2, :9], bench.fresh(between).ghost.rgba[:2, :9])
    at_rest = bench.frame(between)
    assert bench.warps == 1
    assert far(at_rest, bench.fresh(between), WHOLE) == 0
    bench.frame(dragged(3.4, 2.2), is_moving=True)
    assert bench.warps == 1


def test_another_scale_is_warped_anew(monkeypatch: pytest.MonkeyPatch) -> None:
    bench = Bench(monkeypatch, WHOLE)
    bench.frame(JOB)
    bench.to_device = Affine.scaling(0.3)
    assert far(bench.frame(JOB), bench.fresh(JOB), WHOLE) == 0


DRESSED = change_finishes(
    JOB,
    FIRST.id,
    lambda finishes: replace(
        finishes, edge=Edge(feather=9.0), strokes=(Stroke(6.0),), lights=Lights(shadows=(Shadow(3, 4, 12),))
    ),
)


@pytest.mark.parametrize("name", ["circle", "heart", "star"])
def test_a_moving_shape_with_finishes_is_within_four_levels_and_exact_at_rest(
    monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    bench = Bench(monkeypatch, WHOLE, 1.0)
    shaped = update_item(DRESSED, FIRST.id, lambda item: replace(item, shape=library_shape(name)))
    for step in range(4):
        job = transform_items(shaped, [FIRST.id], "shape", Similarity(dx=3.3 * step, dy=-2.1 * step))
        exact = bench.fresh(job)
        assert 0 < far(bench.frame(job, is_moving=True), exact, WHOLE) <= 4
        assert far(bench.frame(job), exact, WHOLE) == 0
        # Once it is there exactly it stays so.
        assert far(bench.frame(job, is_moving=True), exact, WHOLE) == 0


def test_what_lies_around_what_moves_is_exact_from_the_first(monkeypatch: pytest.MonkeyPatch) -> None:
    others = [item.id for item in JOB.sheets[0].items if item.id != FIRST.id]
    bench = Bench(monkeypatch, WHOLE, 1.0)
    for step in range(3):
        moved = transform_items(DRESSED, others[:1], "together", Similarity(dx=5.0 * step))
        bench.frame(moved, is_moving=True)
    at_rest = bench.frame(moved)
    assert far(at_rest, bench.fresh(moved), WHOLE) == 0
