"""Everything that *Find a command* finds in a window, and what each entry does."""

from collections.abc import Callable, Mapping

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QWidget

from glasscap.app.help.book import pages
from glasscap.app.help.find_command import FindCommand
from glasscap.app.help.help_window import HelpWindow
from glasscap.app.session import Session
from glasscap.app.steps.steps_panel import StepsPanel
from glasscap.core.shapes.library.table import SHAPES
from glasscap.editor.actions import ACTIONS
from glasscap.editor.finding import COMMAND_WORDS, Findable, control, step_of

_ITSELF = "find_command"


class CommandFinder:
    """Knows what there is in a window, and does or leads to what is chosen."""

    def __init__(
        self,
        window: QWidget,
        session: Session,
        actions: Mapping[str, QAction],
        steps: StepsPanel,
        choose_shape: Callable[[str], object],
    ) -> None:
        """`choose_shape(name)` does what the library's card of that shape does."""
        self._window, self._session, self._actions, self.steps = window, session, actions, steps
        self._choose_shape = choose_shape
        self._controls: dict[str, tuple[str, QWidget]] = {}
        self.panel = FindCommand(window, self.things)
        self.panel.chosen.connect(self.do)

    def things(self) -> list[Findable]:
        """Return all that can be found now: controls only while a cutout is selected."""
        commands = [
            Findable("command", spec.id, spec.text, COMMAND_WORDS.get(spec.id, ""), spec.shortcut or spec.section)
            for spec in ACTIONS
            if spec.id != _ITSELF
        ]
        shapes = [
            Findable("shape", spec.name, spec.label, f"shape {' '.join(spec.words)}", "Shape")
            for spec in SHAPES.values()
        ]
        helps = [
            Findable("help", page.name, f"Help: {page.title}", " ".join(page.words), "Help") for page in pages()
        ]
        return [*commands, *self._found_controls(), *self._sets(), *shapes, *helps]

    def _found_controls(self) -> list[Findable]:
        self._controls = {}
        if self._session.item is None:
            return []
        while self.steps.make_ready():
            pass
        made = [step_of(key, card.title) for key, card in self.steps.cards.items()]
        for step, card in self.steps.cards.items():
            for widget in card.findChildren(QWidget):
                name = widget.accessibleName()
                # A slider has a field beside it, a choice its row.
                is_double = name.endswith(" slider") or ": " in name
                if (
                    name
                    and not is_double
                    and widget.focusPolicy() & Qt.FocusPolicy.TabFocus
                    and widget is not card.header
                ):
                    key = f"{step} {name}"
                    if key not in self._controls:
                        self._controls[key] = (step, widget)
                        made.append(control(key, name, card.title))
        return made

    def _sets(self) -> list[Findable]:
        if self._session.item is None:
            return []
        sets = self.steps.look.sets(self._session.job)
        return [Findable("finishes", name, f"Finishes: {name}", name, "Whole cutout") for name in sets]

    def do(self, thing: Findable) -> None:
        """Do a command, choose a shape or finishes, go to a control, open a page."""
        if thing.kind == "command":
            self._trigger(thing)
        elif thing.kind == "shape":
            self._choose_shape(thing.key)
        elif thing.kind == "step":
            self.steps.open_only(thing.key)
        elif thing.kind == "finishes":
            self.steps.look.apply_set(thing.key)
        elif thing.kind == "help":
            window = HelpWindow(self._window)
            window.show_page(next(page for page in pages() if page.name == thing.key))
            window.show()
        else:
            self._go_to(thing.key)

    def _trigger(self, thing: Findable) -> None:
        action = self._actions[thing.key]
        if action.isEnabled():
            action.trigger()
        else:
            self._session.problem_found.emit(f"{thing.title} cannot be done in this view")

    def _go_to(self, key: str) -> None:
        step, widget = self._controls[key]
        self.steps.open_only(step)
        if widget.isVisible() and widget.isEnabled():
            widget.setFocus(Qt.FocusReason.TabFocusReason)
        else:
            name, title = widget.accessibleName(), self.steps.cards[step].title
            self._session.noted.emit(f"{name} appears in {title} once there is something for it to change")
