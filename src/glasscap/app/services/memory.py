"""Memory of the window: what frames may keep, and keeping freed memory for the next frame."""

import ctypes
import os
from pathlib import Path

from glasscap.core.free_memory import MEMINFO, memory

# <malloc.h>: M_TRIM_THRESHOLD, M_MMAP_THRESHOLD (glibc; other C libraries lack mallopt and are left alone).
_TRIM, _MMAP = -1, -3
_KEPT_BYTES, _OWN_MAP_BYTES = 128 << 20, 32 << 20
# The whole window takes an eighth of the machine's memory at most, and no more than this.
_SHARE, _MOST = 8, 1536 << 20
# Memory of the idle program, and the least that work needs.
_PROGRAM, _LEAST = 320 << 20, 192 << 20
# Photos take the larger part of the rest, kept frames, masks and blurs half as much; work takes what remains.
_PHOTOS, _FRAMES = 0.36, 0.18
_NEAR = 0.75
STATM = Path("/proc/self/statm")


def keep_freed_memory() -> bool:
    """Ask the C library to hold on to freed memory of a frame's size; whether it could."""
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is None:
        return False
    return bool(mallopt(_MMAP, _OWN_MAP_BYTES)) and bool(mallopt(_TRIM, _KEPT_BYTES))


def _whole() -> int:
    return os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")


def window_bound() -> int:
    """Return how many bytes the window may hold, the program itself included."""
    return max(min(_whole() // _SHARE, _MOST), _PROGRAM + _LEAST)


def cache_budget() -> int:
    """Return how many bytes kept frames, masks and blurs may take."""
    return int((window_bound() - _PROGRAM) * _FRAMES)


def photo_budget() -> int:
    """Return how many bytes decoded photos may take where the user prefers nothing else."""
    return int((window_bound() - _PROGRAM) * _PHOTOS)


def give_back_freed() -> None:
    """Give freed memory back to the machine (malloc_trim; other C libraries do so at once)."""
    trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
    if trim is not None:
        trim(0)


def share_of_memory(percent: int) -> int:
    """Return a share of the machine's memory, in bytes."""
    return max(_whole() * percent // 100, _LEAST)


def held(statm: Path = STATM) -> int:
    """Return the bytes the program holds that no file is behind; 0 where that is not told (proc(5), statm)."""
    try:
        resident, shared = statm.read_text().split()[1:3]
        return (int(resident) - int(shared)) * os.sysconf("SC_PAGE_SIZE")
    except (OSError, ValueError):
        return 0


def is_much_held() -> bool:
    """Whether the window comes near to its bound."""
    return held() > _NEAR * window_bound()


def is_memory_short(meminfo: Path = MEMINFO) -> bool:
    """Whether less than a tenth of the machine's memory is left."""
    found = memory(meminfo)
    return found is not None and found[1] < found[0] // 10
