"""What is called covered is written full: every pixel wholly in the shape has alpha 255, at every scale."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share, covered_by_moving, just_covering
from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.edits.items import change_item
from glasscap.core.document.model.job import Cutout, Job, PaintContent
from glasscap.core.document.model.outputs import Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import find_item, photo_of
from glasscap.core.geometry.types import Similarity
from glasscap.core.render.outputs import plan_output, render_output
from glasscap.core.shapes.kinds import library_shape
from tests.samples import cache, photo_job, png_photo

JOB, STORE = photo_job(png_photo(160, 120))
ITEM = JOB.sheets[0].items[0].id
fractions = st.floats(0, 1)


def written_alpha(job: Job, size: OutputSize) -> np.ndarray:
    output = Output("o1", ITEM, crop="shape", size=size)
    planned = plan_output(job, output, STORE, cache())
    return render_output(planned, output, STORE, cache())[..., 3]


def painted(job: Job) -> Job:
    """The same shape full of paint: where it is opaque lie the pixels wholly in the shape."""

    def fill(item: Cutout) -> Cutout:
        return replace(item, content=PaintContent(ColourPaint("#b4532c")), content_placement=None)

    return change_item(job, ITEM, fill)


def assert_full(job: Job, size: OutputSize) -> None:
    item = find_item(job, ITEM)
    assert bare_share(item, photo_of(job, item)) == 0
    photo, paint = written_alpha(job, size), written_alpha(painted(job), size)
    assert photo.shape == paint.shape
    whole = paint == 255
    assert whole.any()
    assert photo[whole].min() == 255


@settings(max_examples=80, deadline=None)
@given(
    st.sampled_from(["rectangle", "circle", "hexagon", "heart"]),
    st.tuples(st.floats(60, 100), st.floats(45, 75)),
    st.tuples(st.integers(20, 60), st.integers(20, 60)) | st.tuples(st.floats(20, 60), st.floats(20, 60)),
    st.sampled_from(["cover", "right", "left", "up", "down", "shape"]),
    st.sampled_from([0.0, 0.0, 30.0, 90.0]),
    st.sampled_from([1.0, 2.0, 4.0, 0.5, 0.73, 3.17]),
)
def test_covered_is_full(name, centre, size, how, turn, scale) -> None:
    shape = library_shape(name)
    if name == "circle":
        size = (size[0], size[0])
    item = replace(
        find_item(JOB, ITEM),
        shape=shape,
        shape_placement=ShapePlacement(*centre, *size),
        content_placement=ContentPlacement(80, 60, 1.3, 1.3, turn),
    )
    photo = photo_of(JOB, item)
    job = change_item(JOB, ITEM, lambda _: item)
    if how == "cover":
        placed = just_covering(item, photo)
    elif how == "shape":
        # The shape is dragged far and stopped where the photo ends, as a kept cover does it.
        kept = change_item(job, ITEM, lambda i: replace(i, keeps_covered=True))
        job = transform_items(kept, [ITEM], "shape", Similarity(80, 60, dx=400.0, dy=90.3))
        placed = find_item(job, ITEM).content_placement
    else:
        # The photo is dragged past the shape's edge and brought back by the smallest move.
        dx, dy = {"right": (300, 0.2), "left": (-300, 0.7), "up": (0.4, -300), "down": (0.1, 300)}[how]
        away = replace(item, content_placement=item.content_placement.moved(dx, dy))
        placed = covered_by_moving(away, photo, 0.0)
    if placed is None:
        return
    job = change_item(job, ITEM, lambda i: replace(i, content_placement=placed))
    now = find_item(job, ITEM)
    if bare_share(now, photo) == 0:
        assert_full(job, OutputSize("scale", scale=scale))


def test_a_photo_ending_at_the_edge_of_a_shape_between_pixels() -> None:
    item = replace(
        find_item(JOB, ITEM),
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(80, 50.7, 52, 52),
        content_placement=ContentPlacement(80, 50.7 + 26 - 78, 1.3, 1.3),
    )
    job = change_item(JOB, ITEM, lambda _: item)
    for size in (OutputSize(), OutputSize("scale", scale=2), OutputSize("width", width=400)):
        assert_full(job, size)


@given(fractions)
def test_a_photo_on_pixel_lines_is_written_pixel_for_pixel(y: float) -> None:
    item = replace(
        find_item(JOB, ITEM),
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(80, 60 + y - 8, 160, 104),
        content_placement=ContentPlacement(80, 60),
    )
    job = change_item(JOB, ITEM, lambda _: item)
    planned = plan_output(job, Output("o1", ITEM, crop="shape"), STORE, cache())
    to_output = planned.plan.parts[0].region.photo_to_output
    assert to_output.apply(3, 4) == (3, 4)
    assert_full(job, OutputSize())
