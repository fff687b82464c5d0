"""The demo job: cards for the made-up Pellowick Kiln Trail."""

from importlib.resources import files

from glasscap.core.document.fit import cutout_of_photo, photo_in_box, plain_name
from glasscap.core.document.model import Cutout, Job, PhotoRecord, Sheet
from glasscap.core.render.photos import PhotoStore
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes

DEMO_TITLE = "Pellowick Kiln Trail, cards"


def demo_job() -> tuple[Job, PhotoStore]:
    """Return the demo job and its photographs."""
    store = new_store()
    records: list[PhotoRecord] = []
    items: list[Cutout] = []
    for entry in sorted((files("glasscap.demo") / "data").iterdir(), key=lambda e: e.name):
        data = entry.read_bytes()
        store.add(data)
        record = photo_from_bytes(data, entry.name).record
        records.append(record)
        placement = photo_in_box(record, 1800, 1200, 900, 600)
        items.append(cutout_of_photo(f"i{len(items) + 10}", plain_name(entry.name), record, placement))
    return Job((Sheet("s1", "Card front", 1800, 1200, 300.0, tuple(items)),), tuple(records)), store
