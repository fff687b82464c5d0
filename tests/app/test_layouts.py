"""Nested layouts are settled at once."""

from PySide6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from glasscap.app.widgets.layouts import settle_layouts


def test_a_row_that_comes_deep_within_is_laid_out_without_a_turn_of_the_event_loop(qtbot: QtBot) -> None:
    inner = QWidget()
    late = QLabel("one\ntwo\nthree")
    late.hide()
    holder = inner
    for level in range(6):
        column = QVBoxLayout(holder)
        if level == 5:
            column.addWidget(late)
            break
        below = QWidget()
        column.addWidget(below)
        holder = below
    area = QScrollArea(widgetResizable=True)
    area.setWidget(inner)
    qtbot.addWidget(area)
    area.resize(200, 20)
    area.show()
    qtbot.waitExposed(area)
    qtbot.wait(50)
    before = inner.height()
    late.show()
    settle_layouts()
    settled = inner.height()
    assert settled >= before + late.sizeHint().height()
    qtbot.wait(50)
    assert inner.height() == settled
