"""Where a picture mask lies within the frame of its shape."""

from glasscap.core.document.finishes import PictureMask
from glasscap.core.geometry.types import Affine


def mask_to_frame(mask: PictureMask, frame: tuple[float, float], picture: tuple[int, int]) -> Affine:
    """Return the map from a mask picture's centred px to the centred units of a frame of that size."""
    width, height = frame
    across, down = width / picture[0], height / picture[1]
    if not mask.is_stretched:
        across = down = max(across, down)
    placed = Affine.translation(mask.x * width, mask.y * height).after(Affine.rotation(mask.rotation))
    return placed.after(Affine.scaling(across * mask.size, down * mask.size))
