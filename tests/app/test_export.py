"""The export view: rows, formats, bench and file compared, writing."""

import io
from itertools import pairwise
from pathlib import Path
from threading import Event

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, QRect, Qt, QTimer
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QMessageBox

import glasscap
from glasscap.app.export import export_view, writing
from glasscap.app.export.compare_stage import CompareStage
from glasscap.app.export.row_list import ROW_HEIGHT
from glasscap.app.theme.style import colours
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.document.finishing.edits import set_finishes
from glasscap.core.document.model.finishes import Finishes, Lights, Shadow
from glasscap.core.document.model.outputs import FileOptions, OutputSize
from glasscap.core.document.model.paint import GradientPaint, Stop
from glasscap.core.document.outputs.proofs import add_background
from glasscap.core.formats.job import read_job, write_job
from glasscap.editor import comparing
from tests.app.answers import answer, answering
from tests.app.conftest import Hand, finished, turn
from tests.samples import png_photo, read_pixels

pytestmark = pytest.mark.shared_window
LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


class Desk:
    """The export view as its user sees it."""

    def __init__(self, hand: Hand, folder: Path) -> None:
        self.hand = hand
        hand.do("export")
        self.view = hand.studio.workbench.export
        self.view.set_folder(folder)
        # As it was before other tests of this window.
        self.view.picture.show_more(False)
        self.view.list.rows.set_open(True)
        self.wait()

    def wait(self) -> None:
        self.hand.settle(lambda: self.hand.studio.service.is_idle and not self.view.stage.is_waiting)

    def write(self) -> None:
        self.view.list.write.click()
        self.hand.wait_for_errands()

    def choose(self, group: str, name: str) -> None:
        self.view.format.formats[group].buttons[name].click()
        self.wait()

    def type(self, field, text: str) -> None:
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.wait()

    def click_row(self, row: int, keys: Qt.KeyboardModifier = NONE) -> None:
        rows = self.view.list.rows
        QTest.mouseClick(rows.viewport(), LEFT, keys, rows.visualItemRect(rows.item(row)).center())
        self.wait()

    @property
    def said(self) -> str:
        return self.view.list.result_text.text()

    @property
    def outputs(self):
        return self.hand.session.job.outputs


@pytest.fixture
def desk(placed: Hand, tmp_path: Path) -> Desk:
    folder = tmp_path / "out"
    folder.mkdir()
    return Desk(placed, folder)


@pytest.mark.parametrize(("what", "scale"), [("cutout", "1"), ("cutout", "2"), ("sheet", "1")])
def test_what_is_written_is_what_python_writes(desk: Desk, what: str, scale: str) -> None:
    view = desk.view
    if what == "sheet":
        view.list.add_sheet.click()
        desk.wait()
        desk.click_row(0)
        view.list.remove.click()
        desk.wait()
    view.picture.scales.buttons[scale].click()
    desk.wait()
    desk.write()
    assert "written and read back" in desk.said
    (result,) = view.written.results
    whole = glasscap.cut(png_photo(400, 300), scale=float(scale), crop="visible" if what == "cutout" else "sheet")
    assert np.array_equal(read_pixels(result.path), whole.array)
    assert view.list.rows.item(0).toolTip().endswith(f"{whole.size[0]}×{whole.size[1]}")
    assert view.facts.values["Size"].text() == f"{whole.size[0]} × {whole.size[1]} px"


def test_looking_changes_nothing_and_a_change_keeps_the_row(desk: Desk) -> None:
    session = desk.hand.session
    assert desk.outputs == ()
    assert desk.view.list.rows.count() == 1
    before = session.committed
    desk.choose("transparency", "webp")
    assert [o.file.format for o in desk.outputs] == ["webp"]
    assert session.undo_label == "Choose the format"
    session.undo()
    desk.wait()
    assert session.committed is before
    session.redo()
    assert read_job(write_job(session.job, session.store.data), "x").job.outputs == desk.outputs


