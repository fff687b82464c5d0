"""The viewport, the part of the sheet on the bench: one frozen value, in device px and sheet px."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.geometry.types import Affine, Box, PixelBox

SMALLEST_ZOOM, LARGEST_ZOOM = 0.01, 64.0
_MARGIN_SHARE = 0.06


class Viewport(Struct, frozen=True):
    """The bench's window on the sheet.

    `x`, `y`: the sheet point at its centre; `zoom`: device px per sheet px; `width`, `height`: device px.
    """

    x: float = 0.0
    y: float = 0.0
    zoom: float = 1.0
    width: int = 1
    height: int = 1

    @property
    def to_device(self) -> Affine:
        """The map from sheet px to device px, on whole device px at zoom 1 and above."""
        e, f = self.width / 2 - self.x * self.zoom, self.height / 2 - self.y * self.zoom
        return Affine(self.zoom, 0, 0, self.zoom, float(round(e)), float(round(f)))

    @property
    def box(self) -> PixelBox:
        """All its device px."""
        return PixelBox(0, 0, self.width, self.height)

    def to_sheet(self, x: float, y: float) -> tuple[float, float]:
        """Return the sheet point at a device point."""
        return self.to_device.inverse().apply(x, y)

    def resized(self, width: int, height: int) -> "Viewport":
        """Return it for another window size, same centre."""
        return replace(self, width=max(1, width), height=max(1, height))

    def panned(self, dx: float, dy: float) -> "Viewport":
        """Return it after the sheet was pulled by device px."""
        return replace(self, x=self.x - dx / self.zoom, y=self.y - dy / self.zoom)

    def zoomed(self, factor: float, at_x: float, at_y: float) -> "Viewport":
        """Return it enlarged about a device point, which keeps its sheet point."""
        zoom = min(max(self.zoom * factor, SMALLEST_ZOOM), LARGEST_ZOOM)
        sx, sy = self.to_sheet(at_x, at_y)
        x = sx - (at_x - self.width / 2) / zoom
        y = sy - (at_y - self.height / 2) / zoom
        return replace(self, x=x, y=y, zoom=zoom)

    def at_zoom(self, zoom: float) -> "Viewport":
        """Return it at a zoom about its centre."""
        return self.zoomed(zoom / self.zoom, self.width / 2, self.height / 2)

    def fitted(self, box: Box, *, bottom_reserve: int = 0) -> "Viewport":
        """Return it showing a whole box with a margin; `bottom_reserve` device px at the bottom are kept free."""
        high = max(1, self.height - bottom_reserve)
        margin = 1 - 2 * _MARGIN_SHARE
        zoom = min(self.width * margin / max(box.width, 1), high * margin / max(box.height, 1))
        zoom = min(max(zoom, SMALLEST_ZOOM), LARGEST_ZOOM)
        x, y = box.centre
        return replace(self, x=x, y=y + bottom_reserve / 2 / zoom, zoom=zoom)
