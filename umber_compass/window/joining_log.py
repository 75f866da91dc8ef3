"""The log drawer, joined to the journal, its files and the reminder of breaks."""

from pathlib import Path

from umber_compass.formats import atomic
from umber_compass.formats.log_text import log_csv, log_markdown
from umber_compass.plan.journal import Journal
from umber_compass.steps.handoff.palette import stem
from umber_compass.window.benches import BENCHES
from umber_compass.window.desk.with_ending import with_ending
from umber_compass.window.drawers.log import LogDrawer
from umber_compass.window.works import Works, breaks_of
from umber_compass.work import Tick


def join_log(drawer: LogDrawer, works: Works) -> None:
    """Show the journal, take reasons, write it, look anew."""
    journaling = works.journaling

    def show() -> None:
        drawer.show_journal(journaling.journal)

    journaling.changed.connect(show)
    drawer.why_typed.connect(journaling.say_why)
    drawer.write_wanted.connect(lambda: _write(drawer, works))
    drawer.fresh_wanted.connect(lambda: _look_anew(drawer, works))
    breaks = breaks_of(works.desk, works.remembered)
    drawer.breaks.setChecked(breaks.is_on)
    drawer.breaks_wanted.connect(breaks.wish)
    show()


def _write(drawer: LogDrawer, works: Works) -> None:
    """Write the log to a file that the artist names, off the GUI thread."""
    desk = works.desk
    if desk.history is None:
        return
    title = desk.history.now.title
    dialogs = works.files.dialogs
    path = dialogs.log(drawer, f"{stem(title)}-log.md")
    named = with_ending(path, ".md", dialogs, drawer)
    if named is None:
        return
    journal = works.journaling.journal

    def work(tick: Tick) -> Path:
        atomic.write_data(named, log_data(journal, title, named).encode())
        return named

    def answer(written: Path) -> None:
        desk.told.emit(drawer.tr("Wrote {file}").format(file=written), False)

    desk.orders.ask("log", lambda: work, answer, says=drawer.tr("Writing the log"))


def log_data(journal: Journal, title: str, path: Path) -> str:
    """The log as a file of this name holds it."""
    steps = {r.step: r.title for r in BENCHES.values()}
    if path.suffix.lower() == ".csv":
        return log_csv(journal, steps)
    return log_markdown(journal, title, steps)


def _look_anew(drawer: LogDrawer, works: Works) -> None:
    from umber_compass.window.drawers.fresh_look import FreshLook

    bitmap = works.desk.live.bitmap
    if bitmap is None:
        return
    dialog = FreshLook(bitmap.packed, drawer.window())
    dialog.answered.connect(works.journaling.add_fresh_look)
    dialog.finished.connect(dialog.deleteLater)
    dialog.open()
