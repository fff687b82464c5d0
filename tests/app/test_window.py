"""The real window off screen: every control does its work, is one step, and is undone."""

import errno
import os
import warnings
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage, QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget

from glasscap.app.theme import style
from glasscap.app.tray.name_editor import NameEditor
from glasscap.core.formats.job import write_job
from glasscap.core.shapes.kinds import ParametricShape
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, incoming
from tests.samples import noise_rgba, png_photo

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)


def drop(target: QWidget, mime: QMimeData, at: QPoint) -> None:
    """A drop as the toolkit delivers it."""
    buttons, action = Qt.MouseButton.LeftButton, Qt.DropAction.CopyAction
    with warnings.catch_warnings():
        # The only constructor the bindings offer is marked as deprecated.
        warnings.simplefilter("ignore", DeprecationWarning)
        enter = QDragEnterEvent(at, action, mime, buttons, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(target, enter)
    assert enter.isAccepted()
    QApplication.sendEvent(target, QDropEvent(QPointF(at), action, mime, buttons, Qt.KeyboardModifier.NoModifier))


def files(*paths: Path) -> QMimeData:
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    return mime


# coming in


def test_a_dropped_photo_lies_under_the_largest_circle(hand: Hand, photo: Path) -> None:
    assert not hand.studio.has_job
    drop(hand.studio.shell.start, files(photo), QPoint(200, 200))
    hand.settle()
    item = hand.item()
    assert hand.studio.has_job
    assert item.name == "Blue plate"
    assert item.shape_placement.width == 300
    assert hand.session.selected == (item.id,)
    assert hand.studio.shell.windowTitle() == "Untitled[*] - Glass Cap"


def test_several_photos_become_several_cutouts(hand: Hand, tmp_path: Path) -> None:
    paths = []
    for n in range(3):
        paths.append(tmp_path / f"p{n}.png")
        paths[-1].write_bytes(png_photo(100, 80, seed=n))
    hand.drop(*paths)
    assert [i.name for i in hand.session.sheet.items] == ["P0", "P1", "P2"]
    assert len(hand.studio.workbench.tray.cards) == 3


def test_a_photo_dropped_on_a_cutout_swaps_in(placed: Hand, tmp_path: Path) -> None:
    before = placed.item()
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(90, 200, seed=4))
    drop(placed.bench, files(other), placed.at(200, 150))
    placed.settle()
    now = placed.item()
    assert len(placed.session.sheet.items) == 1
    assert now.content != before.content
    assert (now.shape, now.shape_placement, now.name) == (before.shape, before.shape_placement, before.name)
    placed.do("undo")
    assert placed.item() == before


def test_a_photo_dropped_beside_or_on_a_card(placed: Hand, tmp_path: Path) -> None:
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(90, 200, seed=4))
    drop(placed.bench, files(other), QPoint(3, 3))
    placed.settle()
    assert len(placed.session.sheet.items) == 2
    first = placed.session.sheet.items[0]
    drop(placed.studio.workbench.tray.cards[first.id], files(other), QPoint(20, 20))
    placed.settle()
    assert placed.session.sheet.items[0].content == placed.session.sheet.items[1].content


def test_a_locked_cutout_takes_no_photo(placed: Hand, photo: Path) -> None:
    placed.do("lock")
    before = placed.session.job
    drop(placed.studio.workbench.tray.cards[placed.item().id], files(photo), QPoint(20, 20))
    placed.settle()
    assert placed.session.job is before
    assert "locked" in placed.studio.toast.text.text()


def test_a_locked_cutout_is_not_drawn_anew(placed: Hand) -> None:
    placed.do("lock")
    placed.do("draw")
    assert placed.session.drawing is None
    assert "locked" in placed.studio.toast.text.text()


def test_picture_data_is_pasted(hand: Hand) -> None:
    rgba = noise_rgba(60, 40)
    image = QImage(rgba.data, 60, 40, QImage.Format.Format_RGBA8888)
    QGuiApplication.clipboard().setImage(image.copy())
    hand.do("paste")
    hand.settle()
    assert hand.item().shape_placement.width == 40
    photo = hand.session.photo
    assert np.array_equal(hand.session.store.pyramid(photo).photo.rgba, rgba)


