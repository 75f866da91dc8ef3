"""The rose with its sentence, what the colours follow, and the pull into the scheme."""

from functools import partial

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
    add_hue,
    set_offset,
    turn_family,
)
from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import Slot
from umber_compass.steps.checks.check import listed, names
from umber_compass.steps.harmony.living import turn_lead
from umber_compass.steps.harmony.readings import NowReading
from umber_compass.steps.harmony.rose import family_turn
from umber_compass.steps.harmony.scheme_edits import (
    WHEEL_TITLES,
    choose_scheme,
    choose_wheel,
    drop_hue,
    take_scheme,
)
from umber_compass.steps.harmony.schemes import ALONE, FREE, SCHEMES, UNBOUND, spec_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.rose import Rose
from umber_compass.window.benches.harmony.shares import Shares
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.setting_field import SettingField
from umber_compass.words import words

_READINGS = 3


class WheelPage(Page):
    """One hue leads; drag it and the picture turns."""

    def __init__(self) -> None:
        super().__init__()
        self._plan_scheme = ""
        self._wheel, self._held = "painter", False
        self._derived: Derived | None = None
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.addLayout(self._build_sentence())
        self.column.addLayout(self._build_readings())
        self.column.addLayout(self._build_wheels())
        self.rose = Rose()
        self.column.addWidget(self.rose, 1)
        self.shares = Shares()
        self.column.addWidget(self.shares)
        self._connect()

    def _build_sentence(self) -> QHBoxLayout:
        self.supports, self.answers = QToolButton(), QToolButton()
        for button, name in (
            (self.supports, self.tr("Supporting hues")),
            (self.answers, self.tr("Answering hues")),
        ):
            button.setObjectName("word")
            button.setAccessibleName(name)
            button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
            button.setMenu(QMenu(button))
        self.support_words, self.answer_words = QLabel(), QLabel()
        return in_row(
            QLabel(self.tr("One hue leads,")),
            self.supports,
            self.support_words,
            self.answers,
            self.answer_words,
            1,
            gap=6,
        )

    def _build_readings(self) -> QHBoxLayout:
        """What the colours follow as they are: a click takes it, and no colour moves."""
        line = QHBoxLayout()
        line.setSpacing(4)
        self.read_as = quiet("")
        line.addWidget(self.read_as)
        self.readings = [QPushButton() for _ in range(_READINGS)]
        self.free = QPushButton(FREE)
        self.free.setToolTip(self.tr("The hues as they are, under no rule; no colour moves"))
        self.free.clicked.connect(self._take_free)
        for i, button in enumerate(self.readings):
            button.clicked.connect(partial(self._take_reading, i))
        for button in (*self.readings, self.free):
            button.setObjectName("small")
            line.addWidget(button)
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
            button.setObjectName("small")
            button.clicked.connect(lambda _=False, w=wheel: self.want(choose_wheel(w)))
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
        self.spread = SettingField("scheme.spread")
        self.spread_word = quiet(self.tr("spread"))
        self.add, self.drop = QPushButton("+"), QPushButton("−")
        self.add.setToolTip(self.tr("One more hue, in the widest gap"))
        self.drop.setToolTip(self.tr("One hue less; its colours stay as they are"))
        line.addWidget(quiet(self.tr("lead")))
        for widget in (self.lead, self.spread_word, self.spread, self.add, self.drop):
            line.addWidget(widget)
        return line

    def _connect(self) -> None:
        self.rose.turned.connect(lambda a: self.want(turn_lead(a)))
        self.rose.spread.connect(lambda d: self.want(change_setting("scheme.spread", d)))
        self.rose.moved.connect(lambda s, d: self.want(set_offset(s, d)))
        self.rose.family.connect(self._turn_family)
        self.rose.pointed.connect(self.pointed)
        self.lead.wanted.connect(lambda a: self.want(turn_lead(a)))
        self.spread.asked.connect(self.edit_wanted)
        self.add.clicked.connect(lambda: self.want(add_hue()))
        self.drop.clicked.connect(lambda: self.want(drop_hue()))
        self.shares.wished.connect(lambda s, x: self.want(change_setting("share.SLOT", x, s)))
        for part in (self.rose, self.shares):
            part.began.connect(lambda: self._hold(True))
            part.ended.connect(lambda: self._hold(False))

    def _hold(self, on: bool) -> None:
        """What the colours follow is for the eye at rest: in a drag the frame comes first."""
        self._held = on
        (self.began if on else self.ended).emit()

    def _turn_family(self, slot: Slot, start: float, end: float) -> None:
        self.want(turn_family(slot, family_turn(self._wheel, start, end)))

    def _take_reading(self, at: int) -> None:
        if self._derived is not None and at < len(self._derived.readings.ranked):
            taken = self._derived.readings.ranked[at]
            self.want(take_scheme(taken.scheme, taken.title))

    def _take_free(self) -> None:
        if self._derived is not None:
            self.want(take_scheme(self._derived.readings.own, FREE))

    def first_focus(self) -> QWidget | None:
        """The rose."""
        return self.rose

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        scheme = derived.scheme
        spec = spec_of(scheme)
        self._wheel = scheme.wheel
        self.supports.setText(spec.supports)
        self.answers.setText(spec.answers)
        self.support_words.setText(_AFTER.get(spec.supports, self.tr("support,")))
        self.answer_words.setText(_AFTER.get(spec.answers, self.tr("answers.")))
        if self._plan_scheme != scheme.name:
            self._plan_scheme = scheme.name
            self._fill_menus(scheme.name)
        self.wheels[scheme.wheel].setChecked(True)
        self.lead.show_number(scheme.lead_deg)
        self.spread.show_setting(scheme.spread_deg)
        self.spread.setEnabled(bool(spec.spread_deg))
        is_free = scheme.name == FREE
        for widget in (self.spread, self.spread_word):
            widget.setVisible(not is_free)
        for button in (self.add, self.drop):
            button.setVisible(is_free)
        self.add.setEnabled(len(scheme.offsets) < 3)
        self.drop.setEnabled(bool(scheme.offsets))
        self.rose.show_parts(derived.rose, selected)
        self.shares.show_rows(derived.slot_shares)
        if not self._held:
            self._show_readings(derived)

    def _show_readings(self, derived: Derived) -> None:
        ranked = derived.readings.ranked
        said = names(derived)
        none = self.tr("No colour yet: it follows no scheme")
        self.read_as.setText(self.tr("Read as") if ranked else none)
        self.free.setVisible(bool(ranked))
        for i, button in enumerate(self.readings):
            button.setVisible(i < len(ranked))
            if i < len(ranked):
                button.setText(self._reading_in_words(ranked[i], i))
                outside = [said[r] for r in ranked[i].outside]
                button.setToolTip(_outside(outside))
        if ranked and ranked[0].free:
            self.free.setText(self.tr("free, likeliest"))
        else:
            self.free.setText(FREE)

    def _reading_in_words(self, reading: NowReading, at: int) -> str:
        also = self.tr("or ") if reading.near and at else ""
        return self.tr("{also}{title} {fit:.0%}").format(
            also=also, title=reading.title, fit=reading.fit
        )

    def _fill_menus(self, name: str) -> None:
        """Each word's choices lead to the scheme that keeps the other word if it can."""
        now = SCHEMES.get(name)
        for button, word in ((self.supports, "supports"), (self.answers, "answers")):
            menu = button.menu()
            menu.clear()
            other = "answers" if word == "supports" else "supports"
            kept = None if now is None else getattr(now, other)
            for choice in dict.fromkeys(getattr(s, word) for s in SCHEMES.values()):
                fitting = [s for s in SCHEMES.values() if getattr(s, word) == choice]
                best = next((s for s in fitting if getattr(s, other) == kept), fitting[0])
                action = menu.addAction(f"{choice}  ({best.title})")
                action.triggered.connect(lambda _=False, n=best.name: self.want(choose_scheme(n)))
            text = UNBOUND[0] if word == "supports" else UNBOUND[1]
            free = menu.addAction(f"{text}  ({FREE})")
            free.triggered.connect(lambda: self.want(choose_scheme(FREE)))


# What follows a choice in the sentence, where it is not that it supports, or answers.
_AFTER = {
    ALONE[0]: "and",
    ALONE[1]: ".",
    UNBOUND[0]: "stand beside it,",
    UNBOUND[1]: "binds them.",
}


def _outside(named: list[str]) -> str:
    if not named:
        return str(words("No colour lies outside; a click takes it, and no colour moves"))
    line = "Leaves {names} outside; a click takes it, and no colour moves"
    return str(words(line, names=listed(named)))
