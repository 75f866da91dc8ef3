"""What is pressed, framed and drawn on the stage, and what comes of it."""

from PySide6.QtCore import QObject, QRectF, Qt
from PySide6.QtGui import QGuiApplication

from umber_compass.plan.edits import region
from umber_compass.steps.sketch.label_edits import Point
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.reworking import Reworking
from umber_compass.window.stage.choosing_hand import BRUSHES, GIVE, LINE, NARROW, OUTLINE, WIDEN
from umber_compass.window.stage.marks import StageMarks
from umber_compass.window.stage.stage import Stage

_WITHIN = 0.8  # of a region's box that a frame must hold to choose it
_MORE = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier


class StageGestures(QObject):
    """Chooses regions on the picture, and draws lines through them."""

    def __init__(
        self, desk: Desk, stage: Stage, marks: StageMarks, steps: StepCommands, rework: Reworking
    ) -> None:
        super().__init__(desk)
        self.desk, self.stage, self.marks = desk, stage, marks
        self.steps, self.reworking = steps, rework
        stage.pressed.connect(self._on_pressed)
        stage.framed.connect(self._on_framed)
        stage.drawn.connect(self._on_drawn)
        stage.neck_pressed.connect(rework.turn_neck)
        desk.session.stepped.connect(self.end_mode)

    def begin_line(self) -> None:
        """The next line drawn on the picture splits the chosen region."""
        self._begin(LINE, self.tr("Draw a line across {name}; Escape leaves it whole"))

    def begin_giving(self) -> None:
        """The next part that is clicked goes to the chosen region."""
        self._begin(GIVE, self.tr("Click the part that {name} should have; Escape leaves it"))

    def begin_outline(self) -> None:
        """The next line drawn on the picture goes round a new region."""
        self._begin(OUTLINE, self.tr("Draw round the new region; edges near by pull; Escape ends"))

    def begin_brush(self, mode: str) -> None:
        """Strokes on the picture widen or narrow the chosen region, until Escape."""
        line = self.tr("Brush over what {name} should have; Up and Down turn the brush; Escape")
        if mode == NARROW:
            line = self.tr("Brush over what {name} should lose; Up and Down turn the brush; Escape")
        self._begin(mode, line)

    def turn_brush(self, key: int) -> bool:
        """A wider or narrower brush by an arrow key, while one is in hand."""
        steps = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}
        if self.stage.hand.mode not in BRUSHES or key not in steps:
            return False
        self.stage.hand.turn_brush(steps[Qt.Key(key)])
        line = self.tr("Brush: {px:.0f} px wide on screen").format(px=self.stage.hand.brush)
        self.desk.told.emit(line, False)
        return True

    def _begin(self, mode: str, line: str) -> None:
        derived, chosen = self.desk.derived, self.desk.session.selection
        if derived is None or not (chosen or mode == OUTLINE):
            return
        self.steps.open("sketch")
        self.desk.session.show_view("")
        self.stage.hand.mode = mode
        self.stage.setCursor(Qt.CursorShape.CrossCursor)
        self.stage.setFocus()
        name = region(derived.plan, chosen).name if chosen else ""
        self.desk.told.emit(line.format(name=name), False)

    def end_mode(self) -> bool:
        """Nothing is drawn or given any more; gives whether anything was."""
        if self.stage.hand.mode not in (LINE, GIVE, OUTLINE, *BRUSHES):
            return False
        self.stage.hand.mode = ""
        self.stage.hand.cancel()
        self.stage.unsetCursor()
        self.desk.changed.emit()
        return True

    def _on_pressed(self, x: float, y: float) -> None:
        """A region is chosen, beside others with Shift or Ctrl; or a part of one is given away."""
        if self.stage.hand.mode == GIVE:
            to = self.desk.session.selection
            self.end_mode()
            if to and x >= 0:
                self.reworking.reassign(self._in_sketch(x, y), to)
            return
        found = self.marks.region_at(x, y)
        if QGuiApplication.keyboardModifiers() & _MORE:
            self.desk.session.select_too(found)
        else:
            self.desk.session.select(found)

    def _on_framed(self, frame: QRectF) -> None:
        """Choose the regions that a frame holds for the most part."""
        derived = self.desk.derived
        if derived is None:
            return
        found = []
        for one in derived.regions:
            x, y, width, height = derived.drawing.box.get(one.label, (0, 0, 0, 0))
            held = frame.intersected(QRectF(x, y, width, height))
            if width * height and held.width() * held.height() >= _WITHIN * width * height:
                found.append(one.id)
        self.desk.session.select_several(found)

    def _on_drawn(self, line: list[Point]) -> None:
        mode, drawn = self.stage.hand.mode, [self._in_sketch(*p) for p in line]
        if mode in BRUSHES:  # more strokes may come
            wide = self._in_sketch(self.stage.hand.brush / self.stage.scale, 0)[0]
            self.reworking.brush(drawn, wide, mode == WIDEN)
            return
        self.end_mode()
        if mode == OUTLINE:
            self.reworking.outline(drawn)
        else:
            self.reworking.split_by_line(drawn)

    def _in_sketch(self, x: float, y: float) -> Point:
        """A place of the stage's picture, px, in px of the sketch."""
        derived = self.desk.derived
        assert derived is not None
        scale = derived.plan.sketch.size[0] / derived.drawing.labels.shape[1]
        return x * scale, y * scale
