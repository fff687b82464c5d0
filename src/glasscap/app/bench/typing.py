"""Typing into letters on the bench: keys to changes of the entry, the caret over the letters."""

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QGuiApplication,
    QInputMethodEvent,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPainterPath,
    QPen,
)

from glasscap.app.bench.overlay import draw_line
from glasscap.app.bench.pills import draw_pill
from glasscap.app.commands.lettering import Lettering
from glasscap.app.theme.colours import LINE_TEAL
from glasscap.core.document.model.job import Item
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.outlines import own_to_frame
from glasscap.core.shapes.typesetting import Caret
from glasscap.editor.text_entry import Entry, Move

WORDS = "Type · arrows move the caret · Enter starts a line · Escape or a click beside ends"
# The caret reaches from below the baseline to the height of capitals, in type sizes.
_BELOW, _ABOVE = 0.2, 0.82
_MOVES: dict[Qt.Key, Move] = {
    Qt.Key.Key_Left: "left",
    Qt.Key.Key_Right: "right",
    Qt.Key.Key_Up: "up",
    Qt.Key.Key_Down: "down",
    Qt.Key.Key_Home: "home",
    Qt.Key.Key_End: "end",
}


def entry_after(entry: Entry, event: QKeyEvent) -> Entry | None:
    """Return the entry after a key, or None for a key that is not for typing."""
    key = Qt.Key(event.key())
    has_shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
    if event.matches(QKeySequence.StandardKey.SelectAll):
        return entry.all()
    if event.matches(QKeySequence.StandardKey.Paste):
        return entry.typed(QGuiApplication.clipboard().text().replace("\r\n", "\n"))
    if key in _MOVES:
        return entry.moved(_MOVES[key], keeps_anchor=has_shift)
    if key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
        return entry.deleted(is_forward=key == Qt.Key.Key_Delete)
    if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
        return entry.typed("\n")
    text = event.text()
    has_command = event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    return entry.typed(text) if text and text.isprintable() and not has_command else None


def entry_composed(entry: Entry, event: QInputMethodEvent) -> Entry:
    """Return the entry after characters composed of several keys, the same where none are finished."""
    text, length = event.commitString(), event.replacementLength()
    if length:
        start = min(max(entry.caret + event.replacementStart(), 0), len(entry.text))
        entry = Entry(entry.text, min(start + length, len(entry.text)), start)
    return entry.typed(text) if text or length else entry


def carets_on_sheet(item: Item, lettering: Lettering) -> list[tuple[QPointF, QPointF]]:
    """Return the foot and the head of the caret before every character, and after the last, in sheet px."""
    shape, placement = item.shape, item.shape_placement
    letters = lettering.letters
    if not isinstance(shape, LettersShape) or placement is None or letters is None or not letters.text.strip():
        return []
    made = lettering.made(letters)
    if made is None:
        return []
    to_sheet = placement.to_sheet.after(own_to_frame(shape, placement.width, placement.height))
    return [_ends(caret, to_sheet) for caret in made.carets]


def _ends(caret: Caret, to_sheet: Affine) -> tuple[QPointF, QPointF]:
    foot = to_sheet.apply(caret.x - caret.up_x * _BELOW, caret.y - caret.up_y * _BELOW)
    head = to_sheet.apply(caret.x + caret.up_x * _ABOVE, caret.y + caret.up_y * _ABOVE)
    return QPointF(*foot), QPointF(*head)


def caret_near(carets: list[tuple[QPointF, QPointF]], x: float, y: float) -> int:
    """Return the number of the caret nearest to a sheet point."""

    def far(number: int) -> float:
        middle = (carets[number][0] + carets[number][1]) / 2 - QPointF(x, y)
        return QPointF.dotProduct(middle, middle)

    return min(range(len(carets)), key=far) if carets else 0


def caret_box(carets: list[tuple[QPointF, QPointF]], entry: Entry, to_view: Affine) -> QRect:
    """Return the caret's box in the view, beside which candidates for composed characters are offered."""
    if not carets:
        return QRect()
    foot, head = (_viewed(p, to_view) for p in carets[min(entry.caret, len(carets) - 1)])
    return QRectF(foot, head).normalized().toAlignedRect().adjusted(0, 0, 1, 1)


def draw_caret(
    painter: QPainter,
    carets: list[tuple[QPointF, QPointF]],
    entry: Entry,
    to_view: Affine,
    composing: str = "",
) -> None:
    """Draw the caret, what is selected, and beneath it characters that are still being composed."""
    if not carets:
        return
    first, last = entry.selected
    for n in range(first, min(last, len(carets) - 1)):
        corners = [_viewed(p, to_view) for p in (*carets[n], *reversed(carets[n + 1]))]
        path = QPainterPath(corners[0])
        for corner in corners[1:]:
            path.lineTo(corner)
        painter.fillPath(path, QColor(11, 122, 117, 70))
    foot, head = (_viewed(p, to_view) for p in carets[min(entry.caret, len(carets) - 1)])
    line = QPainterPath(foot)
    line.lineTo(head)
    draw_line(painter, line, LINE_TEAL)
    painter.setPen(QPen(QColor(LINE_TEAL), 2))
    painter.drawLine(foot, head)
    if composing:
        draw_pill(painter, composing, foot.x(), max(foot.y(), head.y()) + 6, size_px=14)


def _viewed(point: QPointF, to_view: Affine) -> QPointF:
    return QPointF(*to_view.apply(point.x(), point.y()))
