"""An editor of paints: colour, gradient or texture, and the numbers of each."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QWidget

from glasscap.app.widgets.buttons import Choice
from glasscap.app.widgets.colour_well import ColourWell, Proposals
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.gradient_bar import GradientBar
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.layouts import show_only
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.app.widgets.texture_choice import TextureChoice
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, Stop, TexturePaint

_WAYS = {"linear": "Straight", "radial": "Outwards", "around": "Around", "along": "Along"}
PictureNames = Callable[[str], str]


class PaintEditor(QWidget):
    """`moved(paint)` while something is dragged, `stepped(paint)` when settled.

    `own_asked(paint)` asks for a picture of the designer's own for a texture like `paint`.
    """

    moved = Signal(object)
    stepped = Signal(object)
    refused = Signal(str)
    own_asked = Signal(object)

    def __init__(
        self,
        name: str,
        proposals: Proposals,
        picture_name: PictureNames,
        *,
        has_path: bool = False,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._picture_name = picture_name
        self._paints: dict[str, Paint] = {
            "colour": ColourPaint(), "gradient": GradientPaint(), "texture": TexturePaint(),
        }  # fmt: skip
        self._kind = "colour"
        self.kinds = Choice(
            name, [(k, k.capitalize()) for k in ("colour", "gradient", "texture")], self._on_kind, is_tight=True
        )
        self.well = ColourWell(f"{name} colour", proposals)
        self.bar = GradientBar()
        self.stop_well = ColourWell(f"{name} stop colour", proposals)
        self.way = DropDown()
        self.way.setAccessibleName(f"{name} gradient runs")
        for key, words in _WAYS.items():
            if key != "along" or has_path:
                self.way.addItem(words, key)
        self.way.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.way.setMinimumWidth(100)
        self.angle = SliderRow(NumberSpec("Angle", "°", -360, 360), reset_to=0.0)
        self.angle.set_slider_range(-180, 180)
        self.texture = TextureChoice()
        self.scale = SliderRow(NumberSpec("Scale", "%", 1, 10_000), reset_to=100.0, is_logarithmic=True)
        self.scale.set_slider_range(10, 400)
        self.turn = SliderRow(NumberSpec("Turn", "°", -360, 360), reset_to=0.0)
        self.turn.set_slider_range(-180, 180)
        self._parts: dict[str, tuple[QWidget, ...]] = {}
        self._lay_out(name)
        self._connect()
        self._show()

    def _lay_out(self, name: str) -> None:
        column = row_column(self)
        column.addWidget(_row(name, self.kinds))
        colour = _row("", self.well)
        run = _row("", self.way, self.stop_well)
        tile = _row("", self.texture)
        for widget in (colour, self.bar, run, self.angle, tile, self.scale, self.turn):
            column.addWidget(widget)
        self._parts = {
            "colour": (colour,),
            "gradient": (self.bar, run, self.angle),
            "texture": (tile, self.scale, self.turn),
        }

    def _connect(self) -> None:
        self.well.moved.connect(lambda c: self._tell(ColourPaint(c), is_settled=False))
        self.well.stepped.connect(lambda c: self._tell(ColourPaint(c)))
        self.bar.moved.connect(lambda stops: self._tell(replace(self._gradient, stops=stops), is_settled=False))
        self.bar.stepped.connect(lambda stops: self._tell(replace(self._gradient, stops=stops)))
        self.bar.stop_chosen.connect(lambda index: self.stop_well.show_colour(self.bar.stops[index].colour))
        self.stop_well.moved.connect(lambda c: self._tell(self._with_stop(c), is_settled=False))
        self.stop_well.stepped.connect(lambda c: self._tell(self._with_stop(c)))
        self.way.activated.connect(lambda _: self._tell(replace(self._gradient, way=self.way.currentData())))
        self.angle.moved.connect(lambda v: self._tell(replace(self._gradient, angle=v), is_settled=False))
        self.angle.stepped.connect(lambda v: self._tell(replace(self._gradient, angle=v)))
        self.texture.chosen.connect(lambda key: self._tell(replace(self._tiles, texture=key)))
        self.texture.own_asked.connect(self._on_own)
        self.scale.moved.connect(lambda v: self._tell(replace(self._tiles, scale=v / 100), is_settled=False))
        self.scale.stepped.connect(lambda v: self._tell(replace(self._tiles, scale=v / 100)))
        self.turn.moved.connect(lambda v: self._tell(replace(self._tiles, rotation=v), is_settled=False))
        self.turn.stepped.connect(lambda v: self._tell(replace(self._tiles, rotation=v)))
        for row in (self.angle, self.scale, self.turn):
            row.refused.connect(self.refused)
        for well in (self.well, self.stop_well):
            well.refused.connect(self.refused)

    @property
    def _gradient(self) -> GradientPaint:
        found = self._paints["gradient"]
        assert isinstance(found, GradientPaint)
        return found

    @property
    def _tiles(self) -> TexturePaint:
        found = self._paints["texture"]
        assert isinstance(found, TexturePaint)
        return found

    def _with_stop(self, colour: str) -> GradientPaint:
        stops = list(self._gradient.stops)
        index = min(self.bar.chosen, len(stops) - 1)
        stops[index] = Stop(stops[index].at, colour)
        return replace(self._gradient, stops=tuple(stops))

    def show_paint(self, paint: Paint) -> None:
        """Show a paint without telling; the other kinds keep what they last were."""
        self._kind = "colour" if isinstance(paint, ColourPaint) else "texture"
        if isinstance(paint, GradientPaint):
            self._kind = "gradient"
        self._paints[self._kind] = paint
        self._show()

    def _show(self) -> None:
        self.kinds.show_choice(self._kind)
        seen = set(self._parts[self._kind])
        if self._gradient.way not in ("linear", "around"):
            seen.discard(self.angle)
        show_only(seen, (row for rows in self._parts.values() for row in rows))
        colour = self._paints["colour"]
        assert isinstance(colour, ColourPaint)
        self.well.show_colour(colour.colour)
        gradient = self._gradient
        self.bar.show_stops(gradient.stops)
        self.stop_well.show_colour(gradient.stops[self.bar.chosen].colour)
        self.way.setCurrentIndex(max(self.way.findData(gradient.way), 0))
        self.angle.show_value(gradient.angle)
        tiles = self._tiles
        self.texture.show_texture(tiles, self._picture_name(tiles.texture) if tiles.is_own else "")
        self.scale.show_value(tiles.scale * 100)
        self.turn.show_value(tiles.rotation)

    def _tell(self, paint: Paint, *, is_settled: bool = True) -> None:
        if is_settled:
            # The next number may come before the job has answered.
            kind = "gradient" if isinstance(paint, GradientPaint) else "texture"
            self._paints["colour" if isinstance(paint, ColourPaint) else kind] = paint
        (self.stepped if is_settled else self.moved).emit(paint)

    def _on_kind(self, kind: str) -> None:
        self._tell(self._paints[kind])

    def _on_own(self) -> None:
        tiles = self._tiles
        self._show()
        self.own_asked.emit(tiles)


def _row(name: str, *widgets: QWidget) -> QWidget:
    made = QWidget()
    row = QHBoxLayout(made)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(5)
    words = label(name, "muted")
    if name:
        row.addWidget(words)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return made
