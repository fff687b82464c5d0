"""Sets, opacity, adjustments, content and backdrop, driven control by control: seen, undone, saved."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from glasscap.core.document.finishing.edits import add_light, add_stroke, change_mount
from glasscap.core.document.finishing.sets import SHIPPED_SETS
from glasscap.core.document.model.backdrop import PhotoBackdrop
from glasscap.core.document.model.finishes import NO_FINISHES
from glasscap.core.document.model.job import PaintContent
from glasscap.core.document.model.paint import ColourPaint
from glasscap.editor.step_words import edge_words, lights_words, mount_words, photo_words, strokes_words
from tests.app.answers import answer
from tests.app.conftest import Hand, finishes

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


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
    answer(monkeypatch, "line_of_text", "Trail rim")
    steps.look.keep.click()
    assert placed.session.job.finish_sets[0].name == "Trail rim"
    placed.drop(photo)
    assert finishes(placed) == NO_FINISHES
    steps.look.paste.click()
    assert finishes(placed) == SHIPPED_SETS["Porcelain rim"]
    placed.settle()
    assert "Trail rim" in steps.look.buttons
    answer(monkeypatch, "line_of_text", "Mist")
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
    answer(monkeypatch, "files_to_open", (photo,))
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
