"""Balance, worked out off the GUI thread: looked at before it is taken, and asked why not all is
met."""

from PySide6.QtCore import QObject, QPoint

from umber_compass.plan.model import Plan
from umber_compass.plan.wish_edits import switch_wish
from umber_compass.steps.checks import Fix
from umber_compass.steps.mending.balance import Balance, balance, conflict_of
from umber_compass.steps.mending.programme import Constraint
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.values.balance_bar import BalanceBar
from umber_compass.window.benches.values.ladder import Ladder
from umber_compass.window.desk.worker import error_line
from umber_compass.work import Tick


class Balancing(QObject):
    """Joins the bar, the ladder's ghosts, the stage and the small views."""

    def __init__(self, parts: WindowParts, bar: BalanceBar, ladder: Ladder) -> None:
        super().__init__(bar)
        self._parts, self._bar, self._ladder = parts, bar, ladder
        self._known: tuple[Plan, Balance] | None = None
        self._looking, self._taking = False, False
        self._shown = False  # whether it is looked at now
        bar.looked.connect(self._look)
        bar.taken.connect(self._take)
        bar.asked_why.connect(self._ask_why)
        bar.let_go.connect(lambda name, text: parts.desk.do(switch_wish(name, False, text)))
        parts.desk.painted.connect(self._on_changed)

    def _plan(self) -> Plan | None:
        derived = self._parts.desk.derived
        return None if derived is None else derived.plan

    @property
    def _found(self) -> Balance | None:
        """What balancing the plan that is on would do, where it is known."""
        known = self._known
        return known[1] if known is not None and known[0] is self._plan() else None

    def _on_changed(self) -> None:
        if self._known is not None and self._found is None:
            self._known = None
            self._bar.show_balance(None)
            self._show(None)

    def _look(self, begins: bool) -> None:
        self._looking = begins
        if not begins:
            self._show(None)
        elif self._found is not None:
            self._show(self._found)
        else:
            self._ask()

    def _take(self) -> None:
        found = self._found
        if found is None:
            self._taking = True
            self._ask()
            return
        self._taking = False
        self._show(None)
        self._parts.desk.seal()
        if found.moved:
            self._parts.desk.do(found.edit)
        else:
            self._parts.desk.told.emit(str(found.says), False)

    def _ask(self) -> None:
        derived = self._parts.desk.derived
        if derived is None:
            return
        plan = derived.plan

        def work(tick: Tick) -> tuple[Plan, Balance]:
            return plan, balance(derived.of(plan), tick=tick)

        says = self.tr("Balancing values")
        self._parts.desk.worker.ask("balance", work, self._answer, self._failed, says)

    def _answer(self, answer: tuple[Plan, Balance]) -> None:
        self._known = answer
        found = self._found
        if found is None:
            return
        self._bar.show_balance(found)
        if self._taking:
            self._take()
        elif self._looking:
            self._show(found)

    def _show(self, found: Balance | None) -> None:
        """The ghosts, the stage and the small views, of what is looked at or of the plan."""
        moved = () if found is None else found.moved
        self._ladder.show_ghosts({m.region: m.after - m.before for m in moved})
        fix = None if found is None or not moved else Fix("balance", found.says, found.edit)
        if fix is not None or self._shown:
            self._parts.peeking.look(fix)
        self._shown = fix is not None

    def _ask_why(self) -> None:
        derived = self._parts.desk.derived
        if derived is not None:
            self._parts.desk.worker.ask(
                "conflict",
                lambda tick: conflict_of(derived.of(derived.plan)),
                self._show_why,
                self._failed,
                self.tr("Looking for what contradicts"),
            )

    def _show_why(self, conflict: list[Constraint]) -> None:
        menu = self._bar.menu_of(conflict)
        menu.popup(self._bar.why.mapToGlobal(QPoint(0, self._bar.why.height())))

    def _failed(self, error: Exception) -> None:
        self._taking = False
        self._parts.desk.told.emit(error_line(error), True)
