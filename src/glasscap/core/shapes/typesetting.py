"""Setting letters: text to the outline of its glyphs, by a shaping library, in units of the type size.

The first line's baseline starts (is centred, ends) at the origin; y is down. Fonts come in as bytes.
"""

import math
import unicodedata
from bisect import bisect_right
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Protocol

import uharfbuzz as hb
from msgspec import Struct

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.outline import Outline, placed_together
from glasscap.core.geometry.path_data import write_path_data
from glasscap.core.geometry.pen import Pen
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.bidi import directed_runs, paragraph_direction
from glasscap.core.shapes.kinds import Letters

_DECIMALS = 6
_KEPT_GLYPHS = 4096

_ToPage = Callable[[float, float, float], Affine]


class Face(Struct, frozen=True, eq=False):
    """One font file at hand: `key` is unlike that of any other; `axes` are tag, lowest, default, highest."""

    key: str
    face: hb.Face
    axes: tuple[tuple[str, float, float, float], ...]

    @property
    def weights(self) -> tuple[float, float] | None:
        """The weights a variable font has, or None."""
        return next(((low, high) for tag, low, _, high in self.axes if tag == "wght"), None)


class FaceSource(Protocol):
    """A source of fonts."""

    def face(self, font: str, weight: float, *, is_italic: bool) -> Face | None:
        """Return the face of a family nearest to a weight, or None where there is no such family."""

    def fallbacks(self, character: str) -> Sequence[Face]:
        """Return faces that have a character, the best first."""

    @property
    def replacement(self) -> Face:
        """The face that stands in for a missing family."""


class Caret(Struct, frozen=True):
    """The caret before a character: its foot on the baseline, and the way up, one size long."""

    x: float
    y: float
    up_x: float = 0.0
    up_y: float = -1.0


class SetLetters(Struct, frozen=True, eq=False):
    """Letters that were set.

    `path` is the whole outline, `carets` stand before each character and after the last; `missing` are
    characters no font has, `is_replaced`: no such family.
    """

    letters: Letters
    path: str
    carets: tuple[Caret, ...]
    missing: str = ""
    is_replaced: bool = False
    _glyphs: "tuple[tuple[_Glyph, Affine], ...]" = ()

    @property
    def clusters(self) -> tuple[tuple[str, Outline], ...]:
        """Text and outline of every cluster that shows, in the order of the text."""
        found: dict[int, list[tuple[Outline, Affine]]] = {}
        ends: dict[int, int] = {}
        for glyph, affine in self._glyphs:
            found.setdefault(glyph.start, []).append((glyph.outline, affine))
            ends[glyph.start] = glyph.end
        text = self.letters.text
        return tuple((text[start : ends[start]], placed_together(found[start])) for start in sorted(found))

    @property
    def parts(self) -> tuple[tuple[str, str], ...]:
        """Text and path of every cluster that shows."""
        return tuple((text, write_path_data(outline, _DECIMALS)) for text, outline in self.clusters)


class _Glyph(Struct, frozen=True):
    outline: Outline
    x: float
    y: float
    advance: float
    start: int
    end: int


class _Run(Struct, frozen=True):
    first: int
    last: int
    level: int
    face: Face


class _Line(Struct, frozen=True):
    glyphs: list[_Glyph]
    width: float
    start: int
    end: int
    is_rtl: bool


def load_face(data: bytes, key: str, index: int = 0) -> Face:
    """Return a font file's face. Raises ShapeError for bytes that are no font."""
    try:
        face = hb.Face(hb.Blob(data), index)
        count = face.glyph_count
    except (hb.HarfBuzzError, ValueError, TypeError) as error:
        raise ShapeError(key, "it is no font file", "choose another font") from error
    if count == 0:
        raise ShapeError(key, "it is no font file", "choose another font")
    axes = tuple((a.tag, a.min_value, a.default_value, a.max_value) for a in face.axis_infos)
    return Face(key, face, axes)


def has_glyph(face: Face, character: str) -> bool:
    """Whether a face has a character."""
    return hb.Font(face.face).get_nominal_glyph(ord(character)) not in (None, 0)


