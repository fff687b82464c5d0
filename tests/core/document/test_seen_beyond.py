"""How far a photo is seen beyond its outline: against the error function, and where strokes hide it."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share, ends_within_edge, just_covering
from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.arranging.seen_beyond import lies_beyond, seen_beyond
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.finishes import Edge, Finishes, Rough, Stroke
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.query import find_item, photo_of
from glasscap.core.geometry.types import Similarity
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.core.shapes.rough import displaced, ripples
from tests.core.document.strategies import JOB, item_ids, jobs, similarities

SOFT = Edge(feather=20)
ITEM = JOB.sheets[0].items[0].id


@pytest.mark.parametrize("strength", [1.0, 1.5, 3.0, 8.0])
def test_at_its_end_a_fade_is_next_to_nothing_and_hardly_more_before(strength: float) -> None:
    """alpha(d) = ((1 + erf(d / (sigma sqrt 2))) / 2) ** n, Abramowitz & Stegun 7.1."""

    def alpha(beyond: float) -> float:
        return ((1 - math.erf(beyond / (10 * math.sqrt(2)))) / 2) ** strength

    end = seen_beyond(Finishes(replace(SOFT, strength=strength)))
    assert alpha(end) < 0.2 / 255
    assert end == 0 or alpha(end - 6) > 0.5 / 255


@pytest.mark.parametrize(
    ("edge", "beyond"),
    [
        (Edge(), 0.0),
        (SOFT, 32.0),
        (replace(SOFT, feather_side="inside"), 0.0),
        (replace(SOFT, feather_side="outside"), 52.0),
        (replace(SOFT, inset=10), 22.0),
        (replace(SOFT, is_on=False), 0.0),
        (Edge(inset=-7), 7.0),
        (Edge(inset=40), 0.0),
        (Edge(rough=Rough("torn", 6.0)), 9.6),
    ],
    ids=["crisp", "soft", "inside", "outside", "inset", "off", "outwards", "far in", "rough"],
)
def test_edges(edge: Edge, beyond: float) -> None:
    assert seen_beyond(Finishes(edge)) == pytest.approx(beyond, abs=0.1)
    assert lies_beyond(Finishes(edge)) == seen_beyond(Finishes(edge))


@pytest.mark.parametrize(
    ("stroke", "hides"),
    [
        (Stroke(34), True),
        (Stroke(70, side="centre"), True),
        (Stroke(20), False),
        (Stroke(34, gap=2), False),
        (Stroke(34, opacity=0.9), False),
        (Stroke(34, ColourPaint("#b4532cc0")), False),
        (Stroke(34, dashes=(9, 5)), False),
        (Stroke(34, texture="chalk"), False),
        (Stroke(34, is_on=False), False),
    ],
    ids=["outside", "centre", "narrow", "gap", "faint", "see-through", "dashes", "chalk", "off"],
)
def test_a_stroke_hides_what_lies_beneath_it(stroke: Stroke, hides: bool) -> None:
    finishes = Finishes(SOFT, (stroke,))
    assert (seen_beyond(finishes) == 0) == hides
    assert lies_beyond(finishes) == pytest.approx(32, abs=0.1)
    fading = Finishes(replace(SOFT, feathers_strokes=True), (stroke,))
    assert seen_beyond(fading) == pytest.approx(32, abs=0.1)


@pytest.mark.parametrize("kind", ["torn", "brushed", "deckled", "stamped"])
def test_no_rough_edge_lies_farther_out_than_it_is_said_to(kind: str) -> None:
    flat = ellipse_polygon(400, 400, {}, 1 / 64)
    for seed in range(6):
        for contour in displaced(ripples(flat, kind, scale=24, seed=seed), 10):
            assert np.hypot(*contour.T).max() - 200 <= seen_beyond(Finishes(Edge(rough=Rough(kind, 10.0))))


def soft(job: Job, edge: Edge = SOFT) -> Job:
    every = [i.id for i in job.sheets[0].items]
    return edits.update_items(job, every, lambda i: replace(i, finishes=Finishes(edge)))


@given(jobs(), item_ids, st.floats(0.5, 60))
def test_covering_covers_what_is_seen_beyond(job: Job, item_id: str, feather: float) -> None:
    job = soft(job, Edge(feather=feather))
    item, photo = find_item(job, item_id), photo_of(job, find_item(job, item_id))
    after = replace(item, content_placement=just_covering(item, photo))
    assert bare_share(after, photo, seen_beyond(item.finishes)) < 1e-4


def test_a_circle_in_its_whole_photo_ends_within_a_soft_edge() -> None:
    item, photo = find_item(JOB, ITEM), photo_of(JOB, find_item(JOB, ITEM))
    assert not ends_within_edge(item, photo)
    dressed = find_item(soft(JOB), ITEM)
    assert bare_share(dressed, photo) == 0
    assert ends_within_edge(dressed, photo)
    placed = replace(dressed, content_placement=just_covering(dressed, photo))
    assert not ends_within_edge(placed, photo)
    far = replace(dressed, content_placement=dressed.content_placement.moved(900, 0))
    assert not ends_within_edge(far, photo)
    assert not ends_within_edge(dressed, None)


@given(jobs(), item_ids, similarities, st.sampled_from(["photo", "shape", "together"]))
def test_a_kept_cover_keeps_the_soft_edge_covered(job: Job, item_id: str, change: Similarity, grip: str) -> None:
    job = soft(job)
    item, photo = find_item(job, item_id), photo_of(job, find_item(job, item_id))
    job = edits.set_content_placement(job, item_id, just_covering(item, photo))
    job = edits.set_keeps_covered(job, [item_id], True)
    reach = seen_beyond(item.finishes)
    before = bare_share(find_item(job, item_id), photo, reach)
    after = transform_items(job, [item_id], grip, change)
    assert bare_share(find_item(after, item_id), photo, reach) <= max(1e-4, before + 1e-9)


def test_a_photo_that_ends_within_the_edge_still_keeps_the_shape_covered() -> None:
    """On 160 x 90 px under a circle of 90: there is no room to cover the fade, but to the sides there is some."""
    job = edits.set_keeps_covered(soft(JOB), [ITEM], True)
    after = find_item(transform_items(job, [ITEM], "photo", Similarity(dx=100, dy=30)), ITEM)
    assert bare_share(after, photo_of(job, after)) < 1e-4
    assert after.content_placement.x - find_item(job, ITEM).content_placement.x == pytest.approx(35, abs=0.1)


def test_a_photo_put_into_a_soft_shape_that_waits_covers_its_edge() -> None:
    job = edits.update_item(
        JOB, ITEM, lambda i: replace(i, content=None, content_placement=None, finishes=Finishes(SOFT))
    )
    item = find_item(edits.swap_photo(job, ITEM, JOB.photos[1]), ITEM)
    assert bare_share(item, JOB.photos[1]) == 0
    assert not ends_within_edge(item, JOB.photos[1])
