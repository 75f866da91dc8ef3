"""Reference pictures written on the worker, to the hand-off folder."""

from pathlib import Path

from PySide6.QtWidgets import QWidget

from umber_compass.document.references_out import Wish, write_references
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.words import Refusal
from umber_compass.work import Tick


def write(desk: Desk, files: Files, parent: QWidget, wish: Wish, force: bool = False) -> None:
    """Write them; where one is there that is not ours, the artist is asked."""
    if desk.history is None or desk.pixels is None:
        return
    desk.session.taking.emit()
    plan, pixels = desk.history.now, desk.pixels
    try:
        folder = Path(files.handing_off.folder).expanduser()
    except RuntimeError:
        line = parent.tr("{folder}: there is no such person here; choose another folder")
        desk.told.emit(line.format(folder=files.handing_off.folder), True)
        return

    def work(tick: Tick) -> list[Path]:
        return write_references(plan, pixels, folder, wish, force, tick)

    def answer(written: list[Path]) -> None:
        names = ", ".join(p.name for p in written)
        line = parent.tr("Wrote {names} to {folder}")
        desk.told.emit(line.format(names=names, folder=folder), False)

    def fail(error: Exception) -> None:
        foreign = isinstance(error, Refusal) and "not written by this program" in str(error)
        line = parent.tr("{why}. Replace it?").format(why=error)
        if foreign and not force and files.dialogs.replace(parent, line):
            write(desk, files, parent, wish, force=True)
        else:
            desk.worker.say_failed(error)

    says = parent.tr("Writing the references")
    desk.orders.ask("references", lambda: work, answer, fail, says)
