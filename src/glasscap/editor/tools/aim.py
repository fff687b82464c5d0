"""An aim: a purpose for the next drags on the bench, which otherwise move what the grip holds."""

from collections.abc import Callable

from msgspec import Struct

from glasscap.core.document.model.job import Item
from glasscap.core.raster.pixels import Bytes
from glasscap.editor.tools.measure import Take, measure_line
from glasscap.editor.tools.paint_band import BRUSH_REACHES, paint_band
from glasscap.editor.tools.place_mask import place_mask
from glasscap.editor.tools.pointer import PointerEvent, Scene, Tool


class Aim(Struct, frozen=True):
    """A tool that waits for a drag.

    `begin(scene, press, pixels)` gets the selected photo's pixels where they are at hand; `words` say what a
    drag does; `goes_on(item)` tells after every step whether it still serves the item as it is now. `brush` is
    the radius of its ring around the pointer in reaches of the pointer, 0 for none; the ring is amber where the
    drag `takes_away`.
    """

    begin: Callable[[Scene, PointerEvent, Bytes | None], Tool]
    words: str
    goes_on: Callable[[Item], bool]
    brush: float = 0.0
    takes_away: bool = False


def measuring(take: Take) -> Aim:
    """Measure a line, whose width `take(job, width)` gets."""
    return Aim(
        lambda scene, press, pixels: measure_line(scene, press, take, pixels),
        "Drag across a line in the photo · its width becomes the stroke's · Escape leaves",
        goes_on=lambda item: False,
    )


PLACING_MASK = Aim(
    lambda scene, press, _: place_mask(scene, press),
    "Drag moves the mask · Shift sizes it · Ctrl turns it · Escape leaves",
    goes_on=lambda item: item.finishes.edge.mask is not None,
)


def _painting(words: str, *, is_wider: bool) -> Aim:
    return Aim(
        lambda scene, press, _: paint_band(scene, press, is_wider=is_wider),
        words,
        goes_on=lambda item: item.finishes.edge.soft is not None and item.finishes.edge.soft.is_on,
        brush=BRUSH_REACHES,
        takes_away=not is_wider,
    )


WIDENING_BAND = _painting("Stroke where hair or glass goes beyond the band · Escape leaves", is_wider=True)
NARROWING_BAND = _painting("Stroke where the edge is sharp · Escape leaves", is_wider=False)
