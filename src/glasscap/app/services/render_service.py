"""The worker threads: for the bench, edge strips, sizes of files, and all else; one decodes photos behind them.

A request belongs to a channel; a newer one on the same channel takes the place of one not yet begun.
"""

import contextlib
from collections.abc import Callable, Hashable
from functools import partial
from threading import Condition, Event
from time import monotonic

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from glasscap.app.services.memory import cache_budget, give_back_freed, is_memory_short, is_much_held
from glasscap.app.services.threads import FRAMES, UNWATCHED, interface_turn, stay_behind
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import GlassCapError, MissingModuleError
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work.own_process import give_up
from glasscap.core.work.threads import daemon, workers
from glasscap.editor.frames import ScreenPhotos, decode_fully

Work = Callable[[ScreenPhotos, ValueCache], object]
Answer = Callable[[Hashable, object, PhotoStore], None]
Fail = Callable[[str], None]
_WATCH_MS = 1500
# How long the bench must be calm before the rest is drawn, and how long that waits at most: what is dragged shows
# across its edge, too, but where it will be used only now and then.
_CALM_SECONDS = 0.06
_BENCH, _STRIPS, _PROOFS = "bench", "strips", "proofs"
# The first of what names an edge strip's channel; the channel of a file's size.
STRIP, WEIGHT = "strip", "weight"
_LONGEST_SECONDS = {_STRIPS: 0.12, _PROOFS: 2.0, WEIGHT: 4.0}
# How often a thread that is to end is looked after.
_STOPPING_SECONDS = 0.3
_NO_MEMORY = "There is not enough memory; close other programs"


def seconds_to_wait(now: float, asked_before_at: float, waits_since: float, longest: float) -> float:
    """Return for how long work lets what goes before it go first: till that was calm for a little, not for long.

    Parameters
    ----------
    now, asked_before_at, waits_since
        Seconds by one clock: now, when what goes before was asked for last, and since when the work waits.
    longest
        For how many seconds it waits at most.
    """
    return max(0.0, min(asked_before_at + _CALM_SECONDS - now, waits_since + longest - now))


class _Lane:
    """A thread that does the newest work of each channel in turn.

    While the lane `before` it is asked for one frame after another it waits, but not for long: two threads and
    the interface have one interpreter and, it may be, two processors.
    """

    def __init__(
        self,
        name: str,
        store: PhotoStore,
        cache: ValueCache,
        answer: Answer,
        fail: Fail,
        before: "_Lane | None" = None,
    ) -> None:
        self._before, self.asked_at, self._done_at = before, 0.0, 0.0
        self._longest, self._waits_since = _LONGEST_SECONDS.get(name, 0.0), 0.0
        self._rank = FRAMES if name == _BENCH else UNWATCHED
        self._store, self._photos = store, ScreenPhotos(store)
        self._cache, self._answer, self._fail = cache, answer, fail
        self._waiting: dict[Hashable, Work] = {}
        self._wake = Condition()
        self._is_busy = self._is_stopped = False
        self._thread = daemon("lane", self._run, name)
        self._thread.start()

    @property
    def is_idle(self) -> bool:
        """Whether nothing is waiting or done."""
        with self._wake:
            return not (self._waiting or self._is_busy)

    def use_store(self, store: PhotoStore) -> None:
        """Forget what waits; use another job's photos."""
        with self._wake:
            self._store, self._photos = store, ScreenPhotos(store)
            self._waiting.clear()

    def ask(self, channel: Hashable, work: Work) -> None:
        """Queue work."""
        with self._wake:
            self.asked_at = monotonic()
            if not self._waiting:
                self._waits_since = self.asked_at
            self._waiting[channel] = work
            self._wake.notify()

    def stop(self) -> None:
        """Let the thread end as soon as it can; its drawing is given up, what it renders is dropped."""
        with self._wake:
            self._is_stopped = True
            self._waiting.clear()
            self._wake.notify()
        give_up(self._thread.ident or 0)

    def join(self, until: float) -> None:
        """Wait for the thread's end, until a time of the monotonic clock at the latest."""
        self._thread.join(max(0.0, until - monotonic()))

    def _told(self, tell: Callable[[], None]) -> None:
        """Tell what came of some work, unless whom it is told is gone."""
        if not self._is_stopped:
            # It may go at this very moment.
            with contextlib.suppress(RuntimeError):
                tell()

    def _next(self) -> tuple[Hashable, Work, ScreenPhotos, PhotoStore] | None:
        with self._wake:
            self._is_busy = False
            while not self._is_stopped:
                pause = self._pause() if self._waiting else None
                if pause == 0:
                    break
                self._wake.wait(pause)
            if self._is_stopped:
                return None
            channel = next(iter(self._waiting))
            self._is_busy = True
            return channel, self._waiting.pop(channel), self._photos, self._store

    def _pause(self) -> float:
        """Return for how many seconds to let others go first; the bench's lane has nobody before it."""
        if self._before is None:
            return 0
        waits_since = max(self._done_at, self._waits_since)
        return seconds_to_wait(monotonic(), self._before.asked_at, waits_since, self._longest)

    def _run(self) -> None:
        stay_behind(self._rank)
        while (job := self._next()) is not None:
            channel, work, photos, store = job
            interface_turn().begin(self._rank)
            try:
                answer = work(photos, self._cache)
            except GlassCapError as error:
                self._told(partial(self._fail, error.line))
            except MemoryError:
                self._told(partial(self._fail, _NO_MEMORY))
            except ImportError as error:
                self._told(partial(self._fail, MissingModuleError.of(error).line))
            except Exception as error:  # noqa: BLE001
                # A thread that ended here would freeze the screen without a word.
                words = f"The screen could not be drawn ({error!r}); undo the last step"
                self._told(partial(self._fail, words))
            else:
                self._told(partial(self._answer, channel, answer, store))
            self._done_at = monotonic()


