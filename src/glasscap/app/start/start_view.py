"""The start view: drop photographs, open, paste, start from a shape, try the demo."""

from PySide6.QtCore import QMimeData, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDropEvent,
    QIcon,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PySide6.QtWidgets import QFrame, QGraphicsDropShadowEffect, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from glasscap.app.commands.mimes import take_copy, takes_photos
from glasscap.app.start.kept_list import KeptList
from glasscap.app.theme.shipped import DATA
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.days import day_of
from glasscap.app.widgets.labels import label
from glasscap.files.recent import job_picture, recent_jobs

_CARD, _LEFT, _RADIUS = (830, 420), 464, 14
# A recent job's picture, logical px.
_RECENT = QSize(42, 28)


class _Sample(QWidget):
    """The right half: a finished cutout on the checkerboard."""

    def __init__(self) -> None:
        super().__init__()
        self._picture = QPixmap()
        source = DATA / "start.png"
        if source.is_file():
            self._picture.loadFromData(source.read_bytes())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint checkerboard, tear line, picture."""
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = QRectF(self.rect())
        rounded, square = QPainterPath(), QPainterPath()
        rounded.addRoundedRect(box, _RADIUS, _RADIUS)
        square.addRect(box.adjusted(0, 0, -_RADIUS, 0))
        painter.setClipPath(rounded | square)
        painter.fillRect(box, checkerboard())
        pen = QPen(QColor(colours().muted), 1.5)
        pen.setDashPattern([5, 4])
        painter.setPen(pen)
        painter.drawLine(1, 0, 1, self.height())
        side = min(self.width(), self.height()) - 120
        target = QRectF((self.width() - side) / 2, (self.height() - side) / 2, side, side)
        painter.drawPixmap(target, self._picture, QRectF(self._picture.rect()))
        painter.end()


def _framed(picture: QPixmap) -> QPixmap:
    """Return a job's picture in the middle of a card of the rows' size, twice as fine as it is shown."""
    size = _RECENT * 2
    out = QPixmap(size)
    out.fill(Qt.GlobalColor.transparent)
    shown = picture.size().scaled(size, Qt.AspectRatioMode.KeepAspectRatio)
    box = QRectF(0, 0, shown.width(), shown.height())
    box.moveCenter(QRectF(out.rect()).center())
    painter = QPainter(out)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.fillRect(box, checkerboard(0.5))
    painter.drawPixmap(box, picture, QRectF(picture.rect()))
    painter.end()
    return out


class StartView(QWidget):
    """The first view; needs nothing of the core, so it is there at once.

    `asked(what)` tells of "open", "job", "paste", "shape" and "demo".
    """

    asked = Signal(str)
    recent_asked = Signal(str)
    recover_asked = Signal(object)
    said = Signal(str)
    dropped = Signal(QMimeData)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Start")
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self._card = QFrame()
        self._card.setObjectName("startcard")
        self._card.setMinimumSize(700, _CARD[1])
        self._card.setMaximumSize(*_CARD)
        shadow = QGraphicsDropShadowEffect(self)
        shadow.setBlurRadius(36)
        shadow.setOffset(0, 6)
        shadow.setColor(QColor(0, 0, 0, 60))
        self._card.setGraphicsEffect(shadow)
        self._title = label("Drop photographs here", "title")
        self._unseen: list[tuple[QPushButton, str]] = []
        self._pictures = QTimer(self, singleShot=True, interval=0)
        self._pictures.timeout.connect(self._show_pictures)
        self._recent = QVBoxLayout()
        self._recent.setSpacing(3)
        outer = QVBoxLayout(self)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(self._card, 100)
        row.addStretch(1)
        outer.addStretch(10)
        outer.addLayout(row)
        outer.addStretch(16)
        inner = QHBoxLayout(self._card)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(0)
        left = QWidget()
        left.setFixedWidth(_LEFT)
        self._fill_left(QVBoxLayout(left))
        inner.addWidget(left)
        inner.addWidget(_Sample(), 1)
        self.show_recent()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the grey around the card."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours().surround))
        painter.end()

    def _fill_left(self, column: QVBoxLayout) -> None:
        column.setContentsMargins(40, 38, 34, 30)
        column.setSpacing(9)
        column.addWidget(self._title)
        words = label(
            "Each one lands under the largest circle it can cover. Everything stays adjustable: "
            "the photo, the shape, the place.",
            "lead",
        )
        words.setWordWrap(True)
        column.addWidget(words)
        column.addSpacing(12)
        row = QHBoxLayout()
        row.setSpacing(8)
        self.open = push("Open photos…", lambda: self.asked.emit("open"), icon_name="image-plus", style="primary")
        self.paste = push("Paste", lambda: self.asked.emit("paste"), icon_name="clipboard")
        self.shape = push("Start from a shape", lambda: self.asked.emit("shape"), icon_name="circle-dashed")
        for button in (self.open, self.paste, self.shape):
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        column.addSpacing(14)
        self.kept = KeptList()
        self.kept.recover_asked.connect(self.recover_asked)
        self.kept.changed.connect(self.show_recent)
        self.kept.said.connect(self.said)
        column.addWidget(self.kept)
        self._recent_title = label("Recent jobs", "muted")
        column.addWidget(self._recent_title)
        column.addLayout(self._recent)
        self.demo = push("Try the demo job", lambda: self.asked.emit("demo"), style="link")
        column.addSpacing(4)
        column.addWidget(self.demo)
        column.addStretch(1)

    def show_recent(self) -> None:
        """List work left behind, and recent jobs."""
        self.kept.show_kept()
        while self._recent.count():
            entry = self._recent.takeAt(0)
            widget = None if entry is None else entry.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self._unseen.clear()
        jobs = recent_jobs()[: 4 if self.kept.isHidden() else 2]
        self._recent_title.setVisible(bool(jobs))
        for job in jobs:
            name = job.path.rsplit("/", 1)[-1].rsplit(".", 1)[0]
            made = push(f"{name}  ·  {day_of(job.opened_at)}", lambda path=job.path: self.recent_asked.emit(path))  # type: ignore[misc]
            made.setObjectName("link")
            made.setToolTip(job.path)
            made.setIconSize(_RECENT)
            self._recent.addWidget(made)
            self._unseen.append((made, job.path))
        self._pictures.start()

    def _show_pictures(self) -> None:
        """Put each recent job's picture before its name, one at a time: the window is there before."""
        if not self._unseen:
            return
        button, path = self._unseen.pop(0)
        picture = QPixmap()
        if picture.loadFromData(job_picture(path)):
            button.setIcon(QIcon(_framed(picture)))
        self._pictures.start()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files and picture data."""
        if takes_photos(event.mimeData()):
            self._title.setText("Let go to place them")
            take_copy(event)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        """Forget it."""
        self._title.setText("Drop photographs here")

    def dropEvent(self, event: QDropEvent) -> None:
        """Hand on what was dropped."""
        self._title.setText("Drop photographs here")
        take_copy(event)
        self.dropped.emit(event.mimeData())
