"""The one table of parametric shapes."""

from collections.abc import Iterable, Mapping
from difflib import get_close_matches

from glasscap.core.errors import ShapeError
from glasscap.core.shapes.library.badges import BADGES
from glasscap.core.shapes.library.frames import FRAMES
from glasscap.core.shapes.library.nature import NATURE
from glasscap.core.shapes.library.paper import PAPER
from glasscap.core.shapes.library.rectangle import CORNERS, rectangle_outline, rectangle_polygon
from glasscap.core.shapes.library.round import ROUND
from glasscap.core.shapes.library.signs import SIGNS
from glasscap.core.shapes.library.spec import Parameter, ShapeSpec
from glasscap.core.shapes.library.straight import STRAIGHT
from glasscap.core.shapes.library.talk import TALK

_FAR = 100_000.0
_CORNER_LABELS = ("Top left", "Top right", "Bottom right", "Bottom left")

RECTANGLE = ShapeSpec(
    "rectangle",
    "Rectangle",
    "straight",
    ("box", "card", "rounded", "square", "panel", "photo"),
    rectangle_outline,
    (
        Parameter("corner", "Corners", 0.0, _FAR, 0.0, sets=CORNERS),
        *(Parameter(name, label, 0.0, _FAR, 0.0) for name, label in zip(CORNERS, _CORNER_LABELS, strict=True)),
    ),
    polygon=rectangle_polygon,
)

GROUPS: Mapping[str, str] = {
    "round": "Round",
    "straight": "Straight",
    "stars": "Stars and badges",
    "nature": "Nature",
    "paper": "Paper",
    "talk": "Talk and point",
    "frames": "Frames",
    "letters": "Signs",
}

_ALL = (*ROUND, RECTANGLE, *STRAIGHT, *BADGES, *NATURE, *PAPER, *TALK, *FRAMES, *SIGNS)

# Width over height that shapes without proportions of their own look best at; 1 where none is named.
_USUAL: Mapping[str, float] = {
    "ellipse": 1.4, "lens": 1.7, "capsule": 2.2, "cushion": 1.3, "diamond": 0.8, "kite": 0.75, "slanted": 1.5,
    "trapezoid": 1.3, "chevron": 1.6, "cut-corners": 4 / 3, "zigzag": 2.2, "banner": 2.6, "plaque": 1.5,
    "pennant": 0.7, "kiln": 0.8, "ticket": 2.0, "tag": 1.9, "stamp": 0.85, "folded-page": 0.75, "torn-strip":
    2.2, "torn-page": 0.9, "torn-scrap": 1.2, "tape": 2.6, "envelope": 1.4, "folder": 1.3, "receipt": 0.55,
    "notebook": 0.75, "bubble": 1.3, "box-bubble": 1.3, "arrow": 1.6, "double-arrow": 2.0, "bent-arrow": 1.2,
    "flag": 1.5, "frame": 4 / 3, "oval-frame": 0.8, "mat": 0.8, "arch": 0.72, "pointed-arch": 0.62, "arcade":
    1.4, "strips": 1.3, "circles": 1.5, "corner-marks": 4 / 3, "film": 2.4, "horseshoe": 0.9, "bracket": 0.5,
}  # fmt: skip

SHAPES: Mapping[str, ShapeSpec] = {spec.name: spec for spec in _ALL}


def usual_ratio(name: str) -> float:
    """Return the width over height a shape of the library looks best at where any will do."""
    return _USUAL.get(name, 1.0)


def find_shape(name: str) -> ShapeSpec:
    """Return the shape of that name. Raises ShapeError for an unknown one."""
    if name not in SHAPES:
        near = get_close_matches(name, SHAPES, 3) or ["circle", "rectangle", "star"]
        raise ShapeError(
            f"Shape {name!r}", "there is no such shape", f"choose from the library, such as {', '.join(near)}"
        )
    return SHAPES[name]


def complete_params(name: str, given: Iterable[tuple[str, float]] = ()) -> tuple[tuple[str, float], ...]:
    """Return every stored parameter of a shape in table order, defaults filled in.

    Raises
    ------
    ShapeError
        For an unknown shape or parameter, or a value out of its range.
    """
    spec = find_shape(name)
    known = {p.name: p for p in spec.parameters}
    values = {p.name: p.default for p in spec.stored}
    for key, value in given:
        if key not in known:
            choice = f"choose from {', '.join(known)}" if known else f"a {spec.name} has no parameters"
            raise ShapeError(f"Parameter {key!r}", f"a {spec.name} has no such parameter", choice)
        parameter = known[key]
        if not parameter.low <= value <= parameter.high:
            span = f"{parameter.low:g} to {parameter.high:g}"
            raise ShapeError(f"Parameter {key!r}", f"{value:g} is out of range", f"give {span}")
        values.update(dict.fromkeys(parameter.sets or (key,), value))
    return tuple(values.items())
