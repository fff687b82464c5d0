"""A pointer tool: a generator that takes pointer events and yields previews.

``tool = move(scene, press)``; the driver sends each following event; the tool yields a Shown for every one
and returns the Edit to apply when the button is released, or None.
"""

from collections.abc import Callable, Generator
from functools import cached_property

from msgspec import Struct

from glasscap.core.document.arranging.grips import Grip
from glasscap.core.document.model.boxes import content_box, item_box
from glasscap.core.document.model.job import Item, Job, PhotoRecord, Sheet
from glasscap.core.document.model.query import find_item, find_sheet, photo_of, siblings
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.nodes import Place
from glasscap.editor.distances import Distance
from glasscap.editor.snapping import Guide, Lines, snap_lines


class PointerEvent(Struct, frozen=True):
    """A pointer position in sheet px with what is held down."""

    x: float
    y: float
    is_released: bool = False
    has_shift: bool = False
    has_ctrl: bool = False
    has_right_button: bool = False


class Shown(Struct, frozen=True):
    """A preview during a drag: a job, guides, words with numbers.

    `way` is a measured way and `band` a frame that gathers, both (x, y, x, y); `chosen` are the points
    chosen by now; `distances` are the gaps to the neighbours.
    """

    job: Job
    guides: tuple[Guide, ...] = ()
    words: str = ""
    way: tuple[float, float, float, float] | None = None
    band: tuple[float, float, float, float] | None = None
    chosen: frozenset[Place] | None = None
    distances: tuple[Distance, ...] = ()


class Edit(Struct, frozen=True):
    """The one step a drag becomes; what is selected, and which points are chosen, after it.

    A sketch lasts while other things may happen, so it gives the `change` to make then rather than its outcome.
    """

    label: str
    job: Job
    selected: tuple[str, ...] | None = None
    chosen: frozenset[Place] | None = None
    change: Callable[[Job], Job] | None = None


Tool = Generator[Shown, PointerEvent, Edit | None]


class Scene(Struct, frozen=True, dict=True):
    """The scene a tool starts from. `reach` is the snapping distance in sheet px."""

    job: Job
    sheet_id: str
    selected: tuple[str, ...]
    grip: Grip
    reach: float
    is_snapping: bool = True
    open_group: str | None = None

    @property
    def container(self) -> str:
        """The id of what new things are put into: the open group, else the sheet."""
        return self.open_group or self.sheet_id

    @property
    def sheet(self) -> Sheet:
        """The sheet on the bench."""
        return find_sheet(self.job, self.sheet_id)

    @property
    def item(self) -> Item:
        """The item selected last."""
        return find_item(self.job, self.selected[-1])

    @property
    def items(self) -> tuple[Item, ...]:
        """The selected items."""
        return tuple(find_item(self.job, i) for i in self.selected)

    @property
    def photo(self) -> PhotoRecord | None:
        """The photo of that item."""
        return photo_of(self.job, self.item)

    def lines_for(self, grip: Grip) -> Lines:
        """Return the lines what the grip holds may snap to: a photo does not snap to itself."""
        own = content_box(self.job, self.item) if grip == "shape" and self.selected else None
        return snap_lines(self.sheet, self.others if own is None else (own, *self.others))

    @cached_property
    def others(self) -> tuple[Box, ...]:
        """The boxes of what lies beside the selected items and is not hidden."""
        if not self.selected:
            return ()
        around = siblings(self.job, self.selected[-1])
        seen = [i for i in around if not i.is_hidden and i.id not in self.selected]
        return tuple(box for i in seen if (box := item_box(self.job, i)) is not None)
