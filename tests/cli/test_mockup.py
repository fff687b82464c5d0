"""``glasscap mockup``, versions and the tree of ``info`` as programs call them."""

import json
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.cli.main import main
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.edits.versions import add_version, rename_version
from glasscap.core.document.outputs.mockups import add_mockup
from glasscap.files.jobs import save_job
from tests.core.document.samples_of_many import row_of
from tests.samples import photo_job


@pytest.fixture
def job_path(tmp_path: Path) -> Path:
    """Two tiles in a group, one with a faint version, one mock-up."""
    job, key = group_items(row_of(0, 60), ["i1", "i2"])
    job = rename_version(add_version(job, "i1"), "i1", "Version 2", "Faint")
    job = update_item(job, "i1", lambda i: replace(i, opacity=0.5))
    job, _ = add_mockup(job, key, "badge", "On a badge")
    path = tmp_path / "tiles.glasscap"
    save_job(path, job, photo_job()[1], b"")
    return path


def test_a_cutout_is_put_into_a_place(job_path: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "bag.png"
    assert (
        main(["mockup", str(job_path), "-o", str(out), "--cutout", "Tile i1", "--place", "tote", "--json"]) == 0
    )
    facts = json.loads(capsys.readouterr().out)
    assert facts == {"paths": [str(out)], "place": "tote", "versions": [""]}
    with Image.open(out) as picture:
        assert picture.size == (1600, 1200)


def test_the_jobs_own_mockup_is_the_first_choice(job_path: Path, tmp_path: Path) -> None:
    plain, named = tmp_path / "a.png", tmp_path / "b.png"
    assert main(["mockup", str(job_path), "-o", str(plain), "--scale", "0.2"]) == 0
    assert main(["mockup", str(job_path), "-o", str(named), "--scale", "0.2", "--place", "On a badge"]) == 0
    assert plain.read_bytes() == named.read_bytes()
    assert main(["mockup", str(job_path), "-o", str(named), "--scale", "0.2", "--fit", "stretch"]) == 0
    assert plain.read_bytes() != named.read_bytes()


def test_all_versions_go_on_one_page(job_path: Path, tmp_path: Path) -> None:
    out = tmp_path / "client.pdf"
    call = ["mockup", str(job_path), "-o", str(out), "--cutout", "Tile i1", "--place", "card", "--all-versions"]
    assert main(call) == 0
    assert out.read_bytes().startswith(b"%PDF")


def test_a_version_is_rendered_by_name(job_path: Path, tmp_path: Path) -> None:
    for version, level in (("Version 1", 255), ("Faint", 128)):
        out = tmp_path / "tile.png"
        call = ["render", str(job_path), "-o", str(out), "--cutout", "Tile i1", "--version", version]
        assert main(call) == 0
        with Image.open(out) as picture:
            assert np.asarray(picture)[..., 3].max() == level


@pytest.mark.parametrize(
    ("call", "words"),
    [
        (["--place", "moon"], "there are On a badge, card, flyer"),
        (["--cutout", "Tile i1", "--version", "Gold", "--place", "card"], "there are: Version 1, Faint"),
        (["--cutout", "none"], "there are Group, Tile i1, Tile i2"),
        (["--version", "Faint", "--all-versions"], "leave one out"),
    ],
    ids=["place", "version", "cutout", "both"],
)
def test_wrong_calls_are_one_line(
    job_path: Path, tmp_path: Path, call: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["mockup", str(job_path), "-o", str(tmp_path / "x.png"), *call]) != 0
    said = capsys.readouterr().err.strip()
    assert words in said
    assert len(said.splitlines()) == 1


def test_info_tells_the_tree(job_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["info", str(job_path), "--json"]) == 0
    facts = json.loads(capsys.readouterr().out)
    (group,) = facts["sheets"][0]["cutouts"]
    assert (group["kind"], group["box"]) == ("group", [0, 0, 100, 40])
    assert [i["box"] for i in group["items"]] == [[0, 0, 40, 40], [60, 0, 40, 40]]
    assert (group["items"][0]["versions"], group["items"][0]["shown"]) == (["Version 1", "Faint"], "Faint")
    assert facts["mockups"] == [{"name": "On a badge", "place": "badge", "shows": "Group", "fit": "contain"}]
    assert main(["info", str(job_path)]) == 0
    assert "kind: group" in capsys.readouterr().out
