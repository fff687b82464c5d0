"""Members of ZIP files that come out the same every time, and what reading damaged ones raises."""

import lzma
import zipfile
import zlib

# What reading a damaged archive may raise.
ZIP_FAULTS = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    EOFError,
    OSError,
    ValueError,
    # Packing it does not know is one of these, too.
    RuntimeError,
)
_EPOCH = (1980, 1, 1, 0, 0, 0)


def put_member(archive: zipfile.ZipFile, name: str, data: bytes, *, is_packed: bool = False) -> None:
    """Add a member, stored or deflated, without the time of day."""
    info = zipfile.ZipInfo(name, _EPOCH)
    info.external_attr = 0o644 << 16
    archive.writestr(info, data, zipfile.ZIP_DEFLATED if is_packed else zipfile.ZIP_STORED)