def test_start_from_a_shape_waits_for_a_photo(hand: Hand, photo: Path) -> None:
    hand.studio.shell.start.shape.click()
    assert hand.session.drawing == "circle"
    hand.drag((200, 200), (800, 800))
    shape = hand.item()
    assert shape.content is None
    assert shape.shape_placement.width > 550
    drop(hand.bench, files(photo), hand.at(500, 500))
    hand.settle()
    assert hand.item().content is not None
    assert hand.item().shape_placement == shape.shape_placement


def test_the_demo_job_opens_unsaved(hand: Hand) -> None:
    hand.studio.shell.start.demo.click()
    hand.settle()
    assert [s.name for s in hand.session.job.sheets] == ["Card front", "Card back"]
    assert not hand.session.is_saved
    assert len(hand.session.job.photos) >= 8


@pytest.mark.parametrize("content", [b"", b"hello", b"\xff\xd8\xff\xe0 cut"], ids=["empty", "text", "cut"])
def test_a_bad_file_is_said_and_loses_nothing(placed: Hand, tmp_path: Path, content: bytes) -> None:
    before = placed.session.job
    bad = tmp_path / "bad.jpg"
    bad.write_bytes(content)
    placed.drop(bad)
    assert placed.session.job is before
    assert placed.studio.toast.isVisible()
    assert placed.studio.toast.text.text().startswith("bad.jpg: ")


def test_a_truncated_photo_is_refused_but_the_others_come(hand: Hand, photo: Path, tmp_path: Path) -> None:
    cut = tmp_path / "cut.png"
    cut.write_bytes(photo.read_bytes()[:20_000])
    hand.drop(cut, photo, tmp_path)
    assert [i.name for i in hand.session.sheet.items] == ["Blue plate"]
    assert "cut.png" in hand.studio.toast.text.text()
    assert "folder" in hand.studio.toast.text.text()


# the bench


@pytest.mark.parametrize(
    ("grip", "key"), [("photo", Qt.Key.Key_P), ("together", Qt.Key.Key_T), ("shape", Qt.Key.Key_S)]
)
def test_grips_by_button_and_key_move_what_they_say(placed: Hand, grip: str, key: Qt.Key) -> None:
    placed.do({"photo": "grip_photo", "together": "grip_together", "shape": "grip_shape"}[grip])
    assert placed.session.grip == grip
    assert placed.studio.workbench.bar.buttons[grip].isChecked()
    before = placed.item()
    placed.drag((200, 150), (220, 160), keys=ALT)
    now = placed.item()
    assert (now.content_placement != before.content_placement) == (grip != "shape")
    assert (now.shape_placement != before.shape_placement) == (grip != "photo")
    placed.do("undo")
    assert placed.item() == before
    shown = {"photo": "the photo", "together": "photo and shape together", "shape": "the shape"}
    assert shown[grip] in placed.bench.words
    assert placed.studio.actions_by_id[f"grip_{grip}"].shortcut() == QKeySequence(key)


def test_a_drag_is_one_step_and_escape_drops_it(placed: Hand) -> None:
    placed.session.set_grip("photo")
    before = placed.session.job
    placed.drag((200, 150), (260, 150), is_released=False)
    assert placed.session.job is not before
    assert placed.session.committed is before
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.job is before
    placed.drag((200, 150), (260, 150))
    assert placed.session.undo_label == "Move the photo"
    placed.do("undo")
    assert placed.session.job is before


def test_arrows_nudge_by_1_and_10(placed: Hand) -> None:
    placed.session.set_grip("shape")
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    placed.key(Qt.Key.Key_Down, SHIFT)
    now = placed.item().shape_placement
    assert (now.x, now.y) == (201, 160)


def test_handles_size_and_turn(placed: Hand) -> None:
    placed.session.set_grip("shape")
    right = next(h for h in placed.bench.driver.handles() if h.u == 1)
    placed.drag((right.x, right.y), (right.x - 100, right.y), keys=ALT)
    assert placed.item().shape_placement.width == pytest.approx(200, abs=2)
    turn = next(h for h in placed.bench.driver.handles() if h.kind == "turn")
    placed.drag(
        (turn.x, turn.y), (placed.item().shape_placement.x + 150, placed.item().shape_placement.y), keys=SHIFT
    )
    assert placed.item().shape_placement.rotation == 90


