"""What the documents say is there."""

import json
import re
from pathlib import Path

import pytest
from PIL import Image

from glasscap.cli.main import build_parser
from glasscap.core.shapes.library.table import SHAPES
from glasscap.demo.job import demo_job
from glasscap.files.jobs import save_job

ROOT = Path(__file__).parent.parent
DOCS = ["README.md", "CONTRIBUTING.md", *(f"docs/{p.name}" for p in (ROOT / "docs").glob("*.md"))]


@pytest.mark.parametrize("name", DOCS)
def test_links_and_pictures_lead_somewhere(name: str) -> None:
    text = (ROOT / name).read_text(encoding="utf-8")
    for target in re.findall(r"\]\(([^)#]+)\)", text):
        assert ((ROOT / name).parent / target).exists(), target


def test_every_screenshot_is_shown_and_there_are_under_20() -> None:
    shots = sorted(p.name for p in (ROOT / "docs" / "screenshots").iterdir())
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    assert 10 < len(shots) < 20
    assert all(f"docs/screenshots/{name}" in readme for name in shots)


def test_the_drawing_names_every_folder() -> None:
    drawing = (ROOT / "docs" / "architecture.md").read_text(encoding="utf-8")
    package = ROOT / "src" / "glasscap"
    folders = [
        p.name for p in (*package.iterdir(), *(package / "core").iterdir()) if (p / "__init__.py").exists()
    ]
    assert len(folders) >= 11
    assert all(name in drawing for name in folders), folders


def test_the_command_line_page_names_every_option_and_shape() -> None:
    page = (ROOT / "docs" / "command-line.md").read_text(encoding="utf-8")
    parser = build_parser()
    commands = next(a for a in parser._actions if a.dest == "command").choices
    assert isinstance(commands, dict)
    options = {
        o for sub in commands.values() for a in sub._actions for o in a.option_strings if o.startswith("--")
    }
    assert options - {"--help", "--output"} <= set(re.findall(r"--[a-z-]+", page))
    assert "shapes.md" in page


def test_the_list_of_shapes_is_the_table_s() -> None:
    import runpy

    made = runpy.run_path(str(ROOT / "script" / "write_shape_list"))["page"]()
    assert made == (ROOT / "docs" / "shapes.md").read_text(encoding="utf-8")
    assert all(f"`{name}`" in made for name in SHAPES)


def test_the_schema_is_the_model_s() -> None:
    import runpy

    made = runpy.run_path(str(ROOT / "script" / "write_schema"))["schema"]()
    assert json.loads(made) == json.loads((ROOT / "docs" / "job-file.schema.json").read_text(encoding="utf-8"))


def test_locks_hold_hashes_and_no_addresses() -> None:
    for lock in (ROOT / "requirements").glob("*.txt"):
        text = lock.read_text()
        assert "--hash=sha256:" in text
        assert "://" not in text


def test_the_examples_of_the_python_page_run(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    page = (ROOT / "docs" / "python.md").read_text(encoding="utf-8")
    examples = re.findall(r"```python\n(.*?)```", page, re.DOTALL)
    for photo in (ROOT / "src/glasscap/demo/data").glob("*.jpg"):
        # What is shown is how it is written, not how large.
        with Image.open(photo) as image:
            image.resize((image.width // 4, image.height // 4)).save(tmp_path / photo.name)
    save_job(tmp_path / "trail.glasscap", *demo_job())
    monkeypatch.chdir(tmp_path)
    names: dict[str, object] = {}
    for example in examples:
        exec(example, names)
    assert len(examples) == 6
    assert {"plate.png", "heart.jpg", "blue-plate.webp", "other.glasscap"} <= {p.name for p in tmp_path.iterdir()}
    assert any((tmp_path / "out").rglob("*.*"))
