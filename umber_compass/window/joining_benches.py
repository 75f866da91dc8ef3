"""Benches and drawers, joined to the window as they are made."""

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from umber_compass.plan.edits import Edit
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches import BENCHES
from umber_compass.window.strip.peeking import Peeking
from umber_compass.window.works import Works
from umber_compass.words import Refusal

if TYPE_CHECKING:
    from umber_compass.window.drawers.brief import BriefDrawer
    from umber_compass.window.drawers.log import LogDrawer
    from umber_compass.window.drawers.practice import PracticeDrawer
    from umber_compass.window.drawers.press_row import PressRow
    from umber_compass.window.drawers.reference import ReferenceDrawer


class JoiningBenches:
    """Joins what every bench says, and what only one of them does."""

    def __init__(
        self,
        works: Works,
        peeking: Peeking,
        do: Callable[[Edit], None],
        end_drag: Callable[[], None],
    ) -> None:
        self._works, self._do, self._end_drag = works, do, end_drag
        self._parts = WindowParts(
            works.desk,
            works.layout.stage,
            works.files,
            peeking,
            works.library,
            works.splitting,
            works.sketches,
            works.menus,
            works.watch,
            works.journaling,
        )
        works.layout.benches.each(self._join_step)
        works.layout.drawers.each(self._join_drawer)

    def _join_step(self, step: str, bench: Bench) -> None:
        self._join(bench)
        bench.offer.clicked.connect(lambda: self._works.menus.run("first"))
        BENCHES[step].parts().join(bench, self._parts)

    def _join_drawer(self, name: str, drawer: Bench) -> None:
        self._join(drawer)
        if name == "reference":
            join_references(cast("ReferenceDrawer", drawer), self._works)
        elif name == "practice":
            join_practice(cast("PracticeDrawer", drawer), self._works)
        elif name == "brief":
            join_press(cast("BriefDrawer", drawer).press, self._works)
        elif name == "log":
            from umber_compass.window.joining_log import join_log

            join_log(cast("LogDrawer", drawer), self._works)

    def _join(self, bench: Bench) -> None:
        bench.edit_wanted.connect(self._do)
        bench.drag_began.connect(self._works.desk.begin_drag)
        bench.drag_ended.connect(self._end_drag)
        bench.chosen.connect(self._works.desk.session.select)
        bench.pointed.connect(self._works.following.say_region)
        bench.paged.connect(self._works.following.follow)
        bench.copied.connect(self._works.regions.copy)


def join_references(drawer: "ReferenceDrawer", works: Works) -> None:
    """The pictures beside the plan: added, shown, picked from."""
    references = works.references
    drawer.adding.connect(works.sketches.add_reference)
    drawer.beside.clicked.connect(lambda: works.menus.run("references-beside"))
    drawer.added_path.connect(references.add_path)
    drawer.added_data.connect(references.add_data)
    drawer.wanted.connect(references.show)
    drawer.picked.connect(works.regions.take_picked)
    references.seen.connect(drawer.show_seen)
    references.read.connect(drawer.show_read)
    works.sketches.reference_chosen.connect(references.add_path)


def join_practice(drawer: "PracticeDrawer", works: Works) -> None:
    """The picture as each practice looks at it."""
    from umber_compass.document.practice_pictures import practice_pictures
    from umber_compass.window.desk.what_if import PICTURE_PX, WhatIf

    pictures = WhatIf(
        works.desk,
        drawer,
        drawer.pictures,
        "practices",
        lambda derived, tick: practice_pictures(derived, PICTURE_PX, tick),
    )
    drawer.shown.connect(pictures.follow)


def join_press(row: "PressRow", works: Works) -> None:
    """The press of “Print”: chosen, given back, and the views shown anew."""
    from umber_compass.document.own_press import forget_press, keep_press

    def change(work: Callable[[], object]) -> None:
        try:
            work()
        except Refusal as refusal:
            works.desk.told.emit(str(refusal), True)
            return
        row.show_press()
        works.small_views.anew()
        works.director.show()

    def choose() -> None:
        path = works.files.dialogs.press(row)
        if path is not None:
            change(lambda: keep_press(path))

    row.wanted.connect(choose)
    row.left.connect(lambda: change(forget_press))
