"""What hands do to chosen regions: merge, split, give away, one surface; going through those
without a name."""

from PySide6.QtCore import QObject

from umber_compass.plan.edits import region
from umber_compass.plan.regrouping import one_surface, set_several
from umber_compass.plan.settings import change_setting
from umber_compass.steps.sketch.naming import reading_order
from umber_compass.steps.sketch.order import next_unnamed
from umber_compass.window.commands.regions import Regions
from umber_compass.window.commands.stage_gestures import StageGestures
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.words import words


class RegionCommands(QObject):
    """Acts on the regions that are chosen."""

    def __init__(
        self, desk: Desk, regions: Regions, steps: StepCommands, on_stage: StageGestures
    ) -> None:
        super().__init__(desk)
        self.desk, self.regions, self.steps = desk, regions, steps
        self.on_stage, self.reworking = on_stage, on_stage.reworking

    @property
    def several(self) -> bool:
        """Whether more than one region is chosen."""
        return self.desk.derived is not None and len(self.desk.session.chosen) > 1

    def is_alone(self) -> bool:
        """Whether the chosen region is seen alone."""
        return self.regions.is_chosen and self.desk.session.alone == self.desk.session.selection

    def toggle_alone(self) -> None:
        """See the chosen region alone on the stage, or all of them again."""
        self.desk.session.show_alone("" if self.is_alone() else self.desk.session.selection)

    def make_surface(self) -> None:
        """The chosen regions lit as one form."""
        if self.several:
            self.desk.do(one_surface(self.desk.session.chosen))

    def set_kind(self, field: str, text: str) -> None:
        """A role, material or form for every chosen region."""
        ids, derived = self.desk.session.chosen, self.desk.derived
        if derived is None or not ids:
            return
        lead = region(derived.plan, ids[0]).name
        if len(ids) == 1 and field == "role":
            self.desk.do(change_setting("region.REGION.role", text, ids[0], lead))
            return
        many = self.tr("{count} regions").format(count=len(ids))
        names = lead if len(ids) == 1 else many
        said = words("make {names} {what}", names=names, what=text)
        fields: dict[str, object] = {field: text}
        if field == "form":
            fields["shares_form_with"] = None
        self.desk.do(set_several(ids, said, fields))

    def next_unnamed(self) -> None:
        """Choose the next region that has no name of its own, as one reads the picture, and let it
        be typed."""
        derived = self.desk.derived
        if derived is None:
            return
        boxes, (height, width) = derived.drawing.box, derived.drawing.labels.shape
        there = [(r.id, boxes.get(r.label, (0, 0, 0, 0))) for r in derived.regions]
        places = [((x + w / 2) / width, (y + h / 2) / height) for _, (x, y, w, h) in there]
        ids = [there[i][0] for i in reading_order(places)]
        found = next_unnamed(derived.regions, ids, self.desk.session.selection)
        if not found:
            self.desk.told.emit(self.tr("Every region has a name"), False)
            return
        self.desk.session.select(found)
        self.steps.name_chosen()
