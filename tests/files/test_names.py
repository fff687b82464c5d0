"""File names from titles."""

from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.document.outputs.titles import dashed_name
from glasscap.files.names import free_name


def test_names() -> None:
    assert dashed_name("Blue plate / front?") == "blue-plate-front"
    assert dashed_name("///") == "picture"


def test_names_that_clash_or_climb() -> None:
    taken: set[str] = set()
    assert [free_name(n, taken) for n in ("a/b", "A-B", "..", "a-b")] == ["a-b", "A-B 2", "picture", "a-b 3"]


@given(st.text(max_size=200))
def test_any_title_gives_one_safe_name(title: str) -> None:
    for name in (dashed_name(title), free_name(title, set())):
        assert name
        assert "/" not in name
        assert name not in (".", "..")
