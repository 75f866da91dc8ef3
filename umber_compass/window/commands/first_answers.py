"""What is answered on the strip of questions: each answer is a step of the plan."""

from collections.abc import Callable

from PySide6.QtCore import QObject

from umber_compass.plan.edits import Edit, region, region_of_label
from umber_compass.plan.first_edits import see_first, set_lights, tell_budget
from umber_compass.plan.settings import change_setting
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import step
from umber_compass.window.wall.first.strip import FirstStrip
from umber_compass.words import Refusal


class FirstAnswers(QObject):
    """Makes an edit of each answer, then has `answered` called."""

    def __init__(self, desk: Desk, strip: FirstStrip, answered: Callable[[], object]) -> None:
        super().__init__(strip)
        self._desk, self._answered = desk, answered
        strip.focus_picked.connect(self.pick_focus)
        strip.focus_told.connect(self.say_focus)
        strip.told.connect(lambda key, value: self._answer(change_setting(key, value)))
        strip.area_told.connect(self.say_area)
        strip.ground_told.connect(self.say_ground)
        strip.light_told.connect(self.say_light)
        strip.budget_told.connect(lambda n: self._answer(tell_budget(n or None)))

    def _answer(self, edit: Edit) -> None:
        try:
            step(self._desk, edit)
        except Refusal as refusal:
            self._desk.told.emit(str(refusal), True)
            return
        self._answered()

    def pick_focus(self, x: float, y: float) -> None:
        """What lies at a place of the drawing, shares, is seen first."""
        derived = self._desk.derived
        if derived is None:
            return
        found = region_of_label(derived.plan, derived.drawing.label_at(x, y))
        if found is None or found.role == "line":
            line = self.tr("There is a line or nothing; click inside an area")
            self._desk.told.emit(line, False)
            return
        self._answer(see_first(derived.plan, found.id))

    def say_focus(self, material: str) -> None:
        """What is seen first is made of a material."""
        derived = self._desk.derived
        if derived is None:
            return
        mine = [r.id for r in derived.regions if r.role == "focus"]
        guess = guess_of(derived)
        if not mine and guess:
            mine = [guess]
        if not mine:
            line = self.tr("Click what should be seen first, then say what it is")
            self._desk.told.emit(line, False)
            return
        self._answer(see_first(derived.plan, *mine, material=material))

    def say_area(self, region_id: str, material: str) -> None:
        """An area is made of a material; empty for not said."""
        if self._desk.history is not None:
            name = region(self._desk.history.now, region_id).name
            key = "region.REGION.material"
            self._answer(change_setting(key, material or "matte", region_id, name))

    def say_ground(self, region_id: str, ground: bool) -> None:
        """An area is ground, or is not."""
        if self._desk.history is not None:
            role = "ground" if ground else "middle ground"
            name = region(self._desk.history.now, region_id).name
            self._answer(change_setting("region.REGION.role", role, region_id, name))

    def say_light(self, light: str) -> None:
        """A light more, or one less; one at least stays."""
        if self._desk.history is None:
            return
        now = list(self._desk.history.now.first.lights)
        changed = [n for n in now if n != light] if light in now else [*now, light]
        self._answer(set_lights(changed or now))


def guess_of(derived: Derived) -> str:
    """The region that proposals took to be seen first, as those that wait say it; else empty."""
    for one in derived.plan.studies:
        if one.proposal and one.focus is not None and one.focus.regions:
            return one.focus.regions[0]
    return ""
