"""Four views of the picture under the tray; a click puts one on the stage."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QImage, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QGridLayout, QMenu, QSizePolicy, QWidget

from umber_compass.window.strip.views import EVERY_VIEW, OF_LIGHT, USUAL
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted

TILE_PX = 152  # width at scale 1
CAPTION = 22
GAP = 8


class Tile(QAbstractButton):
    """One view: its picture and name. The caption opens the menu of views."""

    view_wanted = Signal(str)

    def __init__(self, view: str) -> None:
        super().__init__()
        self.setCheckable(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._image: QImage | None = None
        self._waits = False
        self.view, self._promised = "", False
        self.set_view(view)

    def sizeHint(self) -> QSize:
        return QSize(TILE_PX, 138)

    def set_view(self, view: str) -> None:
        """Which view the tile shows."""
        self.view, self._promised = view, False
        self.wait()  # the picture before stays until the view’s own comes
        self.setText(EVERY_VIEW[view].title)
        self.setAccessibleName(self.tr("View: {name}").format(name=EVERY_VIEW[view].title))
        self.setToolTip(
            self.tr("{says}; click for the stage, right click for another view").format(
                says=EVERY_VIEW[view].says
            )
        )
        self.update()

    def show_image(self, image: QImage | None, promised: bool = False) -> None:
        """The picture in this view, or None where it is still to come; `promised` where the light
        is off and this is what it would give."""
        self._image, self._promised = image, promised and self.view in OF_LIGHT
        self._waits = False
        self.update()

    def wait(self) -> None:
        """Its picture is another’s until the next one comes: it is dimmed till then."""
        self._waits = True
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        height = self.height() - CAPTION
        box = QRectF(0, 0, self.width(), height)
        if self._image is not None:
            box = fitted(box, self._image)
            draw_image(painter, box, self._image, self._waits)
        else:
            box.setHeight(height - 8)
            painter.fillRect(box, THEME.colour("well"))
        if self.isChecked() or self.hasFocus():
            painter.setPen(QPen(THEME.colour("ink"), 3 if self.isChecked() else 2))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        painter.setPen(THEME.colour("ink"))
        painter.setFont(font(12, self.isChecked()))
        said = self.text()
        if self._promised:
            said = self.tr("{view}, if on").format(view=said)
        if self._waits:
            said = self.tr("{view} …").format(view=said)
        metrics = painter.fontMetrics()
        cut = metrics.elidedText(said, Qt.TextElideMode.ElideRight, self.width())
        painter.drawText(QRectF(0, box.bottom() + 3, self.width(), 18), cut)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self._menu().exec(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Down:
            self._menu().exec(self.mapToGlobal(self.rect().bottomLeft()))
        else:
            super().keyPressEvent(event)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for name, spec in EVERY_VIEW.items():
            action = menu.addAction(spec.title)
            action.triggered.connect(lambda _=False, n=name: self.view_wanted.emit(n))
        return menu


class ViewStrip(QWidget):
    """The four tiles."""

    staged = Signal(str)  # the view to put on the stage, or empty for the picture
    wanted = Signal()  # a tile shows another view and needs its picture

    def __init__(self) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(GAP)
        self.tiles = [Tile(v) for v in USUAL]
        for tile in self.tiles:
            tile.clicked.connect(lambda on, t=tile: self._stage(t, on))
            tile.view_wanted.connect(lambda v, t=tile: self._change(t, v))
        self.stand(len(self.tiles))

    def stand(self, across: int) -> None:
        """Stand so many side by side."""
        for i, tile in enumerate(self.tiles):
            self._grid.removeWidget(tile)
            self._grid.addWidget(tile, i // across, i % across)

    def views(self) -> list[str]:
        """The views shown, left to right."""
        return [t.view for t in self.tiles]

    def show_views(self, views: list[str]) -> None:
        """Show other views, left to right; those that stay keep their picture."""
        if views == self.views():
            return
        for tile, view in zip(self.tiles, views, strict=True):
            if tile.view != view:
                tile.set_view(view)
        self.wanted.emit()

    def show_images(self, images: list[QImage | None], promised: bool = False) -> None:
        """Each tile's picture, left to right; `promised` where the light they show is off."""
        for tile, image in zip(self.tiles, images, strict=True):
            tile.show_image(image, promised)

    def wait(self) -> None:
        """Dim the tiles until their next pictures come."""
        for tile in self.tiles:
            tile.wait()

    def stage_view(self, view: str) -> None:
        """Mark the tile whose view is on the stage."""
        for tile in self.tiles:
            tile.setChecked(bool(view) and tile.view == view)

    def _stage(self, tile: Tile, on: bool) -> None:
        self.staged.emit(tile.view if on else "")

    def _change(self, tile: Tile, view: str) -> None:
        was_staged = tile.isChecked()
        tile.set_view(view)
        self.wanted.emit()
        if was_staged:
            self.staged.emit(view)
