"""The machine's free memory (proc(5), meminfo)."""

from pathlib import Path

MEMINFO = Path("/proc/meminfo")


def memory(meminfo: Path = MEMINFO) -> tuple[int, int] | None:
    """Return all memory and what is left of it, in bytes; None where that is not told."""
    try:
        lines = dict(line.split(":", 1) for line in meminfo.read_text().splitlines() if ":" in line)
        whole, left = (int(lines[name].split()[0]) << 10 for name in ("MemTotal", "MemAvailable"))
    except (OSError, KeyError, ValueError):
        return None
    return whole, left
