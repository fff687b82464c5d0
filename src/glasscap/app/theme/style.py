"""The style sheet, from a set of colours."""

from functools import cache

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.theme.colours import DARK, LIGHT, Colours
from glasscap.app.theme.fonts import MEDIUM, REGULAR, STRONG, font
from glasscap.app.theme.shipped import DATA

_SHEET = """
QWidget {{ color: {ink}; font-family: "{regular}"; font-size: 13px; }}
QToolTip {{ background: {card}; color: {ink}; border: 1px solid {line}; padding: 4px 6px; }}
#panel, #steps, #proof {{ background: {panel}; }}
#steps {{ border-right: 1px solid {line}; }}
#proof {{ border-left: 1px solid {line}; }}
#topbar {{ background: {card}; border-bottom: 1px solid {line}; }}
#tray {{ background: {card}; border-top: 1px solid {line}; }}
#card {{ background: {card}; border: 1px solid {line}; border-radius: 8px; }}
#light_row {{ background: {field}; border: 1px solid {line}; border-radius: 7px; }}
#light_row[is_chosen="true"] {{ background: {teal_soft}; border-color: {teal}; }}
#list {{ background: {field}; border: 1px solid {line}; border-radius: 7px; }}
#popup {{ background: {card}; border: 1px solid {line}; }}
#library {{ background: {card}; border: 1px solid {line}; border-radius: 12px; }}
#shapegrid {{ background: transparent; border: none; outline: none; }}
#shapegrid::item:selected {{ background: {teal_soft}; border-radius: 6px; }}
QToolButton#split {{ min-width: 34px; }}
QToolButton#split::menu-button {{ border: none; width: 13px; }}
QToolButton#split::menu-arrow {{ image: url("{chevron}"); width: 11px; height: 11px; }}
#startcard {{ background: {card}; border-radius: 14px; }}
#bar {{ background: {card}; border-radius: 20px; }}
#toast {{ background: {ink}; border-radius: 9px; }}
#toast QLabel {{ color: {card}; }}
#toast QPushButton {{ background: transparent; border: none; color: {card}; text-decoration: underline; }}
#verdict {{ background: {amber_soft}; border: 1px solid {amber}; border-radius: 8px; padding: 8px; }}
#quiet {{ background: {field}; border: 1px solid {line}; border-radius: 8px; padding: 8px; }}
#done {{ background: {teal_soft}; border: 1px solid {teal}; border-radius: 8px; padding: 8px; }}
QLabel#muted {{ color: {muted}; font-size: 12px; }}
QLabel#small {{ color: {muted}; font-size: 11px; }}
QLabel#lead {{ color: {muted}; font-size: 14px; }}
QLabel#strong {{ font-family: "{strong}"; }}
QLabel#amber {{ color: {amber}; font-family: "{medium}"; }}
QLabel#title {{ font-family: "{strong}"; font-size: 26px; }}
QLabel#error {{ color: {amber}; font-size: 12px; }}
QLabel:disabled {{ color: {muted}; }}
QPushButton, QToolButton {{
    background: {field}; border: 1px solid {line}; border-radius: 7px; padding: 0 11px;
    min-height: 26px; font-family: "{medium}"; }}
QToolButton#set, QToolButton#set:focus {{ min-width: 60px; min-height: 76px; font-size: 10px; padding: 1px; }}
QPushButton[tight="true"], QPushButton[tight="true"]:checked {{ padding: 0 5px; font-size: 12px; }}
QToolButton {{ padding: 0; min-width: 26px; }}
QPushButton:hover, QToolButton:hover {{ border-color: {muted}; }}
QPushButton:focus, QToolButton:focus {{ border: 1px dashed {ink}; }}
QPushButton:checked:focus, QToolButton:checked:focus {{ border: 2px dashed {ink}; }}
QPushButton:pressed, QToolButton:pressed {{ background: {teal_soft}; }}
QPushButton:checked, QToolButton:checked {{ background: {teal_soft}; border: 2px solid {teal}; padding: 0 10px;
    min-height: 24px; }}
QToolButton:checked {{ padding: 0; min-width: 24px; }}
QPushButton:disabled, QToolButton:disabled {{ color: {muted}; background: {panel}; }}
QPushButton#primary {{ background: {teal}; border-color: {teal}; color: {on_teal}; font-family: "{strong}"; }}
QPushButton#primary:disabled {{ background: {muted}; border-color: {muted}; color: {panel}; }}
QPushButton#primary:focus {{ border: 2px solid {ink}; padding: 0 10px; min-height: 24px; }}
QPushButton#link {{ background: transparent; border: none; color: {teal}; padding: 0; text-align: left; }}
QPushButton#link:focus {{ text-decoration: underline; }}
QPushButton#flat, QToolButton#flat {{ background: transparent; border: 1px solid transparent; }}
QPushButton#flat:focus, QToolButton#flat:focus {{ border: 1px dashed {ink}; }}
QPushButton#flat:hover, QToolButton#flat:hover {{ background: {panel}; }}
QPushButton#flat::menu-indicator, QToolButton#flat::menu-indicator {{ image: none; width: 0; }}
#bar QPushButton {{ background: transparent; border: 1px solid transparent; border-radius: 16px;
    min-height: 32px; padding: 0 13px; }}
#bar QPushButton:disabled {{ background: transparent; color: {line}; }}
#bar QPushButton:hover {{ background: {panel}; }}
#bar QPushButton:focus {{ border: 1px dashed {ink}; }}
#bar QPushButton:checked {{ background: {teal}; color: {on_teal}; border: 1px solid {teal}; padding: 0 13px;
    min-height: 32px; }}
#bar QPushButton:checked:focus {{ border: 2px solid {ink}; padding: 0 12px; min-height: 30px; }}
#bar QPushButton#link {{ color: {teal}; padding: 0 6px; }}
QLineEdit {{ background: {field}; border: 1px solid {line}; border-radius: 7px; padding: 0 7px;
    min-height: 26px; selection-background-color: {teal}; selection-color: {on_teal}; }}
QPlainTextEdit {{ background: {field}; border: 1px solid {line}; border-radius: 7px; padding: 2px 4px;
    selection-background-color: {teal}; selection-color: {on_teal}; }}
QPlainTextEdit:focus {{ border: 1px solid {teal}; }}
QLineEdit:focus {{ border: 1px solid {teal}; }}
QLineEdit[wrong="true"] {{ border: 1px solid {amber}; background: {amber_soft}; }}
QLineEdit:disabled {{ color: {muted}; background: {panel}; }}
QComboBox {{ background: {field}; border: 1px solid {line}; border-radius: 7px; padding: 0 8px;
    min-height: 26px; }}
QComboBox:focus {{ border: 1px solid {teal}; }}
QComboBox::drop-down {{ border: none; width: 22px; }}
QComboBox::down-arrow {{ image: url("{chevron}"); width: 14px; height: 14px; }}
QComboBox QAbstractItemView {{ background: {card}; border: 1px solid {line};
    selection-background-color: {teal_soft}; selection-color: {ink}; outline: none; }}
QTreeWidget#names {{ background: {field}; border: 1px solid {line}; border-radius: 6px; outline: none; }}
QTreeWidget#names::item {{ padding: 5px 8px; color: {ink}; }}
QTreeWidget#names::item:selected {{ background: {teal_soft}; color: {ink}; }}
QListWidget#names {{ background: transparent; border: none; outline: none; }}
QListWidget#names::item {{ min-height: 28px; padding: 0 8px; border-radius: 7px; color: {ink}; }}
QListWidget#names::item:selected {{ background: {teal_soft}; color: {ink}; }}
QSlider {{ min-height: 22px; background: transparent; }}
QSlider::groove:horizontal {{ height: 4px; background: {line}; border-radius: 2px; }}
QSlider::sub-page:horizontal {{ background: {teal}; border-radius: 2px; }}
QSlider::handle:horizontal {{ width: 12px; height: 12px; margin: -6px 0; border-radius: 8px;
    border: 2px solid {teal}; background: {field}; }}
QSlider::sub-page:horizontal:disabled {{ background: {line}; }}
QSlider::handle:horizontal:disabled {{ border-color: {line}; background: {panel}; }}
QSlider::handle:horizontal:focus {{ background: {teal_soft}; }}
QCheckBox {{ spacing: 7px; min-height: 24px; }}
QCheckBox::indicator {{ width: 14px; height: 14px; border: 1px solid {muted}; border-radius: 4px;
    background: {field}; }}
QCheckBox::indicator:checked {{ background: {teal}; border-color: {teal}; image: url("{check}"); }}
QCheckBox:disabled {{ color: {muted}; }}
QCheckBox::indicator:disabled {{ border-color: {line}; background: {panel}; }}
QCheckBox::indicator:checked:disabled {{ border-color: {muted}; background: {muted}; }}
QCheckBox:focus {{ text-decoration: underline; }}
QMenu {{ background: {card}; border: 1px solid {line}; padding: 5px; }}
QMenu::item {{ padding: 5px 22px 5px 12px; border-radius: 5px; }}
QMenu::item:selected {{ background: {teal_soft}; }}
QMenu::item:disabled {{ color: {muted}; }}
QMenu::separator {{ height: 1px; background: {line}; margin: 4px 6px; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
QScrollBar:vertical {{ width: 10px; background: transparent; }}
QScrollBar:horizontal {{ height: 10px; background: transparent; }}
QScrollBar::handle {{ background: {line}; border-radius: 4px; min-height: 24px; min-width: 24px; margin: 1px; }}
QScrollBar::handle:hover {{ background: {muted}; }}
QScrollBar::handle:disabled {{ background: transparent; }}
QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
QDialog, QMessageBox {{ background: {panel}; }}
QProgressBar {{ background: {line}; border: none; border-radius: 4px; max-height: 8px; min-height: 8px; }}
QProgressBar::chunk {{ background: {teal}; border-radius: 4px; }}
"""


