"""Pictures out by hand: the clipboard, and files dragged into other programs."""

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QMetaType, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDrag, QGuiApplication, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

import glasscap
from glasscap.app.commands.mimes import FILES_MIME, ITEM_MIME, PNG_MIME, SVG_MIME, takes_photos
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.work.ticket import Ticket
from tests.app.conftest import Hand
from tests.samples import png_photo, read_pixels

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def clipboard() -> dict[str, bytes]:
    mime = QGuiApplication.clipboard().mimeData()
    return {kind: bytes(mime.data(kind).data()) for kind in (PNG_MIME, SVG_MIME)}


def test_the_picture_is_copied_with_its_alpha_and_as_svg(placed: Hand) -> None:
    placed.do("copy_picture")
    found = clipboard()
    whole = glasscap.cut(png_photo(400, 300))
    with Image.open(io.BytesIO(found[PNG_MIME])) as image:
        assert np.array_equal(np.asarray(image), whole.array)
    drawn = draw_artwork(found[SVG_MIME], "x.svg").rgba
    assert drawn.shape == whole.array.shape
    assert (np.abs(drawn.astype(int) - whole.array).max(axis=2) <= 2).mean() > 0.98


def test_the_sheet_is_copied_whole(placed: Hand) -> None:
    placed.do("copy_sheet")
    with Image.open(io.BytesIO(clipboard()[PNG_MIME])) as image:
        assert image.size == (400, 300)
    placed.session.select(())
    placed.do("copy_picture")
    assert "Select a cutout" in placed.studio.toast.text.text()


@pytest.fixture
def drags(monkeypatch: pytest.MonkeyPatch) -> list:
    found: list = []
    monkeypatch.setattr(QDrag, "exec", lambda self, *a: found.append((self.mimeData(), a[0])))
    return found


def pull(widget, start: QPoint) -> None:
    QTest.mousePress(widget, LEFT, NONE, start)
    where = QPointF(start + QPoint(30, 4))
    event = QMouseEvent(QMouseEvent.Type.MouseMove, where, widget.mapToGlobal(where), LEFT, LEFT, NONE)
    QApplication.sendEvent(widget, event)


def file_of(mime) -> Path:
    (url,) = mime.urls() or [QUrl(bytes(mime.data(FILES_MIME).data()).decode().strip())]
    return Path(url.toLocalFile())


def test_a_tray_card_is_a_file_elsewhere_and_an_item_here(placed: Hand, drags: list) -> None:
    card = placed.studio.workbench.tray.cards[placed.item().id]
    pull(card, QPoint(30, 40))
    ((mime, actions),) = drags
    assert mime.hasFormat(ITEM_MIME)
    assert actions & Qt.DropAction.CopyAction
    # It never comes back as a photo.
    assert not takes_photos(mime)
    path = file_of(mime)
    assert path.name == "blue-plate.png"
    assert np.array_equal(read_pixels(path), glasscap.cut(png_photo(400, 300)).array)


@pytest.mark.parametrize("done", [Qt.DropAction.IgnoreAction, Qt.DropAction.CopyAction])
def test_a_file_nobody_took_is_not_made(
    placed: Hand, monkeypatch: pytest.MonkeyPatch, done: Qt.DropAction
) -> None:
    stopped: list[bool] = []

    def let_go(drag: QDrag, actions: Qt.DropAction) -> Qt.DropAction:
        mime = drag.mimeData()
        monkeypatch.setattr(type(mime), "give_up", lambda self: stopped.append(True))
        return done

    monkeypatch.setattr(QDrag, "exec", let_go)
    pull(placed.studio.workbench.tray.cards[placed.item().id], QPoint(30, 40))
    assert stopped == [True] * (done == Qt.DropAction.IgnoreAction)


def test_a_file_given_up_is_never_written(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    def report(ticket: Ticket, share: float) -> None:
        ticket.stop.wait(10)
        ticket.check()

    monkeypatch.setattr(Ticket, "report", report)
    mime = placed.studio.hand.mime(placed.item().id)
    mime.give_up()
    assert mime.retrieveData(FILES_MIME, QMetaType(QMetaType.Type.QByteArray)) is None


def test_a_proof_is_a_file_on_its_background(placed: Hand, drags: list) -> None:
    proof = placed.studio.workbench.proof
    before = placed.session.backdrop
    pull(proof.ink, QPoint(30, 40))
    QTest.mouseRelease(proof.ink, LEFT, NONE, QPoint(60, 44))
    ((mime, _),) = drags
    pixels = read_pixels(file_of(mime))
    assert pixels[0, 0].tolist() == [0x22, 0x26, 0x2A, 255]
    assert placed.session.backdrop == before


def test_a_proof_of_the_export_is_the_file_of_its_row(placed: Hand, drags: list) -> None:
    placed.do("export")
    view = placed.studio.workbench.export
    view.format.formats["transparency"].buttons["webp"].click()
    placed.settle(lambda: placed.studio.service.is_idle and not view.stage.is_waiting)
    pull(view.file.cards[0], QPoint(20, 60))
    ((mime, _),) = drags
    path = file_of(mime)
    assert path.name == "blue-plate.webp"
    assert path.stat().st_size == view.stage.answer.nbytes
    with Image.open(path) as image:
        assert image.format == "WEBP"
    placed.do("export")


def test_a_shape_without_a_photo_is_dragged_within_the_tray_alone(hand: Hand, drags: list) -> None:
    hand.studio._on_start_from_shape()
    hand.drag((200, 200), (500, 500))
    hand.settle()
    card = hand.studio.workbench.tray.cards[hand.item().id]
    pull(card, QPoint(30, 40))
    ((mime, _),) = drags
    assert mime.formats() == [ITEM_MIME]
