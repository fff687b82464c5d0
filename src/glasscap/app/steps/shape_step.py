"""Step 2: the shape and where it lies."""

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from glasscap.app.commands.lettering import Lettering
from glasscap.app.commands.shapes import ShapeCommands
from glasscap.app.services import asking
from glasscap.app.session import Session
from glasscap.app.steps.letters_rows import LettersRows
from glasscap.app.steps.more_menu import MoreMenu
from glasscap.app.steps.parts_rows import PartsRows
from glasscap.app.steps.points_rows import PointsRows
from glasscap.app.steps.shape_body import ShapeBody
from glasscap.app.steps.shape_params import ShapeParams
from glasscap.app.steps.step_body import ItemEdit, body_column, named_row
from glasscap.app.widgets.anchor_choice import NAMES, AnchorChoice
from glasscap.app.widgets.buttons import CheckBox, Choice, leave_keys, push, tool
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.arranging.by_number import centre_shape, fit_shape, place_shape
from glasscap.core.document.edits.items import joinable, set_keeps, set_masked
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.placement import FARTHEST, SMALLEST, ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.shaping import hold_ratio, resize_shape, set_ratio, unstretch
from glasscap.core.shapes.kinds import CombinedShape, Keeps, LettersShape
from glasscap.core.shapes.outlines import has_equal_sides, natural_ratio
from glasscap.editor.numbers import NumberError
from glasscap.editor.ratios import RATIOS, parse_ratio
from glasscap.editor.sketches.around_object import AROUND_OBJECT
from glasscap.editor.sketches.draw_points import DRAW_POINTS
from glasscap.editor.sketches.follow_edge import FOLLOW_EDGE
from glasscap.editor.sketches.freehand import FREEHAND
from glasscap.editor.sketches.rim import MARK_CIRCLE, MARK_ELLIPSE

SKETCHES = (
    ("Point by point", DRAW_POINTS),
    ("Freehand", FREEHAND),
    ("Circle through rim points", MARK_CIRCLE),
    ("Ellipse through rim points", MARK_ELLIPSE),
    ("Follow an edge", FOLLOW_EDGE),
    ("Around an object", AROUND_OBJECT),
)


