"""Names follow what a cutout holds until it is named by hand."""

from msgspec.structs import replace

from glasscap.core.document.edits.intake import fill_shape, job_of_photos
from glasscap.core.document.edits.items import change_item, rename, swap_photo
from glasscap.core.document.edits.naming import named_after_contents
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord, Sheet
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.shaping import choose_shape
from glasscap.core.shapes.kinds import library_shape


def photo(name: str, n: int = 0, size: tuple[int, int] = (400, 300)) -> PhotoRecord:
    return PhotoRecord(f"{n:064x}", name, *size)


PLATE, JUG = photo("blue-plate.jpg", 1), photo("tall_jug.jpg", 2)
CIRCLE = Cutout("i1", "Circle", shape=library_shape("circle"), shape_placement=ShapePlacement(200, 150, 100, 100))


def done(before: Job, after: Job) -> str:
    return find_item(named_after_contents(before, after), "i2" if "i2" in str(after) else "i1").name


def test_a_swapped_photo_gives_its_name() -> None:
    job = job_of_photos([PLATE])
    assert find_item(job, "i2").name == "Blue plate"
    assert done(job, swap_photo(job, "i2", JUG)) == "Tall jug"


def test_a_name_given_by_hand_stays() -> None:
    job = rename(job_of_photos([PLATE]), "i2", "Dish of the day")
    assert done(job, swap_photo(job, "i2", JUG)) == "Dish of the day"


def test_a_numbered_name_is_still_not_given_by_hand() -> None:
    job = job_of_photos([PLATE])
    job = change_item(job, "i2", lambda i: replace(i, name="Blue plate 2"))
    assert done(job, swap_photo(job, "i2", JUG)) == "Tall jug"


def test_a_waiting_shape_is_called_after_its_shape_then_after_its_photo() -> None:
    job = Job((Sheet("s1", "Sheet 1", 400, 300, items=(CIRCLE,)),))
    chosen = choose_shape(job, "i1", "heart")
    assert done(job, chosen) == "Heart"
    assert done(job, fill_shape(job, "i1", [PLATE])) == "Blue plate"


def test_an_edit_of_finishes_or_place_renames_nothing() -> None:
    job = job_of_photos([PLATE])
    moved = change_item(job, "i2", lambda i: replace(i, opacity=0.5))
    assert named_after_contents(job, moved) is moved


def test_photos_fill_a_waiting_shape_and_copies_beside_it() -> None:
    job = Job((Sheet("s1", "Sheet 1", 400, 300, items=(CIRCLE,)),))
    filled = fill_shape(job, "i1", [PLATE, JUG, photo("bowl.jpg", 3)])
    items = filled.sheets[0].items
    assert len(items) == 3
    assert [i.shape_placement.x for i in items] == [200, 320, 440]
    assert {i.shape_placement.width for i in items} == {100}
    assert [i.content.sha256 for i in items] == [PLATE.sha256, JUG.sha256, f"{3:064x}"]
    assert [i.name for i in items[1:]] == ["Tall jug", "Bowl"]
