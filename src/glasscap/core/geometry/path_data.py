"""SVG path data (SVG 2, 9.3): read into outlines, written from them."""

import math
import re
from collections import OrderedDict
from collections.abc import Iterator
from threading import Lock

import msgspec
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import segment_starts
from glasscap.core.geometry.outline import FillRule, Outline, Points
from glasscap.core.geometry.pen import Pen

Letters = NDArray[np.uint8]

FARTHEST = 1e7
MOST_SEGMENTS = 200_000

_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_GAP = re.compile(r"[ \t\n\f\r]*,?[ \t\n\f\r]*")
_SPACE = re.compile(r"[ \t\n\f\r]*")
_M, _L, _C, _Z = b"MLCZ"
# Path data just written is soon read: at every step of a drag, at every key of a text.
_REMEMBERED = 8
# Points that belong to a command's letter.
_POINTS = np.zeros(128, np.int64)
_POINTS[[_M, _L, _C]] = 1, 1, 3
_PLAIN = re.compile(r"(?:M[-0-9.e ]+(?:[LC][-0-9.e ]+)*Z)+")
_COMMANDS, _NUMBERS = re.compile(r"[MLCZ]"), re.compile(r"[-0-9.e ]+")
_ARGUMENTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7, "Z": 0}


def read_path_data(data: str, fill_rule: FillRule = "nonzero") -> Outline:
    """Read path data; open subpaths are closed, as filling closes them.

    What follows an error in the data is left out, as SVG 2, 9.5.4 asks.

    Raises
    ------
    ShapeError
        For data without a whole segment, with coordinates beyond 1e7, or with more than 200 000 segments.
    """
    commands = _WRITTEN.get(data) or _read_plain(data)
    plain = None if commands is None else _plain_outline(commands, fill_rule)
    if plain is not None:
        return plain
    writer = _Writer()
    for command, numbers in _commands(data):
        writer.take(command, numbers)
    outline = writer.outline(fill_rule)
    if not outline.contours:
        raise ShapeError("Path data", "there is no shape in it", 'it looks like "M0 0 L100 0 L50 80 Z"')
    return outline


class _Commands(Struct, frozen=True, eq=False):
    """Letters M, L, C and Z, and the points of all of them in a row."""

    kinds: Letters
    points: Points


