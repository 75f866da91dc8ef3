"""The picture in each mood; folded below, temperature and what the mood asks for in numbers."""

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.plan.moods import MEASURES, MOODS, MoodMeasure
from umber_compass.plan.study_edits import set_mood, set_mood_wish
from umber_compass.steps.harmony.mood import MoodRow
from umber_compass.steps.harmony.warmth import Temperature
from umber_compass.steps.mood_pictures import SHOWN, take_mood
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.fold import Fold
from umber_compass.window.widgets.picture_button import PictureButton
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.theme import THEME, font

_WARM, _COOL = "#c98a5e", "#6f9db5"  # what stands for warm and for cool in the bar
_ACROSS = 4  # pictures in a row


class HeatBar(QWidget):
    """Warm, neutral and cool as shares of one bar."""

    def __init__(self) -> None:
        super().__init__()
        self._heat = Temperature(0, 0, 1)
        self.setFixedHeight(36)

    def sizeHint(self) -> QSize:
        return QSize(300, 36)

    def show_heat(self, heat: Temperature) -> None:
        """The shares."""
        self._heat = heat
        line = self.tr("warm {warm:.0%}, neutral {neutral:.0%}, cool {cool:.0%}")
        self.setAccessibleName(line.format(**heat._asdict()))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        left, heat = 0.0, self._heat
        well = THEME.colour("well")
        parts = (
            (heat.warm, QColor(_WARM), self.tr("warm {share:.0%}")),
            (heat.neutral, well, self.tr("neutral {share:.0%}")),
            (heat.cool, QColor(_COOL), self.tr("cool {share:.0%}")),
        )
        painter.setFont(font(12))
        for share, colour, line in parts:
            width = self.width() * share
            painter.fillRect(QRectF(left, 0, width, 14), colour)
            text = line.format(share=share)
            if painter.fontMetrics().horizontalAdvance(text) <= width:
                painter.setPen(THEME.colour("ink"))
                where = QRectF(left, 16, width, 18)
                painter.drawText(where, Qt.AlignmentFlag.AlignLeft, text)
            left += width


class MoodPage(Page):
    """A click on a picture brings the palette into that mood; the numbers behind it can be
    changed."""

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self.head(
            self.tr("The picture in each mood"),
            self.tr(
                "Hover to preview, click to take it. These are conventions of picture books and "
                "posters, not laws; fixed and locked colours stay."
            ),
        )
        self.pictures = {name: self._build_picture(name) for name in SHOWN}
        grid = QGridLayout()
        grid.setSpacing(8)
        for i, button in enumerate(self.pictures.values()):
            grid.addWidget(button, i // _ACROSS, i % _ACROSS)
        self.column.addLayout(grid)
        self.none = QPushButton(self.tr("No mood"))
        self.none.setToolTip(self.tr("The palette is held to no mood; its colours stay"))
        self.none.clicked.connect(lambda: self.want(set_mood(None)))
        self.says = quiet("")
        self.column.addLayout(in_row((self.says, 1), self.none))
        self.numbers = Fold(self.tr("What the mood asks for, in numbers"), self._build_numbers())
        self.column.addWidget(self.numbers)
        self.column.addStretch(1)

    def _build_picture(self, name: str) -> PictureButton:
        mood = MOODS[name]
        button = PictureButton(mood.title, f"{mood.title}: {mood.says}")
        button.clicked.connect(lambda: self._take_mood(name))
        button.peeked.connect(lambda on: self._peek(name if on else ""))
        return button

    def _take_mood(self, name: str) -> None:
        if self._derived is not None:
            self.want(take_mood(self._derived, name))

    def _peek(self, name: str) -> None:
        wanted = self._derived is not None and bool(name)
        self.peeked.emit(take_mood(self._derived, name) if wanted and self._derived else None)

    def _build_numbers(self) -> QWidget:
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(0, 0, 0, 0)
        self.heat = HeatBar()
        column.addWidget(self.heat)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(5)
        for i, text in enumerate(("", self.tr("now"), self.tr("wished from"), self.tr("to"), "")):
            self.grid.addWidget(quiet(text), 0, i)
        self.rows = {m: self._build_row(i + 1, m) for i, m in enumerate(MEASURES)}
        self.grid.setColumnStretch(4, 1)
        column.addLayout(self.grid)
        own = QPushButton(self.tr("Set my own"))
        own.setToolTip(self.tr("A mood without conventions: every number is yours"))
        own.clicked.connect(lambda: self.want(set_mood("own")))
        column.addLayout(in_row(own, 1))
        return inner

    def _build_row(
        self, at: int, measure: MoodMeasure
    ) -> tuple[QLabel, QLabel, NumberField, NumberField, QLabel]:
        title, unit = MEASURES[measure]
        name, now, off = QLabel(title), QLabel(), quiet(unit)
        low = NumberField(self.tr("{t}, from").format(t=title), 0, 100, "")
        high = NumberField(self.tr("{t}, to").format(t=title), 0, 100, "")
        for field in (low, high):
            field.wanted.connect(lambda _, m=measure: self._take(m))
        now.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        for i, part in enumerate((name, now, low, high, off)):
            self.grid.addWidget(part, at, i)
        return name, now, low, high, off

    def _take(self, measure: MoodMeasure) -> None:
        _, _, low, high, _ = self.rows[measure]
        between = (min(low.value(), high.value()), max(low.value(), high.value()))
        self.want(set_mood_wish(measure, between))

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        self.heat.show_heat(derived.temperature)
        mood = derived.mood
        for name, button in self.pictures.items():
            button.setChecked(mood is not None and mood.name == name)
        self.none.setEnabled(mood is not None)
        if mood is None:
            self.says.setText(self.tr("No mood is chosen; nothing holds the palette to one."))
        else:
            chosen = MOODS[mood.name]
            self.says.setText(f"{chosen.title}: {chosen.says}")
        self.says.setWordWrap(True)
        for row in derived.moods:
            self._show_row(row, mood is not None)

    def _show_row(self, row: MoodRow, held: bool) -> None:
        name, now, low, high, off = self.rows[row.measure]
        now.setText(f"{row.now:.0f}")
        low.setEnabled(held)
        high.setEnabled(held)
        between = row.wished or (0.0, 100.0)
        low.show_number(between[0])
        high.show_number(between[1])
        name.setObjectName("strong" if row.off > 0 else "")
        now.setObjectName("strong" if row.off > 0 else "")
        for label in (name, now):
            label.style().unpolish(label)
            label.style().polish(label)
        off.setText(
            self.tr("{unit}: off by {off:.0f}").format(unit=row.unit, off=row.off)
            if row.off > 0.5
            else row.unit
        )
