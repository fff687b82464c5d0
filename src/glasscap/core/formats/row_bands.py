"""Pictures in bands of rows: whole copies on the way would take several times their memory."""

_BAND_PX = 1 << 19


def bands(height: int, width: int) -> list[slice]:
    """Return the rows of a picture in bands of few px, one below the other."""
    rows = max(1, _BAND_PX // max(1, width))
    return [slice(y0, min(y0 + rows, height)) for y0 in range(0, height, rows)]
