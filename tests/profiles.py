"""Minimal ICC profiles, built by ICC.1:2010: header 7.2, tag table 7.3, types of chapter 10."""

import itertools
import struct

import numpy as np

_D50 = struct.pack(">3I", 0xF6D6, 0x10000, 0xD32D)
# CIELAB of solid inks and their overprints on coated paper, near ISO 12647-2 (values from memory).
_INKS = {
    (0, 0, 0): (100, 0, 0),
    (1, 0, 0): (55, -37, -50),
    (0, 1, 0): (48, 74, -3),
    (0, 0, 1): (91, -5, 93),
    (0, 1, 1): (47, 68, 48),
    (1, 0, 1): (50, -68, 25),
    (1, 1, 0): (20, 25, -46),
    (1, 1, 1): (23, 0, 0),
}


def linear_grey() -> bytes:
    """A grey display profile of gamma 1 (curveType with no entries is the identity, 10.5)."""
    curve = b"curv" + bytes(4) + struct.pack(">I", 0)
    return _profile(b"mntr", b"GRAY", b"XYZ ", "linear grey", {b"kTRC": curve})


def four_inks() -> bytes:
    """A CMYK printer profile: one lut8Type (10.8) with two grid points an ink; full black ink is L* 0."""
    identity = bytes(range(256))
    grid = b""
    for c, m, y, k in itertools.product((0, 1), repeat=4):
        lightness, a, b = (0, 0, 0) if k else _INKS[c, m, y]
        grid += bytes((round(lightness * 2.55), a + 128, b + 128))
    matrix = np.eye(3).ravel() * 0x10000
    table = b"mft1" + bytes(4) + bytes((4, 3, 2, 0)) + struct.pack(">9i", *matrix.astype(int).tolist())
    table += 4 * identity + grid + 3 * identity
    return _profile(b"prtr", b"CMYK", b"Lab ", "four inks", {b"A2B0": table})


def _profile(kind: bytes, space: bytes, connection: bytes, name: str, tags: dict[bytes, bytes]) -> bytes:
    text = name.encode() + b"\0"
    every = {
        b"desc": b"desc" + bytes(4) + struct.pack(">I", len(text)) + text + bytes(78),
        b"cprt": b"text" + bytes(4) + b"none\0",
        b"wtpt": b"XYZ " + bytes(4) + _D50,
        **tags,
    }
    table, body, start = struct.pack(">I", len(every)), b"", 128 + 4 + 12 * len(every)
    for key, data in every.items():
        table += key + struct.pack(">II", start + len(body), len(data))
        body += data + bytes(-len(data) % 4)
    header = struct.pack(">I4xI4s4s4s", start + len(body), 0x02100000, kind, space, connection)
    header += bytes(12) + b"acsp" + bytes(28) + _D50
    return header.ljust(128, b"\0") + table + body
