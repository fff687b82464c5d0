"""Step 2: the shape and where it lies."""

from msgspec.structs import replace
from PySide6.QtCore import QSize, Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice, push, tool
from glasscap.app.widgets.corners import CornerFields
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.pair_row import PairRow
from glasscap.app.widgets.shape_icon import shape_icon
from glasscap.app.widgets.slider_row import LABEL_WIDTH, SliderRow
from glasscap.core.document.edits import joinable, set_keeps, set_masked, set_shape, update_item
from glasscap.core.document.fit import largest_centred
from glasscap.core.document.grips import stopped
from glasscap.core.document.model import Item, Job, Keeps, library_shape
from glasscap.core.document.placement import FARTHEST, SMALLEST, ShapePlacement
from glasscap.core.document.query import photo_of
from glasscap.core.geometry.types import normal_degrees
from glasscap.core.shapes.library.table import SHAPES, find_shape
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import photo_box


class ShapeStep(QWidget):
    """Kind, size, centre, turn, corners, inside or hole, mask, apart."""

    take_apart_asked = Signal()
    join_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session

        def ppi() -> float:
            return session.sheet.resolution_ppi

        self.kinds = Choice("Shape", [(s.name, s.label) for s in SHAPES.values()], self._on_kind_chosen)
        for name, button in self.kinds.buttons.items():
            button.setText("")
            button.setIcon(shape_icon(name, colours().ink))
            button.setIconSize(QSize(20, 20))
            button.setToolTip(find_shape(name).label)
            button.setFixedWidth(44)
        self.draw = push("Draw", self._on_draw_clicked)
        self.draw.setCheckable(True)
        self.draw.setToolTip("Draw this kind of shape on the bench")
        self.size_row = PairRow(
            "Size",
            NumberSpec("Width", "w", SMALLEST, FARTHEST),
            NumberSpec("Height", "h", SMALLEST, FARTHEST),
            ppi,
        )
        self.centre = PairRow(
            "Centre",
            NumberSpec("Shape centre x", "x", -FARTHEST, FARTHEST),
            NumberSpec("Shape centre y", "y", -FARTHEST, FARTHEST),
            ppi,
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
        self.centre.stepped.connect(lambda x, y: self._place("Place the shape", x=x, y=y))
        self.turn.stepped.connect(lambda value: self._place("Turn the shape", rotation=value))
        self.turn.moved.connect(lambda value: self._preview(rotation=value))
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
        self.apart.setVisible(item.content is not None and shape is not None)
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

    def words(self, item: Item) -> str:
        """Return the step's value in words."""
        shape, placement = item.shape, item.shape_placement
        if shape is None or placement is None:
            return "none"
        width, height = format_number(placement.width), format_number(placement.height)
        size = width if find_shape(shape.name).has_equal_sides else f"{width} × {height}"
        off = "" if item.is_masked else ", mask off"
        hole = " hole" if shape.keeps == "outside" else ""
        return f"{find_shape(shape.name).label}{hole}, {size} px{off}"

    # edits

    def _changed(self, job: Job, changes: dict[str, object]) -> Job:
        item = self._session.item
        given = {k: v for k, v in changes.items() if v is not None}
        if item is None:
            return job

        def change(before: Item) -> Item:
            if before.shape_placement is None:
                return before
            if isinstance(given.get("rotation"), float):
                given["rotation"] = normal_degrees(given["rotation"])  # type: ignore[arg-type]
            placement: ShapePlacement = replace(before.shape_placement, **given)
            return stopped(before, replace(before, shape_placement=placement), photo_of(job, before))

        return update_item(job, item.id, change)

    def _place(self, step: str, **changes: object) -> None:
        self._session.apply(step, lambda job: self._changed(job, changes))

    def _preview(self, **changes: object) -> None:
        self._session.preview(self._changed(self._session.committed, changes))

    def _on_size_stepped(self, width: float | None, height: float | None) -> None:
        item = self._session.item
        if item is None or item.shape is None or item.shape_placement is None:
            return
        if find_shape(item.shape.name).has_equal_sides:
            width = height = width if width is not None else height
        sized = replace(
            item.shape_placement,
            width=item.shape_placement.width if width is None else width,
            height=item.shape_placement.height if height is None else height,
        )
        placed = sized.on_whole_pixels() if self._session.is_snapping else sized
        changes = {"width": placed.width, "height": placed.height, "x": placed.x, "y": placed.y}
        self._place("Size the shape", **changes)

    def _on_corners_stepped(self, radii: tuple[float, ...]) -> None:
        item = self._session.item
        if item is None or item.shape is None or item.shape_placement is None:
            return
        names = [name for name, _ in item.shape.params]
        shape = replace(item.shape, params=tuple(zip(names, radii, strict=True)))
        placement = item.shape_placement
        self._session.apply("Round the corners", lambda job: set_shape(job, item.id, shape, placement))

    def _on_kind_chosen(self, name: str) -> None:
        item, session = self._session.item, self._session
        if session.drawing:
            session.set_drawing(name)
        if item is None or (item.shape is not None and item.shape.name == name):
            return
        shape = library_shape(name, "inside" if item.shape is None else item.shape.keeps)
        placement = self._placement_for(item, name)
        if placement is not None:
            session.apply(
                f"Shape: {find_shape(name).label.lower()}",
                lambda job: set_shape(job, item.id, shape, placement),
            )

    def _placement_for(self, item: Item, name: str) -> ShapePlacement | None:
        """Return the place of another shape: as before; equal sides for a circle; on the photo if none was."""
        old = item.shape_placement
        if old is None:
            box = photo_box(item, self._session.photo)
            if box is None:
                return None
            return largest_centred(library_shape(name), box.width, box.height, *box.centre)
        if find_shape(name).has_equal_sides and old.width != old.height:
            side = min(old.width, old.height)
            return replace(old, width=side, height=side).on_whole_pixels()
        return old

    def _on_draw_clicked(self) -> None:
        item = self._session.item
        name = item.shape.name if item is not None and item.shape is not None else "circle"
        self._session.set_drawing(name if self.draw.isChecked() else None)

    def _on_keeps_chosen(self, choice: str) -> None:
        keeps: Keeps = "outside" if choice == "outside" else "inside"
        selected = self._session.selected
        step = "Make a hole" if keeps == "outside" else "Keep the inside"
        self._session.apply(step, lambda job: set_keeps(job, selected, keeps))

    def _on_mask_clicked(self, is_on: bool) -> None:
        selected = self._session.selected
        self._session.apply("Mask on" if is_on else "Mask off", lambda job: set_masked(job, selected, is_on))

    def _on_mirror_clicked(self) -> None:
        self._place("Mirror the shape", is_mirrored=self.mirror.isChecked())