def is_dark() -> bool:
    """Whether the desktop asks for dark."""
    return QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark


@cache
def _with_surround(base: Colours, grey: int | None) -> Colours:
    return base if grey is None else replace(base, surround=f"#{grey:02x}{grey:02x}{grey:02x}")


_preferred: dict[str, int | None] = {"surround": None}
# The desktop's scheme when the application was dressed: asking at every repaint is slow.
_dressed = {"is_dark": False}


def set_surround(grey: int | None) -> None:
    """Prefer a grey (0 to 255) around the sheet, None for the theme's."""
    _preferred["surround"] = grey


def colours() -> Colours:
    """Return the colours that follow the desktop, with the preferred grey around the sheet."""
    return _with_surround(DARK if _dressed["is_dark"] else LIGHT, _preferred["surround"])


def style_sheet(chosen: Colours) -> str:
    """Return the style sheet for a set of colours."""
    icons = DATA / "icons"
    values = {name: getattr(chosen, name) for name in Colours.__struct_fields__}
    return _SHEET.format(
        regular=REGULAR,
        medium=MEDIUM,
        strong=STRONG,
        check=icons / "check-on-teal.svg",
        chevron=icons / "chevron-muted.svg",
        **values,
    )


def apply_theme(app: QApplication) -> None:
    """Give the application its font and colours; call again when the desktop's scheme changes."""
    _dressed["is_dark"] = is_dark()
    chosen = colours()
    app.setFont(font(13))
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, chosen.panel),
        (QPalette.ColorRole.Base, chosen.field),
        (QPalette.ColorRole.Text, chosen.ink),
        (QPalette.ColorRole.WindowText, chosen.ink),
        (QPalette.ColorRole.ButtonText, chosen.ink),
        (QPalette.ColorRole.Button, chosen.card),
        (QPalette.ColorRole.Highlight, chosen.teal),
        (QPalette.ColorRole.HighlightedText, chosen.on_teal),
        (QPalette.ColorRole.PlaceholderText, chosen.muted),
        (QPalette.ColorRole.Link, chosen.teal),
    ):
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)


def dress(window: QWidget) -> None:
    """Give a window, and all that is put into it, the style sheet; call again when the desktop's scheme changes.

    The application itself has none: each part of a view would be styled anew with every layout it is put into
    before it is in the window, which takes five times as long as to make it.
    """
    window.setStyleSheet(style_sheet(colours()))
