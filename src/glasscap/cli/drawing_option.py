"""``--shape-file``: the shapes of an SVG drawing."""

import argparse
from pathlib import Path

from glasscap.cli.shape_options import points_shape
from glasscap.core.formats.svg_shapes import svg_shapes
from glasscap.core.geometry.boolean import combined
from glasscap.core.shapes.kinds import PointsShape
from glasscap.files.atomic import read_bytes


def made(call: argparse.Namespace, width: int, height: int) -> tuple[PointsShape, None]:
    """Return the drawing's shapes together, to be fitted into a photo. Raises GlassCapError."""
    return drawn_shape(call.shape_file), None


def drawn_shape(path: str) -> PointsShape:
    """Return the shapes of an SVG file together. Raises GlassCapError."""
    parts = svg_shapes(read_bytes(Path(path)), Path(path).name)
    whole = parts[0].outline
    for part in parts[1:]:
        whole = combined(whole, part.outline, "add")
    return points_shape(whole, Path(path).stem)
