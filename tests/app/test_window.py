"""The real window off screen: steps, tray, clipboard, proofs, looks; each control is one step, and is undone."""

import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication, QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QWidget

from glasscap.app.theme import style
from glasscap.app.theme.colours import DARK, LIGHT
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.shapes.kinds import ParametricShape
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)


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
    assert placed.bench.hasFocus()
    field.setFocus()
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


def test_light_and_dark_follow_the_desktop(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    selected = placed.session.selected
    monkeypatch.setattr(style, "is_dark", lambda: True)
    placed.studio._on_scheme_changed()
    hand = Hand(placed.studio)
    hand.settle()
    dark = hand.studio.shell.grab().toImage().pixelColor(5, 790).lightness()
    assert hand.studio.shell.styleSheet() == style.style_sheet(DARK)
    monkeypatch.setattr(style, "is_dark", lambda: False)
    hand.studio._on_scheme_changed()
    hand = Hand(hand.studio)
    hand.settle()
    light = hand.studio.shell.grab().toImage().pixelColor(5, 790).lightness()
    assert dark < 80 < 200 < light
    assert hand.session.selected == selected


def test_windows_have_the_style_sheet_and_not_the_application(placed: Hand, qapp: QApplication) -> None:
    # With one of its own each part of a view is styled anew for every layout it is put into.
    assert qapp.styleSheet() == ""
    shell = placed.studio.shell
    assert shell.styleSheet() == style.style_sheet(LIGHT)
    # What opens over the window is styled by it, as well.
    dialog = QDialog(shell)
    dialog.ensurePolished()
    assert dialog.grab().toImage().pixelColor(3, 3).name() == LIGHT.panel
    dialog.deleteLater()


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


def test_help_begins_with_the_key_card_and_is_there_once(placed: Hand) -> None:
    from glasscap.app.help.help_window import HelpWindow
    from glasscap.editor.actions import ACTIONS, GESTURES

    placed.do("help")
    (card,) = placed.studio.shell.findChildren(HelpWindow)
    assert card.list.currentItem().text() == "Keys and names"
    words = card.text.toPlainText()
    with_keys = [a for a in ACTIONS if a.shortcut]
    keys = [QKeySequence(a.shortcut).toString(QKeySequence.SequenceFormat.NativeText) for a in with_keys]
    assert [
        k for k in (*(a.text for a in with_keys), *keys, *(what for _, what in GESTURES)) if k not in words
    ] == []
    card.list.setCurrentRow(3)
    placed.do("keys")
    assert placed.studio.shell.findChildren(HelpWindow) == [card]
    assert card.list.currentItem().text() == "Keys and names"
    # A key is found by its name as a page is.
    QTest.keyClicks(card.search, "mock-ups")
    assert "Keys and names" in [card.list.item(n).text() for n in range(card.list.count())]
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