def test_zoom_about_the_pointer_fit_and_100_percent(placed: Hand) -> None:
    placed.do("actual")
    assert placed.bench.viewport.zoom == 1
    at = QPointF(300, 250)
    before = placed.bench.to_sheet(at.x(), at.y())
    from PySide6.QtGui import QWheelEvent

    wheel = QWheelEvent(
        at,
        placed.bench.mapToGlobal(at),
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        CTRL,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(placed.bench, wheel)
    assert placed.bench.viewport.zoom == pytest.approx(1.25)
    assert placed.bench.to_sheet(at.x(), at.y()) == pytest.approx(before, abs=1.5)
    x = placed.bench.viewport.x
    QTest.mousePress(placed.bench, Qt.MouseButton.MiddleButton, pos=QPoint(100, 100))
    placed.move(QPointF(150, 100), Qt.KeyboardModifier.NoModifier, Qt.MouseButton.MiddleButton)
    QTest.mouseRelease(placed.bench, Qt.MouseButton.MiddleButton, pos=QPoint(150, 100))
    assert placed.bench.viewport.x == pytest.approx(x - 40)
    placed.do("zoom_out")
    placed.do("zoom_in")
    placed.do("fit")
    assert placed.studio.topbar.zoom.text().endswith("%")


def test_the_frame_at_100_percent_is_the_written_picture(placed: Hand) -> None:
    placed.do("actual")
    placed.settle()
    frame = placed.bench._frame.sheet
    x, y = placed.bench.to_view.apply(200, 150)
    pixel = frame.rgba[round(y) - frame.y, round(x) - frame.x]
    assert pixel.tolist() == noise_rgba(400, 300)[150, 200].tolist()


def test_drawing_from_the_step(placed: Hand) -> None:
    placed.studio.workbench.steps.shape.draw.menu().actions()[0].trigger()
    assert "draws a circle" in placed.bench.words
    placed.drag((100, 80), (200, 180))
    assert placed.item().shape_placement.width == pytest.approx(100, abs=2)
    assert placed.session.drawing is None
    placed.studio.workbench.steps.shape.draw.menu().actions()[0].trigger()
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.drawing is None


def test_a_new_shape_is_drawn_with_nothing_selected(placed: Hand) -> None:
    placed.click(placed.bench, QPoint(4, 4))
    placed.settle()
    placed.do("draw")
    placed.drag((20, 20), (90, 70))
    assert len(placed.session.sheet.items) == 2
    assert placed.item().content is None
    assert placed.session.selected == (placed.item().id,)
    placed.do("draw")
    assert placed.session.drawing == "circle"
    placed.do("draw")
    assert placed.session.drawing is None


def test_clicking_selects_and_the_empty_bench_lets_go(placed: Hand) -> None:
    placed.click(placed.bench, QPoint(4, 4))
    assert placed.session.selected == ()
    placed.click(placed.bench, placed.at(200, 150))
    assert placed.session.selected == (placed.item().id,)


def test_a_click_selects_what_lies_under_the_hidden_part_of_a_photo(placed: Hand, tmp_path: Path) -> None:
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(100, 100, seed=4))
    first = placed.item()
    placed.drop(other)
    second = placed.item()
    placed.session.select([first.id])
    placed.session.set_grip("photo")
    placed.click(placed.bench, placed.at(200, 150))
    assert placed.session.selected == (second.id,)
    placed.session.select([first.id])
    placed.drag((200, 150), (230, 150))
    assert placed.session.selected == (first.id,)
    assert placed.item(0).content_placement.x > 220