FORMATS = [
    ("transparency", "png", "PNG"),
    ("transparency", "indexed", "PNG"),
    ("transparency", "webp", "WEBP"),
    ("transparency", "avif", "AVIF"),
    ("transparency", "tiff", "TIFF"),
    ("nothing", "jpeg", "JPEG"),
]
DRAWN = [("vector", "svg", b"<svg"), ("vector", "pdf", b"%PDF-1.4"), ("layers", "ora", b"PK")]


@pytest.mark.parametrize(("group", "name", "kind"), FORMATS, ids=[f[1] for f in FORMATS])
def test_every_format_is_compared_and_written(desk: Desk, group: str, name: str, kind: str) -> None:
    desk.choose(group, name)
    answer = desk.view.stage.answer
    assert answer is not None
    assert answer.request.output.file.format == name
    assert desk.view.facts.title.text() == answer.verdict.title
    desk.write()
    (result,) = desk.view.written.results
    data = result.path.read_bytes()
    with Image.open(io.BytesIO(data)) as image:
        assert image.format == kind
    # The size that was stated is that of the file that was written.
    assert answer.nbytes == len(data)


@pytest.mark.parametrize(("group", "name", "head"), DRAWN, ids=[d[1] for d in DRAWN])
def test_drawn_formats_are_compared_and_written(desk: Desk, group: str, name: str, head: bytes) -> None:
    desk.choose(group, name)
    answer = desk.view.stage.answer
    assert answer.problem == ""
    assert answer.found.mean < 1
    assert desk.view.format.has_live_letters.isVisible() == (name == "svg")
    desk.write()
    (result,) = desk.view.written.results
    assert result.path.read_bytes().startswith(head)


def test_the_verdict_is_of_the_pixels(desk: Desk) -> None:
    session, view = desk.hand.session, desk.view
    assert view.facts.title.text() == "Nothing is lost."
    look = Finishes(lights=Lights(shadows=(Shadow(0, 10, 40, opacity=0.6),)))
    session.apply("Shadow", lambda j: set_finishes(j, [desk.hand.item().id], look))
    desk.choose("transparency", "indexed")
    desk.type(view.format.colours.field, "12")
    desk.wait()
    assert view.facts.title.text() == "Soft shadow shows steps."
    assert "12 colours" in view.facts.text.text()
    assert "256 colours" in view.facts.text.text()
    desk.type(view.format.colours.field, "256")
    assert view.facts.title.text() != "Soft shadow shows steps."
    desk.choose("nothing", "jpeg")
    assert view.facts.title.text() == "Transparency is lost."
    assert view.facts.values["Largest difference"].text() == "255 of 255"
    desk.choose("transparency", "avif")
    assert "Transparency" not in view.facts.title.text()


def test_options_of_a_format_are_shown_with_it_alone(desk: Desk) -> None:
    panel = desk.view.format
    for group, name, _ in FORMATS:
        desk.choose(group, name)
        assert panel.colours.isVisible() == (name == "indexed")
        assert panel.quality.isVisible() == (name in ("webp", "avif", "jpeg"))
        assert panel.background.isVisible() == (name == "jpeg")
        assert panel.is_premultiplied.isVisible() == (name == "tiff")
    desk.choose("transparency", "webp")
    panel.is_lossless.click()
    desk.wait()
    assert not panel.quality.isVisible()
    assert desk.view.facts.title.text() == "Nothing is lost."
    desk.choose("transparency", "tiff")
    panel.is_premultiplied.click()
    panel.bits.buttons["16"].click()
    desk.wait()
    assert desk.outputs[0].file == FileOptions("tiff", is_lossless=True, is_premultiplied=True, bits=16)


