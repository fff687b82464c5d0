"""Step 2: the shape and where it lies."""

from PySide6.QtCore import QSize, Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice, push, tool
from glasscap.app.widgets.corners import CornerFields
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.shape_icon import shape_icon
from glasscap.app.widgets.slider_row import LABEL_WIDTH, SliderRow
from glasscap.core.document.edits import joinable, set_keeps, set_masked
from glasscap.core.document.model import Item, Job, Keeps
from glasscap.core.document.placement import FARTHEST, SMALLEST
from glasscap.core.document.placing import (
    centre_shape,
    choose_shape,
    fit_shape,
    place_shape,
    resize_shape,
    set_params,
)
from glasscap.core.shapes.library.rectangle import CORNERS
from glasscap.core.shapes.library.table import SHAPES, find_shape


class ShapeStep(StepBody):
    """Kind, size, centre, turn, corners, inside or hole, mask, apart."""

    take_apart_asked = Signal()
    join_asked = Signal()
    draw_asked = Signal()

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)

        def ppi() -> float:
            return session.sheet.resolution_ppi

        self.kinds = Choice("Shape", [(s.name, s.label) for s in SHAPES.values()], self._on_kind_chosen)
        for name, button in self.kinds.buttons.items():
            button.setText("")
            button.setIcon(shape_icon(name, colours().ink))
            button.setIconSize(QSize(20, 20))
            button.setToolTip(find_shape(name).label)
            button.setFixedWidth(44)
        self.draw = push("Draw", self.draw_asked.emit)
        self.draw.setCheckable(True)
        self.draw.setToolTip("Draw this kind of shape on the bench (D)")
        self.size_row = PairRow(
            "Size",
            NumberSpec("Width", "w", SMALLEST, FARTHEST),
            NumberSpec("Height", "h", SMALLEST, FARTHEST),
            ppi,
            reset_words="the largest that fits the photo",
        )
        self.centre = PairRow(
            "Centre",
            NumberSpec("Shape centre x", "x", -FARTHEST, FARTHEST),
            NumberSpec("Shape centre y", "y", -FARTHEST, FARTHEST),
            ppi,
            reset_words="centre it on the photo",
        )
        self.turn = SliderRow(NumberSpec("Turn", "°", -360, 360), reset_to=0.0)
        self.turn.set_slider_range(-180, 180)
        self.corners = CornerFields(ppi)
        self.keeps = Choice("Acts as", [("inside", "Keep inside"), ("outside", "Hole")], self._on_keeps_chosen)
        self.mask_switch = QCheckBox("Mask on")
        self.mask_switch.clicked.connect(self._on_mask_clicked)
        self.mirror = tool("mirror", "Mirror the shape", self._on_mirror_clicked)
        self.mirror.setCheckable(True)
        self.apart = push("Take apart", self.take_apart_asked.emit)
        self.apart.setToolTip("Photo and shape become two things, both as they are")
        self.join = push("Join", self.join_asked.emit)
        self.join.setToolTip("Put the shape back on the photo")
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 9)
        column.setSpacing(7)
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.kinds)
        row.addWidget(self.draw)
        column.addLayout(row)
        for widget in (self.size_row, self.centre, self.turn, self.corners):
            column.addWidget(widget)
        row = QHBoxLayout()
        row.setSpacing(6)
        name = label("Acts as", "muted")
        name.setFixedWidth(LABEL_WIDTH)
        row.addWidget(name)
        row.addWidget(self.keeps)
        column.addLayout(row)
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.mask_switch)
        row.addStretch(1)
        row.addWidget(self.mirror)
        row.addWidget(self.apart)
        row.addWidget(self.join)
        column.addLayout(row)

    def _connect(self) -> None:
        say = self._session.problem_found.emit
        self.size_row.stepped.connect(self._on_size_stepped)
        self.size_row.reset_asked.connect(lambda: self._edit("Fit the shape", fit_shape))
        self.centre.reset_asked.connect(lambda: self._edit("Centre the shape", centre_shape))
        self.centre.stepped.connect(
            lambda x, y: self._edit("Place the shape", lambda job, key: place_shape(job, key, x=x, y=y))
        )
        self.turn.stepped.connect(lambda degrees: self._edit("Turn the shape", _turned_to(degrees)))
        self.turn.moved.connect(lambda degrees: self._preview(_turned_to(degrees)))
        self.corners.stepped.connect(self._on_corners_stepped)
        for row in (self.size_row, self.centre, self.turn, self.corners):
            row.refused.connect(say)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the numbers of an item."""
        shape, placement = item.shape, item.shape_placement
        is_free = not item.is_locked
        for widget in (self.size_row, self.centre, self.turn, self.keeps, self.mirror):
            widget.setEnabled(shape is not None and is_free)
        self.kinds.setEnabled(is_free)
        self.draw.setEnabled(is_free)
        self.kinds.show_choice(None if shape is None else shape.name)
        self.draw.setChecked(self._session.drawing is not None)
        self.mask_switch.setEnabled(item.content is not None and shape is not None and is_free)
        self.mask_switch.setChecked(item.is_masked and shape is not None)
        self.apart.setVisible(item.content_placement is not None and shape is not None)
        self.apart.setEnabled(is_free)
        pair = joinable(job, self._session.selected)
        self.join.setVisible(item.content is None or shape is None)
        self.join.setEnabled(pair is not None and is_free)
        self.corners.setVisible(shape is not None and bool(shape.params))
        if shape is None or placement is None:
            self.size_row.show_values(None, None)
            self.centre.show_values(None, None)
            return
        self.size_row.show_values(placement.width, placement.height)
        self.centre.show_values(placement.x, placement.y)
        self.turn.show_value(placement.rotation)
        self.mirror.setChecked(placement.is_mirrored)
        self.keeps.show_choice(shape.keeps)
        if shape.params:
            self.corners.show_values(tuple(value for _, value in shape.params))

    # edits

    def _on_size_stepped(self, width: float | None, height: float | None) -> None:
        is_whole = self._session.is_snapping
        self._edit(
            "Size the shape",
            lambda job, key: resize_shape(job, key, width, height, on_whole_pixels=is_whole),
        )

    def _on_corners_stepped(self, radii: tuple[float, ...]) -> None:
        params = tuple(zip(CORNERS, radii, strict=True))
        self._edit("Round the corners", lambda job, key: set_params(job, key, params))

    def _on_kind_chosen(self, name: str) -> None:
        if self._session.drawing:
            self._session.set_drawing(name)
        words = f"Shape: {find_shape(name).label.lower()}"
        self._edit(words, lambda job, key: choose_shape(job, key, name))

    def _on_keeps_chosen(self, choice: str) -> None:
        keeps: Keeps = "outside" if choice == "outside" else "inside"
        selected = self._session.selected
        step = "Make a hole" if keeps == "outside" else "Keep the inside"
        self._session.apply(step, lambda job: set_keeps(job, selected, keeps))

    def _on_mask_clicked(self, is_on: bool) -> None:
        selected = self._session.selected
        self._session.apply("Mask on" if is_on else "Mask off", lambda job: set_masked(job, selected, is_on))

    def _on_mirror_clicked(self) -> None:
        is_on = self.mirror.isChecked()
        self._edit("Mirror the shape", lambda job, key: place_shape(job, key, is_mirrored=is_on))


def _turned_to(degrees: float) -> ItemEdit:
    return lambda job, key: place_shape(job, key, rotation=degrees)
