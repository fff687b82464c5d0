"""What lies along an edge: rough edges, dashes, brushes, gradients; at every scale and while they move."""

import math

import numpy as np
import pytest
import shapely
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    Edge,
    Finishes,
    Rough,
    Stroke,
)
from glasscap.core.document.model.paint import GradientPaint, Stop
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.region import Region
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.offsets import path_places
from glasscap.core.render.offsets.edges import Edges, Surround
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.plan.part import flatness
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.shares.shares import Weights
from glasscap.core.shapes.kinds import Keeps, PointsShape, library_shape
from tests.core.render.finished_samples import RED, STORE, job_with, rendered
from tests.samples import cache


def test_parallels_of_a_rough_edge_are_one_shape_at_every_scale() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("rectangle"), ShapePlacement(120, 100, 120, 80), Affine.scaling(2)
    )
    edge, window = Edge(rough=Rough("stamped", 5)), PixelBox(0, 0, 500, 420)
    small = replace(region, sheet_to_output=Affine.translation(7, -3).after(Affine.scaling(0.37)))
    keep = cache()
    twice = Edges(region, edge, window, keep).polygons(OffsetKey(12.0, "mitre"))
    third = Edges(small, edge, window, keep).polygons(OffsetKey(6 * 0.37, "mitre"))
    assert len(twice) == len(third) > 0
    for one, other in zip(twice, third, strict=True):
        assert np.abs((other - (7, -3)) / 0.37 - one / 2).max() < 1e-9


@pytest.mark.parametrize("shape", ["circle", "heart", "star"])
def test_dashes_lie_at_the_same_places_at_every_scale_and_while_they_move(shape: str) -> None:
    job = job_with(Finishes(strokes=(Stroke(4, dashes=(9, 5)),)), shape=library_shape(shape))
    sheet, item = job.sheets[0], job.sheets[0].items[0]

    def middles(scale: float, quality: Quality) -> np.ndarray:
        plan = plan_cutout(job, sheet, item, scale=scale)
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        # In the shape's frame, which lies on whole pixels of the output.
        region = plan.parts[0].region
        assert region.placement is not None
        to_frame = region.sheet_to_output.after(region.placement.to_sheet).inverse()
        regions = (shapely.Polygon(ring).centroid for ring in weights.textures[0].dashes())
        return np.array(sorted(to_frame.apply(c.x, c.y) for c in regions))

    known = middles(1.0, "final")
    for scale, quality in ((2.0, "final"), (3.7, "final"), (1.0, "moving")):
        found = middles(scale, quality)
        away = np.hypot(*(found[:, None] - known[None]).transpose(2, 0, 1)).min(axis=1)
        # Round a corner dashes reach a pixel past their band, whose middle that moves.
        assert len(found) == len(known) and np.median(away) < 0.03


@pytest.mark.parametrize("side", ["inside", "outside"])
def test_dashes_along_a_rough_edge_lie_as_along_the_edge_it_was(side: str) -> None:
    def turns(rough: Rough | None, scale: float, quality: Quality) -> np.ndarray:
        job = job_with(Finishes(edge=Edge(rough=rough), strokes=(Stroke(4, side=side, dashes=(9, 5)),)))
        plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0], scale=scale)
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        region = plan.parts[0].region
        assert region.placement is not None
        to_frame = region.sheet_to_output.after(region.placement.to_sheet).inverse()
        middles = [shapely.Polygon(ring).centroid for ring in weights.textures[0].dashes()]
        return np.sort([math.atan2(*to_frame.apply(c.x, c.y)) for c in middles])

    torn, even = Rough("torn", 5, scale=9), turns(None, 1.0, "final")
    for scale, quality in ((1.0, "final"), (2.0, "final"), (1.0, "moving")):
        assert np.abs(turns(torn, scale, quality) - even).max() < 1e-3
    # And they reach across all of the rough stroke: no dash is cut off above or below.
    look = Finishes(edge=Edge(rough=torn), strokes=(Stroke(4, RED, side, dashes=(2000, 1), has_even_ends=False),))
    whole = replace(look, strokes=(replace(look.strokes[0], dashes=()),))
    assert np.abs(rendered(job_with(look)).rgba.astype(int) - rendered(job_with(whole)).rgba).max() <= 1


