"""Colours that are given: which schemes suit them, and grounds that set them off."""

from PySide6.QtWidgets import QGridLayout, QLabel

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import names
from umber_compass.steps.harmony.given import Suited, given_colours, take_ground
from umber_compass.steps.harmony.scheme_edits import fit_scheme
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.widgets.dots import Swatches
from umber_compass.window.widgets.peek_button import PeekButton
from umber_compass.words import words

_MOST = 5


class FixedPage(Page):
    """Ranked schemes, each a click away and previewed on hover."""

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self.head(self.tr("Fixed colours"))
        self.given = quiet("")
        self.given.setWordWrap(True)
        self.column.addWidget(self.given)
        self.schemes = QLabel(self.tr("Schemes that suit them"))
        self.schemes.setObjectName("heading")
        self.column.addWidget(self.schemes)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(5)
        self.grid.setColumnStretch(1, 1)
        self.rows = [self._build_row(i) for i in range(_MOST)]
        self.column.addLayout(self.grid)
        self.grounds = QLabel(self.tr("Grounds that set them off"))
        self.grounds.setObjectName("heading")
        self.column.addWidget(self.grounds)
        self.ground_grid = QGridLayout()
        self.ground_grid.setHorizontalSpacing(10)
        self.ground_grid.setColumnStretch(1, 1)
        self.ground_rows = [self._build_ground(i) for i in range(3)]
        self.column.addLayout(self.ground_grid)
        self.column.addStretch(1)

    def _build_row(self, at: int) -> tuple[QLabel, QLabel, PeekButton]:
        title, says, button = QLabel(), quiet(""), PeekButton(self.tr("Build"))
        title.setObjectName("strong")
        for i, part in enumerate((title, says, button)):
            self.grid.addWidget(part, at, i)
        button.clicked.connect(lambda: self._take(self._scheme(at)))
        button.peeked.connect(lambda on: self.peeked.emit(self._scheme(at) if on else None))
        return title, says, button

    def _build_ground(self, at: int) -> tuple[Swatches, QLabel, PeekButton]:
        colour, says, button = Swatches(), quiet(""), PeekButton(self.tr("Take"))
        for i, part in enumerate((colour, says, button)):
            self.ground_grid.addWidget(part, at, i)
        button.clicked.connect(lambda: self._take(self._ground(at)))
        button.peeked.connect(lambda on: self.peeked.emit(self._ground(at) if on else None))
        colour.picked.connect(self.copied)
        return colour, says, button

    def _scheme(self, at: int) -> Edit | None:
        if self._derived is None or at >= len(self._derived.suited):
            return None
        found = self._derived.suited[at]
        return fit_scheme(found.scheme, found.title)

    def _ground(self, at: int) -> Edit | None:
        if self._derived is None or at >= len(self._derived.grounds):
            return None
        return take_ground(self._derived.grounds[at])

    def _take(self, edit: Edit | None) -> None:
        if edit is not None:
            self.want(edit)

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        any_given = bool(derived.given)
        none = self.tr(
            "No colour is fixed. Choose what must stay, such as a skin or a costume, and pin it "
            "with Ctrl+L: schemes and grounds are then ranked by how they suit it."
        )
        line = self.tr("Fixed, and staying as the scheme turns: {names}.").format(
            names=", ".join(derived.given)
        )
        self.given.setText(line if any_given else none)
        for heading, on in ((self.schemes, bool(derived.suited)), (self.grounds, any_given)):
            heading.setVisible(on)
        said = names(derived)
        given = [said[r] for r in given_colours(derived.colours)]
        for i, (title, says, button) in enumerate(self.rows):
            shown = i < len(derived.suited)
            for part in (title, says, button):
                part.setVisible(shown)
            if shown:
                found = derived.suited[i]
                line = self.tr("{title}, lead {lead:.0f}°")
                title.setText(line.format(title=found.title, lead=found.scheme.lead_deg))
                says.setText(_in_words(found, given))
        for i, (colour, says, ground_button) in enumerate(self.ground_rows):
            shown = i < len(derived.grounds)
            for one in (colour, says, ground_button):
                one.setVisible(shown)
            if shown:
                ground = derived.grounds[i]
                colour.show_colours(ground.hex)
                text = self.tr("{title}, {value:.0f} L*: {away:.0f} L* from the nearest")
                says.setText(text.format(title=ground.title, value=ground.value, away=ground.away))


def _in_words(found: Suited, given: list[str]) -> str:
    off = ", ".join(f"{n} {d:.0f}°" for n, d in list(zip(given, found.off, strict=False))[:3])
    free = ", ".join(found.free)
    if free:
        return str(words("{off} away; {free} still free", off=off, free=free))
    return str(words("{off} away; no hue left free", off=off))
