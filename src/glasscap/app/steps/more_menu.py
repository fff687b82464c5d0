"""The *More* menu of the shape's step."""

from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from glasscap.app.commands.shapes import ShapeCommands
from glasscap.app.widgets.menus import add_entry
from glasscap.core.geometry.boolean import Operation
from glasscap.core.shapes.traced import PhotoPart

_COMBINE: tuple[tuple[Operation, str], ...] = (
    ("add", "Add"),
    ("subtract", "Subtract the others"),
    ("intersect", "Intersect"),
    ("exclude", "Exclude"),
)
_PARTS: tuple[tuple[PhotoPart, str], ...] = (
    ("transparency", "Its transparency"),
    ("dark", "Its dark parts"),
    ("light", "Its light parts"),
)


class MoreMenu(QMenu):
    """Import, trace, combine, share, copy; `show_for(count, is_linked)` says what there is to work on."""

    def __init__(self, commands: ShapeCommands, parent: QWidget) -> None:
        super().__init__(parent)
        add_entry(self, "Import a shape…", commands.ask_import)
        add_entry(self, "Paste a shape", commands.paste_shape)
        traced = self.addMenu("From this photo")
        for part, name in _PARTS:
            add_entry(traced, name, partial(commands.trace, part))
        self.addSeparator()
        self.combine = self.addMenu("Combine the selected")
        for does, name in _COMBINE:
            add_entry(self.combine, name, partial(commands.combine, does))
        self.gap = add_entry(self, "Shape of the gap between", commands.gap)
        self.same = add_entry(self, "Same shape for the selected", partial(commands.same_shape, is_linked=False))
        self.link = add_entry(self, "Link the selected shapes", partial(commands.same_shape, is_linked=True))
        self.unlink = add_entry(self, "Unlink this shape", commands.unlink)
        self.addSeparator()
        add_entry(self, "Copy as SVG path", commands.copy_path)
        add_entry(self, "Copy as CSS clip path", commands.copy_css)
        add_entry(self, "Save as an SVG file…", commands.ask_save_svg)

    def show_for(self, count: int, *, is_linked: bool) -> None:
        """Offer what works on so many selected cutouts."""
        self.combine.setEnabled(count > 1)
        for entry in (self.gap, self.same, self.link):
            entry.setEnabled(count > 1)
        self.unlink.setEnabled(is_linked)
