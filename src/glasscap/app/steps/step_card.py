"""One step: its number on the spine, a header with its value in words, a body that opens."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.theme.fonts import STRONG, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.labels import ElidedLabel, label

_SPINE_WIDTH = 30


class StepHeader(QWidget):
    """The line that is always seen; a click or Enter opens and closes the step."""

    clicked = Signal()

    def __init__(self, title: str) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(f"Step: {title}")
        self.setMinimumHeight(30)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(10)
        row.addWidget(label(title, "strong"))
        self.words = ElidedLabel("muted")
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.words, 1)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Open or close."""
        self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Open or close with Enter."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Show the keyboard focus."""
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(QColor(colours().teal), 1, Qt.PenStyle.DotLine))
            painter.drawRoundedRect(self.rect().adjusted(0, 0, -1, -1), 5, 5)
            painter.end()


class StepCard(QWidget):
    """A numbered step; `show_words` tells its value, `is_doing` whether it does anything yet.

    `number` None is a card beside the spine. The body may come later; `asked(is_open)` is what the user wants.
    """

    asked = Signal(bool)

    def __init__(self, number: int | None, title: str) -> None:
        super().__init__()
        self._number, self._is_doing, self.is_open = number, True, False
        self.body: QWidget | None = None
        self._card = QFrame()
        self._card.setObjectName("card")
        self.title = title
        self.header = StepHeader(title)
        self.header.clicked.connect(lambda: self.asked.emit(not self.is_open))
        self._column = QVBoxLayout(self._card)
        self._column.setContentsMargins(11, 2, 11, 2)
        self._column.setSpacing(0)
        self._column.addWidget(self.header)
        row = QHBoxLayout(self)
        row.setContentsMargins(_SPINE_WIDTH, 0, 0, 0)
        row.addWidget(self._card)

    @property
    def place(self) -> QWidget:
        """The parent of a body: a body made with it is styled once only."""
        return self._card

    def set_body(self, body: QWidget) -> None:
        """Take a body, open or not as the card is."""
        self.body = body
        body.setVisible(self.is_open)
        self._column.addWidget(body)

    def set_open(self, is_open: bool) -> None:
        """Open or close the body."""
        self.is_open = is_open
        if self.body is not None:
            self.body.setVisible(is_open)
        self.updateGeometry()

    def show_words(self, words: str, *, is_doing: bool = True) -> None:
        """Show the value in words."""
        self.header.words.set_whole(words)
        if is_doing != self._is_doing:
            self._is_doing = is_doing
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the number on the spine, hollow and grey while the step does nothing."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = colours()
        painter.setPen(QPen(QColor(chosen.line), 2))
        painter.drawLine(QPointF(11, 0), QPointF(11, self.height()))
        if self._number is None:
            painter.end()
            return
        colour = QColor(chosen.teal if self._is_doing else chosen.muted)
        circle = QRectF(1.5, 6.5, 20, 20)
        painter.setPen(QPen(colour, 1.6))
        painter.setBrush(QColor(chosen.card))
        painter.drawEllipse(circle)
        painter.setFont(font(11, STRONG))
        painter.drawText(circle, Qt.AlignmentFlag.AlignCenter, str(self._number))
        painter.end()
