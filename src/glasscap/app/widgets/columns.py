"""Columns of rows."""

from PySide6.QtWidgets import QVBoxLayout, QWidget


def row_column(widget: QWidget) -> QVBoxLayout:
    """Return the column that fills a widget with rows, at the distance rows have everywhere."""
    column = QVBoxLayout(widget)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(7)
    return column
