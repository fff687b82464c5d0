"""Small drawings on buttons: where a stroke lies, how corners are joined, how dashes end."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPixmap

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice

_SIZE = QSize(30, 20)
_SCALES = (1, 2, 3)
_JOINS = {
    "mitre": Qt.PenJoinStyle.MiterJoin,
    "round": Qt.PenJoinStyle.RoundJoin,
    "bevel": Qt.PenJoinStyle.BevelJoin,
}
_CAPS = {
    "butt": Qt.PenCapStyle.FlatCap,
    "round": Qt.PenCapStyle.RoundCap,
    "square": Qt.PenCapStyle.SquareCap,
}


def _side(painter: QPainter, kind: str) -> None:
    """Draw the photo left of a dotted outline, and the stroke where it lies."""
    outline, width = 15.0, 7.0
    start = {"inside": outline - width, "centre": outline - width / 2, "outside": outline}[kind]
    photo = QColor(colours().teal)
    photo.setAlphaF(0.45)
    painter.fillRect(QRectF(2, 2, start - 2, 16), photo)
    painter.fillRect(QRectF(start, 2, width, 16), QColor(colours().ink))
    painter.setPen(QPen(QColor(colours().field), 1.4, Qt.PenStyle.DotLine))
    painter.drawLine(QPointF(outline, 2), QPointF(outline, 18))


def _join(painter: QPainter, kind: str) -> None:
    path = QPainterPath(QPointF(10, 19))
    path.lineTo(10, 7)
    path.lineTo(24, 7)
    painter.setPen(QPen(QColor(colours().ink), 7, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap, _JOINS[kind]))
    painter.drawPath(path)


def _cap(painter: QPainter, kind: str) -> None:
    painter.setPen(QPen(QColor(colours().ink), 7, Qt.PenStyle.SolidLine, _CAPS[kind]))
    painter.drawLine(QPointF(7, 10), QPointF(20, 10))
    painter.setPen(QPen(QColor(colours().field), 1.2))
    painter.drawLine(QPointF(7, 10), QPointF(20, 10))


def _icon(draw: Callable[[QPainter, str], None], kind: str) -> QIcon:
    made = QIcon()
    for scale in _SCALES:
        pixmap = QPixmap(_SIZE * scale)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(scale, scale)
        draw(painter, kind)
        painter.end()
        pixmap.setDevicePixelRatio(scale)
        made.addPixmap(pixmap)
    return made


_DRAWINGS = {"side": _side, "join": _join, "cap": _cap}


def picture_choice(
    drawing: str, name: str, choices: tuple[tuple[str, str], ...], on_choice: Callable[[str], object]
) -> Choice:
    """Return a choice whose buttons are drawings ("side", "join" or "cap"); words are tooltips."""
    made = Choice(name, choices, on_choice)
    for key, words in choices:
        button = made.buttons[key]
        button.setText("")
        button.setIcon(_icon(_DRAWINGS[drawing], key))
        button.setIconSize(_SIZE)
        button.setFixedWidth(44)
        button.setStyleSheet("padding: 0 4px;")
        button.setToolTip(words)
    return made
