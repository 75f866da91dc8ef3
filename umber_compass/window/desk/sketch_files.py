"""Sketches beside or in place of the one a plan has, pictures kept beside it, and what is begun
without any: which file, and once unsaved work is settled."""

from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImageReader
from PySide6.QtWidgets import QWidget

from umber_compass.colour.packed import Packed
from umber_compass.document.following_sketch import Followed
from umber_compass.document.seeing import small_of
from umber_compass.formats.plan_file import ENDING
from umber_compass.steps.sketch.kinds import AUTO
from umber_compass.steps.sketch.matching import PROPORTIONS
from umber_compass.window.desk.candidates import Candidates
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.second_picture import SecondPicture
from umber_compass.window.desk.watching import Watching
from umber_compass.window.widgets.bitmap import Bitmap


class SketchFiles(QObject):
    """Asks for files and hands them on."""

    reference_chosen = Signal(object)  # a picture to be kept beside the plan
    followed_on = Signal(object)  # what became of the regions at the last reading, or None

    def __init__(self, files: Files, parent: QWidget) -> None:
        super().__init__(files)
        self.files, self._parent = files, parent
        self.watching, self.candidates = Watching(files.desk, self._may_go), Candidates(files.desk)
        self.second = SecondPicture(files.desk)
        self.second.found.connect(self.tell_followed)
        self.followed: Followed | None = None
        self.watching.found.connect(self.tell_followed)
        files.desk.opened.connect(lambda: self.tell_followed(None))

    def tell_followed(self, found: Followed | None) -> None:
        """Keep and say what became of the regions when the sketch was read again."""
        self.followed = found
        self.followed_on.emit(found)

    def _chosen(self) -> Path | None:
        """A picture that the artist chooses, where there is a plan to bring it to."""
        if self.files.desk.history is None:
            return None
        return self.files.dialogs.sketch(self._parent)

    def _may_go(self, name: str, gone: int, count: int, there: Packed, fresh: Packed) -> bool:
        dialogs, pictures = self.files.dialogs, (Bitmap(small_of(there)), Bitmap(fresh))
        return dialogs.most_go(self._parent, name, gone, count, *pictures)

    def again(self) -> None:
        """Read the sketch's file again; where it is not known on this machine, the artist says
        which file it is."""
        if self.files.desk.history is None or self.watching.again():
            return
        path = self._chosen()
        if path is not None:
            self.files.desk.paths.note(self.files.desk.history.now.sketch.hash, path)
            self.watching.begin()
            self.watching.read(path)

    def replace(self) -> None:
        """Take another picture of the same piece; what was decided goes over to it."""
        path = self._chosen()
        if path is not None:
            self.watching.read(path, AUTO)

    def dropped(self, path: Path) -> None:
        """A file that was let fall on the window is opened; the artist says what it is for where it
        is a picture in the proportions of the plan's own, so that it may be one of the piece."""
        answer = "open"
        if path.suffix.lower() != ENDING and self._may_be_of_the_piece(path):
            answer = self.files.dialogs.second_picture(self._parent, path.name)
        if answer == "open":
            self.files.open_path(path)
        elif answer == "shading":
            self.second.take_shading(path)
        elif answer == "regions":
            self.second.take_regions(path)

    def _may_be_of_the_piece(self, path: Path) -> bool:
        history, size = self.files.desk.history, QImageReader(str(path)).size()
        if history is None or not size.isValid() or not size.height():
            return False
        width, height = history.now.sketch.size
        return abs(size.width() / size.height() * height / width - 1) < PROPORTIONS

    def take_shading(self) -> None:
        """Take the light and dark of another picture of the same piece."""
        path = self._chosen()
        if path is not None:
            self.second.take_shading(path)

    def take_regions(self) -> None:
        """Take the regions and hues of another picture of the same piece."""
        path = self._chosen()
        if path is not None:
            self.second.take_regions(path)

    def add_candidate(self) -> None:
        """Bring another sketch in beside the one that is chosen."""
        path = self._chosen()
        if path is not None:
            self.candidates.add(path)

    def add_reference(self) -> None:
        """Keep a picture beside the plan."""
        path = self._chosen()
        if path is not None:
            self.reference_chosen.emit(path)

    def compose(self, name: str) -> None:
        """Begin without a sketch, from a composition."""
        files = self.files

        def now() -> None:
            files.demo_wanted = False
            files.documents.compose(name, files.settling(name))

        files.when_settled(now)
