"""A photo out of focus against a float64 Gaussian by another library, in files and on the screen."""

import math

import numpy as np
import pytest
from msgspec.structs import replace
from scipy import ndimage

from glasscap.core.document.model.finishes import Adjustments
from glasscap.core.document.model.job import Job, PhotoContent
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.blur import blurred_bytes
from glasscap.core.raster.resample import Quality
from glasscap.core.render.paint.content import PhotoPart
from glasscap.core.render.plan.plan import plan_sheet
from tests.samples import cache, photo_job

WIDTH, HEIGHT = 240, 200


def grainy(alpha: int | None = None) -> tuple[np.ndarray, Job, PhotoStore]:
    """Return a photo of slopes and grain, and a job that shows all of it; seen through on the left if asked."""
    rng = np.random.default_rng(7)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    rgba = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
    for channel, slope in enumerate((x, y, x + y)):
        rgba[..., channel] = np.clip(slope * 0.5 + 40 + rng.normal(0, 25, slope.shape), 0, 255)
    if alpha is not None:
        rgba[:, : WIDTH // 2, 3] = alpha
    return rgba, *photo_job(write_png(rgba))


def shown(
    job: Job, store: PhotoStore, blur: float, quality: Quality, window: PixelBox | None = None
) -> PhotoPart:
    item = job.sheets[0].items[0]
    assert isinstance(item.content, PhotoContent)
    item = replace(
        item,
        content=replace(item.content, adjustments=Adjustments(blur=blur)),
        shape_placement=ShapePlacement(WIDTH / 2, HEIGHT / 2, WIDTH, HEIGHT),
    )
    job = replace(job, sheets=(replace(job.sheets[0], items=(item,)),))
    plan = plan_sheet(job, job.sheets[0])
    return PhotoPart(plan.parts[0], store, window or plan.box, quality, cache())


def gaussian(rgba: np.ndarray, sigma: float) -> np.ndarray:
    planes = rgba.astype(float)
    planes[..., :3] *= planes[..., 3:] / 255
    return ndimage.gaussian_filter(planes, (sigma, sigma, 0), mode="nearest", truncate=6)


@pytest.mark.parametrize("blur", [3.0, 9.0, 24.0, 56.0])
@pytest.mark.parametrize(("quality", "most"), [("final", 1.4), ("preview", 1.6), ("moving", 2.0)])
def test_a_blurred_photo_is_that_of_a_float64_gaussian(blur: float, quality: Quality, most: float) -> None:
    rgba, job, store = grainy()
    part = shown(job, store, blur, quality)
    # Beside the border what runs on are means of some pixels there, not the last ones' grain.
    far = math.ceil(1.6 * blur)
    box, inner = PixelBox(0, 0, WIDTH, HEIGHT), np.s_[far:-far, far:-far]
    expected = gaussian(rgba, blur / 2)
    assert np.abs(part.bytes(box) - expected)[inner].max() <= most
    assert np.abs(np.moveaxis(part.planes(box), 0, -1) - expected)[inner].max() <= most
    assert np.abs(part.bytes(box) - expected).max() <= 12
    assert (part.bytes(box)[..., 3] == 255).all()


def test_what_is_seen_through_is_blurred_premultiplied() -> None:
    rgba, job, store = grainy(alpha=0)
    for quality in ("final", "moving"):
        part = shown(job, store, 20.0, quality)
        found = np.moveaxis(part.planes(PixelBox(0, 0, WIDTH, HEIGHT)), 0, -1)
        assert np.abs(found - gaussian(rgba, 10.0))[32:-32, 32:-32].max() <= 2


def test_beside_the_photo_its_border_runs_on() -> None:
    _, job, store = grainy()
    part = shown(job, store, 5.0, "moving")
    wide = part.bytes(PixelBox(-9, -5, WIDTH + 4, HEIGHT + 6))
    assert (wide[5:-6, :9] == wide[5:-6, 9:10]).all() and (wide[:5, 9:-4] == wide[5:6, 9:-4]).all()
    beyond = part.bytes(PixelBox(WIDTH + 50, 0, WIDTH + 60, 10))
    assert beyond.shape == (10, 10, 4) and (beyond[..., 3] == 255).all()


@pytest.mark.parametrize("blur", [3.0, 40.0])
@pytest.mark.parametrize("quality", ["final", "moving"])
def test_where_nothing_of_it_is_in_view_there_is_nothing(quality: Quality, blur: float) -> None:
    _, job, store = grainy()
    far = PixelBox(900, 900, 960, 950)
    part = shown(job, store, blur, quality, far)
    assert part.bytes(far).shape == (50, 60, 4) and not part.bytes(far)[..., :3].any()
    assert part.planes(far).shape == (4, 50, 60)


@pytest.mark.parametrize("shape", [(60, 50, 4), (400, 300, 4)])
@pytest.mark.parametrize("sigma", [1.5, 6.0])
def test_bytes_are_blurred_to_half_a_level(shape: tuple[int, ...], sigma: float) -> None:
    pixels = np.random.default_rng(2).integers(0, 256, shape, np.uint8)
    expected = ndimage.gaussian_filter(pixels.astype(float), (sigma, sigma, 0), mode="nearest", truncate=6)
    assert np.abs(blurred_bytes(pixels, sigma) - expected).max() <= 0.51
