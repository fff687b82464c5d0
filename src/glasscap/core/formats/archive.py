"""Members of ZIP files that come out the same every time."""

import zipfile

_EPOCH = (1980, 1, 1, 0, 0, 0)


def put_member(archive: zipfile.ZipFile, name: str, data: bytes, *, is_packed: bool = False) -> None:
    """Add a member, stored or deflated, without the time of day."""
    info = zipfile.ZipInfo(name, _EPOCH)
    info.external_attr = 0o644 << 16
    archive.writestr(info, data, zipfile.ZIP_DEFLATED if is_packed else zipfile.ZIP_STORED)
