"""What a crisp body is made of, and the sums for the few pixels of it that need some."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.bands import OffsetKey
from glasscap.core.render.content import PaintPart, PhotoPart
from glasscap.core.render.lights import Cast
from glasscap.core.render.planar import Plane, Writing, add_colour, weighted_planes, words
from glasscap.core.render.weights import Weights

Colour = tuple[float, float, float, float]
Words = NDArray[np.uint32]


@dataclass(frozen=True, eq=False)
class CrispParts:
    """Opaque content in opaque strokes of one colour each (by their numbers), over shadows and glows."""

    weights: Weights
    content: PhotoPart | PaintPart
    colours: Sequence[Colour]
    casts: Sequence[Cast]

    def coverages(self) -> dict[OffsetKey, Coverage]:
        """Return the coverage of each outline, the innermost first."""
        keys = (self.weights.innermost, *(band.outer for band in self.weights.bands))
        return {key: self.weights.coverage(key) for key in keys}

    def write_beneath(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write shadows and glows, the topmost first, as though nothing else lay there."""
        if len(self.casts) == 1:
            out[:] = writing.tint(self.casts[0].alpha(box, 1.0), self.casts[0].colour)
        elif self.casts:
            planes = np.zeros((4, *out.shape[:2]), np.float32)
            nothing = np.zeros(out.shape[:2], np.float32)
            for cast in self.casts:
                cast.lay_beneath(planes, cast.plane(box), nothing)
            out[:] = writing.planes(planes)

    def write_cells(
        self,
        out: Words,
        content: Words,
        places: NDArray[np.int64],
        values: Mapping[OffsetKey, Plane],
        box: PixelBox,
        writing: Writing,
    ) -> None:
        """Compute the pixels of a box through which an outline passes.

        `places` are their numbers, row by row; `values` each outline's coverage of them, shape (1, n).
        """
        y, x = np.divmod(places, box.width)
        shares = self.weights.partition(values.__getitem__, box)
        planes = weighted_planes(content[y, x].view(np.uint8).reshape(1, -1, 4), shares.content)
        for number, share in shares.strokes.items():
            add_colour(planes, share, self.colours[number])
        body_alpha = planes[3].copy()
        for cast in self.casts:
            cast.lay_beneath(planes, cast.at(y, x, box)[None], body_alpha)
        out[y, x] = words(writing.planes(planes))[0]
