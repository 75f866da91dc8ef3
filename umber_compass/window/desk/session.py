"""What the artist has open and in hand, each known here alone: the step, the chosen region, the
view on the stage, the key that is held, whether something is dragged."""

from collections.abc import Collection, Iterable

from PySide6.QtCore import QObject, Signal

FIRST_STEP = "harmony"
FIRST_WITH_SKETCH = "sketch"  # where a picture that was just brought in is named


class Session(QObject):
    """Says what changed; holds nothing of the plan."""

    stepped = Signal()  # another step is open
    selected = Signal(str)  # a region's id, or empty
    viewed = Signal()  # another view is on the stage, or another key is held
    taking = Signal()  # something is about to change: what is being typed is taken first
    acted = Signal()  # the artist did something: what was refused before is past

    def __init__(self) -> None:
        super().__init__()
        self.step = FIRST_STEP
        self.selection = ""
        self.also: tuple[str, ...] = ()  # regions chosen beside it
        self.view = ""  # on the stage; empty for the picture as it is
        self.held = ""  # what a held key shows: a moment of the plan or a part of its light
        self.dragging = False
        self.walled = False  # the study wall is in the stage’s place
        self.alone = ""  # the region that is seen alone on the stage

    def open_step(self, step: str) -> None:
        """Open a step's bench."""
        self.taking.emit()
        self.step = step
        self.acted.emit()
        self.stepped.emit()

    def select(self, region_id: str) -> None:
        """Point every part of the window at a region. One that is seen alone stays so until another
        is chosen."""
        self.taking.emit()
        self.selection, self.also = region_id, ()
        if region_id != self.alone:
            self.alone = ""
        self.acted.emit()
        self.selected.emit(region_id)

    @property
    def chosen(self) -> tuple[str, ...]:
        """Every chosen region, that which was chosen last first."""
        return (self.selection, *self.also) if self.selection else ()

    def select_several(self, ids: Iterable[str]) -> None:
        """Point every part of the window at several regions, the first of which leads."""
        self.taking.emit()
        found = tuple(dict.fromkeys(i for i in ids if i))
        self.selection, self.also = (found[0], found[1:]) if found else ("", ())
        self.alone = ""
        self.acted.emit()
        self.selected.emit(self.selection)

    def keep_known(self, ids: Collection[str]) -> None:
        """Point at no region that is gone: only these are there."""
        left = [i for i in self.chosen if i in ids]
        self.alone = self.alone if self.alone in ids else ""
        self.selection, self.also = (left[0], tuple(left[1:])) if left else ("", ())

    def select_too(self, region_id: str) -> None:
        """Choose a region beside those that are, or no longer."""
        if not region_id:
            return
        if region_id in self.chosen:
            self.select_several(i for i in self.chosen if i != region_id)
        else:
            self.select_several((region_id, *self.chosen))

    def show_alone(self, region_id: str) -> None:
        """See one region alone on the stage; none: all of them."""
        self.alone = region_id
        self.acted.emit()
        self.viewed.emit()

    def put_on_stage(self, view: str) -> None:
        """Put a view on the stage; the same again, or none, brings the picture back."""
        self.view = "" if view == self.view else view
        self.viewed.emit()

    def show_view(self, view: str) -> None:
        """Have a view on the stage, or none, whatever is there."""
        self.view = view
        self.viewed.emit()

    def hold(self, what: str) -> None:
        """Show what a held key stands for; empty when it is let go."""
        self.held = what
        self.viewed.emit()
