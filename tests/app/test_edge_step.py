"""The edge, driven control by control, and the edge strip."""

from collections.abc import Callable
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from glasscap.core.document.edits.items import set_keeps
from glasscap.core.document.finishing.edits import add_light, add_stroke, change_edge
from glasscap.core.document.model.finishes import NO_FINISHES, Finishes, SoftContour
from glasscap.editor.step_words import edge_words
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, drag_on, finished, finishes

pytestmark = pytest.mark.shared_window

EDGE_NUMBERS: dict[str, tuple[str, float]] = {
    "inset": ("12", 12.0), "feather": ("600", 600.0), "strength": ("2.5", 2.5),
}  # fmt: skip


@pytest.mark.parametrize("name", EDGE_NUMBERS)
def test_edge_numbers_are_typed_and_undone(placed: Hand, steps, name: str) -> None:
    steps.open_only("edge")
    typed, value = EDGE_NUMBERS[name]
    if name == "strength":
        placed.type(steps.edge.feather.field, "20")
        placed.settle()
    placed.type(getattr(steps.edge, name).field, typed)
    assert getattr(finishes(placed).edge, name) == value
    placed.do("undo")
    assert getattr(finishes(placed).edge, name) != value


def test_a_feather_shows_while_its_slider_moves_and_is_one_step(placed: Hand, steps) -> None:
    steps.open_only("edge")
    slider, before = steps.edge.feather.slider, placed.session.committed
    slider.setSliderDown(True)
    slider.setValue(800)
    assert placed.session.is_previewing and finishes(placed).edge.feather == 48
    slider.setSliderDown(False)
    assert not placed.session.is_previewing and placed.session.undo_label == "Feather the edge"
    placed.do("undo")
    assert placed.session.committed is before


def test_edge_choices(placed: Hand, steps) -> None:
    steps.open_only("edge")
    placed.type(steps.edge.feather.field, "20")
    placed.type(steps.edge.inset.field, "-6")
    placed.settle()
    steps.edge.side.buttons["inside"].click()
    steps.edge.joins.buttons["mitre"].click()
    steps.edge.strokes_too.click()
    steps.edge.is_on.click()
    edge = finishes(placed).edge
    assert (edge.feather_side, edge.join, edge.feathers_strokes, edge.is_on) == ("inside", "mitre", True, False)
    assert edge_words(placed.item().finishes) == "off"
    for _ in range(6):
        placed.do("undo")
    assert finishes(placed) == NO_FINISHES


def test_a_rough_edge_keeps_its_numbers_while_off(placed: Hand, steps) -> None:
    steps.open_only("edge")
    steps.edge.rough.click()
    placed.settle()
    placed.type(steps.edge.amount.field, "9")
    placed.type(steps.edge.scale.field, "33")
    steps.edge.kind.setCurrentIndex(3)
    steps.edge.kind.activated.emit(3)
    steps.edge.another.click()
    rough = finishes(placed).edge.rough
    assert (rough.kind, rough.amount, rough.scale, rough.seed) == ("stamped", 9, 33, 2)
    steps.edge.rough.click()
    assert finishes(placed).edge.rough == replace(rough, is_on=False)
    placed.type(steps.edge.seed.field, "5")
    assert finishes(placed).edge.rough.seed == 5


def test_a_picture_masks_and_is_saved_with_the_job(placed: Hand, steps, picture: Path, tmp_path: Path) -> None:
    steps.open_only("edge")
    steps.edge.mask_button.click()
    placed.settle()
    mask = finishes(placed).edge.mask
    assert mask is not None and len(placed.session.job.photos) == 2
    steps.edge.mask_kind.buttons["alpha"].click()
    steps.edge.mask_inverted.click()
    steps.edge.mask_on.click()
    changed = finishes(placed).edge.mask
    assert (changed.kind, changed.is_inverted, changed.is_on) == ("alpha", True, False)
    finished(placed.studio.files.save_to(tmp_path / "kept.glasscap"))
    assert open_job(tmp_path / "kept.glasscap").job == placed.session.job
    steps.edge.mask_gone.click()
    assert finishes(placed).edge.mask is None


