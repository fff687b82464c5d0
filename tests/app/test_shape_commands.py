"""Import, trace, combine, share and copy from the *More* menu, driven like a user."""

from pathlib import Path

import pytest
from PySide6.QtGui import QGuiApplication

from glasscap.app.commands.shapes import PartChoice
from glasscap.core.document.model.query import find_item
from glasscap.core.formats.svg_shapes import svg_shapes
from glasscap.core.shapes.kinds import CombinedShape, PointsShape, RimShape
from tests.app.answers import answer
from tests.app.conftest import Hand, finished
from tests.samples import png_photo

pytestmark = pytest.mark.shared_window

POT = '<svg xmlns="http://www.w3.org/2000/svg"><rect width="20" height="10"/><circle cx="50" cy="5" r="5"/></svg>'


def _menu(hand: Hand, *names: str) -> None:
    menu = hand.studio.workbench.steps.shape.menu
    for name in names[:-1]:
        menu = next(a for a in menu.actions() if a.text() == name).menu()
    next(a for a in menu.actions() if a.text() == names[-1]).trigger()
    hand.wait_for_errands()


def _commands(hand: Hand):
    return hand.studio.workbench.steps.shape.commands


def test_one_of_several_shapes_of_a_drawing_is_taken(placed: Hand, tmp_path: Path, monkeypatch) -> None:
    path = tmp_path / "pot.svg"
    path.write_text(POT)
    before = placed.item()
    monkeypatch.setattr(PartChoice, "open", lambda self: self.cards.setCurrentRow(2) or self.accept())
    finished(_commands(placed).import_file(path))
    assert placed.item().shape.made_by == "Circle"
    assert placed.item().content_placement == before.content_placement
    monkeypatch.setattr(PartChoice, "open", lambda self: self.accept())
    finished(_commands(placed).import_file(path))
    assert placed.item().shape.made_by == "pot"
    monkeypatch.setattr(PartChoice, "open", lambda self: self.reject())
    now = placed.session.job
    finished(_commands(placed).import_file(path))
    assert placed.session.job is now
    placed.do("undo")
    placed.do("undo")
    assert placed.item() == before


def test_a_broken_drawing_is_said_and_nothing_is_lost(placed: Hand, tmp_path: Path) -> None:
    path = tmp_path / "broken.svg"
    path.write_text("<svg")
    now = placed.session.job
    finished(_commands(placed).import_file(path))
    assert "broken.svg" in placed.studio.toast.text.text()
    assert placed.session.job is now


def test_a_shape_is_pasted_and_copied_out(placed: Hand, tmp_path: Path, monkeypatch) -> None:
    board = QGuiApplication.clipboard()
    board.setText("M0 0L100 0L50 80Z")
    _menu(placed, "Paste a shape")
    assert isinstance(placed.item().shape, PointsShape)
    _menu(placed, "Copy as SVG path")
    assert board.text().startswith("M")
    _menu(placed, "Copy as CSS clip path")
    assert board.text().startswith('clip-path: path("M')

    out = tmp_path / "shape.svg"
    answer(monkeypatch, "file_to_save", out)
    _menu(placed, "Save as an SVG file…")
    assert len(svg_shapes(out.read_bytes(), "shape.svg")) == 1
    board.setText("what is this")
    _menu(placed, "Paste a shape")
    assert "there is no shape in it" in placed.studio.toast.text.text()


def test_the_outline_of_a_transparent_photo(hand: Hand, tmp_path: Path) -> None:
    import numpy as np

    from glasscap.core.formats.png import write_png
    from tests.samples import noise_rgba

    rgba = noise_rgba(200, 160)
    y, x = np.mgrid[:160, :200]
    rgba[..., 3] = np.where(np.hypot(x - 100, y - 80) < 60, 255, 0)
    path = tmp_path / "mark.png"
    path.write_bytes(write_png(rgba))
    hand.drop(path)
    _menu(hand, "From this photo", "Its transparency")
    assert hand.item().shape_placement.width == pytest.approx(120, abs=2)
    assert hand.session.undo_label == "Outline of the photo"


@pytest.fixture
def two(hand: Hand, tmp_path: Path) -> Hand:
    for n in (1, 2):
        path = tmp_path / f"p{n}.png"
        path.write_bytes(png_photo(400, 300, seed=n))
        hand.drop(path)
    return hand


