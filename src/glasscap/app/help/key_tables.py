"""The keys of every command, and what the pointer does, as Markdown from the table of commands."""

from PySide6.QtGui import QKeySequence

from glasscap.editor.actions import ACTIONS, GESTURES

# Commands side by side in one row of a table.
_ACROSS = 2


def key_tables() -> str:
    """Return a table for each section of commands with keys, and one of gestures."""
    sections = dict.fromkeys(a.section for a in ACTIONS if a.shortcut)
    return "\n\n".join([*(_of_section(name) for name in sections), _of_gestures()])


def _of_section(section: str) -> str:
    cells = [(a.text, _native(a.shortcut)) for a in ACTIONS if a.shortcut and a.section == section]
    rows = -(-len(cells) // _ACROSS)
    lines = [f"## {section}", "", "| | | | |", "|---|---|---|---|"]
    for row in range(rows):
        beside = [cells[n] if n < len(cells) else ("", "") for n in (row, row + rows)]
        lines.append("| " + " | ".join(f"{words} | {keys}" for words, keys in beside) + " |")
    return "\n".join(lines)


def _of_gestures() -> str:
    lines = ["## By hand", "", "| | |", "|---|---|"]
    lines += [f"| {keys} | {what} |" for keys, what in GESTURES]
    return "\n".join(lines)


def _native(shortcut: str) -> str:
    return QKeySequence(shortcut).toString(QKeySequence.SequenceFormat.NativeText).replace("|", "\\|")
