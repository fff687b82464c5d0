"""The end of a part's content: the box of its photo, where that may be seen."""

from glasscap.core.document.model.region import covers_shape, photo_quad
from glasscap.core.geometry.polygon import oriented
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.scan import cover
from glasscap.core.render.offsets.edges import EVERYWHERE, Surround
from glasscap.core.render.plan.bounds import content_reach, outer_reach
from glasscap.core.render.plan.part import Part


class ContentEnd:
    """The content's own box as seen in a window, kept by value: it outlasts what changes of the shape."""

    def __init__(self, part: Part, window: PixelBox, cache: ValueCache) -> None:
        self._part, self._window, self._cache = part, window, cache

    def ground(self) -> Surround | None:
        """Return what lies around a hole: the content's own box where that is crisp and all around."""
        region = self._part.region
        if not region.is_hole:
            return None
        is_framed = self._part.edge.feather == 0 and covers_shape(region, outer_reach(self._part))
        return Surround(region.photo_to_output, region.photo_size) if is_framed else EVERYWHERE

    def coverage(self) -> Coverage | None:
        """Return the box's coverage, where it may show that the content ends and outlines do not tell."""
        region = self._part.region
        if region.shape is None or self.ground() not in (None, EVERYWHERE):
            return None
        if not region.is_hole and covers_shape(region, content_reach(self._part)):
            return None
        return self._covered(region.photo_to_output, self._window)

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        """Return the box's coverage, moved by some px, on cells of k px."""
        region = self._part.region
        to_cells = Affine.scaling(1 / k).after(Affine.translation(*shift)).after(region.photo_to_output)
        key = ("frame plane", to_cells, region.photo_size, cells)
        return self._cache.get(key, lambda: self._covered(to_cells, cells).plane(cells), lambda p: p.nbytes)

    def _covered(self, photo_to_output: Affine, box: PixelBox) -> Coverage:
        size = self._part.region.photo_size

        def made() -> Coverage:
            return cover((oriented(photo_quad(photo_to_output, size)),), box)

        return self._cache.get(("frame", photo_to_output, size, box), made, lambda c: c.nbytes)
