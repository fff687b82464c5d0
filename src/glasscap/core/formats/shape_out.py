"""A shape written for other programs: SVG path data, an SVG file, a CSS clip path."""

from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.region import shape_outline
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.fit import thinned
from glasscap.core.geometry.outline import Outline
from glasscap.core.geometry.path_data import write_path_data
from glasscap.core.geometry.types import Affine

# Curves may leave the shape's by this many px; numbers have three decimals.
_TOLERANCE, _DECIMALS = 0.01, 3


def path_of(item: Cutout) -> str:
    """Return the path of a cutout's shape in sheet px. Raises ShapeError for one without a shape."""
    return write_path_data(_outline(item), _DECIMALS)


def css_of(item: Cutout) -> str:
    """Return a `clip-path` declaration (CSS Masking 1) in px from the shape's upper left corner."""
    return f'clip-path: path("{write_path_data(_from_corner(item)[0], _DECIMALS)}");'


def svg_of(item: Cutout) -> bytes:
    """Return an SVG file that holds the shape alone, as large as its box."""
    outline, width, height = _from_corner(item)
    return svg_file(outline, width, height)


def svg_file(outline: Outline, width: float, height: float) -> bytes:
    """Return an SVG file of one path."""
    w, h = (f"{v:.3f}".rstrip("0").rstrip(".") for v in (width, height))
    data = write_path_data(outline, _DECIMALS)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}" viewBox="0 0 {w} {h}">'
        f'<path d="{data}"/></svg>\n'
    ).encode()


def _outline(item: Cutout) -> Outline:
    if item.shape is None or item.shape_placement is None:
        raise ShapeError(item.name, "it has no shape", "select a cutout with a shape")
    return thinned(shape_outline(item.shape, item.shape_placement), tolerance=_TOLERANCE)


def _from_corner(item: Cutout) -> tuple[Outline, float, float]:
    outline = _outline(item)
    box = outline_box(outline)
    return outline.transformed(Affine.translation(-box.x0, -box.y0)), box.width, box.height