class ShapeStep(ShapeBody):
    """The shape's step: its source, its numbers, inside or hole, mask, apart."""

    is_for_all = True

    take_apart_asked = Signal()
    join_asked = Signal()
    draw_asked = Signal()

    def __init__(self, session: Session, lettering: Lettering, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.library = push("Library", self._on_library_clicked)
        self.library.setCheckable(True)
        self.library.setToolTip("Choose a shape; every picture shows your photo cut by it")
        self.draw = self._draw_button()
        self.letters = push("Letters", lettering.begin)
        self.letters.setCheckable(True)
        self.letters.setToolTip("Words as the shape; they stay text")
        self.letters_rows = LettersRows(session, lettering)
        self.more = QPushButton("More")
        leave_keys(self.more)
        self.more.setAccessibleName("More ways to a shape")
        self.commands = ShapeCommands(session, self)
        self.menu = MoreMenu(self.commands, self.more)
        self.more.setMenu(self.menu)
        self.anchor = AnchorChoice()
        self.size_row = PairRow(
            "Size",
            NumberSpec("Width", "w", SMALLEST, FARTHEST, decimals=1),
            NumberSpec("Height", "h", SMALLEST, FARTHEST, decimals=1),
            self._ppi,
            reset_words="the largest that fits the photo",
        )
        self.ratio = self._ratio_button()
        self.size_row.add(self.ratio)
        self.centre = PairRow(
            "Centre",
            NumberSpec("Shape x", "x", -FARTHEST, FARTHEST),
            NumberSpec("Shape y", "y", -FARTHEST, FARTHEST),
            self._ppi,
            reset_words="centre it on the photo",
        )
        self.centre.add(self.anchor)
        self.turn = SliderRow(NumberSpec("Turn", "°", -360, 360), reset_to=0.0)
        self.turn.set_slider_range(-180, 180)
        self.params = ShapeParams(session)
        self.points = PointsRows(session)
        self.parts = PartsRows(session)
        self.keeps = Choice("Acts as", [("inside", "Keep inside"), ("outside", "Hole")], self._on_keeps_chosen)
        self.mask_switch = CheckBox("Mask on")
        self.mask_switch.clicked.connect(self._on_mask_clicked)
        self.mirror = tool("mirror", "Flip left to right", self._on_mirror_clicked)
        self.flip = tool("flip", "Flip top to bottom", self._on_flip_clicked)
        self.apart = push("Take apart", self.take_apart_asked.emit)
        self.apart.setToolTip("Photo and shape become two things, both as they are")
        self.join = push("Join", self.join_asked.emit)
        self.join.setToolTip("Put the shape back on the photo")
        for made in (self.library, self.draw, self.letters, self.more):
            made.setProperty("tight", True)
        self._lay_out()
        self._connect()

    def _draw_button(self) -> QPushButton:
        made = QPushButton("Draw")
        leave_keys(made)
        made.setAccessibleName("Draw")
        made.setCheckable(True)
        made.setToolTip("Draw a shape on the bench")
        menu = QMenu(made)
        menu.addAction("Drag out this shape\tD").triggered.connect(self.draw_asked.emit)
        for name, kind in SKETCHES:
            menu.addAction(name).triggered.connect(partial(self._session.set_sketch, kind))
        made.setMenu(menu)
        return made

    def _ratio_button(self) -> QToolButton:
        made = tool("link-2", "Hold width to height", self._on_ratio_clicked)
        made.setCheckable(True)
        made.setPopupMode(QToolButton.ToolButtonPopupMode.MenuButtonPopup)
        made.setObjectName("split")
        menu = QMenu(made)
        menu.addAction("Own proportions").triggered.connect(lambda: self._edit("Own proportions", unstretch))
        menu.addSeparator()
        for name, ratio in RATIOS:
            menu.addAction(name).triggered.connect(partial(self._set_ratio, ratio))
        menu.addAction("Other…").triggered.connect(self._on_other_ratio)
        made.setMenu(menu)
        return made

    def _lay_out(self) -> None:
        column = body_column(self)
        column.addWidget(named_row("", self.library, self.draw, self.letters, self.more))
        for widget in (
            self.letters_rows,
            self.size_row,
            self.centre,
            self.turn,
            self.params,
            self.points,
            self.parts,
        ):
            column.addWidget(widget)
        column.addWidget(named_row("Acts as", self.keeps))
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.mask_switch)
        row.addStretch(1)
        for made in (self.mirror, self.flip, self.apart, self.join):
            row.addWidget(made)
        column.addLayout(row)

    def _connect(self) -> None:
        say = self._session.problem_found.emit
        self.size_row.stepped.connect(self._on_size_stepped)
        self.size_row.reset_asked.connect(lambda: self._edit("Fit the shape", fit_shape))
        self.centre.reset_asked.connect(lambda: self._edit("Centre the shape", centre_shape))
        self.centre.stepped.connect(self._on_place_stepped)
        self.anchor.chosen.connect(lambda u, v: self._show_place(self._session.seen_item))
        self.turn.stepped.connect(lambda degrees: self._edit("Turn the shape", _turned_to(degrees)))
        self.turn.moved.connect(lambda degrees: self._preview(_turned_to(degrees)))
        for row in (self.size_row, self.centre, self.turn):
            row.refused.connect(say)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the numbers of an item, or of the part of its shape that is open."""
        self.parts.show_item(item, job)
        seen = self._session.seen_item
        if self._session.part is not None and seen is not None and seen.id == item.id:
            item = seen
        shape, placement = item.shape, item.shape_placement
        is_free = not item.is_locked
        for widget in (self.size_row, self.centre, self.turn, self.keeps, self.mirror, self.flip):
            widget.setEnabled(shape is not None and is_free)
        self.library.setEnabled(is_free)
        self.library.setChecked(self._session.is_library_open)
        self.draw.setEnabled(is_free)
        self.draw.setChecked(self._session.drawing is not None or self._session.sketch is not None)
        self.mask_switch.setEnabled(item.content is not None and shape is not None and is_free)
        self.mask_switch.setChecked(item.is_masked and shape is not None)
        self.apart.setVisible(item.content_placement is not None and shape is not None)
        self.apart.setEnabled(is_free)
        pair = joinable(job, self._session.selected)
        self.join.setVisible(item.content is None or shape is None)
        self.join.setEnabled(pair is not None and is_free)
        self.letters.setEnabled(is_free)
        self.menu.show_for(len(self._session.selected), is_linked=bool(item.shape_link))
        self.letters.setChecked(isinstance(shape, LettersShape))
        self.letters_rows.show_item(item, job)
        self.params.show_item(item, job)
        self.points.show_item(item, job)
        self._show_place(item)
        if shape is None or placement is None:
            self.size_row.show_values(None, None)
            return
        self.size_row.show_values(placement.width, placement.height)
        self._show_ratio(item, placement)
        self.turn.show_value(placement.rotation)
        self.keeps.show_choice(shape.keeps)

    def _show_ratio(self, item: Item, placement: ShapePlacement) -> None:
        # A combined shape is never stretched: its parts could not be placed any more.
        is_equal = item.shape is not None and (
            has_equal_sides(item.shape) or isinstance(item.shape, CombinedShape)
        )
        self.ratio.setEnabled(not is_equal and not item.is_locked)
        self.ratio.setChecked(is_equal or placement.keeps_ratio)
        menu = self.ratio.menu()
        own = None if item.shape is None else natural_ratio(item.shape)
        menu.actions()[0].setEnabled(own is not None)

    def _show_place(self, item: Item | None) -> None:
        self.centre.label.setText(NAMES[self.anchor.value])
        if item is None or item.shape_placement is None:
            self.centre.show_values(None, None)
        else:
            self.centre.show_values(*item.shape_placement.point(*self.anchor.value))

    # edits

    def _on_library_clicked(self) -> None:
        self._session.set_library(not self._session.is_library_open)

    def _on_size_stepped(self, width: float | None, height: float | None) -> None:
        is_whole, fixed = self._session.is_snapping, self.anchor.value
        self._edit(
            "Size the shape",
            lambda job, key: resize_shape(job, key, width, height, on_whole_pixels=is_whole, fixed=fixed),
        )

    def _on_place_stepped(self, x: float | None, y: float | None) -> None:
        self._edit("Place the shape", _placed_at(self.anchor.value, x, y))

    def _on_ratio_clicked(self) -> None:
        is_kept = self.ratio.isChecked()
        self._edit(
            "Hold the ratio" if is_kept else "Free the ratio", lambda job, key: hold_ratio(job, key, is_kept)
        )

    def _set_ratio(self, ratio: float) -> None:
        fixed = self.anchor.value
        self._edit("Set the ratio", lambda job, key: set_ratio(job, key, ratio, fixed))

    def _on_other_ratio(self) -> None:
        asking.ask_text(self, "Ratio", "Width to height, such as 16:9", self._on_ratio_given)

    def _on_ratio_given(self, text: str) -> None:
        try:
            self._set_ratio(parse_ratio(text))
        except NumberError as error:
            self._session.problem_found.emit(f"Ratio: {error}")

    def _on_keeps_chosen(self, choice: str) -> None:
        keeps: Keeps = "outside" if choice == "outside" else "inside"
        selected = self._session.selected
        step = "Make a hole" if keeps == "outside" else "Keep the inside"
        self._session.apply(step, lambda job: set_keeps(job, selected, keeps))

    def _on_mask_clicked(self, is_on: bool) -> None:
        selected = self._session.selected
        self._session.apply("Mask on" if is_on else "Mask off", lambda job: set_masked(job, selected, is_on))

    def _on_mirror_clicked(self) -> None:
        self._edit("Flip the shape", _flipped(0.0))

    def _on_flip_clicked(self) -> None:
        self._edit("Flip the shape", _flipped(180.0))


def _placed_at(anchor: tuple[float, float], x: float | None, y: float | None) -> ItemEdit:
    """Return the edit that brings a point of a shape's frame to a place; None leaves one number as it is."""

    def edit(job: Job, key: str) -> Job:
        placed = find_item(job, key).shape_placement
        if placed is None:
            return job
        at = placed.point(*anchor)
        dx, dy = (0.0 if x is None else x - at[0]), (0.0 if y is None else y - at[1])
        return place_shape(job, key, x=placed.x + dx, y=placed.y + dy)

    return edit


def _flipped(degrees: float) -> ItemEdit:
    """Return the edit that mirrors a shape and turns it by so much."""

    def edit(job: Job, key: str) -> Job:
        placed = find_item(job, key).shape_placement
        if placed is None:
            return job
        return place_shape(job, key, is_mirrored=not placed.is_mirrored, rotation=placed.rotation + degrees)

    return edit


def _turned_to(degrees: float) -> ItemEdit:
    return lambda job, key: place_shape(job, key, rotation=degrees)
