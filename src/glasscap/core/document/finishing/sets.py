"""The finish sets that ship with Glass Cap; the job keeps the designer's own beside them."""

from collections.abc import Mapping

from glasscap.core.document.model.finishes import (
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.errors import FinishError

_PORCELAIN, _INK, _TERRACOTTA = ColourPaint("#fbf6ec"), ColourPaint("#22262a"), ColourPaint("#b4532c")
_RESTING = Shadow(0, 10, 28, colour="#1b1410", opacity=0.38)

SHIPPED_SETS: Mapping[str, Finishes] = {
    "Porcelain rim": Finishes(
        strokes=(Stroke(14, _PORCELAIN), Stroke(3, _INK, gap=20)),
        lights=Lights(shadows=(_RESTING,)),
    ),
    "Die cut": Finishes(
        strokes=(Stroke(18, ColourPaint("#ffffff")),),
        lights=Lights(shadows=(Shadow(0, 3, 8, opacity=0.4), Shadow(0, 14, 36, opacity=0.2))),
    ),
    "Mist": Finishes(edge=Edge(feather=60, feather_side="inside", strength=1.4)),
    "Torn sheet": Finishes(
        edge=Edge(rough=Rough("torn", 9, 34)),
        strokes=(Stroke(7, TexturePaint("paper")),),
        lights=Lights(shadows=(Shadow(2, 7, 16, opacity=0.42),)),
    ),
    "Stitched": Finishes(
        strokes=(
            Stroke(3, _PORCELAIN, "inside", gap=12, dashes=(16, 9), cap="round"),
            Stroke(10, TexturePaint("linen")),
        ),
        lights=Lights(shadows=(Shadow(0, 5, 14, opacity=0.35),)),
    ),
    "White mount": Finishes(
        mount=Mount(26, 26, 96, 26, 5, ColourPaint("#fdfbf6"), shadow=Shadow(0, 12, 30, opacity=0.36)),
        lights=Lights(inner_shadow=Shadow(0, 2, 8, opacity=0.5)),
    ),
    "Enamel badge": Finishes(
        strokes=(
            Stroke(
                16,
                GradientPaint((Stop(0, "#f6e3ae"), Stop(0.5, "#9a6f2a"), Stop(1, "#ecd08c")), angle=60.0),
            ),
        ),
        lights=Lights(
            shadows=(Shadow(0, 6, 14, opacity=0.45),),
            inner_shadow=Shadow(0, 4, 12, opacity=0.5),
            bevel=Bevel(10, 5),
        ),
    ),
    "Chalk ring": Finishes(
        strokes=(Stroke(20, _TERRACOTTA, gap=8, texture="chalk"),),
        lights=Lights(outer_glow=Glow(30, 0, "#fff3d6", 0.35)),
    ),
}


def find_set(name: str, own: Mapping[str, Finishes] | None = None) -> Finishes:
    """Return a finish set by name, whatever its case. Raises FinishError listing those there are."""
    every = {**SHIPPED_SETS, **(own or {})}
    found = {key.lower(): value for key, value in every.items()}.get(name.lower())
    if found is None:
        raise FinishError(f"Finishes {name!r}", "there is no such set", f"choose from {', '.join(every)}")
    return found
