"""What the bench keeps from one repaint to the next is what it would paint anew."""

from collections.abc import Callable, Sequence

import numpy as np
import pytest
from PySide6.QtCore import QPointF, QRect, QRectF, QSize
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtWidgets import QApplication

from glasscap.app.bench import item_lines, overlay
from glasscap.app.bench.pills import Pills
from glasscap.app.theme.colours import LINE_TEAL
from glasscap.app.theme.style import set_surround
from glasscap.app.widgets.kept_layer import KeptLayer, KeptPictures
from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.edits.items import add_items
from glasscap.core.document.edits.sheets import set_bleed
from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Similarity
from glasscap.core.shapes.kinds import library_shape
from tests.app.conftest import Hand

Paint = Callable[[QPainter], None]


def shown(hand: Hand) -> np.ndarray:
    image = hand.bench.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    size = (image.height(), image.width(), 4)
    return np.frombuffer(image.constBits(), np.uint8).reshape(size).astype(int)


@pytest.fixture
def anew(monkeypatch: pytest.MonkeyPatch) -> Callable[[Hand], np.ndarray]:
    """Return what the bench paints with nothing kept."""

    def at_once(
        _: object, painter: QPainter, key: object, place: QRect | QSize, ratio: float, paint: Paint
    ) -> None:
        paint(painter)

    def all_at_once(
        _: object,
        painter: QPainter,
        key: object,
        place: QSize,
        ratio: float,
        parts: Sequence[Paint],
        seconds: float,
    ) -> bool:
        for part in parts:
            part(painter)
        return True

    def painted(hand: Hand) -> np.ndarray:
        with monkeypatch.context() as changed:
            changed.setattr(KeptLayer, "grow", all_at_once)
            changed.setattr(KeptLayer, "paint", at_once)
            changed.setattr(KeptPictures, "paint", at_once)
            return shown(hand)

    return painted


def wait_for_photos(hand: Hand, count: int) -> list[Cutout]:
    """Add shapes that have no photo."""
    shape = library_shape("circle")
    waiting = [
        Cutout(f"waits-{n}", f"Waits {n}", shape=shape, shape_placement=ShapePlacement(60 + 70 * n, 150, 60, 80))
        for n in range(count)
    ]
    hand.session.apply("Add shapes", lambda job: add_items(job, hand.session.container_id, waiting))
    hand.settle()
    return waiting


def test_lines_of_waiting_shapes(placed: Hand, anew: Callable[[Hand], np.ndarray]) -> None:
    waiting = wait_for_photos(placed, 4)
    placed.session.select(["waits-0"])
    placed.settle()
    before = shown(placed)
    assert np.abs(before - anew(placed)).max() <= 2
    placed.session.select(["waits-1"])
    placed.drag((130, 150), (130, 210))
    placed.session.select(["waits-0"])
    placed.settle()
    after = shown(placed)
    assert np.abs(after - anew(placed)).max() <= 2
    assert np.abs(after - before).max() > 100
    placed.do("zoom_in")
    placed.session.select([item.id for item in waiting])
    placed.settle()
    assert np.abs(shown(placed) - anew(placed)).max() <= 2
    placed.session.select([item.id for item in waiting[1:]])
    assert np.abs(shown(placed) - anew(placed)).max() <= 2


def open_a_group(hand: Hand) -> None:
    wait_for_photos(hand, 2)
    hand.session.select([hand.item(0).id, "waits-0"])
    hand.do("group")
    hand.do("enter")


CHANGES: dict[str, Callable[[Hand], object]] = {
    "selected": lambda hand: hand.session.select([]),
    "another grip": lambda hand: hand.session.set_grip("photo"),
    "moved": lambda hand: hand.drag((200, 150), (240, 170)),
    "zoomed": lambda hand: hand.do("zoom_in"),
    "as wire": lambda hand: hand.do("wire"),
    "a colour beneath": lambda hand: hand.session.set_backdrop("#a04020"),
    "nothing beneath": lambda hand: hand.session.set_backdrop(None),
    "bleed": lambda hand: hand.session.apply("Bleed", lambda job: set_bleed(job, job.sheets[0].id, 30)),
    "grey around": lambda hand: set_surround(20),
    "a group open": open_a_group,
}


@pytest.mark.parametrize("change", CHANGES.values(), ids=CHANGES)
def test_what_is_kept_changes_with_all_it_goes_by(
    placed: Hand, anew: Callable[[Hand], np.ndarray], change: Callable[[Hand], object]
) -> None:
    shown(placed)
    try:
        change(placed)
        # Once with the frame that is there, once with the one that follows.
        assert np.abs(shown(placed) - anew(placed)).max() <= 2
        placed.settle()
        assert np.abs(shown(placed) - anew(placed)).max() <= 2
    finally:
        set_surround(None)