def test_labels_reset_by_double_click(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    placed.type(steps.shape.size_row.first, "50")
    placed.type(steps.shape.centre.first, "90")
    for row in (steps.shape.centre, steps.shape.size_row, steps.photo.centre):
        QTest.mouseDClick(row.label, Qt.MouseButton.LeftButton)
    assert placed.item().shape_placement.width == 300
    assert placed.item().shape_placement.x == 200
    assert placed.session.undo_label == "Fit the shape"


def test_wire_view_and_snapping_are_switches(placed: Hand) -> None:
    placed.do("wire")
    assert placed.session.is_wire
    placed.settle()
    placed.studio.shell.grab()
    placed.do("wire")
    placed.do("snap")
    assert not placed.session.is_snapping


def test_cover_meter_and_cover_the_shape(placed: Hand) -> None:
    placed.session.set_grip("photo")
    bar = placed.studio.workbench.bar
    assert bar.meter.text() == "Photo covers the shape"
    placed.drag((200, 150), (350, 150), keys=ALT)
    placed.settle()
    assert bar.meter.text().endswith("bare")
    bar.cover_button.click()
    placed.settle()
    assert bar.meter.text() == "Photo covers the shape"
    assert placed.session.undo_label == "Cover the shape"


def test_an_enlarged_photo_is_said(placed: Hand) -> None:
    placed.type(placed.studio.workbench.steps.photo.scale.field, "200")
    placed.settle()
    bar = placed.studio.workbench.bar
    assert bar.density.text() == "0.5 photo px per px"
    assert bar.density.objectName() == "amber"


# the steps


def field_cases():
    return [
        ("photo", lambda s: s.photo.centre.first, "210", lambda i: i.content_placement.x, 210),
        ("photo", lambda s: s.photo.centre.second, "100+60", lambda i: i.content_placement.y, 160),
        ("photo", lambda s: s.photo.scale.field, "150", lambda i: i.content_placement.scale_y, 1.5),
        ("photo", lambda s: s.photo.turn.field, "30", lambda i: i.content_placement.rotation, 30),
        ("shape", lambda s: s.shape.size_row.first, "168", lambda i: i.shape_placement.height, 168),
        ("shape", lambda s: s.shape.size_row.second, "400/4", lambda i: i.shape_placement.width, 100),
        ("shape", lambda s: s.shape.size_row.first, "1in", lambda i: i.shape_placement.width, 96),
        ("shape", lambda s: s.shape.centre.first, "150", lambda i: i.shape_placement.x, 150),
        ("shape", lambda s: s.shape.centre.second, "140", lambda i: i.shape_placement.y, 140),
        ("shape", lambda s: s.shape.turn.field, "-45", lambda i: i.shape_placement.rotation, -45),
    ]


@pytest.mark.parametrize(
    ("step", "field", "text", "read", "value"), field_cases(), ids=lambda v: v if isinstance(v, str) else ""
)
def test_every_number_is_typed_and_undone(placed: Hand, step: str, field, text: str, read, value: float) -> None:
    before = placed.session.job
    placed.type(field(placed.studio.workbench.steps), text)
    assert read(placed.item()) == pytest.approx(value)
    placed.do("undo")
    assert placed.session.job is before


def test_commands_are_reached_from_a_field(placed: Hand) -> None:
    field = placed.studio.workbench.steps.shape.size_row.first
    before = placed.session.job
    placed.studio.shell.activateWindow()
    placed.type(field, "168")
    done = placed.session.job
    QTest.keyClick(field, Qt.Key.Key_Z, CTRL)
    assert placed.session.job is before
    QTest.keyClick(field, Qt.Key.Key_Z, CTRL | SHIFT)
    assert placed.session.job is done
    field.selectAll()
    QTest.keyClicks(field, "99")
    QTest.keyClick(field, Qt.Key.Key_Z, CTRL)
    assert placed.session.job is done
    QTest.keyClick(field, Qt.Key.Key_Escape)
    QTest.keyClick(field, Qt.Key.Key_E, CTRL)
    assert placed.studio.workbench.is_exporting


@pytest.mark.parametrize("text", ["abc", "-5", "0", "1/0", "5kg"])
def test_a_wrong_number_is_marked_and_changes_nothing(placed: Hand, text: str) -> None:
    before, field = placed.session.job, placed.studio.workbench.steps.shape.size_row.first
    placed.type(field, text)
    assert placed.session.job is before
    assert field.property("wrong")
    assert field.text() == text
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "300"


def test_arrows_and_sliders_step(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    field = steps.shape.centre.first
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Up, SHIFT)
    assert placed.item().shape_placement.x == 211
    steps.photo.turn.slider.setValue(1500)
    assert placed.item().content_placement.rotation == pytest.approx(90)
    steps.photo.turn.label.reset_asked.emit()
    assert placed.item().content_placement.rotation == 0


def test_kinds_corners_and_hole(placed: Hand) -> None:
    shape = placed.studio.workbench.steps.shape
    placed.studio.workbench.library.grid.chosen.emit("rectangle")
    assert placed.item().shape.name == "rectangle"
    placed.settle()
    placed.type(shape.params.corners.all, "30")
    assert {v for _, v in placed.item().shape.params} == {30}
    placed.settle()
    shape.params.corners.each.click()
    placed.type(shape.params.corners.fields[2], "0")
    assert dict(placed.item().shape.params)["corner_br"] == 0
    shape.keeps.buttons["outside"].click()
    assert placed.item().shape.keeps == "outside"
    placed.studio.workbench.library.grid.chosen.emit("circle")
    assert placed.item().shape == ParametricShape("circle", keeps="outside")
    for _ in range(5):
        placed.do("undo")
    assert placed.item().shape == ParametricShape("circle")


def test_mask_mirrors_and_keep_covered(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    steps.shape.mask_switch.click()
    assert not placed.item().is_masked
    steps.shape.mirror.click()
    assert placed.item().shape_placement.is_mirrored
    steps.photo.mirror.click()
    assert placed.item().content_placement.is_mirrored
    steps.photo.keep.click()
    assert placed.item().keeps_covered
    for _ in range(4):
        placed.do("undo")
    assert placed.session.undo_label is None


def test_take_apart_and_join(placed: Hand) -> None:
    before = placed.item()
    placed.studio.workbench.steps.shape.apart.click()
    items = placed.session.sheet.items
    assert [(i.content is None, i.shape is None) for i in items] == [(False, True), (True, False)]
    placed.settle()
    placed.studio.workbench.steps.shape.join.click()
    assert placed.session.sheet.items == (before,)


def test_steps_open_and_close_by_header(placed: Hand) -> None:
    card = placed.studio.workbench.steps.cards["shape"]
    assert "Circle, 300 px" in card.header.words.toolTip()
    placed.click(card.header, QPoint(5, 5))
    assert not card.body.isVisible()
    QTest.keyClick(card.header, Qt.Key.Key_Return)
    assert card.body.isVisible()


# tray, clipboard, order


def test_tray_names_eyes_locks_and_order(placed: Hand) -> None:
    placed.do("duplicate")
    first, second = placed.session.sheet.items
    tray = placed.studio.workbench.tray
    placed.do("rename")
    (editor,) = tray.cards[second.id].findChildren(NameEditor)
    editor.selectAll()
    QTest.keyClicks(editor, "Front plate")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert placed.item(1).name == "Front plate"
    tray.cards[first.id].eye_clicked.emit(first.id)
    assert placed.item(0).is_hidden
    tray.cards[first.id].lock_clicked.emit(first.id)
    assert placed.item(0).is_locked
    tray.reorder(first.id, 2)
    assert [i.id for i in placed.session.sheet.items] == [second.id, first.id]
    placed.session.select([second.id])
    for action, order in (("forward", 1), ("backward", 0), ("to_front", 1), ("to_back", 0)):
        placed.do(action)
        assert [i.id for i in placed.session.sheet.items].index(second.id) == order
    placed.do("hide")
    assert placed.item(0).is_hidden
    placed.do("lock")
    placed.do("delete")
    assert len(placed.session.sheet.items) == 2
    placed.click(tray.cards[first.id], QPoint(30, 40))
    assert placed.session.selected == (first.id,)


def test_copy_paste_cut(placed: Hand) -> None:
    placed.do("copy")
    placed.do("paste")
    assert [i.name for i in placed.session.sheet.items] == ["Blue plate", "Blue plate 2"]
    placed.do("cut")
    assert len(placed.session.sheet.items) == 1
    placed.do("paste")
    placed.do("select_all")
    assert len(placed.session.selected) == 2
    placed.settle()


def test_paste_with_nothing_there_is_said(placed: Hand) -> None:
    mime = QMimeData()
    mime.setText("words")
    QGuiApplication.clipboard().setMimeData(mime)
    placed.do("paste")
    assert "no picture" in placed.studio.toast.text.text()
    placed.studio.toast.hide()
    QGuiApplication.clipboard().clear()
    placed.do("paste")
    assert placed.studio.toast.isVisible()


# proofs


def test_proofs_follow_and_set_the_bench_s_background(placed: Hand) -> None:
    proof = placed.studio.workbench.proof
    placed.settle()
    assert proof.exact_size.text() == "300 × 300 px"
    placed.type(placed.studio.workbench.steps.shape.size_row.first, "168")
    placed.settle()
    assert proof.exact_size.text() == "168 × 168 px"
    placed.click(proof.ink, QPoint(20, 60))
    assert placed.session.backdrop == "#22262a"
    QTest.keyClick(proof.white, Qt.Key.Key_Return)
    assert placed.session.backdrop == "#ffffff"
    proof.set_job_colour("#102030")
    assert placed.session.job.proof_colours == ("#102030",)
    placed.click(proof.loupe, QPoint(20, 20))
    assert placed.session.backdrop is None
    placed.do("undo")


# files


def test_save_open_and_the_question_on_close(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "cards"), ""))
    placed.do("save")
    assert placed.session.is_saved
    assert placed.studio.topbar.state.text() == "saved"
    assert open_job(path).job == placed.session.job
    placed.key(Qt.Key.Key_Right)
    assert not placed.session.is_saved
    answers = iter([QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Save])
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: next(answers))
    assert not placed.studio.files.may_leave()
    assert placed.studio.files.may_leave()
    assert open_job(path).job == placed.session.job
    saved = placed.session.job
    placed.do("undo")
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Discard)
    assert placed.studio.files.open(path)
    placed.settle()
    assert placed.session.job == saved
    assert placed.studio.shell.windowTitle() == "cards[*] - Glass Cap"
    placed.do("new")
    assert not placed.studio.has_job


