"""What casts a shadow, told on cells from what is known of a body's outlines and fade, without painting it."""

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.cell_means import cell_means
from glasscap.core.raster.pixels import Plane
from glasscap.core.render.plan.bands import OUTLINE
from glasscap.core.render.shares.feather import strengthened
from glasscap.core.render.shares.shares import SMALLEST_CELLS, Weights


def alpha_on_cells(weights: Weights, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane | None:
    """Return the shares of content and strokes together on cells of k px, the whole moved by some px.

    None where cells are small, or wider than a fade beneath strokes (of whose products they would be means),
    where not all strokes lie in the window, or more than outlines, a feather and a mask decide.
    """
    fading, has_fade = weights.fading, weights.has_fade
    if k < SMALLEST_CELLS or weights.is_sharp or (has_fade and fading is None):
        return None
    if has_fade and weights.bands and weights.fade_outline()[1] < k:
        return None
    if not weights.is_whole or not weights.has_opaque_paints:
        return None
    if weights.mixed_bands and not weights.are_for_screen:
        return None
    edges = weights.edges
    # Beyond the window pixels are not known, and of strokes there is nothing.
    is_known = weights.are_for_screen and edges.is_whole(weights.outermost)
    coverage = edges.on_cells if is_known or (has_fade and weights.are_for_screen) else edges.kept_cells
    shares = weights.partition(lambda key: coverage(key, cells, k, shift), None, is_faded=has_fade)
    content, strokes = shares.content, np.asarray(sum(shares.strokes.values()), np.float32)
    if weights.mixed_bands:
        strokes = strokes - cell_means(weights.laid.lost, cells, k, shift)
        content = content if has_fade else content + cell_means(weights.laid.won, cells, k, shift)
    if fading is not None:
        fade = fading.on_cells(cells, k, shift)
        if fading.side is not None:
            crisp = edges.on_cells if is_known else edges.kept_cells
            fade = fading.side.joined(fade, crisp(OUTLINE, cells, k, shift))
        fade = strengthened(fade, fading.strength)
        content = fade - fade * strokes
    for limit in (weights.frame_on_cells(cells, k, shift), weights.mask_on_cells(cells, k, shift)):
        if limit is not None:
            content = content * limit
    return np.asarray(content + strokes, np.float32)
