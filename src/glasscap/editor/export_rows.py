"""The rows of the export list as shown: file name, size, a small picture."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output, OutputSize
from glasscap.core.document.outputs.rows import file_stem, row_title
from glasscap.core.errors import GlassCapError
from glasscap.core.formats.registry import FORMATS
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.outputs import plan_output
from glasscap.core.render.picture import render
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos, frame_of


class RowFacts(Struct, frozen=True, eq=False):
    """One row in words: `stem` and `ending` are the file's name; `problem` where it cannot be written."""

    output: Output
    title: str
    stem: str
    ending: str
    size: tuple[int, int]
    thumb: Frame | None
    problem: str = ""

    @property
    def words(self) -> str:
        """The second line: file name and size, or what is wrong."""
        return self.problem or f"{self.stem}{self.ending} · {self.size[0]}×{self.size[1]}"


def waiting_row(output: Output, title: str, thumb: Frame | None) -> RowFacts:
    """Return a row whose file is not known yet, with the picture it had."""
    return RowFacts(output, title, "", "", (0, 0), thumb, " ")


class RowsRequest(Struct, frozen=True):
    """All rows of the list, and the side of their pictures in device px."""

    job: Job
    outputs: tuple[Output, ...]
    side: int


def row_facts(request: RowsRequest, photos: ScreenPhotos, cache: ValueCache) -> tuple[RowFacts, ...]:
    """Return the rows' facts; what is wrong with one is told in it."""
    photos.begin()
    return tuple(_facts(request, output, n, photos, cache) for n, output in enumerate(request.outputs, 1))


def _facts(
    request: RowsRequest, output: Output, number: int, photos: ScreenPhotos, cache: ValueCache
) -> RowFacts:
    title = row_title(request.job, output) or "Gone"
    try:
        size = plan_output(request.job, output, photos, cache).size
        stem, ending = file_stem(request.job, output, number, size), FORMATS[output.file.format].ending
        thumb = small_picture(request.job, output, request.side, photos, cache)
        return RowFacts(output, title, stem, ending, size, thumb)
    except GlassCapError as error:
        return RowFacts(output, title, "", "", (0, 0), None, error.line)


def small_picture(job: Job, output: Output, side: int, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    """Return a row's picture, its longer side `side` px, without its margin. Raises GlassCapError."""
    small = replace(output, size=_small_size(output, side), margin=0.0)
    plan = plan_output(job, small, photos, cache).plan
    return frame_of(render(plan, photos, cache))


def _small_size(output: Output, side: int) -> OutputSize:
    """Return the size of a small picture; a video's frame keeps its sides' ratio."""
    if output.stage == "alone":
        return OutputSize("longest", width=side)
    share = side / max(output.size.width, output.size.height)
    width, height = (max(1, round(s * share)) for s in (output.size.width, output.size.height))
    return OutputSize("box", width=width, height=height)
