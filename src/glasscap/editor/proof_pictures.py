"""Pictures of proofs: small as a browser draws them, round, enlarged as other programs filter; backgrounds."""

import cv2
import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.job import Job, Sheet
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.carry import carried
from glasscap.core.raster.pixels import Bytes, premultiplied
from glasscap.core.raster.scan import cover
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import Plan, plan_view
from glasscap.core.render.screen.frames import Frame
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.editor.frames import premultiplied_sparsely

# Proofs are made small from a picture of no more than this on its longer side (px).
_BASE = 1024
_FLATNESS = 1 / 256
_HALF = 128


def base_picture(plan: Plan, box: PixelBox, photos: PhotoSource, cache: ValueCache) -> Bytes:
    """Return the picture that proofs are made small from: straight RGBA of the visible box."""
    return render(replace(plan, box=box, quality="preview", is_trimmed=False), photos, cache).rgba


def base_scale(size: tuple[int, int]) -> float:
    """Return at what scale a picture of a size in px is rendered for its proofs."""
    return min(1.0, _BASE / max(size))


def made_small(rgba: Bytes, longest: int) -> Frame:
    """Return a picture with its longer side at some px, filtered by area on premultiplied values.

    Browsers do the same.
    """
    height, width = rgba.shape[:2]
    share = longest / max(height, width)
    size = (max(1, round(width * share)), max(1, round(height * share)))
    whole = premultiplied_sparsely(rgba)
    way = cv2.INTER_AREA if share < 1 else cv2.INTER_LINEAR
    return Frame(np.asarray(cv2.resize(whole, size, interpolation=way), np.uint8), 0, 0)


def made_round(rgba: Bytes, side: int) -> Frame:
    """Return a picture squared and cut to a circle, as a page shows an avatar."""
    height, width = rgba.shape[:2]
    most = max(height, width)
    square = np.zeros((most, most, 4), np.uint8)
    y, x = (most - height) // 2, (most - width) // 2
    square[y : y + height, x : x + width] = rgba
    small = made_small(square, side).rgba.astype(np.float32)
    circle = tuple(p + side / 2 for p in ellipse_polygon(side, side, {}, _FLATNESS))
    box = PixelBox(0, 0, side, side)
    share = cover(circle, box).plane(box)
    return Frame(np.floor(small * share[..., None] + 0.5).astype(np.uint8), 0, 0)


def rim_near(base: Bytes, wanted: tuple[float, float]) -> tuple[int, int]:
    """Return the pixel (x, y) nearest to a place where the picture ends: half covered, clear beside it."""
    is_full = (base[..., 3] >= _HALF).astype(np.uint8)
    padded = cv2.copyMakeBorder(is_full, 1, 1, 1, 1, cv2.BORDER_CONSTANT)
    inner = cv2.erode(padded, np.ones((3, 3), np.uint8))[1:-1, 1:-1]
    ys, xs = np.nonzero((is_full > 0) & (np.asarray(inner) == 0))
    if len(ys) == 0:
        return round(wanted[0]), round(wanted[1])
    nearest = int(np.argmin((xs - wanted[0]) ** 2 + (ys - wanted[1]) ** 2))
    return int(xs[nearest]), int(ys[nearest])


def filtered_elsewhere(rgba: Bytes, zoom: int, carry: int = 0) -> Frame:
    """Return a piece enlarged by filtering straight alpha, as some programs do: clear pixels are mixed in.

    `carry` is by how many px the rim's colour runs on into them first.
    """
    height, width = rgba.shape[:2]
    straight = carried(rgba, carry)
    large = cv2.resize(straight, (width * zoom, height * zoom), interpolation=cv2.INTER_LINEAR)
    return Frame(premultiplied(np.asarray(large, np.uint8)), 0, 0)


def backdrop_picture(
    job: Job, backdrop: Backdrop, size: tuple[int, int], photos: PhotoSource, cache: ValueCache
) -> Frame:
    """Return a background alone in a size of px. Raises PhotoError."""
    sheet = Sheet("proof", "Proof", *size, backdrop=backdrop)
    empty = replace(job, sheets=(sheet,), outputs=())
    plan = plan_view(empty, sheet, Affine(), PixelBox(0, 0, *size), "preview")
    return Frame(premultiplied_sparsely(render(plan, photos, cache).rgba), 0, 0)
