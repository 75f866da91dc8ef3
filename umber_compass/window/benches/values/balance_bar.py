"""Balance: one button, what it would do, and what could not be met together."""

from PySide6.QtCore import QEvent, QObject, Signal
from PySide6.QtWidgets import QMenu, QPushButton, QToolButton, QWidget

from umber_compass.steps.mending.balance import Balance
from umber_compass.steps.mending.programme import Constraint
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.timers import single_shot

_LOOK_AFTER = 150  # ms of rest on the button


class BalanceBar(QWidget):
    """Says when it is looked at, taken, or asked for its conflicts."""

    looked = Signal(bool)  # begins or ends
    taken = Signal()
    asked_why = Signal()
    let_go = Signal(str, str)  # a constraint's name and what it says

    def __init__(self) -> None:
        super().__init__()
        self.button = QPushButton(self.tr("Balance values"))
        self.button.setObjectName("fix")
        self.button.setToolTip(
            self.tr(
                "Move values by the least that meets the wishes. Hover to preview it on the "
                "ladder, on the stage and in grey."
            )
        )
        self.button.installEventFilter(self)
        self.button.clicked.connect(self.taken)
        self.says = quiet("")
        self.says.setWordWrap(True)
        self.why = QToolButton()
        self.why.setText(self.tr("why?"))
        self.why.setToolTip(
            self.tr("Which wishes cannot be met together, each with its off switch")
        )
        self.why.clicked.connect(self.asked_why)
        self.why.setVisible(False)
        in_row(self.button, (self.says, 1), self.why, gap=8, on=self)
        self._timer = single_shot(self, _LOOK_AFTER, lambda: self.looked.emit(True))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self._timer.start()
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self._timer.stop()
            self.looked.emit(False)
        return super().eventFilter(watched, event)

    def show_balance(self, found: Balance | None) -> None:
        """What balancing would do; None while it is not known."""
        self.why.setVisible(found is not None and bool(found.dropped))
        if found is None:
            self.says.setText("")
            return
        moves = len(found.moved)
        line = self.tr("all wishes are met") if not moves and not found.dropped else ""
        if moves:
            line = self.tr("moves {count} values, on the mean by {change:.3f} OKLab").format(
                count=moves, change=found.change / 100
            )
        if found.dropped:
            cannot = self.tr("{count} wishes cannot be met").format(count=len(found.dropped))
            line = f"{line}; {cannot}" if line else cannot
        self.says.setText(line)

    def menu_of(self, conflict: list[Constraint]) -> QMenu:
        """The constraints that cannot be met together: each is let go of by a click."""
        menu = QMenu(self)
        head = self.tr("These cannot all be met; let go of one:")
        if not conflict:
            head = self.tr("Each can be met alone, but what is locked or fixed forbids it")
        menu.addSection(head)
        title = menu.addAction(head)
        title.setEnabled(False)
        for constraint in conflict:
            action = menu.addAction(str(constraint.text))
            action.triggered.connect(
                lambda _=False, d=constraint: self.let_go.emit(d.name, str(d.text))
            )
        return menu
