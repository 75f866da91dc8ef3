"""Ranges of value pushed by bars that spring back."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from umber_compass.plan.edits import Edit
from umber_compass.steps.values.pushes import (
    MOST_MOVE,
    MOST_STRETCH,
    PARTS,
    move_part,
    part_figures,
    stretch_part,
)
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.nudge import Nudge
from umber_compass.window.widgets.rows import in_column, in_row


class PushPage(QWidget):
    """Says which edit is wanted; what a bar did stays."""

    edit_wanted = Signal(object)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        says = quiet(
            self.tr(
                "Drag a bar to either side: it moves or stretches a range of values in the whole "
                "picture. The order of values stays; fixed and locked colours stay."
            )
        )
        says.setWordWrap(True)
        apart = QLabel(self.tr("figures from grounds"))
        apart.setObjectName("strong")
        self.apart = self._bar(self.tr("Figures from grounds"), MOST_MOVE, " L*", 2.0, part_figures)
        in_column(
            says,
            self._build_parts(),
            in_row(apart, (self.apart, 1), gap=12),
            1,
            gap=12,
            margins=(0, 6, 0, 0),
            on=self,
        )

    def _build_parts(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(10)
        grid.addWidget(quiet(self.tr("lighter, darker")), 0, 1)
        grid.addWidget(quiet(self.tr("stretched apart")), 0, 2)
        self.bars: dict[tuple[str, str], Nudge] = {}
        for row, part in enumerate(PARTS):
            name = QLabel(self.tr(part))
            name.setObjectName("strong")
            grid.addWidget(name, row + 1, 0)
            self.bars[part, "move"] = self._bar(
                self.tr("{part}, lighter or darker").format(part=part),
                MOST_MOVE,
                " L*",
                2.0,
                lambda by, merge, p=part: move_part(p, by, merge),
            )
            self.bars[part, "stretch"] = self._bar(
                self.tr("{part}, stretched").format(part=part),
                MOST_STRETCH,
                " %",
                5.0,
                lambda by, merge, p=part: stretch_part(p, by, merge),
            )
            grid.addWidget(self.bars[part, "move"], row + 1, 1)
            grid.addWidget(self.bars[part, "stretch"], row + 1, 2)
        return grid

    def _bar(
        self, name: str, reach: float, unit: str, step: float, edit: Callable[..., Edit]
    ) -> Nudge:
        bar = Nudge(name, reach, unit, step)
        bar.by.connect(lambda by: self.edit_wanted.emit(edit(by, True)))
        bar.stepped_by.connect(lambda by: self.edit_wanted.emit(edit(by, False)))
        bar.began.connect(self.began)
        bar.ended.connect(self.ended)
        return bar
