"""File names from titles."""

from glasscap.core.document.outputs.titles import UNSAFE

_LONGEST = 120


def free_name(title: str, taken: set[str]) -> str:
    """Return a file name without an ending, near the title and not yet in `taken` (case aside); add it."""
    safe = UNSAFE.sub("-", title).strip(" .")[:_LONGEST] or "picture"
    candidate, count = safe, 1
    while candidate.casefold() in taken:
        count += 1
        candidate = f"{safe} {count}"
    taken.add(candidate.casefold())
    return candidate