def test_round_dashes_along_a_rough_edge_stay_where_they_are_while_it_moves() -> None:
    def region(quality: Quality, rough: Rough | None) -> shapely.Geometry:
        job = job_with(Finishes(edge=Edge(rough=rough), strokes=(Stroke(6, dashes=(9, 14), cap="round"),)))
        plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        return shapely.union_all([shapely.buffer(shapely.Polygon(p), 0) for p in weights.textures[0].dashes()])

    torn = Rough("torn", 3, scale=9)
    still, moving, even = region("final", torn), region("moving", torn), region("final", None)
    assert shapely.symmetric_difference(still, moving).area < 0.1 * still.area
    # And beside those along the edge it was, but for crumbs where teeth are sharp.
    middles = [[p.centroid for p in shapely.get_parts(some) if p.area > 20] for some in (still, even)]
    assert len(middles[0]) == len(middles[1])
    assert max(min(shapely.distance(a, b) for b in middles[1]) for a in middles[0]) < 6


def test_dots_along_a_rough_edge_lie_in_its_stroke() -> None:
    def red(rough: Rough | None) -> int:
        dotted = Stroke(6, RED, dashes=(0, 14), cap="round")
        picture = rendered(job_with(Finishes(edge=Edge(rough=rough), strokes=(dotted,))))
        return int((picture.rgba == (0xE0, 0x10, 0x20, 255)).all(axis=-1).sum())

    assert red(Rough("deckled", 12, scale=40)) > 0.8 * red(None) > 0


def test_a_brush_that_grows_keeps_where_along_the_outline_pixels_lie(monkeypatch: pytest.MonkeyPatch) -> None:
    measured: list[PixelBox] = []
    measuring = path_places.path_field

    def counted(polygons: tuple[np.ndarray, ...], box: PixelBox, margin: int) -> tuple[np.ndarray, np.ndarray]:
        measured.append(box)
        return measuring(polygons, box, margin)

    monkeypatch.setattr(path_places, "path_field", counted)

    def grain(width: float, keep: ValueCache) -> np.ndarray:
        job = job_with(Finishes(strokes=(Stroke(width, texture="brush"),)))
        part = plan_cutout(job, job.sheets[0], job.sheets[0].items[0]).parts[0]
        weights = Weights(part, PixelBox(0, 0, 240, 200), STORE, "preview", keep)
        return weights.textures[0].plane(PixelBox(60, 40, 90, 100))

    keep = cache()
    grown = [grain(width, keep) for width in (9.0, 10.5, 12.0)]
    assert len(measured) == 1
    for width, made in zip((9.0, 10.5, 12.0), grown, strict=True):
        assert np.array_equal(made, grain(width, cache()))


def test_a_gradient_along_the_edge_shares_them_with_a_brush() -> None:
    def painted(keep: ValueCache, *strokes: Stroke) -> list[np.ndarray]:
        job = job_with(Finishes(strokes=strokes))
        part = plan_cutout(job, job.sheets[0], job.sheets[0].items[0]).parts[0]
        ready = FinishedPart(part, PixelBox(0, 0, 240, 200), STORE, "preview", keep)
        frames = [stroke.frame() for stroke in ready.strokes]
        return [f.path.within(PixelBox(60, 40, 90, 100))[0] for f in frames if f.path is not None]

    along = GradientPaint((Stop(0, "#000000"), Stop(1, "#ffffff")), "along")
    keep = cache()
    one, other = painted(keep, Stroke(9.0, along), Stroke(11.0, texture="brush"))
    assert np.shares_memory(one, other)
    assert np.ptp(one) > 0.1 and np.array_equal(one, painted(cache(), Stroke(9.0, along))[0])


