"""Step 4: strokes in order, each with its paint, width, place, corners and dashes."""

from typing import Unpack

from msgspec.structs import replace
from PySide6.QtWidgets import QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.edge_step import JOINS
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.steps.strip_row import StripRow
from glasscap.app.widgets.buttons import push, tool
from glasscap.app.widgets.dash_field import DashField
from glasscap.app.widgets.finish_list import FinishList, Line
from glasscap.app.widgets.layouts import show_only
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.paint_editor import PaintEditor
from glasscap.app.widgets.pictogram import picture_choice
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.finishing.at_work import working
from glasscap.core.document.finishing.edits import add_stroke, change_stroke, move_stroke, remove_stroke
from glasscap.core.document.finishing.fields import StrokeFields, one_field
from glasscap.core.document.finishing.first_numbers import first_stroke
from glasscap.core.document.model.finishes import LONGEST, Stroke
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, TexturePaint
from glasscap.editor.step_words import stroke_words
from glasscap.editor.tools.aim import Aim, measuring

_SIDES = (("inside", "Inside the outline"), ("centre", "On the outline"), ("outside", "Outside the outline"))
_CAPS = (("butt", "Dashes end flat"), ("round", "Dashes end round"), ("square", "Dashes end square"))
_BRUSHES = (("smooth", "Smooth"), ("brush", "Brush"), ("chalk", "Chalk"), ("crayon", "Crayon"))
_TEXTURE_SWATCH = ("#cbbca0", "#968a6c")


