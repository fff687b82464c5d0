"""The places that ship as small pictures; a click puts what is selected into one."""

from functools import cache

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QIcon, QImage, QPixmap
from PySide6.QtWidgets import QGridLayout, QToolButton, QWidget

from glasscap.files.place_book import PLACES, shipped_place

_PICTURE, _COLUMNS = QSize(84, 63), 3


@cache
def _picture(key: str) -> QPixmap:
    rgba = shipped_place(key).backdrop
    height, width = rgba.shape[:2]
    image = QImage(rgba.data, width, height, 4 * width, QImage.Format.Format_RGBX8888)
    smooth = Qt.TransformationMode.SmoothTransformation
    # Twice as fine as it is shown, for screens of twice the density.
    return QPixmap.fromImage(image.scaled(_PICTURE * 2, Qt.AspectRatioMode.IgnoreAspectRatio, smooth))


class PlaceGrid(QWidget):
    """`chosen(key)` for a place that was clicked."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Places")
        self.buttons: dict[str, QToolButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        for place, (key, label) in enumerate(PLACES.items()):
            made = QToolButton()
            made.setIconSize(_PICTURE)
            made.setFixedSize(_PICTURE + QSize(4, 4))
            made.setToolTip(label)
            made.setAccessibleName(f"Place: {label}")
            made.clicked.connect(lambda _=False, key=key: self.chosen.emit(key))
            self.buttons[key] = made
            grid.addWidget(made, place // _COLUMNS, place % _COLUMNS)

    def show_pictures(self) -> None:
        """Draw the buttons, when they are first seen."""
        for key, button in self.buttons.items():
            if button.icon().isNull():
                button.setIcon(QIcon(_picture(key)))

    @staticmethod
    def forget_pictures() -> None:
        """Let go of what the toolkit holds."""
        _picture.cache_clear()
