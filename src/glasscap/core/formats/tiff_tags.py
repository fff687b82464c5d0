"""The tags in which a TIFF describes its channels."""

import io

from PIL import Image

_BITS_PER_SAMPLE, _EXTRA_SAMPLES, _ASSOCIATED = 258, 338, 1


def is_deep_tiff(data: bytes) -> bool:
    """Whether the file has 16 bits a channel."""
    return 16 in (_tag(data, _BITS_PER_SAMPLE) or ())


def has_associated_alpha(data: bytes) -> bool:
    """Whether the file marks its alpha as premultiplied (TIFF 6.0, ExtraSamples)."""
    return _tag(data, _EXTRA_SAMPLES) == (_ASSOCIATED,)


def _tag(data: bytes, number: int) -> tuple[int, ...] | None:
    with Image.open(io.BytesIO(data)) as image:
        found = image.tag_v2.get(number)  # type: ignore[attr-defined]
    return None if found is None else tuple(found)
