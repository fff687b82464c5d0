"""The fonts there are: those shipped for headlines and those installed on the system."""

import shutil
from collections.abc import Sequence
from functools import cached_property, lru_cache
from itertools import pairwise
from pathlib import Path
from threading import Lock

from msgspec import Struct

from glasscap.core.errors import GlassCapError, ShapeError
from glasscap.core.shapes.typesetting import Face, has_glyph, load_face
from glasscap.core.work.other_program import answer_of_program
from glasscap.core.work.threads import daemon
from glasscap.files.atomic import read_bytes

SHIPPED = Path(__file__).parent / "fonts"
_FORMAT = "%{file}\t%{index}\t%{family[0]}\t%{style[0]}\t%{weight}\t%{slant}\t%{variable}\t%{fontformat}\n"
_SECONDS = 20
# fontconfig's weights and the CSS weights they stand for (fontconfig's FcWeightToOpenTypeDouble table).
_WEIGHTS = ((0, 100), (40, 200), (50, 300), (55, 350), (75, 380), (80, 400), (100, 500), (180, 600), (200, 700),
            (205, 800), (210, 900), (215, 950))  # fmt: skip
_FORMATS = ("TrueType", "CFF")
_LARGEST = 64 << 20
_KEPT_FACES = 48


class FontFile(Struct, frozen=True):
    """One face of a family: where it lies, its weight (CSS), slant, and whether it is variable."""

    family: str
    path: str
    index: int = 0
    weight: float = 400.0
    is_italic: bool = False
    is_variable: bool = False
    is_shipped: bool = False


_OWN = (
    FontFile("Abril Fatface", "AbrilFatface-Regular.ttf", weight=400),
    FontFile("Alfa Slab One", "AlfaSlabOne-Regular.ttf", weight=400),
    FontFile("Anton", "Anton-Regular.ttf", weight=400),
    FontFile("Fredoka", "Fredoka[wdth,wght].ttf", is_variable=True),
    FontFile("Oswald", "Oswald[wght].ttf", is_variable=True),
    FontFile("Pacifico", "Pacifico-Regular.ttf", weight=400),
)
DEFAULT_FONT = "Anton"
_ONE_AT_A_TIME = Lock()


class FontBook:
    """Families by name; faces are read when they are asked for and kept."""

    def __init__(self, *, has_system: bool = True) -> None:
        self._has_system = has_system

    @cached_property
    def files(self) -> tuple[FontFile, ...]:
        """Every face, shipped ones first."""
        own = tuple(
            FontFile(f.family, str(SHIPPED / f.path), 0, f.weight, f.is_italic, f.is_variable, is_shipped=True)
            for f in _OWN
        )
        return (*own, *(_system_files() if self._has_system else ()))

    @cached_property
    def families(self) -> dict[str, tuple[FontFile, ...]]:
        """Faces by family: shipped families, then the system's by name."""
        made: dict[str, list[FontFile]] = {}
        for font in self.files:
            found = made.setdefault(font.family, [])
            if font.is_shipped or not (found and found[0].is_shipped):
                found.append(font)
        shipped = [f.family for f in _OWN]
        others = sorted((n for n in made if n not in shipped), key=str.casefold)
        return {name: tuple(made[name]) for name in (*shipped, *others)}

    @property
    def replacement(self) -> Face:
        """The face that stands in for a missing family."""
        face = self.face(DEFAULT_FONT, 400, is_italic=False)
        assert face is not None
        return face

    def face(self, font: str, weight: float, *, is_italic: bool) -> Face | None:
        """Return the face of a family nearest to a weight, or None where there is none that can be read."""
        for found in sorted(self.families.get(font, ()), key=lambda f: _distance(f, weight, is_italic=is_italic)):
            try:
                return _loaded(found.path, found.index)
            except GlassCapError:
                continue
        return None

    def weights(self, font: str) -> tuple[float, ...]:
        """Return a family's weights; two for a variable one: the lowest and the highest."""
        files = self.families.get(font, ())
        for found in files:
            if found.is_variable:
                face = self.face(font, found.weight, is_italic=found.is_italic)
                if face is not None and face.weights is not None:
                    return face.weights
        return tuple(sorted({f.weight for f in files}))

    def is_variable(self, font: str) -> bool:
        """Whether a family has any weight between its lowest and its highest."""
        return any(f.is_variable for f in self.families.get(font, ()))

    def fallbacks(self, character: str) -> Sequence[Face]:
        """Return a face that has a character, of the system's or the shipped ones."""
        return _fallbacks(character, has_system=self._has_system)


def _distance(font: FontFile, weight: float, *, is_italic: bool) -> tuple[int, float]:
    return int(font.is_italic != is_italic), 0.0 if font.is_variable else abs(font.weight - weight)


@lru_cache(_KEPT_FACES)
def _loaded(path: str, index: int) -> Face:
    data = read_bytes(Path(path))
    if len(data) > _LARGEST:
        raise ShapeError(Path(path).name, "the font file is too large", "choose another font")
    return load_face(data, f"{path}#{index}", index)


@lru_cache(1024)
def _fallbacks(character: str, *, has_system: bool) -> tuple[Face, ...]:
    for own in _OWN:
        face = _loaded(str(SHIPPED / own.path), 0)
        if has_glyph(face, character):
            return (face,)
    if not has_system:
        return ()
    for found in _listed(f":charset={ord(character):x}"):
        try:
            face = _loaded(found.path, found.index)
        except GlassCapError:
            continue
        if has_glyph(face, character):
            return (face,)
    return ()


def list_ahead() -> None:
    """Ask for the system's fonts in a thread: of thousands that takes a second, for which nobody should wait."""
    daemon("fonts", _system_files).start()


def _system_files() -> tuple[FontFile, ...]:
    # A second caller waits for the one answer.
    with _ONE_AT_A_TIME:
        return _all_listed()


@lru_cache(1)
def _all_listed() -> tuple[FontFile, ...]:
    return _listed(":")


def _listed(pattern: str) -> tuple[FontFile, ...]:
    """Ask fontconfig; nothing where it is not installed or does not answer."""
    program = shutil.which("fc-list")
    if program is None:
        return ()
    answer = answer_of_program([program, pattern, f"--format={_FORMAT}"], longest_wait=_SECONDS)
    lines = (answer or b"").decode("utf-8", "replace").splitlines()
    return tuple(font for line in lines if (font := _font_of(line)) is not None)


def _font_of(line: str) -> FontFile | None:
    parts = line.split("\t")
    if len(parts) != 8 or parts[7] not in _FORMATS or not parts[2]:
        return None
    path, index, family, _style, weight, slant, variable, _ = parts
    try:
        # The upper half of the index names an instance of a variable font.
        number = int(index) & 0xFFFF
        is_variable = variable == "True"
        value = 400.0 if is_variable or not weight or weight.startswith("[") else _css_weight(float(weight))
        is_italic = bool(slant) and float(slant) > 0
    except ValueError:
        return None
    if int(index) >> 16:
        return None
    return FontFile(family, path, number, value, is_italic, is_variable)


def _css_weight(value: float) -> float:
    for (low, css), (high, css_high) in pairwise(_WEIGHTS):
        if low <= value <= high:
            return css + (css_high - css) * (value - low) / (high - low)
    return 400.0


def read_font(path: Path) -> Face:
    """Return the face of a font file. Raises FileProblemError, ShapeError."""
    return _loaded(str(path), 0)
