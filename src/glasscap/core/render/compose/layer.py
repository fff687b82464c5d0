"""One thing of a picture by itself."""

from msgspec import Struct

from glasscap.core.raster.pixels import Planar


class Layer(Struct, frozen=True, eq=False):
    """A name and premultiplied planes, shape (4, h, w), 0 to 255."""

    name: str
    planes: Planar
