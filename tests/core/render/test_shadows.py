"""Shadows against a Gaussian in double precision; the room they need."""

import numpy as np
import pytest
from msgspec.structs import replace
from scipy import ndimage

from glasscap.core.document.model.finishes import (
    Finishes,
    Lights,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.render.picture import picture_box
from glasscap.core.render.plan.plan import plan_cutout
from tests.core.render.finished_samples import PHOTO, RED, STORE, job_with, radius_field, rendered
from tests.samples import cache


def cast(job, **shadow):
    return job_with(Finishes(lights=Lights(shadows=(Shadow(**shadow),))))


@pytest.mark.parametrize("blur", [4.0, 18.0, 40.0])
@pytest.mark.parametrize("shift", [(0, 0), (13, -7), (5.5, 30.25)])
def test_a_shadow_is_a_float64_gaussian_of_the_silhouette(blur: float, shift: tuple[float, float]) -> None:
    shadow = Shadow(*shift, blur, 0.0, "#000000", 1.0)
    job = job_with(Finishes(lights=Lights(shadows=(shadow,))))
    alone = job_with(shape=None)
    with_it, without = rendered(job, crop="sheet"), rendered(alone, crop="sheet")
    moved = replace(
        alone.sheets[0].items[0],
        shape_placement=ShapePlacement(120.3 + shift[0], 99.6 + shift[1], 120, 120),
        content_placement=ContentPlacement(120, 100, 9, 9),
    )
    silhouette = rendered(replace(alone, sheets=(replace(alone.sheets[0], items=(moved,)),)), crop="sheet")
    plane = np.zeros((200 + 200, 240 + 200))
    from glasscap.core.document.model.region import shape_polygons
    from glasscap.core.raster.scan import cover

    flat = shape_polygons(moved.shape, moved.shape_placement, Affine(), tolerance=1 / 512)
    plane = cover(flat, PixelBox(-100, -100, 340, 300)).dense()
    truth = ndimage.gaussian_filter(plane, blur / 2, mode="constant", truncate=6)[100:300, 100:340]
    beneath = without.rgba[..., 3] == 0
    assert silhouette.rgba[..., 3].any()
    assert np.abs(with_it.rgba[..., 3] / 255 - truth)[beneath].max() < 1.02 / 255


def test_a_shadow_under_strokes_and_gaps_is_that_of_all_of_them() -> None:
    strokes = (Stroke(6, RED, gap=8),)
    shadow = Shadow(80, 0, 0, 0, "#000000", 1.0)
    picture = rendered(job_with(Finishes(strokes=strokes, lights=Lights(shadows=(shadow,)))))
    field = radius_field(picture, (200.3, 99.6))
    own = radius_field(picture, (120.3, 99.6)) < 76
    alpha = picture.rgba[..., 3]
    assert (alpha[(field > 61.5) & (field < 66.5) & ~own] == 0).all()
    assert (alpha[(field > 69.5) & (field < 72.5) & ~own] == 255).all()


def test_spread_grows_a_shadow_and_clear_beneath_takes_it_away() -> None:
    plain = Shadow(0, 0, 0, 10, "#000000", 1.0)
    clear = replace(plain, is_clear_beneath=True)
    one = rendered(job_with(Finishes(lights=Lights(shadows=(plain,)))))
    assert one.rgba[..., 3].sum() / 255 == pytest.approx(np.pi * 70**2, rel=1e-3)
    glass = job_with(Finishes(lights=Lights(shadows=(clear,))), opacity=0.5)
    field = radius_field(rendered(glass), (120.3, 99.6))
    assert np.abs(rendered(glass).rgba[field < 58] - (*PHOTO, 128)).max() <= 1


def test_the_picture_grows_to_hold_a_shadow_and_no_more() -> None:
    job = cast(None, dx=30, dy=20, blur=40, opacity=1.0)
    picture = rendered(job, crop="visible")
    for line in (picture.rgba[0], picture.rgba[-1], picture.rgba[:, 0], picture.rgba[:, -1]):
        assert line[..., 3].any()
    whole = rendered(job, crop="sheet")
    assert picture.rgba[..., 3].astype(int).sum() > whole.rgba[..., 3].astype(int).sum()
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    assert picture_box(plan, STORE, cache()) == picture.box
