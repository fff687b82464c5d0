"""Rough edges: from a seed, as deep as asked, the same whatever they are drawn at."""

import numpy as np
import pytest

from glasscap.core.geometry.polygon import total_area
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.core.shapes.rough import roughened

CIRCLE = ellipse_polygon(300, 300, {}, 1 / 64)
KINDS = ("brushed", "torn", "deckled", "stamped")


@pytest.mark.parametrize("kind", KINDS)
def test_the_depth_is_held_and_the_seed_decides(kind: str) -> None:
    (one,) = roughened(CIRCLE, kind, amount=6, scale=24, seed=1)
    radius = np.hypot(*one.T)
    assert radius.min() > 150 - 6 * 1.6 and radius.max() < 150 + 6 * 1.6 and np.ptp(radius) > 4
    again, other = (roughened(CIRCLE, kind, amount=6, scale=24, seed=s)[0] for s in (1, 2))
    assert np.array_equal(one, again)
    assert kind == "stamped" or len(one) != len(other) or not np.array_equal(one, other)


@pytest.mark.parametrize("kind", KINDS)
def test_contours_do_not_cross_and_a_deep_edge_is_still_a_region(kind: str) -> None:
    found = roughened(CIRCLE, kind, amount=40, scale=10, seed=3)
    assert found and total_area(found) > 0


def test_stamped_bites_are_a_whole_number_and_never_stand_out() -> None:
    (found,) = roughened(CIRCLE, "stamped", amount=5, scale=20, seed=1)
    radius = np.hypot(*found.T)
    assert radius.max() < 150.1 and radius.min() == pytest.approx(145, abs=0.2)
    bites = np.flatnonzero((radius[:-1] > 149) & (radius[1:] <= 149))
    assert len(bites) == round(2 * np.pi * 150 / 20)
