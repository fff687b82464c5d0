"""The proof column: backgrounds of the designer's own, small sizes, the video's corner, avatars."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from glasscap.app.services.render_service import WEIGHT
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.backdrop import PhotoBackdrop
from glasscap.core.document.model.paint import ColourPaint, GradientPaint
from glasscap.core.document.outputs.proofs import add_background
from glasscap.core.formats.outgoing import encode_output
from glasscap.editor.comparing import default_output
from glasscap.editor.numbers import bytes_words
from tests.app.answers import answer
from tests.app.conftest import Hand, drag_on
from tests.samples import cache, png_photo


@pytest.fixture
def proof(placed: Hand):
    return placed.studio.workbench.proof


def rest(hand: Hand) -> None:
    hand.settle(lambda: hand.studio.service.is_idle)


def test_a_background_is_added_changed_shown_on_the_bench_and_removed(placed: Hand, proof) -> None:
    proof.add.click()
    popup = proof.popup
    popup.editor.well.stepped.emit("#4a6a5a")
    rest(placed)
    assert placed.session.job.proofs.backgrounds == (ColourPaint("#4a6a5a"),)
    popup.editor.kinds.buttons["gradient"].click()
    rest(placed)
    (gradient,) = placed.session.job.proofs.backgrounds
    assert isinstance(gradient, GradientPaint)
    popup.close()
    (card,) = proof.extra
    assert card.name == "Gradient"
    placed.click(card, QPoint(20, 60))
    rest(placed)
    assert placed.session.backdrop == gradient
    x, y = placed.bench.to_view.apply(4, 150)
    image = placed.bench.grab().toImage()
    shown = image.pixelColor(round(x), round(y))
    far = image.pixelColor(*(round(v) for v in placed.bench.to_view.apply(396, 150)))
    # The gradient runs across the sheet, and no checkerboard is left.
    assert shown.name() != far.name()
    placed.session.undo()
    rest(placed)
    assert placed.session.job.proofs.backgrounds == (ColourPaint("#4a6a5a"),)
    card.remove_asked.emit()
    rest(placed)
    assert proof.extra == []
    assert placed.session.job.proofs.backgrounds == ()


def test_a_picture_is_judged_on(placed: Hand, proof, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    other = tmp_path / "shelf.png"
    other.write_bytes(png_photo(120, 90, seed=8))
    answer(monkeypatch, "file_to_open", other)
    proof.add.click()
    proof.popup.picture.click()
    # The file is read in the background.
    placed.settle(lambda: bool(placed.session.job.proofs.backgrounds))
    rest(placed)
    (backdrop,) = placed.session.job.proofs.backgrounds
    assert isinstance(backdrop, PhotoBackdrop)
    assert placed.session.job.photos[-1].name == "shelf.png"
    assert proof.extra[0].name == "Picture"
    image = proof.extra[0].grab().toImage()
    assert len({image.pixel(x, 80) for x in range(10, 190, 9)}) > 8
    # A photo that only a proof shows stays listed when others go.
    placed.do("delete")
    assert any(p.name == "shelf.png" for p in placed.session.job.photos)


def test_the_jobs_colour_is_slid_and_typed_and_the_bench_goes_with_it(placed: Hand, proof) -> None:
    session = placed.session
    (was,) = session.job.proof_colours
    placed.click(proof.own, QPoint(20, 60))
    assert session.backdrop == was
    proof.pick.click()
    panel = proof.colour_panel
    seen = []
    session.view_changed.connect(lambda: seen.append((session.is_previewing, session.backdrop)))
    drag_on(panel.tracks["Light"], QPointF(20, 8), QPointF(60, 8))
    rest(placed)
    (slid,) = session.job.proof_colours
    assert session.backdrop == slid == proof.own.colour != was
    # Seen while the track was dragged, as well.
    assert any(is_previewing and shown not in (was, slid) for is_previewing, shown in seen)
    placed.type(panel.digits, "#102030")
    assert session.job.proof_colours == ("#102030",)
    # A colour that proofs are shown on lets nothing through.
    assert "Opacity" not in panel.tracks
    placed.type(panel.digits, "#10203080")
    assert panel.digits.property("wrong")
    assert session.job.proof_colours == ("#102030",)
    panel.close()
    rest(placed)
    assert proof.colour_panel is None
    session.undo()
    assert session.job.proof_colours == (slid,)
    session.undo()
    assert session.job.proof_colours == (was,)


def test_a_colour_panel_that_closes_under_a_drag_leaves_what_was_seen(placed: Hand, proof) -> None:
    session = placed.session
    (was,) = session.job.proof_colours
    proof.pick.click()
    panel = proof.colour_panel
    track = panel.tracks["Light"]
    QTest.mousePress(track, Qt.MouseButton.LeftButton, pos=QPoint(track.width() - 20, 8))
    assert session.is_previewing
    (seen,) = session.job.proof_colours
    panel.close()
    assert not session.is_previewing
    assert session.job.proof_colours == (seen,) != (was,)
    session.undo()
    assert session.job.proof_colours == (was,)


def test_sizes_are_typed(placed: Hand, proof) -> None:
    proof.sizes.setFocus()
    proof.sizes.selectAll()
    QTest.keyClicks(proof.sizes, "96 48,24, 16")
    QTest.keyClick(proof.sizes, Qt.Key.Key_Return)
    rest(placed)
    assert placed.session.job.proofs.sizes == (96, 48, 24, 16)
    assert [max(f.rgba.shape[:2]) for f in proof.small._frames] == [96, 48, 24, 16]
    for text, words in (("wide", "whole px"), ("4000", "use 8 to 200")):
        proof.sizes.selectAll()
        QTest.keyClicks(proof.sizes, text)
        QTest.keyClick(proof.sizes, Qt.Key.Key_Return)
        assert words in placed.studio.toast.text.text()
    assert placed.session.job.proofs.sizes == (96, 48, 24, 16)
    placed.session.undo()
    assert proof.sizes.text() == "128, 64, 32"


def test_the_video_corner_is_placed(placed: Hand, proof) -> None:
    rows = proof.video_rows
    rows.corner.buttons["top left"].click()
    rows.height_row.stepped.emit(50.0)
    rows.margin.stepped.emit(10.0)
    rows.has_caption.click()
    rest(placed)
    video = placed.session.job.proofs.video
    assert (video.corner, video.height, video.margin, video.has_caption) == ("top left", 0.5, 0.1, False)
    frame = proof.video._frame
    assert frame.rgba.shape[0] == round(0.5 * proof.video.height())
    rows.is_moving.click()
    rest(placed)
    assert placed.session.job.proofs.video.is_moving
    placed.session.undo()
    rest(placed)
    assert not proof.video.is_drifting


def test_the_loupe_follows_the_pointer_over_the_bench(placed: Hand, proof) -> None:
    rest(placed)
    seen = []
    for place in ((60, 150), (340, 150)):
        QTest.mouseMove(placed.bench, placed.at(*place))
        placed.bench.pointed.emit(*map(float, place))
        placed.settle(lambda: placed.studio.service.is_idle and not proof._look_soon.isActive())
        seen.append(proof.loupe._frame.rgba[5, :, 3])
    assert seen[0][-1] == 255
    assert seen[0][0] == 0
    assert seen[1][0] == 255
    assert seen[1][-1] == 0


def test_proofs_outlive_a_change_of_the_desktops_colours(
    placed: Hand, proof, monkeypatch: pytest.MonkeyPatch
) -> None:
    placed.session.apply("Background", lambda job: add_background(job, ColourPaint("#335577")))
    rest(placed)
    placed.studio._on_scheme_changed()
    rest(placed)
    placed.session.undo()
    rest(placed)
    assert placed.studio.workbench.proof.extra == []
    placed.session.redo()
    rest(placed)
    assert len(placed.studio.workbench.proof.extra) == 1


def test_the_size_of_the_file_is_told_when_nothing_changes(placed: Hand, proof) -> None:
    placed.settle(proof.weight.isVisible)
    item, session = placed.item(), placed.session
    written = encode_output(session.job, default_output(session.job, item.id), session.store, cache())
    assert proof.weight.text() == bytes_words(len(written.data))
    session.apply("Fade", lambda job: update_item(job, item.id, lambda i: replace(i, opacity=0.5)))
    assert not proof.weight.isVisible()
    placed.settle(proof.weight.isVisible)
    session.select(())
    rest(placed)
    assert not proof.weight.isVisible()


def test_while_something_is_dragged_no_file_is_made(placed: Hand, proof, monkeypatch: pytest.MonkeyPatch) -> None:
    placed.settle(proof.weight.isVisible)
    asked = []
    monkeypatch.setattr(placed.studio.service, "ask", lambda channel, work: asked.append(channel))
    item, session = placed.item(), placed.session
    session.preview(update_item(session.committed, item.id, lambda i: replace(i, opacity=0.5)))
    proof.weight.begin((300, 300))
    proof.weight._soon.timeout.emit()
    assert WEIGHT not in asked
    session.drop_preview()
    proof.weight.begin((300, 300))
    proof.weight._soon.timeout.emit()
    assert WEIGHT in asked


def test_with_nothing_selected_the_proofs_show_the_sheet(placed: Hand) -> None:
    proof = placed.studio.workbench.proof
    placed.session.select(())
    sheet = placed.session.sheet
    placed.settle(lambda: proof.exact_size.text() == f"{sheet.width} × {sheet.height} px")
    assert proof.white._frame is not None
    placed.bench.pointed.emit(200.0, 150.0)
    placed.settle()
    assert proof.loupe._frame is not None
    placed.session.select(())
    placed.do("select_all")
    placed.do("delete")
    placed.settle()
    assert proof.exact_size.text() == ""
