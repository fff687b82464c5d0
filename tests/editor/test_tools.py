"""Pointer tools without a toolkit: events in, one edit out."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.arranging.grips import Grip
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.job import Job, Sheet
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.handles import handles_for
from glasscap.editor.tools.draw_shape import draw_shape
from glasscap.editor.tools.move import move
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Tool
from glasscap.editor.tools.scale import scale
from glasscap.editor.tools.turn import turn
from tests.samples import photo_job, png_photo

JOB, _ = photo_job(png_photo(400, 300))
ITEM = JOB.sheets[0].items[0]
CARD = edits.update_item(JOB, ITEM.id, lambda i: replace(
    i, shape=library_shape("rectangle"), shape_placement=ShapePlacement(200, 150, 100, 80)))  # fmt: skip


def scene(grip: Grip, job: Job = JOB, *, reach: float = 0.0, selected: tuple[str, ...] = (ITEM.id,)) -> Scene:
    return Scene(job, "s1", selected, grip, reach)


def drag(tool: Tool, *points: tuple[float, float], **held: bool) -> Edit | None:
    """Send moves and a release at the last point."""
    next(tool)
    for x, y in points[:-1]:
        tool.send(PointerEvent(x, y, **held))
    try:
        tool.send(PointerEvent(*points[-1], is_released=True, **held))
    except StopIteration as end:
        found: Edit | None = end.value
        return found
    raise AssertionError("the tool did not end on release")


def press(x: float, y: float, **held: bool) -> PointerEvent:
    return PointerEvent(x, y, **held)


def handle(job: Job, grip: Grip, u: float, v: float, kind: str = ""):
    item = find_item(job, ITEM.id)
    found = handles_for(job, item, grip, 20)
    return next(h for h in found if (h.u, h.v) == (u, v) and kind in ("", h.kind))


@pytest.mark.parametrize(
    ("grip", "photo", "shape"),
    [("photo", (10, 7), (0, 0)), ("shape", (0, 0), (10, 7)), ("together", (10, 7), (10, 7))],
)
def test_a_drag_moves_what_the_grip_holds(grip: Grip, photo: tuple[int, int], shape: tuple[int, int]) -> None:
    edit = drag(move(scene(grip), press(50, 50)), (55, 52), (60, 57))
    assert edit is not None
    now = find_item(edit.job, ITEM.id)
    assert (now.content_placement.x - 200, now.content_placement.y - 150) == photo
    assert (now.shape_placement.x - 200, now.shape_placement.y - 150) == shape


def test_a_click_is_no_step() -> None:
    edit = drag(move(scene("photo"), press(50, 50)), (50, 50))
    assert edit is not None
    assert edit.job is JOB


def test_moves_end_on_whole_pixels_and_keep_to_one_axis_with_shift() -> None:
    edit = drag(move(scene("shape"), press(50, 50)), (53.4, 51.2))
    now = find_item(edit.job, ITEM.id).shape_placement
    assert (now.x, now.y) == (203, 151)
    edit = drag(move(scene("shape"), press(50, 50)), (53.4, 51.2), has_shift=True)
    now = find_item(edit.job, ITEM.id).shape_placement
    assert (now.x, now.y) == (203, 150)


def test_moves_snap_and_show_the_guide_unless_ctrl_is_held() -> None:
    tool = move(scene("shape", reach=8), press(200, 150))
    next(tool)
    shown = tool.send(PointerEvent(145, 150))
    # The circle is 300 wide: at x = 145 its left edge is 5 px short of the sheet's.
    assert [(g.is_vertical, g.at) for g in shown.guides] == [(True, 0.0), (False, 0.0)]
    assert find_item(shown.job, ITEM.id).shape_placement.x == 150
    shown = tool.send(PointerEvent(145, 150, has_ctrl=True))
    assert not shown.guides
    assert find_item(shown.job, ITEM.id).shape_placement.x == 145


def test_a_corner_drag_scales_the_photo_about_the_other_corner_without_distorting() -> None:
    grip = handle(JOB, "photo", 1, 1)
    edit = drag(scale(scene("photo"), press(grip.x, grip.y), grip), (600, 450))
    now = find_item(edit.job, ITEM.id).content_placement
    assert now.scale_x == now.scale_y == pytest.approx(1.5)
    assert now.to_sheet(400, 300).apply(0, 0) == pytest.approx((0, 0))


def test_together_scales_both() -> None:
    grip = handle(JOB, "together", 1, 1)
    edit = drag(scale(scene("together"), press(grip.x, grip.y), grip), (grip.x + 150, grip.y + 150))
    now = find_item(edit.job, ITEM.id)
    assert now.shape_placement.width == pytest.approx(450)
    assert now.content_placement.scale_x == pytest.approx(1.5)


def test_a_circle_stays_a_circle() -> None:
    grip = handle(JOB, "shape", 1, 0)
    edit = drag(scale(scene("shape"), press(grip.x, grip.y), grip), (300, 150))
    now = find_item(edit.job, ITEM.id).shape_placement
    assert now.width == now.height == 250
    assert now.box.x0 == 50


@pytest.mark.parametrize(
    ("u", "v", "to", "held", "size"),
    [
        (1, 0, (270, 150), {}, (120, 80)),
        (0, 1, (200, 200), {}, (100, 90)),
        (1, 1, (280, 210), {}, (130, 100)),
        (1, 1, (300, 190), {"has_shift": True}, (150, 120)),
        (1, 0, (260, 150), {"has_ctrl": True}, (120, 80)),
    ],
    ids=["side", "bottom", "corner", "proportions", "about the centre"],
)
def test_sizes(u: int, v: int, to: tuple[float, float], held: dict[str, bool], size: tuple[float, float]) -> None:
    grip = handle(CARD, "shape", u, v)
    edit = drag(scale(scene("shape", CARD), press(grip.x, grip.y), grip), to, **held)
    now = find_item(edit.job, ITEM.id).shape_placement
    assert (now.width, now.height) == size
    if "has_ctrl" in held:
        assert (now.x, now.y) == (200, 150)


def test_turning_in_steps() -> None:
    grip = handle(CARD, "shape", 0, -1, "turn")
    edit = drag(turn(scene("shape", CARD), press(grip.x, grip.y), grip), (280, 140), has_shift=True)
    assert find_item(edit.job, ITEM.id).shape_placement.rotation % 15 == 0
    free = drag(turn(scene("shape", CARD), press(grip.x, grip.y), grip), (300, 150))
    assert find_item(free.job, ITEM.id).shape_placement.rotation == pytest.approx(90)


def test_drawing_replaces_the_shape_and_leaves_the_photo() -> None:
    edit = drag(draw_shape(scene("shape"), press(10, 20), "circle"), (60, 50), (110, 90))
    now = find_item(edit.job, ITEM.id)
    assert (now.shape_placement.x, now.shape_placement.y) == (60, 70)
    assert now.shape_placement.width == now.shape_placement.height == 100
    assert now.content_placement == ITEM.content_placement


def test_the_shape_in_progress_is_carried() -> None:
    tool = draw_shape(scene("shape"), press(10, 10), "rectangle")
    next(tool)
    tool.send(PointerEvent(60, 40))
    carried = tool.send(PointerEvent(80, 70, has_ctrl=True))
    now = find_item(carried.job, ITEM.id).shape_placement
    assert (now.width, now.height) == (50, 30)
    assert now.box[:2] == (30, 40)
    assert carried.words == "50 × 30 at 55, 55"


def test_a_shape_carried_by_fractions_lands_on_whole_pixels() -> None:
    for is_snapping, box in ((True, (30, 39, 80, 69)), (False, (29.6, 39.3, 79.6, 69.3))):
        tool = draw_shape(replace(scene("shape"), is_snapping=is_snapping), press(10, 10), "rectangle")
        next(tool)
        tool.send(PointerEvent(60, 40))
        carried = tool.send(PointerEvent(79.6, 69.3, has_ctrl=True))
        assert find_item(carried.job, ITEM.id).shape_placement.box == pytest.approx(box), is_snapping


def test_drawing_on_an_empty_sheet_makes_a_shape_that_waits() -> None:
    job = Job((Sheet("s1", "Sheet 1", 200, 200),))
    edit = drag(draw_shape(scene("shape", job, selected=()), press(10, 10), "ellipse"), (90, 50))
    assert edit.selected is not None
    now = find_item(edit.job, edit.selected[0])
    assert now.content is None
    assert now.name == "Ellipse"
    assert drag(draw_shape(scene("shape", job, selected=()), press(10, 10), "ellipse"), (10, 11)) is None
    snapped = drag(draw_shape(scene("shape", job, selected=(), reach=5), press(3, 10), "ellipse"), (197, 50))
    assert find_item(snapped.job, snapped.selected[0]).shape_placement.width == 200


def test_a_kept_cover_stops_the_drag() -> None:
    job = edits.set_keeps_covered(CARD, [ITEM.id], True)
    edit = drag(move(scene("photo", job), press(0, 0)), (500, 0))
    now = find_item(edit.job, ITEM.id)
    # The card's left edge is at 150: the photo's left edge stops there.
    assert now.content_placement.x == pytest.approx(350)
