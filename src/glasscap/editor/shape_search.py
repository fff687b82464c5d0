"""Finding a shape of the library by everyday words."""

from glasscap.core.shapes.library.spec import ShapeSpec
from glasscap.core.shapes.library.table import SHAPES


def found_shapes(words: str, group: str = "") -> tuple[str, ...]:
    """Return the names of shapes that every word fits, best first; all of a group ("" for all) without words."""
    specs = [s for s in SHAPES.values() if not group or s.group == group]
    asked = words.lower().split()
    if not asked:
        return tuple(s.name for s in specs)
    ranked = [(rank, index, s.name) for index, s in enumerate(specs) if (rank := _rank(s, asked)) is not None]
    return tuple(name for _, _, name in sorted(ranked))


def _rank(spec: ShapeSpec, asked: list[str]) -> int | None:
    """Return how far from the name the words were found, or None when one was not found at all."""
    label = spec.label.lower()
    total = 0
    for word in asked:
        if label.startswith(word):
            total += 0
        elif any(part.startswith(word) for part in label.replace(",", " ").split()):
            total += 1
        elif any(part.startswith(word) for part in spec.words):
            total += 2
        else:
            return None
    return total
