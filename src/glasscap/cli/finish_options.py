"""Options that give a cutout its finishes: values as text, in the order a designer would say them."""

import argparse
import math
from collections.abc import Callable, Iterable
from functools import partial
from typing import Any, TypeVar, get_args

from msgspec.structs import replace

from glasscap.core.document.finishing.sets import find_set
from glasscap.core.document.model.finishes import (
    Adjustments,
    Bevel,
    Edge,
    FeatherSide,
    Finishes,
    Glow,
    Join,
    Mount,
    Rough,
    RoughKind,
    Shadow,
    Side,
    SoftContour,
    Stroke,
)
from glasscap.core.document.model.paint import ColourPaint, read_colour
from glasscap.core.errors import CallError, FinishError

T = TypeVar("T")
_OFF = ("0", "none")
_COLOUR_HELP = "COLOUR is #rrggbb, #rrggbbaa or a CSS name; 0 or none turns a finish off"


def add_finish_options(parser: argparse.ArgumentParser) -> None:
    """Add the finishes' options."""
    group = parser.add_argument_group("finishes", _COLOUR_HELP)
    add = group.add_argument
    add("--finishes", metavar="NAME", help="begin with a shipped set of finishes")
    add("--inset", metavar="N", help="move the edge inwards (negative: outwards), px")
    add("--feather", metavar="R[,inside|outside]", help="fade the edge over a radius, px")
    add("--soft", metavar="WIDTH", help="a soft contour: the photo's own matte in a band along the edge, px")
    add("--clean-rim", action="store_true", help="with --soft: the object's own colours at its rim")
    add("--strength", metavar="N", help="raise the feather's alpha to the power 1 to 8")
    add("--rough", metavar="KIND,AMOUNT[,SEED]", help="brushed, torn, deckled or stamped")
    add(
        "--stroke",
        action="append",
        metavar="WIDTH,COLOUR[,inside|centre|outside][,gap=N][,dash=A B][,join=round|mitre|bevel]",
        help="add a stroke; the first lies on top",
    )
    add("--shadow", action="append", metavar="DX,DY,BLUR,COLOUR[,spread=N]", help="add a drop shadow")
    add("--inner-shadow", metavar="DX,DY,BLUR,COLOUR[,spread=N]")
    add("--glow", metavar="BLUR,COLOUR[,inside]", help="light around the edge, or inside it")
    add("--bevel", metavar="WIDTH[,DIRECTION[,ELEVATION]][,outer]", help="a slope lit from DIRECTION, degrees")
    add("--mount", metavar="T,R,B,L,COLOUR", help="a plate behind, with four margins")
    add("--backdrop", metavar="COLOUR", help="a colour behind it all")
    add("--opacity", metavar="SHARE", help="0 to 1")
    add("--exposure", metavar="EV", help="double the photo's light per step")


def finishes_of(call: argparse.Namespace) -> Finishes:
    """Return the finishes a call asks for. Raises CallError naming the option."""
    start = _read("--finishes", call.finishes, find_set) or Finishes()
    strokes = _each("--stroke", call.stroke, _stroke)
    shadows = _each("--shadow", call.shadow, _shadow)
    lights = replace(start.lights, **_given({
        "shadows": shadows,
        "inner_shadow": _option("--inner-shadow", call.inner_shadow, _shadow),
        "bevel": _option("--bevel", call.bevel, _bevel),
        **_glows(call.glow),
    }))  # fmt: skip
    edge = _with_clean_rim(_edge(start.edge, call), call)
    rest = _given({"strokes": strokes, "mount": _option("--mount", call.mount, _mount)})
    return replace(start, edge=edge, lights=lights, **rest)


def adjustments_of(call: argparse.Namespace) -> Adjustments:
    """Return the photo adjustments a call asks for. Raises CallError."""
    exposure = _read("--exposure", call.exposure, _number)
    return Adjustments() if exposure is None else _read("--exposure", exposure, Adjustments) or Adjustments()


def opacity_of(call: argparse.Namespace) -> float:
    """Return the cutout's opacity. Raises CallError."""
    value = _read("--opacity", call.opacity, _number)
    if value is not None and not 0 <= value <= 1:
        raise CallError(f"--opacity {call.opacity}", "it is out of range", "give 0 to 1")
    return 1.0 if value is None else value


def backdrop_of(call: argparse.Namespace) -> ColourPaint | None:
    """Return the colour behind it all. Raises CallError."""
    return (
        None if call.backdrop in (None, *_OFF) else ColourPaint(_read("--backdrop", call.backdrop, colour) or "")
    )


def colour(text: str) -> str:
    """Return a colour as "#rrggbb" or "#rrggbbaa". Raises ValueError."""
    try:
        return read_colour(text)
    except FinishError:
        raise ValueError(f"{text.strip()!r} is no colour") from None


def _read(option: str, text: Any, read: Callable[[Any], T]) -> T | None:
    """Return what a text means, None for no text; every fault names the option."""
    if text is None:
        return None
    try:
        return read(text)
    except FinishError as error:
        raise CallError(f"{option} {text}", f"{error.what}: {error.why}", error.remedy) from error
    except ValueError as error:
        raise CallError(f"{option} {text}", str(error), "see glasscap cut --help") from error


class _Absent:
    """No such option in the call."""


def _option(option: str, text: str | None, read: Callable[[str], T]) -> T | type[_Absent] | None:
    """Return a value, None for "off", `_Absent` for no option."""
    if text is None:
        return _Absent
    return None if text.strip().lower() in _OFF else _read(option, text, read)


def _each(option: str, texts: list[str] | None, read: Callable[[str], T]) -> tuple[T, ...] | type[_Absent]:
    if texts is None:
        return _Absent
    found = (_option(option, text, read) for text in texts)
    return tuple(f for f in found if f is not None and not isinstance(f, type))


