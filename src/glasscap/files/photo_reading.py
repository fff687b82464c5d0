"""Many photographs read into a store, on all cores."""

from collections.abc import Callable, Sequence
from pathlib import Path

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import CancelledError, GlassCapError
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work.threads import workers_for
from glasscap.core.work.ticket import Ticket
from glasscap.files.atomic import read_bytes
from glasscap.files.photos import FoundPhoto, photo_from_bytes

# A file, or the bytes of a picture and its name.
Source = Path | tuple[bytes, str]


def read_photos(
    sources: Sequence[Source],
    store: PhotoStore,
    ticket: Ticket | None = None,
    *,
    look: Callable[[PhotoRecord], object] | None = None,
) -> tuple[list[FoundPhoto], list[GlassCapError]]:
    """Read photos into a store; return those that can be read in their order, and what is wrong with others.

    `look` is called with each that was read, and shows for instance whether the whole can be seen; what it raises
    is that photo's problem. Raises CancelledError when the ticket is stopped.
    """
    ticket, found, problems = ticket or Ticket(), list[FoundPhoto](), list[GlassCapError]()

    def read(source: Source) -> FoundPhoto:
        ticket.check()
        data, name = (read_bytes(source), source.name) if isinstance(source, Path) else source
        photo = photo_from_bytes(data, name)
        store.add(photo.data, photo.record.sha256)
        if look is not None:
            look(photo.record)
        return photo

    with workers_for("intake", len(sources)) as pool:
        for done, future in enumerate([pool.submit(read, source) for source in sources]):
            ticket.report(done / len(sources))
            try:
                found.append(future.result())
            except CancelledError:
                raise
            except GlassCapError as error:
                problems.append(error)
    ticket.check()
    return found, problems
