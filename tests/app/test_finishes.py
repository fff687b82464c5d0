"""The finishing steps, driven control by control: seen, undone, saved."""

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QInputDialog

from glasscap.app.widgets.colour_panel import ColourPanel
from glasscap.app.widgets.dropper import Dropper
from glasscap.core.document.backdrop import PhotoBackdrop
from glasscap.core.document.edits import set_keeps
from glasscap.core.document.finish_sets import SHIPPED_SETS
from glasscap.core.document.finishes import NO_FINISHES, Finishes, Shadow, Stroke
from glasscap.core.document.finishing import add_light, add_stroke, change_edge, change_mount
from glasscap.core.document.model import PaintContent
from glasscap.core.document.paint import ColourPaint, GradientPaint, TexturePaint
from glasscap.editor.step_words import edge_words, lights_words, mount_words, photo_words, strokes_words
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, drag_on
from tests.samples import png_photo

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def steps(placed: Hand):
    return placed.studio.workbench.steps


@pytest.fixture
def picture(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    path = tmp_path / "tile.png"
    path.write_bytes(png_photo(64, 64, seed=9))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(path), ""))
    return path


def finishes(hand: Hand) -> Finishes:
    return hand.item().finishes


def with_stroke(hand: Hand, steps) -> None:
    steps.open_only("strokes")
    steps.strokes.add.click()
    hand.settle()


# 3 edge

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
    placed.studio.files.save_to(tmp_path / "kept.glasscap")
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
    alt = Qt.KeyboardModifier.AltModifier
    placed.drag((centre + 40, shape.y), (centre, shape.y + 40), keys=alt)
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


# 4 strokes

STROKE_NUMBERS = {
    "breadth": ("width", "14", 14.0),
    "gap": ("gap", "5", 5.0),
    "opacity": ("opacity", "40", 0.4),
    "limit": ("mitre_limit", "2", 2.0),
    "dash_offset": ("dash_offset", "3", 3.0),
}


@pytest.mark.parametrize("row", STROKE_NUMBERS)
def test_stroke_numbers_are_typed_and_undone(placed: Hand, steps, row: str) -> None:
    with_stroke(placed, steps)
    field, typed, value = STROKE_NUMBERS[row]
    before = finishes(placed).strokes[0]
    placed.type(getattr(steps.strokes, row).field, typed)
    assert getattr(finishes(placed).strokes[0], field) == value
    placed.do("undo")
    assert finishes(placed).strokes[0] == before


