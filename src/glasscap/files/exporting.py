"""The export list on the disk: every file rendered, encoded, read back by another decoder, written whole."""

import os
from collections.abc import Callable, Sequence
from pathlib import Path
from threading import Lock
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.outputs.rows import file_stem
from glasscap.core.errors import CancelledError, ExportError, GlassCapError
from glasscap.core.formats.outgoing import encode_output
from glasscap.core.formats.read_back import check_file
from glasscap.core.formats.registry import FORMATS
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.render.outputs import plan_output
from glasscap.core.work.threads import workers_for
from glasscap.core.work.ticket import Ticket
from glasscap.files.atomic import file_problem, read_bytes, write_atomically, write_numbered

# The policy for a file that exists already.
Policy = Literal["replace", "number", "skip"]
POLICIES: tuple[Policy, ...] = ("replace", "number", "skip")
_CACHE_BYTES = 64 << 20


class Target(Struct, frozen=True):
    """The target of a row: its path, size in px, whether a file exists; `problem` where it cannot be written."""

    output: Output
    path: Path
    size: tuple[int, int]
    is_there: bool = False
    problem: str = ""


class RowResult(Struct, frozen=True):
    """The outcome of a row; `problem` is empty for a file that was written and read back."""

    output: Output
    path: Path
    size: tuple[int, int] = (0, 0)
    nbytes: int = 0
    problem: str = ""
    is_skipped: bool = False

    @property
    def is_written(self) -> bool:
        """Whether the file is there and was checked."""
        return not self.problem and not self.is_skipped


def targets_of(job: Job, outputs: Sequence[Output], store: PhotoStore, folder: Path) -> list[Target]:
    """Return where each row goes. What is wrong with a row is told in it."""
    cache, taken = ValueCache(_CACHE_BYTES), dict[str, int]()
    found = []
    for number, output in enumerate(outputs, 1):
        target = _target(job, output, number, store, folder, cache)
        key = str(target.path).casefold()
        first = taken.setdefault(key, number)
        if first != number and not target.problem:
            target = replace(target, problem=f"{target.path.name}: row {first} has this name already; change one")
        found.append(target)
    return found


def _target(job: Job, output: Output, number: int, store: PhotoStore, folder: Path, cache: ValueCache) -> Target:
    try:
        size = plan_output(job, output, store, cache).size
        stem = file_stem(job, output, number, size)
    except GlassCapError as error:
        return Target(output, folder, (0, 0), problem=error.line)
    path = folder / output.folder / f"{stem}{FORMATS[output.file.format].ending}"
    if not Path(os.path.normpath(path)).is_relative_to(os.path.normpath(folder)):
        why = f"{output.folder}: the row's folder leads out of the one that is written to; name one within it"
        return Target(output, path, size, problem=why)
    try:
        return Target(output, path, size, path.exists())
    except (OSError, ValueError) as error:
        return Target(output, path, size, problem=file_problem(path, error).line)


def export_rows(
    job: Job, targets: Sequence[Target], store: PhotoStore, policy: Policy, ticket: Ticket | None = None
) -> list[RowResult]:
    """Write rows on all cores. What goes wrong with one is told in its result; the others go on.

    Raises CancelledError when the ticket is stopped; files written by then stay, none is half written.
    """
    ticket, lock, shares = ticket or Ticket(), Lock(), [0.0] * len(targets)

    def one(index: int) -> RowResult:
        def report(share: float) -> None:
            ticket.check()
            with lock:
                shares[index] = share
                ticket.report(sum(shares) / len(shares))

        ticket.tell(f"{index + 1} of {len(targets)}: {targets[index].path.name}")
        result = _written(job, targets[index], store, policy, report)
        report(1.0)
        return result

    with workers_for("export", len(targets)) as pool:
        futures = [pool.submit(one, n) for n in range(len(targets))]
        try:
            return [future.result() for future in futures]
        except CancelledError:
            pool.shutdown(cancel_futures=True)
            raise


def _written(
    job: Job, target: Target, store: PhotoStore, policy: Policy, report: Callable[[float], None]
) -> RowResult:
    output, path = target.output, target.path
    if target.problem:
        return RowResult(output, path, problem=target.problem)
    try:
        if path.exists() and policy == "skip":
            return RowResult(output, path, target.size, is_skipped=True)
        encoded = encode_output(job, output, store, ValueCache(_CACHE_BYTES), report)
        check_file(encoded.data, encoded.pixels, output.file, encoded.tags, path.name)
        _make_folder(path.parent, output)
        if policy == "number":
            path = write_numbered(path, encoded.data)
        else:
            write_atomically(path, encoded.data)
        if read_bytes(path) != encoded.data:
            raise ExportError(path.name, "the disk gave back other bytes", "write it to another place")
    except CancelledError:
        raise
    except GlassCapError as error:
        return RowResult(output, path, target.size, problem=error.line)
    except MemoryError:
        why = f"{path.name}: there is not enough memory for {target.size[0]} x {target.size[1]} px; ask for less"
        return RowResult(output, path, target.size, problem=why)
    return RowResult(output, path, encoded.planned.size, len(encoded.data))


def _make_folder(folder: Path, output: Output) -> None:
    """Make a row's own folder; the list's folder must be there, or it was a slip of the pen."""
    if output.folder and not folder.exists():
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except (OSError, ValueError) as error:
            why = f"it cannot be made ({file_problem(folder, error).why})"
            raise ExportError(folder.name, why, "choose another folder") from error
