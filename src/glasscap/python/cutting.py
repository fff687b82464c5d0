"""A photo cut in one call."""

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    AS_SHOT,
    Adjustments,
    Edge,
    Finishes,
    Lights,
    Shadow,
    SoftContour,
    Stroke,
)
from glasscap.core.document.model.paint import ColourPaint, Paint
from glasscap.core.errors import CallError
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.photos.cache import new_cache
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan.plan import Crop, on_backdrop, plan_cutout
from glasscap.core.shapes.kinds import Keeps
from glasscap.files.one_cutout import Box, Look, PlacedShape, job_for
from glasscap.python.pictures import FinishedPicture
from glasscap.python.sources import Photo, bytes_of

AnyStroke = Stroke | tuple[float, str]
AnyShadow = Shadow | bool


def cut(
    photo: Photo,
    *,
    shape: str | PlacedShape = "circle",
    box: Box | None = None,
    around: Box | None = None,
    params: Mapping[str, float] | None = None,
    keeps: Keeps = "inside",
    stroke: AnyStroke | Sequence[AnyStroke] | None = None,
    shadow: AnyShadow | Sequence[Shadow] | None = None,
    feather: float = 0.0,
    inset: float = 0.0,
    soft: float = 0.0,
    clean_rim: bool = False,
    finishes: Finishes | None = None,
    adjustments: Adjustments = AS_SHOT,
    opacity: float = 1.0,
    background: str | Paint | None = None,
    crop: Crop = "visible",
    scale: float = 1.0,
    pixel_limit: int = DEFAULT_PIXEL_LIMIT,
) -> FinishedPicture:
    """Cut a photo by a shape; lengths are px of the photo.

    Parameters
    ----------
    photo
        A path, the bytes of a picture file, a uint8 array of shape (height, width, 3 or 4), a Pillow image.
    shape
        A name of the library, or any shape with its placement (None for the largest centred fit).
    box
        (x, y, width, height) of the shape; without it a shape of the library is the largest centred fit.
    around
        (x, y, width, height) of a rough box around an object, whose outline is the shape.
    params
        Numbers of the shape by name, such as ``{"points": 7}`` of a star.
    keeps
        "inside", or "outside" for a hole.
    stroke
        ``Stroke(...)`` or (width, colour); several lie side by side, the first on top.
    shadow
        ``Shadow(...)``, several, or True for the usual one.
    feather, inset
        Softness of the edge, and how far it is moved inwards.
    soft, clean_rim
        Width of the band in which the photo's own matte is the edge, for hair, fur, glass; whether its colours
        are cleaned of what shines through.
    finishes
        All finishes at once, instead of the six above.
    background
        What lies behind it all: a colour such as "#f4e9d8", or a paint.
    crop
        "visible": the smallest box of what is seen; "sheet": the photo's frame.
    scale
        Px of the picture for each px of the photo.

    Raises
    ------
    GlassCapError
        PhotoError, ShapeError, PlacementError, CallError, FileProblemError: file, cause and remedy in one line.
    """
    if around is not None and shape != "circle":
        raise CallError("around", "the object's outline is the shape", "leave the shape out")
    data, name = bytes_of(photo)
    look = Look(
        _finishes(finishes, stroke, shadow, Edge(inset=inset, feather=feather, soft=_soft(soft, clean_rim))),
        adjustments,
        opacity,
        ColourPaint(background) if isinstance(background, str) else background,
    )
    job, store = job_for(
        data,
        name,
        shape=shape,
        box=box,
        around=around,
        params=params,
        keeps=keeps,
        pixel_limit=pixel_limit,
        look=look,
    )
    sheet, cache = job.sheets[0], new_cache()
    plan = plan_cutout(job, sheet, sheet.items[0], crop=crop, scale=scale)
    if look.backdrop is not None:
        plan = on_backdrop(plan, look.backdrop, picture_box(plan, store, cache))
    return FinishedPicture(render(plan, store, cache))


def _soft(width: float, clean_rim: bool) -> SoftContour | None:
    if clean_rim and not width:
        raise CallError("clean_rim", "there is no soft contour", "give soft, a width in px, too")
    return SoftContour(width, cleans_rim=clean_rim) if width else None


def _finishes(finishes: Finishes | None, stroke: Any, shadow: Any, edge: Edge) -> Finishes:
    if finishes is not None:
        if stroke is not None or shadow is not None or edge != Edge():
            remedy = "give either finishes, or stroke, shadow, feather, inset, soft"
            raise CallError("finishes", "they are given twice", remedy)
        return finishes
    made = Finishes(edge=edge, strokes=_strokes(stroke))
    return replace(made, lights=Lights(shadows=_shadows(shadow)))


def _strokes(given: Any) -> tuple[Stroke, ...]:
    if given is None:
        return ()
    is_pair = isinstance(given, tuple) and len(given) == 2 and isinstance(given[1], str)
    several = [given] if isinstance(given, Stroke) or is_pair else given
    try:
        return tuple(s if isinstance(s, Stroke) else Stroke(float(s[0]), ColourPaint(s[1])) for s in several)
    except (TypeError, ValueError, LookupError) as error:
        raise CallError("stroke", f"{given!r} is no stroke", "give Stroke(...) or (width, colour)") from error


def _shadows(given: Any) -> tuple[Shadow, ...]:
    if given is None or given is False:
        return ()
    if given is True:
        return (Shadow(),)
    several = [given] if isinstance(given, Shadow) else given
    if not isinstance(several, (list, tuple)) or not all(isinstance(s, Shadow) for s in several):
        raise CallError("shadow", f"{given!r} is no shadow", "give Shadow(...), several, or True")
    return tuple(several)
