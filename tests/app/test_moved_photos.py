"""A job whose linked photo was moved opens whole, says where the photo is, and is not saved."""

from pathlib import Path

from msgspec.structs import replace

from glasscap.files.jobs import open_job, save_job
from tests.app.conftest import Hand
from tests.samples import photo_job, png_photo


def test_a_moved_photo_is_said_and_saved_where_it_is(hand: Hand, tmp_path: Path) -> None:
    job, store = photo_job(png_photo(60, 40))
    path = tmp_path / "trail.glasscap"
    photo = replace(job.photos[0], name="jug.png", link="photos/jug.png")
    save_job(path, replace(job, photos=(photo,)), store)
    (tmp_path / "sent").mkdir()
    (tmp_path / "sent" / "jug.png").write_bytes(png_photo(60, 40))
    hand.drop(path)
    assert hand.studio.toast.text.text() == "jug.png was found at sent/jug.png"
    assert not hand.session.is_saved
    hand.do("save")
    hand.settle()
    assert open_job(path).job.photos[0].link == "sent/jug.png"
    assert open_job(path).moved == ()
