"""What people type in Python: every kind of photo, finishes in few words, jobs, and problems in one line."""

import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

import glasscap
from glasscap.demo.job import demo_job
from glasscap.files.jobs import save_job
from glasscap.files.locks import JobHold
from tests.core.raster.known_mattes import known_matte
from tests.samples import noise_rgba, photo_job, png_photo


@pytest.fixture(scope="module")
def job_path(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("job") / "trail.glasscap"
    save_job(path, *demo_job())
    return path


def test_every_kind_of_photo_gives_the_same_picture(tmp_path: Path) -> None:
    rgba = noise_rgba(200, 150, alpha=True)
    path = tmp_path / "photo.png"
    Image.fromarray(rgba).save(path)
    wanted = glasscap.cut(path).array
    kinds = (str(path), path.read_bytes(), bytearray(path.read_bytes()), rgba, Image.open(path))
    for photo in kinds:
        assert np.array_equal(glasscap.cut(photo).array, wanted)
    opaque = glasscap.cut(rgba[..., :3]).array
    assert opaque[75, 75, 3] == 255


def test_a_pillow_image_of_any_mode_is_read(tmp_path: Path) -> None:
    whole = Image.fromarray(noise_rgba(80, 60))
    for mode in ("RGB", "L", "P", "1", "CMYK"):
        picture = glasscap.cut(whole.convert(mode), shape="rectangle")
        assert (
            np.abs(picture.array[..., :3].astype(int) - np.asarray(whole.convert(mode).convert("RGB"))).max() <= 1
        )


def test_a_pillow_image_of_sixteen_bits_is_rounded() -> None:
    """65535 / 255 = 257: the level v stands for v times 257."""
    levels = np.arange(0, 4800, dtype=np.uint16).reshape(60, 80) * 13
    picture = glasscap.cut(Image.fromarray(levels), shape="rectangle")
    assert np.array_equal(picture.array[..., 0], np.round(levels / 257).astype(np.uint8))


@pytest.mark.parametrize(
    "photo", [np.zeros((4, 4)), np.zeros((4, 4, 2), np.uint8), np.zeros((4, 4, 3), np.uint16), 7, None]
)
def test_what_is_no_photo_says_what_is(photo: object) -> None:
    with pytest.raises(glasscap.GlassCapError, match="a path, the bytes of a picture file, a uint8 array"):
        glasscap.cut(photo)


def test_finishes_in_few_words_are_those_told_in_full() -> None:
    data = png_photo(200, 150)
    short = glasscap.cut(data, stroke=(6, "#ff0000"), shadow=True, feather=3, inset=2)
    full = glasscap.Finishes(
        edge=glasscap.Edge(feather=3, inset=2),
        strokes=short_strokes(),
    )
    assert not np.array_equal(short.array[:9], glasscap.cut(data, finishes=full).array[:9])
    without = glasscap.cut(data, stroke=[(6, "#ff0000")], feather=3, inset=2)
    assert np.array_equal(without.array, glasscap.cut(data, finishes=full).array)
    several = glasscap.cut(
        data, stroke=[glasscap.Stroke(4), (6, "#00ff00")], shadow=[glasscap.Shadow(), glasscap.Shadow(blur=4)]
    )
    assert several.size[0] > glasscap.cut(data).size[0]
    with pytest.raises(glasscap.GlassCapError, match="given twice"):
        glasscap.cut(data, finishes=full, feather=2)


def short_strokes() -> tuple[glasscap.Stroke, ...]:
    from glasscap.core.document.model.paint import ColourPaint

    return (glasscap.Stroke(6, ColourPaint("#ff0000")),)


def test_a_picture_is_an_array_a_pillow_image_and_a_file(tmp_path: Path) -> None:
    picture = glasscap.cut(png_photo(200, 150), box=(20, 10, 60, 60), scale=2)
    assert picture.array.shape == (120, 120, 4) and picture.size == (120, 120)
    assert picture.corner == (40, 20)
    with pytest.raises(ValueError, match="read-only"):
        picture.array[0, 0] = 0
    assert np.array_equal(np.asarray(picture.to_pillow()), picture.array)
    path = picture.save(tmp_path / "plate.webp", is_lossless=True)
    with Image.open(path) as image:
        assert np.array_equal(np.asarray(image.convert("RGBA"))[..., 3], picture.array[..., 3])
    with pytest.raises(glasscap.GlassCapError):
        picture.save(tmp_path / "plate.xyz")


def test_a_job_is_listed_changed_rendered_and_written(job_path: Path, tmp_path: Path) -> None:
    job = glasscap.open(job_path)
    assert job.problems == ()
    assert [s.name for s in job.sheets][:2] == ["Card front", "Card back"]
    assert "Blue plate" in [c.name for c in job.cutouts]
    before = job.render("Blue plate").array
    whole = job.render("Card front", scale=0.25)
    assert whole.size == (450, 300)
    job.change_photo("Blue plate", noise_rgba(300, 200))
    assert not np.array_equal(job.render("Blue plate").array, before)
    path = job.save(tmp_path / "other.glasscap")
    again = glasscap.open(path)
    assert np.array_equal(again.render("Blue plate").array, job.render("Blue plate").array)
    # The job it came from is as it was.
    assert np.array_equal(glasscap.open(job_path).render("Blue plate").array, before)
    with pytest.raises(glasscap.GlassCapError, match="no cutout or sheet has this name"):
        job.render("Nobody")


def test_a_job_saved_elsewhere_still_finds_its_linked_photos(tmp_path: Path) -> None:
    job, store = photo_job(png_photo(80, 60))
    (tmp_path / "jug.png").write_bytes(store.data(job.photos[0]))
    linked = replace(job, photos=(replace(job.photos[0], name="jug.png", link="jug.png"),))
    save_job(tmp_path / "here.glasscap", linked, store)
    (tmp_path / "there").mkdir()
    opened = glasscap.open(tmp_path / "here.glasscap")
    again = glasscap.open(opened.save(tmp_path / "there" / "other.glasscap"))
    assert again.problems == ()
    assert again.job.photos[0].link == "../jug.png"
    assert np.array_equal(again.render("Sheet 1").array, opened.render("Sheet 1").array)


def test_a_job_that_is_open_in_a_window_is_left_alone(job_path: Path, tmp_path: Path) -> None:
    path = tmp_path / "held.glasscap"
    glasscap.open(job_path).save(path)
    hold = JobHold()
    assert hold.take(path)
    with pytest.raises(glasscap.GlassCapError, match="open in a window"):
        glasscap.open(path).save()
    hold.take(None)
    glasscap.open(path).save()


def test_a_name_that_several_have_is_refused(tmp_path: Path) -> None:
    job, store = photo_job(png_photo(80, 60))
    twin = replace(job.sheets[0], id="twin", items=())
    save_job(tmp_path / "twins.glasscap", replace(job, sheets=(*job.sheets, twin)), store)
    opened = glasscap.open(tmp_path / "twins.glasscap")
    with pytest.raises(glasscap.GlassCapError, match="2 sheets have this name"):
        opened.render(opened.sheets[0].name)
    assert opened.render("twin").size == opened.render(opened.sheets[0].id).size


@pytest.mark.parametrize(
    "how", [{"stroke": "12"}, {"stroke": 12}, {"stroke": [(1,)]}, {"shadow": 3}, {"shadow": ["x"]}]
)
def test_what_is_no_finish_says_so_in_one_line(how: dict[str, object]) -> None:
    with pytest.raises(glasscap.GlassCapError, match=r"is no (stroke|shadow)"):
        glasscap.cut(png_photo(40, 30), **how)


def test_importing_the_package_loads_next_to_nothing() -> None:
    call = "import sys, glasscap; print([m for m in ('numpy', 'cv2', 'PIL', 'msgspec') if m in sys.modules], dir(glasscap))"
    done = subprocess.run([sys.executable, "-c", call], capture_output=True, text=True, check=True)
    assert done.stdout.startswith("[] ")
    assert "'cut'" in done.stdout
    with pytest.raises(AttributeError):
        glasscap.nothing_of_this_name  # noqa: B018


def test_an_object_is_cut_around_with_its_own_matte() -> None:
    truth = known_matte("hair")
    picture = glasscap.cut(truth.rgb, around=(60, 60, 280, 280), soft=48, clean_rim=True, crop="sheet").array
    mixed = (truth.alpha > 0.1) & (truth.alpha < 0.9)
    assert np.abs(picture[..., 3] / 255 - truth.alpha).mean() < 0.01
    shot = glasscap.cut(truth.rgb, around=(60, 60, 280, 280), soft=48, crop="sheet").array
    seen = mixed & (picture[..., 3] > 60)
    tints = [np.abs(p[..., :3] / 255 - truth.colours)[seen].mean() for p in (picture, shot)]
    assert tints[0] < 0.7 * tints[1]
    hard = glasscap.cut(truth.rgb, around=(60, 60, 280, 280), crop="sheet").array
    errors = [np.abs(p[..., 3] / 255 - truth.alpha)[mixed].mean() for p in (picture, hard)]
    assert errors[0] < errors[1] / 2


def test_what_is_asked_twice_or_without_the_other_is_refused() -> None:
    rgba = noise_rgba(60, 60)
    with pytest.raises(glasscap.GlassCapError, match="clean_rim: there is no soft contour"):
        glasscap.cut(rgba, clean_rim=True)
    with pytest.raises(glasscap.GlassCapError, match="it excludes a box"):
        glasscap.cut(rgba, box=(1, 1, 9, 9), around=(1, 1, 9, 9))
    with pytest.raises(glasscap.GlassCapError, match="leave the shape out"):
        glasscap.cut(rgba, shape="heart", around=(1, 1, 9, 9))
    with pytest.raises(glasscap.GlassCapError, match="no object stands out"):
        glasscap.cut(np.zeros((60, 60, 3), np.uint8), around=(500, 500, 20, 20))
