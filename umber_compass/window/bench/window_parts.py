"""What a bench may be joined to, beside what every bench is."""

from typing import NamedTuple

from umber_compass.document.library import Library
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.journaling import Journaling
from umber_compass.window.desk.painting_watch import PaintingWatch
from umber_compass.window.desk.sketch_files import SketchFiles
from umber_compass.window.desk.splitting import Splitting
from umber_compass.window.stage.stage import Stage
from umber_compass.window.strip.peeking import Peeking
from umber_compass.window.widgets.actions import Actions


class WindowParts(NamedTuple):
    """The parts of the window that a bench's own instruments reach for."""

    desk: Desk
    stage: Stage
    files: Files
    peeking: Peeking
    library: Library
    splitting: Splitting
    sketches: SketchFiles
    actions: Actions
    watch: PaintingWatch
    journaling: Journaling
