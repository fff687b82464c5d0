"""A picture as mask, told of pixels, boxes and beyond its frame."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    NO_FINISHES,
    Edge,
    FeatherSide,
    Finishes,
    Lights,
    MaskKind,
    PictureMask,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.planar import PREMULTIPLIED
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.paint import picture_mask
from glasscap.core.render.paint.picture_mask import MaskPlane
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.writers import writer_of
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


def masked(mask: PictureMask, rotation: float = 0.0, finishes: Finishes = NO_FINISHES) -> tuple[Part, PhotoStore]:
    job, store = photo_job(flat_photo(), ramp())
    plain = job_with(
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(120.3, 99.6, 120.4, 80.7, rotation),
        content_placement=ContentPlacement(120, 100, 2, 2),
    ).sheets[0]
    mask = replace(mask, sha256=job.photos[1].sha256)
    item = replace(plain.items[0], finishes=replace(finishes, edge=replace(finishes.edge, mask=mask)))
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
    sampling = picture_mask.luminance_for_screen

    def counted(*given: object) -> object:
        sampled.append(given[2])  # type: ignore[arg-type]
        return sampling(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(picture_mask, "luminance_for_screen", counted)
    keep = cache()
    for _ in range(3):
        for box in BOXES:
            plane_of(PictureMask(""), quality="moving", keep=keep).plane(box)
    assert len(sampled) == 1
    plane_of(PictureMask("", x=0.1), quality="moving", keep=keep).plane(BOXES[0])
    assert len(sampled) == 2


@pytest.mark.parametrize("rotation", [0.0, 20.0])
def test_on_the_screen_luminance_is_that_of_the_pixels(rotation: float) -> None:
    # What is halved and warped is one plane instead of four: 8 bits each time.
    written, seen = (plane_of(PictureMask(""), rotation, quality=q).plane(WINDOW) for q in ("final", "preview"))
    assert np.abs(written - seen).max() < 8 / 255 and np.abs(written - seen).mean() < 1 / 255
    inverted = plane_of(PictureMask("", is_inverted=True), rotation, quality="preview").plane(WINDOW)
    assert np.abs(inverted + seen - 1).max() < 1e-6


@pytest.mark.parametrize("rotation", [0.0, 20.0])
def test_on_cells_it_is_the_mean_of_pixels(rotation: float) -> None:
    plane, k, cells = plane_of(PictureMask(""), rotation), 4, PixelBox(-8, -10, 68, 62)
    expected = plane.plane(PixelBox(*(k * at for at in cells))).reshape(72, k, 76, k).mean(axis=(1, 3))
    away = np.abs(plane.on_cells(cells, k, (0.0, 0.0)) - expected)
    y, x = np.mgrid[-10:62, -8:68] * k + k / 2
    inside = np.hypot((x - 120.3) / 60, (y - 99.6) / 40) < 0.8
    # A photo has whole levels.
    assert away[inside].max() < 1.5 / 255
    # Beyond the frame it is as a cell and a half within the border, of pixels as one and a half: 5 px more at
    # most, in each of which both ramps together rise by 0.015 in a corner.
    assert away.max() < 0.08


@pytest.mark.parametrize("quality", ["final", "preview"])
@pytest.mark.parametrize("side", ["centred", "inside", "outside"])
def test_a_masked_fade_in_rows_is_what_composing_gives(side: FeatherSide, quality: Quality) -> None:
    finishes = Finishes(
        edge=Edge(feather=24, feather_side=side, strength=1.5),
        strokes=(Stroke(7, side="centre"),),
        lights=Lights(shadows=(Shadow(4, 7, 80, colour="#401020"),)),
    )
    part, store = masked(PictureMask(""), 20.0, finishes)
    ready = FinishedPart(part, WINDOW, store, quality, cache())
    assert isinstance(writer_of(ready).in_rows, FadingRows)
    for where in (WINDOW, PixelBox(31, 17, 180, 170)):
        out = np.zeros((where.height, where.width, 4), np.uint8)
        writer_of(ready).in_rows.write(out, where, PREMULTIPLIED)
        assert np.abs(out.astype(int) - PREMULTIPLIED.planes(composed([ready], where))).max() <= 1


def test_a_masked_hole_is_composed() -> None:
    part, store = masked(PictureMask("", size=3.0), 0.0, Finishes(edge=Edge(feather=24)))
    shape = part.region.shape
    assert shape is not None
    holed = replace(part, region=replace(part.region, shape=replace(shape, keeps="outside")))
    assert writer_of(FinishedPart(holed, WINDOW, store, "final", cache())).in_rows is None
