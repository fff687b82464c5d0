"""Outlines that run along one another, and those that merely cross or touch."""

import math

import numpy as np
import pytest

from glasscap.core.render.plan.touching import share_an_edge


def box(x: float, y: float, width: float, height: float) -> tuple[np.ndarray, ...]:
    return (np.array([(x, y), (x + width, y), (x + width, y + height), (x, y + height)], float),)


def disc(x: float, y: float, radius: float) -> tuple[np.ndarray, ...]:
    angle = np.linspace(0, 2 * math.pi, 400, endpoint=False)
    return (np.stack([x + radius * np.cos(angle), y + radius * np.sin(angle)], axis=1),)


@pytest.mark.parametrize(
    ("outlines", "is_shared"),
    [
        ([box(0, 0, 50, 50), box(50, 10, 50, 60)], True),
        ([box(0, 0, 50, 50), box(50.01, 0, 50, 50)], True),
        ([box(0, 0, 50, 50), box(51, 0, 50, 50)], False),
        ([box(0, 0, 50, 50), box(20, 20, 50, 50)], False),
        ([box(0, 0, 50, 50), box(50, 45, 50, 60)], False),
        ([disc(0, 0, 40), disc(0, 0, 40)], True),
        ([disc(0, 0, 40), disc(80, 0, 40)], False),
        ([disc(0, 0, 40), box(-60, -10, 120, 20), box(200, 0, 9, 9)], False),
        ([box(0, 0, 90, 90)], False),
        ([(), box(0, 0, 90, 90)], False),
        ([], False),
    ],
    ids=["side by side", "a hair apart", "apart", "crossing", "for a little", "the same", "in a point", "across",
         "one", "empty", "none"],
)  # fmt: skip
def test_edges(outlines: list[tuple[np.ndarray, ...]], is_shared: bool) -> None:
    assert share_an_edge(outlines) == is_shared
