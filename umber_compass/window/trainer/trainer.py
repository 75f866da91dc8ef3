"""The trainer in a window: four drills, each a minute; the next trial is as hard as the last
answers say; results are kept with their dates."""

import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QDialog, QLabel, QPushButton, QSlider, QWidget

from umber_compass.document.training import Outcome, keep, outcomes
from umber_compass.steps.training.drills import (
    DRILLS,
    SECONDS,
    TRIALS,
    Drill,
    Session,
    answered,
    begin,
    value_of_grey,
)
from umber_compass.window.bench.bench import quiet
from umber_compass.window.trainer.canvas import Canvas, Plot
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.tabs import Tabs
from umber_compass.words import Refusal

_MIDDLE = 500  # of a slider of a thousand


class Trainer(QDialog):
    """Asks, judges, keeps."""

    failed = Signal(str)

    def __init__(
        self,
        parent: QWidget,
        folder: Path | None,
        rng: np.random.Generator | None = None,
        clock: Callable[[], float] = time.time,
    ) -> None:
        super().__init__(parent)
        self.setStyleSheet(theme.sheet())
        self.setWindowTitle(self.tr("Trainer"))
        self.resize(720, 600)
        self._folder, self._clock = folder, clock
        self._rng = rng or np.random.default_rng()
        self._began = clock()
        self.drill = DRILLS[0]
        self.session: Session | None = None
        self.tabs = Tabs([self.tr(d.title) for d in DRILLS])
        self.tabs.opened.connect(lambda i: self.choose(DRILLS[i]))
        self.asks, self.canvas = QLabel(), Canvas()
        self.canvas.chosen.connect(self.answer)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, 2 * _MIDDLE)
        self.slider.setAccessibleName(self.tr("The grey’s value"))
        self.slider.valueChanged.connect(self._show_grey)
        self.words = [QPushButton() for _ in range(4)]
        for i, button in enumerate(self.words):
            button.clicked.connect(lambda _=False, n=i: self.answer(n))
        self.take = QPushButton(self.tr("It matches"))
        self.take.clicked.connect(
            lambda: self.answer(value_of_grey(self.slider.value() / (2 * _MIDDLE))[0])
        )
        self.again = QPushButton(self.tr("Begin"))
        self.again.clicked.connect(lambda: self.choose(self.drill, begins=True))
        self.says, self.plot = quiet(""), Plot()
        self.says.setWordWrap(True)
        in_column(
            self.tabs,
            self.asks,
            (self.canvas, 1),
            self.slider,
            in_row(*self.words, self.take, 1, self.again, gap=8),
            self.says,
            self.plot,
            gap=10,
            margins=(16, 12, 16, 12),
            on=self,
        )
        self.choose(self.drill)

    def choose(self, drill: Drill, begins: bool = False) -> None:
        """Open a drill; it begins when that is asked for."""
        self.drill = drill
        if self._clock() - self._began > SECONDS:
            self.session = None
            self._show(self.tr("Five minutes are enough for one time: the eye tires."))
            return
        self.session = begin(drill, self._rng) if begins else None
        self._show("")

    def answer(self, given: float) -> None:
        """Take an answer, and show the next trial or the result."""
        if self.session is None:
            return
        self.session = answered(self.session, given, self._rng)
        over = self.session.is_over
        if over:
            outcome = Outcome(self.drill.name, max(self._clock(), 0.0), self.session.result)
            try:
                keep(self._folder, outcome)
            except Refusal as refusal:
                self.failed.emit(str(refusal))
        self._show(self._result() if over else "")

    def _result(self) -> str:
        session = self.session
        assert session is not None  # it is over
        line = self.tr("{result:.1f} {unit}; {right} of {all} right. Less is better.")
        return line.format(
            result=session.result, unit=self.tr(self.drill.unit), right=session.right, all=TRIALS
        )

    def _show(self, line: str) -> None:
        session = self.session
        running = session is not None and not session.is_over
        trial = session.trial if session is not None and running else None
        self.asks.setText(self.tr(self.drill.asks))
        matches = running and self.drill.is_matching
        self.slider.setVisible(matches)
        self.take.setVisible(matches)
        answers = trial.answers if trial is not None else ()
        for i, button in enumerate(self.words):
            button.setVisible(i < len(answers))
            if i < len(answers):
                button.setText(self.tr(answers[i]))
        self.again.setText(self.tr("Begin anew") if running else self.tr("Begin"))
        if matches:  # from anywhere: the ground is a middle grey itself
            self.slider.setValue(int(self._rng.choice((150, 850))))
        self.canvas.show_trial(trial)
        if matches:
            self._show_grey()
        count = session.asked + 1 if session is not None and running else 0
        said = self.tr("{n} of {all}").format(n=count, all=TRIALS) if running else line
        rest = self.tr(
            "A drill takes about a minute. It is a habit for the eye, and no test of it: whoever"
            " has doubts about their sight asks an eye doctor."
        )
        self.says.setText(said or rest)
        mine = [o for o in outcomes(self._folder) if o.drill == self.drill.name]
        self.plot.show_outcomes(mine, self.tr(self.drill.unit))

    def _show_grey(self) -> None:
        if self.session is not None and self.drill.is_matching:
            _, grey = value_of_grey(self.slider.value() / (2 * _MIDDLE))
            self.canvas.show_trial(self.session.trial, grey)