def set_type(letters: Letters, source: FaceSource) -> SetLetters:
    """Set text.

    Raises
    ------
    ShapeError
        For text of which nothing would be seen.
    """
    main = source.face(letters.font, letters.weight, is_italic=letters.is_italic)
    setter = _Setter(letters, main or source.replacement, source)
    lines = setter.lines()
    shown: list[tuple[_Glyph, Affine]] = []
    carets: list[Caret] = []
    for number, line in enumerate(lines):
        start = _start(line, letters)
        to_page = _to_page(letters, number)
        shown += [(g, to_page(start + g.x, g.advance, g.y)) for g in line.glyphs if g.outline.contours]
        carets += _carets(line, start, to_page)
    if not shown:
        why = "the font has none of these characters" if setter.missing else "there is nothing to see"
        raise ShapeError("Letters", why, "type at least one letter the font has")
    return SetLetters(
        letters,
        write_path_data(placed_together([(g.outline, affine) for g, affine in shown]), _DECIMALS),
        tuple(carets),
        "".join(dict.fromkeys(setter.missing)),
        is_replaced=main is None,
        _glyphs=tuple(shown),
    )


def _start(line: _Line, letters: Letters) -> float:
    if letters.circle:
        return -line.width / 2
    return {"left": 0.0, "centre": -line.width / 2, "right": -line.width}[letters.align]


def _to_page(letters: Letters, number: int) -> _ToPage:
    """Return for (way along the line, advance, drop) the map of a glyph's own units to the page."""
    drop = number * letters.line
    if not letters.circle:
        return lambda at, advance, down: Affine.translation(at, drop + down)
    radius = abs(letters.circle)
    if letters.circle > 0:
        baseline = max(radius - drop, 1e-3)

        def outside(at: float, advance: float, down: float) -> Affine:
            turn = math.degrees((at + advance / 2) / baseline)
            about = Affine.rotation(turn).after(Affine.translation(-advance / 2, down - baseline))
            return Affine.translation(0, radius).after(about)

        return outside
    baseline = radius + drop

    def inside(at: float, advance: float, down: float) -> Affine:
        turn = -math.degrees((at + advance / 2) / baseline)
        about = Affine.rotation(turn).after(Affine.translation(-advance / 2, down + baseline))
        return Affine.translation(0, -radius).after(about)

    return inside


def _carets(line: _Line, start: float, to_page: _ToPage) -> list[Caret]:
    """Return a caret before each character of a line and after its last: at the reading side of its cluster."""
    places: dict[int, float] = {}
    for glyph in line.glyphs:
        count = max(1, glyph.end - glyph.start)
        for k in range(count):
            share = k / count
            at = glyph.x + glyph.advance * ((1 - share) if line.is_rtl else share)
            places.setdefault(glyph.start + k, at)
    made, last = [], line.width if line.is_rtl else 0.0
    for index in range(line.start, line.end):
        last = places.get(index, last)
        made.append(_caret(to_page(start + last, 0.0, 0.0)))
    made.append(_caret(to_page(start + (0.0 if line.is_rtl else line.width), 0.0, 0.0)))
    return made


def _caret(affine: Affine) -> Caret:
    x, y = affine.apply(0, 0)
    u, v = affine.apply(0, -1)
    return Caret(x, y, u - x, v - y)


