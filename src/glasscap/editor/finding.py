"""Finding a command, a control, a shape, a set of finishes or a page of the help by the words people use."""

import re
from collections.abc import Iterable, Mapping
from typing import Literal

from msgspec import Struct

FoundKind = Literal["command", "step", "control", "shape", "finishes", "help"]
_MOST = 40

# Words of the trade, and of everyday speech, beside the commands' own.
COMMAND_WORDS: Mapping[str, str] = {
    "new": "create begin empty document",
    "open": "load file project",
    "save": "store keep",
    "save_as": "store copy elsewhere rename",
    "add_photos": "import insert place image picture",
    "export": "write download png jpeg webp avif tiff svg pdf transparent background file",
    "mockups": "preview scene mug table tote client page",
    "close": "leave",
    "quit": "exit leave end",
    "undo": "back revert",
    "redo": "again forward",
    "copy_picture": "clipboard png transparent",
    "copy_sheet": "clipboard png whole",
    "duplicate": "copy twin",
    "delete": "remove erase bin",
    "select_alike": "same similar",
    "find": "search name",
    "find_photos": "relink lost broken link",
    "remove_hidden": "crop trim discard smaller",
    "reduce_photos": "downsample resize smaller compress",
    "embed_photos": "include inside",
    "link_photos": "external reference",
    "collect_photos": "package gather",
    "another": "same photo twice clone",
    "draw": "create circle rectangle mask shape",
    "hide": "show visible eye",
    "lock": "unlock protect",
    "mask": "unmask crop clip",
    "take_apart": "release detach separate unclip split",
    "join": "clip mask combine attach cut",
    "group": "combine together",
    "ungroup": "release separate split",
    "enter": "inside edit",
    "cover": "fill zoom fit",
    "fit_inside": "contain whole",
    "series": "batch many photos",
    "forward": "above up order",
    "backward": "below down order",
    "to_front": "top order above",
    "to_back": "bottom order behind",
    "grip_photo": "move pan content",
    "grip_shape": "move mask",
    "grip_together": "move both",
    "wire": "outline",
    "snap": "align magnet guides",
    "preferences": "settings options units memory",
    "help": "manual pages",
    "keys": "shortcuts keyboard",
    "names": "labels tour",
    "about": "version licence licences program kept files",
}
# The same for controls and steps, by a word of their name.
_CONTROL_WORDS: Mapping[str, str] = {
    "strokes": "border outline frame line",
    "stroke": "border outline frame line",
    "feather": "soft blur fade vignette",
    "corner": "round corners radius",
    "soft": "hair fur matte matting fuzzy glass",
    "clean": "fringe halo spill",
    "rough": "torn ragged",
    "shadow": "drop depth",
    "light": "glow",
    "lamp": "light shadow direction distance sun",
    "within": "inner shadow",
    "sloped": "bevel emboss chamfer relief",
    "mount": "mat plate margin paper",
    "opacity": "transparent see-through",
    "mask": "clip crop",
    "library": "shapes heart star",
    "exposure": "bright dark light",
    "saturation": "colour grey",
    "turn": "rotate angle",
    "flip": "mirror",
    "dashes": "dotted stitch",
}


class Findable(Struct, frozen=True):
    """One thing that can be found: its kind and key, its title, other words, and a hint such as its key."""

    kind: FoundKind
    key: str
    title: str
    words: str = ""
    hint: str = ""


def control(key: str, name: str, step: str) -> Findable:
    """Return a control of a step."""
    return Findable("control", key, name, _words_beside(name), step)


def step_of(key: str, title: str) -> Findable:
    """Return a step."""
    return Findable("step", key, title, f"step {_words_beside(title)}", "Step")


def _words_beside(name: str) -> str:
    said = _words(name.casefold())
    return " ".join(more for word, more in _CONTROL_WORDS.items() if word in said)


def found(text: str, all_there_is: Iterable[Findable]) -> tuple[Findable, ...]:
    """Return what every typed word fits, best first; commands before others that fit as well."""
    asked = text.casefold().split()
    order = ("command", "step", "control", "finishes", "shape", "help")
    ranked = []
    for place, thing in enumerate(all_there_is):
        rank = _rank(thing, asked)
        if rank is not None:
            ranked.append((rank, order.index(thing.kind), place, thing))
    return tuple(entry[-1] for entry in sorted(ranked, key=lambda e: e[:3])[:_MOST])


def _rank(thing: Findable, asked: list[str]) -> int | None:
    """Return how far from the title the words were found; None when one was not found at all."""
    title = thing.title.casefold()
    names, others = _words(title), _words(thing.words.casefold())
    total = 0
    for word in asked:
        if title.startswith(word):
            continue
        if any(name.startswith(word) for name in names):
            total += 1
        elif any(other.startswith(word) for other in others):
            total += 2
        else:
            return None
    return total


def _words(text: str) -> list[str]:
    return re.findall(r"[^\W_][\w-]*", text)
