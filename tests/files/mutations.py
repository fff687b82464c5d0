"""Damaged and hostile job files, and whether each is opened, refused in words, or brings a fault to light."""

import copy
import io
import json
import random
import traceback
import zipfile
from pathlib import Path
from typing import Any

from glasscap.core.errors import GlassCapError
from glasscap.files.jobs import job_preview, open_job

_ODD: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 1e-320, 1e308, -1e308, 2**63, 10**30, 0.5, "", "a", "../../etc/passwd", "\0",
    "M 0 0 L", "#gggggg", "nan", [], {}, [[]], {"type": "none"}, "0" * 64,
)  # fmt: skip


def mutated(data: bytes, chance: random.Random) -> bytes:
    """Return a job file with its bytes or its description damaged."""
    way = chance.random()
    if way < 0.1:
        return data[: chance.randrange(len(data))]
    if way < 0.3:
        spoilt = bytearray(data)
        for _ in range(chance.choice((1, 1, 3, 20))):
            spoilt[chance.randrange(len(spoilt))] ^= 1 << chance.randrange(8)
        return bytes(spoilt)
    return _with_description(data, lambda body: _spoil(body, chance))


def _with_description(data: bytes, change: Any) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as source, zipfile.ZipFile(out, "w") as target:
        for name in source.namelist():
            content = source.read(name)
            if name == "job.json":
                body = json.loads(content)
                change(body)
                content = json.dumps(body).encode()
            target.writestr(name, content)
    return out.getvalue()


def _spoil(body: Any, chance: random.Random) -> None:
    """Change a few values anywhere below `body`."""
    places = list(_places(body))
    for _ in range(chance.choice((1, 1, 1, 2, 5))):
        holder, key = chance.choice(places)
        way = chance.random()
        try:
            if way < 0.15:
                del holder[key]
            elif way < 0.3:
                other, there = chance.choice(places)
                holder[key] = copy.deepcopy(other[there])
            elif way < 0.5 and isinstance(holder[key], int | float):
                holder[key] = holder[key] * chance.choice((-1, 0, 1e-9, 1e6, 1e18)) + chance.choice((0, 0.37))
            else:
                holder[key] = chance.choice(_ODD)
        except (KeyError, IndexError):
            # It went with what was changed before.
            continue


def _places(value: Any) -> Any:
    pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, below in list(pairs):
        yield value, key
        yield from _places(below)


def try_file(path: Path, data: bytes, *, draws: bool) -> str:
    """Open a file as the window does: "opened", "refused", or the fault's traceback."""
    path.write_bytes(data)
    try:
        opened = open_job(path)
        if draws:
            job_preview(opened.job, opened.photos)
    except GlassCapError:
        return "refused"
    except Exception:  # noqa: BLE001 - whatever else comes is what is looked for
        return traceback.format_exc()
    return "opened"