MASK_NUMBERS = {
    "mask_across": ("x", "12", 0.12),
    "mask_down": ("y", "-30", -0.3),
    "mask_size": ("size", "250", 2.5),
    "mask_turn": ("rotation", "45", 45.0),
}


@pytest.mark.parametrize("row", MASK_NUMBERS)
def test_a_masks_place_is_typed_and_undone(placed: Hand, steps, picture: Path, row: str) -> None:
    steps.open_only("edge")
    steps.edge.mask_button.click()
    placed.settle()
    before = finishes(placed).edge.mask
    field, typed, value = MASK_NUMBERS[row]
    placed.type(getattr(steps.edge, row).field, typed)
    assert getattr(finishes(placed).edge.mask, field) == value
    placed.do("undo")
    assert finishes(placed).edge.mask == before


def test_a_mask_is_placed_on_the_bench(placed: Hand, steps, picture: Path) -> None:
    steps.open_only("edge")
    steps.edge.mask_button.click()
    placed.settle()
    steps.edge.mask_fit.buttons["stretched"].click()
    shape, before = placed.item().shape_placement, finishes(placed).edge.mask
    assert before.is_stretched
    steps.edge.mask_placing.click()
    assert "Drag moves the mask" in placed.bench.words
    placed.drag((shape.x, shape.y), (shape.x + shape.width / 4, shape.y))
    moved = finishes(placed).edge.mask
    assert moved.x == pytest.approx(0.25, abs=0.01) and moved.y == pytest.approx(0, abs=0.01)
    centre = shape.x + shape.width / 4
    shift = Qt.KeyboardModifier.ShiftModifier
    placed.drag((centre + 20, shape.y), (centre + 40, shape.y), keys=shift)
    assert finishes(placed).edge.mask.size == pytest.approx(2, rel=0.1)
    ctrl = Qt.KeyboardModifier.ControlModifier
    placed.drag((centre + 40, shape.y), (centre, shape.y + 40), keys=ctrl)
    assert finishes(placed).edge.mask.rotation == pytest.approx(90, abs=2)
    assert placed.item().shape_placement == shape
    for _ in range(3):
        placed.do("undo")
    assert finishes(placed).edge.mask == before
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.aim is None and not steps.edge.mask_placing.isChecked()
    steps.edge.mask_placing.click()
    steps.edge.mask_gone.click()
    assert placed.session.aim is None and "mask" not in placed.bench.words


def test_a_mask_that_is_no_picture_is_said_and_changes_nothing(placed: Hand, steps, picture: Path) -> None:
    picture.write_bytes(b"not a picture")
    before = placed.session.committed
    steps.open_only("edge")
    steps.edge.mask_button.click()
    placed.settle()
    assert placed.session.committed is before
    assert "tile.png" in placed.studio.toast.text.text()


def strip_of(steps, key: str):
    steps.open_only(key)
    return getattr(steps, key).strip.strip


@pytest.mark.parametrize(
    ("kind", "read"),
    [
        ("inset", lambda f: f.edge.inset),
        ("feather", lambda f: f.edge.feather),
        ("outer", lambda f: f.strokes[0].width),
        ("inner", lambda f: f.strokes[0].gap),
        ("shadow", lambda f: f.lights.shadows[0].dy),
    ],
)
def test_marks_of_the_strip_are_dragged(
    placed: Hand, steps, kind: str, read: Callable[[Finishes], float]
) -> None:
    def dressed(job):
        key = placed.item().id
        job = change_edge(job, key, feather=7, inset=1)
        return add_light(add_stroke(job, key), key, "shadow")

    placed.session.apply("Dress", dressed)
    strip = strip_of(steps, "strokes")
    placed.settle()
    mark = next(m for m in strip.marks if m.kind == kind)
    before = finishes(placed)
    start = strip.knob(mark).center()
    drag_on(strip, start, start + QPointF(3 * strip.zoom, 0))
    assert abs(read(finishes(placed)) - read(before)) == pytest.approx(3, abs=0.6)
    assert placed.session.undo_label == "Change the edge"
    placed.do("undo")
    assert finishes(placed) == before


