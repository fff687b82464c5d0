"""Writing the list: what is there already is asked about once; progress and Cancel; what became of each row."""

from pathlib import Path

from msgspec import Struct
from PySide6.QtWidgets import QMessageBox, QWidget

from glasscap.app.services.errands import Errand, answered, waited
from glasscap.app.widgets.dialogs import dress, message_box
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output
from glasscap.core.errors import CancelledError
from glasscap.core.photos.store import PhotoStore
from glasscap.editor.numbers import bytes_words, counted
from glasscap.files.exporting import Policy, RowResult, Target, export_rows, targets_of

_NO_BREAK = "\N{NO-BREAK SPACE}"
_FEW = 3


class Written(Struct, frozen=True):
    """The outcome of an export list, in words."""

    results: tuple[RowResult, ...]
    words: str
    is_good: bool


def write_list(
    parent: QWidget, job: Job, outputs: tuple[Output, ...], store: PhotoStore, folder: Path
) -> Errand[Written | None]:
    """Write rows into a folder; None when it was called off before anything was written."""
    title = f"Writing {len(outputs)} files" if len(outputs) > 1 else "Writing the file"
    try:
        targets = yield from waited(title, lambda ticket: targets_of(job, outputs, store, folder))
        policy = yield from _policy(parent, targets)
        if policy is None:
            return None
        results = yield from waited(title, lambda ticket: export_rows(job, targets, store, policy, ticket))
    except CancelledError:
        return Written((), "Stopped; no file is half written", is_good=False)
    return Written(tuple(results), _words(results), is_good=all(not r.problem for r in results))


def _policy(parent: QWidget, targets: list[Target]) -> Errand[Policy | None]:
    """Return what is to become of files that are there; None to write nothing."""
    there = [t.path.name for t in targets if t.is_there and not t.problem]
    return (yield from ask_policy(parent, there)) if there else "replace"


def ask_policy(parent: QWidget, names: list[str]) -> Errand[Policy | None]:
    """Ask what is to become of files that are there already."""
    more = f" and {len(names) - _FEW} more" if len(names) > _FEW else ""
    verb = "is" if len(names) == 1 else "are"
    box = message_box(parent, f"{', '.join(names[:_FEW])}{more} {verb} there already.")
    buttons: dict[object, Policy] = {
        box.addButton("Replace", QMessageBox.ButtonRole.DestructiveRole): "replace",
        box.addButton("Number the new ones", QMessageBox.ButtonRole.AcceptRole): "number",
        box.addButton("Skip", QMessageBox.ButtonRole.AcceptRole): "skip",
    }
    box.addButton(QMessageBox.StandardButton.Cancel)
    dress(box)
    yield from answered(box)
    chosen = buttons.get(box.clickedButton())
    box.deleteLater()
    return chosen


def _words(results: list[RowResult]) -> str:
    written = [r for r in results if r.is_written]
    skipped, failed = sum(r.is_skipped for r in results), [r for r in results if r.problem]
    lines = []
    if len(written) == 1 and len(results) == 1:
        (only,) = written
        size = f"{only.size[0]} × {only.size[1]} px".replace(" ", _NO_BREAK)
        lines.append(f"{only.path.name} written and read back: {size}, {bytes_words(only.nbytes)}")
    elif written:
        total = bytes_words(sum(r.nbytes for r in written))
        lines.append(f"{counted(len(written), 'file')} written and read back, {total}")
    if skipped:
        lines.append(f"{skipped} skipped")
    lines += [r.problem for r in failed[:_FEW]]
    if len(failed) > _FEW:
        lines.append(f"{len(failed) - _FEW} more failed")
    return "\n".join(lines) or "Nothing was written"
