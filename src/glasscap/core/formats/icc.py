"""Matrix profiles (ICC.1:2010, version 4.3): three primaries and the sRGB curve, adapted to D50."""

import struct
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]

# CIE 1931 chromaticities. sRGB: IEC 61966-2-1 (as ITU-R BT.709). Display P3: SMPTE EG 432-1 primaries with
# the D65 white, as CSS Color 4, 10.3 defines display-p3.
SRGB_PRIMARIES = ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060))
P3_PRIMARIES = ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060))
D65 = (0.3127, 0.3290)
# ICC.1:2010, 7.2.16: the profile connection space's illuminant.
_D50 = (0.9642, 1.0, 0.8249)
# Bradford cone response (ICC.1:2010, annex E.3).
_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
# IEC 61966-2-1 as a parametric curve of type 3: (a x + b)^g from d on, c x below.
_SRGB_CURVE = (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)


def rgb_to_xyz(primaries: tuple[tuple[float, float], ...], white: tuple[float, float] = D65) -> Matrix:
    """Return the matrix from linear RGB to XYZ relative to the white (SMPTE RP 177)."""
    columns = np.array([(x / y, 1.0, (1 - x - y) / y) for x, y in primaries]).T
    x, y = white
    scale = np.linalg.solve(columns, np.array([x / y, 1.0, (1 - x - y) / y]))
    return np.asarray(columns * scale)


def to_d50(white: tuple[float, float] = D65) -> Matrix:
    """Return the Bradford adaptation from a white to D50."""
    x, y = white
    source = _BRADFORD @ np.array([x / y, 1.0, (1 - x - y) / y])
    target = _BRADFORD @ np.array(_D50)
    return np.asarray(np.linalg.inv(_BRADFORD) @ np.diag(target / source) @ _BRADFORD)


@lru_cache(8)
def matrix_profile(name: str, primaries: tuple[tuple[float, float], ...]) -> bytes:
    """Return a display profile with the sRGB curve; the same call gives the same bytes."""
    adaptation = to_d50()
    red, green, blue = (adaptation @ rgb_to_xyz(primaries)).T
    curve = b"para" + bytes(4) + struct.pack(">HH", 3, 0) + b"".join(map(_fixed, _SRGB_CURVE))
    tags = {
        b"desc": _text(name),
        b"cprt": _text("No copyright; use freely"),
        b"wtpt": _xyz(_D50),
        b"chad": b"sf32" + bytes(4) + b"".join(_fixed(v) for v in adaptation.ravel().tolist()),
        b"rXYZ": _xyz(red.tolist()),
        b"gXYZ": _xyz(green.tolist()),
        b"bXYZ": _xyz(blue.tolist()),
        b"rTRC": curve,
        b"gTRC": curve,
        b"bTRC": curve,
    }
    return _assembled(tags)


def _assembled(tags: dict[bytes, bytes]) -> bytes:
    start = 128 + 4 + 12 * len(tags)
    places: dict[bytes, int] = {}
    body = b""
    table = struct.pack(">I", len(tags))
    for key, data in tags.items():
        if data not in places:
            places[data] = start + len(body)
            body += data + bytes(-len(data) % 4)
        table += key + struct.pack(">II", places[data], len(data))
    size = start + len(body)
    header = struct.pack(">I4sI4s4s4s", size, b"", 0x04300000, b"mntr", b"RGB ", b"XYZ ")
    header += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(4)
    # Flags, maker, model, attributes; then the rendering intent (ICC.1:2010, 7.2).
    header += bytes(4 + 4 + 4 + 8) + bytes(4) + b"".join(map(_fixed, _D50))
    return header.ljust(128, b"\0") + table + body


def _fixed(value: float) -> bytes:
    """Return an s15Fixed16Number."""
    return struct.pack(">i", round(value * 65536))


def _xyz(values: tuple[float, ...] | list[float]) -> bytes:
    return b"XYZ " + bytes(4) + b"".join(map(_fixed, values))


def _text(words: str) -> bytes:
    data = words.encode("utf-16-be")
    return b"mluc" + bytes(4) + struct.pack(">II2s2sII", 1, 12, b"en", b"US", len(data), 28) + data
