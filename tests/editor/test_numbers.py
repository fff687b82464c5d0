"""Numbers as they are typed."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.editor.numbers import NumberError, format_number, parse_number


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("412", 412), ("400/3", 400 / 3), ("2*(3+4)-1", 13), ("-5", -5), ("--5", 5), ("1,5", 1.5), (".5", 0.5),
        ("100 px", 100), ("1in", 300), ('1"', 300), ("25.4mm", 300), ("2.54 cm", 300), ("72pt", 300), ("10mm+10mm", 6000 / 25.4),
        ("3×4", 12), ("8÷2", 4), ("5−2", 3),
    ],
)  # fmt: skip
def test_lengths_at_300_ppi(text: str, value: float) -> None:
    # CSS Values and Units 4, 6.2: 1in = 2.54cm = 25.4mm = 72pt.
    assert parse_number(text, ppi=300) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "unit", "value"), [("50%", "%", 50), ("90°", "°", 90), ("45deg", "°", 45), ("7", "", 7)]
)
def test_other_units(text: str, unit: str, value: float) -> None:
    assert parse_number(text, unit=unit) == value


@pytest.mark.parametrize(
    "text", ["", "abc", "1/0", "(1", "1)", "2 3", "5kg", "*2", "1e999", "9" * 400, "(" * 200 + "1", "nan", "inf"]
)
def test_what_is_no_number(text: str) -> None:
    with pytest.raises(NumberError):
        parse_number(text)


@pytest.mark.parametrize(("text", "unit"), [("5mm", "%"), ("5%", "px"), ("5px", "°")])
def test_units_that_do_not_fit(text: str, unit: str) -> None:
    with pytest.raises(NumberError, match="does not fit"):
        parse_number(text, unit=unit)


@given(st.floats(-1e6, 1e6))
def test_what_is_shown_can_be_typed(value: float) -> None:
    assert parse_number(format_number(value)) == pytest.approx(value, abs=0.0051)


@given(st.text(max_size=30))
def test_any_text_gives_a_number_or_says_why(text: str) -> None:
    with contextlib.suppress(NumberError):
        assert isinstance(parse_number(text), float)
