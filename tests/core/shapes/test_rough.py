"""Rough edges: from a seed, as deep as asked, the same whatever they are drawn at."""

import numpy as np
import pytest

from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import total_area
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.core.shapes.rough import RoughKind, displaced, ripples, roughened

CIRCLE = ellipse_polygon(300, 300, {}, 1 / 64)
KINDS = ("brushed", "torn", "deckled", "stamped")


def rough(kind: RoughKind, *, amount: float, scale: float, seed: int) -> tuple[Points, ...]:
    return roughened(ripples(CIRCLE, kind, scale=scale, seed=seed), amount)


@pytest.mark.parametrize("kind", KINDS)
def test_the_depth_is_held_and_the_seed_decides(kind: str) -> None:
    (one,) = rough(kind, amount=6, scale=24, seed=1)
    radius = np.hypot(*one.T)
    assert radius.min() > 150 - 6 * 1.6 and radius.max() < 150 + 6 * 1.6 and np.ptp(radius) > 4
    again, other = (rough(kind, amount=6, scale=24, seed=s)[0] for s in (1, 2))
    assert np.array_equal(one, again)
    assert kind == "stamped" or len(one) != len(other) or not np.array_equal(one, other)


@pytest.mark.parametrize("kind", KINDS)
def test_contours_do_not_cross_and_a_deep_edge_is_still_a_region(kind: str) -> None:
    found = rough(kind, amount=40, scale=10, seed=3)
    assert found and total_area(found) > 0


def test_stamped_bites_are_a_whole_number_and_never_stand_out() -> None:
    (found,) = rough("stamped", amount=5, scale=20, seed=1)
    radius = np.hypot(*found.T)
    assert radius.max() < 150.1 and radius.min() == pytest.approx(145, abs=0.2)
    bites = np.flatnonzero((radius[:-1] > 149) & (radius[1:] <= 149))
    assert len(bites) == round(2 * np.pi * 150 / 20)


@pytest.mark.parametrize("kind", KINDS)
def test_fewer_points_lie_on_the_same_edge(kind: str) -> None:
    all_of_them, few = (
        displaced(ripples(CIRCLE, kind, scale=24, seed=4, finest=finest), 6)[0] for finest in (0.0, 2.0)
    )
    assert len(few) < len(all_of_them)
    # Each lies about where the others of its place along the circle do: waves shorter than a point apart aside.
    angle, others = (np.arctan2(*points.T) for points in (few, all_of_them))
    radius = np.interp(angle, np.sort(others), np.hypot(*all_of_them.T)[np.argsort(others)], period=2 * np.pi)
    assert np.abs(np.hypot(*few.T) - radius).mean() < 0.2


def test_what_is_rough_by_nothing_is_what_it_was() -> None:
    (found,) = rough("torn", amount=0, scale=24, seed=1)
    assert np.abs(np.hypot(*found.T) - 150).max() < 0.02
