"""Keeps the strip beside the painting: makes it when it is first wished, and shows it what is on
the desk while it is open."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.document.seeing import small_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.beside.pipette import Pipette
from umber_compass.window.commands.regions import Regions
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.journaling import Journaling
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.window.beside.strip import BesideStrip

_SLOW = ("chart", "ramps")  # stages that it shows


class Beside(QObject):
    """The strip and what it knows; without a strip it does nothing."""

    def __init__(
        self, parent: QWidget, desk: Desk, regions: Regions, journaling: Journaling
    ) -> None:
        super().__init__(desk)
        self._parent, self._desk, self._regions = parent, desk, regions
        self._journaling = journaling
        self.pipette = Pipette(self)
        self.strip: BesideStrip | None = None
        self._region = ""
        self._asked: Derived | None = None
        desk.changed.connect(self._follow)
        desk.session.selected.connect(self._on_selected)
        journaling.changed.connect(self._show_card)
        desk.closed.connect(self.close)

    def toggle(self) -> None:
        """Open the strip, or close it."""
        if self.strip is not None:
            self.close()
            return
        from umber_compass.window.beside.strip import BesideStrip

        self.strip = strip = BesideStrip(self._parent)
        strip.hovered.connect(self._point)
        strip.pressed.connect(self._press)
        strip.copied.connect(self._regions.copy)
        strip.ticked.connect(self._journaling.tick)
        strip.pick_wanted.connect(self._pick)
        strip.closed.connect(self._forget)
        self.pipette.picked.connect(self._show_picked)
        self.pipette.failed.connect(self._say_failed)
        self._region = self._desk.session.selection
        self._follow()
        strip.show()

    def dress(self) -> None:
        """Look as the room that is on."""
        if self.strip is not None:
            self.strip.dress()

    def close(self) -> None:
        """Close the strip."""
        if self.strip is not None:
            self.strip.close()

    def _forget(self) -> None:
        if self.strip is not None:
            self.pipette.picked.disconnect(self._show_picked)
            self.pipette.failed.disconnect(self._say_failed)
            self.strip.deleteLater()
            self.strip = None

    def _follow(self) -> None:
        """Show the plan that is on; its chart and ramps are worked out where they are not known."""
        derived, bitmap = self._desk.derived, self._desk.live.bitmap
        if self.strip is None or derived is None or self._desk.session.dragging:
            return
        if bitmap is not None:
            self.strip.show_picture(small_of(bitmap.packed))
        self._show_card()
        self._show_paints()
        stages = [getattr(Derived, name) for name in _SLOW]
        missing = [s for s in stages if not derived.has(s)]
        if missing and self._asked is not derived:
            self._asked = derived

            def work(tick: Tick) -> list[object]:
                own = derived.of(derived.plan)
                return [own.worked(s, tick) for s in missing]

            def answer(found: list[object]) -> None:
                for stage, result in zip(missing, found, strict=True):
                    derived.take(stage, result)
                self._show_card()
                self._show_paints()

            self._desk.worker.ask("beside", work, answer)

    def _show_card(self) -> None:
        from umber_compass.steps.handoff.card import card

        derived = self._desk.derived
        if self.strip is None or derived is None:
            return
        steps, done = card(derived), set(self._journaling.journal.done)
        left = [(i, s) for i, s in enumerate(steps) if s.key not in done]
        number, step = left[0] if left else (0, None)
        self.strip.show_step(step, number + 1, len(steps))

    def _on_selected(self, region: str) -> None:
        if region and region != self._region:
            self._region = region
            self._show_paints()

    def _show_paints(self) -> None:
        from umber_compass.steps.handoff.nearest_paint import paints_of

        derived = self._desk.derived
        if self.strip is None or derived is None:
            return
        known = {r.id for r in derived.regions}
        mine = paints_of(derived, self._region) if self._region in known else []
        self.strip.show_paints(mine)

    def _point(self, x: float, y: float) -> None:
        """Name the colour of the plan that the picture has at a place."""
        from umber_compass.steps.handoff.nearest_paint import nearest_paint

        derived, hex_ = self._desk.derived, self._hex_at(x, y)
        if self.strip is None or derived is None or not hex_:
            return
        label = derived.drawing.label_at(min(x, 0.9999), min(y, 0.9999))
        region = next((r.id for r in derived.regions if r.label == label), "")
        near = nearest_paint(derived, hex_, region) if region else None
        if near is None:
            return
        if region != self._region:
            self._region = region
            self._show_paints()
        line = self.tr("{name}\n{hex}, {value:.0f} L*")
        self.strip.say(
            near.paint.hex,
            line.format(name=near.paint.name, hex=near.paint.hex, value=near.value),
        )

    def _press(self, x: float, y: float) -> None:
        from umber_compass.steps.handoff.nearest_paint import nearest_paint

        derived, hex_ = self._desk.derived, self._hex_at(x, y)
        if derived is not None and hex_:
            near = nearest_paint(derived, hex_, self._region)
            if near is not None:
                self._regions.copy(near.paint.hex)

    def _hex_at(self, x: float, y: float) -> str:
        bitmap = self._desk.live.bitmap
        if bitmap is None:
            return ""
        height, width = bitmap.packed.shape
        px = int(bitmap.packed[min(int(y * height), height - 1), min(int(x * width), width - 1)])
        return f"#{px & 0xFFFFFF:06x}"

    def _pick(self) -> None:
        if self.strip is not None:
            self.strip.say("", self.tr("Point anywhere on the screen …"))
            self.pipette.pick()

    def _show_picked(self, hex_: str) -> None:
        """Name the colour of the plan that is nearest to one that was picked."""
        from umber_compass.steps.handoff.nearest_paint import nearest_paint

        derived = self._desk.derived
        near = None if derived is None else nearest_paint(derived, hex_)
        if self.strip is None or near is None:
            return
        if near.apart < 1:
            says = self.tr("{hex} is {name}")
        elif abs(near.lighter) < 1:
            says = self.tr("{hex} is nearest to {name}, another hue or chroma")
        elif near.lighter > 0:
            says = self.tr("{hex} is nearest to {name}, {by:.0f} L* lighter than that")
        else:
            says = self.tr("{hex} is nearest to {name}, {by:.0f} L* darker than that")
        self.strip.say(hex_, says.format(hex=hex_, name=near.paint.name, by=abs(near.lighter)))

    def _say_failed(self, why: str) -> None:
        if self.strip is not None:
            self.strip.say("", self.tr("Nothing was picked: {why}.").format(why=why))
