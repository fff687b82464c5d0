"""Masks turned into curves, against the shapes they were drawn from."""

import math

import numpy as np
import pytest

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.shapes.traced import trace_mask, trace_photo


def _disc(size: int = 200, radius: float = 70.0) -> np.ndarray:
    y, x = np.mgrid[:size, :size] + 0.5
    away = radius - np.hypot(x - size / 2, y - size / 2)
    return np.clip((away + 0.5) * 255, 0, 255).astype(np.uint8)


def _flat(outline) -> np.ndarray:
    return np.concatenate(flatten(outline, tolerance=0.01))


def test_a_disc_is_a_few_clean_curves() -> None:
    outline = trace_mask(_disc())
    flat = _flat(outline)
    away = np.abs(np.hypot(flat[:, 0] - 100, flat[:, 1] - 100) - 70)
    assert away.mean() < 0.4
    assert sum(len(c) // 3 for c in outline.contours) <= 12
    assert sum(signed_area(p) for p in flatten(outline, tolerance=0.01)) == pytest.approx(
        math.pi * 4900, rel=0.01
    )


def test_corners_stay_and_holes_are_kept() -> None:
    mask = np.zeros((120, 160), np.uint8)
    mask[20:100, 30:130] = 255
    mask[45:75, 60:100] = 0
    outline = trace_mask(mask)
    assert len(outline.contours) == 2
    assert sum(signed_area(p) for p in flatten(outline, tolerance=0.01)) == pytest.approx(
        80 * 100 - 30 * 40, rel=0.01
    )
    corners = outline.contours[0][:-1:3]
    for x, y in ((30, 20), (130, 20), (130, 100), (30, 100)):
        assert np.hypot(*(corners - [x, y]).T).min() < 1.2


def test_what_touches_the_border_is_closed() -> None:
    outline = trace_mask(np.full((50, 60), 255, np.uint8))
    assert sum(signed_area(p) for p in flatten(outline, tolerance=0.01)) == pytest.approx(3000, rel=0.02)


def test_parts_of_a_photo() -> None:
    rgba = np.full((200, 200, 4), 255, np.uint8)
    rgba[..., :3] = (255 - _disc())[..., None]
    rgba[:, :40, 3] = 0
    whole = sum(signed_area(p) for p in flatten(trace_photo(rgba, "transparency"), tolerance=0.01))
    assert whole == pytest.approx(160 * 200, rel=0.02)
    dark = sum(signed_area(p) for p in flatten(trace_photo(rgba, "dark"), tolerance=0.01))
    light = sum(signed_area(p) for p in flatten(trace_photo(rgba, "light"), tolerance=0.01))
    assert dark == pytest.approx(math.pi * 4900, rel=0.02)
    assert dark + light == pytest.approx(40000, rel=0.01)


def test_nothing_to_trace_is_said() -> None:
    with pytest.raises(ShapeError, match="nothing in it"):
        trace_mask(np.zeros((40, 40), np.uint8))
