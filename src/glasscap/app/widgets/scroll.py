"""A scroll area without a frame or a place in the tab order; what is in it has both."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QWidget


def scrolled(inner: QWidget, *, is_upright: bool) -> QScrollArea:
    """Return a scroll area that scrolls up and down, or left and right."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    off = Qt.ScrollBarPolicy.ScrollBarAlwaysOff
    if is_upright:
        area.setHorizontalScrollBarPolicy(off)
    else:
        area.setVerticalScrollBarPolicy(off)
    area.setWidget(inner)
    return area
