"""A file that is written gets its kind's ending where its name has none."""

from pathlib import Path

from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QWidget

from umber_compass.window.widgets.dialogs import Dialogs


def with_ending(
    path: Path | None, ending: str, dialogs: Dialogs, parent: QWidget, only: bool = False
) -> Path | None:
    """The path that was chosen, with an ending where it has none, or where it has another and
    `only` this will do (`sea.v2` is a name then). None where none was chosen, or where a file of
    the longer name is there and is to stay: the file dialog has not asked about that one."""
    if path is None or (path.suffix.lower() == ending if only else path.suffix):
        return path
    named = path.with_name(path.name + ending)
    line = QCoreApplication.translate("with_ending", "{name} already exists. Replace it?")
    if named.exists() and not dialogs.replace(parent, line.format(name=named.name)):
        return None
    return named
