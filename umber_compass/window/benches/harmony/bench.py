"""The harmony bench: the scheme as a sentence, the rose, the shares."""

from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QToolButton,
    QWidget,
)

from umber_compass.colour.wheels import WHEELS
from umber_compass.plan.harmony_edits import (
    set_spread,
    set_wished_share,
    turn_family,
    turn_lead,
)
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.rose import family_turn
from umber_compass.steps.harmony.scheme_edits import WHEEL_TITLES, choose_scheme, choose_wheel
from umber_compass.steps.harmony.schemes import SCHEMES
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.benches.harmony.rose import Rose
from umber_compass.window.benches.harmony.shares import Shares
from umber_compass.window.widgets.fields import NumberField


class HarmonyBench(Bench):
    """One hue leads; drag it and the picture turns."""

    def __init__(self) -> None:
        super().__init__("Harmony")
        self._plan_scheme = ""
        self._wheel = "painter"
        self.column.addLayout(self._build_sentence())
        self.column.addLayout(self._build_wheels())
        self.rose = Rose()
        self.column.addWidget(self.rose, 1)
        self.shares = Shares()
        self.column.addWidget(self.shares)
        self.given = quiet("")
        self.given.setWordWrap(True)
        self.column.addWidget(self.given)
        self._connect()

    def _build_sentence(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.supports, self.answers = QToolButton(), QToolButton()
        for button, name in (
            (self.supports, self.tr("What supports")),
            (self.answers, self.tr("What answers")),
        ):
            button.setObjectName("word")
            button.setAccessibleName(name)
            button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
            button.setMenu(QMenu(button))
        for widget in (
            QLabel(self.tr("One hue leads,")),
            self.supports,
            QLabel(self.tr("support,")),
            self.answers,
            QLabel(self.tr("answers.")),
        ):
            line.addWidget(widget)
        line.addStretch(1)
        return line

    def _build_wheels(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(quiet(self.tr("Wheel")))
        group = QButtonGroup(self)
        self.wheels: dict[str, QPushButton] = {}
        for wheel in WHEELS:
            button = QPushButton(WHEEL_TITLES[wheel])
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, w=wheel: self.edit_wanted.emit(choose_wheel(w)))
            group.addButton(button)
            line.addWidget(button)
            self.wheels[wheel] = button
        line.addStretch(1)
        self.lead = NumberField(
            self.tr("Lead, wheel degrees"),
            -1,
            360,
            "°",
            says=self.tr("Where the leading hue stands on the wheel, 0 at the top, clockwise."),
        )
        self.spread = NumberField(
            self.tr("Spread, wheel degrees"),
            5,
            90,
            "°",
            says=self.tr("How far the neighbours, or the halves of a split opposite, stand apart."),
        )
        for text, field in ((self.tr("lead"), self.lead), (self.tr("spread"), self.spread)):
            line.addWidget(quiet(text))
            line.addWidget(field)
        return line

    def _connect(self) -> None:
        self.rose.turned.connect(lambda a: self.edit_wanted.emit(turn_lead(a)))
        self.rose.spread.connect(lambda d: self.edit_wanted.emit(set_spread(d)))
        self.rose.family.connect(self._turn_family)
        self.rose.pointed.connect(self.pointed)
        self.lead.wanted.connect(lambda a: self.edit_wanted.emit(turn_lead(a)))
        self.spread.wanted.connect(lambda d: self.edit_wanted.emit(set_spread(d)))
        self.shares.wished.connect(lambda s, x: self.edit_wanted.emit(set_wished_share(s, x)))
        for part in (self.rose, self.shares):
            part.began.connect(self.drag_began)
            part.ended.connect(self.drag_ended)

    def _turn_family(self, slot: Slot, start: float, end: float) -> None:
        turn = family_turn(self._wheel, start, end)
        self.edit_wanted.emit(turn_family(slot, turn))

    def first_focus(self) -> QWidget | None:
        return self.rose

    def show_derived(self, derived: Derived, selected: str) -> None:
        scheme = derived.scheme
        spec = SCHEMES[scheme.name]
        self._wheel = scheme.wheel
        self.says.setText(
            self.tr("{scheme}, lead at {lead:.0f}°").format(scheme=spec.title, lead=scheme.lead_deg)
        )
        self.supports.setText(spec.supports)
        self.answers.setText(spec.answers)
        if self._plan_scheme != scheme.name:
            self._plan_scheme = scheme.name
            self._fill_menus(scheme.name)
        self.wheels[scheme.wheel].setChecked(True)
        self.lead.show_number(scheme.lead_deg)
        self.spread.show_number(scheme.spread_deg)
        self.spread.setEnabled(bool(spec.spread_deg))
        self.rose.show_parts(derived.rose, selected)
        self.shares.show_rows(derived.slot_shares)
        self.given.setText(self._given(derived))

    def _fill_menus(self, name: str) -> None:
        """Each word's choices lead to the scheme that keeps the other word if it can."""
        now = SCHEMES[name]
        for button, word, kept in (
            (self.supports, "supports", now.answers),
            (self.answers, "answers", now.supports),
        ):
            menu = button.menu()
            menu.clear()
            other = "answers" if word == "supports" else "supports"
            for choice in dict.fromkeys(getattr(s, word) for s in SCHEMES.values()):
                fitting = [s for s in SCHEMES.values() if getattr(s, word) == choice]
                best = next((s for s in fitting if getattr(s, other) == kept), fitting[0])
                action = menu.addAction(f"{choice}  ({best.title})")
                action.triggered.connect(
                    lambda _=False, n=best.name: self.edit_wanted.emit(choose_scheme(n))
                )

    def _given(self, derived: Derived) -> str:
        if not derived.given:
            return self.tr("No colour is given. Pin one that must stay (Region menu).")
        return self.tr("Given, and staying as the scheme turns: {names}.").format(
            names=", ".join(derived.given)
        )
