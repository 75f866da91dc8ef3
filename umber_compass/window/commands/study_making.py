"""Studies grown from the one that is shown, and sheets of variants for a client.

What grows and what draws is loaded on the worker when it is first wanted.
"""

from pathlib import Path
from typing import TYPE_CHECKING, cast

import numpy as np
from PySide6.QtCore import QObject, QTimer

from umber_compass.document import Pixels
from umber_compass.document.library import Library
from umber_compass.formats import picture
from umber_compass.plan.model import Plan
from umber_compass.plan.study_edits import add_studies
from umber_compass.steps.handoff.palette import stem
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.frame.layout import Layout
from umber_compass.window.wall.shown import STEP, WallShown
from umber_compass.words import words
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.steps.studies.client import What
    from umber_compass.steps.studies.growing import Growth
    from umber_compass.window.benches.studies.studies_bench import StudiesBench


class StudyMaking(QObject):
    """Makes studies and sheets off the GUI thread."""

    def __init__(self, shown: WallShown, layout: Layout, files: Files, library: Library) -> None:
        super().__init__(layout)
        self.desk: Desk = shown.desk
        self._shown, self._layout, self._files = shown, layout, files
        self._library = library

    def grow_ticked(self) -> None:
        """Grow by the rules that are ticked on the bench."""
        self.grow(cast("StudiesBench", self._layout.benches[STEP]).chosen_rules())

    def grow(self, rules: list[str]) -> None:
        """Grow six more from the study that is shown; they stand behind the others."""
        desk, library, wall = self.desk, self._library, self._shown.wall
        if desk.history is None:
            return
        pipeline = desk.live.pipeline

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> "tuple[Plan, Growth]":
            from umber_compass.steps.studies.growing import COUNT, grow

            palettes = [e.kept() for e in library.entries()] if "library" in rules else []
            return plan, grow(pipeline.derive(plan), rules, COUNT, palettes, tick)

        def answer(made: "tuple[Plan, Growth]", pixels: Pixels) -> None:
            plan, found = made
            now = desk.history.now.regions if desk.history is not None else ()
            if {r.id for r in now} != {r.id for r in plan.regions}:
                line = self.tr("The regions changed while studies were grown; grow again")
                desk.told.emit(line, True)
                return
            count = len(found.studies)
            step(desk, add_studies(found.studies, words("grow {count} studies", count=count)))
            # Once the layout has settled.
            QTimer.singleShot(0, wall, lambda: wall.reveal(self._shown.count - count))
            desk.told.emit(found.says, False)

        desk.told.emit(self.tr("Growing …"), False)
        job(desk, "grow", work, answer, self.tr("Growing studies"))

    def client_sheet(self, what: "What") -> None:
        """Write a sheet of variants as one PNG, asking where."""
        desk = self.desk
        if desk.history is None:
            return
        name = f"{stem(desk.history.now.title)}-{what}.png"
        beside = Path(self._files.handing_off.folder).parent
        path = self._files.dialogs.picture(self._layout, str(beside / name))
        if path is None:
            return
        ids, pipeline = self._shown.chosen, desk.live.pipeline
        target = path if path.suffix.lower() == ".png" else path.with_name(path.name + ".png")

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> None:
            from umber_compass.document.sheet import client_sheet
            from umber_compass.steps.studies.client import variants

            chosen = [s for i in ids for s in plan.studies if s.id == i]
            sheet = client_sheet(plan, pixels, variants(plan, what, chosen), tick, pipeline)
            picture.write_png(target, np.asarray(sheet))

        def answer(_: None, pixels: Pixels) -> None:
            desk.told.emit(self.tr("Wrote {name}").format(name=target.name), False)

        job(desk, "sheet", work, answer, self.tr("Writing the sheet"))
