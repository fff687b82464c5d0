"""With nothing selected: the sheet's size, and what lies beneath everything on it."""

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.session import Session
from glasscap.app.steps.sheet_size import SheetSize
from glasscap.app.steps.step_body import StepBody, body_column, named_row
from glasscap.app.widgets.buttons import Choice, push
from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.paint_editor import PaintEditor
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.finishing.edits import set_backdrop
from glasscap.core.document.model.backdrop import Backdrop, PhotoBackdrop
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, TexturePaint
from glasscap.core.errors import GlassCapError

_KINDS = (("none", "None"), ("paint", "Paint"), ("photo", "Photo"))


class SheetCard(StepBody):
    """The sheet's size and backdrop: none, a paint, a photo."""

    said = Signal(str)

    def __init__(self, session: Session, photo_colours: PhotoColours, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._last_paint: Paint = ColourPaint("#f4e9d8")
        self.measures = SheetSize(session)
        self.kinds = Choice("Backdrop", _KINDS, self._on_kind)
        self.paint = PaintEditor("Paint", photo_colours.now, self._picture_name)
        self.name = ElidedLabel("muted")
        self.choose = push("Choose…", self._ask_photo)
        self.blur = self._photo_row(NumberSpec("Blur", "px", 0, 100_000), (0, 120), "blur", 0.0)
        self.zoom = self._photo_row(NumberSpec("Enlarge", "×", 1, 100, 0.1), (1, 6), "zoom", 1.0)
        column = body_column(self)
        self._photo_rows: tuple[QWidget, ...] = (named_row("", self.name, self.choose), self.blur, self.zoom)
        for widget in (self.measures, label("Backdrop", "muted"), self.kinds, self.paint, *self._photo_rows):
            column.addWidget(widget)
        self.paint.moved.connect(self._preview_backdrop)
        self.paint.stepped.connect(lambda paint: self._set("Paint the backdrop", paint))
        self.paint.refused.connect(session.problem_found)
        self.paint.own_asked.connect(self._on_own_asked)

    def _photo_row(self, spec: NumberSpec, span: tuple[float, float], field: str, reset_to: float) -> SliderRow:
        made = SliderRow(spec, reset_to=reset_to, ppi=self._ppi)
        made.set_slider_range(*span)
        made.moved.connect(lambda value: self._preview_photo(**{field: value}))
        made.stepped.connect(lambda value: self._set_photo(**{field: value}))
        made.refused.connect(self._session.problem_found)
        return made

    def show_sheet(self) -> None:
        """Show the backdrop of the sheet on the bench."""
        self.measures.show_sheet()
        backdrop = self._session.sheet.backdrop
        is_photo = isinstance(backdrop, PhotoBackdrop)
        kind = "none" if backdrop is None else "photo" if is_photo else "paint"
        self.kinds.show_choice(kind)
        self.paint.setVisible(kind == "paint")
        for row in self._photo_rows:
            row.setVisible(kind == "photo")
        if isinstance(backdrop, PhotoBackdrop):
            self.name.set_whole(self._picture_name(backdrop.sha256))
            self.blur.show_value(backdrop.blur)
            self.zoom.show_value(backdrop.zoom)
        elif isinstance(backdrop, ColourPaint | GradientPaint | TexturePaint):
            self._last_paint = backdrop
            self.paint.show_paint(backdrop)

    def _set(self, step: str, backdrop: Backdrop | None) -> None:
        sheet_id = self._session.sheet_id
        self._session.apply(step, lambda job: set_backdrop(job, sheet_id, backdrop))

    def _preview_backdrop(self, backdrop: Backdrop) -> None:
        session = self._session
        session.preview(set_backdrop(session.committed, session.sheet_id, backdrop))

    def _photo_with(self, **fields: float) -> PhotoBackdrop | None:
        backdrop = self._session.sheet.backdrop
        return replace(backdrop, **fields) if isinstance(backdrop, PhotoBackdrop) else None

    def _preview_photo(self, **fields: float) -> None:
        changed = self._photo_with(**fields)
        if changed is not None:
            self._preview_backdrop(changed)

    def _set_photo(self, **fields: float) -> None:
        try:
            changed = self._photo_with(**fields)
        except GlassCapError as error:
            self._session.problem_found.emit(error.line)
            return
        if changed is not None:
            self._set("Change the backdrop", changed)

    def _on_kind(self, kind: str) -> None:
        if kind == "photo":
            self._ask_photo()
            self.show_sheet()
        else:
            self._set("Change the backdrop", None if kind == "none" else self._last_paint)

    def _ask_photo(self) -> None:
        sheet_id = self._session.sheet_id
        self.picture_wanted.emit(
            "Choose a photo as backdrop",
            "Lay a photo beneath",
            lambda job, photo: set_backdrop(job, sheet_id, PhotoBackdrop(photo.sha256)),
        )

    def _on_own_asked(self, tiles: TexturePaint) -> None:
        sheet_id = self._session.sheet_id
        self.picture_wanted.emit(
            "Choose a picture for the texture",
            "Paint the backdrop",
            lambda job, photo: set_backdrop(job, sheet_id, replace(tiles, texture=photo.sha256)),
        )
