"""Writing a picture: what goes out, how large, where to; checked before it is called written."""

from pathlib import Path

from PySide6.QtCore import QTimer, QUrl, Signal
from PySide6.QtGui import QColor, QDesktopServices, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QMessageBox,
    QVBoxLayout,
    QWidget,
)

from glasscap.app.background import run_waiting
from glasscap.app.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice, push
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.core.document.file_names import dashed_name
from glasscap.core.document.model import Job
from glasscap.core.document.query import find_sheet
from glasscap.core.errors import CancelledError, GlassCapError
from glasscap.core.formats.png import PngOptions
from glasscap.core.geometry.types import PixelBox
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.picture import render
from glasscap.core.render.plan import Crop
from glasscap.core.render.screen import Frame
from glasscap.core.ticket import Ticket
from glasscap.editor.outgoing import Outgoing, OutgoingPreview, outgoing_preview, plan_outgoing
from glasscap.files.pictures import WrittenPicture, write_picture

PANEL_WIDTH = 300
_NO_BREAK = "\N{NO-BREAK SPACE}"
_CACHE_BYTES = 64 << 20
_CROPS: tuple[tuple[Crop, str], ...] = (
    ("visible", "Everything visible"),
    ("shape", "The shape"),
    ("sheet", "The sheet"),
)


