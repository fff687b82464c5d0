"""Every error Glass Cap raises on purpose.

::

    GlassCapError              what (a file's name or a value), why, what to do
    +-- PhotoError             a picture cannot be read
    |   +-- PhotoMissingError  a photo the job names is not to be had
    |   +-- PhotoTooBigError   more pixels than the limit allows
    +-- ShapeError             a shape or its numbers make no sense
    +-- PlacementError         a size, scale or position makes no sense
    +-- FinishError            a number of a finish makes no sense
    +-- JobFileError           a job file cannot be read
    |   +-- JobFileNewerError  it was written by a later version
    +-- ExportError            a picture cannot be written
    +-- FileProblemError       the disk said no
    +-- CallError              a command line that asks for something impossible
    +-- MissingModuleError     a library, or a part of the program, is not installed
    +-- CancelledError         the user said stop
"""


class GlassCapError(Exception):
    """An error with a name for the thing at fault, its cause and a remedy.

    Parameters
    ----------
    what : str
        The file's name or the value at fault.
    why : str
        The cause, a clause without a full stop.
    remedy : str
        What the user can do, a clause without a full stop.
    """

    def __init__(self, what: str, why: str, remedy: str = "") -> None:
        self.what, self.why, self.remedy = what, why, remedy
        super().__init__(self.line)

    @property
    def line(self) -> str:
        """The whole message on one line."""
        tail = f"; {self.remedy}" if self.remedy else ""
        return " ".join(f"{self.what}: {self.why}{tail}".split())

    def named(self, what: str) -> "GlassCapError":
        """Return the same error about a thing with a better name."""
        return type(self)(what, self.why, self.remedy)


class PhotoError(GlassCapError):
    """A picture cannot be read."""


class PhotoMissingError(PhotoError):
    """A photo the job names is not to be had."""


class PhotoTooBigError(PhotoError):
    """A picture has more pixels than the limit allows."""


class ShapeError(GlassCapError):
    """A shape or its numbers make no sense."""


class PlacementError(GlassCapError):
    """A size, scale or position makes no sense."""


class FinishError(GlassCapError):
    """A number, colour or paint of a finish makes no sense."""


class JobFileError(GlassCapError):
    """A job file cannot be read."""


class JobFileNewerError(JobFileError):
    """A job file was written by a later version."""


class ExportError(GlassCapError):
    """A picture cannot be written."""


class FileProblemError(GlassCapError):
    """The disk said no."""


class CallError(GlassCapError):
    """A command line that asks for something impossible."""


class MissingModuleError(GlassCapError):
    """A library, or a part of the program, is not installed."""

    @classmethod
    def of(cls, error: ImportError) -> "MissingModuleError":
        """Return what an import that failed comes to."""
        why = "this part of the program is missing" if error.name else f"a part of the program fails ({error})"
        return cls(error.name or "Glass Cap", why, "install Glass Cap again")


class CancelledError(GlassCapError):
    """The user said stop."""

    def __init__(self, what: str = "Rendering", why: str = "stopped", remedy: str = "") -> None:
        super().__init__(what, why, remedy)
