"""What stands on the stage's picture: names, the chosen region's outline, the lamps; and which
region lies where."""

import numpy as np
from PySide6.QtCore import QObject
from PySide6.QtGui import QImage

from umber_compass.picture.mixes import Labels
from umber_compass.plan.edits import region_of_label
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.stage.choosing_hand import FRAME
from umber_compass.window.stage.focus_marks import FocusMarks
from umber_compass.window.stage.name_places import NamePlaces, name_places
from umber_compass.window.stage.stage import Stage
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.stage.tags import Tag
from umber_compass.window.widgets.bitmap import overlay
from umber_compass.window.widgets.theme import THEME

_FINE_PX = 900  # an outline is drawn on at least about half so many
_NO_REGIONS = ("small",)  # views in which a place says nothing of the picture's regions


class StageMarks(QObject):
    """Finds where names can stand, once for a drawing, and marks what the open step asks for."""

    def __init__(self, desk: Desk, stage: Stage) -> None:
        super().__init__(stage)
        self.desk, self.stage = desk, stage
        self._places: NamePlaces | None = None
        self._outlined: tuple[tuple[tuple[str, ...], int | None], Labels] | None = None
        self._outline_image: QImage | None = None

    def begin(self) -> None:
        """Another document."""
        self.stage.zoom_to(None)
        self.renew()

    def renew(self) -> None:
        """Other regions: their marks are found on the worker."""
        self._places, self._outlined = None, None
        derived = self.desk.derived
        if derived is not None:
            labels = derived.drawing.labels
            self.desk.worker.ask("names", lambda tick: name_places(labels), self._take_places)

    def _take_places(self, found: NamePlaces) -> None:
        self._places = found
        self.desk.changed.emit()

    def show(self, marks: Marks) -> None:
        """The marks of the open step."""
        derived = self.desk.derived
        self.stage.show_lamps(list(marks.lamps))
        if self.stage.hand.mode in ("", FRAME):
            self.stage.hand.mode = FRAME if marks.frames and not self.desk.session.view else ""
        necks = () if self.desk.session.view else marks.necks
        if necks != self.stage.necks:
            self.stage.necks = necks
            self.stage.update()
        if self.stage.axis.show(None if self.desk.session.view else marks.axis):
            self.stage.update()
        if derived is None or self.desk.session.view:
            self.stage.mark(None, [])
            return
        covers = self._places.covered if self._places is not None else None
        focus = FocusMarks() if self.desk.session.dragging else self._standing(marks.focus)
        self.stage.mark(self._outline(derived), self._tags(derived, marks), covers, focus)

    def _standing(self, focus: FocusMarks) -> FocusMarks:
        """The numbers on their regions, where those are thickest."""
        derived, known = self.desk.derived, self._places
        if derived is None or known is None:
            return focus
        height, width = derived.drawing.labels.shape
        places = []
        for label, x, y in focus.places:
            at = known.places.get(label)
            places.append((label, x, y) if at is None else (label, at[0] / width, at[1] / height))
        return focus._replace(places=tuple(places))

    def _tags(self, derived: Derived, marks: Marks) -> list[Tag]:
        chosen = self.desk.session.chosen
        # While something is dragged only the chosen name stays: the rest would be in the way.
        session = self.desk.session
        named = () if session.dragging or session.alone else marks.names
        tags: list[Tag] = []
        for one in derived.regions:
            place = self._places.places.get(one.label) if self._places else None
            if place is not None and (one.id in named or one.id in chosen):
                text = marks.names.get(one.id, one.name)
                tag = Tag(one.label, *place, text, one.id in chosen)
                tags.insert(0 if one.id in chosen else len(tags), tag)
        return tags

    def _outline(self, derived: Derived) -> QImage | None:
        session, labels = self.desk.session, derived.drawing.labels
        ids = session.chosen
        if not ids:
            return None
        alone = session.selection == session.alone
        cover = THEME.colour("ground").rgb() & 0xFFFFFF if alone else None
        wanted = (ids, cover)
        if self._outlined is None or self._outlined[0] != wanted or self._outlined[1] is not labels:
            chosen = [r.label for r in derived.regions if r.id in ids]
            inside = labels == chosen[0] if len(chosen) == 1 else np.isin(labels, chosen)
            times = max(1, _FINE_PX // max(inside.shape))
            if times > 1:  # of a few px: a line of two would hide them
                inside = inside.repeat(times, axis=0).repeat(times, axis=1)
            self._outline_image = overlay(inside, 2, 2, cover)
            self._outlined = (wanted, labels)
        return self._outline_image

    def region_at(self, x: float, y: float) -> str:
        """The id of the region at a place of the stage's picture, px; empty where there is none."""
        derived = self.desk.derived
        if derived is None or x < 0:
            return ""
        labels, view = derived.drawing.labels, self.desk.session.view
        height, width = labels.shape
        if view == "mirrored":
            x = width - 1 - int(x)
        if view == "upside-down":
            y = height - 1 - int(y)
        if view in _NO_REGIONS or not (0 <= x < width and 0 <= y < height):
            return ""
        found = region_of_label(derived.plan, int(labels[int(y), int(x)]))
        return "" if found is None else found.id
