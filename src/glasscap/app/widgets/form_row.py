"""A row of a form: its name, then its widgets."""

from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.widgets.labels import label
from glasscap.app.widgets.slider_row import LABEL_WIDTH


def form_row(name: str, *widgets: QWidget, fills: bool = False) -> QWidget:
    """Return widgets behind a name as wide as every other row's; the last may fill what is left."""
    made = QWidget()
    row = QHBoxLayout(made)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(6)
    words = label(name, "muted")
    words.setFixedWidth(LABEL_WIDTH)
    row.addWidget(words)
    for widget in widgets:
        row.addWidget(widget, 1 if fills and widget is widgets[-1] else 0)
    if not fills:
        row.addStretch(1)
    return made
