"""Runs copied and filled in blocks, against pixels one by one."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster import run_blocks
from glasscap.core.raster.coverage import Runs
from glasscap.core.raster.run_blocks import copy_runs, fill_runs
from glasscap.core.raster.scan import cover

WIDTH, HEIGHT = 620, 90
WORD = np.uint32(0x80402010)


def runs_of(mask: np.ndarray) -> Runs:
    """Return the runs of a mask, row by row."""
    edge = np.zeros((mask.shape[0], 1), np.int8)
    turns = np.diff(np.concatenate([edge, mask.astype(np.int8), edge], axis=1), axis=1)
    y, x0 = np.nonzero(turns == 1)
    return Runs(y, x0, np.nonzero(turns == -1)[1])


def assert_copied_and_filled(mask: np.ndarray) -> None:
    runs = runs_of(mask)
    source = np.arange(1, mask.size + 1, dtype=np.uint32).reshape(mask.shape)
    # A view of larger pictures, as they are in use: what lies around must stay.
    around = np.full((mask.shape[0] + 2, mask.shape[1] + 7), 5, np.uint32)
    to = around[1:-1, 3:-4]
    copy_runs(to, source, runs)
    assert (to == np.where(mask, source, 5)).all()
    fill_runs(to, runs, WORD)
    assert (to == np.where(mask, WORD, 5)).all()
    to[:] = 5
    assert (around == 5).all()


rows_of_runs = st.lists(
    st.lists(st.integers(0, WIDTH), min_size=0, max_size=6).map(sorted), min_size=1, max_size=HEIGHT
)


@given(rows_of_runs)
def test_any_runs(rows: list[list[int]]) -> None:
    mask = np.zeros((len(rows), WIDTH), bool)
    for row, ends in zip(mask, rows, strict=True):
        for start, end in zip(ends[::2], ends[1::2], strict=False):
            row[start:end] = True
    assert_copied_and_filled(mask)


@given(st.integers(1, 80), st.integers(0, 250), st.floats(-12, 12), st.integers(1, 400))
def test_slanted_stripes(height: int, start: int, slope: float, width: int) -> None:
    x, y = np.arange(WIDTH), np.arange(height)[:, None]
    left = start + slope * y
    assert_copied_and_filled((x >= left) & (x < left + width))


@pytest.mark.parametrize("gap", [(40, 41), (0, 3), (33, 90)], ids=str)
def test_a_ring_some_rows_of_which_are_missing(gap: tuple[int, int]) -> None:
    x, y = np.arange(WIDTH) - 300, np.arange(HEIGHT)[:, None] - 45
    distance = np.hypot(x, y * 5)
    mask = (distance < 260) & (distance > 180)
    mask[slice(*gap)] = False
    assert_copied_and_filled(mask)


@pytest.mark.parametrize("px", [1, 70, 500, 5000])
def test_short_runs_are_filled_in_turns(px: int, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(run_blocks, "_PX_AT_A_TIME", px)
    x, y = np.arange(WIDTH), np.arange(HEIGHT)[:, None]
    mask = (x >= 3 * y) & (x < 3 * y + 70)
    mask[40] = x > 20
    assert_copied_and_filled(mask)


def test_nothing() -> None:
    assert_copied_and_filled(np.zeros((5, WIDTH), bool))


def test_a_circle() -> None:
    circle = np.stack([f(np.linspace(0, 2 * np.pi, 200)[:-1]) for f in (np.cos, np.sin)], axis=1) * 900 + 1000
    box = PixelBox(0, 0, 2000, 2000)
    runs = cover((circle,), box).runs_in(box)
    source = np.arange(2000 * 2000, dtype=np.uint32).reshape(2000, 2000)
    one = np.zeros_like(source)
    copy_runs(one, source, runs)
    assert np.count_nonzero(one) == (runs.x1 - runs.x0).sum()
    assert (one[one > 0] == source[one > 0]).all()
