"""The textures to choose from, each with a picture of itself; the designer's own behind a last entry."""

from functools import lru_cache

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QIcon, QImage, QPixmap
from PySide6.QtWidgets import QComboBox

from glasscap.core.document.paint import TexturePaint
from glasscap.core.textures.tiles import TEXTURES, texture_tile

_OWN = "own"
_SIDE = 22


@lru_cache(maxsize=32)
def texture_icon(name: str) -> QIcon:
    """Return a piece of a shipped texture."""
    tile = texture_tile(name)[: _SIDE * 6, : _SIDE * 6].copy()
    image = QImage(tile.data, tile.shape[1], tile.shape[0], tile.strides[0], QImage.Format.Format_RGBA8888)
    return QIcon(QPixmap.fromImage(image.copy()).scaled(_SIDE * 2, _SIDE * 2))


class TextureChoice(QComboBox):
    """`chosen(name)` for a shipped one, `own_asked()` for a picture of the designer's own."""

    chosen = Signal(str)
    own_asked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Texture")
        self.setIconSize(QSize(_SIDE, _SIDE))
        self.setMinimumWidth(150)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self._has_icons = False
        for name, spec in TEXTURES.items():
            self.addItem(spec.label, name)
        self.addItem("Own picture…", _OWN)
        self.activated.connect(self._on_activated)

    def showPopup(self) -> None:
        """Draw the pictures when they are first wanted."""
        if not self._has_icons:
            self._has_icons = True
            for index in range(self.count() - 1):
                self.setItemIcon(index, texture_icon(self.itemData(index)))
        super().showPopup()

    def show_texture(self, paint: TexturePaint, own_name: str = "") -> None:
        """Show a texture without telling."""
        self.blockSignals(True)
        last = self.count() - 1
        self.setItemText(last, f"Own: {own_name}" if paint.is_own else "Own picture…")
        self.setCurrentIndex(last if paint.is_own else self.findData(paint.texture))
        self.blockSignals(False)

    def _on_activated(self, index: int) -> None:
        name = self.itemData(index)
        if name == _OWN:
            self.own_asked.emit()
        else:
            self.chosen.emit(name)