class _Setter:
    """Shapes the lines of one text."""

    def __init__(self, letters: Letters, main: Face, source: FaceSource) -> None:
        self._letters, self._main, self._source = letters, main, source
        self.missing: list[str] = []

    def lines(self) -> list[_Line]:
        made, start = [], 0
        for text in self._letters.text.split("\n"):
            made.append(self._line(text, start))
            start += len(text) + 1
        return made

    def _line(self, text: str, start: int) -> _Line:
        runs = [r for part in directed_runs(text) for r in self._with_faces(text, *part)]
        glyphs: list[_Glyph] = []
        at = 0.0
        for run in _in_sight_order(runs):
            shaped, at = self._shape(text, run, at)
            glyphs += [_Glyph(g.outline, g.x, g.y, g.advance, g.start + start, g.end + start) for g in shaped]
        # Tracking stands between letters, not after the last.
        width = max(0.0, at - self._letters.tracking / 1000) if glyphs else 0.0
        return _Line(glyphs, width, start, start + len(text), paragraph_direction(text) == "rtl")

    def _with_faces(self, text: str, first: int, last: int, level: int) -> list[_Run]:
        """Cut a run where the face changes: marks stay with their base."""
        made: list[_Run] = []
        for n in range(first, last):
            is_mark = unicodedata.combining(text[n]) != 0 or unicodedata.category(text[n]) in ("Mn", "Me", "Cf")
            face = made[-1].face if is_mark and made else self._face_for(text[n])
            if made and made[-1].face is face:
                made[-1] = _Run(made[-1].first, n + 1, level, face)
            else:
                made.append(_Run(n, n + 1, level, face))
        return made

    def _face_for(self, character: str) -> Face:
        if character.isspace() or has_glyph(self._main, character):
            return self._main
        found = self._source.fallbacks(character)
        if not found:
            self.missing.append(character)
            return self._main
        return found[0]

    def _shape(self, text: str, run: _Run, at: float) -> tuple[list[_Glyph], float]:
        letters, face = self._letters, run.face
        font = _font(face, letters.weight)
        buffer = hb.Buffer()
        buffer.add_str(text, run.first, run.last - run.first)
        buffer.direction = "rtl" if run.level % 2 else "ltr"
        buffer.guess_segment_properties()
        # As CSS Text 3, 8.2: letters set apart do not join in optional ligatures.
        features = {"liga": False, "clig": False} if letters.tracking else {}
        hb.shape(font, buffer, features)
        unit = 1 / face.face.upem
        infos, positions = buffer.glyph_infos, buffer.glyph_positions
        starts = [*sorted({i.cluster for i in infos}), run.last]
        made = []
        for n, (info, position) in enumerate(zip(infos, positions, strict=True)):
            if info.codepoint == 0 and not text[info.cluster].isspace():
                self.missing.append(text[info.cluster])
            outline = _glyph(face, round(letters.weight, 2), info.codepoint) if info.codepoint else Outline(())
            ends_cluster = n + 1 == len(infos) or infos[n + 1].cluster != info.cluster
            advance = position.x_advance * unit + (letters.tracking / 1000 if ends_cluster else 0.0)
            x, y = at + position.x_offset * unit, -position.y_offset * unit
            end = starts[bisect_right(starts, info.cluster)]
            made.append(_Glyph(outline, x, y, advance, info.cluster, end))
            at += advance
        return made, at


def _font(face: Face, weight: float) -> hb.Font:
    font = hb.Font(face.face)
    limits = face.weights
    if limits is not None:
        font.set_variations({"wght": min(max(weight, limits[0]), limits[1])})
    return font


@lru_cache(_KEPT_GLYPHS)
def _glyph(face: Face, weight: float, glyph: int) -> Outline:
    sink = _GlyphSink(1 / face.face.upem)
    _font(face, weight).draw_glyph(glyph, _DRAW, sink)
    # Variable fonts draw strokes over one another; a whole line is then quickly known to be clean.
    return normalised(sink.outline())


class _GlyphSink:
    """Takes a glyph's drawing in font units, y up."""

    def __init__(self, unit: float) -> None:
        self._pen, self._unit = Pen(), unit

    def outline(self) -> Outline:
        return self._pen.outline()

    def move(self, x: float, y: float) -> None:
        self._pen.move(x * self._unit, -y * self._unit)

    def line(self, x: float, y: float) -> None:
        self._pen.line((x * self._unit, -y * self._unit))

    def quadratic(self, x1: float, y1: float, x: float, y: float) -> None:
        u = self._unit
        self._pen.quadratic(x1 * u, -y1 * u, x * u, -y * u)

    def cubic(self, x1: float, y1: float, x2: float, y2: float, x: float, y: float) -> None:
        u = self._unit
        self._pen.curve(x1 * u, -y1 * u, x2 * u, -y2 * u, x * u, -y * u)

    def close(self) -> None:
        self._pen.close()


def _draw_funcs() -> hb.DrawFuncs:
    made = hb.DrawFuncs()
    made.set_move_to_func(lambda x, y, sink: sink.move(x, y))
    made.set_line_to_func(lambda x, y, sink: sink.line(x, y))
    made.set_quadratic_to_func(lambda x1, y1, x, y, sink: sink.quadratic(x1, y1, x, y))
    made.set_cubic_to_func(lambda x1, y1, x2, y2, x, y, sink: sink.cubic(x1, y1, x2, y2, x, y))
    made.set_close_path_func(lambda sink: sink.close())
    return made


_DRAW = _draw_funcs()


def _in_sight_order(runs: list[_Run]) -> list[_Run]:
    """Return runs from left to right: rule L2 of UAX 9."""
    made = list(runs)
    for level in (2, 1):
        start = 0
        while start < len(made):
            end = start
            while end < len(made) and made[end].level >= level:
                end += 1
            made[start:end] = made[start:end][::-1]
            start = max(end, start + 1)
    return made
