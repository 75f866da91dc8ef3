"""Three neutral rooms, one type family, one grid. No tint and no accent anywhere: colour on screen
belongs to the artist's picture."""

from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication, QToolTip

FOLDER = Path(__file__).parents[2] / "assets"
FAMILY = "Source Sans 3"


class Room(NamedTuple):
    """One grey surround with its inks; every pair of text and ground is 4.5 : 1 or better."""

    name: str
    title: str
    ground: str
    edge: str  # the route's ground
    card: str  # what a check or a field stands on
    well: str  # the empty part of a bar
    line: str
    ink: str
    quiet: str  # ink for what is secondary


# Greys near Munsell N7, N4 and N2; the night room is darker than ISO 3664's surround on purpose.
ROOMS = {
    r.name: r
    for r in (
        Room(
            "gallery",
            "Gallery",
            "#b4b4b4",
            "#aaaaaa",
            "#c1c1c1",
            "#9c9c9c",
            "#6f6f6f",
            "#141414",
            "#363636",
        ),
        Room(
            "studio",
            "Studio",
            "#5e5e5e",
            "#565656",
            "#686868",
            "#464646",
            "#9a9a9a",
            "#fafafa",
            "#ececec",
        ),
        Room(
            "night",
            "Night",
            "#363636",
            "#2f2f2f",
            "#404040",
            "#222222",
            "#777777",
            "#e6e6e6",
            "#c0c0c0",
        ),
    )
}


class Application(QApplication):
    """The application, which knows the room that is on."""

    room = ROOMS["gallery"]


class Theme:
    """The room that is on, as the application knows it."""

    @property
    def room(self) -> Room:
        """The room that is on; the gallery before any was entered."""
        application = QApplication.instance()
        return application.room if isinstance(application, Application) else Application.room

    def colour(self, part: str) -> QColor:
        """A part of the room, as `ink` or `well`."""
        return _colour(getattr(self.room, part))


@lru_cache(64)
def _colour(text: str) -> QColor:
    return QColor(text)


THEME = Theme()


