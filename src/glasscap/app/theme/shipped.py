"""Where the shipped fonts, icons and pictures lie."""

from pathlib import Path

DATA = Path(__file__).parent / "data"