class _Written:
    """The commands of the path data written last, any thread's."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, _Commands] = OrderedDict()
        self._lock = Lock()

    def get(self, data: str) -> _Commands | None:
        with self._lock:
            return self._known.get(data)

    def add(self, data: str, commands: _Commands) -> None:
        with self._lock:
            self._known[data] = commands
            if len(self._known) > _REMEMBERED:
                self._known.popitem(last=False)


_WRITTEN = _Written()


def _read_plain(data: str) -> _Commands | None:
    """Read data as `write_path_data` writes it, many times as fast; None for any other."""
    if _PLAIN.fullmatch(data) is None:
        return None
    numbers = np.array(_COMMANDS.sub(" ", data).split(), np.float64)
    if len(numbers) % 2 or not np.abs(numbers).max() <= FARTHEST:
        return None
    kinds = np.frombuffer(_NUMBERS.sub("", data).encode(), np.uint8)
    points = numbers.reshape(-1, 2)
    return _Commands(kinds, points) if _POINTS[kinds].sum() == len(points) else None


def _plain_outline(commands: _Commands, fill_rule: FillRule) -> Outline | None:
    """Return the contours of commands (M, then L or C, Z of each), all segments at once; None for no contour."""
    kinds, points = commands.kinds, commands.points
    moves, closings = np.flatnonzero(kinds == _M), np.flatnonzero(kinds == _Z)
    ends = np.cumsum(_POINTS[kinds]) - 1
    # Closing is a straight side to where the contour began.
    ends[closings] = ends[moves]
    segments = np.flatnonzero(kinds != _M)
    # Rows are taken rather than picked by an index: of two columns that is many times as fast.
    start, end = points.take(ends[segments - 1], axis=0), points.take(ends[segments], axis=0)
    third = (end - start) / 3
    is_curve = kinds[segments] == _C
    curved = ends[segments[is_curve]]
    controls = (start + third, end - third)
    for places, back in zip(controls, (2, 1), strict=True):
        places[is_curve] = points.take(curved - back, axis=0)
    cubics = np.concatenate([*controls, end], axis=1)
    # A straight side without length is none.
    kept = is_curve | (_largest(third) > 0)
    number = np.searchsorted(moves, segments[kept], side="right") - 1
    counts = np.bincount(number, minlength=len(moves))
    has_any = counts > 0
    lengths = 3 * counts[has_any] + 1
    if not len(lengths):
        return None
    # Before each contour's segments stands the point it begins at; of a contour without any, nothing.
    begins = np.zeros(int(lengths.sum()), np.bool_)
    begins[np.cumsum(lengths) - lengths] = True
    # One complex number a point: those are placed by a mask many times as fast as pairs.
    made = np.empty(len(begins), np.complex128)
    made[begins] = points.take(ends[moves[has_any]], axis=0).view(np.complex128)[:, 0]
    made[~begins] = cubics.compress(kept, axis=0).reshape(-1, 2).view(np.complex128)[:, 0]
    return Outline.of_points(made.view(np.float64).reshape(-1, 2), lengths, fill_rule)


def _commands(data: str) -> Iterator[tuple[str, list[float]]]:
    """Yield (letter, numbers) one segment at a time, up to the first error."""
    at, letter = _SPACE.match(data, 0).end(), ""  # type: ignore[union-attr]
    if at < len(data) and data[at] not in "Mm":
        return
    while at < len(data):
        if data[at].isalpha():
            letter = data[at]
            if letter.upper() not in _ARGUMENTS:
                return
            at = _SPACE.match(data, at + 1).end()  # type: ignore[union-attr]
        elif not letter or letter in "Zz":
            return
        numbers, at, is_whole = _arguments(data, at, letter.upper())
        if not is_whole:
            return
        yield letter, numbers
        # Coordinates after a move, with no letter, are a line.
        letter = {"M": "L", "m": "l"}.get(letter, letter)


def _arguments(data: str, at: int, kind: str) -> tuple[list[float], int, bool]:
    numbers: list[float] = []
    for place in range(_ARGUMENTS[kind]):
        if kind == "A" and place in (3, 4):
            if at >= len(data) or data[at] not in "01":
                return numbers, at, False
            numbers.append(float(data[at]))
            at += 1
        else:
            found = _NUMBER.match(data, at)
            if found is None:
                return numbers, at, False
            numbers.append(float(found[0]))
            at = found.end()
        at = _GAP.match(data, at).end()  # type: ignore[union-attr]
    return numbers, at, True


class _Writer:
    """Follows the current point and the last control point."""

    def __init__(self) -> None:
        self._pen, self._count = Pen(), 0
        self._is_open = False
        self._start = self._at = (0.0, 0.0)
        self._control: tuple[float, float] | None = None
        self._last = ""

    def outline(self, fill_rule: FillRule) -> Outline:
        self._end()
        return self._pen.outline(fill_rule)

    def take(self, letter: str, numbers: list[float]) -> None:
        kind = letter.upper()
        x0, y0 = self._at if letter.islower() else (0.0, 0.0)
        self._count += 1
        if self._count > MOST_SEGMENTS:
            raise ShapeError("Path data", f"it has more than {MOST_SEGMENTS} segments", "simplify it first")
        if kind == "Z":
            self._end()
            self._at = self._start
        elif kind == "A":
            self._arc(numbers, numbers[5] + x0, numbers[6] + y0)
        elif kind in "HV":
            to = (numbers[0] + x0, self._at[1]) if kind == "H" else (self._at[0], numbers[0] + y0)
            self._segment("L", [to])
        else:
            pairs = [(numbers[n] + x0, numbers[n + 1] + y0) for n in range(0, len(numbers), 2)]
            self._segment(kind, pairs)
        self._last = kind

    def _segment(self, kind: str, pairs: list[tuple[float, float]]) -> None:
        if any(not abs(v) <= FARTHEST for pair in pairs for v in pair):
            raise ShapeError("Path data", f"a coordinate is beyond {FARTHEST:g}", "scale the drawing down")
        if kind == "M":
            self._end()
            self._start = self._at = pairs[0]
            return
        self._begin()
        if kind == "L":
            self._pen.line(pairs[0])
        elif kind in "CS":
            first = self._reflected("CS") if kind == "S" else pairs[0]
            second = pairs[-2]
            self._pen.curve(*first, *second, *pairs[-1])
            self._control = second
        else:
            control = self._reflected("QT") if kind == "T" else pairs[0]
            self._pen.quadratic(*control, *pairs[-1])
            self._control = control
        self._at = pairs[-1]

    def _reflected(self, kinds: str) -> tuple[float, float]:
        if self._last not in kinds or not self._last or self._control is None:
            return self._at
        return 2 * self._at[0] - self._control[0], 2 * self._at[1] - self._control[1]

    def _begin(self) -> None:
        if not self._is_open:
            self._pen.move(*self._at)
            self._is_open = True

    def _end(self) -> None:
        if self._is_open:
            self._pen.close()
        self._is_open = False

    def _arc(self, numbers: list[float], x: float, y: float) -> None:
        """Add an elliptical arc by SVG 2, appendix B.2.4 and B.2.5."""
        rx, ry, turn = abs(numbers[0]), abs(numbers[1]), math.radians(numbers[2] % 360)
        x0, y0 = self._at
        if (x, y) == (x0, y0):
            return
        if rx == 0 or ry == 0 or max(abs(x), abs(y), rx, ry) > FARTHEST:
            self._segment("L", [(x, y)])
            return
        self._begin()
        c, s = math.cos(turn), math.sin(turn)
        u, v = (x0 - x) / 2, (y0 - y) / 2
        px, py = c * u + s * v, -s * u + c * v
        excess = (px / rx) ** 2 + (py / ry) ** 2
        if excess > 1:
            rx, ry = rx * math.sqrt(excess), ry * math.sqrt(excess)
        rest = (rx * ry) ** 2 / ((rx * py) ** 2 + (ry * px) ** 2) - 1
        factor = math.sqrt(max(rest, 0.0)) * (-1 if numbers[3] == numbers[4] else 1)
        qx, qy = factor * rx * py / ry, -factor * ry * px / rx
        cx, cy = c * qx - s * qy + (x0 + x) / 2, s * qx + c * qy + (y0 + y) / 2
        start = math.degrees(math.atan2((py - qy) / ry, (px - qx) / rx))
        end = math.degrees(math.atan2((-py - qy) / ry, (-px - qx) / rx))
        sweep = (end - start) % 360
        if numbers[4] == 0:
            sweep -= 360
        self._pen.arc(cx, cy, rx, start, sweep, ry=ry, turn=numbers[2] % 360)
        # The curve ends on the very point that was given.
        self._pen.line((x, y))
        self._at = (x, y)


def write_path_data(outline: Outline, decimals: int = 6) -> str:
    """Return an outline as path data: M, L for straight segments, C, Z; `decimals` after the point."""
    if not outline.contours:
        return ""
    points, first = outline.points, segment_starts(outline)
    start, one, other, end = (points.take(first + n, axis=0) for n in range(4))
    third = (end - start) / 3
    slack = 1e-9 * (1 + _largest(third) + _largest(end))
    off = np.maximum(_largest(one - start - third), _largest(end - other - third))
    is_line = off < slack
    last = np.cumsum(outline.lengths // 3) - 1
    closes, opens = np.zeros((2, len(first)), np.bool_)
    closes[last], opens[0], opens[last[:-1] + 1] = True, True, True
    kept = np.ones(len(points), np.bool_)
    kept[first[is_line] + 1] = kept[first[is_line] + 2] = False
    # The last straight side is left to the closing.
    kept[first[is_line & closes] + 3] = False
    # Adding zero turns a negative zero into one.
    numbers = np.round(points[kept], decimals) + 0.0
    letters = np.zeros((len(first), 3), np.uint8)
    letters[opens, 0], letters[~is_line, 1], letters[is_line & ~closes, 1], letters[closes, 2] = _M, _C, _L, _Z
    commands = _Commands(letters[letters != 0], numbers)
    data = _text_of(commands)
    if np.abs(numbers).max() <= FARTHEST:
        # Read again it is this very outline.
        _WRITTEN.add(data, commands)
    return data


def _text_of(commands: _Commands) -> str:
    """Return commands as text, their numbers as short as they can be read again.

    A library writes them as one list, and letters then take the place of its commas: several times as fast as
    formatting thousands of numbers.
    """
    numbers = msgspec.json.encode(commands.points.reshape(-1).tolist())
    numbers = numbers.removesuffix(b".0]").removesuffix(b"]") + b"]"
    text = np.frombuffer(numbers.replace(b".0,", b","), np.uint8).copy()
    gaps = np.flatnonzero(text == ord(","))
    text[gaps] = ord(" ")
    # Before each point's first number; the brackets make room for the first and the last letter.
    before = np.append(0, gaps[1::2])
    counts = _POINTS[commands.kinds]
    has_points = counts > 0
    text[before[(np.cumsum(counts) - counts)[has_points]]] = commands.kinds[has_points]
    text[-1] = _Z
    moves = (np.cumsum(counts) - counts)[commands.kinds == _M]
    return np.insert(text, before[moves[1:]], _Z).tobytes().decode()


def _largest(points: Points) -> Points:
    """Return the larger coordinate of each point, without its sign; NumPy is slow along so short an axis."""
    return np.asarray(np.maximum(np.abs(points[:, 0]), np.abs(points[:, 1])))
