"""Options for the shape of a cut: the library, a drawing, path data, letters, rim points."""

import argparse
from importlib import import_module

from msgspec.structs import replace

from glasscap.cli import options
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.rims import rim_shape
from glasscap.core.errors import CallError, ShapeError
from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.outline import Outline
from glasscap.core.geometry.path_data import read_path_data, write_path_data
from glasscap.core.shapes.kinds import PointsShape, RimKind, Shape, library_shape
from glasscap.core.shapes.library.table import find_shape
from glasscap.core.shapes.outlines import own_box

_LETTERS = ("font", "weight", "tracking", "line")
_MAKERS = {"letters": "glasscap.cli.letters_option", "shape_file": "glasscap.cli.drawing_option"}


def add_shape_options(parser: argparse.ArgumentParser) -> None:
    """Declare them."""
    parser.add_argument("--shape", metavar="NAME", help="a shape of the library; see glasscap shapes")
    parser.add_argument("--param", type=options.param, action="append", default=[], metavar="NAME=VALUE")
    parser.add_argument("--shape-file", metavar="FILE.svg", help="the shapes of a drawing, together")
    parser.add_argument("--shape-path", metavar="DATA", help="SVG path data, in px of the photo")
    parser.add_argument(
        "--letters", metavar="TEXT", help="words as the shape; \\n starts a line; --size N is their size in px"
    )
    parser.add_argument("--font", metavar="NAME", help="a family; see glasscap fonts")
    parser.add_argument("--weight", type=options.positive, metavar="N", help="100 to 900")
    parser.add_argument("--tracking", type=options.number, metavar="N", help="in thousandths of the size")
    parser.add_argument("--line", type=options.positive, metavar="N", help="line spacing in sizes")
    parser.add_argument("--round", type=options.number, metavar="N", help="radius of every corner, px")
    parser.add_argument("--around", type=options.box, metavar="X,Y,W,H", help="the object within a rough box, px")
    parser.add_argument("--rim", nargs="+", metavar="X,Y", type=options.place, help="a circle through rim points")
    parser.add_argument(
        "--rim-ellipse", nargs="+", metavar="X,Y", type=options.place, help="an ellipse near them"
    )


def chosen_shape(call: argparse.Namespace, width: int, height: int) -> tuple[Shape, ShapePlacement | None]:
    """Return the shape asked for and where it lies on a photo of that size, None for the largest fit.

    Raises GlassCapError.
    """
    given = [
        k
        for k in ("shape", "shape_file", "shape_path", "letters", "around", "rim", "rim_ellipse")
        if getattr(call, k) is not None
    ]
    if len(given) > 1:
        names = " and ".join(f"--{k.replace('_', '-')}" for k in given[:2])
        raise CallError(names, "they exclude each other", "give one of them")
    _check_company(call, given[0] if given else "shape")
    shape, placement = _made(call, given[0] if given else "shape", width, height)
    return (shape if call.round is None else replace(shape, round=call.round)), placement


def _check_company(call: argparse.Namespace, kind: str) -> None:
    if kind == "around":
        for name in ("box", "round"):
            if getattr(call, name) is not None:
                raise CallError(f"--around and --{name}", "they exclude each other", "give one of them")
    if kind != "letters":
        for name in _LETTERS:
            if getattr(call, name) is not None:
                raise CallError(f"--{name}", "it belongs to --letters", "give --letters TEXT too")
    if kind != "shape" and call.param:
        raise CallError("--param", "it belongs to --shape", "leave it out")


def _made(call: argparse.Namespace, kind: str, width: int, height: int) -> tuple[Shape, ShapePlacement | None]:
    if kind == "around":
        # Not seen: the outline comes from the photo, see `job_for`.
        return library_shape("circle"), None
    if kind == "shape":
        try:
            find_shape(call.shape or "circle")
        except ShapeError as error:
            raise error.named(f"--shape {call.shape}") from error
        return library_shape(call.shape or "circle", "inside", **dict(call.param)), None
    if kind in ("rim", "rim_ellipse"):
        rim: RimKind = "circle" if kind == "rim" else "ellipse"
        return rim_shape(getattr(call, kind), rim)
    if kind == "shape_path":
        shape = points_shape(normalised(read_path_data(call.shape_path)), "Path")
        box = own_box(shape)
        assert box is not None
        return shape, ShapePlacement(*box.centre, box.width, box.height)
    # Typesetting and the reader of drawings are loaded only where they are needed.
    made: tuple[Shape, ShapePlacement | None] = import_module(_MAKERS[kind]).made(call, width, height)
    return made


def points_shape(outline: Outline, made_by: str) -> PointsShape:
    """Return an outline as a shape of points."""
    return PointsShape(write_path_data(outline), made_by=made_by)
