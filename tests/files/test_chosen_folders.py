"""Each kind of file has a folder of its own, kept over restarts."""

import json
from pathlib import Path

from glasscap.files.chosen_folders import chosen_folder, keep_chosen_folder


def test_each_kind_has_its_own(tmp_path: Path) -> None:
    photos, jobs = tmp_path / "photos", tmp_path / "jobs"
    photos.mkdir()
    jobs.mkdir()
    assert chosen_folder("photographs") is None
    keep_chosen_folder("photographs", photos)
    keep_chosen_folder("jobs", jobs)
    assert chosen_folder("photographs") == photos
    assert chosen_folder("jobs") == jobs
    assert chosen_folder("shapes") is None


def test_a_folder_that_went_is_not_offered(tmp_path: Path) -> None:
    gone = tmp_path / "gone"
    gone.mkdir()
    keep_chosen_folder("shapes", gone)
    gone.rmdir()
    assert chosen_folder("shapes") is None


def test_what_is_kept_may_be_damaged(own_state: Path) -> None:
    (own_state / "glasscap").mkdir(exist_ok=True)
    for damage in (b"[1]", b"{", b"\xff", json.dumps({"jobs": 3}).encode()):
        (own_state / "glasscap" / "folders.json").write_bytes(damage)
        assert chosen_folder("jobs") is None


def test_a_folder_where_nothing_can_be_kept_is_no_problem(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    keep_chosen_folder("jobs", tmp_path, tmp_path / "file" / "state")
    assert chosen_folder("jobs", tmp_path / "file" / "state") is None
