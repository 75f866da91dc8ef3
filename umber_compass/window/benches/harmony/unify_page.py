"""What ties a palette together: quiet hues, tinted greys, one colour under everything, gradations,
echoes."""

from collections.abc import Callable

from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QMenu, QToolButton

from umber_compass.plan.edits import Edit
from umber_compass.steps.harmony.gradation import KINDS, WAYS, Kind, Way, lay_gradation
from umber_compass.steps.harmony.places import SlotPlaces
from umber_compass.steps.harmony.quiet import quieten, tint_greys
from umber_compass.steps.harmony.unify import unify
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.widgets.dots import dot
from umber_compass.window.widgets.nudge import Nudge
from umber_compass.words import words

_WAY_WORDS: dict[Way, str] = {
    "down": "from above down",
    "across": "from left to right",
    "falling": "from upper left down",
    "rising": "from lower left up",
}
_OVER: dict[str, tuple[str, ...]] = {
    "grounds": ("ground",),
    "grounds and middle grounds": ("ground", "middle ground"),
    "everything but the focus": ("ground", "middle ground", "figure", "line"),
}
_CHOSEN = "the chosen region"
_MOST_OFFERED = 12


class UnifyPage(Page):
    """Each bar is dragged and springs back; what it did stays."""

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected, self._under = "", ""
        says = quiet(
            self.tr("Drag a bar: the picture follows. Fixed and locked colours stay as they are.")
        )
        says.setWordWrap(True)
        self.column.addWidget(says)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        self.column.addLayout(grid)
        self.quiet = self._bar(
            grid,
            0,
            self.tr("quiet palette"),
            100.0,
            self._quieten,
            0.0,
            self.tr(
                "One hue, varied by chroma and a little hue, so that what touches at one value "
                "still differs; dragged further, livelier"
            ),
        )
        self.lively = quiet("")
        grid.addWidget(self.lively, 1, 1)
        self.greys = self._bar(
            grid,
            2,
            self.tr("tint the greys"),
            100.0,
            lambda by: tint_greys(by / 100),
            None,
            self.tr("Greys toward warm to the right, toward cool to the left; their value stays"),
        )
        self.unify = self._bar(
            grid,
            3,
            self.tr("overall tint"),
            60.0,
            self._unify,
            0.0,
            self.tr("Every local colour mixed with one, as over a toned ground"),
        )
        self.under = self._menu_button(self.tr("The colour of the overall tint"))
        grid.addWidget(self.under, 3, 2)
        self._build_gradation()
        self._build_echo()
        self.column.addStretch(1)

    def _bar(
        self,
        grid: QGridLayout,
        row: int,
        text: str,
        reach: float,
        edit: Callable[[float], Edit | None],
        least: float | None,
        says: str,
    ) -> Nudge:
        name = QLabel(text)
        name.setObjectName("strong")
        name.setToolTip(says)
        bar = Nudge(says, reach, " %", 10.0, least)
        self._join(bar, edit)
        grid.addWidget(name, row, 0)
        grid.addWidget(bar, row, 1)
        return bar

    def _join(self, bar: Nudge, edit: Callable[[float], Edit | None]) -> None:
        def ask(by: float, merge: bool) -> None:
            found = edit(by)
            if found is not None:
                self.want(found if merge else found._replace(merge=None))

        bar.by.connect(lambda by: ask(by, True))
        bar.stepped_by.connect(lambda by: ask(by, False))
        self.join_bar(bar)

    def _menu_button(self, says: str) -> QToolButton:
        button = QToolButton()
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        button.setMenu(QMenu(button))
        button.setToolTip(says)
        button.setAccessibleName(says)
        button.setToolButtonStyle(button.toolButtonStyle().ToolButtonTextBesideIcon)
        return button

    def _quieten(self, by: float) -> Edit | None:
        return None if self._derived is None else quieten(self._derived.touching, by / 100)

    def _unify(self, by: float) -> Edit | None:
        return unify(self._under, by / 100) if self._under else None

    def _build_gradation(self) -> None:
        self.head(
            self.tr("Gradation across the picture"),
            self.tr(
                "A hue, a temperature or a value from one side to the other, laid over regions; "
                "each gradient’s own axis is dragged on the stage."
            ),
        )
        line = QHBoxLayout()
        line.setSpacing(6)
        self.kind, self.way, self.over = QComboBox(), QComboBox(), QComboBox()
        for kind in KINDS:
            self.kind.addItem(kind, kind)
        for way in WAYS:
            self.way.addItem(_WAY_WORDS[way], way)
        for name in (*_OVER, _CHOSEN):
            self.over.addItem(name, name)
        for combo, name in (
            (self.kind, self.tr("What changes")),
            (self.way, self.tr("Which way")),
            (self.over, self.tr("Over which regions")),
        ):
            combo.setAccessibleName(name)
            combo.setToolTip(name)
            line.addWidget(combo)
        line.addStretch(1)
        self.column.addLayout(line)
        self.gradation = Nudge(self.tr("How much from side to side"), 100.0, " %", 10.0)
        self._join(self.gradation, self._lay)
        self.column.addWidget(self.gradation)

    def _lay(self, by: float) -> Edit | None:
        if self._derived is None:
            return None
        kind: Kind = self.kind.currentData()
        way: Way = self.way.currentData()
        over = self.over.currentData()
        roles = _OVER.get(over, ())
        mine = [r.id for r in self._derived.regions if r.role in roles]
        if over == _CHOSEN:
            mine = [self._selected] if self._selected else []
        return lay_gradation(mine, kind, by / 100 * KINDS[kind][1], way) if mine else None

    def _build_echo(self) -> None:
        self.head(self.tr("Where each hue appears"))
        self.places = QLabel()
        self.places.setWordWrap(True)
        self.column.addWidget(self.places)

    def needs(self) -> tuple[str, ...]:
        return ("parts",)

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        lively = derived.lively
        self.lively.setText(
            self.tr("no two touching regions are alike in value")
            if lively is None
            else self.tr(
                "now {now:.1f} CIEDE2000 lively; a quiet palette has {low:g} to {high:g}"
            ).format(now=lively, low=derived.rules["lively.low"], high=derived.rules["lively.high"])
        )
        offered = _grounds(derived)
        if self._under not in [hex_text for _, hex_text in offered]:
            self._under = offered[0][1] if offered else ""
        menu = self.under.menu()
        if [a.text() for a in menu.actions()] != [f"{n} {h}" for n, h in offered]:
            menu.clear()
            for name, hex_text in offered:
                action = menu.addAction(dot(hex_text), f"{name} {hex_text}")
                action.triggered.connect(lambda _=False, h=hex_text: self._take_under(h))
        self._show_under()
        self.unify.setEnabled(bool(self._under))
        lines = [_place_words(p, derived) for p in derived.places]
        self.places.setText("\n".join(lines) if lines else self.tr("looking …"))

    def _take_under(self, hex_text: str) -> None:
        self._under = hex_text
        self._show_under()

    def _show_under(self) -> None:
        if self._under:
            self.under.setIcon(dot(self._under))
        self.under.setText(self._under)


def _grounds(derived: Derived) -> list[tuple[str, str]]:
    """The colours that may be mixed under everything: grounds first, the largest first."""
    order = sorted(derived.regions, key=lambda r: (r.role != "ground", -derived.shares[r.id]))
    rows = [(r.name, e.hex) for r in order for e in derived.colours[r.id].ends]
    return rows[:_MOST_OFFERED]


def _place_words(found: SlotPlaces, derived: Derived) -> str:
    name = next((r.name for r in derived.slot_shares if r.slot == found.slot), "")
    line = "{slot}, {name}: {count} separate places, {share:.1%} of the picture"
    if found.many == 1:
        line = "{slot}, {name}: 1 place, {share:.1%} of the picture"
    told = words(line, slot=found.slot, name=name, count=found.many, share=found.share)
    return str(told)