def test_work_saved_on_the_way_to_opening_the_same_file_is_what_opens(
    placed: Hand, tmp_path: Path, monkeypatch
) -> None:
    path = tmp_path / "cards.glasscap"
    assert placed.studio.files.save_to(path)
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    moved = placed.session.job
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Save)
    assert placed.studio.files.open(path)
    placed.settle()
    assert placed.session.job == moved


def test_a_failed_save_keeps_the_work_and_says_so(placed: Hand, tmp_path: Path) -> None:
    assert not placed.studio.files.save_to(tmp_path / "no" / "cards.glasscap")
    assert "Not saved" in placed.studio.toast.text.text()
    assert len(placed.session.sheet.items) == 1


def test_a_full_disk_at_save_keeps_work_and_file(placed: Hand, tmp_path: Path, monkeypatch) -> None:
    path = tmp_path / "cards.glasscap"
    assert placed.studio.files.save_to(path)
    before = path.read_bytes()
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)

    def refuse(handle: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", refuse)
    assert not placed.studio.files.save()
    assert "the disk is full" in placed.studio.toast.text.text()
    assert path.read_bytes() == before
    assert not placed.session.is_saved
    assert sorted(p.name for p in tmp_path.iterdir()) == ["blue-plate.png", "cards.glasscap"]


def test_a_job_with_a_missing_photo_opens_grey_and_is_mended_by_a_drop(
    hand: Hand, photo: Path, tmp_path: Path
) -> None:
    hand.drop(photo)
    # Photos are looked for in the folders around, where other tests' lie.
    path = tmp_path / "client" / "cards.glasscap"
    path.parent.mkdir()
    job = hand.session.job
    linked = replace(job, photos=tuple(replace(p, link="gone.png") for p in job.photos))
    path.write_bytes(write_job(linked, hand.session.store.data))
    hand.session.mark_saved(path, hand.session.committed)
    photo.rename(tmp_path / "renamed.png")
    assert hand.studio.files.open(path)
    hand.settle()
    assert "linked photo is missing" in hand.studio.toast.text.text()
    hand.do("export")
    assert not hand.studio.workbench.export.write_to(tmp_path)
    assert "blue-plate.png" in hand.studio.workbench.export.list.result_text.text()
    hand.do("export")
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(300, 300, seed=6))
    hand.drop(other, on=hand.item().id)
    (tmp_path / "out").mkdir()
    assert hand.studio.workbench.export.write_to(tmp_path / "out")