class _Stage(QWidget):
    """The picture that goes out, on the checkerboard."""

    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("The picture that goes out")
        self.setMinimumSize(300, 200)
        self.answer: OutgoingPreview | None = None

    def show_answer(self, answer: OutgoingPreview | None) -> None:
        """Show a preview."""
        self.answer = answer
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Ask for another size."""
        self.resized.emit()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the picture's box and what is in it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours().surround))
        answer = self.answer
        if answer is not None and not answer.box.is_empty:
            ratio = self.devicePixelRatioF()
            width, height = answer.box.width / ratio, answer.box.height / ratio
            x, y = round((self.width() - width) / 2), round((self.height() - height) / 2)
            painter.setBrushOrigin(x, y)
            painter.fillRect(x, y, round(width), round(height), checkerboard())
            if answer.frame is not None:
                self._paint_frame(painter, answer.frame, answer.box, (x, y))
        painter.end()

    def _paint_frame(self, painter: QPainter, frame: Frame, box: PixelBox, at: tuple[int, int]) -> None:
        ratio = self.devicePixelRatioF()
        painter.translate(*at)
        painter.scale(1 / ratio, 1 / ratio)
        painter.drawImage(frame.x - box.x0, frame.y - box.y0, to_image(frame))


class ExportView(QWidget):
    """One picture at a time: the selected cutout or the whole sheet."""

    said = Signal(str)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setAccessibleName("Export")
        self._session, self._service = session, service
        self.stage = _Stage()
        self.what = Choice("What goes out", [("cutout", "Cutout"), ("sheet", "Whole sheet")], self._on_what)
        self.scale = Choice("Scale", [("1", "1×"), ("2", "2×"), ("3", "3×")], self._on_scale)
        self.effort = Choice("File", [("fast", "Fast"), ("small", "Small")], self._on_effort)
        self.crop = QComboBox()
        self.crop.setAccessibleName("Crop to")
        for key, text in _CROPS:
            self.crop.addItem(text, key)
        self.subject, self.exact_size = ElidedLabel("strong"), label("", "strong")
        self.position = label("", "muted")
        self.folder_name = ElidedLabel("")
        self.set_folder(Path.home())
        self.name = QLineEdit()
        self.name.setAccessibleName("File name")
        self.write = push("Write PNG", self._on_write_clicked, style="primary")
        self.result = QFrame()
        self.result_text = label("")
        self.show_folder = push("Show in folder", self._on_show_folder_clicked, style="link")
        self._what, self._scale, self._effort = "cutout", 1, "fast"
        self._written: WrittenPicture | None = None
        self._lay_out()
        self._ask_soon = QTimer(self, singleShot=True, interval=0)
        self._ask_soon.timeout.connect(self._ask)
        self.crop.currentIndexChanged.connect(lambda: self._on_changed())
        self.stage.resized.connect(self._ask_soon.start)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._ask_soon.start)
        session.job_changed.connect(self._on_job_changed)

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.stage, 1)
        panel = QFrame()
        panel.setObjectName("proof")
        panel.setFixedWidth(PANEL_WIDTH)
        column = QVBoxLayout(panel)
        column.setContentsMargins(16, 12, 16, 16)
        column.setSpacing(7)
        for name, widget in (
            ("What goes out", self.what),
            ("", self.subject),
            ("Crop to", self.crop),
            ("Scale", self.scale),
            ("File", self.effort),
        ):
            if name:
                column.addSpacing(4)
                column.addWidget(label(name, "muted"))
            column.addWidget(widget)
        column.addSpacing(8)
        sizes = QHBoxLayout()
        sizes.addWidget(label("Picture", "muted"))
        sizes.addStretch(1)
        sizes.addWidget(self.exact_size)
        column.addLayout(sizes)
        column.addWidget(self.position)
        column.addStretch(1)
        self.result_text.setWordWrap(True)
        inner = QVBoxLayout(self.result)
        inner.setContentsMargins(10, 8, 10, 8)
        inner.setSpacing(2)
        inner.addWidget(self.result_text)
        inner.addWidget(self.show_folder)
        column.addWidget(self.result)
        column.addSpacing(8)
        folder = QHBoxLayout()
        folder.addWidget(label("Folder", "muted"))
        folder.addWidget(self.folder_name, 1)
        folder.addWidget(push("Change…", self._on_folder_clicked))
        column.addLayout(folder)
        column.addWidget(self.name)
        column.addWidget(self.write)
        row.addWidget(panel)

    # showing

    def begin(self) -> None:
        """Show what would go out now."""
        item = self._session.item
        has_item = item is not None and item.content is not None
        self.what.buttons["cutout"].setEnabled(has_item)
        if not has_item:
            self._what = "sheet"
        self._forget_result()
        self._show_choice()
        self._suggest_name()
        self._ask_soon.start()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self.isVisible():
            self.begin()

    def set_folder(self, folder: Path) -> None:
        """Write into another folder from now on."""
        self.folder = folder
        self.folder_name.set_whole(str(folder))

    def _show_choice(self) -> None:
        self.what.show_choice(self._what)
        self.scale.show_choice(str(self._scale))
        self.effort.show_choice(self._effort)
        item = self._session.item
        is_sheet = self._what == "sheet"
        self.subject.set_whole(self._session.sheet.name if is_sheet or item is None else item.name)
        shape = self.crop.findData("shape")
        self.crop.model().item(shape).setEnabled(not is_sheet)  # type: ignore[attr-defined]
        if is_sheet and self.crop.currentData() == "shape":
            self.crop.setCurrentIndex(self.crop.findData("sheet"))

    def _suggest_name(self) -> None:
        stem = dashed_name(self.subject.toolTip() or "picture")
        self.name.setText(f"{stem}{'' if self._scale == 1 else f'@{self._scale}x'}.png")

    @property
    def outgoing(self) -> Outgoing:
        """What is chosen."""
        session = self._session
        item = session.item if self._what == "cutout" else None
        return Outgoing(
            session.job,
            session.sheet_id,
            None if item is None else item.id,
            self.crop.currentData(),
            float(self._scale),
        )

    def _ask(self) -> None:
        if not self.isVisible():
            return
        outgoing, ratio = self.outgoing, self.devicePixelRatioF()
        room = (round((self.stage.width() - 60) * ratio), round((self.stage.height() - 60) * ratio))
        self._service.ask("export", lambda photos, cache: outgoing_preview(outgoing, room, photos, cache))

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel != "export" or not isinstance(answer, OutgoingPreview):
            return
        self.stage.show_answer(answer)
        width, height = answer.size
        self.exact_size.setText(f"{width} × {height} px" if width else "")
        self.write.setEnabled(not answer.problem)
        self.position.setText(answer.note)
        if answer.drafts:
            self._service.decode(answer.drafts)
        if answer.problem:
            self._show_result(answer.problem, is_good=False)

    # choosing

    def _on_what(self, what: str) -> None:
        self._what = what
        wanted = "sheet" if what == "sheet" else "visible"
        self.crop.setCurrentIndex(self.crop.findData(wanted))
        self._on_changed()

    def _on_scale(self, scale: str) -> None:
        self._scale = int(scale)
        self._on_changed()

    def _on_effort(self, effort: str) -> None:
        self._effort = effort
        self._on_changed()

    def _on_changed(self) -> None:
        self._forget_result()
        self._show_choice()
        self._suggest_name()
        self._ask_soon.start()

    def _on_folder_clicked(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self.window(), "Write pictures into", str(self.folder))
        if chosen:
            self.set_folder(Path(chosen))

    # writing

    def _on_write_clicked(self) -> None:
        name = self.name.text().strip()
        if name and not name.lower().endswith(".png"):
            name += ".png"
        if not name or "/" in name:
            self._show_result("A file name is needed, without slashes", is_good=False)
            return
        path = self.folder / name
        if path.exists() and not self._may_replace(path):
            return
        self.write_to(path)

    def _may_replace(self, path: Path) -> bool:
        answer = QMessageBox.question(
            self.window(),
            "Glass Cap",
            f"{path.name} is there already. Replace it?",
            QMessageBox.StandardButton.Yes | QMessageBox.StandardButton.Cancel,
        )
        return answer == QMessageBox.StandardButton.Yes

    def write_to(self, path: Path) -> bool:
        """Render, write, check; say so. Returns whether it was written."""
        outgoing, store = self.outgoing, self._session.store
        ppi = find_sheet(outgoing.job, outgoing.sheet_id).resolution_ppi * outgoing.scale
        options = PngOptions(is_small=self._effort == "small", pixels_per_inch=ppi)

        def work(ticket: Ticket) -> WrittenPicture:
            picture = render(plan_outgoing(outgoing), store, ValueCache(_CACHE_BYTES), ticket.check)
            return write_picture(path, picture, options, ticket.report)

        try:
            self._written = run_waiting(self.window(), f"Writing {path.name}", work)
        except CancelledError:
            self._show_result("Stopped; nothing was written", is_good=False)
            return False
        except GlassCapError as error:
            self._show_result(error.line, is_good=False)
            return False
        done = self._written
        size = f"{done.width} × {done.height} px".replace(" ", _NO_BREAK)
        words = f"{done.path.name} written and read back: {size}, {_bytes(done.nbytes)}"
        self._show_result(words, is_good=True)
        return True

    def _show_result(self, words: str, *, is_good: bool) -> None:
        self.result.setObjectName("done" if is_good else "verdict")
        self.result.style().unpolish(self.result)
        self.result.style().polish(self.result)
        self.result_text.setText(words)
        self.result.setAccessibleName(words)
        self.show_folder.setVisible(is_good)
        self.result.show()

    def _forget_result(self) -> None:
        self.result.hide()

    def _on_show_folder_clicked(self) -> None:
        if self._written is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._written.path.parent)))


def _bytes(count: int) -> str:
    return f"{count / 1e6:.1f} MB" if count >= 1_000_000 else f"{max(1, round(count / 1000))} KB"
