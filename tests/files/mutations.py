"""Damaged job files, photographs, drawings and fonts: is each opened, refused in words, or a fault brought to light?"""

import base64
import copy
import io
import json
import random
import re
import traceback
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PIL import Image

from glasscap.core.errors import GlassCapError
from glasscap.core.formats.photo import photo_facts, read_draft, read_photo
from glasscap.core.formats.png import write_png
from glasscap.core.formats.profiles import p3_profile
from glasscap.core.shapes.kinds import Letters
from glasscap.core.shapes.typesetting import Face, set_type
from glasscap.files.font_book import read_font
from glasscap.files.jobs import job_preview, open_job
from tests.samples import noise_rgba

FAULTS = Path(__file__).parents[1] / "faults"

_ODD: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 1e-320, 1e308, -1e308, 2**63, 10**30, 0.5, "", "a", "../../etc/passwd", "\0",
    "M 0 0 L", "#gggggg", "nan", [], {}, [[]], {"type": "none"}, "0" * 64,
)  # fmt: skip


def mutated(data: bytes, chance: random.Random) -> bytes:
    """Return a job file with its bytes or its description damaged."""
    way = chance.random()
    if way < 0.1:
        return data[: chance.randrange(len(data))]
    if way < 0.3:
        return _flipped(data, chance)
    return _with_description(data, lambda body: _spoil(body, chance))


def _flipped(data: bytes, chance: random.Random) -> bytes:
    spoilt = bytearray(data)
    for _ in range(chance.choice((1, 1, 3, 20))):
        spoilt[chance.randrange(len(spoilt))] ^= 1 << chance.randrange(8)
    return bytes(spoilt)


def damaged(data: bytes, chance: random.Random) -> bytes:
    """Return any file cut short, with bits turned, bytes put in or taken out, or numbers made extreme.

    Most damage is done near the beginning, where headers and tables are.
    """
    way, near = chance.random(), min(len(data), chance.choice((64, 512, len(data))))
    at = chance.randrange(near)
    if way < 0.1:
        return data[: chance.randrange(len(data))]
    if way < 0.4:
        return _flipped(data[:near], chance) + data[near:]
    if way < 0.7:
        width = chance.choice((1, 2, 4, 8))
        extreme = chance.choice(
            (b"\0" * width, b"\xff" * width, b"\x7f" + b"\xff" * (width - 1), b"\1" + b"\0" * (width - 1))
        )
        return data[:at] + extreme + data[at + width :]
    if way < 0.85:
        end = min(len(data), at + chance.choice((1, 4, 40, 4000)))
        return data[:at] + (data[at:end] * 2 if chance.random() < 0.5 else b"") + data[end:]
    other = chance.randrange(len(data))
    return data[:at] + data[other : other + 64] + data[at + 64 :]


_SVG_ODD = (
    "", "-1", "1e308", "1e-308", "nan", "99999999", "none", "url(#a)", "#zzz", "M 0 0 L", "matrix(0 0 0 0 0 0)", "\0",
    "\ud7ff", "&amp;", "javascript:1", "../../x", "50%", "1e9mm",
)  # fmt: skip


def damaged_drawing(data: bytes, chance: random.Random) -> bytes:
    """Return a drawing with values of attributes changed for odd ones, or with its bytes damaged."""
    if chance.random() < 0.3:
        return damaged(data, chance)
    text = data.decode()
    for _ in range(chance.choice((1, 1, 2, 5))):
        values = list(re.finditer(r'="([^"]*)"', text))
        if not values:
            break
        value = chance.choice(values)
        other = chance.choice((*_SVG_ODD, chance.choice(values).group(1)))
        text = f"{text[: value.start(1)]}{other}{text[value.end(1) :]}"
    return text.encode(errors="surrogatepass")


def _with_description(data: bytes, change: Any) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as source, zipfile.ZipFile(out, "w") as target:
        for name in source.namelist():
            content = source.read(name)
            if name == "job.json":
                body = json.loads(content)
                change(body)
                content = json.dumps(body).encode()
            target.writestr(name, content)
    return out.getvalue()


def _spoil(body: Any, chance: random.Random) -> None:
    """Change a few values anywhere below `body`."""
    places = list(_places(body))
    for _ in range(chance.choice((1, 1, 1, 2, 5))):
        holder, key = chance.choice(places)
        way = chance.random()
        try:
            if way < 0.15:
                del holder[key]
            elif way < 0.3:
                other, there = chance.choice(places)
                holder[key] = copy.deepcopy(other[there])
            elif way < 0.5 and isinstance(holder[key], int | float):
                holder[key] = holder[key] * chance.choice((-1, 0, 1e-9, 1e6, 1e18)) + chance.choice((0, 0.37))
            else:
                holder[key] = chance.choice(_ODD)
        except (KeyError, IndexError):
            # It went with what was changed before.
            continue


def _places(value: Any) -> Any:
    pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, below in list(pairs):
        yield value, key
        yield from _places(below)


