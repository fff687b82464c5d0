"""Frames of the worker as pictures of the toolkit."""

from PySide6.QtGui import QImage

from glasscap.core.render.screen.frames import Frame


def to_image(frame: Frame) -> QImage:
    """Return a picture that shares a frame's memory (which is kept alive by it)."""
    height, width = frame.rgba.shape[:2]
    image = QImage(
        frame.rgba.data, width, height, frame.rgba.strides[0], QImage.Format.Format_RGBA8888_Premultiplied
    )
    image.frame = frame  # type: ignore[attr-defined]
    return image