def _given(values: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in values.items() if value is not _Absent}


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise ValueError(f"{text!r} is no number") from None
    if not math.isfinite(value):
        raise ValueError(f"{text!r} is not a finite number")
    return value


def _split(text: str, least: int, most: int) -> tuple[list[str], dict[str, str]]:
    """Return values in order, and those of the form key=value."""
    parts = [p.strip() for p in text.split(",")]
    plain = [p for p in parts if "=" not in p]
    named = dict(p.split("=", 1) for p in parts if "=" in p)
    if not least <= len(plain) <= most:
        raise ValueError(f"it has {len(plain)} values, not {least}" + (f" to {most}" if most > least else ""))
    return plain, named


def _only(named: dict[str, str], allowed: Iterable[str]) -> None:
    for key in named:
        if key not in allowed:
            raise ValueError(f"there is no {key}=")


def _word(text: str, kind: Any, name: str) -> str:
    choices = get_args(kind)
    if text not in choices:
        raise ValueError(f"{text!r} is no {name}, use {', '.join(choices)}")
    return text


def _edge(edge: Edge, call: argparse.Namespace) -> Edge:
    for option, changes_of in _EDGE_OPTIONS.items():
        text = getattr(call, option)
        if text is not None:
            start = edge
            read = partial(_changed_edge, start, changes_of)
            edge = _read(f"--{option}", text, read) or edge
    return edge


def _with_clean_rim(edge: Edge, call: argparse.Namespace) -> Edge:
    if not call.clean_rim:
        return edge
    if edge.soft is None:
        raise CallError("--clean-rim", "there is no soft contour", "give --soft WIDTH too")
    return replace(edge, soft=replace(edge.soft, cleans_rim=True))


def _changed_edge(edge: Edge, changes_of: Callable[[str], dict[str, Any]], text: str) -> Edge:
    return replace(edge, **changes_of("0" if text.strip().lower() == "none" else text))


def _feather_changes(text: str) -> dict[str, Any]:
    radius, side = _feather(text)
    return {"feather": radius, "feather_side": side}


_EDGE_OPTIONS: dict[str, Callable[[str], dict[str, Any]]] = {
    "inset": lambda text: {"inset": _number(text)},
    "feather": _feather_changes,
    "soft": lambda text: {"soft": SoftContour(_number(text)) if _number(text) else None},
    "strength": lambda text: {"strength": _number(text) or 1.0},
    "rough": lambda text: {"rough": None if text == "0" else _rough(text)},
}


def _feather(text: str) -> tuple[float, FeatherSide]:
    plain, named = _split(text, 1, 2)
    _only(named, ())
    side: Any = _word(plain[1], FeatherSide, "side") if len(plain) == 2 else "centred"
    return _number(plain[0]), side


def _rough(text: str) -> Rough:
    plain, named = _split(text, 2, 3)
    _only(named, ())
    kind: Any = _word(plain[0], RoughKind, "rough edge")
    amount = _number(plain[1])
    seed = int(_number(plain[2])) if len(plain) == 3 else 1
    return Rough(kind, amount, max(4 * amount, 0.5), seed)


def _stroke(text: str) -> Stroke:
    plain, named = _split(text, 2, 3)
    _only(named, ("gap", "dash", "join"))
    side: Any = _word(plain[2], Side, "side") if len(plain) == 3 else "outside"
    join: Any = _word(named.get("join", "round"), Join, "join")
    dashes = tuple(_number(v) for v in named.get("dash", "").split())
    gap = _number(named.get("gap", "0"))
    return Stroke(_number(plain[0]), ColourPaint(colour(plain[1])), side, gap, join=join, dashes=dashes)


def _shadow(text: str) -> Shadow:
    plain, named = _split(text, 4, 4)
    _only(named, ("spread",))
    dx, dy, blur = (_number(v) for v in plain[:3])
    spread = _number(named.get("spread", "0"))
    return Shadow(dx, dy, blur, spread, colour(plain[3]), 1.0)


def _glows(text: str | None) -> dict[str, Any]:
    glow = _option("--glow", text, _glow)
    if glow is _Absent:
        return {}
    if not isinstance(glow, tuple):
        return {"outer_glow": None, "inner_glow": None}
    return {glow[0]: glow[1]}


def _glow(text: str) -> tuple[str, Glow]:
    plain, named = _split(text, 2, 3)
    _only(named, ("spread",))
    if len(plain) == 3 and plain[2] != "inside":
        raise ValueError(f"{plain[2]!r} is no side, use inside")
    spread = _number(named.get("spread", "0"))
    return (
        "inner_glow" if len(plain) == 3 else "outer_glow",
        Glow(_number(plain[0]), spread, colour(plain[1]), 1.0),
    )


def _bevel(text: str) -> Bevel:
    plain, named = _split(text, 1, 4)
    _only(named, ("softness",))
    side: Any = "outer" if plain[-1] == "outer" else "inner"
    numbers = [_number(v) for v in plain if v not in ("outer", "inner")]
    if not numbers:
        raise ValueError("it has no width")
    width = numbers[0]
    default = Bevel()
    direction = numbers[1] if len(numbers) > 1 else default.direction
    elevation = numbers[2] if len(numbers) > 2 else default.elevation
    softness = _number(named.get("softness", str(width * 0.4)))
    return replace(default, width=width, softness=softness, direction=direction, elevation=elevation, side=side)


def _mount(text: str) -> Mount:
    plain, named = _split(text, 5, 5)
    _only(named, ("corner",))
    top, right, bottom, left = (_number(v) for v in plain[:4])
    corner = _number(named.get("corner", "0"))
    return Mount(top, right, bottom, left, corner, ColourPaint(colour(plain[4])))
