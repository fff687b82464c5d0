"""The textures to choose from, each with a picture of itself; the designer's own behind a last entry."""

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QComboBox

from glasscap.app.theme.shipped import DATA
from glasscap.core.document.model.paint import TexturePaint
from glasscap.core.textures.tiles import TEXTURES

_OWN = "own"
_SIDE = 22


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
        for name, spec in TEXTURES.items():
            self.addItem(QIcon(str(DATA / "textures" / f"{name}.png")), spec.label, name)
        self.addItem("Own picture…", _OWN)
        self.activated.connect(self._on_activated)

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