class StrokesStep(StepBody):
    """The list, and the stroke chosen in it."""

    is_for_all = True

    def __init__(
        self, session: Session, service: RenderService, photo_colours: PhotoColours, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent)
        self.chosen = 0
        self.strip = StripRow(session, service, "strokes")
        self.add = push("Stroke", self._on_add_clicked, icon_name="plus", style="link")
        self.add.setAccessibleName("Add a stroke")
        self.list = FinishList("Strokes", named_row("", self.add))
        self.paint = PaintEditor("Paint", photo_colours.now, self._picture_name, has_path=True)
        self.breadth = self._stroke_slider("Width", (0, 60), "width", 0, reset_to=8.0)
        self.measure = tool(
            "ruler", "As wide as a line in the photo: drag across it on the bench", self._on_measure_clicked
        )
        self.measure.setCheckable(True)
        self.breadth.add_button(self.measure)
        self.gap = self._stroke_slider("Gap", (0, 60), "gap", -LONGEST)
        self.opacity = self._slider(
            NumberSpec("Opacity", "%", 0, 100),
            (0, 100),
            lambda value: self._given(opacity=value / 100),
            step="Change the stroke's opacity",
            reset_to=100.0,
        )
        self.side = picture_choice(
            "side",
            "Lies",
            _SIDES,
            lambda key: self._set_one("Move the stroke", "side", key),
        )
        self.joins = picture_choice(
            "join",
            "Corners",
            JOINS,
            lambda key: self._set_one("Join the corners", "join", key),
        )
        self._joins_row = named_row("Corners", self.joins)
        self._measuring: Aim | None = None
        self.limit = self._slider(
            NumberSpec("Limit", "", 1, 100),
            (1, 12),
            lambda v: self._given(mitre_limit=v),
            step="Limit pointed corners",
            reset_to=4.0,
        )
        self.dashes = DashField()
        self.dash_offset = self._stroke_slider("Offset", (0, 60), "dash_offset", -LONGEST)
        self.caps = picture_choice(
            "cap",
            "Dashes end",
            _CAPS,
            lambda key: self._set_one("End the dashes", "cap", key),
        )
        self.brush = DropDown()
        self.brush.setAccessibleName("Drawn with")
        for key, words in _BRUSHES:
            self.brush.addItem(words, key)
        self.another = tool("shuffle", "Another stroke of this kind", self._on_another_clicked)
        self._lay_out()
        self._connect()

    def _stroke_slider(
        self, name: str, span: tuple[float, float], field: str, low: float, *, reset_to: float = 0.0
    ) -> SliderRow:
        return self._slider(
            NumberSpec(name, "px", low, LONGEST),
            span,
            lambda value: self._given(**one_field(StrokeFields, field, value)),
            step=f"Change the stroke's {name.lower()}",
            reset_to=reset_to,
            offered_as=lambda: f"stroke {field}",
        )

    def _lay_out(self) -> None:
        column = body_column(self)
        column.addWidget(self.strip)
        column.addWidget(self.list)
        self._dash_rows: tuple[QWidget, ...] = (self.dash_offset, named_row("Ends", self.caps))
        self._rows: tuple[QWidget, ...] = (
            self.paint,
            self.breadth,
            self.gap,
            named_row("Lies", self.side),
            self._joins_row,
            self.limit,
            self.dashes,
            *self._dash_rows,
            self.opacity,
            named_row("Drawn", self.brush, self.another),
        )
        for row in self._rows:
            column.addWidget(row)

    def _connect(self) -> None:
        self.list.chosen.connect(self._on_chosen)
        self.list.switched.connect(self._on_switched)
        self.list.delete_asked.connect(self._on_delete_asked)
        self.list.move_asked.connect(self._on_move_asked)
        self.paint.moved.connect(lambda paint: self._preview(self._given(paint=paint)))
        self.paint.stepped.connect(lambda paint: self._set("Paint the stroke", paint=paint))
        self.paint.own_asked.connect(self._on_own_asked)
        self.paint.refused.connect(self._session.problem_found)
        self.dashes.stepped.connect(lambda dashes: self._set("Dash the stroke", dashes=dashes))
        self.dashes.even_changed.connect(lambda on: self._set("Even out the dashes", has_even_ends=on))
        self.dashes.refused.connect(self._session.problem_found)
        self.brush.activated.connect(lambda _: self._set("Draw the stroke", texture=self.brush.currentData()))

    def _given(self, **fields: Unpack[StrokeFields]) -> ItemEdit:
        index = self.chosen
        return lambda job, key: change_stroke(job, key, index, **fields)

    def _set_one(self, step: str, name: str, value: object) -> None:
        """Change one field by its name."""
        self._set(step, **one_field(StrokeFields, name, value))

    def _set(self, step: str, **fields: Unpack[StrokeFields]) -> None:
        if self._stroke() is not None:
            self._edit(step, self._given(**fields))

    def _stroke(self) -> Stroke | None:
        item = self._session.item
        strokes = () if item is None else item.finishes.strokes
        return strokes[self.chosen] if self.chosen < len(strokes) else None

    def show_item(self, item: Item, job: Job) -> None:
        """Show the strokes of an item."""
        strokes = item.finishes.strokes
        self.chosen = min(self.chosen, max(len(strokes) - 1, 0))
        self.strip.show_item(item)
        self.setEnabled(not item.is_locked)
        self.measure.setChecked(self._session.aim is not None and self._session.aim is self._measuring)
        self.list.show_lines([Line(stroke_words(s), swatch_of(s.paint), s.is_on) for s in strokes], self.chosen)
        if not strokes:
            show_only((), self._rows)
            return
        stroke = strokes[self.chosen]
        # A rough edge has no corners to join.
        has_corners = working(item.finishes).edge.rough is None
        show_only(self._seen_rows(stroke, has_corners=has_corners), self._rows)
        self.paint.show_paint(stroke.paint)
        self.breadth.show_value(stroke.width)
        self.gap.show_value(stroke.gap)
        self.opacity.show_value(stroke.opacity * 100)
        self.side.show_choice(stroke.side)
        self.joins.show_choice(stroke.join)
        self.limit.show_value(stroke.mitre_limit)
        self.dashes.show_dashes(stroke.dashes, stroke.width, is_even=stroke.has_even_ends)
        self.dash_offset.show_value(stroke.dash_offset)
        self.caps.show_choice(stroke.cap)
        self.brush.setCurrentIndex(self.brush.findData(stroke.texture))
        self.another.setVisible(stroke.texture != "smooth")

    def _seen_rows(self, stroke: Stroke, *, has_corners: bool) -> set[QWidget]:
        seen = set(self._rows)
        if not has_corners:
            seen.remove(self._joins_row)
        if not has_corners or stroke.join != "mitre":
            seen.remove(self.limit)
        if not stroke.dashes:
            seen.difference_update(self._dash_rows)
        return seen

    def _on_measure_clicked(self) -> None:
        """Begin measuring a line, or stop."""
        item, index = self._session.item, self.chosen
        if item is None or not self.measure.isChecked():
            self._session.set_aim(None)
        else:
            self._measuring = measuring(lambda job, width: change_stroke(job, item.id, index, width=width))
            self._session.set_aim(self._measuring)

    def _on_add_clicked(self) -> None:
        item = self._session.item
        if item is not None:
            self.chosen = len(item.finishes.strokes)
            given = self._session.given
            self._edit("Add a stroke", lambda job, key: add_stroke(job, key, first_stroke(job, key, given)))

    def _on_chosen(self, index: int) -> None:
        self.chosen = index
        if self._session.item is not None:
            self.show_item(self._session.item, self._session.job)

    def _on_switched(self, index: int, is_on: bool) -> None:
        words = "Show the stroke" if is_on else "Hide the stroke"
        self._edit(words, lambda job, key: change_stroke(job, key, index, is_on=is_on))

    def _on_delete_asked(self, index: int) -> None:
        self._edit("Take the stroke away", lambda job, key: remove_stroke(job, key, index))

    def _on_move_asked(self, index: int, step: int) -> None:
        count = len(self.list.lines)
        self.chosen = min(max(index + step, 0), count - 1)
        self._edit("Reorder the strokes", lambda job, key: move_stroke(job, key, index, step))

    def _on_another_clicked(self) -> None:
        stroke = self._stroke()
        if stroke is not None:
            self._set("Another stroke of this kind", seed=stroke.seed % 10_000 + 1)

    def _on_own_asked(self, tiles: TexturePaint) -> None:
        item, index = self._session.item, self.chosen
        if item is None:
            return
        self.picture_wanted.emit(
            "Choose a picture for the texture",
            "Paint the stroke",
            lambda job, photo: change_stroke(job, item.id, index, paint=replace(tiles, texture=photo.sha256)),
        )


def swatch_of(paint: Paint) -> tuple[str, ...]:
    """Return the colours that stand for a paint in a list."""
    if isinstance(paint, ColourPaint):
        return (paint.colour,)
    if isinstance(paint, GradientPaint):
        return tuple(s.colour for s in paint.stops)
    return _TEXTURE_SWATCH
