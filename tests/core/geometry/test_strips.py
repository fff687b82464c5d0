"""Strips along lines against the general offset of another library (GEOS), and dashes against its strokes."""

import numpy as np
import pytest
import shapely
import shapely.ops

from glasscap.core.geometry import strips as strips_of
from glasscap.core.geometry.dashes import Cap, dash_polygons
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.strips import strips
from glasscap.core.shapes.library.ellipse import ellipse_polygon


def region(rings: tuple[np.ndarray, ...]) -> shapely.Geometry:
    solid, holes = (
        shapely.union_all([shapely.Polygon(ring) for ring in rings if (signed_area(ring) < 0) == is_hole])
        for is_hole in (False, True)
    )
    return shapely.difference(solid, holes)


def line(turns: np.ndarray, step: float) -> np.ndarray:
    directions = np.cumsum(turns)
    steps = np.stack([np.cos(directions), np.sin(directions)], axis=1) * step
    return np.concatenate([[[0.0, 0.0]], np.cumsum(steps, axis=0)])


LINES = {
    "straight": line(np.zeros(1), 30),
    "slight bends": line(np.random.default_rng(1).uniform(-0.1, 0.1, 40), 3),
    "half a turn": line(np.full(30, np.pi / 30), 6),
    "round and over itself": line(np.full(60, 2 * np.pi / 50), 6),
    "a sharp corner": line(np.array([0, 2.6]), 40),
    "tighter than it is wide": line(np.full(20, 0.4), 2),
}


def test_stubs_at_the_ends_do_not_call_for_the_general_offset(monkeypatch: pytest.MonkeyPatch) -> None:
    bow = line(np.full(14, 0.06), 4)
    # Begun and ended a hair before a point: there its strip's inner side would go under.
    bow[0], bow[-1] = bow[1] + (bow[0] - bow[1]) * 1e-3, bow[-2] + (bow[-1] - bow[-2]) * 1e-3
    monkeypatch.setattr(strips_of, "general_strips", lambda *given: pytest.fail("not side by side"))
    (ring,) = strips(bow, np.zeros(len(bow), np.int64), 6.0)
    expected = shapely.buffer(shapely.LineString(bow), 6.0, cap_style="flat", join_style="mitre")
    assert shapely.Polygon(ring).is_valid
    assert shapely.symmetric_difference(shapely.Polygon(ring), expected).area < 0.003 * expected.area


@pytest.mark.parametrize("name", LINES)
def test_a_strip_is_what_the_general_offset_gives(name: str) -> None:
    points = LINES[name]
    found = strips(points, np.zeros(len(points), np.int64), 5.0)
    expected = shapely.buffer(shapely.LineString(points), 5.0, cap_style="flat", join_style="mitre")
    # The library thins a line before it is widened.
    assert shapely.symmetric_difference(region(found), expected).area < 0.003 * expected.area


def test_strips_keep_their_lines_apart() -> None:
    lines = [LINES["slight bends"], LINES["a sharp corner"] + 300, LINES["straight"] - 300]
    which = np.repeat(np.arange(3), [len(points) for points in lines])
    found = strips(np.concatenate(lines), which, 4.0)
    assert len(found) == 3
    assert sorted(round(shapely.Polygon(ring).centroid.x // 200) for ring in found)[::2] == [-2, 1]
    assert all(shapely.Polygon(ring).is_valid for ring in found)


@pytest.mark.parametrize("cap", ["butt", "round", "square"])
@pytest.mark.parametrize("gap", [25.0, 5.0])
def test_dashes_within_their_band_are_the_strokes_of_another_library(cap: Cap, gap: float) -> None:
    (circle,) = ellipse_polygon(300, 300, {}, 1 / 4096)
    found = dash_polygons(
        (circle,), (30.0, gap), offset=0.0, width=12.0, cap=cap, is_even=True, tolerance=1 / 512
    )
    ring = shapely.LinearRing(circle)
    count = round(ring.length / (30 + gap))
    size = ring.length / count
    dashes = [
        shapely.ops.substring(shapely.LineString(ring), n * size, n * size + size * 30 / (30 + gap))
        for n in range(count)
    ]
    style = {"butt": "flat", "round": "round", "square": "square"}[cap]
    strokes = shapely.union_all([shapely.buffer(d, 6.0, cap_style=style, quad_segs=64) for d in dashes])
    band = shapely.buffer(ring, 6.0, quad_segs=256)
    difference = shapely.symmetric_difference(shapely.intersection(region(found), band), strokes)
    # A square cap is straight here, along the path there: slivers at its corners.
    assert difference.area < (0.02 if cap == "square" else 0.002) * strokes.area
    total = sum(signed_area(ring) for ring in found)
    # Nothing is covered twice.
    assert total == pytest.approx(region(found).area, rel=1e-3)
