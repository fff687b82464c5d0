"""Groups in pixels: masks of masks join without a seam, opacity and finishes are those of the whole."""

import math
from itertools import pairwise

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.arranging.several import scale_items
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Mount, Shadow, Stroke
from glasscap.core.document.model.job import Cutout, Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.geometry.types import Affine, Box, PixelBox
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.render.picture import render, render_deep
from glasscap.core.render.plan.plan import plan_cutout, plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import PointsShape
from glasscap.files.jobs import new_store
from tests.core.document.samples_of_many import CIRCLE, COLOURS, RECTANGLE, job_of, painted, waiting
from tests.samples import cache, photo_job, png_photo

SCALES = (0.5, 1.0, 1.7, 2.0, 3.0)
ROUND = Box(26.2, 24.3, 376.4, 374.5)


def tiles() -> list[Cutout]:
    """Fifty tiles whose edges fall between pixels cover the sheet without a gap."""
    rng = np.random.default_rng(4)
    xs = [0.0, *np.sort(rng.uniform(5, 395, 9)).tolist(), 400.0]
    ys = [0.0, 80.3, 160.7, 240.1, 320.9, 400.0]
    boxes = [Box(a, c, b, d) for a, b in pairwise(xs) for c, d in pairwise(ys)]
    return [painted(f"i{n}", box, COLOURS[n % 6]) for n, box in enumerate(boxes, 1)]


def under_circle(items: list[Cutout]) -> tuple[Job, str]:
    job = job_of([*items, waiting("i90", ROUND)], 400, 400)
    return group_items(job, [i.id for i in items] + ["i90"])


def deep(job: Job, scale: float) -> np.ndarray:
    return render_deep(plan_sheet(job, job.sheets[0], scale=scale), new_store(), cache())


@pytest.mark.parametrize("scale", SCALES)
def test_fifty_tiles_under_a_circle_cover_just_the_circle(scale: float) -> None:
    many, _ = under_circle(tiles())
    one = job_of([painted("i1", ROUND, shape=CIRCLE)], 400, 400)
    there, expected = deep(many, scale)[..., 3].astype(int), deep(one, scale)[..., 3].astype(int)
    assert np.abs(there - expected).max() <= 1
    assert (there[expected == 65535] == 65535).all()
    # The area of the coverage is pi r^2 (to what 16 bits and a polygon leave).
    assert there.sum() / 65535 == pytest.approx(np.pi * (ROUND.width / 2 * scale) ** 2, rel=1e-5)


@pytest.mark.parametrize("scale", SCALES)
def test_on_the_screen_the_joints_are_full_too(scale: float) -> None:
    job, _ = under_circle(tiles())
    size = round(400 * scale)
    frame = screen_frame(
        plan_view(job, job.sheets[0], Affine.scaling(scale), PixelBox(0, 0, size, size), "preview"),
        new_store(),
        cache(),
    )
    assert frame is not None
    ys, xs = np.mgrid[frame.y : frame.y + frame.rgba.shape[0], frame.x : frame.x + frame.rgba.shape[1]]
    middle, radius = (ROUND.centre[0] * scale, ROUND.centre[1] * scale), ROUND.width / 2 * scale
    is_inside = np.hypot(xs + 0.5 - middle[0], ys + 0.5 - middle[1]) < radius - 1
    assert (frame.rgba[..., 3][is_inside] == 255).all()


def test_an_edge_shared_with_the_group_is_covered_once() -> None:
    circle = painted("i1", ROUND, shape=CIRCLE)
    job, _ = under_circle([circle])
    assert np.array_equal(deep(job, 1.0), deep(job_of([circle], 400, 400), 1.0))


def test_a_mask_in_a_mask_in_a_mask_keeps_the_shared_edge() -> None:
    circle = painted("i1", ROUND, shape=CIRCLE)
    job, key = under_circle([circle])
    for _ in range(3):
        sheet = job.sheets[0]
        job = replace(job, sheets=(replace(sheet, items=(*sheet.items, waiting("i95", ROUND))),))
        job, key = group_items(job, [key, "i95"])
    assert np.abs(deep(job, 1.0).astype(int) - deep(job_of([circle], 400, 400), 1.0)).max() <= 1


