"""Keeping freed memory for the next frame: its first touch costs more than the arithmetic on it."""

import ctypes

# <malloc.h>: M_TRIM_THRESHOLD, M_MMAP_THRESHOLD (glibc; other C libraries lack mallopt and are left alone).
_TRIM, _MMAP = -1, -3
_KEPT_BYTES, _OWN_MAP_BYTES = 256 << 20, 32 << 20


def keep_freed_memory() -> bool:
    """Ask the C library to hold on to freed memory of a frame's size; whether it could."""
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is None:
        return False
    return bool(mallopt(_MMAP, _OWN_MAP_BYTES)) and bool(mallopt(_TRIM, _KEPT_BYTES))