def test_a_bad_job_leaves_what_is_open(placed: Hand, tmp_path: Path) -> None:
    bad = tmp_path / "bad.glasscap"
    bad.write_bytes(b"PK nonsense")
    before = placed.session.job
    placed.studio.take(incoming(bad))
    assert placed.session.job is before
    assert "bad.glasscap" in placed.studio.toast.text.text()


# looks


def test_light_and_dark_follow_the_desktop(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    selected = placed.session.selected
    monkeypatch.setattr(style, "is_dark", lambda: True)
    placed.studio._on_scheme_changed()
    hand = Hand(placed.studio)
    hand.settle()
    dark = hand.studio.shell.grab().toImage().pixelColor(5, 790).lightness()
    monkeypatch.setattr(style, "is_dark", lambda: False)
    hand.studio._on_scheme_changed()
    hand = Hand(hand.studio)
    hand.settle()
    light = hand.studio.shell.grab().toImage().pixelColor(5, 790).lightness()
    assert dark < 80 < 200 < light
    assert hand.session.selected == selected


def test_every_control_has_a_name_and_is_reached_by_keyboard(placed: Hand) -> None:
    from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QSlider

    kinds = (QAbstractButton, QComboBox, QLineEdit, QSlider)
    controls = [w for w in placed.studio.shell.findChildren(QWidget) if isinstance(w, kinds)]
    assert len(controls) > 50
    for control in controls:
        if control.objectName().startswith("qt_") or control.parent().objectName().startswith("qt_"):
            continue
        name = control.accessibleName() or getattr(control, "text", str)()
        assert name, control
        assert control.focusPolicy() & Qt.FocusPolicy.TabFocus, name


def test_the_key_card_lists_every_shortcut(placed: Hand, qtbot) -> None:
    from PySide6.QtWidgets import QLabel

    from glasscap.app.keys_card import KeysCard
    from glasscap.editor.actions import ACTIONS

    placed.do("keys")
    card = placed.studio.shell.findChild(KeysCard)
    words = {w.text() for w in card.findChildren(QLabel)}
    assert {a.text for a in ACTIONS if a.shortcut} <= words
    card.close()


def test_shortcuts_are_one_of_a_kind() -> None:
    from glasscap.editor.actions import ACTIONS

    keys = [a.shortcut for a in ACTIONS if a.shortcut]
    assert len(set(keys)) == len(keys)


def test_the_smallest_window_still_holds_the_grip_bar(placed: Hand) -> None:
    placed.studio.shell.resize(1024, 700)
    placed.settle()
    bar, bench = placed.studio.workbench.bar, placed.bench
    assert bar.geometry().left() >= 0
    assert bar.geometry().right() <= bench.width()


def test_a_step_done_by_key_during_a_drag_is_not_taken_back(placed: Hand) -> None:
    start, end = (200.0, 150.0), (230.0, 160.0)
    before = placed.session.job
    placed.drag(start, end, is_released=False)
    assert placed.session.job is not before
    placed.do("duplicate")
    twice = placed.session.job
    assert len(placed.session.items) == 2
    placed.move(QPointF(placed.at(*start)), Qt.KeyboardModifier.NoModifier)
    QTest.mouseRelease(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(*start))
    assert placed.session.job is twice
    placed.session.undo()
    assert placed.session.job is before


def test_a_drag_whose_release_went_elsewhere_ends(placed: Hand) -> None:
    before = placed.session.job
    placed.drag((200.0, 150.0), (230.0, 160.0), is_released=False)
    none = Qt.MouseButton.NoButton
    placed.move(QPointF(placed.at(210, 150)), Qt.KeyboardModifier.NoModifier, none)
    assert placed.session.job is before
    assert not placed.bench.driver.is_active


def test_the_cards_are_filled_one_by_one_before_they_are_opened(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    before = [key for key, card in steps.cards.items() if card.is_open]
    count = sum(1 for _ in iter(steps.make_ready, False))
    assert 0 < count <= len(steps.cards) + 1
    assert not steps.make_ready()
    assert [key for key, card in steps.cards.items() if card.is_open] == before
    steps.open_only("edge")
    assert steps.cards["edge"].is_open