def test_a_stroke_round_the_group_joins_full() -> None:
    job, key = under_circle(tiles())
    stroke = Finishes(strokes=(Stroke(9.3, ColourPaint("#ffffff")),))
    job = update_item(job, key, lambda i: replace(i, finishes=stroke))
    alpha = deep(job, 1.3)[..., 3]
    ys, xs = np.mgrid[0:520, 0:520] + 0.5
    far = np.hypot(xs - ROUND.centre[0] * 1.3, ys - ROUND.centre[1] * 1.3)
    assert (alpha[far < (ROUND.width / 2 + 9.3) * 1.3 - 1] == 65535).all()


def test_a_group_that_does_nothing_changes_nothing() -> None:
    items = [painted("i1", Box(10.4, 10, 60, 60)), painted("i2", Box(40, 30.3, 90, 95), COLOURS[1], CIRCLE)]
    plain = job_of(items, 120, 120)
    job, _ = group_items(plain, ["i1", "i2"])
    assert np.array_equal(deep(job, 1.5), deep(plain, 1.5))


def test_opacity_fades_the_whole_not_the_parts() -> None:
    items = [painted("i1", Box(10, 10, 60, 60)), painted("i2", Box(40, 10, 90, 60), COLOURS[1])]
    job, key = group_items(job_of(items, 100, 100), ["i1", "i2"])
    faded = update_item(job, key, lambda i: replace(i, opacity=0.5))
    picture = render(plan_sheet(faded, faded.sheets[0]), new_store(), cache()).rgba
    assert set(picture[20:50, 12:88, 3].ravel().tolist()) == {128}
    assert picture[30, 50, :3].tolist() == [0x0B, 0x7A, 0x75]


def test_shadows_fall_from_the_group_as_one() -> None:
    items = [painted("i1", Box(10, 10, 30, 30)), painted("i2", Box(30, 10, 50, 30), COLOURS[1])]
    job, key = group_items(job_of(items, 80, 80), ["i1", "i2"])
    shadow = Finishes(lights=Lights(shadows=(Shadow(0, 25, 0, colour="#000000", opacity=1),)))
    job = update_item(job, key, lambda i: replace(i, finishes=shadow))
    picture = render(plan_sheet(job, job.sheets[0]), new_store(), cache()).rgba
    assert (picture[37:53, 12:48, 3] == 255).all()
    assert (picture[37:53, 12:48, :3] == 0).all()


def test_without_a_shape_strokes_follow_the_joint_outline() -> None:
    items = [painted("i1", Box(20, 20, 50, 50)), painted("i2", Box(50, 20, 80, 50), COLOURS[1])]
    job, key = group_items(job_of(items, 100, 70), ["i1", "i2"])
    stroke = Finishes(strokes=(Stroke(6, ColourPaint("#ffffff")),))
    job = update_item(job, key, lambda i: replace(i, finishes=stroke))
    picture = render(plan_sheet(job, job.sheets[0]), new_store(), cache()).rgba
    assert picture[17, 50].tolist() == [255, 255, 255, 255]
    # No stroke runs between the two.
    assert picture[35, 49, :3].tolist() == [0xB4, 0x53, 0x2C]
    assert picture[35, 50, :3].tolist() == [0x0B, 0x7A, 0x75]


def test_a_mount_lies_behind_all_of_a_group() -> None:
    items = [painted("i1", Box(20, 20, 40, 40)), painted("i2", Box(60, 20, 80, 40), COLOURS[1])]
    job, key = group_items(job_of(items, 100, 60), ["i1", "i2"])
    mount = Finishes(mount=Mount(5, 5, 5, 5, 0, ColourPaint("#fdfbf6")))
    job = update_item(job, key, lambda i: replace(i, finishes=mount))
    picture = render(plan_sheet(job, job.sheets[0]), new_store(), cache()).rgba
    assert picture[30, 50].tolist() == [0xFD, 0xFB, 0xF6, 255]
    assert picture[:, :, 3].sum() == 255 * 70 * 30


def test_a_feathered_group_fades_what_it_holds() -> None:
    job, key = under_circle(tiles())
    soft = update_item(job, key, lambda i: replace(i, finishes=Finishes(edge=Edge(feather=20))))
    one = job_of(
        [replace(painted("i1", ROUND, shape=CIRCLE), finishes=Finishes(edge=Edge(feather=20)))], 400, 400
    )
    assert np.abs(deep(soft, 1.0)[..., 3].astype(int) - deep(one, 1.0)[..., 3]).max() <= 2


