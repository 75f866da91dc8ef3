"""An action: its words, keys, place, when it is on and what it does; the table makes the menus."""

from collections.abc import Callable, Iterable
from typing import NamedTuple

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu


def always() -> bool:
    """On at all times."""
    return True


class Action(NamedTuple):
    """One action. In a menu a line is drawn before the first action of a new `group`."""

    name: str
    menu: str
    group: str
    text: str
    keys: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = always
    checkable: bool = False


class Actions:
    """The window's menus, made from the table."""

    def __init__(self, window: QMainWindow, before: Callable[[], object] = always) -> None:
        self._window, self._before = window, before  # `before` is done before any action
        self._menus: dict[str, QMenu] = {}
        self._groups: dict[str, str] = {}
        self.specs: dict[str, Action] = {}
        self.of: dict[str, QAction] = {}

    def fill(self, table: Iterable[Action]) -> None:
        """Make the menus. Raises ValueError if a name is there twice."""
        for action in table:
            self._add(action)
        self.refresh()

    def _add(self, spec: Action) -> None:
        if spec.name in self.specs:
            raise ValueError(f"two actions are called {spec.name}")
        if spec.menu not in self._menus:
            self._menus[spec.menu] = self._window.menuBar().addMenu(self._window.tr(spec.menu))
            self._groups[spec.menu] = spec.group
        menu = self._menus[spec.menu]
        if self._groups[spec.menu] != spec.group:
            menu.addSeparator()
            self._groups[spec.menu] = spec.group
        action = menu.addAction(self._window.tr(spec.text))
        action.setCheckable(spec.checkable)
        if spec.keys:
            action.setShortcut(QKeySequence(spec.keys))
        action.triggered.connect(lambda _=False, n=spec.name: self.run(n))
        self.specs[spec.name], self.of[spec.name] = spec, action

    def menu(self, name: str) -> QMenu:
        """A menu of the table, for what changes while the window is open."""
        return self._menus[name]

    def run(self, name: str) -> None:
        """Do what an action does, if it is on."""
        if self.specs[name].enabled():
            self._before()
            self.specs[name].run()

    def check(self, name: str, on: bool) -> None:
        """Tick an action, or take its tick away."""
        self.of[name].setChecked(on)

    def refresh(self) -> None:
        """Switch every action on or off as things stand."""
        for name, spec in self.specs.items():
            self.of[name].setEnabled(spec.enabled())
