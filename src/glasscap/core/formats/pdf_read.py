"""Drawing a PDF's first page, by another library than wrote it."""

import ctypes

import numpy as np
import pypdfium2
from pypdfium2 import raw

from glasscap.core.errors import ExportError
from glasscap.core.raster.pixels import Bytes


def draw_pdf(data: bytes, size: tuple[int, int], name: str) -> Bytes:
    """Return the first page as straight RGBA of a size in px. Raises ExportError for what is no PDF."""
    width, height = size
    try:
        with pypdfium2.PdfDocument(data) as document:
            page = document[0]
            bitmap = raw.FPDFBitmap_Create(width, height, 1)
            try:
                raw.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, 0)
                raw.FPDF_RenderPageBitmap(bitmap, page, 0, 0, width, height, 0, raw.FPDF_REVERSE_BYTE_ORDER)
                stride = raw.FPDFBitmap_GetStride(bitmap)
                address = ctypes.cast(raw.FPDFBitmap_GetBuffer(bitmap), ctypes.POINTER(ctypes.c_ubyte))
                rows = np.ctypeslib.as_array(address, (height, stride)).copy()
            finally:
                raw.FPDFBitmap_Destroy(bitmap)
                page.close()
    except (pypdfium2.PdfiumError, IndexError, ValueError) as error:
        raise ExportError(name, f"it is no PDF that can be drawn ({error})", "write it again") from error
    return np.ascontiguousarray(rows[:, : 4 * width].reshape(height, width, 4))
