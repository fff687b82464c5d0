"""Shapes in and out: import, trace, combine, share, copy."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QWidget

from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, answered, run_errand, waited
from glasscap.app.session import Session
from glasscap.app.widgets.part_choice import PartChoice
from glasscap.core.document.edits.items import add_items, set_shape
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.query import find_item, fresh_ids, fresh_name
from glasscap.core.document.shapes.combining import combine, gap_between
from glasscap.core.document.shapes.points import placed_points
from glasscap.core.document.shapes.shaping import link_shapes, take_shape, unlink_shape
from glasscap.core.errors import GlassCapError
from glasscap.core.formats.shape_out import css_of, path_of, svg_of
from glasscap.core.formats.svg_shapes import SvgPart, svg_shapes
from glasscap.core.geometry.boolean import Operation, combined, normalised
from glasscap.core.geometry.outline import Outline
from glasscap.core.geometry.path_data import read_path_data, write_path_data
from glasscap.core.shapes.kinds import PointsShape
from glasscap.core.shapes.nodes import mapped_nodes, nodes_of
from glasscap.core.shapes.traced import PhotoPart, trace_photo
from glasscap.files.atomic import read_bytes, write_atomically

_DRAWINGS = "Drawings (*.svg *.SVG)"
_TRACED: dict[PhotoPart, str] = {
    "transparency": "Outline of the photo",
    "dark": "Outline of the dark",
    "light": "Outline of the light",
}


class ShapeCommands(QObject):
    """The commands of the *More* menu in the shape's step."""

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window = session, window

    # in

    def ask_import(self) -> None:
        """Choose a drawing and take a shape from it."""
        self._run(self._asking_import())

    def _asking_import(self) -> Errand[None]:
        chosen = yield from asking.file_to_open(self._window, "Import a shape", asking.Place("shapes"), _DRAWINGS)
        if chosen is not None:
            yield from self._importing(chosen)

    def import_file(self, path: Path) -> Running[None]:
        """Take a shape from an SVG file."""
        return self._run(self._importing(path))

    def _importing(self, path: Path) -> Errand[None]:
        return self._taking_drawing(read_bytes(path), path.name)

    def _run(self, errand: Errand[None]) -> Running[None]:
        return run_errand(errand, self._window, self._say)

    def paste_shape(self) -> None:
        """Take a shape from SVG or path data on the clipboard."""
        text = QGuiApplication.clipboard().text().strip()
        if not text:
            self._say("There is no drawing on the clipboard; copy SVG or path data first")
        elif text.startswith("<"):
            self._run(self._taking_drawing(text.encode(), "Clipboard"))
        else:
            self._try(lambda: self._take(normalised(read_path_data(text)), "Pasted shape", "Paste a shape"))

    def _taking_drawing(self, data: bytes, name: str) -> Errand[None]:
        store = self._session.store
        parts = yield from waited("Reading the drawing", lambda ticket: svg_shapes(data, name))
        chosen = yield from self._chosen(parts)
        if chosen and self._session.store is store:
            label = name.rsplit(".", 1)[0] if len(chosen) > 1 else chosen[0].label
            self._take(_together([p.outline for p in chosen]), label, "Import a shape")

    def _chosen(self, parts: tuple[SvgPart, ...]) -> Errand[list[SvgPart]]:
        if len(parts) == 1:
            return list(parts)
        dialog = PartChoice([(p.label, p.outline) for p in parts], self._window)
        is_taken = yield from answered(dialog)
        chosen = [parts[n] for n in dialog.chosen] if is_taken else []
        dialog.deleteLater()
        return chosen

    def _take(self, outline: Outline, label: str, step: str) -> None:
        shape = PointsShape(write_path_data(outline), made_by=" ".join(label.split())[:60] or "Imported shape")
        session, item = self._session, self._session.item
        if item is not None:
            session.apply_to_shape(step, lambda job: take_shape(job, item.id, shape))
            return
        (new_id,) = fresh_ids(session.committed, 1)

        def put(job: Job) -> Job:
            made, placement = placed_points(nodes_of(outline), None, made_by=shape.made_by)
            fresh = Cutout(new_id, fresh_name(job, shape.made_by), shape=made, shape_placement=placement)
            return add_items(job, session.container_id, [fresh])

        if session.apply(step, put):
            session.select((new_id,))

    def trace(self, part: PhotoPart) -> None:
        """Take the outline of a part of the selected cutout's photo."""
        self._run(self._tracing(part))

    def _tracing(self, part: PhotoPart) -> Errand[None]:
        session, item, photo = self._session, self._session.item, self._session.photo
        if item is None or photo is None or item.content_placement is None:
            self._say("Select a cutout with a photo first")
            return
        store, to_sheet = session.store, item.content_placement.to_sheet(photo.width, photo.height)
        label = _TRACED[part]
        outline = yield from waited(
            "Tracing the photo", lambda ticket: trace_photo(store.pyramid(photo).photo.rgba, part)
        )
        if session.store is not store or session.item is not item:
            return
        nodes = mapped_nodes(nodes_of(outline), to_sheet)
        shape, placed = placed_points(nodes, None, made_by=label)
        session.apply_to_shape(label, lambda job: set_shape(job, item.id, shape, placed))

    # among cutouts

    def combine(self, does: Operation) -> None:
        """Combine the shapes of the selected cutouts."""
        session, chosen = self._session, self._session.selected

        def take() -> None:
            job, kept = combine(session.committed, chosen, does)
            session.apply(f"Combine: {does}", lambda _: job)
            session.select((kept,))

        self._try(take)

    def gap(self) -> None:
        """Make a shape of the gap between the selected cutouts."""
        session, chosen = self._session, self._session.selected

        def take() -> None:
            job, made = gap_between(session.committed, session.container_id, chosen)
            session.apply("Shape of the gap", lambda _: job)
            session.select((made,))

        self._try(take)

    def same_shape(self, *, is_linked: bool) -> None:
        """Give the selected cutouts the shape of the one selected last, copied or linked."""
        session, chosen = self._session, self._session.selected
        if len(chosen) < 2:
            self._say("Select the cutouts first; the one selected last gives its shape")
            return
        source, others = chosen[-1], chosen[:-1]
        if is_linked:
            session.apply("Link shapes", lambda job: link_shapes(job, source, others))
            return

        def copy(job: Job) -> Job:
            shape = find_item(job, source).shape
            for other in others if shape is not None else ():
                job = take_shape(job, other, shape)  # type: ignore[arg-type]
            return job

        session.apply("Same shape", copy)

    def unlink(self) -> None:
        """Let the selected cutout's shape be its own again."""
        item = self._session.item
        if item is not None:
            self._session.apply("Unlink the shape", lambda job: unlink_shape(job, item.id))

    # out

    def copy_path(self) -> None:
        """Copy the shape as SVG path data."""
        self._copy(path_of, "The path is on the clipboard, in sheet px")

    def copy_css(self) -> None:
        """Copy the shape as a CSS clip path."""
        self._copy(css_of, "The clip path is on the clipboard")

    def _copy(self, make: Callable[[Cutout], str], said: str) -> None:
        item = self._session.seen_item
        if item is None:
            return

        def copy() -> None:
            QGuiApplication.clipboard().setText(make(item))
            self._say(said)

        self._try(copy)

    def ask_save_svg(self) -> None:
        """Save the shape as an SVG file."""
        item = self._session.seen_item
        if item is None:
            return
        self._run(self._saving_svg(item))

    def _saving_svg(self, item: Cutout) -> Errand[None]:
        start = asking.Place("shapes", name=f"{item.name}.svg")
        chosen = yield from asking.file_to_save(self._window, "Save the shape", start, _DRAWINGS)
        if chosen is not None:
            path = chosen if chosen.suffix.lower() == ".svg" else chosen.with_name(f"{chosen.name}.svg")
            write_atomically(path, svg_of(item))

    # both

    def _try(self, work: Callable[[], object]) -> None:
        try:
            work()
        except GlassCapError as error:
            self._say(error.line)

    def _say(self, words: str) -> None:
        self._session.problem_found.emit(words)


def _together(outlines: list[Outline]) -> Outline:
    whole = outlines[0]
    for outline in outlines[1:]:
        whole = combined(whole, outline, "add")
    return whole
