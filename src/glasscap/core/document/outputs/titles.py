"""File names from titles."""

import re

UNSAFE = re.compile(r'[\x00-\x1f/\\:*?"<>|]+')
_LONGEST = 120


def dashed_name(title: str) -> str:
    """Return a file name without an ending, in small letters with dashes.

    Examples
    --------
    >>> dashed_name("Blue plate / front")
    'blue-plate-front'
    """
    words = UNSAFE.sub(" ", title).casefold().split()
    return "-".join(words)[:_LONGEST].strip(".-") or "picture"