def test_shapes_are_combined_and_their_parts_worked_on(placed: Hand) -> None:
    rows = placed.studio.workbench.steps.shape.parts
    rows.add.menu().actions()[1].trigger()
    item = placed.item()
    assert isinstance(item.shape, CombinedShape)
    assert placed.session.part == 1
    placed.settle()
    assert len(rows.rows) == 2
    steps = placed.studio.workbench.steps.shape
    placed.type(steps.size_row.first, "50")
    assert placed.item().shape.parts[1].width == pytest.approx(50)
    placed.studio.workbench.library.grid.chosen.emit("star")
    assert placed.item().shape.parts[1].shape.name == "star"
    placed.settle()
    before = placed.item().shape.parts
    centre = placed.session.seen_item.shape_placement
    placed.drag((centre.x, centre.y), (centre.x + 40, centre.y))
    moved = placed.item().shape.parts
    assert moved[1].x - moved[0].x == pytest.approx(before[1].x - before[0].x + 40, abs=3)
    placed.settle()
    rows.rows[1].does.setCurrentIndex(3)
    rows.rows[1].does.activated.emit(3)
    assert placed.item().shape.parts[1].does == "exclude"
    placed.settle()
    rows.rows[1].eye.click()
    assert placed.item().shape.parts[1].is_off
    placed.settle()
    rows.rows[1].away.click()
    assert placed.item().shape.name == "circle"
    assert placed.session.part is None


def test_combine_gap_same_and_linked(two: Hand) -> None:
    ids = [i.id for i in two.session.sheet.items]
    two.session.select(ids)
    two.settle()
    _menu(two, "Same shape for the selected")
    assert find_item(two.session.job, ids[0]).shape == find_item(two.session.job, ids[1]).shape
    _menu(two, "Link the selected shapes")
    two.session.select([ids[0]])
    two.studio.workbench.library.grid.chosen.emit("heart")
    assert find_item(two.session.job, ids[1]).shape.name == "heart"
    two.settle()
    _menu(two, "Unlink this shape")
    assert find_item(two.session.job, ids[0]).shape_link == ""
    two.session.select(ids)
    two.settle()
    _menu(two, "Combine the selected", "Intersect")
    assert isinstance(find_item(two.session.job, two.session.selected[0]).shape, CombinedShape)
    two.session.select(ids)
    _menu(two, "Shape of the gap between")
    assert len(two.session.sheet.items) == 3
    assert two.session.selected == (two.session.sheet.items[-1].id,)
    assert two.studio.toast.isHidden()


def test_rim_points_can_be_moved_again(placed: Hand) -> None:
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    draw = placed.studio.workbench.steps.shape.draw.menu()
    entry = next(a for a in draw.actions() if a.text() == "Circle through rim points")
    entry.trigger()
    for x, y in ((200, 50), (300, 150), (200, 250)):
        QTest.mouseClick(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(x, y))
    placed.key(Qt.Key.Key_Return)
    assert isinstance(placed.item().shape, RimShape)
    entry.trigger()
    assert len(placed.bench.driver.sketching.shown.dots) == 3
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.sketch is None


def test_a_dropped_drawing_is_a_shape_or_artwork(placed: Hand, tmp_path: Path) -> None:
    from PySide6.QtCore import QMimeData, QUrl
    from PySide6.QtWidgets import QMenu

    path = tmp_path / "star.svg"
    path.write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L40 0L20 30Z"/></svg>')
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path))])
    item = placed.item()
    for name in (f"The shape of {item.name}", "Artwork"):
        placed.studio._on_dropped(mime, item.id)
        menu = placed.studio.shell.findChildren(QMenu)[-1]
        next(a for a in menu.actions() if a.text() == name).trigger()
        menu.close()
        placed.settle()
    assert isinstance(placed.item().shape, PointsShape)
    assert placed.session.undo_label == "Swap the photo"
    assert placed.session.photo.is_drawing


def test_ctrl_v_takes_a_drawing_as_a_shape(placed: Hand) -> None:
    QGuiApplication.clipboard().setText("M0 0h100v40h-100z")
    placed.do("paste")
    assert placed.item().shape.made_by == "Pasted shape"
    QGuiApplication.clipboard().setText("Meet at the kiln")
    placed.do("paste")
    assert "no picture" in placed.studio.toast.text.text()
