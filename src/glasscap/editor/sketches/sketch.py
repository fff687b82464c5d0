"""A sketch: a generator that takes pointer and key events and yields lines to show.

``sketch = draw_points(scene)``; the driver sends every press, move, release and key; the sketch yields a
SketchShown for each and returns the Edit to apply when the shape is done, or None when it is given up.
"""

from collections.abc import Callable, Generator
from typing import Literal

from msgspec import Struct

from glasscap.core.document.edits.items import add_items, set_shape
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import fresh_ids, fresh_name, has_item
from glasscap.core.document.shapes.points import placed_points
from glasscap.core.geometry.outline import Points
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.kinds import Shape
from glasscap.core.shapes.nodes import Nodes
from glasscap.editor.tools.pointer import Edit, Scene

# "back" takes the last thing drawn back, "again" puts it back; "escape" comes only where it is waited for.
EventKind = Literal["press", "move", "release", "enter", "back", "again", "escape", "tick", "add", "take"]


class SketchEvent(Struct, frozen=True):
    """A pointer or key event at a place in sheet px, with what is held down.

    `px` is how many sheet px one px of the screen is just now.
    """

    kind: EventKind
    x: float
    y: float
    has_shift: bool = False
    has_ctrl: bool = False
    has_right_button: bool = False
    px: float = 1.0


class SketchShown(Struct, frozen=True, eq=False):
    """Lines, shape (n, 2), in sheet px: those drawn and those not yet fixed; points, controls, words.

    While it `is_waiting` for work in a thread it gets a tick now and then. `back` and `again` say what those
    events would take back and put back, "" for nothing. `brush` is the radius of what strokes paint, in sheet
    px; `tinted` are closed lines whose inside would be kept; `choice` is which of *Add* and *Take away* strokes
    do.
    """

    lines: tuple[Points, ...] = ()
    loose: tuple[Points, ...] = ()
    dots: tuple[tuple[float, float], ...] = ()
    controls: tuple[tuple[float, float, float, float], ...] = ()
    words: str = ""
    is_waiting: bool = False
    back: str = ""
    again: str = ""
    takes_escape: bool = False
    brush: float = 0.0
    tinted: tuple[Points, ...] = ()
    choice: Literal["", "add", "take"] = ""


Sketch = Generator[SketchShown, SketchEvent, Edit | None]


class SketchKind(Struct, frozen=True):
    """A way to draw: `begin(scene, pixels)` gets the selected photo's pixels where they are at hand."""

    name: str
    begin: Callable[[Scene, Bytes | None], Sketch]
    words: str


def finished(scene: Scene, step: str, shape: Shape, placement: ShapePlacement) -> Edit:
    """Return the edit that gives the shape to the selected cutout, or makes one that waits for a photo."""
    if scene.selected:
        item_id = scene.item.id
        return Edit(step, scene.job, scene.selected, change=lambda job: set_shape(job, item_id, shape, placement))
    (new_id,) = fresh_ids(scene.job, 1)

    def put(job: Job) -> Job:
        fresh = new_id if not has_item(job, new_id) else fresh_ids(job, 1)[0]
        item = Cutout(fresh, fresh_name(job, "Drawn shape"), shape=shape, shape_placement=placement)
        return add_items(job, scene.container, [item])

    return Edit(step, scene.job, (new_id,), change=put)


def finished_points(scene: Scene, step: str, nodes: Nodes, made_by: str) -> Edit:
    """Return the edit for a shape of points in sheet px. Raises ShapeError for points that enclose nothing."""
    shape, placement = placed_points(nodes, None, made_by=made_by)
    return finished(scene, step, shape, placement)
