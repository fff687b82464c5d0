"""The outline of a part in output px, inset and made rough, and the parallels of a rough one."""

from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge
from glasscap.core.document.model.region import Region, photo_quad, shape_polygons
from glasscap.core.geometry.offset import offset_polygons, ragged_parallel
from glasscap.core.geometry.outline import Points, transform
from glasscap.core.geometry.polygon import oriented
from glasscap.core.geometry.types import Affine
from glasscap.core.photos.cache import ValueCache, nbytes_of
from glasscap.core.render.plan.part import FLATNESS
from glasscap.core.shapes.rough import Ripple, displaced, ripples, roughened

# Sheet px: a rough edge is drawn from the same points at every output scale.
_ROUGH_FLATNESS = 1 / 64
# Sheet px: how far the parallels of a rough edge may be off.
_ROUGH_OFFSET = 1 / 32
# Output px: the same while something moves, when thousands of points would take a second.
_ROUGH_MOVING = 1 / 4
# Output px: how far apart its points are then at least.
_FINEST_MOVING = 1 / 6


def outline_polygons(region: Region, edge: Edge, tolerance: float = FLATNESS) -> tuple[Points, ...]:
    """Return a region's outline (the shape's, or the photo's box without one), inset, output px."""
    return _inset(region, edge, _scale(region), tolerance)


def rough_outline(
    region: Region, edge: Edge, distance: float, flatness: float, cache: ValueCache, *, may_cross: bool = False
) -> tuple[Points, ...]:
    """Return a parallel of a region's rough outline, output px; its corners are round.

    Of thousands of points each is a corner: mitres would be thorns. It is made on the sheet, one for every output
    scale. While something moves (`flatness` px) there are fewer points, unless they are all there already, and
    the outline itself may cross itself; a parallel only where that `may_cross`.
    """
    scale, is_moving = _scale(region), flatness > FLATNESS
    on_sheet = _Rough(_region_on_sheet(region), edge, cache)
    tolerance = max(_ROUGH_OFFSET, _ROUGH_MOVING / scale) if is_moving else _ROUGH_OFFSET
    finest = _FINEST_MOVING / scale if is_moving and not on_sheet.is_known else 0.0
    found = on_sheet.parallel(round(distance / scale, 9), finest, tolerance, may_cross=may_cross)
    return tuple(transform(p, region.sheet_to_output) for p in found)


class _Rough:
    """A rough outline whose output px are sheet px, kept by value."""

    def __init__(self, region: Region, edge: Edge, cache: ValueCache) -> None:
        self._region, self._edge, self._cache = region, edge, cache
        self._key = ("rough", region, edge)

    @property
    def is_known(self) -> bool:
        """Whether all its points are there."""
        return self._cache.peek((*self._key, 0.0)) is not None

    def parallel(
        self, distance: float, finest: float, tolerance: float, *, may_cross: bool
    ) -> tuple[Points, ...]:
        found = self._cache.get((*self._key, finest), lambda: self._made(finest), nbytes_of)
        if distance == 0:
            return found
        key = (*self._key, distance, finest, tolerance, may_cross)
        move = ragged_parallel if may_cross else offset_polygons
        return self._cache.get(key, lambda: move(found, distance, tolerance=tolerance), nbytes_of)

    def _made(self, finest: float) -> tuple[Points, ...]:
        rough = self._edge.rough
        assert rough is not None
        rippled = self._rippled(finest)
        return displaced(rippled, rough.amount) if finest else roughened(rippled, rough.amount)

    def _rippled(self, finest: float) -> tuple[Ripple, ...]:
        """Return what does not depend on the amount."""
        rough = self._edge.rough
        assert rough is not None

        def made() -> tuple[Ripple, ...]:
            flat = _inset(self._region, self._edge, 1.0, _ROUGH_FLATNESS)
            return ripples(flat, rough.kind, scale=rough.scale, seed=rough.seed, finest=finest)

        whatever = replace(self._edge, rough=replace(rough, amount=0.0))
        key = ("ripples", self._region, whatever, finest)
        return self._cache.get(key, made, nbytes_of)


def _scale(region: Region) -> float:
    return float(abs(region.sheet_to_output.determinant) ** 0.5)


def _region_on_sheet(region: Region) -> Region:
    photo_to_sheet = region.sheet_to_output.inverse().after(region.photo_to_output)
    if region.shape is not None:
        photo_to_sheet = region.photo_to_output
    return replace(region, sheet_to_output=Affine(), photo_to_output=photo_to_sheet)


def _inset(region: Region, edge: Edge, scale: float, tolerance: float) -> tuple[Points, ...]:
    inwards = -1.0 if region.is_hole else 1.0
    return offset_polygons(
        _plain(region, tolerance), -edge.inset * inwards * scale, tolerance=tolerance, join=edge.join
    )


def _plain(region: Region, tolerance: float) -> tuple[Points, ...]:
    if region.shape is None or region.placement is None:
        return (oriented(photo_quad(region.photo_to_output, region.photo_size)),)
    return shape_polygons(region.shape, region.placement, region.sheet_to_output, tolerance=tolerance)
