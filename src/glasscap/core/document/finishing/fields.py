"""Fields of each finish that an edit may change: those of its struct, all optional."""

from typing import TypedDict, TypeVar, cast

from glasscap.core.document.model.finishes import (
    BandStroke,
    BevelSide,
    Cap,
    FeatherSide,
    Join,
    MaskKind,
    PictureMask,
    Rough,
    RoughKind,
    Shadow,
    Side,
    SoftContour,
    Stroke,
    StrokeTexture,
)
from glasscap.core.document.model.paint import Paint

Fields = TypeVar("Fields")


class RoughFields(TypedDict, total=False):
    """Fields of `Rough`."""

    kind: RoughKind
    amount: float
    scale: float
    seed: int
    is_on: bool


class PictureMaskFields(TypedDict, total=False):
    """Fields of `PictureMask` but the picture itself."""

    kind: MaskKind
    is_inverted: bool
    is_on: bool
    x: float
    y: float
    size: float
    rotation: float
    is_stretched: bool


class EdgeFields(TypedDict, total=False):
    """Fields of `Edge`."""

    inset: float
    join: Join
    feather: float
    feather_side: FeatherSide
    strength: float
    feathers_strokes: bool
    rough: Rough | None
    mask: PictureMask | None
    soft: SoftContour | None
    is_on: bool


class SoftFields(TypedDict, total=False):
    """Fields of `SoftContour`."""

    width: float
    strokes: tuple[BandStroke, ...]
    cleans_rim: bool
    is_on: bool


class StrokeFields(TypedDict, total=False):
    """Fields of `Stroke`."""

    width: float
    paint: Paint
    side: Side
    gap: float
    opacity: float
    join: Join
    mitre_limit: float
    dashes: tuple[float, ...]
    dash_offset: float
    cap: Cap
    has_even_ends: bool
    texture: StrokeTexture
    seed: int
    is_on: bool


class LightFields(TypedDict, total=False):
    """Fields of `Shadow`, `Glow` and `Bevel`; `side` is the bevel's."""

    dx: float
    dy: float
    blur: float
    spread: float
    colour: str
    opacity: float
    is_clear_beneath: bool
    width: float
    softness: float
    direction: float
    elevation: float
    highlight: str
    shade: str
    side: BevelSide
    is_on: bool


class MountFields(TypedDict, total=False):
    """Fields of `Mount`."""

    top: float
    right: float
    bottom: float
    left: float
    corner: float
    paint: Paint
    stroke: Stroke | None
    shadow: Shadow | None
    opacity: float
    is_on: bool


class AdjustmentFields(TypedDict, total=False):
    """Fields of `Adjustments`."""

    exposure_ev: float
    contrast: float
    saturation: float
    warmth: float
    blur: float
    is_on: bool


def one_field(kind: type[Fields], name: str, value: object) -> Fields:
    """Return the change of one field by its name. Raises KeyError for a name that `kind` has not."""
    if name not in kind.__annotations__:
        raise KeyError(f"{kind.__name__} has no {name}")
    return cast("Fields", {name: value})
