"""First placements: the largest centred circle, photos on a sheet."""

import math
from collections.abc import Container

from msgspec.structs import replace

from glasscap.core.document.model.job import Cutout, PhotoContent, PhotoRecord, Sheet
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import Shape, library_shape
from glasscap.core.shapes.outlines import natural_ratio

# The gap between photos laid side by side, as a share of their cell.
_GAP_SHARE = 0.06


def largest_centred(shape: Shape, width: float, height: float, x: float, y: float) -> ShapePlacement:
    """Return the largest placement of a shape centred in a width x height box about (x, y), on whole pixels.

    For a circle on 1920 x 1080 its diameter is 1080.
    """
    ratio = natural_ratio(shape)
    if ratio is not None:
        width, height = min(width, height * ratio), min(height, width / ratio)
    whole = (float(max(1, math.floor(width + 1e-9))), float(max(1, math.floor(height + 1e-9))))
    return ShapePlacement(x, y, *whole).on_whole_pixels()


def cells_side_by_side(count: int, width: float, height: float) -> list[Box]:
    """Return boxes for so many photos on a sheet: rows of cells as nearly square as can be, gaps between them.

    One box is the whole sheet.
    """
    if count == 1:
        return [Box(0.0, 0.0, width, height)]
    columns = min(count, max(1, round(math.sqrt(count * width / height))))
    across, down = width / columns, height / math.ceil(count / columns)
    half_gap = _GAP_SHARE * min(across, down) / 2
    cells = []
    for row, column in (divmod(n, columns) for n in range(count)):
        x, y = column * across, row * down
        cells.append(Box(x + half_gap, y + half_gap, x + across - half_gap, y + down - half_gap))
    return cells


def photo_in_box(photo: PhotoRecord, width: float, height: float, x: float, y: float) -> ContentPlacement:
    """Return a photo centred on (x, y), on whole pixels at scale 1, or smaller so that it fits the box."""
    scale = min(1.0, width / photo.width, height / photo.height)
    if scale == 1.0:
        x = math.floor(x - photo.width / 2 + 0.5) + photo.width / 2
        y = math.floor(y - photo.height / 2 + 0.5) + photo.height / 2
    return ContentPlacement(x, y, scale, scale)


def cutout_of_photo(
    cutout_id: str, name: str, photo: PhotoRecord, content: ContentPlacement, *, is_cut: bool = False
) -> Cutout:
    """Return a photo under the largest circle it covers, one that `is_cut` out already as it is; no finishes."""
    if is_cut:
        return Cutout(cutout_id, name, PhotoContent(photo.sha256), content)
    shape = library_shape("circle")
    size = (photo.width * content.scale_x, photo.height * content.scale_y)
    placement = largest_centred(shape, *size, content.x, content.y)
    if content.scale_x != 1.0:
        # On whole pixels the circle may have moved by half of one; a photo that is reduced anyway goes along.
        content = replace(content, x=placement.x, y=placement.y)
    return Cutout(
        cutout_id,
        name,
        PhotoContent(photo.sha256),
        content,
        shape,
        placement,
    )


def plain_name(file_name: str) -> str:
    """Return a name for people from a file's name: no folder, no ending, spaces for dashes."""
    stem = file_name.rsplit("/", 1)[-1]
    stem = stem.rsplit(".", 1)[0] if "." in stem[1:] else stem
    words = stem.replace("_", " ").replace("-", " ").strip()
    return words[:1].upper() + words[1:] if words else "Photo"


def sheet_for_photos(
    sheet_id: str, ids: list[str], photos: list[PhotoRecord], cut_out: Container[str] = ()
) -> Sheet:
    """Return a sheet that holds every photo's circle at the photo's own pixels.

    One photo: the sheet is its pixel frame. Several: a grid of square cells, no circle over another.
    """
    if len(photos) == 1:
        (photo,) = photos
        content = ContentPlacement(photo.width / 2, photo.height / 2)
        is_cut = photo.sha256 in cut_out
        item = cutout_of_photo(ids[0], plain_name(photo.name), photo, content, is_cut=is_cut)
        return Sheet(sheet_id, "Sheet 1", photo.width, photo.height, items=(item,))
    columns = math.ceil(math.sqrt(len(photos)))
    rows = math.ceil(len(photos) / columns)
    cell = max(min(p.width, p.height) for p in photos)
    items = []
    for index, (item_id, photo) in enumerate(zip(ids, photos, strict=True)):
        row, column = divmod(index, columns)
        content = photo_in_box(photo, math.inf, math.inf, (column + 0.5) * cell, (row + 0.5) * cell)
        is_cut = photo.sha256 in cut_out
        items.append(cutout_of_photo(item_id, plain_name(photo.name), photo, content, is_cut=is_cut))
    return Sheet(sheet_id, "Sheet 1", columns * cell, rows * cell, items=tuple(items))