class RenderService(QObject):
    """Renders off the interface thread. `answered(channel, answer)` and `photo_decoded()` arrive on it."""

    answered = Signal(object, object)
    _arrived = Signal(object, object, object)
    photo_decoded = Signal()
    failed = Signal(str)

    def __init__(self, store: PhotoStore) -> None:
        super().__init__()
        self._store, self._photo_budget = store, store.budget_bytes
        self._stop, self._has_worked = Event(), False
        self._arrived.connect(self._on_arrived, Qt.ConnectionType.QueuedConnection)
        self._decoding: set[str] = set()
        self._cache = ValueCache(cache_budget(), pause=interface_turn().give_way)
        self._watch = QTimer(self, interval=_WATCH_MS)
        self._watch.timeout.connect(self._give_back)
        self._watch.start()
        self._lanes: dict[str, _Lane] = {}
        self._decoder = workers("decode", begin=stay_behind)

    @property
    def is_idle(self) -> bool:
        """Whether nothing is waiting, rendered or decoded."""
        return not self._decoding and all(lane.is_idle for lane in self._lanes.values())

    def set_photo_budget(self, nbytes: int) -> None:
        """Let decoded photos take at most so many bytes, in this job and those to come."""
        self._photo_budget = nbytes
        self._store.set_budget(nbytes)

    def use_store(self, store: PhotoStore) -> None:
        """Render another job's photos from now on."""
        self._store = store
        store.set_budget(self._photo_budget)
        for lane in self._lanes.values():
            lane.use_store(store)

    def ask(self, channel: Hashable, work: Work) -> None:
        """Queue work; the newest on a channel wins. Bench, strips and sizes of files have their own threads."""
        if self._stop.is_set():
            return
        self._has_worked = True
        first = str(channel[0] if isinstance(channel, tuple) else channel)
        name = {_BENCH: _BENCH, STRIP: _STRIPS, WEIGHT: WEIGHT}.get(first, _PROOFS)
        if name not in self._lanes:
            before = self._lanes.get(_BENCH) if name != _BENCH else None
            self._lanes[name] = _Lane(name, self._store, self._cache, self._give, self.failed.emit, before)
        self._lanes[name].ask(channel, work)

    def _give_back(self) -> None:
        """Let go of what is kept while other programs need the memory; at rest, of what was freed."""
        if is_memory_short():
            self._cache.cut_back(self._cache.capacity_bytes // 8)
        is_idle = self.is_idle
        # Once at rest; while there is work, only near the bound.
        if self._has_worked and (is_idle or is_much_held()):
            self._has_worked = not is_idle
            self._decoder.submit(give_back_freed)

    def _give(self, channel: Hashable, answer: object, store: PhotoStore) -> None:
        self._arrived.emit(channel, answer, store)

    def _on_arrived(self, channel: Hashable, answer: object, store: PhotoStore) -> None:
        """Hand an answer on, unless another job is shown by now."""
        if store is self._store and not self._stop.is_set():
            self.answered.emit(channel, answer)

    def decode(self, photos: tuple[PhotoRecord, ...]) -> None:
        """Decode photos fully in the background, each once."""
        fresh = tuple(p for p in photos if p.sha256 not in self._decoding)
        if not fresh or self._stop.is_set():
            return
        self._decoding |= {p.sha256 for p in fresh}
        self._decoder.submit(self._decode, fresh, self._store)

    def _decode(self, photos: tuple[PhotoRecord, ...], store: PhotoStore) -> None:
        try:
            for problem in decode_fully(photos, store, self._stop):
                self.failed.emit(problem)
        except MemoryError:
            self.failed.emit(_NO_MEMORY)
        except Exception as error:  # noqa: BLE001
            # Else the window would wait for these photos for ever.
            self.failed.emit(f"A photo could not be decoded ({error!r}); the others are there")
        finally:
            self._decoding.difference_update(p.sha256 for p in photos)
        if not self._stop.is_set():
            self.photo_decoded.emit()

    def stop(self) -> None:
        """End the threads; a window that closes does not wait for a render."""
        interface_turn().set_free()
        self._watch.stop()
        self._stop.set()
        for lane in self._lanes.values():
            lane.stop()
        self._decoder.shutdown(wait=False, cancel_futures=True)
        until = monotonic() + _STOPPING_SECONDS
        for lane in self._lanes.values():
            lane.join(until)
