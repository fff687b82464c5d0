"""Glass Cap: photographs under shaped masks, written as transparent pictures.

Examples
--------
>>> import glasscap
>>> picture = glasscap.cut("plate.jpg", shape="heart", stroke=(12, "#f4e9d8"), shadow=True)  # doctest: +SKIP
>>> picture.save("plate.png")  # doctest: +SKIP
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glasscap.core.document.model.finishes import Adjustments as Adjustments
    from glasscap.core.document.model.finishes import Edge as Edge
    from glasscap.core.document.model.finishes import Finishes as Finishes
    from glasscap.core.document.model.finishes import Shadow as Shadow
    from glasscap.core.document.model.finishes import Stroke as Stroke
    from glasscap.core.errors import GlassCapError as GlassCapError
    from glasscap.python.cutting import cut as cut
    from glasscap.python.jobs import OpenJob as OpenJob
    from glasscap.python.jobs import open_job as open  # noqa: A004, F401
    from glasscap.python.pictures import FinishedPicture as FinishedPicture

__version__ = "0.1.0"
_FINISHES = "glasscap.core.document.model.finishes"
# Loaded when first used: importing the package alone takes next to no time.
_PLACES = {
    "cut": ("glasscap.python.cutting", "cut"),
    "open": ("glasscap.python.jobs", "open_job"),
    "OpenJob": ("glasscap.python.jobs", "OpenJob"),
    "FinishedPicture": ("glasscap.python.pictures", "FinishedPicture"),
    "GlassCapError": ("glasscap.core.errors", "GlassCapError"),
    **{name: (_FINISHES, name) for name in ("Adjustments", "Edge", "Finishes", "Shadow", "Stroke")},
}
__all__ = [*_PLACES, "__version__"]


def __getattr__(name: str) -> Any:
    if name not in _PLACES:
        raise AttributeError(f"module 'glasscap' has no attribute {name!r}")
    module, its_name = _PLACES[name]
    return getattr(import_module(module), its_name)


def __dir__() -> list[str]:
    return sorted((*globals(), *_PLACES))
