"""Work that was not saved when the program last ended: what it holds, recovered or discarded."""

from datetime import datetime
from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.services import asking
from glasscap.app.services.asking import Button
from glasscap.app.services.errands import Errand, run_errand
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.days import day_of
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.files.kept_work import KeptWork, discard, kept_works

_SHOWN, _THUMB = 2, QSize(66, 50)


class _Thumb(QWidget):
    def __init__(self, png: bytes) -> None:
        super().__init__()
        self.setFixedSize(_THUMB)
        self.picture = QPixmap()
        self.picture.loadFromData(png)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the picture on the checkerboard, fitted."""
        if self.picture.isNull():
            return
        size = self.picture.size().scaled(_THUMB, Qt.AspectRatioMode.KeepAspectRatio)
        box = QRectF(0, 0, size.width(), size.height())
        box.moveCenter(QRectF(self.rect()).center())
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(box, checkerboard())
        painter.drawPixmap(box, self.picture, QRectF(self.picture.rect()))
        painter.end()


class KeptList(QWidget):
    """A row for each, newest first; hidden when there is nothing. `changed()` after one was discarded."""

    recover_asked = Signal(object)
    changed = Signal()
    said = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Work that was not saved")
        self.rows: list[KeptRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 6)
        self._column.setSpacing(6)
        self._column.addWidget(label("Not saved when the program ended", "strong"))
        self.hide()

    def show_kept(self) -> None:
        """List what was left."""
        for row in self.rows:
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        works = kept_works()[:_SHOWN]
        self.rows = [KeptRow(work) for work in works]
        for row in self.rows:
            self._column.addWidget(row)
            row.recover.clicked.connect(partial(self.recover_asked.emit, row.work))
            row.discard.clicked.connect(partial(self._on_discard, row.work))
        self.setVisible(bool(works))

    def _on_discard(self, work: KeptWork) -> None:
        run_errand(self._discarding(work), self, self.said.emit)

    def _discarding(self, work: KeptWork) -> Errand[None]:
        words = f"Discard the unsaved work on {work.origin.name} for good? A saved job file stays as it is."
        buttons = Button.Discard | Button.Cancel
        if (yield from asking.question(self.window(), words, buttons, Button.Cancel)) == Button.Discard:
            discard(work)
            self.changed.emit()


class KeptRow(QWidget):
    """One piece of work: picture, name, time, what can be done."""

    def __init__(self, work: KeptWork) -> None:
        super().__init__()
        self.work = work
        name, at = ElidedLabel(), datetime.fromtimestamp(work.kept_at)
        name.set_whole(work.origin.name)
        words = QVBoxLayout()
        words.setSpacing(1)
        words.addStretch(1)
        words.addWidget(name)
        words.addWidget(label(f"{day_of(work.kept_at)}, {at:%H:%M}", "muted"))
        words.addStretch(1)
        self.thumb = _Thumb(work.preview())
        self.recover = push("Recover", lambda: None)
        self.discard = push("Discard…", lambda: None, style="link")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(10)
        row.addWidget(self.thumb)
        row.addLayout(words, 1)
        row.addWidget(self.recover)
        row.addWidget(self.discard)
