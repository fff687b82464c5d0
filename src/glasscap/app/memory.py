"""Memory of the window: what frames may keep, and keeping freed memory for the next frame."""

import ctypes
import os
from pathlib import Path

from glasscap.core.free_memory import MEMINFO, memory

# <malloc.h>: M_TRIM_THRESHOLD, M_MMAP_THRESHOLD (glibc; other C libraries lack mallopt and are left alone).
_TRIM, _MMAP = -1, -3
_KEPT_BYTES, _OWN_MAP_BYTES = 256 << 20, 32 << 20
# Kept frames, masks and blurs take a sixteenth of the machine's memory, within these bounds.
_SHARE, _LEAST, _MOST = 16, 96 << 20, 512 << 20


def keep_freed_memory() -> bool:
    """Ask the C library to hold on to freed memory of a frame's size; whether it could."""
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is None:
        return False
    return bool(mallopt(_MMAP, _OWN_MAP_BYTES)) and bool(mallopt(_TRIM, _KEPT_BYTES))


def cache_budget() -> int:
    """Return how many bytes kept results may take."""
    whole = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")
    return min(max(whole // _SHARE, _LEAST), _MOST)


def share_of_memory(percent: int) -> int:
    """Return a share of the machine's memory, in bytes."""
    return max(os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") * percent // 100, _LEAST)


def is_memory_short(meminfo: Path = MEMINFO) -> bool:
    """Whether less than a tenth of the machine's memory is left."""
    found = memory(meminfo)
    return found is not None and found[1] < found[0] // 10
