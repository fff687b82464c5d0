"""File names from titles."""

import re

_UNSAFE = re.compile(r'[\x00-\x1f/\\:*?"<>|]+')
_LONGEST = 120


def dashed_name(title: str) -> str:
    """Return a file name without an ending, in small letters with dashes.

    Examples
    --------
    >>> dashed_name("Blue plate / front")
    'blue-plate-front'
    """
    words = _UNSAFE.sub(" ", title).casefold().split()
    return "-".join(words)[:_LONGEST].strip(".-") or "picture"


def free_name(title: str, taken: set[str]) -> str:
    """Return a file name without an ending, near the title and not yet in `taken` (case aside); add it."""
    safe = _UNSAFE.sub("-", title).strip(" .")[:_LONGEST] or "picture"
    candidate, count = safe, 1
    while candidate.casefold() in taken:
        count += 1
        candidate = f"{safe} {count}"
    taken.add(candidate.casefold())
    return candidate
