"""Handles of a shape's own numbers, and dragging them."""

import pytest

from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.shaping import choose_shape
from glasscap.core.shapes.library.table import SHAPES
from glasscap.editor.form_handles import count_place, form_handles, params_of
from glasscap.editor.tools.form import drag_form
from tests.editor.test_tools import ITEM, JOB, drag, press, scene


def _with(name: str):
    job = choose_shape(JOB, ITEM.id, name)
    return job, find_item(job, ITEM.id)


@pytest.mark.parametrize("name", list(SHAPES))
def test_every_parameter_but_seeds_has_a_handle_and_follows_the_pointer(name: str) -> None:
    job, item = _with(name)
    handles = {h.name: h for h in form_handles(item, 20) if h.kind == "param"}
    assert set(handles) == {p.name for p in params_of(item.shape)}
    for parameter in params_of(item.shape):
        handle = handles[parameter.name]
        centre = item.shape_placement
        found = set()
        if parameter.is_whole:
            count = dict(item.shape.params)[parameter.name] + 2
            to = [tuple(count_place(parameter, item.shape, centre, count))]
        else:
            to = [(handle.x + dx, handle.y + dy) for dx, dy in ((30, 0), (-30, 0), (0, 30), (0, -30))]
        for place in to:
            edit = drag(drag_form(scene("shape", job), press(handle.x, handle.y), handle), place, place)
            assert edit is not None
            found.add(dict(find_item(edit.job, item.id).shape.params)[parameter.name])
        assert found != {dict(item.shape.params)[parameter.name]}, parameter.name


def test_a_star_s_dent_goes_where_it_is_dragged() -> None:
    job, item = _with("star")
    handle = next(h for h in form_handles(item, 20) if h.name == "depth")
    placement = item.shape_placement
    x, y = handle.x + (placement.x - handle.x) * 0.3, handle.y + (placement.y - handle.y) * 0.3
    edit = drag(drag_form(scene("shape", job), press(handle.x, handle.y), handle), (x, y), (x, y))
    after = find_item(edit.job, item.id)
    moved = next(h for h in form_handles(after, 20) if h.name == "depth")
    assert (moved.x, moved.y) == pytest.approx((x, y), abs=5)


def test_corners_are_rounded_together_or_one_alone() -> None:
    job, item = _with("star")
    handle = next(h for h in form_handles(item, 20) if h.kind == "round")
    length = (handle.way[0] ** 2 + handle.way[1] ** 2) ** 0.5
    to = (handle.x + handle.way[0] / length * 40, handle.y + handle.way[1] / length * 40)
    tool = drag_form(scene("shape", job), press(handle.x, handle.y), handle)
    shape = find_item(drag(tool, to, to).job, item.id).shape
    assert shape.round == round(40 * handle.sine)
    assert shape.corners == ()
    tool = drag_form(scene("shape", job), press(handle.x, handle.y), handle)
    shape = find_item(drag(tool, to, to, has_ctrl=True).job, item.id).shape
    assert shape.corners == ((handle.number, round(40 * handle.sine)),)
    job, item = _with("rectangle")
    handles = [h for h in form_handles(item, 20) if h.kind == "round"]
    assert len(handles) == 4
    to = (handles[2].x - 30, handles[2].y - 30)
    tool = drag_form(scene("shape", job), press(handles[2].x, handles[2].y), handles[2])
    after = dict(find_item(drag(tool, to, to, has_ctrl=True).job, item.id).shape.params)
    assert after["corner_br"] == pytest.approx(30, abs=1)
    assert after["corner_tl"] == 0
