"""The value ladder as it is seen: L* upright, the histogram, a chip for each region."""

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPixmap

from umber_compass.colour.measured import grey_scale
from umber_compass.window.benches.values.chips import (
    LEFT,
    SCALE,
    Chip,
    ChipPlaces,
    Gathered,
    Laid,
    Scale,
)
from umber_compass.window.benches.values.ladder_painting import (
    limit_words,
    paint_chips,
    paint_gathered,
    paint_ghosts,
    paint_histogram,
    paint_limits,
    paint_lit,
    paint_planned,
    paint_scale,
)
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.instrument import Instrument
from umber_compass.window.widgets.theme import THEME


class LadderView(Instrument):
    """Shows chips, says what lies where; knows which chip is chosen."""

    framed = True

    def __init__(self) -> None:
        super().__init__(self.tr("Value ladder"), (480, 400))
        self.setMinimumHeight(140)
        self._greys = grey_scale(21)
        self._chips: list[Chip] = []
        self._histogram: list[float] = []
        self._limits = {"dark": 20.0, "light": 80.0}
        self._shares = {"dark": 0.0, "light": 0.0}
        self._current: tuple[str, int] = ("", 0)
        self._places = ChipPlaces()
        self._lit: tuple[float, float] | None = None
        self._placed: tuple[object, Laid] | None = None
        self._planned: list[float] = []
        self._ghosts: dict[str, float] = {}
        self._scale_key: object = None
        self._scale_kept = QPixmap()

    def show_chips(
        self,
        chips: list[Chip],
        histogram: list[float],
        limits: dict[str, float],
        shares: dict[str, float],
        selected: str,
        planned: list[float] | None = None,
    ) -> None:
        """The picture's values: chips, share in each point of L*, limits and what lies beyond;
        `planned` the same before light, where there is one."""
        self._chips, self._histogram, self._planned = chips, histogram, planned or []
        self._limits, self._shares = limits, shares
        if selected != self._current[0]:
            self._current = (selected, 0)
        self.update()

    def show_lit(self, lit: tuple[float, float] | None) -> None:
        """Between which values L* the chosen region lies in the light, or None."""
        self._lit = lit

    def show_ghosts(self, ghosts: dict[str, float]) -> None:
        """Where regions would go, by L* from where they are; none where nothing is proposed."""
        if ghosts != self._ghosts:
            self._ghosts = ghosts
            self.update()

    def standing(self) -> Laid:
        """Where the chips lie, and what is gathered; found anew only where something moved."""
        held, chosen = self._held, self._current
        if held is not None and self._placed is not None and held[1] >= 0:
            return self._with_held(self._placed[1], held)
        key = (self._chips, held, chosen, self.size().toTuple(), tuple(self._limits.values()))
        if self._placed is None or self._placed[0] != key:
            found = self._places.place(self._chips, chosen, held, self.scale, self._words_at)
            self._placed = (key, found)
        return self._placed[1]

    def _with_held(self, before: Laid, held: tuple[str, int]) -> Laid:
        """The same with the chip that is held at its value; the others stay, or they would jump."""
        now = {(c.region, c.end): c for c in self._chips}
        chips = []
        for box, chip in before.chips:
            new = now.get((chip.region, chip.end), chip)
            if (chip.region, chip.end) == held:
                box = QRectF(box)
                box.moveCenter(QPointF(box.center().x(), self.scale.y_of(new.value)))
            chips.append((box, new))
        return before._replace(chips=chips)

    def _words_at(self, right: float) -> list[QRectF]:
        return [box for box, _ in limit_words(self.scale, right, self._limits, self._shares)]

    @property
    def is_held(self) -> bool:
        """Whether a chip or a limit is dragged."""
        return self._held is not None

    def boxes(self) -> list[tuple[QRectF, Chip]]:
        """Where each chip lies that is not gathered."""
        return self.standing().chips

    @property
    def scale(self) -> Scale:
        """Where values stand on the widget as it is."""
        return Scale(self.width(), self.height())

    def paint(self, painter: QPainter) -> None:
        scale, standing = self.scale, self.standing()
        self._paint_scale(painter, scale)
        paint_histogram(painter, scale, self._histogram)
        paint_planned(painter, scale, self._planned)
        boxes = standing.chips
        paint_limits(painter, scale, standing.right, self._limits, self._shares, boxes)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_chips(painter, boxes, self._current[0])
        if self._ghosts:
            paint_ghosts(painter, scale, boxes, self._ghosts)
        for group in standing.gathered:
            paint_gathered(painter, group)
        if self._lit is not None:
            paint_lit(painter, scale, self._lit)

    def _paint_scale(self, painter: QPainter, scale: Scale) -> None:
        """Numbers and greys, kept as a picture: they are seldom others."""
        ratio, room = self.devicePixelRatioF(), THEME.room.name
        key = (self.size().toTuple(), ratio, room, value_words.notation().name)
        if self._scale_key != key:
            self._scale_kept = QPixmap(int((LEFT + SCALE + 1) * ratio), int(self.height() * ratio))
            self._scale_kept.setDevicePixelRatio(ratio)
            self._scale_kept.fill(THEME.colour("ground"))
            inner = QPainter(self._scale_kept)
            paint_scale(inner, scale, self._greys)
            inner.end()
            self._scale_key = key
        painter.drawPixmap(0, 0, self._scale_kept)

    def group_at(self, place: QPointF) -> Gathered | None:
        """What is gathered at a place."""
        return next((g for g in self.standing().gathered if g.box.contains(place)), None)

    def _hit(self, place: QPointF) -> tuple[Chip | None, str]:
        for box, chip in self.boxes():
            if box.adjusted(-3, -3, 3, 3).contains(place):
                return chip, ""
        for kind, value in self._limits.items():
            if place.x() > LEFT and abs(place.y() - self.scale.y_of(value)) <= 4:
                return None, kind
        return None, ""