def test_stroke_choices(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.side.buttons["inside"].click()
    steps.strokes.joins.buttons["bevel"].click()
    steps.strokes.caps.buttons["round"].click()
    steps.strokes.brush.setCurrentIndex(2)
    steps.strokes.brush.activated.emit(2)
    steps.strokes.another.click()
    stroke = finishes(placed).strokes[0]
    assert (stroke.side, stroke.join, stroke.cap, stroke.texture, stroke.seed) == (
        "inside", "bevel", "round", "chalk", 2,
    )  # fmt: skip


def test_strokes_are_added_outside_one_another_ordered_hidden_and_taken_away(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.add.click()
    placed.settle()
    assert [s.gap for s in finishes(placed).strokes] == [0, 8]
    lines = steps.strokes.list.lines
    assert [line.words.toolTip() for line in lines] == ["8 px outside", "8 px, 8 px away"]
    QTest.keyClick(lines[1], Qt.Key.Key_PageUp)
    assert [s.gap for s in finishes(placed).strokes] == [8, 0]
    lines[0].eye.click()
    assert not finishes(placed).strokes[0].is_on
    QTest.keyClick(lines[0], Qt.Key.Key_Delete)
    assert [s.gap for s in finishes(placed).strokes] == [0]
    placed.settle()
    steps.strokes.list.lines[0].delete.click()
    assert finishes(placed).strokes == ()


def test_dashes_from_a_preset_and_typed(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    dashes = steps.strokes.dashes
    dashes.presets.setCurrentIndex(1)
    dashes.presets.activated.emit(1)
    assert finishes(placed).strokes[0].dashes == (14, 7)
    placed.settle()
    placed.type(dashes.lengths, "10 4, 2 4")
    assert finishes(placed).strokes[0].dashes == (10, 4, 2, 4)
    placed.settle()
    dashes.even.click()
    assert not finishes(placed).strokes[0].has_even_ends


@pytest.mark.parametrize("typed", ["0 0", "-3 4", "abc"])
def test_wrong_dashes_are_said_and_change_nothing(placed: Hand, steps, typed: str) -> None:
    with_stroke(placed, steps)
    before = placed.session.committed
    placed.type(steps.strokes.dashes.lengths, typed)
    assert placed.session.committed is before
    assert steps.strokes.dashes.lengths.property("wrong")


def test_paint_goes_from_colour_to_gradient_to_texture_and_back(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    for kind, made in (("gradient", GradientPaint), ("texture", TexturePaint), ("colour", ColourPaint)):
        paint.kinds.buttons[kind].click()
        placed.settle()
        assert isinstance(finishes(placed).strokes[0].paint, made)


def test_gradient_stops_are_made_dragged_coloured_and_pulled_off(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    paint.kinds.buttons["gradient"].click()
    placed.settle()
    bar = paint.bar
    middle = QPointF(bar.width() / 2, 10)
    drag_on(bar, middle, middle + QPointF(20, 0))
    stops = finishes(placed).strokes[0].paint.stops
    assert len(stops) == 3 and 0.5 < stops[1].at < 0.75
    placed.settle()
    paint.stop_well.stepped.emit("#00ff00")
    assert finishes(placed).strokes[0].paint.stops[1].colour == "#00ff00"
    placed.settle()
    at = QPointF(bar._x(finishes(placed).strokes[0].paint.stops[1].at), 28)
    drag_on(bar, at, at + QPointF(0, 90))
    assert len(finishes(placed).strokes[0].paint.stops) == 2
    paint.way.setCurrentIndex(paint.way.findData("along"))
    paint.way.activated.emit(0)
    assert finishes(placed).strokes[0].paint.way == "along"
    placed.type(paint.angle.field, "45")
    assert finishes(placed).strokes[0].paint.angle == 45


def test_a_texture_is_chosen_scaled_turned_and_of_ones_own(placed: Hand, steps, picture: Path) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    paint.kinds.buttons["texture"].click()
    placed.settle()
    paint.texture.chosen.emit("clay")
    placed.settle()
    placed.type(paint.scale.field, "50")
    placed.type(paint.turn.field, "30")
    assert finishes(placed).strokes[0].paint == TexturePaint("clay", 0.5, 30)
    paint.texture.own_asked.emit()
    placed.settle()
    own = finishes(placed).strokes[0].paint
    assert own.is_own and own.texture == placed.session.job.photos[-1].sha256


def test_a_colour_is_proposed_typed_slid_and_dropped(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    placed.settle(lambda: bool(steps.photo_colours.now()))
    well = steps.strokes.paint.well
    well.click()
    panel = well.panel
    assert isinstance(panel, ColourPanel) and panel.proposed
    QTest.mouseClick(panel.proposed[0], LEFT)
    assert finishes(placed).strokes[0].paint.colour == panel.proposed[0].colour
    placed.type(panel.digits, "#12345680")
    assert finishes(placed).strokes[0].paint.colour == "#12345680"
    track = panel.tracks["Light"]
    drag_on(track, QPointF(20, 8), QPointF(60, 8))
    assert finishes(placed).strokes[0].paint.colour != "#12345680"
    panel.close()


def test_a_colour_typed_wrong_is_marked(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.paint.well.click()
    panel, before = steps.strokes.paint.well.panel, placed.session.committed
    placed.type(panel.digits, "ochre")
    assert panel.digits.property("wrong") and placed.session.committed is before
    panel.close()


def test_the_dropper_takes_what_is_seen(placed: Hand) -> None:
    dropper, taken = Dropper(placed.studio.shell), []
    dropper.taken.connect(taken.append)
    dropper.begin()
    export = placed.studio.topbar
    QTest.mouseClick(export, LEFT, NONE, QPoint(export.width() // 2, 4))
    assert taken == ["#fbfaf7"]
    assert QApplication.overrideCursor() is None


def test_a_rough_edge_has_no_corners_to_join(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    assert steps.strokes.joins.isVisible()
    steps.edge.rough.click()
    placed.settle()
    assert not steps.strokes.joins.isVisible()
    steps.edge.rough.click()
    placed.settle()
    assert steps.strokes.joins.isVisible()


def test_a_line_of_the_photo_gives_its_width(hand: Hand, tmp_path: Path) -> None:
    rgba = np.full((300, 400, 4), 255, np.uint8)
    rgba[:, 190:203, :3] = 20
    from glasscap.core.formats.png import write_png

    path = tmp_path / "line.png"
    path.write_bytes(write_png(rgba))
    hand.drop(path)
    steps = hand.studio.workbench.steps
    with_stroke(hand, steps)
    steps.strokes.measure.click()
    assert "Drag across a line" in hand.bench.words
    hand.drag((170, 150), (225, 150))
    assert hand.item().finishes.strokes[0].width == pytest.approx(13, abs=0.3)
    assert hand.session.aim is None
    hand.do("undo")
    assert hand.item().finishes.strokes[0].width == 8


def test_measuring_for_a_stroke_that_has_gone_changes_nothing(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.measure.click()
    placed.do("undo")
    assert placed.session.aim is None
    before = placed.session.committed
    placed.drag((60, 60), (120, 60))
    assert placed.session.committed is before


def test_escape_leaves_measuring(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.measure.click()
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.aim is None and placed.session.selected


# the edge strip


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


# 5 light


@pytest.mark.parametrize("kind", ["shadow", "inner_shadow", "outer_glow", "inner_glow", "bevel"])
def test_every_light_is_added_hidden_and_taken_away(placed: Hand, steps, kind: str) -> None:
    steps.open_only("light")
    steps.light.add_light(kind)
    placed.settle()
    assert len(steps.light.list.lines) == 1
    steps.light.list.lines[0].eye.click()
    assert lights_words(placed.item().finishes) == "none"
    steps.light.list.lines[0].delete.click()
    assert finishes(placed).lights == NO_FINISHES.lights


LIGHT_NUMBERS = {
    "blur": ("shadow", "blur", "40", 40.0),
    "spread": ("shadow", "spread", "-3", -3.0),
    "opacity": ("shadow", "opacity", "80", 0.8),
    "distance": ("shadow", "dy", "20", 20.0),
    "direction": ("shadow", "dx", "0", 6.0),
    "slope": ("bevel", "width", "22", 22.0),
    "softness": ("bevel", "softness", "9", 9.0),
    "elevation": ("bevel", "elevation", "60", 60.0),
}


@pytest.mark.parametrize("row", LIGHT_NUMBERS)
def test_light_numbers_are_typed_and_undone(placed: Hand, steps, row: str) -> None:
    kind, field, typed, value = LIGHT_NUMBERS[row]
    steps.open_only("light")
    steps.light.add_light(kind)
    placed.settle()

    def now() -> object:
        lights = finishes(placed).lights
        return lights.shadows[0] if kind == "shadow" else lights.bevel

    before = now()
    placed.type(getattr(steps.light, row).field, typed)
    assert getattr(now(), field) == value
    placed.do("undo")
    assert now() == before


def test_a_shadow_is_turned_on_the_dial_shifted_coloured_and_cleared(placed: Hand, steps) -> None:
    steps.open_only("light")
    steps.light.add_light("shadow")
    placed.settle()
    drag_on(steps.light.dial, QPointF(32, 50), QPointF(58, 32))
    shadow = finishes(placed).lights.shadows[0]
    assert (shadow.dx, shadow.dy) == (6, 0)
    placed.type(steps.light.place.second, "9")
    steps.light.colour.stepped.emit("#334455")
    steps.light.clear.click()
    assert finishes(placed).lights.shadows[0] == replace(Shadow(6, 9), colour="#334455", is_clear_beneath=True)
    steps.light.place.reset_asked.emit()
    assert finishes(placed).lights.shadows[0].dx == 0


def test_a_bevel_is_coloured_turned_and_moved_outside(placed: Hand, steps) -> None:
    steps.open_only("light")
    steps.light.add_light("bevel")
    placed.settle()
    steps.light.highlight.stepped.emit("#ffeedd80")
    steps.light.shade.stepped.emit("#11223380")
    steps.light.side.buttons["outer"].click()
    steps.light.dial.stepped.emit(15.0)
    bevel = finishes(placed).lights.bevel
    assert (bevel.highlight, bevel.shade, bevel.side, bevel.direction) == ("#ffeedd80", "#11223380", "outer", 15)


def test_the_menu_offers_each_light(placed: Hand, steps) -> None:
    from PySide6.QtWidgets import QMenu

    steps.open_only("light")
    steps.light.add.click()
    menu = steps.light.findChild(QMenu)
    words = [a.text() for a in menu.actions()]
    assert words == ["Drop shadow", "Inner shadow", "Outer glow", "Inner glow", "Bevel"]
    menu.actions()[0].trigger()
    menu.close()
    assert len(finishes(placed).lights.shadows) == 1


# 6 mount


def test_a_mount_is_made_margined_painted_and_switched_off(placed: Hand, steps) -> None:
    steps.open_only("mount")
    steps.mount.is_on.click()
    placed.settle()
    placed.type(steps.mount.fields["top"], "30")
    assert (finishes(placed).mount.left, finishes(placed).mount.top) == (30, 30)
    placed.settle()
    steps.mount.link.click()
    placed.type(steps.mount.fields["left"], "12")
    assert (finishes(placed).mount.left, finishes(placed).mount.top) == (12, 30)
    steps.mount.heavy.click()
    assert finishes(placed).mount.bottom == 105
    steps.mount.even.click()
    placed.type(steps.mount.corner.field, "9")
    placed.type(steps.mount.opacity.field, "70")
    steps.mount.paint.well.stepped.emit("#f4e9d8")
    mount = finishes(placed).mount
    assert (mount.bottom, mount.corner, mount.opacity, mount.paint.colour) == (30, 9, 0.7, "#f4e9d8")
    steps.mount.is_on.click()
    assert finishes(placed).mount == replace(mount, is_on=False)


def test_a_mount_has_its_own_stroke_and_shadow(placed: Hand, steps) -> None:
    steps.open_only("mount")
    steps.mount.is_on.click()
    placed.settle()
    steps.mount.stroke.click()
    steps.mount.shadow.click()
    placed.settle()
    placed.type(steps.mount.stroke_width.field, "4")
    placed.type(steps.mount.shadow_down.field, "11")
    placed.type(steps.mount.shadow_blur.field, "33")
    steps.mount.stroke_colour.stepped.emit("#102030")
    steps.mount.shadow_colour.stepped.emit("#203040")
    mount = finishes(placed).mount
    assert mount.stroke == Stroke(4, ColourPaint("#102030"), "inside")
    assert mount.shadow == Shadow(0, 11, 33, colour="#203040")


# the whole cutout, photo, sheet


def test_a_set_is_applied_by_its_card_with_the_designers_photo(placed: Hand, steps) -> None:
    steps.open_only("look")
    button = steps.look.buttons["Die cut"]
    placed.settle(lambda: not button.icon().isNull())
    button.click()
    assert finishes(placed) == SHIPPED_SETS["Die cut"]
    steps.look.plain.click()
    assert finishes(placed) == NO_FINISHES


def test_finishes_are_copied_kept_and_dropped(
    placed: Hand, steps, monkeypatch: pytest.MonkeyPatch, photo: Path
) -> None:
    steps.open_only("look")
    steps.look.apply_set("Porcelain rim")
    steps.look.copy.click()
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Trail rim", True))
    steps.look.keep.click()
    assert placed.session.job.finish_sets[0].name == "Trail rim"
    placed.drop(photo)
    assert finishes(placed) == NO_FINISHES
    steps.look.paste.click()
    assert finishes(placed) == SHIPPED_SETS["Porcelain rim"]
    placed.settle()
    assert "Trail rim" in steps.look.buttons
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Mist", True))
    steps.look.keep.click()
    assert len(placed.session.job.finish_sets) == 1


def test_opacity_is_typed(placed: Hand, steps) -> None:
    steps.open_only("look")
    placed.type(steps.look.opacity.field, "45")
    assert placed.item().opacity == 0.45
    placed.do("undo")
    assert placed.item().opacity == 1


def test_adjustments_are_typed_compared_and_reset(placed: Hand, steps) -> None:
    steps.open_only("photo")
    steps.photo.adjust.toggle.click()
    for field, value in (
        ("exposure_ev", 1.5),
        ("contrast", 20),
        ("saturation", -40),
        ("warmth", 10),
        ("blur", 3),
    ):
        placed.type(steps.photo.adjust.rows[field].field, str(value))
        assert getattr(placed.item().content.adjustments, field) == value
    placed.settle()
    changed = placed.item()
    QTest.mousePress(steps.photo.adjust.compare, LEFT)
    assert not placed.item().content.adjustments.is_on and placed.session.is_previewing
    QTest.mouseRelease(steps.photo.adjust.compare, LEFT)
    assert placed.item() == changed and not placed.session.is_previewing
    steps.photo.adjust.as_shot.click()
    assert placed.item().content.adjustments.blur == 0


def test_a_paint_takes_the_photos_place_and_a_photo_comes_back(
    placed: Hand, steps, monkeypatch: pytest.MonkeyPatch, photo: Path
) -> None:
    steps.open_only("photo")
    before = placed.item()
    steps.photo.kinds.buttons["paint"].click()
    placed.settle()
    assert isinstance(placed.item().content, PaintContent)
    assert placed.item().shape_placement == before.shape_placement
    steps.photo.paint.kinds.buttons["texture"].click()
    placed.settle()
    assert photo_words(placed.item(), placed.session.job) == "Texture"
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(photo)], ""))
    steps.photo.kinds.buttons["photo"].click()
    placed.settle()
    assert placed.item().content_placement is not None


def test_a_paint_and_its_shape_stay_one_thing(placed: Hand, steps) -> None:
    steps.open_only("photo")
    steps.photo.kinds.buttons["paint"].click()
    placed.settle()
    steps.open_only("shape")
    before = placed.session.committed
    assert not steps.shape.apart.isVisible()
    placed.do("take_apart")
    assert placed.session.committed is before


def test_the_sheet_gets_a_backdrop(placed: Hand, steps, picture: Path) -> None:
    placed.session.select(())
    placed.settle()
    steps.sheet.kinds.buttons["paint"].click()
    steps.sheet.paint.well.stepped.emit("#b4532c")
    assert placed.session.sheet.backdrop == ColourPaint("#b4532c")
    placed.settle()
    steps.sheet.kinds.buttons["photo"].click()
    placed.settle()
    placed.type(steps.sheet.blur.field, "20")
    placed.type(steps.sheet.zoom.field, "2")
    backdrop = placed.session.sheet.backdrop
    assert isinstance(backdrop, PhotoBackdrop) and (backdrop.blur, backdrop.zoom) == (20, 2)
    steps.sheet.kinds.buttons["none"].click()
    assert placed.session.sheet.backdrop is None


def test_locked_cutouts_keep_their_finishes(placed: Hand, steps) -> None:
    placed.do("lock")
    before = placed.item()
    placed.session.apply("Try", lambda job: change_mount(add_stroke(job, before.id), before.id, top=9.0))
    assert placed.item() == before
    steps.open_only("strokes")
    assert not steps.strokes.isEnabled()


def test_nothing_left_of_a_shape_is_said_and_the_number_kept(placed: Hand, steps) -> None:
    steps.open_only("edge")
    placed.type(steps.edge.inset.field, "5000")
    placed.settle()
    assert finishes(placed).edge.inset == 5000
    assert "Nothing" in placed.studio.workbench.proof.exact_size.text()


def test_the_bench_shows_the_stroke_that_is_written(placed: Hand, steps, tmp_path: Path) -> None:
    placed.session.apply("Stroke", lambda job: add_stroke(job, placed.item().id))
    placed.settle()
    frame = placed.bench._frame.sheet
    assert frame is not None and (frame.rgba[..., :3].sum(axis=2) < 130).any()


def test_names_of_steps_tell_what_they_do(placed: Hand, steps) -> None:
    key = placed.item().id
    placed.session.apply("Dress", lambda job: add_light(add_stroke(job, key), key, "shadow"))
    placed.settle()
    item = placed.item()
    assert (edge_words(item.finishes), strokes_words(item.finishes)) == ("Sharp", "1 stroke")
    assert lights_words(item.finishes) == "6 px down, blur 18"
    assert mount_words(item.finishes) == "none"
