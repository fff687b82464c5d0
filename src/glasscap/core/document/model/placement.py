"""Placements of shapes and photos: centre, size or scale, turn, mirror, all in sheet pixels."""

import math

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Affine, Box, Similarity, normal_degrees

# Wider than any sheet that fits in memory; keeps every product finite.
FARTHEST = 1e7
SMALLEST = 1e-3


def _check(name: str, value: float, low: float, high: float) -> None:
    if not math.isfinite(value):
        raise PlacementError(name, f"{value} is not a number", "type a number")
    if not low <= value <= high:
        raise PlacementError(name, f"{value:g} is out of range", f"use {low:g} to {high:g}")


class ShapePlacement(Struct, frozen=True, forbid_unknown_fields=True):
    """A shape's centre (x, y), size before turning, turn in degrees clockwise, mirrored left to right.

    `keeps_ratio` holds width to height while sizing.
    Raises PlacementError for numbers that are not finite, or a size that is not positive.
    """

    x: float
    y: float
    width: float
    height: float
    rotation: float = 0.0
    is_mirrored: bool = False
    keeps_ratio: bool = False

    def __post_init__(self) -> None:
        _check("X", self.x, -FARTHEST, FARTHEST)
        _check("Y", self.y, -FARTHEST, FARTHEST)
        _check("Width", self.width, SMALLEST, FARTHEST)
        _check("Height", self.height, SMALLEST, FARTHEST)
        _check("Rotation", self.rotation, -FARTHEST, FARTHEST)

    @property
    def to_sheet(self) -> Affine:
        """The map from the shape's own centred px to sheet px."""
        mirror = Affine.scaling(-1.0 if self.is_mirrored else 1.0, 1.0)
        return Affine.translation(self.x, self.y).after(Affine.rotation(self.rotation)).after(mirror)

    @property
    def box(self) -> Box:
        """The box of the turned frame of the shape (not of its curve)."""
        return frame_box(self.to_sheet, -self.width / 2, -self.height / 2, self.width, self.height)

    def point(self, u: float, v: float) -> tuple[float, float]:
        """Return the sheet point at (u, v) of the frame, each -1 to 1."""
        return self.to_sheet.apply(u * self.width / 2, v * self.height / 2)

    @property
    def is_upright(self) -> bool:
        """Whether the turn is a whole number of quarters."""
        return self.rotation % 90.0 == 0.0

    def moved(self, dx: float, dy: float) -> "ShapePlacement":
        """Return it shifted."""
        return replace(self, x=self.x + dx, y=self.y + dy)

    def under(self, change: Similarity) -> "ShapePlacement":
        """Return it under a similarity."""
        x, y = change.apply(self.x, self.y)
        size = (self.width * change.scale, self.height * change.scale)
        turn = normal_degrees(self.rotation + change.degrees)
        return replace(self, x=x, y=y, width=size[0], height=size[1], rotation=turn)

    def on_whole_pixels(self) -> "ShapePlacement":
        """Return it shifted by at most half a pixel so that its upright box starts on a pixel line."""
        if not self.is_upright:
            return self
        return self.moved(*whole_pixel_shift(self.box))


class ContentPlacement(Struct, frozen=True, forbid_unknown_fields=True):
    """A photo's centre (x, y), scale (sheet px per photo px), turn in degrees clockwise, mirror.

    `scale_x` and `scale_y` are equal unless the photo was distorted by name.
    Raises PlacementError for numbers that are not finite, or a scale that is not positive.
    """

    x: float
    y: float
    scale_x: float = 1.0
    scale_y: float = 1.0
    rotation: float = 0.0
    is_mirrored: bool = False

    def __post_init__(self) -> None:
        _check("X", self.x, -FARTHEST, FARTHEST)
        _check("Y", self.y, -FARTHEST, FARTHEST)
        _check("Scale", self.scale_x, 1e-5, 1e5)
        _check("Scale", self.scale_y, 1e-5, 1e5)
        _check("Rotation", self.rotation, -FARTHEST, FARTHEST)

    def to_sheet(self, width: int, height: int) -> Affine:
        """Return the map from photo px (0..width, 0..height) to sheet px."""
        sx = -self.scale_x if self.is_mirrored else self.scale_x
        turn = Affine.translation(self.x, self.y).after(Affine.rotation(self.rotation))
        return turn.after(Affine.scaling(sx, self.scale_y)).after(Affine.translation(-width / 2, -height / 2))

    def moved(self, dx: float, dy: float) -> "ContentPlacement":
        """Return it shifted."""
        return replace(self, x=self.x + dx, y=self.y + dy)

    def under(self, change: Similarity) -> "ContentPlacement":
        """Return it under a similarity."""
        x, y = change.apply(self.x, self.y)
        return replace(
            self,
            x=x,
            y=y,
            scale_x=self.scale_x * change.scale,
            scale_y=self.scale_y * change.scale,
            rotation=normal_degrees(self.rotation + change.degrees),
        )


def frame_box(to_sheet: Affine, x: float, y: float, width: float, height: float) -> Box:
    """Return the box of a mapped rectangle."""
    corners = [to_sheet.apply(x + i * width, y + j * height) for i, j in ((0, 0), (1, 0), (1, 1), (0, 1))]
    xs, ys = zip(*corners, strict=True)
    return Box(min(xs), min(ys), max(xs), max(ys))


def whole_pixel_shift(box: Box) -> tuple[float, float]:
    """Return the shift of at most half a pixel that puts the box's corner on pixel lines."""
    return math.floor(box.x0 + 0.5) - box.x0, math.floor(box.y0 + 0.5) - box.y0
