"""Spans of rows and what rows have together, against pixels."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.row_spans import NOWHERE, RowSpans, RowTable, no_spans
from glasscap.core.raster.scan import cover
from tests.core.raster.test_coverage import circle

BOX = PixelBox(-4, 10, 36, 30)
ANY = st.tuples(st.integers(-12, 45), st.integers(-12, 45))


def spans_of(rows: list[tuple[int, int]]) -> RowSpans:
    return RowSpans(np.array([(a, -b) if a < b else (NOWHERE, NOWHERE) for a, b in rows]).T)


def mask(spans: RowSpans, box: PixelBox) -> np.ndarray:
    x = np.arange(box.x0, box.x1)
    return (x >= spans.starts[:, None]) & (x < spans.ends[:, None])


def columns(box: PixelBox, span: tuple[int, int]) -> np.ndarray:
    x = np.arange(box.x0, box.x1)
    return (x >= span[0]) & (x < span[1])


@given(
    st.lists(ANY, min_size=20, max_size=20),
    st.lists(ANY, min_size=20, max_size=20),
    st.integers(0, 19),
    st.data(),
)
def test_what_rows_have_together(seen: list, filled: list, first: int, data: st.DataObject) -> None:
    last = data.draw(st.integers(first + 1, 20))
    rows = BOX._replace(y0=BOX.y0 + first, y1=BOX.y0 + last)
    (low, high), (start, end) = RowTable(BOX, (spans_of(seen),), (spans_of(filled),)).of(rows)
    lying = [(a, b) for a, b in seen[first:last] if a < b]
    # From the first of all to the last of all, as far as the box goes; and what is common to all.
    hull = (
        max(min((a for a, _ in lying), default=99), BOX.x0),
        min(max((b for _, b in lying), default=-99), BOX.x1),
    )
    assert (low, high) == (hull if hull[0] < hull[1] else (BOX.x1, BOX.x1))
    every_row = mask(spans_of(filled), BOX)[first:last].all(axis=0)
    assert (columns(BOX, (start, end)) == every_row).all()
    if not every_row.any():
        assert (start, end) == (BOX.x1, BOX.x1)


@given(st.lists(ANY, min_size=3, max_size=3), st.lists(ANY, min_size=3, max_size=3))
def test_spans_of_two_things(one: list, other: list) -> None:
    box = PixelBox(-12, 0, 45, 3)
    a, b = spans_of(one), spans_of(other)
    assert (mask(a.within(b), box) == (mask(a, box) & mask(b, box))).all()
    both = mask(a.with_(b), box)
    assert both[mask(a, box) | mask(b, box)].all()


@pytest.mark.parametrize("diameter", [0.5, 17.0, 31.3])
def test_a_disc_fills_the_columns_in_which_it_is_full(diameter: float) -> None:
    coverage = cover(circle(15, 18.5, diameter), PixelBox(-10, 0, 40, 40))
    found = mask(coverage.full_spans(BOX), BOX)
    assert (found == (coverage.plane(BOX) == 1)).all()


def test_rows_of_several_runs_count_as_empty() -> None:
    left, right = circle(4, 20, 10.5), circle(26, 22, 12.5)
    coverage = cover((*left, *right), PixelBox(-10, 0, 40, 40))
    found, full = mask(coverage.full_spans(BOX), BOX), coverage.plane(BOX) == 1
    runs = (np.diff(np.pad(full, ((0, 0), (1, 1))).astype(int), axis=1) == 1).sum(axis=1)
    assert set(runs) == {0, 1, 2}
    assert (found == (full & (runs == 1)[:, None])).all()


def test_no_spans() -> None:
    nothing = no_spans(BOX.height)
    assert not mask(nothing, BOX).any()
    assert RowTable(BOX, (nothing,), (nothing,)).of(BOX) == [(36, 36), (36, 36)]
