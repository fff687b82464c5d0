"""Viewport, snapping, handles, picking."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.query import find_item
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.handles import handles_for
from glasscap.editor.picking import handle_at, item_at
from glasscap.editor.snapping import Lines, snap_box, snap_lines
from glasscap.editor.viewport import LARGEST_ZOOM, Viewport
from tests.core.document.strategies import JOB
from tests.samples import photo_job, png_photo

VIEW = Viewport().resized(900, 700)


@given(st.floats(-500, 500), st.floats(-500, 500), st.floats(0.2, 5), st.floats(0, 900), st.floats(0, 700))
def test_zooming_keeps_the_point_under_the_pointer(
    x: float, y: float, factor: float, at_x: float, at_y: float
) -> None:
    view = replace_view(x, y)
    before, after = view.to_sheet(at_x, at_y), view.zoomed(factor, at_x, at_y)
    moved = after.to_device.apply(*before)
    # The map is kept on whole device pixels, so within one of them.
    assert moved == pytest.approx((at_x, at_y), abs=1.01 + factor)


def replace_view(x: float, y: float) -> Viewport:
    return VIEW.panned(-x, -y)


def test_fitting_shows_all_with_a_margin() -> None:
    view = VIEW.fitted(Box(0, 0, 6000, 4000), bottom_reserve=100)
    x0, y0 = view.to_device.apply(0, 0)
    x1, y1 = view.to_device.apply(6000, 4000)
    assert min(x0, y0) > 0
    assert x1 < 900
    assert y1 < 600
    assert VIEW.at_zoom(1e9).zoom == LARGEST_ZOOM


def test_snapping_takes_the_nearest_line() -> None:
    snap = snap_box(Box(97, 40, 197, 140), Lines((100.0, 205.0), (0.0,)), 6)
    assert (snap.dx, snap.dy) == (3, 0)
    assert [(g.is_vertical, g.at) for g in snap.guides] == [(True, 100.0)]
    assert snap_box(Box(0, 0, 1, 1), Lines((50.0,), ()), 6).guides == ()


def test_lines_of_sheet_and_photo() -> None:
    lines = snap_lines(JOB.sheets[0], [Box(10, 20, 30, 60)])
    assert {0, 120, 240, 10, 20, 30} <= set(lines.xs)
    assert {20, 40, 60} <= set(lines.ys)


def test_only_the_active_grip_s_handles_are_there() -> None:
    item = JOB.sheets[0].items[0]
    kinds = {grip: [h.kind for h in handles_for(JOB, item, grip, 10)] for grip in ("photo", "shape", "together")}
    assert kinds["photo"] == ["corner"] * 4 + ["turn"]
    assert kinds["shape"] == ["side"] * 4 + ["turn"]
    assert kinds["together"] == ["corner"] * 4 + ["turn"]
    card = replace(item, shape=library_shape("rectangle"))
    assert len(handles_for(JOB, card, "shape", 10)) == 9
    assert handles_for(JOB, replace(item, is_locked=True), "shape", 10) == ()


def test_the_nearest_handle_within_reach() -> None:
    handles = handles_for(JOB, JOB.sheets[0].items[0], "photo", 10)
    assert handle_at(handles, handles[2].x + 3, handles[2].y, 5) == handles[2]
    assert handle_at(handles, 9999, 9999, 5) is None


def test_the_frontmost_item_is_picked_by_its_shape() -> None:
    job, _ = photo_job(png_photo(200, 200))
    item = job.sheets[0].items[0]
    assert item_at(job, job.sheets[0].items, 100, 100) == item
    assert item_at(job, job.sheets[0].items, 3, 3) is None
    doubled = edits.duplicate_items(job, [item.id])
    front = item_at(doubled, doubled.sheets[0].items, 100, 100)
    assert front is not None
    assert front.id != item.id
    hidden = edits.set_hidden(doubled, [front.id], True)
    assert item_at(hidden, hidden.sheets[0].items, 100, 100) == find_item(hidden, item.id)
    hole = edits.set_keeps(job, [item.id], "outside")
    assert item_at(hole, hole.sheets[0].items, 100, 100) is None
    assert item_at(hole, hole.sheets[0].items, 3, 3) is not None
