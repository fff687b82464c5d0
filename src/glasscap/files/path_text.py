"""Paths as text that any file and every stream can hold: names on a disk need not be UTF-8."""

from urllib.parse import quote_from_bytes, unquote_to_bytes

# A prefix that no name on a disk has by chance.
_MARK = "percent-encoded:"


def printable(name: str) -> str:
    """Return a file's name for people: bytes that are no UTF-8 stand as %XX."""
    raw = name.encode("utf-8", "surrogateescape")
    try:
        raw.decode("utf-8")
    except UnicodeDecodeError:
        return "".join(f"%{ord(c) - 0xDC00:02X}" if 0xDC80 <= ord(c) <= 0xDCFF else c for c in name)
    return name


def text_of_path(path: str) -> str:
    """Return a path as text that leads back to it, whatever bytes it is made of; most are what they are."""
    if printable(path) == path and not path.startswith(_MARK):
        return path
    return _MARK + quote_from_bytes(path.encode("utf-8", "surrogateescape"), safe="/")


def path_of_text(text: str) -> str:
    """Return the path a text stands for; see `text_of_path`."""
    if not text.startswith(_MARK):
        return text
    return unquote_to_bytes(text.removeprefix(_MARK)).decode("utf-8", "surrogateescape")
