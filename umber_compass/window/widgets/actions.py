"""Actions: each is one record with its words, its condition, what it does and every place where it
is found. Menus, keys, context menus and buttons are made from them, so that an act is the same
wherever it is found."""

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple, TypeAlias

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

Condition: TypeAlias = Callable[[], bool]


def always() -> bool:
    """On at all times."""
    return True


class Place(NamedTuple):
    """Where an action is found: a menu of the bar by its title, or one that is opened elsewhere, by
    a name in small letters; lines part groups; what has a title of its own is a menu within."""

    menu: str
    group: str
    within: str = ""


class Action(NamedTuple):
    """One action. `places` are written `Menu/group` or `menu/group/Menu within`."""

    name: str
    text: str
    run: Callable[[], object]
    places: tuple[str, ...]
    keys: str = ""
    when: str = "always"  # the name of its condition
    ticked: Condition | None = None  # whether it has a tick, as things stand
    checkable: bool = False  # whether it is given a tick and has it taken away by `check`
    now: Callable[[], str] | None = None  # its text as things stand, where that is another

    @property
    def words(self) -> str:
        """Its text as things stand."""
        return self.text if self.now is None else self.now()

    @property
    def found_in(self) -> list[Place]:
        """Every place of a menu where it is found."""
        return [Place(*place.split("/")) for place in self.places]


class Actions:
    """The window's actions by name, and the menus that are made from them. `before` is done before
    any action."""

    def __init__(
        self,
        window: QMainWindow,
        before: Callable[[], object] = always,
        conditions: Mapping[str, Condition] | None = None,
    ) -> None:
        self._window, self._before = window, before
        self.conditions: dict[str, Condition] = {"always": always, **(conditions or {})}
        self._menus: dict[str, QMenu] = {}
        self._groups: dict[str, str] = {}
        self.specs: dict[str, Action] = {}
        self.of: dict[str, QAction] = {}

    def fill(self, table: Iterable[Action]) -> None:
        """Register actions and make their menus in the bar."""
        for action in table:
            self.register(action)
        self.refresh()

    def register(self, spec: Action) -> Callable[[], None]:
        """Take one action up, in the bar where it has a place there; gives what takes it away
        again. Raises ValueError if its name is there already, KeyError if its condition is none."""
        if spec.name in self.specs:
            raise ValueError(f"two actions are called {spec.name}")
        self.conditions[spec.when]  # that it is known
        action = QAction(self._window)
        self._dress(action, spec)
        action.setShortcut(QKeySequence(spec.keys))
        for place in spec.found_in:
            if place.menu[0].isupper():
                self._in_bar(place).addAction(action)
        self._window.addAction(action)  # its keys are heard wherever it is found
        self.specs[spec.name], self.of[spec.name] = spec, action

        def undo() -> None:
            del self.specs[spec.name], self.of[spec.name]
            action.deleteLater()

        return undo

    def _in_bar(self, place: Place) -> QMenu:
        if place.menu not in self._menus:
            self._menus[place.menu] = self._window.menuBar().addMenu(self._window.tr(place.menu))
            self._groups[place.menu] = place.group
        menu = self._menus[place.menu]
        if self._groups[place.menu] != place.group:
            menu.addSeparator()
            self._groups[place.menu] = place.group
        return menu

    def _dress(self, action: QAction, spec: Action) -> None:
        """The words and the tick of an action, as things stand."""
        action.setText(self._window.tr(spec.words))
        action.setCheckable(spec.checkable or spec.ticked is not None)
        action.triggered.connect(lambda _=False: self._on_triggered(action, spec))

    def _on_triggered(self, action: QAction, spec: Action) -> None:
        if spec.ticked is not None:
            action.setChecked(spec.ticked())  # what it does decides, not the click
        self.run(spec.name)

    def add_to(self, menu: QMenu, name: str) -> None:
        """Add to a menu that is opened elsewhere what has a place in it."""
        within: dict[str, QMenu] = {}
        last = ""
        for spec in self.specs.values():
            for place in spec.found_in:
                if place.menu != name:
                    continue
                if last and place.group != last:
                    menu.addSeparator()
                last, held = place.group, menu
                if place.within:
                    if place.within not in within:
                        within[place.within] = menu.addMenu(self._window.tr(place.within))
                    held = within[place.within]
                action = QAction(held)
                self._dress(action, spec)
                if spec.ticked is not None:
                    action.setChecked(spec.ticked())
                action.setEnabled(self.conditions[spec.when]())
                held.addAction(action)

    def attach(self, menu: QMenu, name: str) -> None:
        """Have a menu always hold what has a place in it, as things stand when it is opened."""

        def fill() -> None:
            menu.clear()
            self.add_to(menu, name)

        menu.aboutToShow.connect(fill)
        fill()

    def menu(self, name: str) -> QMenu:
        """A menu of the bar, for what changes while the window is open."""
        return self._menus[name]

    def run(self, name: str) -> None:
        """Do what an action does, if it is on."""
        spec = self.specs[name]
        if self.conditions[spec.when]():
            self._before()
            spec.run()

    def check(self, name: str, on: bool) -> None:
        """Tick an action, or take its tick away."""
        self.of[name].setChecked(on)

    def refresh(self, *names: str) -> None:
        """The words, tick and condition of some actions, or of all, as things stand."""
        for name in names or self.specs:
            spec, action = self.specs[name], self.of[name]
            action.setEnabled(self.conditions[spec.when]())
            if spec.now is not None:
                action.setText(self._window.tr(spec.words))
            if spec.ticked is not None:
                action.setChecked(spec.ticked())
