"""The shipped typeface: Hanken Grotesk in three weights, each a family of its own."""

from PySide6.QtGui import QFont, QFontDatabase

from glasscap.app.theme.shipped import DATA

REGULAR, MEDIUM, STRONG = "Hanken Grotesk", "Hanken Grotesk Medium", "Hanken Grotesk Strong"


def load_fonts() -> None:
    """Make the shipped fonts known to the toolkit."""
    folder = DATA / "fonts"
    for name in ("Regular", "Medium", "Strong"):
        QFontDatabase.addApplicationFontFromData((folder / f"HankenGrotesk-{name}.ttf").read_bytes())


def font(size_px: int, family: str = REGULAR) -> QFont:
    """Return a font of the shipped family at a px size."""
    made = QFont(family)
    made.setPixelSize(size_px)
    return made
