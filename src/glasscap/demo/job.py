"""The demo job: two cards for the made-up Pellowick Kiln Trail."""

from importlib.resources import files

from msgspec.structs import replace

from glasscap.core.document.model import Cutout, Job, PhotoContent, PhotoRecord, Shape, Sheet, library_shape
from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.errors import PhotoError
from glasscap.core.render.photos import PhotoStore
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes

DEMO_TITLE = "Kiln trail, autumn cards"
_CARD = (1800, 1200)
_PPI = 300.0
_CIRCLE = library_shape("circle")


class _Demo:
    """Collects photographs and cutouts."""

    def __init__(self) -> None:
        self.store, self.records = new_store(), dict[str, PhotoRecord]()
        for entry in sorted((files("glasscap.demo") / "data").iterdir(), key=lambda e: e.name):
            data = entry.read_bytes()
            self.store.add(data)
            self.records[entry.name] = photo_from_bytes(data, entry.name).record
        self._count = 10

    def cutout(self, name: str, photo: str, at: ContentPlacement, shape: Shape, place: ShapePlacement) -> Cutout:
        """Return a cutout of one of the photographs."""
        self._count += 1
        if photo not in self.records:
            raise PhotoError(photo, "the demo photograph is not there", "install Glass Cap anew")
        content = PhotoContent(self.records[photo].sha256)
        return Cutout(f"i{self._count}", name, content, at, shape, place)


def demo_job() -> tuple[Job, PhotoStore]:
    """Return the demo job and its photographs. Raises PhotoError if one is missing."""
    demo = _Demo()
    sheets = (_front(demo), _back(demo))
    return Job(sheets, tuple(demo.records.values()), ("#b4532c",)), demo.store


def _front(demo: _Demo) -> Sheet:
    card = library_shape("rectangle", corner=36)
    sky = demo.cutout(
        "Evening sky",
        "evening-sky.jpg",
        ContentPlacement(950, 570, 0.36, 0.36),
        card,
        ShapePlacement(900, 600, 1680, 1080),
    )
    door = demo.cutout(
        "Kiln door",
        "kiln-door.jpg",
        ContentPlacement(1404, 640, 0.26, 0.26),
        library_shape("rectangle", corner_tl=220, corner_tr=220),
        ShapePlacement(1404, 632, 440, 600),
    )
    jug = demo.cutout(
        "Jug",
        "jug-by-the-window.jpg",
        ContentPlacement(1076, 786, 0.2, 0.2),
        library_shape("ellipse"),
        ShapePlacement(1040, 790, 300, 460),
    )
    plate = demo.cutout(
        "Blue plate",
        "plates-above.jpg",
        ContentPlacement(518, 588, 0.33, 0.33),
        _CIRCLE,
        ShapePlacement(520, 608, 796, 796),
    )
    return Sheet("s1", "Card front", *_CARD, _PPI, (replace(sky, is_locked=True), jug, door, plate))


def _back(demo: _Demo) -> Sheet:
    bowls = demo.cutout(
        "Bowls",
        "bowls-on-a-shelf.jpg",
        ContentPlacement(900, 640, 0.43, 0.43),
        library_shape("rectangle", corner=36),
        ShapePlacement(900, 600, 1680, 1080),
    )
    tiles = demo.cutout(
        "Test tiles",
        "test-tiles.jpg",
        ContentPlacement(1420, 300, 0.16, 0.16),
        _CIRCLE,
        ShapePlacement(1420, 320, 360, 360),
    )
    mark = demo.cutout(
        "Maker's mark",
        "makers-mark.png",
        ContentPlacement(300, 280, 0.26, 0.26),
        library_shape("rectangle"),
        ShapePlacement(300, 280, 364, 364),
    )
    slip = demo.cutout(
        "Slip bowl",
        "slip-bowl-16-bit.png",
        ContentPlacement(1000, 300, 0.32, 0.32),
        library_shape("ellipse"),
        ShapePlacement(1000, 300, 320, 240),
    )
    return Sheet("s2", "Card back", *_CARD, _PPI, (bowls, tiles, mark, slip))