def test_translucent_and_soft_parts_lie_over_one_another_as_ever() -> None:
    soft = Finishes(lights=Lights(shadows=(Shadow(3, 4, 6, opacity=0.5),)))
    items = [
        replace(painted("i1", Box(40, 40, 200, 300)), finishes=soft),
        replace(painted("i2", Box(120, 90, 330, 250), COLOURS[1]), opacity=0.6),
        replace(painted("i3", Box(150, 200, 300, 380), COLOURS[2], CIRCLE), finishes=soft),
    ]
    plain = job_of(items, 400, 400)
    whole, key = group_items(job_of([*items, waiting("i90", Box(-50, -50, 450, 450), RECTANGLE)], 400, 400),
                             ["i1", "i2", "i3", "i90"])  # fmt: skip
    assert np.abs(deep(whole, 1.0).astype(int) - deep(plain, 1.0)).max() <= 24
    assert key


def test_photos_lie_in_groups_untouched() -> None:
    job, store = photo_job(png_photo(60, 60))
    item = replace(job.sheets[0].items[0], is_masked=False)
    sheet = replace(job.sheets[0], items=(item, waiting("i90", Box(0, 0, 60, 60), RECTANGLE)))
    grouped, key = group_items(replace(job, sheets=(sheet,)), [item.id, "i90"])
    plain = replace(job, sheets=(replace(sheet, items=(item,)),))
    one = render(plan_sheet(grouped, grouped.sheets[0]), store, cache()).rgba
    other = render(plan_sheet(plain, plain.sheets[0]), store, cache()).rgba
    assert np.array_equal(one, other)
    group = grouped.sheets[0].items[0]
    assert group.id == key
    assert render(plan_cutout(grouped, grouped.sheets[0], group), store, cache()).box == PixelBox(0, 0, 60, 60)


def test_a_hole_in_a_group_shows_all_around_it() -> None:
    job, key = under_circle([painted("i1", Box(0, 0, 400, 400))])
    hole = update_item(job, key, lambda i: replace(i, shape=replace(i.shape, keeps="outside")))
    one, other = deep(job, 1.0)[..., 3].astype(int), deep(hole, 1.0)[..., 3].astype(int)
    assert np.abs(one + other - 65535).max() <= 1


def test_hidden_parts_and_groups_show_nothing() -> None:
    job, key = under_circle(tiles())
    hidden = update_item(job, key, lambda i: replace(i, is_hidden=True))
    assert not deep(hidden, 0.5).any()
    half = scale_items(update_item(job, "i3", lambda i: replace(i, is_hidden=True)), [key], 1.0)
    assert deep(half, 1.0)[..., 3].sum() < deep(job, 1.0)[..., 3].sum()


def test_a_group_of_paint_has_the_paints_own_bytes_inside() -> None:
    job, _ = under_circle([painted("i1", Box(0, 0, 400, 400), "#b4532c")])
    picture = render(plan_sheet(job, job.sheets[0]), new_store(), cache()).rgba
    assert picture[200, 200].tolist() == [0xB4, 0x53, 0x2C, 255]
    assert isinstance(job.sheets[0].items[0].items[0].content, PaintContent)


def nested() -> Job:
    """A group in a group, their masks sharing an edge, a soft part and a translucent one among the tiles."""
    soft = Finishes(lights=Lights(shadows=(Shadow(3, 4, 9, opacity=0.6),)))
    parts = [
        *tiles()[:12],
        replace(painted("i61", Box(60, 40, 200, 190), COLOURS[1], CIRCLE), finishes=soft),
        replace(painted("i62", Box(110, 60, 260, 170), COLOURS[2]), opacity=0.5),
        waiting("i90", ROUND),
    ]
    job, inner = group_items(job_of(parts, 400, 400), [p.id for p in parts])
    sheet = job.sheets[0]
    job = replace(job, sheets=(replace(sheet, items=(*sheet.items, waiting("i200", ROUND))),))
    job, _ = group_items(job, [inner, "i200"])
    return job


