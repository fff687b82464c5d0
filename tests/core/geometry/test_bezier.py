"""Cubic segments: all at once as one by one."""

import hypothesis.extra.numpy as arrays
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.bezier import end_velocities, velocity_at

# Few different places, so that control points often lie on one another.
CUBICS = arrays.arrays(
    np.float64, st.tuples(st.integers(1, 6), st.just(4), st.just(2)), elements=st.integers(-2, 2)
)


@given(CUBICS)
def test_end_velocities_are_those_of_each_segment(cubics: np.ndarray) -> None:
    starts, ends = end_velocities(cubics)
    for n, cubic in enumerate(cubics):
        assert np.allclose(starts[n], velocity_at(cubic, 0.0))
        assert np.allclose(ends[n], velocity_at(cubic, 1.0))


def test_a_control_point_off_by_rounding_alone_gives_no_direction() -> None:
    cubic = np.array([[0, 0], [1e-12, -1e-12], [5, 5], [10, 0]], float)
    starts, _ = end_velocities(cubic[None])
    assert np.allclose(starts[0], [5, 5])