def test_what_moves_has_the_parallel_of_a_rough_edge_to_a_quarter_of_a_pixel() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("circle"), ShapePlacement(120, 100, 180, 180), Affine.scaling(1.5)
    )
    edge, window = Edge(rough=Rough("torn", 5, scale=6)), PixelBox(0, 0, 500, 420)
    offset, keep = OffsetKey(15.0), cache()
    exact, moving = (
        Edges(region, edge, window, keep, flatness(quality)).polygons(offset) for quality in ("final", "moving")
    )
    one, other = (shapely.Polygon(polygons[0]).exterior for polygons in (exact, moving))
    assert len(moving[0]) < len(exact[0])
    # By arcs and by points left out in dents.
    assert shapely.hausdorff_distance(one, other, densify=0.01) < 2 / 4
    assert np.array_equal(
        Edges(region, edge, window, keep, flatness("moving")).polygons()[0],
        Edges(region, edge, window, keep).polygons()[0],
    )


def test_what_moves_has_a_rough_edge_of_fewer_points_where_none_is_kept() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("circle"), ShapePlacement(120, 100, 180, 180), Affine.scaling(0.5)
    )
    edge, window = Edge(rough=Rough("torn", 5, scale=6)), PixelBox(0, 0, 130, 110)
    exact = Edges(region, edge, window, cache())
    moving = Edges(region, edge, window, cache(), flatness("moving"))
    (many,), (few,) = exact.polygons(), moving.polygons()
    assert 2 * len(few) < len(many)
    # Of the same edge: most points lie on it, all near by, and a stroke's parallel follows.
    away = shapely.distance(shapely.LinearRing(many), shapely.points(few))
    assert np.median(away) < 0.03 and away.max() < 0.6
    for offset in (OffsetKey(0.0), OffsetKey(4.0)):
        one, other = (edges.coverage(offset).dense() for edges in (exact, moving))
        assert abs(one.sum() - other.sum()) < 0.002 * one.sum()
        assert np.abs(one - other).max() < 0.35


@pytest.mark.parametrize("keeps", ["inside", "outside"])
@pytest.mark.parametrize("rough", [None, Rough("torn", 2, scale=6)])
def test_what_moves_is_filled_as_what_rests_where_sides_are_turned_round(
    keeps: Keeps, rough: Rough | None
) -> None:
    # A thorn beside a dent that the stroke closes, over a side of many points.
    side = " ".join(f"L{200 - n / 3:.3f} {120 + math.sin(n / 9):.3f}" for n in range(600))
    shape = PointsShape(f"M0 0 L80 0 L85 -60 L90 0 L100 0 L103 30 L106 0 L200 0 {side} Z", keeps=keeps)
    region = Region(Affine(), (300, 260), shape, ShapePlacement(150, 130, 200, 180), Affine())
    edge, window = Edge(rough=rough), PixelBox(0, 0, 300, 260)
    ground = Surround(Affine(), (300, 260)) if keeps == "outside" else None
    exact, moving = (
        Edges(region, edge, window, cache(), flatness(quality), ground) for quality in ("final", "moving")
    )
    for distance in (12.0, -4.0):
        one, other = (edges.coverage(OffsetKey(distance)).dense() for edges in (exact, moving))
        away = np.abs(one - other)
        # In the pixels where two arcs cross alone; a rough edge that moves has fewer points, and folds at corners.
        assert (away > 0.1).sum() <= 2 if rough is None else (away > 0.35).sum() <= 12
        assert away.mean() < 2e-3
    # Dashes go along the outline, which does not cross itself.
    assert rough is not None or shapely.is_valid(shapely.Polygon(moving.polygons(OffsetKey(12.0))[0]))
