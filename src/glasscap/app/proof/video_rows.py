"""The picture's place in the video's frame: corner, size, margin, caption, a moving scene."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.buttons import CheckBox, Choice
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.model.proofs import CORNERS, VideoCorner

_ARROWS = {"top left": "↖", "top right": "↗", "bottom left": "↙", "bottom right": "↘"}
VideoChange = Callable[[VideoCorner], VideoCorner]


class VideoRows(QWidget):
    """`changed(change)` for each value settled."""

    changed = Signal(object)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.corner = Choice("Corner", [(c, _ARROWS[c]) for c in CORNERS], self._on_corner, is_tight=True)
        for name, button in self.corner.buttons.items():
            button.setToolTip(name.capitalize())
            button.setAccessibleName(f"Corner: {name}")
        self.height_row = SliderRow(NumberSpec("Height", "%", 2, 100, decimals=0), reset_to=24.0)
        self.height_row.set_slider_range(5, 60)
        self.margin = SliderRow(NumberSpec("Margin", "%", 0, 40, decimals=0), reset_to=6.0)
        self.has_caption, self.is_moving = CheckBox("Caption"), CheckBox("Moving")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.corner)
        column.addWidget(self.height_row)
        column.addWidget(self.margin)
        row = QHBoxLayout()
        row.addWidget(self.has_caption)
        row.addWidget(self.is_moving)
        row.addStretch(1)
        column.addLayout(row)
        self.height_row.stepped.connect(lambda v: self._tell(height=v / 100))
        self.margin.stepped.connect(lambda v: self._tell(margin=v / 100))
        self.has_caption.clicked.connect(lambda on: self._tell(has_caption=on))
        self.is_moving.clicked.connect(lambda on: self._tell(is_moving=on))
        for slider in (self.height_row, self.margin):
            slider.refused.connect(self.refused)

    def show_video(self, video: VideoCorner) -> None:
        """Show values without telling."""
        self.corner.show_choice(video.corner)
        self.height_row.show_value(video.height * 100)
        self.margin.show_value(video.margin * 100)
        self.has_caption.setChecked(video.has_caption)
        self.is_moving.setChecked(video.is_moving)

    def _on_corner(self, corner: str) -> None:
        self._tell(corner=corner)

    def _tell(self, **values: object) -> None:
        self.changed.emit(lambda video: replace(video, **values))
