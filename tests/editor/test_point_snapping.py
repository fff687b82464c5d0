"""Points snap to the points and edges of other shapes, to the sheet's, and to the bleed's."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.model.job import Sheet
from glasscap.editor.point_snapping import in_steps, targets_of
from tests.core.document.strategies import JOB

FIRST = JOB.sheets[0].items[0]
EMPTY = Sheet("s1", "Sheet 1", 200, 100)


@pytest.mark.parametrize(
    ("near", "reach", "found"),
    [
        ((3, 2), 5, (0, 0)),  # a corner
        ((196, 97), 6, (200, 100)),
        ((80.5, 3), 5, (80.5, 0)),  # an edge
        ((197, 40), 5, (200, 40)),
        ((80.5, 20), 5, None),
    ],
)
def test_points_snap_to_the_sheet(near, reach, found) -> None:
    assert targets_of(EMPTY, ()).nearest(*near, reach) == found


@pytest.mark.parametrize(
    ("near", "found"),
    [((-28, -29), (-30, -30)), ((-27, 40), (-30, 40)), ((90, 132), (90, 130)), ((90, 98), (90, 100))],
)
def test_points_snap_to_the_bleed(near, found) -> None:
    assert targets_of(replace(EMPTY, bleed=30), ()).nearest(*near, 5) == pytest.approx(found)
    without = targets_of(EMPTY, ()).nearest(*near, 5)
    assert without is None or (without == pytest.approx((90, 100)) and found == (90, 100))


def test_a_corner_goes_before_an_edge_that_is_nearer() -> None:
    assert targets_of(EMPTY, ()).nearest(4, 1, 5) == (0, 0)


def test_points_snap_to_other_shapes_but_not_to_their_own() -> None:
    sheet = JOB.sheets[0]
    _, top, right, bottom = FIRST.shape_placement.box
    on_edge = (right, (top + bottom) / 2)
    near = (on_edge[0] + 1.5, on_edge[1])
    assert targets_of(sheet, ()).nearest(*near, 3) == pytest.approx(on_edge, abs=0.05)
    assert targets_of(sheet, [FIRST.id]).nearest(*near, 3) is None


def test_directions_come_in_steps() -> None:
    assert in_steps(10, 1, 0, 0) == pytest.approx((10, 0))
    assert in_steps(10, 9.4, 0, 0) == pytest.approx((9.7, 9.7))
