"""The demo job: two cards for the made-up Pellowick Kiln Trail."""

from collections.abc import Iterator
from importlib.resources import files
from itertools import count

from msgspec import Struct

from glasscap.core.document.edits.versions import add_version, rename_version, show_version
from glasscap.core.document.finishing.edits import set_finishes
from glasscap.core.document.model.finishes import (
    NO_FINISHES,
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.job import Cutout, GroupContent, Job, PhotoContent, PhotoRecord, Sheet, walk
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.proofs import ProofSettings, VideoCorner
from glasscap.core.document.model.query import items_of
from glasscap.core.document.outputs.mockups import add_mockup
from glasscap.core.errors import PhotoError
from glasscap.core.photos.store import PhotoStore
from glasscap.core.shapes.kinds import Shape, library_shape
from glasscap.demo.shapes import Placed, drawn_flag, followed_bowl, letters, punched_tag
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes
from glasscap.files.place_book import PLACES

Records = dict[str, PhotoRecord]
DEMO_TITLE = "Kiln trail, autumn cards"
_CARD = (1800, 1200)
_PPI = 300.0
_ROUNDED = library_shape("rectangle", corner=36)
_ARCH = library_shape("rectangle", corner_tl=220, corner_tr=220)


_PROOFS = ProofSettings(
    (GradientPaint((Stop(0, "#e8c9a0"), Stop(1, "#5b6f7d")), angle=70.0), TexturePaint("linen")),
    video=VideoCorner("bottom left", 0.3),
)


def _at(shape: Shape, x: float, y: float, width: float, height: float) -> Placed:
    """Return a shape with centre and size."""
    return shape, ShapePlacement(x, y, width, height)


class _Entry(Struct, frozen=True):
    """One cutout: its photo with centre and scale, its shape and where it lies."""

    name: str
    photo: str
    content: tuple[float, float, float]
    placed: Placed
    finishes: Finishes = NO_FINISHES
    is_locked: bool = False


class _Group(Struct, frozen=True):
    """A group under a shape of its own."""

    name: str
    entries: "tuple[_Entry | _Group, ...]"
    placed: Placed
    finishes: Finishes = NO_FINISHES


_PORCELAIN, _INK = ColourPaint("#fbf6ec"), ColourPaint("#22262a")
_GOLD = GradientPaint((Stop(0, "#f6e3ae"), Stop(0.5, "#9a6f2a"), Stop(1, "#ecd08c")), angle=60.0)
_PLATE = Finishes(
    strokes=(Stroke(18, _PORCELAIN), Stroke(5, _INK, gap=26)),
    lights=Lights(shadows=(Shadow(0, 16, 44, colour="#1b1410", opacity=0.5),)),
)
_PLAIN = Finishes(lights=Lights(shadows=(Shadow(0, 16, 44, colour="#1b1410", opacity=0.5),)))
_DOOR = Finishes(
    strokes=(Stroke(4, _PORCELAIN, "inside", gap=16, dashes=(18, 11), cap="round"), Stroke(14, _GOLD)),
    lights=Lights(shadows=(Shadow(0, 10, 30, opacity=0.45),), inner_shadow=Shadow(0, 8, 26, opacity=0.6)),
)
_JUG = Finishes(
    edge=Edge(feather=34, feather_side="inside", strength=1.3),
    lights=Lights(outer_glow=Glow(60, 6, "#fff0cf", 0.75)),
)
_TILES = Finishes(
    strokes=(Stroke(22, ColourPaint("#b4532c"), gap=10, texture="chalk"),),
    lights=Lights(bevel=Bevel(14, 8)),
)
_MARK = Finishes(
    mount=Mount(
        30, 30, 100, 30, 6, ColourPaint("#fdfbf6"), shadow=Shadow(0, 12, 34, opacity=0.4),
        stroke=Stroke(2, ColourPaint("#d9cfbd"), "inside"),
    ),
)  # fmt: skip
_WORDS = Finishes(
    strokes=(Stroke(7, _PORCELAIN),),
    lights=Lights(shadows=(Shadow(0, 8, 22, colour="#1b1410", opacity=0.55),)),
)
_SLIP = Finishes(
    strokes=(Stroke(10, ColourPaint("#fbf6ec")),),
    lights=Lights(shadows=(Shadow(3, 8, 20, opacity=0.45),)),
)


_FRONT = (
    _Entry(
        "Evening sky", "evening-sky.jpg", (950, 570, 0.36), _at(_ROUNDED, 900, 600, 1680, 1080), is_locked=True
    ),
    _Entry(
        "Jug", "jug-by-the-window.jpg", (1076, 786, 0.2), _at(library_shape("ellipse"), 1040, 790, 300, 460), _JUG
    ),
    _Entry("Kiln door", "kiln-door.jpg", (1404, 590, 0.26), _at(_ARCH, 1404, 582, 440, 600), _DOOR),
    _Entry(
        "Blue plate",
        "plates-above.jpg",
        (518, 538, 0.33),
        _at(library_shape("circle"), 520, 558, 796, 796),
        _PLATE,
    ),
    _Entry(
        "KILN TRAIL",
        "kiln-door.jpg",
        (1080, 1180, 0.34),
        letters("KILN TRAIL", "Alfa Slab One", 1080, 1046, 148),
        _WORDS,
    ),
)
_WINDOW = Finishes(
    strokes=(Stroke(12, _PORCELAIN),),
    lights=Lights(shadows=(Shadow(0, 10, 26, opacity=0.5),), inner_shadow=Shadow(0, 6, 22, opacity=0.55)),
)
_SHELF = Finishes(lights=Lights(inner_shadow=Shadow(0, 10, 34, opacity=0.5)))
_DUSK = _Entry("Dusk", "evening-sky.jpg", (1500, 470, 0.3), _at(library_shape("rectangle"), 1490, 480, 480, 620))
_OPEN = _Entry(
    "OPEN", "kiln-door.jpg", (1490, 600, 0.2), letters("OPEN", "Alfa Slab One", 1490, 640, 128), _WORDS
)
_BACK = (
    _Group(
        "Shelf",
        (
            _Entry(
                "Bowls",
                "bowls-on-a-shelf.jpg",
                (900, 520, 0.44),
                _at(library_shape("rectangle"), 900, 450, 1720, 800),
            ),
            _Entry("Slip bowl", "slip-bowl-16-bit.png", (1000, 300, 0.6), followed_bowl(), _SLIP),
            _Group("Window", (_DUSK, _OPEN), _at(_ARCH, 1478, 490, 400, 560), _WINDOW),
        ),
        _at(library_shape("rectangle", corner=260), 900, 430, 1640, 660),
        _SHELF,
    ),
    _Entry("Test tiles", "test-tiles.jpg", (1420, 906, 0.44), punched_tag(596.0), _TILES),
    _Entry("Maker's mark", "makers-mark.png", (300, 878, 0.25), drawn_flag(610.0), _MARK),
    _Entry(
        "FIVE KILNS",
        "plates-above.jpg",
        (850, 960, 0.34),
        letters("FIVE\nKILNS", "Alfa Slab One", 850, 990, 130),
    ),
)


def demo_job() -> tuple[Job, PhotoStore]:
    """Return the demo job and its photographs. Raises PhotoError if one is missing."""
    store, records = new_store(), {}
    for entry in sorted((files("glasscap.demo") / "data").iterdir(), key=lambda e: e.name):
        data = entry.read_bytes()
        store.add(data)
        records[entry.name] = photo_from_bytes(data, entry.name).record
    front = _items(_FRONT, count(11), records)
    back = _items(_BACK, count(21), records)
    sheets = (
        Sheet("s1", "Card front", *_CARD, _PPI, front, TexturePaint("paper")),
        Sheet("s2", "Card back", *_CARD, _PPI, back, TexturePaint("paper")),
    )
    job = Job(sheets, tuple(records.values()), ("#b4532c",), outputs=_outputs(sheets), proofs=_PROOFS)
    return _with_mockups(_with_versions(job)), store


def _items(entries: "tuple[_Entry | _Group, ...]", ids: Iterator[int], records: Records) -> tuple[Cutout, ...]:
    return tuple(_item(entry, ids, records) for entry in entries)


def _item(entry: "_Entry | _Group", ids: Iterator[int], records: Records) -> Cutout:
    own = f"i{next(ids)}"
    if isinstance(entry, _Entry):
        return _cutout(entry, own, records)
    shape, placement = entry.placed
    inside = GroupContent(_items(entry.entries, ids, records))
    return Cutout(own, entry.name, inside, None, shape, placement, finishes=entry.finishes)


def _with_versions(job: Job) -> Job:
    """Keep the plate without its border beside the bordered one."""
    key = next(i.id for _, i in items_of(job) if i.name == "Blue plate")
    job = rename_version(add_version(job, key), key, "Version 1", "Bordered")
    plain = rename_version(set_finishes(job, [key], _PLAIN), key, "Version 2", "Plain")
    return show_version(plain, key, "Bordered")


def _with_mockups(job: Job) -> Job:
    """Show the card on a table, and the plate on a bag."""
    key = next(i.id for _, i in items_of(job) if i.name == "Blue plate")
    job, _ = add_mockup(job, job.sheets[0].id, "card", PLACES["card"])
    return add_mockup(job, key, "tote", PLACES["tote"])[0]


def _outputs(sheets: tuple[Sheet, ...]) -> tuple[Output, ...]:
    """Return what the trail needs of its cards: for the web, for a video, for the printer."""
    ids = {item.name: item.id for sheet in sheets for item in walk(sheet.items)}
    return (
        Output("o1", ids["Blue plate"]),
        Output("o2", ids["Blue plate"], OutputSize("box", width=400, height=400), file=FileOptions("webp")),
        Output("o3", ids["Kiln door"], OutputSize("height", height=260), name="{name}-corner", carry=2),
        Output("o4", ids["KILN TRAIL"], file=FileOptions("svg")),
        Output("o5", sheets[0].id, crop="sheet", file=FileOptions("pdf"), folder="print"),
    )


def _cutout(entry: _Entry, item_id: str, records: Records) -> Cutout:
    shape, placement = entry.placed
    if entry.photo not in records:
        raise PhotoError(entry.photo, "the demo photograph is not there", "install Glass Cap anew")
    x, y, scale = entry.content
    return Cutout(
        item_id,
        entry.name,
        PhotoContent(records[entry.photo].sha256),
        ContentPlacement(x, y, scale, scale),
        shape,
        placement,
        finishes=entry.finishes,
        is_locked=entry.is_locked,
    )