def test_a_preview_that_becomes_a_step_as_it_is_rests_exactly(placed: Hand) -> None:
    moved = transform_items(placed.session.job, [placed.item().id], "photo", Similarity(dx=3, dy=1))
    placed.session.preview(moved)
    placed.settle()
    assert placed.bench._frame.request.is_moving
    placed.session.apply("Move the photo", lambda job: moved)
    placed.settle()
    assert not placed.bench._frame.request.is_moving


@pytest.mark.parametrize("ratio", [1.0, 2.0, 1.5])
def test_kept_pictures_are_what_is_painted_at_any_density(qapp: QApplication, ratio: float) -> None:
    kept, box = KeptPictures(1 << 20), QRect(7, 5, 31, 23)

    def paint(painter: QPainter) -> None:
        overlay.draw_line(painter, overlay.box_path(12.3, 9.1, 30.2, 21.7), LINE_TEAL)

    def drawn(by: Paint) -> np.ndarray:
        image = QImage(QSize(60, 40) * ratio, QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(ratio)
        image.fill(0xFF808080)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        by(painter)
        painter.end()
        return np.array(image.constBits()).astype(int)

    wanted = drawn(paint)
    for _ in range(2):
        found = drawn(lambda painter: kept.paint(painter, "line", box, ratio, paint))
        assert np.abs(found - wanted).max() <= 2


def test_words_of_a_waiting_shape_lie_in_it_or_beneath_it(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    said: list[float] = []
    monkeypatch.setattr(item_lines, "draw_pill", lambda painter, words, x, y, **more: said.append(y))

    def words_at(width: float) -> float:
        waiting = Cutout(
            f"w{width}",
            "Waits",
            shape=library_shape("square"),
            shape_placement=ShapePlacement(200, 100, width, 60, keeps_ratio=False),
        )
        placed.session.apply("Add a shape", lambda job: add_items(job, placed.session.container_id, [waiting]))
        said.clear()
        placed.bench.grab()
        placed.session.undo()
        return said[0]

    foot = placed.bench.to_view.apply(0, 130)[1]
    assert words_at(390) < foot
    assert words_at(20) > foot


def test_pills_do_not_hide_one_another(qapp: QApplication) -> None:
    image = QImage(400, 300, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    pills, at = Pills(painter), QPointF(200, 100)
    boxes = [
        pills.draw("240, 60", [at]),
        pills.draw_beside("112", at + QPointF(-50, 10), is_level=False, size_px=10),
        pills.draw_beside("187", at + QPointF(0, 6), is_level=True, size_px=10),
        pills.draw("12 px", [at, at + QPointF(0, 60)]),
    ]
    painter.end()
    assert not any(one.intersects(other) for n, one in enumerate(boxes) for other in boxes[:n])
    assert boxes[0].center().x() == pytest.approx(200)
    assert boxes[3].top() == 160


def test_a_pill_without_a_free_place_stays_at_its_first(qapp: QApplication) -> None:
    image = QImage(400, 300, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    pills = Pills(painter)
    first, second = (pills.draw("12 px", [QPointF(200, 100), QPointF(204, 104)]) for _ in range(2))
    painter.end()
    assert first == second != QRectF()


def test_a_layer_of_many_parts_grows_and_is_kept(qapp: QApplication) -> None:
    now, painted = [0.0], []
    layer, image = KeptLayer(clock=lambda: now[0]), QImage(60, 40, QImage.Format.Format_RGB32)

    def part(number: int) -> Paint:
        def paint(painter: QPainter) -> None:
            now[0] += 0.4
            painted.append(number)
            painter.fillRect(QRect(6 * number, 5, 5, 5), QColor(LINE_TEAL))

        return paint

    def shown(key: str, count: int = 5) -> bool:
        image.fill(0xFFFFFFFF)
        painter = QPainter(image)
        is_whole = layer.grow(painter, key, image.size(), 1.0, [part(n) for n in range(count)], 1.0)
        painter.end()
        return is_whole

    assert not shown("one")
    assert painted == [0, 1, 2]
    assert image.pixelColor(7, 7) != image.pixelColor(25, 7)
    assert shown("one")
    assert painted == [0, 1, 2, 3, 4]
    assert all(image.pixelColor(6 * n + 1, 7) == QColor(LINE_TEAL) for n in range(5))
    assert shown("one")
    assert len(painted) == 5
    assert not shown("another")
    assert painted[5:] == [0, 1, 2]
    assert shown("nothing", 0)


def test_of_many_that_are_dragged_only_the_frame_shows(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    waiting = wait_for_photos(placed, item_lines._MOST_MOVING + 1)
    ids = [item.id for item in waiting]
    placed.session.select(ids)
    placed.settle()
    before, drawn = shown(placed), []
    monkeypatch.setattr(
        item_lines.ItemLines, "_paint_one", lambda self, painter, item, look: drawn.append(item.id)
    )
    placed.session.preview(transform_items(placed.session.job, ids, "together", Similarity(dx=9)))
    shown(placed)
    assert drawn == []
    placed.session.drop_preview()
    placed.settle()
    assert np.abs(shown(placed) - before).max() <= 2
