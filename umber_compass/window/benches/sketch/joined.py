"""What the sketch bench is joined to: the chosen regions, the sketch's file, its candidates, and
the ways it can be read."""

from umber_compass.plan.model import Region
from umber_compass.plan.ramp_edits import MOST_STOPS, set_gradient, set_region_gradient
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.sketch.sketch_bench import READING, SketchBench
from umber_compass.window.desk.gaps import neck_marks_of
from umber_compass.window.desk.splitting import Preview
from umber_compass.window.stage.step_marks import Marks
from umber_compass.work import Tick


def marks(derived: Derived, selected: str) -> Marks:
    """The gaps of line art; a drag on the picture chooses."""
    sketch = derived.plan.sketch
    return Marks(necks=neck_marks_of(sketch.necks, sketch.size), frames=True)


def join(bench: Bench, parts: WindowParts) -> None:
    """Join the bench to the desk and what works beside it."""
    assert isinstance(bench, SketchBench)
    session = parts.desk.session
    bench.chosen_several.connect(session.select_several)
    bench.chosen_now = lambda: session.chosen
    bench.asked.connect(parts.actions.run)
    parts.actions.attach(bench.plan_page.panel.split_menu, "split")
    bench.replacing.connect(parts.sketches.replace)
    watching, splitting = parts.sketches.watching, parts.splitting
    parts.sketches.followed_on.connect(bench.plan_page.show_followed)
    bench.plan_page.show_followed(parts.sketches.followed)
    splitting.previewed.connect(bench.reading.show_preview)

    def show_looked(preview: Preview) -> None:
        """The gaps that another setting would close, on the stage; the plan's own where it is the
        way the sketch was read."""
        derived = parts.desk.derived
        own = derived is not None and preview.necks == derived.plan.sketch.necks
        parts.stage.looked_gaps = None if own or preview.line else preview.gaps()
        parts.stage.update()

    splitting.previewed.connect(show_looked)
    parts.desk.live.redrawn.connect(lambda: setattr(parts.stage, "looked_gaps", None))
    parts.desk.opened.connect(lambda: setattr(parts.stage, "looked_gaps", None))
    bench.reading.looked.connect(splitting.want)
    bench.reading.taken.connect(splitting.take)
    bench.reading.shading.gradient_wanted.connect(lambda of: open_gradient(bench, parts, of))
    candidates, page = parts.sketches.candidates, bench.candidates
    page.adding.connect(parts.sketches.add_candidate)
    page.choosing.connect(candidates.choose)
    page.wanted.connect(candidates.picture)
    candidates.pictured.connect(page.show_pictures)

    def show_watched() -> None:
        bench.show_watched(watching.is_watched)

    watching.known.connect(show_watched)
    show_watched()

    def show_gaps() -> None:
        parts.stage.gaps_shown = bench.pages.currentIndex() == READING
        parts.stage.update()

    bench.paged.connect(show_gaps)


def open_gradient(bench: Bench, parts: WindowParts, region: Region | None) -> None:
    """A gradient over the artist's own shading, of a file that is chosen; of one region alone, or
    of all of them."""
    path = parts.files.dialogs.palette(bench)
    if path is None:
        return

    def read(tick: Tick) -> list[str]:
        from umber_compass.document.palettes_in import read_palette  # needed here alone

        return [hex_ for hex_, _ in read_palette(path).colours[:MOST_STOPS]]

    def lay(hexes: list[str]) -> None:
        parts.desk.seal()
        if region is None:
            parts.desk.do(set_gradient(hexes))
        else:
            parts.desk.do(set_region_gradient(region.id, hexes, region.name))

    says = bench.tr("Reading a gradient")
    parts.desk.orders.ask("gradient", lambda: read, lay, says=says)
