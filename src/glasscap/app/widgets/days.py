"""Days in words."""

import time
from datetime import date


def day_of(moment: float, now: float | None = None) -> str:
    """Return the day of a moment, seconds since 1970, as seen from today."""
    now = time.time() if now is None else now
    day = date.fromtimestamp(moment)
    days = (date.fromtimestamp(now) - day).days
    if days <= 0:
        return "today"
    if days == 1:
        return "yesterday"
    return day.strftime("%A") if days < 7 else day.strftime("%-d %B %Y")
