"""Distances from the edge of a coverage against closed forms: half planes, a disc, a corner."""

import math

import numpy as np
import pytest

from glasscap.core.geometry.polygon import oriented
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.edge_distance import distance_within
from glasscap.core.raster.scan import cover
from tests.core.raster.test_coverage import circle

SIDE = 160
BOX = PixelBox(0, 0, SIDE, SIDE)
Y, X = np.mgrid[:SIDE, :SIDE] + 0.5


@pytest.mark.parametrize("angle", [0, 3, 7, 22, 45, 63, 90, 117, 133, 200, 301])
def test_within_a_straight_edge_it_is_exact(angle: float) -> None:
    across = np.array([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
    along = np.array([-across[1], across[0]])
    place = np.array([SIDE / 2 + 0.3, SIDE / 2 - 0.3])
    corners = [place + s * 400 * along + t * 500 * across for s, t in ((-1, 0), (1, 0), (1, 1), (-1, 1))]
    coverage = cover((oriented(np.array(corners)),), BOX).plane(BOX)
    truth = (X - place[0]) * across[0] + (Y - place[1]) * across[1]
    found = distance_within(coverage, 20.0)
    # Beside the plane's border the edge is not seen whole.
    inner = np.s_[40:-40, 40:-40]
    near = (truth > 0) & (truth < 20)
    assert np.abs(found - truth)[inner][near[inner]].max() < 1e-3
    assert (found[truth > 21.0] == 20).all() and found[truth < -1].max() <= 0


def test_within_a_disc_it_is_the_radius_less_the_way_to_the_middle() -> None:
    coverage = cover(circle(SIDE / 2 + 0.2, SIDE / 2 - 0.4, 120), BOX).plane(BOX)
    truth = 60 - np.hypot(X - SIDE / 2 - 0.2, Y - SIDE / 2 + 0.4)
    near = (truth > 0) & (truth < 25)
    error = np.abs(distance_within(coverage, 26.0) - truth)[near]
    assert np.quantile(error, 0.99) < 0.05 and error.max() < 0.4


def test_round_a_corner_it_goes_on_as_the_way_to_the_corner() -> None:
    coverage = np.ones((80, 80), np.float32)
    coverage[40:, 40:] = 0
    found = distance_within(coverage, 30.0)
    y, x = np.mgrid[:80, :80] + 0.5
    truth = np.where((x < 40) & (y < 40), np.hypot(40 - x, 40 - y), np.maximum(40 - x, 40 - y))
    near = (truth > 0) & (truth < 25) & (x > 5) & (y > 5) & (x < 75) & (y < 75)
    assert np.abs(found - truth)[near].max() < 0.9
    straight = near & ((x > 44) | (y > 44))
    assert np.abs(found - truth)[straight].max() < 1e-3


def test_without_an_edge_all_lies_deep_or_nothing_does() -> None:
    assert (distance_within(np.ones((9, 12), np.float32), 5.0) == 5).all()
    assert not distance_within(np.zeros((9, 12), np.float32), 5.0).any()
