"""The frame of a mount: the shape's (or the photo's) grown by its margins, turned with it."""

import math

from msgspec.structs import replace

from glasscap.core.document.model.finishes import Mount
from glasscap.core.document.model.job import Cutout, PhotoRecord
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Affine, Box


def mount_frame(
    mount: Mount, cutout: Cutout, photo: PhotoRecord | None, held: Box | None = None
) -> ShapePlacement | None:
    """Return the plate's placement, or None when its margins leave nothing; `held` is the box of a group."""
    frame = _frame(cutout, photo, held)
    if frame is None:
        return None
    width, height = frame.width + mount.left + mount.right, frame.height + mount.top + mount.bottom
    if width < 1e-3 or height < 1e-3:
        return None
    plain = ShapePlacement(frame.x, frame.y, frame.width, frame.height, frame.rotation)
    x, y = plain.to_sheet.apply((mount.right - mount.left) / 2, (mount.bottom - mount.top) / 2)
    return ShapePlacement(x, y, width, height, frame.rotation)


def on_pixel_lines(frame: ShapePlacement, to_output: Affine) -> ShapePlacement:
    """Return an upright frame with its sides on the nearest pixel lines of the output; a turned one as it is."""
    if not frame.is_upright or to_output.b or to_output.c:
        return frame
    box = frame.box
    x0, y0 = (math.floor(v + 0.5) for v in to_output.apply(box.x0, box.y0))
    x1, y1 = (math.floor(v + 0.5) for v in to_output.apply(box.x1, box.y1))
    back = to_output.inverse()
    left, top = back.apply(x0, y0)
    right, bottom = back.apply(max(x1, x0 + 1), max(y1, y0 + 1))
    sides = (right - left, bottom - top)
    is_on_its_side = frame.rotation % 180 != 0
    width, height = sides[::-1] if is_on_its_side else sides
    return replace(frame, x=(left + right) / 2, y=(top + bottom) / 2, width=width, height=height)


def _frame(cutout: Cutout, photo: PhotoRecord | None, held: Box | None) -> ShapePlacement | None:
    placed = cutout.content_placement
    if cutout.shape_placement is not None and (cutout.is_masked or (placed is None and held is None)):
        return cutout.shape_placement
    if held is not None:
        return ShapePlacement(*held.centre, held.width, held.height)
    if photo is None or placed is None:
        return None
    width, height = photo.width * placed.scale_x, photo.height * placed.scale_y
    return ShapePlacement(placed.x, placed.y, width, height, placed.rotation)
