"""While something is dragged the picture comes first: what follows it does so from a little behind, and once."""

import time
from collections.abc import Callable

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QObject, QPointF, Qt
from PySide6.QtTest import QTest

from glasscap.core.document.edits.items import update_item
from glasscap.core.document.finishing.edits import add_light, add_stroke, change_mount
from glasscap.core.document.model.finishes import Mount, Shadow, Stroke
from glasscap.core.document.model.job import Item
from tests.app.conftest import Hand, with_stroke

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


class Toggles(QObject):
    """Counts what is hidden, and what is laid out anew."""

    def __init__(self) -> None:
        super().__init__()
        self.hidden = 0

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        self.hidden += event.type() == QEvent.Type.Hide
        return False


def dragged(hand: Hand, change: Callable[[Item, int], Item], steps: int = 6) -> None:
    """Show steps of a drag in a panel, each for as long as panels take to follow."""
    session, key = hand.session, hand.session.selected[-1]
    for n in range(steps):
        session.preview(update_item(session.committed, key, lambda item, n=n: change(item, n)))
        QTest.qWait(60)


def with_width(item: Item, width: float) -> Item:
    finishes = item.finishes
    return replace(item, finishes=replace(finishes, strokes=(replace(finishes.strokes[0], width=width),)))


def test_a_panel_follows_a_drag_now_and_then_and_its_end_at_once(
    placed: Hand, steps, monkeypatch: pytest.MonkeyPatch
) -> None:
    with_stroke(placed, steps)
    body, shown = steps.strokes, []
    show = body.show_item
    monkeypatch.setattr(body, "show_item", lambda item, job: (shown.append(item), show(item, job)))
    session, key = placed.session, placed.session.selected[-1]
    begun = time.monotonic()
    for n in range(1, 31):
        session.preview(update_item(session.committed, key, lambda item, n=n: with_width(item, float(n))))
        QTest.qWait(4)
    took = time.monotonic() - begun
    # At most once in 40 ms, and the last few not left out for good.
    assert 1 <= len(shown) <= took / 0.04 + 1
    placed.settle(lambda: body.breadth.field.value == 30)
    session.apply("Widen", lambda job: update_item(job, key, lambda item: with_width(item, 33.0)))
    QTest.qWait(0)
    assert body.breadth.field.value == 33


@pytest.mark.parametrize("looks", ["stroke", "dashes", "shadow", "mount"])
def test_no_row_comes_and_goes_while_a_number_is_dragged(placed: Hand, steps, looks: str) -> None:
    session, key = placed.session, placed.session.selected[-1]
    dressed, step, change = {
        "stroke": (add_stroke, "strokes", lambda i, n: with_width(i, 5.0 + n)),
        "dashes": (
            lambda job, key: update_item(
                job,
                key,
                lambda i: replace(i, finishes=replace(i.finishes, strokes=(Stroke(4, dashes=(9, 5)),))),
            ),
            "strokes",
            lambda i, n: with_width(i, 5.0 + n),
        ),
        "shadow": (
            lambda job, key: add_light(job, key, "shadow"),
            "light",
            lambda i, n: replace(
                i, finishes=replace(i.finishes, lights=replace(i.finishes.lights, shadows=(Shadow(0, 4, n),)))
            ),
        ),
        "mount": (
            lambda job, key: change_mount(job, key, is_on=True),
            "mount",
            lambda i, n: replace(i, finishes=replace(i.finishes, mount=Mount(8.0 + n, 8, 8, 8))),
        ),
    }[looks]
    session.apply("Dress", lambda job: dressed(job, key))
    steps.open_only(step)
    placed.settle()
    dragged(placed, change, 2)
    toggles = Toggles()
    body = getattr(steps, step)
    watched = [body, *body.findChildren(QObject)]
    for part in watched:
        part.installEventFilter(toggles)
    dragged(placed, change)
    for part in watched:
        part.removeEventFilter(toggles)
    assert toggles.hidden == 0
    session.drop_preview()


def test_a_mark_of_the_strip_is_under_the_pointer_before_panels_follow(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    strip = steps.strokes.strip.strip
    mark = next(m for m in strip.marks if m.kind == "outer")
    start = strip.knob(mark).center()
    QTest.mousePress(strip, LEFT, NONE, start.toPoint())
    zoom = strip.zoom
    QTest.mouseMove(strip, (start + QPointF(round(6 * zoom), 0)).toPoint())
    moved = next(m for m in strip.marks if m.kind == "outer")
    assert moved.at == pytest.approx(mark.at + 6, abs=1.1)
    assert strip.zoom == zoom
    QTest.mouseRelease(strip, LEFT, NONE, (start + QPointF(round(6 * zoom), 0)).toPoint())


def test_the_bench_is_not_painted_for_what_is_dragged_elsewhere(
    placed: Hand, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, key, bench = placed.session, placed.session.selected[-1], placed.bench
    placed.settle()
    asked = []
    monkeypatch.setattr(bench, "update", lambda: asked.append(session.is_previewing))
    session.preview(update_item(session.committed, key, lambda item: replace(item, opacity=0.5)))
    assert asked == []
    # But with the picture, and at its end.
    placed.settle(lambda: bool(asked))
    asked.clear()
    session.drop_preview()
    placed.settle(lambda: bool(asked))
    assert not any(asked)


def test_lines_of_what_is_dragged_on_the_bench_come_with_its_pictures_or_soon(
    placed: Hand, monkeypatch: pytest.MonkeyPatch
) -> None:
    placed.session.set_grip("shape")
    bench, painted, pictures = placed.bench, [], []
    placed.studio.service.answered.connect(lambda channel, answer: pictures.append(channel == "bench"))
    monkeypatch.setattr(bench, "update", lambda: painted.append(time.monotonic()))
    placed.drag((200, 150), (210, 150), is_released=False)
    start, end = QPointF(placed.at(210, 150)), QPointF(placed.at(260, 170))
    pictures.clear()
    begun, steps = time.monotonic(), 0
    while steps < 100:
        steps += 1
        placed.move(start + (end - start) * (steps / 100), NONE)
        QTest.qWait(3)
    took = time.monotonic() - begun
    assert 2 <= sum(begun <= at < begun + took for at in painted) <= sum(pictures) + took / 0.05 + 2
    painted.clear()
    QTest.mouseRelease(bench, LEFT, NONE, placed.at(260, 170))
    placed.settle(lambda: bool(painted))


def test_a_drag_that_ends_as_it_was_seen_is_shown_by_all_that_waited_for_its_end(placed: Hand) -> None:
    session, key = placed.session, placed.session.selected[-1]
    seen = update_item(session.committed, key, lambda item: replace(item, opacity=0.5))
    session.preview(seen)
    # The very job that was seen: no other one is told of.
    session.apply("Change the opacity", lambda job: seen)
    tray, topbar = placed.studio.workbench.tray, placed.studio.topbar
    assert tray.cards[key].item is placed.item()
    # Its picture is asked for anew.
    placed.settle(lambda: tray._shown[key] is placed.item())
    assert topbar.undo.toolTip() == "Undo: Change the opacity"
