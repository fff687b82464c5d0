"""Ctrl+Z while something is unfinished takes back the last of that, never a step of the job behind it."""

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from glasscap.editor.sketches.draw_points import DRAW_POINTS
from glasscap.editor.sketches.rim import MARK_CIRCLE
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window

CTRL = Qt.KeyboardModifier.ControlModifier
BOTH = CTRL | Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def stepped(placed: Hand) -> Hand:
    """A job with a step that may be taken back."""
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    assert placed.session.undo_label == "Nudge photo and shape together"
    return placed


@pytest.mark.parametrize("sketch", [DRAW_POINTS, MARK_CIRCLE])
def test_points_come_and_go_and_the_job_stays(stepped: Hand, sketch) -> None:
    session, job = stepped.session, stepped.session.job
    session.set_sketch(sketch)
    for at in ((60, 60), (200, 60), (200, 200)):
        stepped.click(stepped.bench, stepped.at(*at))
    shown = stepped.bench.driver.sketching
    assert session.undo_label == "the last point"
    assert stepped.studio.topbar.undo.toolTip() == "Undo: the last point"
    for left in (2, 1, 0):
        stepped.key(Qt.Key.Key_Z, CTRL)
        assert len(shown.shown.dots) == left
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert "Nothing is left to take back here" in stepped.studio.toast.text.text()
    assert session.job is job
    assert session.sketch is sketch
    for _ in range(3):
        stepped.key(Qt.Key.Key_Z, BOTH)
    assert len(shown.shown.dots) == 3
    stepped.key(Qt.Key.Key_Return)
    assert session.sketch is None
    # The drawing is one step, and the one before it is there.
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert session.job == job
    assert session.undo_label == "Nudge photo and shape together"


def test_leaving_a_drawing_gives_undo_back_to_the_job(stepped: Hand) -> None:
    session, job = stepped.session, stepped.session.job
    session.set_sketch(DRAW_POINTS)
    stepped.click(stepped.bench, stepped.at(60, 60))
    stepped.key(Qt.Key.Key_Escape)
    assert session.sketch is None
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert session.job != job
    stepped.key(Qt.Key.Key_Z, BOTH)
    assert session.job is job


def test_undo_in_a_drag_drops_the_drag_alone(stepped: Hand) -> None:
    session, job = stepped.session, stepped.session.job
    stepped.drag((200, 150), (260, 190), is_released=False)
    assert session.is_previewing
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert not session.is_previewing
    assert session.job is job
    QTest.mouseRelease(
        stepped.bench, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, stepped.at(260, 190)
    )
    assert session.job is job
    stepped.move(QPointF(stepped.at(260, 190)), Qt.KeyboardModifier.NoModifier, Qt.MouseButton.NoButton)
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert session.job != job


@pytest.mark.parametrize("place", ["bench", "box"])
def test_letters_come_and_go_one_by_one_and_are_one_step(stepped: Hand, place: str) -> None:
    session, job = stepped.session, stepped.session.job
    stepped.studio.workbench.bench.lettering.begin()
    begun = session.job
    steps = stepped.studio.workbench.steps
    where = stepped.bench
    if place == "box":
        steps.open_only("shape")
        where = steps.shape.letters_rows.text
        where.setFocus()
        where.selectAll()
    QTest.keyClicks(where, "POT")
    session.settle()
    QTest.keyClicks(where, "S")
    assert session.job.sheets[0].items[0].shape.letters.text == "POTS"
    for left in ("POT", "PO", "P"):
        QTest.keyClick(where, Qt.Key.Key_Z, CTRL)
        assert session.job.sheets[0].items[0].shape.letters.text == left
    QTest.keyClick(where, Qt.Key.Key_Z, BOTH)
    assert session.job.sheets[0].items[0].shape.letters.text == "PO"
    stepped.bench.setFocus()
    stepped.key(Qt.Key.Key_Escape)
    assert not session.is_typing
    assert session.undo_label == "Type letters"
    session.undo()
    assert session.job == begun
    session.undo()
    assert session.job == job


def test_letters_stay_when_the_desktop_changes_between_light_and_dark(stepped: Hand) -> None:
    session, studio = stepped.session, stepped.studio
    studio.workbench.bench.lettering.begin()
    QTest.keyClicks(stepped.bench, "POTS")
    stepped.key(Qt.Key.Key_Escape)
    job = session.job
    studio._on_scheme_changed()
    steps = studio.workbench.steps
    steps.open_only("shape")
    assert steps.shape.letters_rows.text.toPlainText() == "POTS"
    steps.shape.letters_rows.text.setFocus()
    assert session.job is job
    QTest.keyClicks(steps.shape.letters_rows.text, "X")
    session.settle()
    assert sorted(session.job.sheets[0].items[0].shape.letters.text) == sorted("POTSX")


def test_the_box_shows_what_undo_brought_back(stepped: Hand) -> None:
    stepped.studio.workbench.bench.lettering.begin()
    steps = stepped.studio.workbench.steps
    steps.open_only("shape")
    QTest.keyClicks(stepped.bench, "POTS")
    stepped.key(Qt.Key.Key_Escape)
    box = steps.shape.letters_rows.text
    assert box.toPlainText() == "POTS"
    stepped.key(Qt.Key.Key_Z, CTRL)
    assert box.toPlainText() == "KILN"
    box.setFocus()
    QTest.keyClicks(box, "S")
    stepped.session.settle()
    assert stepped.item().shape.letters.text == "KILNS"


def test_undo_works_on_the_job_again_once_views_were_made_anew_amid_a_drawing(stepped: Hand) -> None:
    session, job = stepped.session, stepped.session.job
    session.set_sketch(DRAW_POINTS)
    stepped.click(stepped.bench, stepped.at(60, 60))
    stepped.studio._on_scheme_changed()
    assert session.sketch is None
    session.undo()
    assert session.job != job
    session.redo()
    assert session.job is job
