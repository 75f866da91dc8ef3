"""The dialogs, all about files. Tests put their own answers in their place."""

from pathlib import Path
from typing import Literal, TypeAlias

from PySide6.QtCore import QCoreApplication
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QGridLayout,
    QLabel,
    QMessageBox,
    QWidget,
)

from umber_compass.window.widgets import theme
from umber_compass.window.widgets.bitmap import Bitmap

Unsaved: TypeAlias = Literal["save", "discard", "cancel"]
Second: TypeAlias = Literal["open", "shading", "regions", "cancel"]
Changed: TypeAlias = Literal["elsewhere", "replace", "cancel"]


def _tr(text: str) -> str:
    return QCoreApplication.translate("Dialogs", text)


class BesideDialogs:
    """Questions about what stands beside the painting."""

    def plans(self, parent: QWidget) -> list[Path]:
        """Plans to be seen in a row."""
        kinds = _tr("Plans (*.umber)")
        found, _ = QFileDialog.getOpenFileNames(parent, _tr("Add plans"), "", kinds)
        return [Path(f) for f in found]

    def log(self, parent: QWidget, name: str) -> Path | None:
        """Where to write the log, and as what."""
        kinds = _tr("Markdown (*.md);;CSV (*.csv)")
        return _path(QFileDialog.getSaveFileName(parent, _tr("Write log"), name, kinds)[0])

    def painting(self, parent: QWidget) -> Path | None:
        """The file that a painting is saved to."""
        kinds = _tr("Paintings (*.png *.jpg *.jpeg *.ora *.webp *.tif *.tiff *.bmp)")
        return _path(QFileDialog.getOpenFileName(parent, _tr("Watch a painting"), "", kinds)[0])


