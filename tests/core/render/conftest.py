"""Pictures are tested as the quick ways give them and as the one exact way does."""

from collections.abc import Iterator

import pytest

from glasscap.core.render.quick.writers import only_exact

# What is written of whole pictures; other tests look at single steps, or compare the ways themselves.
_BOTH = (
    "test_each_finish",
    "test_finished",
    "test_groups",
    "test_many",
    "test_render",
    "test_screen",
    "test_spill",
)


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    if metafunc.module.__name__.rpartition(".")[2] in _BOTH:
        metafunc.parametrize("way", ["quick", "exact"], indirect=True)


@pytest.fixture(autouse=True)
def way(request: pytest.FixtureRequest) -> Iterator[str]:
    chosen = getattr(request, "param", "quick")
    if chosen == "exact":
        with only_exact():
            yield chosen
    else:
        yield chosen