def try_file(path: Path, data: bytes, *, draws: bool) -> str:
    """Open a file as the window does: "opened", "refused", or the fault's traceback."""
    path.write_bytes(data)

    def open_it() -> None:
        opened = open_job(path)
        if draws:
            job_preview(opened.job, opened.photos)

    return became(open_it)


def try_photo(path: Path, data: bytes) -> str:
    """Read a photograph or a drawing as the window does, with its draft and what `check` tells of it."""

    def read_it() -> None:
        photo_facts(data, path.name)
        read_draft(data, path.name, 10)
        read_photo(data, path.name)

    return became(read_it)


def try_font(path: Path, data: bytes) -> str:
    """Read a font file and set a word in it."""
    path.write_bytes(data)

    def set_it() -> None:
        face = read_font(path)
        made = set_type(Letters("Kiln\nfire", font=path.name), _One(face))
        assert made.letters.text

    return became(set_it)


class _One:
    """A source of one face."""

    def __init__(self, face: Face) -> None:
        self.replacement = face

    def face(self, font: str, weight: float, *, is_italic: bool) -> Face:
        return self.replacement

    def fallbacks(self, character: str) -> tuple[Face, ...]:
        return (self.replacement,)


def photographs() -> tuple[tuple[str, bytes], ...]:
    """Return small photographs of every format read, with profile, metadata, 16 bits, CMYK, layers and frames."""
    rgba = noise_rgba(60, 40, alpha=True)
    exif = Image.Exif()
    exif[0x010E], exif[274] = "Pellowick Kiln Trail", 6
    extra: dict[str, Any] = {"icc_profile": p3_profile(), "exif": exif.tobytes()}
    kinds = (
        ("a.jpg", "RGB", "JPEG", extra), ("b.jpg", "CMYK", "JPEG", {"progressive": True}), ("c.png", "RGBA", "PNG", extra),
        ("d.png", "P", "PNG", {}), ("e.webp", "RGBA", "WEBP", extra), ("f.webp", "RGB", "WEBP", {"lossless": True}),
        ("g.avif", "RGB", "AVIF", extra), ("h.gif", "P", "GIF", {}), ("i.bmp", "RGB", "BMP", {}),
        ("j.tif", "RGBA", "TIFF", {"compression": "tiff_lzw"}), ("k.tif", "CMYK", "TIFF", {}),
    )  # fmt: skip
    made = []
    for name, mode, kind, how in kinds:
        out = io.BytesIO()
        Image.fromarray(rgba).convert("RGB" if mode == "P" else "RGBA").convert(mode).save(out, kind, **how)
        made.append((name, out.getvalue()))
    deep = sorted((FAULTS / "deep").iterdir())
    return (*made, *((path.name, path.read_bytes()) for path in deep))


def drawings() -> tuple[tuple[str, bytes], ...]:
    """Return drawings with shapes, gradients, masks, text, filters, copies and a picture in them."""
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="120" height="90" viewBox="0 0 120 90">'
    body = (
        '<defs><linearGradient id="a" x1="0" x2="1"><stop offset="0" stop-color="#0b7a75"/><stop offset="1" '
        'stop-color="#f4e9d8" stop-opacity="0.5"/></linearGradient><filter id="b" x="-1" width="3"><feGaussianBlur '
        'stdDeviation="3"/></filter><mask id="c"><circle cx="40" cy="40" r="30" fill="white"/></mask><clipPath id="d">'
        '<rect width="60" height="60" rx="4"/></clipPath><pattern id="e" width="8" height="8" '
        'patternUnits="userSpaceOnUse"><path d="M 0 0 L 8 8" stroke="#203040" stroke-width="2"/></pattern></defs>'
        '<g mask="url(#c)" transform="rotate(12) translate(3 4)"><rect x="5" y="5" width="70" height="50" '
        'fill="url(#a)" filter="url(#b)"/></g><path d="M 10 80 C 30 20 60 20 90 80 Z" fill="url(#e)" '
        'stroke-dasharray="4 2" stroke="#c2571a" stroke-linejoin="round" clip-path="url(#d)"/><text x="6" y="60" '
        'font-size="18" font-family="serif">Kiln</text><use href="#f" x="20" opacity="0.4"/><ellipse id="f" cx="30" '
        'cy="70" rx="12" ry="6" fill-rule="evenodd"/><image width="20" height="15" href="data:image/png;base64,'
    )
    png = base64.b64encode(write_png(noise_rgba(20, 15))).decode()
    own = f'{head}{body}{png}"/></svg>'.encode()
    names = ("text_sans.svg", "url_regex.svg")
    return (("own.svg", own), *((name, (FAULTS / name).read_bytes()) for name in names))


def became(work: Callable[[], None]) -> str:
    """Do something with a damaged file: "opened", "refused" in words, or the fault's traceback."""
    try:
        work()
    except GlassCapError:
        return "refused"
    except Exception:  # noqa: BLE001 - whatever else comes is what is looked for
        return traceback.format_exc()
    return "opened"
