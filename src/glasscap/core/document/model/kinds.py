"""The kind and the name of an item: for selecting all of a kind, and by name."""

from glasscap.core.document.model.job import Cutout
from glasscap.core.shapes.kinds import ParametricShape


def kind_of(item: Cutout) -> tuple[str, str]:
    """Return the sort of an item's content and of its shape; of a library shape, its name."""
    shape = item.shape
    sort = shape.name if isinstance(shape, ParametricShape) else type(shape).__name__
    return type(item.content).__name__, sort


def has_name(item: Cutout, wanted: str) -> bool:
    """Whether an item's name holds all the words that are looked for, whatever their case."""
    return all(word in item.name.casefold() for word in wanted.casefold().split())