class Dialogs(BesideDialogs):
    """Asks the artist for files and for what happens to unsaved work."""

    def sketch(self, parent: QWidget) -> Path | None:
        """A picture of any kind."""
        pictures = _tr("Pictures (*.png *.jpg *.jpeg *.webp *.tif *.tiff *.bmp *.ora)")
        return _path(QFileDialog.getOpenFileName(parent, _tr("New from sketch"), "", pictures)[0])

    def plan(self, parent: QWidget) -> Path | None:
        """A plan."""
        kinds = _tr("Plans (*.umber)")
        return _path(QFileDialog.getOpenFileName(parent, _tr("Open plan"), "", kinds)[0])

    def save_as(self, parent: QWidget, name: str) -> Path | None:
        """Where to save a plan."""
        kinds = _tr("Plans (*.umber)")
        return _path(QFileDialog.getSaveFileName(parent, _tr("Save plan"), name, kinds)[0])

    def folder(self, parent: QWidget, start: str) -> Path | None:
        """Where hand-off files go."""
        return _path(QFileDialog.getExistingDirectory(parent, _tr("Hand-off folder"), start))

    def palette(self, parent: QWidget) -> Path | None:
        """A palette, or a picture whose colours are one."""
        kinds = _tr(
            "Palettes and pictures (*.gpl *.hex *.pal *.soc *.css *.json *.ggr *.svg *.png *.jpg"
            " *.jpeg *.webp *.tif *.bmp)"
        )
        return _path(QFileDialog.getOpenFileName(parent, _tr("Open palette"), "", kinds)[0])

    def press(self, parent: QWidget) -> Path | None:
        """The ICC profile of a press or printer."""
        kinds = _tr("ICC profiles (*.icc *.icm)")
        return _path(QFileDialog.getOpenFileName(parent, _tr("Press profile"), "", kinds)[0])

    def picture(self, parent: QWidget, name: str) -> Path | None:
        """Where to write a picture."""
        kinds = _tr("PNG pictures (*.png)")
        return _path(QFileDialog.getSaveFileName(parent, _tr("Write picture"), name, kinds)[0])

    def sheet(self, parent: QWidget, name: str) -> Path | None:
        """Where to write a plan sheet, and as what."""
        kinds = _tr("PDF (*.pdf);;SVG (*.svg);;PNG pictures (*.png)")
        return _path(QFileDialog.getSaveFileName(parent, _tr("Write sheet"), name, kinds)[0])

    def unsaved(self, parent: QWidget, title: str) -> Unsaved:
        """What happens to work that no file holds."""
        box = QMessageBox(parent)
        box.setStyleSheet(theme.sheet())
        box.setWindowTitle(_tr("Unsaved work"))
        box.setText(_tr("“{title}” has changes that no file holds.").format(title=title))
        buttons = QMessageBox.StandardButton
        box.setStandardButtons(buttons.Save | buttons.Discard | buttons.Cancel)
        box.setDefaultButton(buttons.Save)
        answer = box.exec()
        if answer == buttons.Save:
            return "save"
        return "discard" if answer == buttons.Discard else "cancel"

    def changed(self, parent: QWidget, name: str) -> Changed:
        """What happens to a plan's file that something else has changed."""
        box = QMessageBox(parent)
        box.setStyleSheet(theme.sheet())
        box.setWindowTitle(_tr("The file was changed"))
        line = _tr("{name} was changed by another window or program since it was read here.")
        box.setText(line.format(name=name))
        roles = QMessageBox.ButtonRole
        elsewhere = box.addButton(_tr("Keep both: save as …"), roles.AcceptRole)
        replace = box.addButton(_tr("Save over it"), roles.DestructiveRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.setDefaultButton(elsewhere)
        box.exec()
        if box.clickedButton() is elsewhere:
            return "elsewhere"
        return "replace" if box.clickedButton() is replace else "cancel"

    def second_picture(self, parent: QWidget, name: str) -> Second:
        """What a picture is for that was let fall on a plan."""
        box = QMessageBox(parent)
        box.setStyleSheet(theme.sheet())
        box.setWindowTitle(_tr("A second picture"))
        box.setText(_tr("What is {name} for?").format(name=name))
        box.setInformativeText(
            _tr(
                "A picture of the same piece may give the plan its light and dark, or its colours "
                "as regions; what was decided stays."
            )
        )
        roles = QMessageBox.ButtonRole
        ways: dict[object, Second] = {
            box.addButton(_tr("Open it as a new plan"), roles.AcceptRole): "open",
            box.addButton(_tr("Take its shading"), roles.ActionRole): "shading",
            box.addButton(_tr("Take its colours as regions"), roles.ActionRole): "regions",
        }
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.exec()
        return ways.get(box.clickedButton(), "cancel")

    def replace(self, parent: QWidget, line: str) -> bool:
        """Whether files that are there and not ours may be replaced."""
        box = QMessageBox(parent)
        box.setStyleSheet(theme.sheet())
        box.setWindowTitle(_tr("Files are there"))
        box.setText(line)
        replace = box.addButton(_tr("Replace"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.exec()
        return box.clickedButton() is replace

    def most_go(
        self, parent: QWidget, name: str, gone: int, count: int, there: Bitmap, fresh: Bitmap
    ) -> bool:
        """Whether a changed sketch is taken in with which most regions would go; both are shown."""
        box = QDialog(parent)
        box.setStyleSheet(theme.sheet())
        box.setWindowTitle(_tr("The sketch changed"))
        grid = QGridLayout(box)
        grid.setContentsMargins(24, 20, 24, 20)
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(8)
        line = QLabel(_tr("With {name} as it is now, {gone} of {count} regions would go."))
        line.setText(line.text().format(name=name, gone=gone, count=count))
        line.setObjectName("strong")
        grid.addWidget(line, 0, 0, 1, 2)
        for column, (bitmap, said) in enumerate(
            ((there, _tr("the plan’s picture")), (fresh, _tr("the file as it is now")))
        ):
            picture, words = QLabel(), QLabel(said)
            picture.setPixmap(QPixmap.fromImage(bitmap.image))
            words.setObjectName("quiet")
            grid.addWidget(picture, 1, column)
            grid.addWidget(words, 2, column)
        buttons = QDialogButtonBox()
        keep = buttons.addButton(
            _tr("Keep the plan as it is"), QDialogButtonBox.ButtonRole.RejectRole
        )
        buttons.addButton(_tr("Take the sketch in"), QDialogButtonBox.ButtonRole.AcceptRole)
        keep.setDefault(True)
        keep.setFocus()
        buttons.accepted.connect(box.accept)
        buttons.rejected.connect(box.reject)
        grid.addWidget(buttons, 3, 0, 1, 2)
        return box.exec() == QDialog.DialogCode.Accepted


class Discarding(Dialogs):
    """Lets unsaved work go without a question, where nobody is there to answer."""

    def unsaved(self, parent: QWidget, title: str) -> Unsaved:
        return "discard"


def _path(text: str) -> Path | None:
    return Path(text) if text else None
