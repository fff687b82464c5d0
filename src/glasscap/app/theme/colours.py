"""The two sets of colours."""

from msgspec import Struct


class Colours(Struct, frozen=True):
    """Named colours, "#rrggbb"."""

    panel: str
    card: str
    field: str
    line: str
    ink: str
    muted: str
    teal: str
    teal_soft: str
    on_teal: str
    amber: str
    amber_soft: str
    surround: str
    checker_light: str
    checker_dark: str
    good: str


LIGHT = Colours(
    panel="#f3f1ec",
    card="#fbfaf7",
    field="#ffffff",
    line="#ddd8ce",
    ink="#22262a",
    muted="#6c7075",
    teal="#0b7a75",
    teal_soft="#dcedeb",
    on_teal="#ffffff",
    amber="#c7691f",
    amber_soft="#fff4e6",
    surround="#a9aaa8",
    checker_light="#ffffff",
    checker_dark="#e9e8e5",
    good="#2e9e5b",
)

DARK = Colours(
    panel="#232629",
    card="#2c3034",
    field="#1d2023",
    line="#42474c",
    ink="#eeece6",
    muted="#a3a7ab",
    teal="#3bb3ab",
    teal_soft="#1f4a48",
    on_teal="#0d1f1e",
    amber="#e8924a",
    amber_soft="#41301f",
    surround="#5b5d5c",
    checker_light="#d6d6d4",
    checker_dark="#c2c2c0",
    good="#53c27f",
)

# Working lines and handles lie over photographs, so they are the same in both themes.
LINE_TEAL = "#0b7a75"
LINE_AMBER = "#c7691f"
LINE_LIGHT = "#ffffff"
INK_PROOF = "#22262a"
