"""Numbers as designers type them: arithmetic, and units at the sheet's resolution.

Lengths: px; mm, cm, in, pt by CSS Values 4, 6.2 (1 in = 25.4 mm = 72 pt), px at the sheet's resolution.
"""

import math
import re

from msgspec import Struct

_TOKEN = re.compile(r"\s*(?:(\d+(?:[.,]\d*)?|[.,]\d+)|([a-z%°]+|\")|([-+*/()×÷−]))", re.IGNORECASE)
_PER_INCH = {"in": 1.0, '"': 1.0, "mm": 25.4, "cm": 2.54, "pt": 72.0}
_SAME = {"×": "*", "÷": "/", "−": "-"}
_DEEPEST = 50


class NumberError(ValueError):
    """The typed text is no number; the message says why in plain words."""


class _Token(Struct, frozen=True):
    kind: str
    text: str


def parse_number(text: str, *, unit: str = "px", ppi: float = 96.0) -> float:
    """Return the value of what was typed, in `unit` ("px", "%", "°" or "").

    Raises
    ------
    NumberError
        For anything but finite arithmetic, or a unit that does not fit.

    Examples
    --------
    >>> parse_number("400/3 + 2")
    135.33333333333334
    >>> parse_number("1in", ppi=300)
    300.0
    """
    tokens = _tokens(text)
    if not tokens:
        raise NumberError("Type a number")
    try:
        value = _Reader(tokens, unit, ppi).value()
    except ZeroDivisionError:
        raise NumberError("Nothing can be divided by 0") from None
    except OverflowError:
        raise NumberError("That is too large") from None
    if not math.isfinite(value):
        raise NumberError("That is too large")
    return value


def px_per(unit: str, ppi: float) -> float:
    """Return the px of one unit of length at a resolution; 1 for px."""
    return ppi / _PER_INCH[unit] if unit in _PER_INCH else 1.0


def parse_length(text: str, unit: str, ppi: float) -> float:
    """Return px of what was typed as a length; numbers without any unit are in `unit`. Raises NumberError.

    Examples
    --------
    >>> parse_length("25.4", "mm", 300), parse_length("25.4px", "mm", 300), parse_length("1in", "mm", 300)
    (300.0, 25.4, 300.0)
    """
    has_unit = any(token.kind == "unit" for token in _tokens(text))
    if unit == "px" or has_unit:
        return parse_number(text, unit="px", ppi=ppi)
    return parse_number(text, unit="", ppi=ppi) * px_per(unit, ppi)


def _tokens(text: str) -> list[_Token]:
    tokens, place, text = [], 0, text.strip()
    while place < len(text):
        found = _TOKEN.match(text, place)
        if found is None:
            raise NumberError(f"“{text[place:].strip()[:12]}” is no number")
        number, unit, sign = found.groups()
        kind = "number" if number else "unit" if unit else "sign"
        tokens.append(_Token(kind, (number or unit or sign).lower()))
        place = found.end()
    return tokens


class _Reader:
    """Recursive descent: sum of products of signed atoms."""

    def __init__(self, tokens: list[_Token], unit: str, ppi: float) -> None:
        self._tokens, self._unit, self._ppi = tokens, unit, ppi
        self._place = self._depth = 0

    def value(self) -> float:
        result = self._sum()
        if self._place < len(self._tokens):
            raise NumberError(f"“{self._tokens[self._place].text}” does not belong there")
        return result

    def _sign(self, choices: str) -> str | None:
        if self._place < len(self._tokens):
            token = self._tokens[self._place]
            sign = _SAME.get(token.text, token.text)
            if token.kind == "sign" and sign in choices:
                self._place += 1
                return sign
        return None

    def _sum(self) -> float:
        result = self._product()
        while sign := self._sign("+-"):
            result += self._product() if sign == "+" else -self._product()
        return result

    def _product(self) -> float:
        result = self._signed()
        while sign := self._sign("*/"):
            result = result * self._signed() if sign == "*" else result / self._signed()
        return result

    def _signed(self) -> float:
        self._depth += 1
        if self._depth > _DEEPEST:
            raise NumberError("That is nested too deep")
        sign = self._sign("+-")
        result = self._signed() if sign else self._atom()
        self._depth -= 1
        return -result if sign == "-" else result

    def _atom(self) -> float:
        if self._sign("("):
            result = self._sum()
            if not self._sign(")"):
                raise NumberError("A bracket is not closed")
            return result
        if self._place >= len(self._tokens) or self._tokens[self._place].kind != "number":
            raise NumberError("A number is missing")
        number = float(self._tokens[self._place].text.replace(",", "."))
        self._place += 1
        return number * self._unit_factor()

    def _unit_factor(self) -> float:
        if self._place >= len(self._tokens) or self._tokens[self._place].kind != "unit":
            return 1.0
        unit = self._tokens[self._place].text
        self._place += 1
        if unit in (self._unit, "deg" if self._unit == "°" else self._unit):
            return 1.0
        if self._unit == "px" and unit in _PER_INCH:
            return self._ppi / _PER_INCH[unit]
        raise NumberError(f"“{unit}” does not fit here")


def format_number(value: float, decimals: int = 2) -> str:
    """Return a number with no needless digits.

    Examples
    --------
    >>> format_number(412.0), format_number(133.333333), format_number(-0.001)
    ('412', '133.33', '0')
    """
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".") if decimals else f"{value:.0f}"
    return "0" if text in ("-0", "") else text


def bytes_words(count: int) -> str:
    """Return a file's size in words."""
    return f"{count / 1e6:.1f} MB" if count >= 1_000_000 else f"{max(1, round(count / 1000))} KB"


def counted(count: int, noun: str) -> str:
    """Return a number of things in words, such as "1 point" or "3 points"."""
    return f"{count} {noun}" if count == 1 else f"{count} {noun}s"
