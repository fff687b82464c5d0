"""Every thread and every pool of threads is started here.

`OWNERS` says who owns each and when it ends. A pool that serves one call ends with that call; one that serves a
window ends with it, when its owner shuts it down. Threads that are daemons never keep the program from ending.
Processes are started by `own_process.py` and `other_program.py`, and end before their caller goes on.
"""

from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from os import cpu_count
from threading import Thread
from types import MappingProxyType
from typing import Literal

Owner = Literal[
    "cut",
    "decode",
    "errand",
    "export",
    "fonts",
    "hand-out",
    "intake",
    "keep",
    "lane",
    "load",
    "pack",
    "preview",
    "wire",
]
OWNERS: Mapping[Owner, str] = MappingProxyType(
    {
        "cut": "a drawing around an object cuts it out; ends with the drawing",
        "decode": "the render service decodes photos; ends with the window",
        "errand": "a command waits for one work; ends with that work, which Cancel stops",
        "export": "one call writes files beside one another; ends with the call",
        "fonts": "the font book lists the system's fonts; a daemon that ends with the list",
        "hand-out": "a window makes the pictures it hands to other programs; ends with the window",
        "intake": "one call reads photographs beside one another; ends with the call",
        "keep": "a window keeps unsaved work; ends with the window, after the last step is written",
        "lane": "the render service draws for one part of the window; a daemon that ends with the window",
        "load": "the start imports the core; a daemon that ends with the import",
        "pack": "one PNG is packed in two halves; ends with the call",
        "preview": "a window draws the small picture of kept work; ends with the window",
        "wire": "a drawing that follows an edge searches from its last point; ends with the drawing",
    }
)


def workers(owner: Owner, count: int = 1, *, begin: Callable[[], None] | None = None) -> ThreadPoolExecutor:
    """Return a pool of `count` threads, each of which calls `begin` first; its owner ends it."""
    return ThreadPoolExecutor(count, thread_name_prefix=owner, initializer=begin)


def workers_for(owner: Owner, works: int) -> ThreadPoolExecutor:
    """Return a pool for so many works: one thread each, as many as there are processors at most."""
    return workers(owner, max(1, min(works, cpu_count() or 1)))


def daemon(owner: Owner, target: Callable[[], object], name: str = "") -> Thread:
    """Return a thread, not started yet, that never keeps the program from ending."""
    return Thread(target=target, name=name or owner, daemon=True)