def test_sizes_are_typed_named_and_kept(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    panel = desk.view.picture
    panel.kind.setCurrentIndex(panel.kind.findData("box"))
    panel.kind.activated.emit(0)
    desk.wait()
    desk.type(panel.width_field, "168")
    desk.type(panel.height_field, "200/2")
    assert desk.outputs[0].size == OutputSize("box", width=168, height=100)
    assert desk.view.stage.answer.size == (168, 100)
    answer(monkeypatch, "line_of_text", "Shop window")
    panel.keep.click()
    desk.wait()
    assert panel.named.currentText() == "Shop window · 168 × 100 px"
    icon = next(n for n in range(panel.named.count()) if panel.named.itemText(n).startswith("Icon 64"))
    panel.named.setCurrentIndex(icon)
    panel.named.activated.emit(icon)
    desk.wait()
    assert desk.view.stage.answer.size == (64, 64)
    desk.type(panel.width_field, "0")
    toast = desk.hand.studio.toast
    assert toast.isVisible()
    assert "Picture width" in toast.text.text()
    assert desk.outputs[0].size.width == 64
    desk.hand.do("export")
    assert toast.isHidden(), "a problem of the export lies over the bench"
    desk.hand.do("export")
    assert toast.isHidden()


def test_crop_margin_backdrop_carry_profile_density(desk: Desk) -> None:
    panel = desk.view.picture
    assert panel.ppi.accessibleName() == "Resolution, ppi"
    panel.crop.setCurrentIndex(panel.crop.findData("square"))
    panel.crop.activated.emit(0)
    panel.profile.setCurrentIndex(panel.profile.findData("p3"))
    panel.profile.activated.emit(0)
    panel.has_background.click()
    panel.background.stepped.emit("#204060")
    panel.keeps_metadata.click()
    desk.wait()
    for field, text in ((panel.margin, "10"), (panel.carry, "6"), (panel.ppi, "300")):
        desk.type(field, text)
    (output,) = desk.outputs
    assert (output.crop, output.margin, output.carry) == ("square", 10, 6)
    assert (output.file.profile, output.file.ppi, output.file.keeps_metadata) == ("p3", 300, True)
    assert output.background.colour == "#204060"
    desk.write()
    with Image.open(desk.view.written.results[0].path) as image:
        assert image.size[0] == image.size[1]
        assert image.info["dpi"][0] == pytest.approx(300, abs=0.1)
        assert "icc_profile" in image.info
        assert image.getchannel("A").getextrema() == (255, 255)


def test_several_rows_change_together_are_ordered_and_removed(desk: Desk) -> None:
    view = desk.view
    for button in (view.list.again, view.list.add_sheet, view.list.again):
        button.click()
        desk.wait()
    assert [o.id for o in desk.outputs] == ["o1", "o2", "o3", "o4"]
    # Equal names are numbered at once.
    assert [o.name for o in desk.outputs] == [
        "{name}{@scale}",
        "{name}{@scale}-2",
        "{name}{@scale}",
        "{name}{@scale}-2",
    ]
    rows = view.list.rows
    desk.click_row(0)
    desk.click_row(3, Qt.KeyboardModifier.ControlModifier)
    desk.choose("transparency", "avif")
    assert [o.file.format for o in desk.outputs] == ["avif", "png", "png", "avif"]
    rows.moved.emit("o4", 0)
    desk.wait()
    assert [o.id for o in desk.outputs] == ["o4", "o1", "o2", "o3"]
    QTest.keyClick(rows, Qt.Key.Key_Delete)
    desk.wait()
    assert [o.id for o in desk.outputs] == ["o2", "o3"]
    assert view.list.count.text() == "2 files"
    desk.hand.session.undo()
    desk.wait()
    assert rows.count() == 4


def test_a_list_is_written_and_written_again(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    view = desk.view
    desk.choose("transparency", "webp")
    view.list.again.click()
    desk.wait()
    desk.type(view.picture.name, "{name}{@scale}")
    desk.write()
    assert "row 1 has this name already" in desk.said
    desk.type(view.picture.name, "{name}-{number}")
    view.picture.folder.setText("small")
    view.picture.folder.setModified(True)
    view.picture.folder.editingFinished.emit()
    desk.wait()
    ask = answering("number")
    monkeypatch.setattr(writing, "ask_policy", ask)
    desk.write()
    assert "2 files written and read back" in desk.said
    assert view.list.write.text() == "Write again"
    desk.write()
    assert [names for _, names in ask.calls] == [["blue-plate.webp"], ["blue-plate.webp", "blue-plate-02.webp"]]
    found = sorted(p.relative_to(view.folder).as_posix() for p in view.folder.rglob("*.webp"))
    assert found == [
        "blue-plate 2.webp",
        "blue-plate 3.webp",
        "blue-plate.webp",
        "small/blue-plate-02 2.webp",
        "small/blue-plate-02.webp",
    ]


def test_the_chosen_row_is_open_and_the_others_are_not(desk: Desk) -> None:
    view, rows = desk.view, desk.view.list.rows
    view.list.again.click()
    desk.wait()
    body = view.format.parentWidget()

    def lies() -> QRect:
        return QRect(rows.viewport().mapFromGlobal(body.mapToGlobal(QPoint(0, 0))), body.size())

    boxes = [rows.visualItemRect(rows.item(n)) for n in range(2)]
    assert lies().top() >= boxes[1].top() + ROW_HEIGHT
    assert lies().bottom() <= boxes[1].bottom()
    assert boxes[0].height() == ROW_HEIGHT
    desk.click_row(0)
    boxes = [rows.visualItemRect(rows.item(n)) for n in range(2)]
    assert lies().top() >= boxes[0].top() + ROW_HEIGHT
    assert lies().bottom() <= boxes[0].bottom()
    assert boxes[1].height() == ROW_HEIGHT
    # A format with other controls needs another height.
    desk.choose("transparency", "webp")
    boxes = [rows.visualItemRect(rows.item(n)) for n in range(2)]
    assert boxes[0].bottom() - lies().bottom() == 12
    assert body.height() == body.layout().totalHeightForWidth(body.width())
    # The arrow closes and opens it, and so does Enter.
    arrow = QPoint(boxes[0].right() - 14, boxes[0].top() + 18)
    QTest.mouseClick(rows.viewport(), LEFT, NONE, arrow)
    assert not body.isVisible()
    assert rows.visualItemRect(rows.item(0)).height() == ROW_HEIGHT
    QTest.keyClick(rows, Qt.Key.Key_Return)
    assert body.isVisible()
    assert rows.visualItemRect(rows.item(0)).height() == boxes[0].height()


def test_tab_goes_from_a_row_into_its_controls_and_they_come_into_sight(desk: Desk) -> None:
    desk.hand.studio.shell.resize(1100, 640)
    rows, picture = desk.view.list.rows, desk.view.picture
    picture.more.click()
    desk.wait()
    rows.setFocus()
    seen = []
    while (control := QApplication.focusWidget()) not in seen and len(seen) < 60:
        seen.append(control)
        if desk.view.format.parentWidget().isAncestorOf(control):
            top = rows.viewport().mapFromGlobal(control.mapToGlobal(QPoint(0, 0))).y()
            assert top >= 0, control.accessibleName()
            assert top + control.height() <= rows.viewport().height(), control.accessibleName()
        QTest.keyClick(control, Qt.Key.Key_Tab)
    assert seen[1] in desk.view.format.formats["transparency"].buttons.values()
    assert picture.keeps_metadata in seen
    assert seen.index(picture.keeps_metadata) < seen.index(desk.view.list.add_cutout)
    desk.hand.studio.shell.resize(1280, 800)


def test_the_wheel_over_a_row_scrolls_and_changes_nothing(desk: Desk) -> None:
    desk.hand.studio.shell.resize(1100, 640)
    desk.choose("transparency", "webp")
    desk.view.picture.more.click()
    desk.wait()
    rows, before = desk.view.list.rows, desk.outputs
    assert rows.verticalScrollBar().maximum() > 0
    slider = desk.view.format.quality.slider
    assert not turn(slider, -2)
    slider.setFocus()
    rows.verticalScrollBar().setValue(0)
    turn(rows.viewport(), -2)
    assert rows.verticalScrollBar().value() == 120
    # While the list is scrolled a slider that has the keys is not meant either.
    assert not turn(slider, -2)
    desk.wait()
    assert desk.outputs == before
    desk.hand.studio.shell.resize(1280, 800)


def test_a_file_is_renamed_in_its_row(desk: Desk) -> None:
    rows, picture = desk.view.list.rows, desk.view.picture

    def rename(text: str, key: Qt.Key = Qt.Key.Key_Return) -> None:
        (editor,) = [e for e in rows.findChildren(NameEditor) if e.isVisible()]
        assert editor.selectedText() == editor.text()
        QTest.keyClicks(editor, text)
        QTest.keyClick(editor, key)
        desk.wait()

    QTest.keyClick(rows, Qt.Key.Key_F2)
    rename("window", Qt.Key.Key_Escape)
    assert desk.outputs == ()
    QTest.keyClick(rows, Qt.Key.Key_F2)
    rename("Shop window.png")
    assert desk.outputs[0].name == picture.name.text() == "Shop window"
    assert rows.item(0).toolTip().startswith("Shop window.png ·")
    head = rows.visualItemRect(rows.item(0)).topLeft() + QPoint(90, 40)
    QTest.mouseClick(rows.viewport(), LEFT, NONE, head)
    QTest.mouseDClick(rows.viewport(), LEFT, NONE, head)
    rename("plate")
    assert desk.outputs[0].name == "plate"
    desk.write()
    assert [r.path.name for r in desk.view.written.results] == ["plate.png"]
    assert desk.hand.session.undo_label == "Rename the file"
    # What is not changed keeps its pattern.
    desk.type(picture.name, "{name}-{width}")
    QTest.keyClick(rows, Qt.Key.Key_F2)
    rename("")
    assert desk.outputs[0].name == "{name}-{width}"


def test_more_names_what_is_set_behind_it(desk: Desk) -> None:
    picture = desk.view.picture
    assert picture.more.text() == "More"
    assert not picture.margin.isVisible()
    picture.more.click()
    assert picture.margin.isVisible()
    desk.type(picture.margin, "12")
    picture.has_background.click()
    desk.wait()
    picture.more.click()
    assert not picture.margin.isVisible()
    assert picture.more.text() == "More · margin 12 px · a backdrop"
    desk.hand.session.undo()
    desk.wait()
    assert picture.more.text() == "More · margin 12 px"
    picture.more.click()
    desk.type(picture.carry, "4")
    picture.more.click()
    assert picture.more.text() == "More · margin 12 px · 4 px carried"


def test_the_proofs_are_of_the_file_and_choose_the_background(desk: Desk) -> None:
    view = desk.view
    assert [c.name for c in view.file.cards] == ["White", "Ink", "Job colour"]
    desk.choose("nothing", "jpeg")
    ink = view.file.cards[1]
    seen = ink.grab().toImage()
    # What lay clear is solid white in the file, also on ink.
    middle = QPoint(ink.width() // 2, ink.height() // 2)
    shown = view.stage.answer.small.rgba
    corner = middle - QPoint(shown.shape[1] // 2 - 2, shown.shape[0] // 2 - 2)
    assert seen.pixelColor(corner).name() == "#ffffff"
    assert seen.pixelColor(QPoint(6, 60)).name() == ink.colour
    QTest.mouseClick(ink, LEFT, NONE, QPoint(20, 60))
    assert view.stage.backdrop == ink.colour
    assert [c.is_chosen for c in view.file.cards] == [False, True, False]
    QTest.keyClick(view.file.cards[0], Qt.Key.Key_Return)
    assert view.bar.swatches[1].isChecked()
    QTest.keyClick(view.file.cards[0], Qt.Key.Key_Return)
    assert view.stage.backdrop is None


def test_the_edge_is_that_of_the_file_where_the_glass_lies(desk: Desk) -> None:
    desk.choose("nothing", "jpeg")
    view, stage = desk.view, desk.view.stage
    hover(stage, stage.picture_box().center())
    edge = view.file.edge
    middle = edge.grab().toImage().pixelColor(edge.rect().center())
    height, width = stage.answer.file.shape[:2]
    u, v = stage.glass_share
    assert middle.getRgb()[:3] == tuple(int(c) for c in stage.answer.file[int(v * height), int(u * width), :3])
    hover(stage, stage.picture_box().topLeft() + QPointF(3, 3))
    assert edge.grab().toImage().pixelColor(edge.rect().center()).name() == "#ffffff"


def test_an_answer_for_other_rows_is_dropped(desk: Desk) -> None:
    view = desk.view
    late = view._facts
    view.list.again.click()
    assert len(desk.outputs) == 2
    assert view.chosen_ids == ("o2",)
    view._on_answered("rows", late)
    assert view.list.rows.count() == 2
    desk.wait()
    assert [f.output for f in view._facts] == list(desk.outputs)


def test_a_video_pack_is_added_and_written(desk: Desk) -> None:
    view = desk.view
    view.list.video.menu().actions()[0].trigger()
    desk.wait()
    assert [o.stage for o in desk.outputs] == ["corner", "alone", "behind"]
    assert view.stage.answer.size == (1920, 1080)
    desk.write()
    assert "3 files written and read back" in desk.said
    assert sorted(p.name for p in view.folder.iterdir()) == [
        "blue-plate-alone.png",
        "blue-plate-behind.png",
        "blue-plate-corner.png",
    ]


def test_what_is_there_is_asked_about(desk: Desk) -> None:
    (desk.view.folder / "blue-plate.png").write_bytes(b"mine")

    def answer(text: str) -> None:
        def press() -> None:
            box = QApplication.activeModalWidget()
            assert isinstance(box, QMessageBox)
            next(b for b in box.buttons() if b.text() == text).click()

        QTimer.singleShot(200, press)
        desk.write()

    answer("Cancel")
    assert (desk.view.folder / "blue-plate.png").read_bytes() == b"mine"
    answer("Skip")
    assert desk.said == "1 skipped"
    answer("Replace")
    assert (desk.view.folder / "blue-plate.png").read_bytes() != b"mine"


def test_what_goes_wrong_is_said(desk: Desk) -> None:
    view = desk.view
    desk.type(view.picture.name, "{nothing}")
    assert "stands for nothing" in view.list.rows.item(0).toolTip()
    assert not view.list.write.isEnabled()
    desk.type(view.picture.name, "{name}")
    assert view.list.write.isEnabled()
    assert not finished(view.write_to(view.folder / "gone"))
    assert "no such file or folder" in desk.said
    desk.hand.key(Qt.Key.Key_Escape)
    QTest.keyClick(desk.hand.studio.shell, Qt.Key.Key_Escape)
    assert not desk.hand.studio.workbench.is_exporting


def glass_pixel(stage: CompareStage, at: QPointF) -> QColor:
    image = stage.grab().toImage()
    return image.pixelColor((at * image.devicePixelRatio()).toPoint())


def hover(stage: CompareStage, at: QPointF) -> None:
    """Move the pointer; where it is already nothing would be told."""
    for place in (at.toPoint() + QPoint(3, 0), at.toPoint()):
        QTest.mouseMove(stage, place)


def test_the_glass_follows_the_pointer_and_is_set_down_and_lifted(desk: Desk) -> None:
    desk.choose("nothing", "jpeg")
    stage = desk.view.stage
    desk.view.bar.swatches[2].click()
    box = stage.picture_box()
    corner = box.topLeft() + QPointF(6, 6)
    # Before the pointer comes the glass waits on the rim, and the clear corner is the bench's.
    assert glass_pixel(stage, corner).name() == stage.backdrop
    assert (stage.loose - stage.rect().center()).x() > 40
    hover(stage, corner)
    assert glass_pixel(stage, corner).name() == "#ffffff"
    QTest.mouseClick(stage, LEFT, NONE, corner.toPoint())
    assert len(stage.set_down) == 1
    hover(stage, box.center())
    assert glass_pixel(stage, corner).name() == "#ffffff"
    QTest.mouseClick(stage, LEFT, NONE, corner.toPoint())
    assert stage.set_down == ()
    for place in (box.topLeft(), box.bottomRight(), box.center()):
        QTest.mouseClick(stage, LEFT, NONE, place.toPoint())
    # The first of three was lifted.
    places = [(g.u, g.v) for g in stage.set_down]
    assert places == [pytest.approx((1, 1), abs=0.01), pytest.approx((0.5, 0.5), abs=0.01)]


def test_a_glass_that_lies_is_dragged(desk: Desk) -> None:
    stage = desk.view.stage
    box = stage.picture_box()
    start, end = box.center().toPoint(), (box.center() + QPointF(40, 10)).toPoint()
    QTest.mouseClick(stage, LEFT, NONE, start)
    QTest.mousePress(stage, LEFT, NONE, start)
    for share in (0.5, 1.0):
        QTest.mouseMove(stage, start + (end - start) * share)
    QTest.mouseRelease(stage, LEFT, NONE, end)
    (glass,) = stage.set_down
    assert glass.u * box.width() == pytest.approx(end.x() - box.x(), abs=1.5)


def test_keys_move_the_glass_set_it_down_and_lift_it(desk: Desk) -> None:
    stage = desk.view.stage
    start = QPointF(stage.loose)
    QTest.keyClick(stage, Qt.Key.Key_Left)
    QTest.keyClick(stage, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert stage.loose == start + QPointF(-8, -40)
    QTest.keyClick(stage, Qt.Key.Key_Return)
    assert len(stage.set_down) == 1
    assert "1 set down" in stage.accessibleDescription()
    QTest.keyClick(stage, Qt.Key.Key_Delete)
    assert stage.set_down == ()


def test_another_job_has_nothing_of_what_was_looked_at(desk: Desk, photo: Path) -> None:
    stage = desk.view.stage
    stage.put_down()
    desk.view.bar.file.click()
    desk.hand.do("export")
    desk.hand.do("export")
    desk.wait()
    # In the same job all stays as it was.
    assert (len(stage.set_down), stage.filling) == (1, "file")
    desk.hand.do("export")
    desk.hand.session.mark_saved(Path("kept.glasscap"), desk.hand.session.committed)
    desk.hand.do("new")
    desk.hand.drop(photo)
    desk.hand.do("export")
    assert (stage.set_down, stage.filling, stage.answer) == ((), "bench", None)
    desk.wait()


def test_eight_times_and_px_for_px(desk: Desk) -> None:
    stage, bar = desk.view.stage, desk.view.bar
    bar.glasses.buttons["8"].click()
    assert stage.glass_zoom == 8
    stage.set_look("whole")
    # The glass waits on the rim: clear and full pixels both lie there.
    alpha, box = stage.answer.bench[..., 3], stage.picture_box()
    at = (stage.loose - box.topLeft()) / stage.zoom
    near = alpha[round(at.y()) - 6 : round(at.y()) + 7, round(at.x()) - 6 : round(at.x()) + 7]
    assert (near.min(), near.max()) == (0, 255)
    # A pixel of the file is a square of eight in the glass.
    hover(stage, box.center())
    image = stage.grab().toImage()
    middle = stage.loose * image.devicePixelRatio()
    row = [image.pixelColor(round(middle.x()) + n, round(middle.y())).rgba() for n in range(-40, 40)]
    turns = [n for n in range(1, 80) if row[n] != row[n - 1]]
    assert len(turns) > 1, turns
    assert all((b - a) % 8 == 0 for a, b in pairwise(turns)), (turns, middle, box)


def test_the_whole_file_while_f_is_held_and_the_difference(desk: Desk) -> None:
    desk.choose("nothing", "jpeg")
    stage, bar = desk.view.stage, desk.view.bar
    bar.swatches[2].click()
    corner = stage.picture_box().topLeft() + QPointF(6, 6)
    QTest.keyPress(stage, Qt.Key.Key_F)
    assert bar.file.isChecked()
    assert glass_pixel(stage, corner).name() == "#ffffff"
    QTest.keyRelease(stage, Qt.Key.Key_F)
    assert not bar.file.isChecked()
    assert glass_pixel(stage, corner).name() == stage.backdrop
    bar.difference.click()
    assert glass_pixel(stage, corner).red() > 150
    # F ends where it began, also when its release never comes.
    QTest.keyPress(stage, Qt.Key.Key_F)
    assert stage.filling == "file"
    QTest.keyRelease(stage, Qt.Key.Key_F)
    assert stage.filling == "difference"
    QTest.keyPress(stage, Qt.Key.Key_F)
    desk.view.list.rows.setFocus()
    assert stage.filling == "difference"
    bar.difference.click()
    assert stage.filling == "bench"


def test_a_row_that_changes_lets_go_of_the_glass(desk: Desk) -> None:
    stage = desk.view.stage
    start = stage.picture_box().center().toPoint()
    QTest.mouseClick(stage, LEFT, NONE, start)
    QTest.mousePress(stage, LEFT, NONE, start)
    desk.view.list.again.click()
    desk.wait()
    QTest.mouseMove(stage, start + QPoint(30, 0))
    QTest.mouseMove(stage, start + QPoint(60, 0))
    QTest.mouseRelease(stage, LEFT, NONE, start + QPoint(60, 0))
    assert stage.set_down == ()


def test_a_large_picture_is_panned(desk: Desk) -> None:
    desk.type(desk.view.picture.scale, "6")
    desk.wait()
    stage = desk.view.stage
    desk.view.bar.looks.buttons["whole"].click()
    before = stage.picture_box().topLeft()
    start = stage.rect().center()
    QTest.mousePress(stage, LEFT, NONE, start)
    QTest.mouseMove(stage, start + QPoint(20, 10))
    QTest.mouseMove(stage, start + QPoint(40, 20))
    QTest.mouseRelease(stage, LEFT, NONE, start + QPoint(40, 20))
    assert stage.picture_box().topLeft() == before + QPointF(40, 20)
    assert stage.set_down == ()


def test_any_background_of_the_proofs_may_lie_beneath(desk: Desk) -> None:
    gradient = GradientPaint((Stop(0, "#000000"), Stop(1, "#ffffff")), angle=90)
    desk.hand.session.apply("Background", lambda j: add_background(j, gradient))
    desk.wait()
    desk.view.bar.swatches[-1].click()
    desk.wait()
    stage = desk.view.stage
    assert stage.backdrop == gradient
    image, box = stage.grab().toImage(), stage.picture_box()
    top, foot = (
        image.pixelColor(round(box.x() + 3), round(y)).lightness() for y in (box.y() + 3, box.bottom() - 3)
    )
    assert top < 20
    assert foot > 235
    desk.hand.session.undo()
    desk.wait()
    assert stage.backdrop is None


def test_every_button_has_room_for_its_words(placed: Hand) -> None:
    placed.do("export")
    placed.settle()
    view = placed.studio.workbench.export
    buttons = [*view.bar.looks.buttons.values(), view.list.add_cutout, view.list.add_sheet, view.list.write]
    for button in buttons:
        assert button.width() >= button.minimumSizeHint().width(), button.text()
        assert button.width() >= button.sizeHint().width(), button.text()
    for width in (1280, 1024):
        placed.studio.shell.resize(width, 760)
        placed.settle()
        assert abs(view.bar.geometry().center().x() - view.stage.rect().center().x()) <= 1
        assert view.bar.x() >= 0
        assert view.bar.geometry().right() <= view.stage.width()
    inner = view.picture.parentWidget()
    assert inner.width() <= inner.parentWidget().width()


def test_the_bench_is_shown_while_its_file_is_made(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    may_end, made = Event(), comparing.compare
    monkeypatch.setattr(export_view, "compare", lambda *asked: may_end.wait(20) and made(*asked))
    view, stage = desk.view, desk.view.stage
    view.list.again.click()
    desk.hand.settle(lambda: stage.is_waiting and stage.early is not None)
    assert stage.answer is None
    assert view.facts.title.text() == "Making the file…"
    shot = stage.grab().toImage()
    assert shot.pixelColor(shot.rect().center()).name() != colours().surround
    may_end.set()
    desk.wait()
    assert stage.answer is not None
    assert stage.early is None


def test_a_sheet_that_is_listed_is_offered_among_the_others(desk: Desk) -> None:
    view = desk.view
    view.list.add_sheet.click()
    desk.wait()
    count = len(desk.outputs)
    view.list.add_sheet.click()
    menu = next(m for m in view.findChildren(QMenu) if m.isVisible())
    assert [a.text() for a in menu.actions()] == ["Sheet 1"]
    assert len(desk.outputs) == count
    menu.actions()[0].trigger()
    desk.wait()
    assert len(desk.outputs) == count + 1
    menu.close()
