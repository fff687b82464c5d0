"""The frame of a picture mask: that of its shape, or of the photo where no shape masks it."""

from glasscap.core.document.model.finishes import PictureMask
from glasscap.core.document.model.region import Region
from glasscap.core.geometry.types import Affine


def masked_frame(region: Region) -> tuple[Affine, float, float]:
    """Return the map from the frame's own centred units to output px, and its size in them."""
    placement = region.placement
    if region.shape is not None and placement is not None:
        return region.sheet_to_output.after(placement.to_sheet), placement.width, placement.height
    width, height = region.photo_size
    return region.photo_to_output.after(Affine.translation(width / 2, height / 2)), width, height


def mask_to_output(mask: PictureMask, region: Region, picture: tuple[int, int]) -> Affine:
    """Return the map from a mask picture's centred px to output px."""
    to_output, width, height = masked_frame(region)
    across, down = width / picture[0], height / picture[1]
    if not mask.is_stretched:
        across = down = max(across, down)
    placed = Affine.translation(mask.x * width, mask.y * height).after(Affine.rotation(mask.rotation))
    return to_output.after(placed).after(Affine.scaling(across * mask.size, down * mask.size))
