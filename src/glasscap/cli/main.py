"""``glasscap``: one line on standard error for every problem, never a traceback."""

import argparse
import codecs
import io
import os
import re
import sys
import warnings
from collections.abc import Iterable, Sequence
from importlib import import_module
from typing import Any, NoReturn

from glasscap import __version__
from glasscap.core.errors import (
    CallError,
    FinishError,
    GlassCapError,
    MissingModuleError,
    PlacementError,
    ShapeError,
)

# How many more objects are made before garbage is looked for.
EXIT_DONE, EXIT_PROBLEM, EXIT_WRONG_CALL = 0, 1, 2
# Each has a module of its name here; only that of the command called for is loaded.
_COMMANDS = ("cut", "render", "export", "check", "shapes", "shape", "fonts", "info", "convert", "mockup",
             "series")  # fmt: skip


class _Parser(argparse.ArgumentParser):
    """A parser whose errors are one line; what begins with a minus and a digit is a value."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        # Values such as -8,12,24,black are lists of numbers.
        self._negative_number_matcher = re.compile(r"^-[\d.]")

    def error(self, message: str) -> NoReturn:
        """Say what is wrong with the call on one line and leave with 2."""
        print(f"glasscap: {message}; see {self.prog} --help", file=sys.stderr)
        raise SystemExit(EXIT_WRONG_CALL)


def build_parser(wanted: Iterable[str] = _COMMANDS) -> argparse.ArgumentParser:
    """Return the parser of the subcommands wanted."""
    parser = _Parser(prog="glasscap", description="Clip photographs into shapes; write transparent pictures.")
    parser.add_argument("--version", action="version", version=f"glasscap {__version__}")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND", parser_class=_Parser)
    for name in wanted:
        module = import_module(f"glasscap.cli.{name}")
        sub = commands.add_parser(name, help=module.HELP, description=module.HELP)
        module.add_arguments(sub)
        sub.set_defaults(run=module.run)
    return parser


def program() -> NoReturn:
    """Run the command line of this process, and leave with its exit status."""
    arguments = sys.argv[1:]
    if _is_command(arguments):
        _silence_libraries()
    status = main(arguments)
    if _is_command(arguments):
        sys.exit(status)
    # A window that was closed would wait for what is still rendered.
    sys.stdout.flush()
    sys.stderr.flush()
    os._exit(status)


def _silence_libraries() -> None:
    """Leave standard error to this program: decoders write there whatever they make of a damaged picture."""
    warnings.simplefilter("ignore")
    sys.stderr.flush()
    own = os.dup(2)
    sys.stderr = io.TextIOWrapper(io.FileIO(own, "w"), sys.stderr.encoding, sys.stderr.errors, write_through=True)
    silent = os.open(os.devnull, os.O_WRONLY)
    os.dup2(silent, 2)
    os.close(silent)


def _as_written(error: UnicodeError) -> tuple[str | bytes, int]:
    """Let any text through to a stream: a name's raw bytes as they are, characters it cannot hold as numbers."""
    assert isinstance(error, UnicodeEncodeError)
    part = error.object[error.start : error.end]
    if all("\udc80" <= c <= "\udcff" for c in part):
        return bytes(ord(c) - 0xDC00 for c in part), error.end
    return part.encode("ascii", "backslashreplace"), error.end


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; without a subcommand open the window. Returns the exit status."""
    arguments = list(sys.argv[1:] if argv is None else argv)
    codecs.register_error("as-written", _as_written)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="as-written")
    try:
        return _run(arguments)
    except (CallError, FinishError, ShapeError, PlacementError) as error:
        return _fail(error, EXIT_WRONG_CALL)
    except GlassCapError as error:
        return _fail(error, EXIT_PROBLEM)
    except ImportError as error:
        return _fail(MissingModuleError.of(error), EXIT_PROBLEM)
    except MemoryError:
        remedy = "use smaller pictures, or close other programs"
        return _fail(GlassCapError(arguments[0], "there is not enough memory", remedy), EXIT_PROBLEM)
    except OSError as error:
        return _fail_output(error)
    except KeyboardInterrupt:
        return 130


def _run(arguments: list[str]) -> int:
    if not _is_command(arguments):
        return _open_window(arguments)
    options = build_parser({arguments[0]}.intersection(_COMMANDS) or _COMMANDS).parse_args(arguments)
    options.run(options)
    sys.stdout.flush()
    return EXIT_DONE


def _fail_output(error: OSError) -> int:
    """Say what is wrong with standard output: nothing else is left to fail, for files tell of themselves."""
    # Input that the reader did not take is dropped.
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    if isinstance(error, BrokenPipeError):
        return EXIT_PROBLEM
    remedy = "write to a place with room"
    return _fail(GlassCapError("standard output", error.strerror or str(error), remedy), EXIT_PROBLEM)


def _is_command(arguments: Sequence[str]) -> bool:
    return bool(arguments) and arguments[0] in {*_COMMANDS, "-h", "--help", "--version"}


def _fail(error: GlassCapError, status: int) -> int:
    print(f"glasscap: {error.line}", file=sys.stderr)
    return status


def _open_window(arguments: list[str]) -> int:
    if arguments and arguments[0].startswith("-") and arguments[0] not in ("--shot", "--demo"):
        return _fail(CallError(arguments[0], "there is no such option", "see glasscap --help"), EXIT_WRONG_CALL)
    # The window's toolkit is looked for only when a window is asked for.
    run_window = import_module("glasscap.app.main").run
    status: int = run_window(arguments)
    return status


if __name__ == "__main__":
    program()
