"""Light on a slope along the edge: Lambert's cosine law (Photometria, 1760), less what a level surface receives."""

import math

import numpy as np
import pytest

from glasscap.core.document.model.finishes import Bevel
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.scan import cover
from glasscap.core.render.light.bevel import rough_distance, slope_light
from tests.core.raster.test_coverage import circle


@pytest.mark.parametrize("side", ["inner", "outer"])
@pytest.mark.parametrize(("direction", "elevation"), [(180.0, 35.0), (0.0, 35.0), (90.0, 20.0), (150.0, 60.0)])
def test_a_straight_slope_receives_the_cosine_of_its_normal_and_the_light(
    side: str, direction: float, elevation: float
) -> None:
    coverage = np.zeros((120, 200), np.float32)
    coverage[:, 100:] = 1
    light, shade = slope_light(coverage, 30.0, 4.0, Bevel(direction=direction, elevation=elevation, side=side))
    # It rises by 1 a px from left to right: its normal leans to the left by 45 degrees.
    rise, angle = math.radians(elevation), math.radians(direction)
    level = math.sin(rise)
    received = (level - math.cos(angle) * math.cos(rise)) / math.sqrt(2) - level
    middle = 115 if side == "inner" else 85
    assert light[60, middle] == pytest.approx(np.clip(received / (1 - level), 0, 1), abs=1e-4)
    assert shade[60, middle] == pytest.approx(np.clip(-received / level, 0, 1), abs=1e-4)
    # Nothing lies on the other side of the edge, and nothing beyond the slope.
    beyond = np.s_[:, :100] if side == "inner" else np.s_[:, 100:]
    for plane in (light, shade):
        assert not plane[beyond].any()
        assert not plane[:, 145:].any() and not plane[:, :55].any()


@pytest.mark.parametrize(("is_rough", "most"), [(False, 0.03), (True, 0.4)], ids=["at rest", "moving"])
def test_the_slope_of_a_disc_is_lit_without_a_step(*, is_rough: bool, most: float) -> None:
    box = PixelBox(0, 0, 240, 240)
    coverage = cover(circle(120.2, 119.6, 200), box).plane(box)
    bevel = Bevel(direction=90.0, elevation=30.0)
    away = rough_distance(coverage, bevel) if is_rough else None
    light, shade = slope_light(coverage, 14.0, 2.0, bevel, away)
    # In the middle of the slope: its normal leans outwards by 45 degrees, whatever its direction.
    turn = np.linspace(0, 2 * math.pi, 1440)
    places = np.stack([120.2 + 93 * np.cos(turn), 119.6 + 93 * np.sin(turn)])
    across, down = places.astype(int)
    # Directions are counted as on the screen, where y runs down.
    turn = np.arctan2(down + 0.5 - 119.6, across + 0.5 - 120.2)
    level = math.sin(math.radians(30))
    received = (level + np.cos(turn - math.pi / 2) * math.cos(math.radians(30))) / math.sqrt(2) - level
    assert np.abs(light[down, across] - np.clip(received / (1 - level), 0, 1)).max() < most
    assert np.abs(shade[down, across] - np.clip(-received / level, 0, 1)).max() < most


@pytest.mark.parametrize("side", ["inner", "outer"])
def test_a_shape_is_lit_alike_wherever_it_lies(side: str) -> None:
    small, large = PixelBox(0, 0, 160, 150), PixelBox(-90, -70, 400, 300)
    bevel = Bevel(side=side)
    here, there = (
        slope_light(cover(circle(80, 75, 90), box).plane(box), 8.0, 3.0, bevel) for box in (small, large)
    )
    for one, other in zip(here, there, strict=True):
        assert one.any()
        assert np.abs(one - other[70:220, 90:250]).max() < 1e-5
        assert np.count_nonzero(other) == np.count_nonzero(one)


def test_nothing_has_no_light() -> None:
    for plane in slope_light(np.zeros((30, 40), np.float32), 5.0, 2.0, Bevel()):
        assert plane.shape == (30, 40) and not plane.any()
