"""Pictures that come by the clipboard."""

from pathlib import Path

from PySide6.QtCore import QObject

from umber_compass.window.desk.files import Files
from umber_compass.window.widgets.clipboard import copied, picture_of


class Pasting(QObject):
    """Brings in what lies on the clipboard."""

    def __init__(self, files: Files) -> None:
        super().__init__(files)
        self._files = files

    def paste(self) -> None:
        """Bring in the picture, or open the file, that lies there."""
        mime = copied()
        paths = [Path(u.toLocalFile()) for u in mime.urls() if u.isLocalFile()]
        if paths:
            self._files.open_path(paths[0])
        elif mime.hasImage():
            self._bring_in(picture_of(mime))
        else:
            line = self.tr("No picture to paste: copy one in the painting program first")
            self._files.desk.told.emit(line, True)

    def _bring_in(self, data: bytes) -> None:
        """Bring in a picture that lies in no file."""
        name, files = self.tr("pasted picture.png"), self._files

        def now() -> None:
            files.demo_wanted = False
            files.documents.take_in(data, name, files.settling(name))

        files.when_settled(now)