def load_fonts() -> None:
    """Make the shipped type family known to the application."""
    for file in sorted(Path(FOLDER / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


@lru_cache(32)
def font(px: int = 13, strong: bool = False) -> QFont:
    """The type family at a size in px; not to be changed, for others have the same."""
    made = QFont(FAMILY)
    made.setPixelSize(px)
    made.setWeight(QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
    return made


def enter(application: Application, name: str) -> None:
    """Change the room."""
    application.room = ROOMS[name]
    application.setPalette(palette())
    application.setFont(font())
    QToolTip.setPalette(palette())


def palette() -> QPalette:
    """The colours of the room that is on, as Qt names them."""
    room, made = THEME.room, QPalette()
    for role, part in (
        (QPalette.ColorRole.Window, room.ground),
        (QPalette.ColorRole.Base, room.card),
        (QPalette.ColorRole.Button, room.ground),
        (QPalette.ColorRole.ToolTipBase, room.ink),
        (QPalette.ColorRole.ToolTipText, room.ground),
        (QPalette.ColorRole.WindowText, room.ink),
        (QPalette.ColorRole.Text, room.ink),
        (QPalette.ColorRole.ButtonText, room.ink),
        (QPalette.ColorRole.Highlight, room.ink),
        (QPalette.ColorRole.HighlightedText, room.ground),
        (QPalette.ColorRole.PlaceholderText, room.quiet),
        (QPalette.ColorRole.Link, room.ink),
    ):
        made.setColor(role, QColor(part))
    for role in (
        QPalette.ColorRole.WindowText,
        QPalette.ColorRole.Text,
        QPalette.ColorRole.ButtonText,
    ):
        made.setColor(QPalette.ColorGroup.Disabled, role, QColor(room.line))
    return made


def sheet() -> str:
    """The style of the room that is on."""
    return _sheet(THEME.room)


def _icon(name: str, room: Room) -> str:
    kind = "dark" if QColor(room.ink).lightness() < 128 else "light"
    return (FOLDER / "icons" / f"{name}-{kind}.svg").as_posix()


@lru_cache(8)
def _sheet(room: Room) -> str:
    return f"""
* {{ font-family: '{FAMILY}'; font-size: 13px; color: {room.ink}; }}
QToolTip {{ background: {room.ink}; color: {room.ground}; border: 0; padding: 4px 8px; }}
QWidget#route {{ background: {room.edge}; }}
QLabel#quiet, QToolButton#quiet {{ color: {room.quiet}; font-size: 12px; }}
QLabel#title {{ font-size: 17px; font-weight: 600; }}
QLabel#heading {{ font-size: 14px; font-weight: 600; }}
QLabel#strong {{ font-weight: 600; }}
QLabel#hint {{ background: {room.ink}; color: {room.ground}; padding: 2px 12px; font-weight: 600; }}
QMenuBar {{ background: {room.edge}; padding: 0; }}
QMenuBar::item {{ padding: 4px 12px; background: transparent; }}
QMenuBar::item:selected, QMenu::item:selected {{ background: {room.ink}; color: {room.ground}; }}
QMenu {{ background: {room.card}; border: 1px solid {room.line}; padding: 4px 0; }}
QMenu::item {{ padding: 4px 24px; }}
QMenu::item:disabled {{ color: {room.line}; }}
QMenu::separator {{ height: 1px; background: {room.well}; margin: 4px 0; }}
QPushButton, QToolButton {{ background: transparent; border: 1px solid {room.ink};
  padding: 3px 10px; }}
QPushButton#small {{ padding: 0 8px; font-size: 12px; }}
QPushButton#chief {{ background: {room.ink}; color: {room.ground}; font-weight: 600;
  padding: 6px 12px; }}
QPushButton#chief:hover {{ background: {room.quiet}; }}
QTextBrowser, QListWidget {{ background: {room.card}; border: 0; padding: 4px; }}
QListWidget::item {{ padding: 4px 6px; }}
QListWidget::item:selected {{ background: {room.ink}; color: {room.ground}; }}
QSplitter::handle {{ background: transparent; }}
QPushButton#fix {{ font-weight: 600; }}
QPushButton:hover, QToolButton:hover {{ background: {room.card}; }}
QPushButton:checked, QToolButton:checked, QPushButton:pressed {{ background: {room.ink};
  color: {room.ground}; }}
QPushButton:disabled, QToolButton:disabled {{ color: {room.line}; border-color: {room.line}; }}
QPushButton:focus, QToolButton:focus {{ border: 2px solid {room.ink}; padding: 2px 9px; }}
QToolButton#word {{ border: 0; border-bottom: 2px solid {room.ink}; font-weight: 600;
  font-size: 14px; background: {room.card}; padding: 4px 10px; }}
QToolButton#word:focus {{ border: 2px solid {room.ink}; padding: 2px 8px; }}
QToolButton::menu-indicator,
QPushButton::menu-indicator {{ image: none; width: 0; }}
QToolButton#quiet {{ border: 0; padding: 0 2px; }}
QToolButton#fold {{ border: 0; padding: 2px 0; font-weight: 600; }}
QToolButton#fold:checked {{ background: transparent; color: {room.ink}; }}
QToolButton#fold:focus {{ border: 2px solid {room.ink}; }}
QToolButton#quiet:checked {{ color: {room.ground}; }}
QToolButton#quiet:focus {{ border: 1px solid {room.ink}; padding: 0 1px; }}
QLineEdit, QComboBox {{ background: {room.card}; border: 1px solid {room.card};
  border-bottom: 1px solid {room.line}; padding: 2px 6px; selection-background-color: {room.ink};
  selection-color: {room.ground}; }}
QLineEdit:focus, QComboBox:focus {{ border: 2px solid {room.ink};
  padding: 1px 5px; }}
QAbstractSpinBox QLineEdit, QAbstractSpinBox QLineEdit:focus {{ border: 0; padding: 0;
  background: transparent; }}
QComboBox::drop-down {{ border: 0; width: 18px; }}
QComboBox::down-arrow {{ image: url({_icon("chevron", room)}); width: 10px; height: 10px; }}
QComboBox QAbstractItemView {{ background: {room.card}; selection-background-color: {room.ink};
  selection-color: {room.ground}; }}
QCheckBox::indicator {{ width: 14px; height: 14px; border: 1px solid {room.ink}; }}
QCheckBox::indicator:checked {{ image: url({_icon("tick", room)}); }}
QCheckBox:focus {{ text-decoration: underline; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: 0; }}
QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
QScrollBar::handle:vertical {{ background: {room.well}; min-height: 32px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; }}
QFrame#check {{ background: {room.card}; }}
"""
