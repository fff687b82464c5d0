"""A field in which something wrong was typed looks it."""

from PySide6.QtWidgets import QWidget


def mark_wrong(field: QWidget, *, is_wrong: bool) -> None:
    """Let a field look wrong, or right again; styled anew only where that changes."""
    if bool(field.property("wrong")) != is_wrong:
        field.setProperty("wrong", is_wrong)
        field.style().unpolish(field)
        field.style().polish(field)
