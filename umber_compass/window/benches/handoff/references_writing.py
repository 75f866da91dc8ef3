"""Reference pictures written on the worker, to the hand-off folder."""

from pathlib import Path

from PySide6.QtWidgets import QWidget

from umber_compass.document.references_out import Wish, others_references, write_references
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
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

    def work(tick: Tick) -> tuple[list[Path], bool]:
        foreign = [] if force else others_references(plan, folder, wish)
        if foreign:
            return foreign, False
        return write_references(plan, pixels, folder, wish, force, tick), True

    def answer(found: tuple[list[Path], bool]) -> None:
        names, written = ", ".join(p.name for p in found[0]), found[1]
        if written:
            line = parent.tr("Wrote {names} to {folder}")
            desk.told.emit(line.format(names=names, folder=folder), False)
            return
        line = parent.tr(
            "{names} in {folder} already exist, not written by this program. Replace them?"
        )
        if files.dialogs.replace(parent, line.format(names=names, folder=folder)):
            write(desk, files, parent, wish, force=True)
        else:
            line = parent.tr("Nothing was written; the files are as they were")
            desk.told.emit(line, False)

    says = parent.tr("Writing the references")
    desk.orders.ask("references", lambda: work, answer, says=says)
