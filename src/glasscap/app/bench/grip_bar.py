"""The floating bar: the three grips, the cover meter, photo px per px."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QWidget

from glasscap.app.bench.bench import Bench
from glasscap.app.services.following import Follower
from glasscap.app.session import Session
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import Choice, push
from glasscap.app.widgets.labels import label
from glasscap.core.document.arranging.by_number import fit_photos
from glasscap.core.document.arranging.cover import bare_share, ends_within_edge, just_covering
from glasscap.core.document.arranging.grips import Grip, held
from glasscap.core.document.model.job import Item, Job, PhotoRecord
from glasscap.core.document.model.query import find_item, photo_of
from glasscap.editor.numbers import format_number

_GRIPS: tuple[tuple[Grip, str, str, str], ...] = (
    ("photo", "Photo", "image", "Drags, arrow keys and numbers move the photo (P)"),
    ("together", "Together", "link", "Drags and arrow keys move photo and shape together (T)"),
    ("shape", "Shape", "circle-dashed", "Drags and arrow keys move the shape (S)"),
)
_STROKES = (("add", "Add"), ("take", "Take away"))
_CUT = "Photo ends within the edge"
_CUT_TIP = (
    "It is soft, rough or moved outwards, and a straight line shows where the photo ends. "
    "This enlarges the photo; a feather that lies inside needs no more of it"
)


class Dot(QWidget):
    """A small round light."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(9, 9)
        self._colour = "#888888"

    def show_colour(self, colour: str) -> None:
        """Light it."""
        if colour != self._colour:
            self._colour = colour
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the dot."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._colour))
        painter.drawEllipse(1, 1, 7, 7)
        painter.end()


class GripBar(QFrame):
    """Shows and sets the session's grip."""

    def __init__(self, session: Session, bench: Bench) -> None:
        super().__init__(bench)
        self.setObjectName("bar")
        self.setAccessibleName("Grips")
        self._session, self._sketching = session, bench.driver.sketching
        row = QHBoxLayout(self)
        row.setContentsMargins(6, 4, 16, 4)
        row.setSpacing(4)
        self.buttons: dict[Grip, QPushButton] = {}
        for grip, text, _, tip in _GRIPS:
            made = push(f" {text}", lambda grip=grip: session.set_grip(grip))  # type: ignore[misc]
            made.setCheckable(True)
            made.setToolTip(tip)
            made.setAccessibleName(f"Grip: {text}")
            self.buttons[grip] = made
            row.addWidget(made)
        self.strokes = Choice("Strokes", _STROKES, self._on_strokes_chosen)
        self.strokes.hide()
        row.addWidget(self.strokes)
        row.addSpacing(8)
        self._dot, self.meter = Dot(), label("", "")
        self.cover_button = push("Just cover", self._on_cover_clicked, style="link")
        self.density = label("", "muted")
        for widget in (self._dot, self.meter, self.cover_button):
            row.addWidget(widget)
        row.addSpacing(10)
        row.addWidget(self.density)
        self._follower = Follower(session, self.show_state, self)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self.show_state)
        self._sketching.changed.connect(self._show_strokes)
        self.show_state()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        self._follower.begin()

    def show_state(self) -> None:
        """Show the grip and the meters."""
        for grip, _, icon_name, _ in _GRIPS:
            made = self.buttons[grip]
            item = self._session.item
            really = self._session.grip if item is None else held(self._session.grip, item)
            # An open part of a combined shape is held like a shape.
            really = "shape" if self._session.part is not None else really
            is_on = really == grip
            made.setChecked(is_on)
            made.setEnabled(item is None or held(grip, item) == grip)
            colour = colours().on_teal if is_on else colours().ink
            if made.property("shown") != colour:
                made.setProperty("shown", colour)
                made.setIcon(icon(icon_name, colour))
        self._show_measures()
        self._show_strokes()

    def _show_strokes(self) -> None:
        """While strokes are drawn that add or take away, offer both in the place of the grips."""
        shown = self._sketching.shown
        choice = "" if shown is None else shown.choice
        if choice:
            self.strokes.show_choice(choice)
        if bool(choice) != self.strokes.isVisibleTo(self):
            self.strokes.setVisible(bool(choice))
            for button in self.buttons.values():
                button.setVisible(not choice)
            self.place()

    def _on_strokes_chosen(self, choice: str) -> None:
        self._sketching.key("take" if choice == "take" else "add")

    def _show_measures(self) -> None:
        item, photo, share = self._worst()
        for widget in (self._dot, self.meter):
            widget.setVisible(share is not None)
        is_cut = item is not None and ends_within_edge(item, photo)
        self.cover_button.setVisible(bool(share) or is_cut)
        if share is not None:
            self._dot.show_colour(colours().amber if share or is_cut else colours().good)
            covers = _CUT if is_cut else "Photo covers the shape"
            whose = f"{item.name} " if item is not None and len(self._session.selected) > 1 else ""
            self.meter.setText(f"{whose}{_percent(share)} bare" if share else covers)
            self.cover_button.setToolTip(f"{_CUT}. {_CUT_TIP}" if is_cut else "")
        placement = None if item is None else item.content_placement
        self.density.setVisible(placement is not None)
        if placement is not None:
            density = 1 / max(placement.scale_x, placement.scale_y)
            self.density.setText(f"{format_number(density)} photo px per px")
            self._show_softness(is_soft=density < 1 - 1e-9)
        self.place()

    def _worst(self) -> tuple[Item | None, PhotoRecord | None, float | None]:
        """Return the selected item whose photo leaves most of its shape bare, its photo and that share."""
        session = self._session
        last = (session.item, session.photo, None)
        found = [
            (item, photo, share)
            for item in (find_item(session.job, i) for i in session.selected)
            if (share := bare_share(item, photo := photo_of(session.job, item))) is not None
        ]
        return max(reversed(found), key=lambda f: (f[2], ends_within_edge(*f[:2])), default=last)

    def _show_softness(self, *, is_soft: bool) -> None:
        style = "amber" if is_soft else "muted"
        if self.density.objectName() != style:
            self.density.setObjectName(style)
            self.density.setToolTip("Under 1 the photo is enlarged and looks soft" if is_soft else "")
            self.density.style().unpolish(self.density)
            self.density.style().polish(self.density)

    def place(self) -> None:
        """Sit at the bottom middle of the bench; narrow benches leave out the meters' words."""
        parent = self.parentWidget()
        if parent is None:
            return
        self.adjustSize()
        # The link, or the light alone, says enough where there is no room.
        self._dot.setToolTip(self.meter.text())
        for words in (self.density, self.meter):
            if self.sizeHint().width() > parent.width() - 16 and words.isVisibleTo(self):
                words.setVisible(False)
                self.adjustSize()
        self.move((parent.width() - self.width()) // 2, parent.height() - self.height() - 14)
        self.raise_()

    def _on_cover_clicked(self) -> None:
        chosen = self._session.selected
        self._session.apply("Just cover the shape", lambda job: fit_photos(job, chosen, just_covering))


def _percent(share: float) -> str:
    return f"{max(share * 100, 0.1):.1f} %"
