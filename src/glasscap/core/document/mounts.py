"""Where a mount lies: the shape's frame (or the photo's) grown by its margins, turned with it."""

from glasscap.core.document.finishes import Mount
from glasscap.core.document.model import Cutout, PhotoRecord
from glasscap.core.document.placement import ShapePlacement
from glasscap.core.geometry.types import Box


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
