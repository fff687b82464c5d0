"""Frames for the screen agree with the written picture."""

from typing import Any

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Mount, Shadow, Stroke
from glasscap.core.document.model.job import Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import part_of, plan_view
from glasscap.core.render.screen.frames import Frame, ghost_frame, screen_frame
from glasscap.core.shapes.kinds import library_shape
from tests.samples import cache, photo_job, png_photo

VIEW = PixelBox(0, 0, 260, 220)
ALPHA = photo_job(png_photo(140, 120, alpha=True), png_photo(100, 100, seed=2))
SOLID = photo_job(png_photo(140, 120), png_photo(100, 100, seed=2))


def overlapping(job: Job, **changes: object) -> Job:
    first, second = job.sheets[0].items
    job = edits.update_item(
        job,
        second.id,
        lambda i: replace(
            i,
            shape_placement=ShapePlacement(80, 60, 90, 70),
            shape=library_shape("ellipse"),
            content_placement=i.content_placement.moved(-90, 0),
        ),
    )  # type: ignore[union-attr]
    return edits.update_item(job, first.id, lambda i: replace(i, **changes))


def dense(frame: Frame | None) -> np.ndarray:
    plane = np.zeros((VIEW.height, VIEW.width, 4), np.uint8)
    if frame is not None:
        height, width = frame.rgba.shape[:2]
        plane[frame.y : frame.y + height, frame.x : frame.x + width] = frame.rgba
    return plane


@pytest.mark.parametrize("case", [SOLID, ALPHA], ids=["solid", "own alpha"])
@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"shape": library_shape("circle", "outside")},
        {"is_masked": False},
        {"opacity": 0.5},
        {"is_hidden": True},
    ],
    ids=["plain", "hole", "mask off", "opacity", "hidden"],
)
def test_at_100_percent_the_frame_is_the_picture(
    case: tuple[Job, PhotoStore], changes: dict[str, object]
) -> None:
    job, store = overlapping(case[0], **changes), case[1]
    plan = plan_view(job, job.sheets[0], Affine.translation(7, 5), VIEW, "preview")
    wanted = premultiplied(render(plan, store, cache()).rgba).astype(int)
    found = dense(screen_frame(plan, store, cache()))
    assert np.abs(found - wanted).max() <= 3
    assert np.abs(found - wanted).mean() < 0.2


@pytest.mark.parametrize("scale", [0.33, 1.7, 9.0])
def test_at_other_zooms_the_mask_is_the_same(scale: float) -> None:
    job, store = SOLID
    plan = plan_view(job, job.sheets[0], Affine.scaling(scale), VIEW, "preview")
    wanted = render(plan, store, cache()).rgba[..., 3].astype(int)
    assert np.abs(dense(screen_frame(plan, store, cache()))[..., 3] - wanted).max() <= 2


def test_the_ghost_is_what_the_shape_hides() -> None:
    job, store = SOLID
    part = part_of(job, job.sheets[0], job.sheets[0].items[0], Affine())
    assert part is not None
    ghost = dense(ghost_frame(part, VIEW, store, cache()))
    shown = dense(
        screen_frame(
            plan_view(
                replace(job, sheets=(replace(job.sheets[0], items=job.sheets[0].items[:1]),)),
                replace(job.sheets[0], items=job.sheets[0].items[:1]),
                Affine(),
                VIEW,
                "preview",
            ),
            store,
            cache(),
        )
    )
    both = ghost.astype(int) + shown
    # A photo of 140 px stands centred in a cell of 120 px.
    assert np.abs(both[:120, :130, 3] - 255).max() <= 1


def test_nothing_in_view_is_no_frame() -> None:
    job, store = SOLID
    plan = plan_view(job, job.sheets[0], Affine.translation(5000, 0), VIEW, "preview")
    assert screen_frame(plan, store, cache()) is None
    part = part_of(job, job.sheets[0], job.sheets[0].items[0], Affine.translation(5000, 0))
    assert part is not None
    assert ghost_frame(part, VIEW, store, cache()) is None


MOUNTED = Finishes(
    edge=Edge(feather=14),
    strokes=(Stroke(5, ColourPaint("#f4e9d8")),),
    lights=Lights(shadows=(Shadow(3, 5, 16),)),
    mount=Mount(9, 9, 20, 9, 6, ColourPaint("#e8e0d0"), stroke=Stroke(2), shadow=Shadow(2, 2, 8)),
)


@pytest.mark.parametrize("quality", ["preview", "moving"])
@pytest.mark.parametrize(
    "changes",
    [{}, {"opacity": 0.4}, {"content": PaintContent(ColourPaint("#336699")), "content_placement": None}],
)
def test_a_mount_is_drawn_by_itself_and_looks_as_in_the_picture(
    changes: dict[str, object], quality: Quality
) -> None:
    job, store = overlapping(SOLID[0], finishes=MOUNTED, **changes), SOLID[1]
    plan = plan_view(job, job.sheets[0], Affine.translation(40, 35), VIEW, quality)
    wanted = premultiplied(render(plan, store, cache()).rgba).astype(int)
    found = dense(screen_frame(plan, store, cache()))
    assert np.abs(found - wanted).max() <= 3
    assert np.abs(found - wanted).mean() < 0.2


def test_what_changes_of_a_mount_leaves_its_body_as_drawn(monkeypatch: pytest.MonkeyPatch) -> None:
    made: list[str] = []
    make = FinishedPart.__init__

    def counted(part: FinishedPart, *args: Any) -> None:
        # Silhouettes that cast shadows have no name.
        if args[0].cutout_id:
            made.append(args[0].cutout_id)
        make(part, *args)

    monkeypatch.setattr(FinishedPart, "__init__", counted)
    (job, store), kept = SOLID, cache()
    key = job.sheets[0].items[0].id

    def shown(mount: Mount, inset: float) -> list[str]:
        made.clear()
        finishes = replace(MOUNTED, mount=mount, edge=Edge(inset=inset))
        changed = overlapping(job, finishes=finishes)
        screen_frame(plan_view(changed, changed.sheets[0], Affine(), VIEW, "moving"), store, kept)
        return made.copy()

    assert shown(Mount(9, 9, 9, 9), 2.0) == [f"mount of {key}", key]
    assert shown(Mount(12, 9, 9, 9), 2.0) == [f"mount of {key}"]
    assert shown(Mount(12, 9, 9, 9), 3.0) == [key]
    assert shown(Mount(12, 9, 9, 9), 3.0) == []
