"""Large AVIF files decoded and encoded by a process of its own: short of memory, the library crashes."""

import json
from typing import Any

import numpy as np

from glasscap.core.free_memory import memory
from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.own_process import answer_of

# Smaller pictures need too little memory to be at risk, and a process takes a moment to start.
LARGE_PX = 1 << 22
_LONGEST_WAIT = 600
_LIMIT = """
import io, json, resource, sys
size = int.from_bytes(sys.stdin.buffer.read(8))
how = json.loads(sys.stdin.buffer.read(size))
resource.setrlimit(resource.RLIMIT_AS, (how["memory"], how["memory"]))
resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
from PIL import Image
Image.MAX_IMAGE_PIXELS = None
given = sys.stdin.buffer.read()
"""
_DECODE = f"""{_LIMIT}
try:
    image = Image.open(io.BytesIO(given), formats=("AVIF",)).convert(how["mode"])
except MemoryError:
    sys.exit("there is not enough memory")
except (OSError, ValueError, SyntaxError, RuntimeError) as error:
    sys.exit(str(error) or "it is damaged")
rows = max(1, (1 << 19) // image.width)
for top in range(0, image.height, rows):
    band = image.crop((0, top, image.width, min(top + rows, image.height)))
    sys.stdout.buffer.write(band.tobytes("raw", "RGBX" if image.mode == "RGB" else "RGBA"))
"""
_ENCODE = f"""{_LIMIT}
extra = {{name: bytes.fromhex(value) for name, value in how["extra"].items()}}
out = io.BytesIO()
try:
    Image.frombuffer("RGBA", how["size"], given, "raw", "RGBA", 0, 1).save(out, "AVIF", **how["options"], **extra)
except MemoryError:
    sys.exit("there is not enough memory")
except (OSError, ValueError, RuntimeError) as error:
    sys.exit(str(error) or "unknown")
sys.stdout.buffer.write(out.getvalue())
"""


def decode(data: bytes, mode: str, into: Bytes) -> None:
    """Decode a file as RGB or RGBA into an array of shape (h, w, 4).

    Raises GaveUpError with the cause.
    """
    answer_of(_DECODE, [], [*_told(mode=mode), data], longest_wait=_LONGEST_WAIT, into=into)
    if mode == "RGB":
        into[..., 3] = 255


def encode(rgba: Bytes, options: dict[str, Any], extra: dict[str, bytes]) -> bytes:
    """Encode pixels of shape (height, width, 4); `extra` is what the library takes as bytes.

    Raises GaveUpError with the cause.
    """
    height, width = rgba.shape[:2]
    told = _told(size=(width, height), options=options, extra={k: v.hex() for k, v in extra.items()})
    pixels = np.ascontiguousarray(rgba).data.cast("B")
    return answer_of(_ENCODE, [], [*told, pixels], longest_wait=_LONGEST_WAIT)


def _told(**how: object) -> list[bytes]:
    found = memory()
    words = json.dumps({"memory": 1 << 40 if found is None else found[1], **how}).encode()
    return [len(words).to_bytes(8), words]
