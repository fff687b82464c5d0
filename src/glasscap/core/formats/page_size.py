"""The size of a px on a PDF page."""

POINTS_PER_INCH, DEFAULT_PPI = 72.0, 96.0
# ISO 32000-1, annex C: a page has 3 to 14,400 units on each side; a hair within, for numbers are rounded.
_SMALLEST, _LARGEST = 3.001, 14_399.999


def points_per_px(width: int, height: int, ppi: float | None) -> float:
    """Return the points to a px of a page: as its density says, or as near to that as a page can be."""
    k = POINTS_PER_INCH / (ppi or DEFAULT_PPI)
    return min(max(k, _SMALLEST / min(width, height)), _LARGEST / max(width, height))


def page_ppi(width: int, height: int, ppi: float | None) -> float | None:
    """Return the density of a page that cannot have the one that was asked for, else None."""
    found, asked = POINTS_PER_INCH / points_per_px(width, height, ppi), ppi or DEFAULT_PPI
    return None if abs(found - asked) < 1e-6 * asked else found
