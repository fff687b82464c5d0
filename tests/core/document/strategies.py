"""Made-up placements and jobs for property tests."""

from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Similarity
from glasscap.core.shapes.kinds import library_shape
from tests.samples import photo_job, png_photo

JOB, STORE = photo_job(png_photo(seed=1), png_photo(120, 120, seed=2), png_photo(90, 160, seed=3))

position, size = st.floats(-300, 300), st.floats(1, 400)
degrees = st.floats(-180, 180)
shapes = st.one_of(
    st.builds(lambda: library_shape("circle")),
    st.builds(lambda: library_shape("ellipse")),
    st.builds(lambda r: library_shape("rectangle", corner=r), st.floats(0, 90)),
)
shape_placements = st.builds(ShapePlacement, position, position, size, size, degrees, st.booleans())
content_placements = st.builds(
    lambda x, y, s, r, m: ContentPlacement(x, y, s, s, r, m),
    position, position, st.floats(0.05, 8), degrees, st.booleans(),
)  # fmt: skip
similarities = st.builds(
    Similarity, position, position, st.floats(0.2, 4), degrees, st.floats(-90, 90), st.floats(-90, 90)
)


@st.composite
def jobs(draw: st.DrawFn) -> Job:
    """The sample job with every cutout placed anew."""
    sheet = JOB.sheets[0]

    def placed(item: Cutout) -> Cutout:
        return replace(
            item,
            shape=draw(shapes),
            shape_placement=draw(shape_placements),
            content_placement=draw(content_placements),
            keeps_covered=draw(st.booleans()),
        )

    return replace(JOB, sheets=(replace(sheet, items=tuple(placed(i) for i in sheet.items)),))


item_ids = st.sampled_from([i.id for i in JOB.sheets[0].items])
