"""A painting's drift as the page shows it: pictures, rows and lines, from what the watch found."""

from collections.abc import Callable

from PySide6.QtCore import QObject

from umber_compass.colour.packed import CLEAR, Packed
from umber_compass.plan.edits import Edit
from umber_compass.steps.pictures import picture
from umber_compass.window.benches.handoff.drift_row import DriftSaid
from umber_compass.window.benches.handoff.painting_page import PaintingPage
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.painting_watch import PaintingWatch, Watched
from umber_compass.work import Tick

_WORST = 3
_BARE = 0x8A8A8A  # where nothing is painted


class PaintingTold(QObject):
    """Shows a page what the watch finds, and takes what it asks for to the plan."""

    def __init__(
        self,
        desk: Desk,
        watch: PaintingWatch,
        page: PaintingPage,
        do: Callable[[Edit], object],
    ) -> None:
        super().__init__(page)
        self._desk, self._watch, self._page, self._do = desk, watch, page, do
        self._seen, self._found = "painting", watch.shown
        page.seen_changed.connect(self._see)
        page.accepted.connect(self._accept)
        page.file_chosen.connect(watch.choose)
        page.dropped.connect(watch.drop)
        page.noted.connect(watch.note)
        watch.found.connect(self.show)
        watch.failed.connect(lambda path, why: page.say(why) if path == watch.current else None)
        watch.files_changed.connect(self._show_files)
        watch.waits.connect(page.picture.wait)
        self._show_files()
        if self._found is not None:
            self.show(self._found)

    def _show_files(self) -> None:
        self._page.show_files(self._watch.files, self._watch.current)
        self._page.show_looks(self._watch.looks)

    def show(self, found: Watched) -> None:
        """Show what was found."""
        from umber_compass.steps.painting.telling import rework

        self._found = found
        self._page.say(self._summary(found))
        worst = rework(found.compared.drifts, found.of.shares)
        rows = [self._said(found, d) for d in worst[:_WORST]]
        checks = [f"{r.title}: {r.text}" for r in found.checks[:4]]
        self._page.show_drifts(rows, checks, max(len(worst) - _WORST, 0))
        self._page.show_looks(self._watch.looks)
        self._see(self._seen)

    def _summary(self, found: Watched) -> str:
        from umber_compass.steps.painting.telling import whole_words

        compared = found.compared
        drifted = sum(bool(d.drifted) for d in compared.drifts)
        line = self.tr("{painted:.0%} painted. {what}")
        if not drifted:
            what = self.tr("Nothing has drifted from the plan.")
        elif drifted == 1:
            what = self.tr("One region has drifted.")
        else:
            what = self.tr("{count} of {all} regions have drifted.").format(
                count=drifted, all=len(compared.drifts)
            )
        said = [line.format(painted=compared.painted, what=what)]
        left = len(found.of.regions) - len(compared.drifts)
        if left:
            more = self.tr("{count} regions are not painted yet, or too small to tell.")
            if left == 1:
                more = self.tr("One region is not painted yet, or too small to tell.")
            said.append(more.format(count=left))
        whole = "; ".join(str(w) for w in whole_words(compared.whole))
        if whole:
            said.append(self.tr("Over all {whole}.").format(whole=whole))
        crept = self._crept()
        return " ".join([*said, *([crept] if crept else [])])

    def _crept(self) -> str:
        """What the darks and lights did since the first save of the day."""
        from umber_compass.steps.painting.telling import since_words
        from umber_compass.window.benches.handoff.days_chart import said_time

        looks = self._watch.looks
        found = since_words(looks)
        if found is None:
            return ""
        first, words = found
        return self.tr("{what} since {when}.").format(what=str(words), when=said_time(first.at))

    def _said(self, found: Watched, drift: object) -> DriftSaid:
        from umber_compass.steps.painting.comparing import Drift
        from umber_compass.steps.painting.telling import (
            drift_words,
            painted_hex,
            place_words,
            planned_hex,
        )

        assert isinstance(drift, Drift)
        derived = found.of
        region = next(r for r in derived.regions if r.id == drift.region)
        x, y, w, h = derived.drawing.box[region.label]
        height, width = derived.drawing.labels.shape
        place = place_words((x + w / 2) / width, (y + h / 2) / height)
        share = derived.shares.get(drift.region, 0.0)
        where = self.tr("{place}, {share:.1%} of the picture").format(place=place, share=share)
        return DriftSaid(
            drift.region,
            region.name,
            str(drift_words(drift)),
            where,
            planned_hex(drift),
            painted_hex(drift),
        )

    def _see(self, name: str) -> None:
        """Show the picture that is chosen, made on the worker."""
        self._seen = name
        found = self._found
        if found is None:
            return

        def work(tick: Tick) -> Packed:
            from umber_compass.steps.painting.pictures import drift_map, mended

            compared = found.compared
            by_id = {r.id: r.label for r in found.of.regions}
            if name == "plan":
                return picture(found.of.of(found.of.plan))
            if name == "drift":
                return drift_map(
                    compared.on_grid,
                    compared.planes,
                    compared.goal,
                    compared.labels,
                    compared.drifts,
                    by_id,
                )
            shown = compared.on_grid
            if name == "planned":
                shown = mended(shown, compared.labels, compared.drifts, by_id)
            found_px: Packed = shown.copy()
            found_px[shown == CLEAR] = _BARE
            return found_px

        self._desk.worker.ask("painting seen", work, self._page.show_picture)

    def _accept(self, regions: list[str]) -> None:
        """Take the drift of some regions into the plan, or of all that drifted."""
        from umber_compass.steps.painting.accepting import accept

        found = self._found
        if found is None:
            return
        mine = [
            d for d in found.compared.drifts if d.drifted and (not regions or d.region in regions)
        ]
        names = {r.id: r.name for r in found.of.regions}
        if mine:
            self._desk.seal()
            self._do(accept(mine, names))
