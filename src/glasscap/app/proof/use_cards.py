"""Places where a small picture ends up: the corner of a video, a row of round avatars, another program's zoom."""

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QColor, QHideEvent, QLinearGradient, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.proof.proof_card import clipped_card, paint_name
from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.document.model.proofs import VideoCorner
from glasscap.core.render.screen.frames import Frame

_TICK_MS, _STEP = 40, 0.004
_CAPTION = "Mara Quill, potter"
_NAMES = ("Mara", "Kiln 7")


class UseCard(QWidget):
    """A card with rounded corners and a name; what is inside is painted by its kind."""

    def __init__(self, name: str, height: int) -> None:
        super().__init__()
        self.name = name
        self.setFixedHeight(height)
        self.setAccessibleName(f"Proof: {name}")

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint inside, name, border."""
        painter = QPainter(self)
        box, path = clipped_card(painter, self)
        self.paint_inside(painter, box)
        paint_name(painter, self.name)
        painter.setClipping(False)
        painter.setPen(QPen(QColor(colours().line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        painter.end()

    def paint_inside(self, painter: QPainter, box: QRectF) -> None:
        """Paint what the card shows; a card of no kind shows nothing."""

    def put(self, painter: QPainter, frame: Frame, x: float, y: float) -> None:
        """Draw a picture px for px with its upper left corner at a place."""
        ratio = self.devicePixelRatioF()
        height, width = frame.rgba.shape[:2]
        place = QPointF(round(x * ratio) / ratio, round(y * ratio) / ratio)
        painter.drawImage(QRectF(place.x(), place.y(), width / ratio, height / ratio), to_image(frame))


class VideoCard(UseCard):
    """A 16:9 frame with the picture in a corner; the scene may drift, as a video does."""

    def __init__(self, width: int) -> None:
        super().__init__("Video corner", round(width * 9 / 16))
        self._video, self._phase = VideoCorner(), 0.0
        self._frame: Frame | None = None
        self._timer = QTimer(self, interval=_TICK_MS)
        self._timer.timeout.connect(self._on_tick)

    @property
    def is_drifting(self) -> bool:
        """Whether the scene moves."""
        return self._timer.isActive()

    def show_video(self, video: VideoCorner, frame: Frame | None) -> None:
        """Show the picture in its corner."""
        self._video, self._frame = video, frame
        if video.is_moving and frame is not None and self.isVisible():
            self._timer.start()
        else:
            self._timer.stop()
        self.update()

    def hideEvent(self, event: QHideEvent) -> None:
        """Rest while it is not seen."""
        self._timer.stop()

    def _on_tick(self) -> None:
        self._phase = (self._phase + _STEP) % 1.0
        self.update()

    def paint_inside(self, painter: QPainter, box: QRectF) -> None:
        """Paint scene, caption, picture."""
        self._paint_scene(painter, box)
        video, frame = self._video, self._frame
        margin = video.margin * box.height()
        if frame is None:
            return
        ratio = self.devicePixelRatioF()
        height, width = (side / ratio for side in frame.rgba.shape[:2])
        is_left, is_top = video.corner.endswith("left"), video.corner.startswith("top")
        x = box.x() + margin if is_left else box.right() - margin - width
        y = box.y() + margin if is_top else box.bottom() - margin - height
        if video.has_caption:
            self._paint_caption(painter, box, x, y, width, height, is_left=is_left)
        self.put(painter, frame, x, y)

    def _paint_scene(self, painter: QPainter, box: QRectF) -> None:
        """Paint a dusk with hills that drift by."""
        sky = QLinearGradient(box.topLeft(), box.bottomLeft())
        for at, colour in ((0.0, "#31465c"), (0.55, "#b98a6a"), (1.0, "#e3c08d")):
            sky.setColorAt(at, QColor(colour))
        painter.fillRect(box, sky)
        painter.setPen(Qt.PenStyle.NoPen)
        width = box.width()
        for depth, colour in enumerate(("#6c5a52", "#4b463f", "#2d2f2c")):
            drift = (self._phase * (depth + 1)) % 1.0
            painter.setBrush(QColor(colour))
            for n in range(-1, 3):
                x = box.x() + (n + drift * 1.0) * width * 0.6
                hill = QRectF(x, box.bottom() - (34 - 9 * depth), width * 0.7, 60)
                painter.drawEllipse(hill)

    def _paint_caption(
        self, painter: QPainter, box: QRectF, x: float, y: float, width: float, height: float, *, is_left: bool
    ) -> None:
        bar = QRectF(0, 0, box.width() * 0.54, max(14.0, height * 0.5))
        middle = y + height / 2 - bar.height() / 2
        bar.moveTopLeft(QPointF(x + width + 6, middle) if is_left else QPointF(x - 6 - bar.width(), middle))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(251, 250, 247, 225))
        painter.drawRoundedRect(bar, 3, 3)
        painter.setPen(QColor("#22262a"))
        painter.setFont(font(max(8, min(11, round(bar.height() * 0.55))), MEDIUM))
        painter.drawText(bar.adjusted(6, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, _CAPTION)


class AvatarRow(UseCard):
    """Round avatars beside names, on light and on dark."""

    def __init__(self) -> None:
        super().__init__("Round avatars", 112)
        self._frames: tuple[Frame, ...] = ()

    def show_frames(self, frames: tuple[Frame, ...]) -> None:
        """Show round pictures, the largest first."""
        self._frames = frames
        self.update()

    def paint_inside(self, painter: QPainter, box: QRectF) -> None:
        """Paint two rows."""
        half = box.width() / 2
        painter.fillRect(box, QColor("#fbfaf7"))
        painter.fillRect(QRectF(box.x() + half, box.y(), half, box.height()), QColor("#24282c"))
        ratio = self.devicePixelRatioF()
        for column, ink in ((0, "#22262a"), (1, "#e6e3dc")):
            y = box.y() + 28
            for name, frame in zip(_NAMES, self._frames, strict=False):
                side = frame.rgba.shape[0] / ratio
                self.put(painter, frame, box.x() + column * half + 8, y)
                painter.setPen(QColor(ink))
                painter.setFont(font(10))
                line = QRectF(box.x() + column * half + 14 + side, y, half - side - 18, side)
                painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, name)
                y += side + 6


class FringeCard(UseCard):
    """The edge enlarged by filtering straight alpha: left as it is, right with colour carried on."""

    def __init__(self, height: int) -> None:
        super().__init__("Enlarged elsewhere", height)
        self._frames: tuple[Frame, ...] = ()
        self._colour = "#ffffff"
        self.setToolTip(
            "Programs that filter straight alpha mix in what clear pixels hold: black, or the colour carried on"
        )

    def show_frames(self, frames: tuple[Frame, ...], colour: str) -> None:
        """Show the pair over a colour."""
        self._frames, self._colour = frames, colour
        self.update()

    def paint_inside(self, painter: QPainter, box: QRectF) -> None:
        """Paint both halves."""
        painter.fillRect(box, QColor(self._colour))
        middle = box.center().x()
        for index, (frame, words) in enumerate(zip(self._frames, ("As it is", "Colour carried"), strict=False)):
            half = QRectF(box.x() if index == 0 else middle, box.y(), box.width() / 2, box.height())
            painter.save()
            painter.setClipRect(half, Qt.ClipOperation.IntersectClip)
            ratio = self.devicePixelRatioF()
            height, width = (side / ratio for side in frame.rgba.shape[:2])
            self.put(painter, frame, half.center().x() - width / 2, half.center().y() - height / 2)
            painter.setFont(font(10))
            plate = QRectF(
                half.x() + 6, half.bottom() - 18, painter.fontMetrics().horizontalAdvance(words) + 8, 14
            )
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(255, 255, 255, 205))
            painter.drawRoundedRect(plate, 3, 3)
            painter.setPen(QColor("#22262a"))
            painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, words)
            painter.restore()
        painter.setPen(QColor(colours().line))
        painter.drawLine(QPointF(middle, box.y()), QPointF(middle, box.bottom()))
