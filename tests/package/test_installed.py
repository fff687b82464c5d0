"""The package installed into a clean environment: all of it is there, and it writes every format."""

import os
import re
import subprocess
import sys
import tomllib
import zipfile
from importlib.metadata import distribution, packages_distributions
from pathlib import Path

import pytest
from msgspec.structs import replace

from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.formats.registry import FORMATS
from glasscap.demo.job import demo_job
from glasscap.files.jobs import save_job

ROOT = Path(__file__).parents[2]
# Python 3.13 lies between them.
PYTHONS = ("3.12", "3.14")
PIP = ("-m", "pip", "--disable-pip-version-check", "--quiet")


def run(*call: str | Path, **more: object) -> subprocess.CompletedProcess[str]:
    done = subprocess.run([*map(str, call)], capture_output=True, text=True, check=False, **more)
    assert done.returncode == 0, done.stdout + done.stderr
    return done


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Built from what is under version control, as somebody does who has just fetched it."""
    source, folder = tmp_path_factory.mktemp("source"), tmp_path_factory.mktemp("wheel")
    listed = run("git", "-C", ROOT, "ls-files", "-z", "--cached", "--others", "--exclude-standard").stdout
    for name in filter(None, listed.split("\0")):
        if (ROOT / name).is_file() and not name.startswith(("tests/", "docs/")):
            target = source / name
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes((ROOT / name).read_bytes())
    run(sys.executable, *PIP, "wheel", "--no-deps", "--wheel-dir", folder, source)
    (made,) = folder.glob("*.whl")
    return made


@pytest.fixture(scope="module")
def clean(wheel: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The folder of the programs of a clean environment with the wheel in it."""
    place = tmp_path_factory.mktemp("clean")
    run(sys.executable, "-m", "venv", "--without-pip", place)
    into = (sys.executable, *PIP, "--python", place / "bin/python", "install", "--no-compile", "--no-deps")
    run(*into, "--require-hashes", "-r", ROOT / "requirements/runtime.txt")
    run(*into, wheel)
    return place / "bin"


def test_what_is_imported_is_declared_and_pinned() -> None:
    declared = {
        re.split(r"[<>=~!;\[ ]", line)[0].lower().replace("_", "-")
        for line in (ROOT / "requirements/runtime.in").read_text().splitlines()
    }
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())
    assert project["tool"]["setuptools"]["dynamic"]["dependencies"] == {"file": ["requirements/runtime.in"]}
    pinned = set(re.findall(r"^([\w-]+)==", (ROOT / "requirements/runtime.txt").read_text(), re.MULTILINE))
    assert {name.replace("_", "-") for name in declared} <= {name.lower() for name in pinned}
    found = set()
    for path in (ROOT / "src").rglob("*.py"):
        found |= set(re.findall(r"^\s*(?:from|import) ([A-Za-z0-9_]+)", path.read_text(), re.MULTILINE))
    owners = packages_distributions()
    foreign = {name for name in found if name in owners and name not in sys.stdlib_module_names}
    # Part of another one that is declared.
    needed = {owners[n][0].lower().replace("_", "-") for n in foreign} - {"glasscap", "shiboken6"}
    assert "pypdfium2" in needed
    assert needed <= declared


def test_no_file_of_the_package_is_left_out(wheel: Path) -> None:
    with zipfile.ZipFile(wheel) as archive:
        packed = {name for name in archive.namelist() if name.startswith("glasscap/")}
    listed = run("git", "-C", ROOT, "ls-files", "--cached", "--others", "--exclude-standard", "src").stdout
    wanted = {name.removeprefix("src/") for name in listed.splitlines() if (ROOT / name).is_file()}
    assert wanted - packed == set()


# One process for all: each start of the program takes a second.
CHECKED = "import sys; from glasscap.cli.main import main; sys.exit(any(main(['check', f, '--json']) for f in sys.argv[1:]))"


def test_every_format_is_written_and_checked(clean: Path, tmp_path: Path) -> None:
    job, store = demo_job()
    kinds = [*FORMATS]
    names = {item.name: item.id for item in job.sheets[0].items}
    rows = tuple(
        Output(
            f"o{n}", names["Jug"], OutputSize("longest", width=240), name=f"jug-{kind}", file=FileOptions(kind)
        )
        for n, kind in enumerate(kinds)
    )
    path, out = tmp_path / "cards.glasscap", tmp_path / "out"
    out.mkdir()
    save_job(path, replace(job, outputs=rows), store)
    environment = {k: v for k, v in os.environ.items() if k not in ("PYTHONPATH", "VIRTUAL_ENV")}
    run(clean / "glasscap", "export", path, "-o", out, cwd=tmp_path, env=environment)
    written = sorted(out.iterdir())
    assert len(written) == len(kinds)
    said = run(clean / "python", "-c", CHECKED, *written, cwd=tmp_path, env=environment).stdout
    assert said.count('"width"') == len(written)
    shot = tmp_path / "window.png"
    environment |= {"QT_QPA_PLATFORM": "offscreen", "HOME": str(tmp_path), "XDG_STATE_HOME": str(tmp_path)}
    run(clean / "glasscap", "--shot", shot, "--demo", cwd=tmp_path, env=environment)
    assert shot.stat().st_size > 20_000
    run(sys.executable, *PIP, "--python", clean / "python", "check")


def test_a_missing_module_is_one_line(clean: Path, tmp_path: Path) -> None:
    blocked = "import sys; sys.modules['pikepdf'] = None; from glasscap.cli.main import main; sys.exit(main())"
    photo = next((ROOT / "src/glasscap/demo/data").glob("test-tiles.jpg"))
    call = [clean / "python", "-c", blocked, "cut", photo, "-o", tmp_path / "x.pdf"]
    done = subprocess.run([*map(str, call)], capture_output=True, text=True, check=False, cwd=tmp_path)
    assert done.returncode == 1
    assert done.stderr == ("glasscap: pikepdf: this part of the program is missing; install Glass Cap again\n")


def pins_of_one_python() -> list[str]:
    """The pinned requirements whose installed wheel is for one Python alone: others serve every later one."""
    text = (ROOT / "requirements/runtime.txt").read_text().replace("\\\n", " ")
    found = []
    for line in (line for line in text.splitlines() if "==" in line.split("--hash")[0]):
        tags = distribution(line.split("==")[0]).read_text("WHEEL") or ""
        if "-abi3-" not in tags and "-none-" not in tags:
            found.append(line)
    return found


@pytest.mark.parametrize("version", PYTHONS)
def test_every_pin_has_a_wheel_for_other_pythons(version: str, tmp_path: Path) -> None:
    pins = pins_of_one_python()
    assert any(line.startswith("numpy") for line in pins)
    (tmp_path / "pins.txt").write_text("\n".join(pins))
    only = ("--only-binary=:all:", "--python-version", version, "--target", tmp_path, "--no-deps", "--dry-run")
    run(sys.executable, *PIP, "install", *only, "-r", tmp_path / "pins.txt")
