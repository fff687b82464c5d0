"""The pages of the help: short texts that ship with the program, found by the words people use."""

from functools import cache
from pathlib import Path

from msgspec import Struct

from glasscap.app.help.key_tables import key_tables

PAGES = Path(__file__).parent / "pages"
# The page opened first; the others follow in this order.
_ORDER = ("keys", "start", "placing", "shapes", "edge", "strokes", "light", "many", "series", "groups",
          "versions", "mockups", "sheets", "export", "safety")  # fmt: skip


class Page(Struct, frozen=True):
    """One page: its name in links, its title, its text (Markdown), and other words it is found by."""

    name: str
    title: str
    text: str
    words: tuple[str, ...]


@cache
def pages() -> tuple[Page, ...]:
    """Return all pages in their order."""
    return tuple(_read(PAGES / f"{name}.md", name) for name in _ORDER)


def _read(path: Path, name: str) -> Page:
    """Read a page: its first line is the title, a line ``words: ...`` what else it is found by."""
    lines = path.read_text(encoding="utf-8").splitlines()
    words = next((line.removeprefix("words:") for line in lines if line.startswith("words:")), "")
    text = "\n".join(line for line in lines if not line.startswith("words:"))
    if name == "keys":
        text = f"{text}\n\n{key_tables()}"
    found = tuple(w.strip().casefold() for w in words.split(",") if w.strip())
    return Page(name, lines[0].lstrip("# "), text, found)


def search(wanted: str) -> tuple[Page, ...]:
    """Return the pages that hold every word, best first: in the title, among its words, in the text."""
    terms = wanted.casefold().split()
    if not terms:
        return pages()
    ranked = []
    for place, page in enumerate(pages()):
        ranks = [_rank(page, term) for term in terms]
        if all(ranks):
            ranked.append((-sum(ranks), place, page))
    return tuple(page for _, _, page in sorted(ranked, key=lambda entry: entry[:2]))


def _rank(page: Page, term: str) -> int:
    if term in page.title.casefold():
        return 4
    if any(term in word for word in page.words):
        return 3
    return 1 if term in page.text.casefold() else 0
