"""The worker threads: one renders what the screen asks for, one decodes photos behind it.

A request belongs to a channel; a newer one on the same channel takes the place of one not yet begun.
"""

from collections.abc import Callable, Hashable
from concurrent.futures import ThreadPoolExecutor
from threading import Condition, Event, Thread

from PySide6.QtCore import QObject, Signal

from glasscap.core.document.model import PhotoRecord
from glasscap.core.errors import GlassCapError
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.photos import PhotoStore
from glasscap.editor.frames import ScreenPhotos, decode_fully

Work = Callable[[ScreenPhotos, ValueCache], object]
_CACHE_BYTES = 256 << 20
# The bench first: everything else waits while it has something to show.
_FIRST = "bench"


class RenderService(QObject):
    """Renders off the interface thread. `answered(channel, answer)` and `photo_decoded()` arrive on it."""

    answered = Signal(object, object)
    photo_decoded = Signal()
    failed = Signal(str)

    def __init__(self, store: PhotoStore) -> None:
        super().__init__()
        self._photos = ScreenPhotos(store)
        self._cache = ValueCache(_CACHE_BYTES)
        self._waiting: dict[Hashable, Work] = {}
        self._wake = Condition()
        self._stop = Event()
        self._decoding: set[str] = set()
        self._is_busy = False
        self._thread: Thread | None = None
        self._decoder: ThreadPoolExecutor | None = None

    @property
    def is_idle(self) -> bool:
        """Whether nothing is waiting, rendered or decoded."""
        with self._wake:
            return not (self._waiting or self._decoding or self._is_busy)

    def use_store(self, store: PhotoStore) -> None:
        """Render another job's photos from now on."""
        with self._wake:
            self._photos = ScreenPhotos(store)
            self._waiting.clear()

    def ask(self, channel: Hashable, work: Work) -> None:
        """Queue work; the newest on a channel wins."""
        if self._stop.is_set():
            return
        if self._thread is None:
            self._thread = Thread(target=self._run, name="render", daemon=True)
            self._thread.start()
        with self._wake:
            self._waiting[channel] = work
            self._wake.notify()

    def decode(self, photos: tuple[PhotoRecord, ...]) -> None:
        """Decode photos fully in the background, each once."""
        fresh = tuple(p for p in photos if p.sha256 not in self._decoding)
        if not fresh or self._stop.is_set():
            return
        self._decoding |= {p.sha256 for p in fresh}
        if self._decoder is None:
            self._decoder = ThreadPoolExecutor(1, thread_name_prefix="decode")
        store = self._photos.store

        def work() -> None:
            for problem in decode_fully(fresh, store, self._stop):
                self.failed.emit(problem)
            self._decoding.difference_update(p.sha256 for p in fresh)
            if not self._stop.is_set():
                self.photo_decoded.emit()

        self._decoder.submit(work)

    def stop(self) -> None:
        """End the threads."""
        self._stop.set()
        with self._wake:
            self._waiting.clear()
            self._wake.notify_all()
        if self._thread is not None:
            self._thread.join()
        if self._decoder is not None:
            self._decoder.shutdown(wait=True, cancel_futures=True)

    def _run(self) -> None:
        while not self._stop.is_set():
            with self._wake:
                while not self._waiting and not self._stop.is_set():
                    self._wake.wait()
                if self._stop.is_set():
                    return
                channel = _FIRST if _FIRST in self._waiting else next(iter(self._waiting))
                work = self._waiting.pop(channel)
                photos, self._is_busy = self._photos, True
            self._answer(channel, work, photos)
            self._is_busy = False

    def _answer(self, channel: Hashable, work: Work, photos: ScreenPhotos) -> None:
        try:
            answer = work(photos, self._cache)
        except (GlassCapError, MemoryError) as error:
            self.failed.emit(str(error) or "There is not enough memory; close other programs")
            return
        if not self._stop.is_set():
            self.answered.emit(channel, answer)
