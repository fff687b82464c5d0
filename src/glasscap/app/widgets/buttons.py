"""Push buttons with an icon, check boxes, choices of one, and an action's button."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QCheckBox,
    QHBoxLayout,
    QPushButton,
    QToolButton,
    QWidget,
)

from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.widgets.flow import FlowLayout
from glasscap.app.widgets.line_field import give_keys_back


def push(text: str, on_click: Callable[[], object], *, icon_name: str = "", style: str = "") -> QPushButton:
    """Return a button; its accessible name is its text."""
    made = QPushButton(text)
    made.setAccessibleName(text)
    if style:
        made.setObjectName(style)
    if icon_name:
        colour = colours().on_teal if style == "primary" else colours().ink
        made.setText(f" {text}")
        made.setIcon(icon(icon_name, colour))
        made.setIconSize(QSize(16, 16))
    made.clicked.connect(lambda: on_click())
    made.setCursor(Qt.CursorShape.ArrowCursor)
    made.setAutoDefault(False)
    leave_keys(made)
    return made


def leave_keys(button: QAbstractButton) -> None:
    """Let a click leave the keys to the bench: what was typed in a field is taken before the button works."""
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    button.pressed.connect(lambda: None if button.hasFocus() else give_keys_back(button))


def tool(icon_name: str, name: str, on_click: Callable[[], object], *, style: str = "") -> QToolButton:
    """Return an icon button; `name` is its tooltip and accessible name."""
    made = QToolButton()
    made.setIcon(icon(icon_name, colours().ink))
    made.setIconSize(QSize(16, 16))
    made.setToolTip(name)
    made.setAccessibleName(name)
    leave_keys(made)
    if style:
        made.setObjectName(style)
    made.clicked.connect(lambda: on_click())
    return made


class CheckBox(QCheckBox):
    """A check box that leaves the keys to the bench when it is clicked."""

    def __init__(self, text: str) -> None:
        super().__init__(text)
        leave_keys(self)


class Choice(QWidget):
    """Buttons of which one is down."""

    def __init__(
        self,
        name: str,
        choices: Sequence[tuple[str, str]],
        on_choice: Callable[[str], object],
        *,
        is_tight: bool = False,
        wraps: bool = False,
    ) -> None:
        super().__init__()
        self.setAccessibleName(name)
        row: QHBoxLayout | FlowLayout = FlowLayout(4) if wraps else QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4 if is_tight else 6)
        self.setLayout(row)
        self._group = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        for key, text in choices:
            made = push(text, lambda key=key: on_choice(key))  # type: ignore[misc]
            made.setCheckable(True)
            if is_tight:
                made.setProperty("tight", True)
            made.setAccessibleName(f"{name}: {text}")
            self._group.addButton(made)
            self.buttons[key] = made
            row.addWidget(made)
        if isinstance(row, QHBoxLayout):
            row.addStretch(1)

    def show_choice(self, key: str | None) -> None:
        """Press the button of a choice without telling; None for no button."""
        self._group.setExclusive(key is not None)
        for name, made in self.buttons.items():
            made.setChecked(name == key)
