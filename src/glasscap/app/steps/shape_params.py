"""The numbers of the shape at hand: its own parameters and the rounding of its corners."""

from functools import lru_cache

from PySide6.QtWidgets import QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.shape_body import ShapeBody
from glasscap.app.widgets.corners import CornerFields
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.placement import FARTHEST, ShapePlacement
from glasscap.core.document.shapes.points import set_smoothness
from glasscap.core.document.shapes.shaping import set_params, set_round
from glasscap.core.errors import GlassCapError
from glasscap.core.shapes.kinds import ParametricShape, PointsShape, Shape
from glasscap.core.shapes.library.rectangle import CORNERS
from glasscap.core.shapes.library.spec import Parameter
from glasscap.core.shapes.library.table import find_shape
from glasscap.core.shapes.outlines import corners_of_shape

_BOX = "rectangle"
_FRAME_SIDE = 1000.0


class ShapeParams(ShapeBody):
    """One row a parameter; made anew when another kind of shape is shown."""

    is_for_all = True

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(7)
        self._shown: str | None = None
        self.rows: dict[str, SliderRow] = {}
        self.corners = CornerFields(self._ppi)
        self.corners.stepped.connect(self._on_corners_stepped)
        self.corners.refused.connect(session.problem_found)
        self.round = self._slider(
            NumberSpec("Round", "px", 0, FARTHEST),
            (0, 100),
            lambda v: lambda job, key: set_round(job, key, v, self._corner(job, key)),
            step="Round the corners",
        )
        self.smoothness = self._slider(
            NumberSpec("Smooth", "px", 0.05, 1000),
            (0.2, 20),
            lambda v: lambda job, key: set_smoothness(job, key, v),
            step="Smooth the followed edge",
            reset_to=1.5,
        )
        self.smoothness.setToolTip("How far the curve may leave the line that was followed")
        self._column.addWidget(self.smoothness)
        self._column.addWidget(self.corners)
        self._column.addWidget(self.round)

    def _corner(self, job: Job, item_id: str) -> int | None:
        """Return the one corner that is being rounded, or None for all."""
        return self._session.corner

    def show_item(self, item: Item, job: Job) -> None:
        """Show the numbers of an item's shape."""
        shape, placement = item.shape, item.shape_placement
        kind = shape.name if isinstance(shape, ParametricShape) else None
        if kind != self._shown:
            self._show_kind(kind)
        self.setEnabled(not item.is_locked)
        self.corners.setVisible(kind == _BOX)
        if shape is None or placement is None:
            self.setVisible(False)
            return
        side = max(placement.width, placement.height)
        if isinstance(shape, ParametricShape):
            values = dict(shape.params)
            for name, row in self.rows.items():
                row.setEnabled(True)
                if row.field.spec.suffix == "px":
                    row.set_slider_range(0, max(1.0, round(min(placement.width, placement.height) / 2)))
                row.show_value(values[name])
            if kind == _BOX:
                self.corners.show_values(tuple(value for _, value in shape.params))
        is_followed = isinstance(shape, PointsShape) and bool(shape.way)
        self.smoothness.setVisible(is_followed)
        if isinstance(shape, PointsShape):
            self.smoothness.show_value(shape.smoothness)
        has_corners = kind != _BOX and _has_corners(shape, *_frame_size(shape, placement))
        self.round.setVisible(has_corners)
        if has_corners:
            self._show_round(shape, side)
        self.setVisible(is_followed or bool(self.rows) or has_corners or kind == _BOX)

    def _show_round(self, shape: Shape, side: float) -> None:
        corner = self._session.corner
        self.round.set_slider_range(0, max(1.0, round(side / 4)))
        self.round.label.setText("Round" if corner is None else f"Corner {corner + 1}")
        self.round.show_value(shape.round if corner is None else dict(shape.corners).get(corner, shape.round))

    def _show_kind(self, kind: str | None) -> None:
        for row in self.rows.values():
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._shown, self.rows = kind, {}
        if kind is None or kind == _BOX:
            return
        for index, parameter in enumerate(find_shape(kind).stored):
            row = self._row(parameter)
            self.rows[parameter.name] = row
            self._column.insertWidget(index, row)

    def _row(self, parameter: Parameter) -> SliderRow:
        spec = NumberSpec(
            parameter.label,
            parameter.unit,
            parameter.low,
            parameter.high,
            decimals=0 if parameter.is_whole else 2,
        )
        row = self._slider(
            spec,
            (parameter.low, parameter.high),
            lambda v: lambda job, key: set_params(job, key, [(parameter.name, _whole(parameter, v))]),
            step=f"{parameter.label} of the shape",
            reset_to=parameter.default,
        )
        row.label.setToolTip(f"{parameter.label}. Double click to reset")
        return row

    def _on_corners_stepped(self, radii: tuple[float, ...]) -> None:
        params = tuple(zip(CORNERS, radii, strict=True))
        self._edit("Round the corners", lambda job, key: set_params(job, key, params))


def _whole(parameter: Parameter, value: float) -> float:
    return float(round(value)) if parameter.is_whole else value


def _frame_size(shape: Shape, placement: ShapePlacement) -> tuple[float, float]:
    """Return the frame in which corners are looked for: what no number in px shapes has the same in any size."""
    if isinstance(shape, ParametricShape):
        return placement.width, placement.height
    return float(round(_FRAME_SIDE * placement.width / placement.height) or 1), _FRAME_SIDE


@lru_cache(maxsize=32)
def _has_corners(shape: Shape, width: float, height: float) -> bool:
    try:
        return len(corners_of_shape(shape, width, height)[0]) > 0
    except GlassCapError:
        return False
