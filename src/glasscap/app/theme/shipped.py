"""The folders of the shipped fonts, icons and pictures."""

from pathlib import Path

DATA = Path(__file__).parent / "data"