def test_marks_of_a_holes_strip_move_what_they_stand_for(placed: Hand, steps) -> None:
    def dressed(job):
        key = placed.item().id
        return add_stroke(set_keeps(job, [key], "outside"), key)

    placed.session.apply("Dress", dressed)
    strip = strip_of(steps, "strokes")
    placed.settle()
    before = finishes(placed).strokes[0]
    # On the kept side, at the left of the edge: its far border widens it, its near one moves it away.
    marks = {mark.kind: mark for mark in strip.marks}
    assert marks["inner"].at == -before.width and marks["outer"].at == 0
    start = strip.knob(marks["inner"]).center()
    drag_on(strip, start, start - QPointF(4 * strip.zoom, 0))
    after = finishes(placed).strokes[0]
    assert after.width == pytest.approx(before.width + 4, abs=0.6)
    assert (after.side, after.gap) == (before.side, before.gap)


def test_the_strip_follows_keys_wheel_and_other_steps(placed: Hand, steps) -> None:
    strip = strip_of(steps, "edge")
    placed.settle()
    assert strip._frame is not None
    QTest.keyClick(strip, Qt.Key.Key_Left)
    assert finishes(placed).edge.inset == 1
    zoom = strip.zoom
    strip.mouseDoubleClickEvent(None)
    assert strip.zoom == zoom


def test_a_soft_contour_is_switched_on_widened_cleaned_and_undone(placed: Hand, steps) -> None:
    steps.open_only("edge")
    edge = steps.edge
    assert not edge.band.isVisible()
    edge.soft.click()
    placed.settle()
    soft = finishes(placed).edge.soft
    # 4.5 % of the shape's side, as people say numbers.
    assert (soft.width, soft.cleans_rim, soft.is_on) == (12, False, True)
    placed.type(edge.band.field, "30")
    edge.clean_rim.click()
    placed.settle()
    assert finishes(placed).edge.soft == SoftContour(30, cleans_rim=True)
    assert edge_words(placed.item().finishes) == "Soft contour 30 px"
    edge.soft.click()
    placed.settle()
    assert not finishes(placed).edge.soft.is_on
    assert not edge.band.isVisible()
    for _ in range(4):
        placed.do("undo")
    assert finishes(placed).edge.soft is None


def test_what_cannot_have_a_soft_contour_does_not_offer_it(placed: Hand, steps) -> None:
    steps.open_only("edge")
    assert steps.edge.soft.isVisible()
    steps.shape.keeps.buttons["outside"].click()
    placed.settle()
    assert not steps.edge.soft.isVisible()


def test_the_band_is_painted_on_the_bench_evened_and_left_by_escape(placed: Hand, steps) -> None:
    steps.open_only("edge")
    steps.edge.soft.click()
    placed.settle()
    steps.edge.wider.click()
    placed.settle()
    assert "beyond the band" in placed.bench.words
    shape = placed.item().shape_placement
    placed.drag((shape.x + shape.width / 2, shape.y), (shape.x + shape.width / 2 + 4, shape.y + 30))
    (stroke,) = finishes(placed).edge.soft.strokes
    assert stroke.is_wider
    steps.edge.narrower.click()
    assert not steps.edge.wider.isChecked()
    placed.drag((shape.x - shape.width / 2, shape.y), (shape.x - shape.width / 2, shape.y + 30))
    assert [s.is_wider for s in finishes(placed).edge.soft.strokes] == [True, False]
    placed.do("undo")
    assert len(finishes(placed).edge.soft.strokes) == 1
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.aim is None
    placed.settle()
    steps.edge.even.click()
    placed.settle()
    assert finishes(placed).edge.soft.strokes == ()
    assert not steps.edge.even.isVisible()