@pytest.mark.parametrize("make", [nested, lambda: under_circle(tiles())[0]], ids=["nested", "tiles"])
def test_the_screen_shows_what_is_written(make) -> None:
    job = make()
    box = PixelBox(0, 0, 400, 400)
    kept = cache()
    plan = plan_view(job, job.sheets[0], Affine(), box, "preview")
    # Twice: the second time from what was kept.
    screen_frame(plan, new_store(), kept)
    frame = screen_frame(plan, new_store(), kept)
    final = premultiplied(render(plan_sheet(job, job.sheets[0]), new_store(), cache()).rgba)
    shown = np.zeros_like(final)
    height, width = frame.rgba.shape[:2]
    shown[frame.y : frame.y + height, frame.x : frame.x + width] = frame.rgba
    difference = np.abs(shown.astype(int) - final)
    # A shadow's blur is coarser on the screen.
    assert difference[..., 3].max() <= 3
    # Where two tiles meet on the mask's very edge the screen mixes their colours by the whole pixel.
    assert (difference.max(axis=-1) > 3).mean() < 5e-4


def test_a_mask_that_moves_over_kept_contents_is_as_if_drawn_anew() -> None:
    job, key = under_circle(tiles())
    box, kept = PixelBox(0, 0, 400, 400), cache()
    for step in (0.0, 3.3, 7.9):
        moved = update_item(
            job, key, lambda i, by=step: replace(i, shape_placement=i.shape_placement.moved(by, by))
        )
        plan = plan_view(moved, moved.sheets[0], Affine(), box, "preview")
        old, fresh = screen_frame(plan, new_store(), kept), screen_frame(plan, new_store(), cache())
        assert (old.x, old.y) == (fresh.x, fresh.y)
        assert np.array_equal(old.rgba, fresh.rgba)


def test_members_hide_what_lies_under_them_while_they_move() -> None:
    # Of many points, with dents that a stroke closes.
    side = " ".join(f"L{200 - n / 3:.3f} {120 + math.sin(n / 9):.3f}" for n in range(600))
    dents = " ".join(f"L{at} 0 L{at + 3} 40 L{at + 6} 0" for at in range(20, 190, 18))
    shape = PointsShape(f"M0 0 {dents} L200 0 {side} Z")
    stroked = Finishes(strokes=(Stroke(14, ColourPaint("#ffffff")),))
    parts = [
        *tiles()[:50],
        replace(painted("i61", Box(60, 60, 250, 250), COLOURS[1], shape), finishes=stroked),
        replace(painted("i62", Box(160, 150, 330, 320), COLOURS[2], shape), finishes=stroked),
    ]
    job, _ = under_circle(parts)
    shown = []
    for quality in ("preview", "moving"):
        plan = plan_view(job, job.sheets[0], Affine(), PixelBox(0, 0, 400, 400), quality)
        frame = screen_frame(plan, new_store(), cache())
        assert frame is not None
        shown.append(frame.rgba.astype(int))
    assert shown[0].shape == shown[1].shape
    # But where two arcs cross.
    assert (np.abs(shown[0] - shown[1]).max(axis=-1) > 16).sum() < 40


@pytest.mark.parametrize("is_for_screen", [False, True])
def test_what_a_group_holds_shows_on_both_sides_of_a_stroke_within_its_mask(is_for_screen: bool) -> None:
    mask = Box(40, 30, 240, 180)
    items = [painted("i1", Box(0, 0, 300, 300), COLOURS[0]), waiting("i90", mask)]
    job, key = group_items(job_of(items, 400, 400), ["i1", "i90"])
    ring = Finishes(strokes=(Stroke(6, ColourPaint("#000000"), side="inside", gap=10),))
    job = update_item(job, key, lambda i: replace(i, finishes=ring))
    if is_for_screen:
        plan = plan_view(job, job.sheets[0], Affine(), PixelBox(0, 0, 400, 400), "preview")
        frame = screen_frame(plan, new_store(), cache())
        assert frame is not None
        rgba = frame.rgba[30 - frame.y : 180 - frame.y, 40 - frame.x : 240 - frame.x]
    else:
        rgba = render(
            plan_cutout(job, job.sheets[0], job.sheets[0].items[0], crop="shape"), new_store(), cache()
        ).rgba
    middle = rgba[:, rgba.shape[1] // 2]
    colour = [int(COLOURS[0][n : n + 2], 16) for n in (1, 3, 5)]
    for row in (2, 8, 18, 40):
        assert middle[row].tolist() == [*colour, 255]
    assert middle[13].tolist() == [0, 0, 0, 255]
