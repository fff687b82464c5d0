"""The *More* menu of the shape's step."""

from collections.abc import Callable
from functools import partial

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QWidget

from glasscap.app.shape_commands import ShapeCommands
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
        self._add("Import a shape…", commands.ask_import)
        self._add("Paste a shape", commands.paste_shape)
        traced = self.addMenu("From this photo")
        for part, name in _PARTS:
            traced.addAction(name).triggered.connect(partial(self._run, partial(commands.trace, part)))
        self.addSeparator()
        self.combine = self.addMenu("Combine the selected")
        for does, name in _COMBINE:
            self.combine.addAction(name).triggered.connect(partial(self._run, partial(commands.combine, does)))
        self.gap = self._add("Shape of the gap between", commands.gap)
        self.same = self._add("Same shape for the selected", partial(commands.same_shape, is_linked=False))
        self.link = self._add("Link the selected shapes", partial(commands.same_shape, is_linked=True))
        self.unlink = self._add("Unlink this shape", commands.unlink)
        self.addSeparator()
        self._add("Copy as SVG path", commands.copy_path)
        self._add("Copy as CSS clip path", commands.copy_css)
        self._add("Save as an SVG file…", commands.ask_save_svg)

    def _add(self, name: str, run: Callable[[], object]) -> QAction:
        made = self.addAction(name)
        made.triggered.connect(partial(self._run, run))
        return made

    @staticmethod
    def _run(run: Callable[[], object], *_checked: bool) -> None:
        run()

    def show_for(self, count: int, *, is_linked: bool) -> None:
        """Offer what works on so many selected cutouts."""
        self.combine.setEnabled(count > 1)
        for entry in (self.gap, self.same, self.link):
            entry.setEnabled(count > 1)
        self.unlink.setEnabled(is_linked)
