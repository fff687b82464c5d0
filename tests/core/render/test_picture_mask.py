"""A picture as mask, told of pixels, boxes and beyond its frame."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.finishes import Edge, Finishes, MaskKind, PictureMask
from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.resample import Quality
from glasscap.core.render import picture_mask
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.part import Part
from glasscap.core.render.photos import PhotoStore
from glasscap.core.render.picture_mask import MaskPlane
from glasscap.core.render.plan import plan_cutout
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import flat_photo, job_with
from tests.samples import cache, photo_job

WINDOW = PixelBox(-30, -40, 270, 250)
BOXES = (
    PixelBox(100, 80, 140, 120),
    PixelBox(40, 20, 130, 90),
    PixelBox(-30, 90, -10, 120),
    PixelBox(230, -40, 270, -10),
    PixelBox(100, 190, 160, 250),
)


def ramp() -> bytes:
    """A picture that gets lighter to the right and downwards."""
    rgba = np.full((70, 90, 4), 255, np.uint8)
    rgba[..., :3] = (np.arange(90) * 1.6 + np.arange(70)[:, None] * 1.5)[..., None]
    return write_png(rgba)


def masked(mask: PictureMask, rotation: float = 0.0) -> tuple[Part, PhotoStore]:
    job, store = photo_job(flat_photo(), ramp())
    plain = job_with(
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(120.3, 99.6, 120.4, 80.7, rotation),
        content_placement=ContentPlacement(120, 100, 2, 2),
    ).sheets[0]
    mask = replace(mask, sha256=job.photos[1].sha256)
    item = replace(plain.items[0], finishes=Finishes(edge=Edge(mask=mask)))
    placed = replace(job, sheets=(replace(plain, items=(item,)),))
    return plan_cutout(placed, placed.sheets[0], item).parts[0], store


def plane_of(
    mask: PictureMask, rotation: float = 0.0, quality: Quality = "final", keep: ValueCache | None = None
) -> MaskPlane:
    part, store = masked(mask, rotation)
    assert part.edge.mask is not None
    return MaskPlane(part, part.edge.mask, WINDOW, store, quality, keep or cache())


@pytest.mark.parametrize("rotation", [0.0, 90.0, 33.0])
@pytest.mark.parametrize("quality", ["final", "moving"])
@pytest.mark.parametrize("mask", [PictureMask("", x=0.2), PictureMask("", size=0.5, is_inverted=True)])
def test_a_box_of_it_is_that_part_of_the_whole(mask: PictureMask, quality: Quality, rotation: float) -> None:
    plane = plane_of(mask, rotation, quality)
    whole = plane.plane(WINDOW)
    assert np.ptp(whole) > 0.5
    for box in BOXES:
        rows = slice(box.y0 - WINDOW.y0, box.y1 - WINDOW.y0)
        part = whole[rows, box.x0 - WINDOW.x0 : box.x1 - WINDOW.x0]
        # What is sampled in other boxes may differ in a photo's last level.
        assert np.abs(plane.plane(box) - part).max() <= 1 / 255 + 1e-6
    ys, xs = np.array([0, 60, 100, 200]), np.array([-20, 100, 130, 260])
    assert np.array_equal(plane.at(ys, xs), plane.plane(PixelBox(-20, 0, 261, 201))[ys, xs + 20])


@pytest.mark.parametrize("kind", ["luminance", "alpha"])
def test_beyond_an_upright_frame_it_is_as_beyond_one_hardly_turned(kind: MaskKind) -> None:
    upright, turned = (plane_of(PictureMask("", kind), rotation).plane(WINDOW) for rotation in (0.0, 1e-4))
    assert np.abs(upright - turned).max() < 0.02


@pytest.mark.parametrize("rotation", [0.0, 33.0])
def test_beyond_its_frame_it_is_as_at_the_nearest_place_within(rotation: float) -> None:
    part, _ = masked(PictureMask(""), rotation)
    placement = part.region.placement
    assert placement is not None
    found = plane_of(PictureMask(""), rotation).plane(WINDOW)
    inwards = placement.to_sheet.inverse()
    for x, y in ((-12.5, 99.5), (240.5, 100.5), (120.5, -20.5), (30.5, 20.5)):
        u, v = inwards.apply(x, y)
        near = placement.to_sheet.apply(
            float(np.clip(u, 1.5 - 60.2, 60.2 - 1.5)), float(np.clip(v, 1.5 - 40.35, 40.35 - 1.5))
        )
        column, row = (int(np.floor(at)) for at in near)
        there = found[row - WINDOW.y0, column - WINDOW.x0]
        # On the frame's border itself the last row within may be a pixel further in.
        assert abs(found[int(y) - WINDOW.y0, int(np.floor(x)) - WINDOW.x0] - there) < 0.03


def test_on_the_screen_it_is_made_once_while_it_stays(monkeypatch: pytest.MonkeyPatch) -> None:
    sampled: list[PixelBox] = []
    sampling = picture_mask.sample

    def counted(*given: object) -> object:
        sampled.append(given[2])  # type: ignore[arg-type]
        return sampling(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(picture_mask, "sample", counted)
    keep = cache()
    for _ in range(3):
        for box in BOXES:
            plane_of(PictureMask(""), quality="moving", keep=keep).plane(box)
    assert len(sampled) == 1
    plane_of(PictureMask("", x=0.1), quality="moving", keep=keep).plane(BOXES[0])
    assert len(sampled) == 2
