"""The lines round cutouts on the bench: shapes, photos and masks that are held, and who waits for a photo."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial, reduce
from typing import NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter, QPainterPath

from glasscap.app.bench import overlay
from glasscap.app.bench.canvas import Canvas
from glasscap.app.bench.pills import draw_pill, pill_width
from glasscap.app.session import Session
from glasscap.app.theme.colours import LINE_AMBER, LINE_TEAL
from glasscap.app.widgets.kept_layer import KeptLayer, KeptPictures
from glasscap.core.document.arranging.grips import held
from glasscap.core.document.edits.items import joinable
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import Shape
from glasscap.editor.handles import Frame, contents_frame
from glasscap.editor.tools.aim import PLACING_MASK
from glasscap.editor.tools.place_mask import mask_frame

# The words in a shape without a photo, and their distance (px) from the shape's sides.
_WAITING, _PILL_ROOM = "Drop a photo here", 24
# From so many cutouts on all their lines together are kept as well as each one's.
_MANY = 3
# How long lines are painted in one repaint, and of how many cutouts they show while those are dragged.
_AT_ONCE_SECONDS, _MOST_MOVING = 0.02, 24
_KEPT_BYTES = 48 << 20
_EMPTY_TINT = QColor(11, 122, 117, 36)
# Half a light line's width and what anti-aliasing adds, in px.
_MARGIN = 4


class _Look(NamedTuple):
    """All that the lines of one cutout go by."""

    shape: Shape | None
    placement: ShapePlacement | None
    photo_frame: Frame | None
    mask_frame: Frame | None
    is_empty: bool
    wants_photo: bool
    is_old: bool
    to_view: Affine


class ItemLines:
    """Paints the lines of cutouts; each one's are kept as a picture while they stay the same."""

    def __init__(self, session: Session, bench: Canvas) -> None:
        self._session, self._bench = session, bench
        self._kept = KeptPictures(_KEPT_BYTES)
        self._layers = {False: KeptLayer(), True: KeptLayer()}

    def paint(self, painter: QPainter, items: Sequence[Item], *, is_selected: bool) -> None:
        """Paint the lines of some cutouts: of those that are selected, or of others.

        Of very many some are painted now and the others with the repaints that follow, which are asked for.
        """
        if is_selected and len(items) > _MOST_MOVING and self._session.is_previewing:
            # Their frame tells where they go.
            return
        is_one = len(self._session.chosen_ids) == 1
        looks = [self._look(item, is_selected=is_selected, is_one=is_one) for item in items]
        parts = [partial(self._paint_one, item=i, look=k) for i, k in zip(items, looks, strict=True)]
        if len(items) < _MANY:
            for part in parts:
                part(painter)
        elif not self._layers[is_selected].grow(
            painter, looks, self._bench.size(), self._bench.ratio, parts, _AT_ONCE_SECONDS
        ):
            self._bench.show_soon()

    def _look(self, item: Item, *, is_selected: bool, is_one: bool) -> _Look:
        session = self._session
        is_placing = session.aim is PLACING_MASK
        is_held = is_selected and is_one and held(session.grip, item) != "shape" and not is_placing
        return _Look(
            item.shape,
            item.shape_placement,
            contents_frame(session.job, item) if session.is_wire or is_held else None,
            mask_frame(session.job, session.sheet, item) if is_selected and is_placing else None,
            item.content is None,
            # A shape without a photo, nor one next to it that it could be put on.
            item.content is None and joinable(session.job, [item.id]) is None,
            is_selected and session.is_shaping and not session.is_previewing,
            self._bench.to_view,
        )

    def _paint_one(self, painter: QPainter, item: Item, look: _Look) -> None:
        path = overlay.shape_path(item, look.to_view)
        held_frames = [frame for frame in (look.photo_frame, look.mask_frame) if frame is not None]
        frames = [overlay.frame_path(frame, look.to_view) for frame in held_frames]
        pill = _pill_box(path) if path is not None and look.wants_photo else None

        def paint(inner: QPainter) -> None:
            for frame in frames:
                overlay.draw_line(inner, frame, LINE_AMBER, is_dashed=True)
            if path is not None:
                if look.is_empty:
                    inner.fillPath(path, _EMPTY_TINT)
                if look.is_old:
                    overlay.draw_old_line(inner, path)
                else:
                    overlay.draw_line(inner, path, LINE_TEAL, is_dashed=look.is_empty)
            if pill is not None:
                draw_pill(inner, _WAITING, pill.center().x(), pill.top())

        boxes = [part.controlPointRect() for part in (path, *frames) if part is not None]
        whole = reduce(QRectF.united, boxes, pill or QRectF()).toAlignedRect()
        seen = whole.adjusted(-_MARGIN, -_MARGIN, _MARGIN, _MARGIN).intersected(self._bench.rect())
        self._kept.paint(painter, look, seen, self._bench.ratio, paint)


def waiting_words_box(job: Job, item: Item, to_view: Affine) -> QRectF | None:
    """Return where a shape that waits for a photo says so, in logical px of the bench; None for others."""
    path = overlay.shape_path(item, to_view)
    wants_photo = item.content is None and joinable(job, [item.id]) is None
    return _pill_box(path) if path is not None and wants_photo else None


def _pill_box(path: QPainterPath) -> QRectF:
    """Return where the words of a waiting shape go: in it, or beneath it where they would hide its handles."""
    box = path.boundingRect()
    width = pill_width(_WAITING)
    y = box.center().y() - 12 if box.width() >= width + _PILL_ROOM else box.bottom() + 12
    return QRectF(box.center().x() - width / 2, y, width, 24)
