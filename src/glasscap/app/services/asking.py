"""Questions to the user and choices of files, each an errand that waits for the answer."""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QWidget

from glasscap.app.services.errands import Errand, Running, answered, run_errand
from glasscap.app.widgets.dialogs import dress, message_box
from glasscap.files.chosen_folders import FolderKind, chosen_folder, keep_chosen_folder

Button = QMessageBox.StandardButton


def question(parent: QWidget, words: str, buttons: Button, default: Button) -> Errand[Button]:
    """Ask; return the button that was clicked, Cancel for a dialog that was closed."""
    box = message_box(parent, words)
    box.setStandardButtons(buttons)
    box.setDefaultButton(default)
    dress(box)
    yield from answered(box)
    clicked = box.clickedButton()
    chosen = Button.Cancel if clicked is None else box.standardButton(clicked)
    box.deleteLater()
    return chosen


def is_agreed(parent: QWidget, words: str) -> Errand[bool]:
    """Ask whether to go on."""
    return (yield from question(parent, words, Button.Ok | Button.Cancel, Button.Ok)) == Button.Ok


def ask_text(
    place: QWidget, title: str, words: str, then: Callable[[str], object], *, text: str = ""
) -> Running[None]:
    """Ask for a line of text that begins as `text`; hand on what was entered."""
    return run_errand(_asking_text(place, (title, words, text), then), place, lambda problem: None)


def _asking_text(place: QWidget, words: tuple[str, str, str], then: Callable[[str], object]) -> Errand[None]:
    entered = yield from line_of_text(place.window(), *words)
    if entered is not None:
        then(entered)


def line_of_text(parent: QWidget, title: str, words: str, text: str) -> Errand[str | None]:
    """Ask for a line of text; None where the dialog was closed."""
    dialog = QInputDialog(parent)
    dialog.setWindowTitle(title)
    dialog.setLabelText(words)
    dialog.setTextValue(text)
    dress(dialog)
    is_accepted = yield from answered(dialog)
    entered = dialog.textValue() if is_accepted else None
    dialog.deleteLater()
    return entered


class Place(NamedTuple):
    """The start of a file dialog: `path`, a folder or a file, else the folder chosen last for that kind.

    `name` is the file name proposed there.
    """

    kind: FolderKind
    path: Path | None = None
    name: str = ""

    @property
    def start(self) -> Path:
        """The path the dialog starts from."""
        folder = self.path or chosen_folder(self.kind) or Path.home()
        return folder / self.name if self.name else folder


def files_to_open(parent: QWidget, title: str, start: Place, kinds: str) -> Errand[tuple[Path, ...]]:
    """Let the user choose files that are there; () for none."""
    return (yield from _chosen(parent, title, start, kinds, QFileDialog.FileMode.ExistingFiles))


def file_to_open(parent: QWidget, title: str, start: Place, kinds: str) -> Errand[Path | None]:
    """Let the user choose one file that is there."""
    return _first((yield from _chosen(parent, title, start, kinds, QFileDialog.FileMode.ExistingFile)))


def file_to_save(parent: QWidget, title: str, start: Place, kinds: str) -> Errand[Path | None]:
    """Let the user choose where to write; `start` proposes a name."""
    return _first((yield from _chosen(parent, title, start, kinds, QFileDialog.FileMode.AnyFile)))


def folder(parent: QWidget, title: str, start: Place) -> Errand[Path | None]:
    """Let the user choose a folder."""
    return _first((yield from _chosen(parent, title, start, "", QFileDialog.FileMode.Directory)))


def _first(paths: tuple[Path, ...]) -> Path | None:
    return paths[0] if paths else None


def _chosen(
    parent: QWidget, title: str, start: Place, kinds: str, mode: QFileDialog.FileMode
) -> Errand[tuple[Path, ...]]:
    proposed = start.start
    dialog = QFileDialog(parent, title, str(proposed if proposed.is_dir() else proposed.parent), kinds)
    dialog.setFileMode(mode)
    dialog.setOption(QFileDialog.Option.ShowDirsOnly, mode == QFileDialog.FileMode.Directory)
    if mode == QFileDialog.FileMode.AnyFile:
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        dialog.selectFile(proposed.name)
    dress(dialog)
    is_accepted = yield from answered(dialog)
    chosen = tuple(Path(c) for c in dialog.selectedFiles()) if is_accepted else ()
    dialog.deleteLater()
    if chosen:
        is_folder = mode == QFileDialog.FileMode.Directory
        keep_chosen_folder(start.kind, chosen[0] if is_folder else chosen[0].parent)
    return chosen
