"""The places that ship as small pictures; a click puts what is selected into one."""

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QGridLayout, QToolButton, QWidget

from glasscap.app.services.render_service import RenderService
from glasscap.app.widgets.buttons import leave_keys
from glasscap.app.widgets.frame_image import to_image
from glasscap.editor.mockup_pictures import PlaceThumb, place_thumb
from glasscap.files.place_book import PLACES

_PICTURE, _COLUMNS, _CHANNEL = QSize(84, 63), 3, "place"
# Twice as fine as they are shown, for screens of twice the density.
_FINER = (_PICTURE.width() * 2, _PICTURE.height() * 2)


class PlaceGrid(QWidget):
    """`chosen(key)` for a place that was clicked."""

    chosen = Signal(str)

    def __init__(self, service: RenderService) -> None:
        super().__init__()
        self.setAccessibleName("Places")
        self._service = service
        self.buttons: dict[str, QToolButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        for place, (key, label) in enumerate(PLACES.items()):
            made = QToolButton()
            leave_keys(made)
            made.setIconSize(_PICTURE)
            made.setFixedSize(_PICTURE + QSize(4, 4))
            made.setToolTip(label)
            made.setAccessibleName(f"Place: {label}")
            made.clicked.connect(lambda _=False, key=key: self.chosen.emit(key))
            self.buttons[key] = made
            grid.addWidget(made, place // _COLUMNS, place % _COLUMNS)
        service.answered.connect(self._on_answered)

    def show_pictures(self) -> None:
        """Have the pictures drawn, when they are first seen."""
        for key, button in self.buttons.items():
            if button.icon().isNull():
                self._service.ask((_CHANNEL, key), lambda photos, cache, key=key: place_thumb(key, _FINER))  # type: ignore[misc]

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(answer, PlaceThumb):
            self.buttons[answer.key].setIcon(QIcon(QPixmap.fromImage(to_image(answer.frame))))
