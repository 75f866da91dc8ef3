"""What is seen without a plan: how to bring a picture in, the plans that were open last, and our
own to try it on."""

from collections.abc import Callable, Sequence
from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umber_compass.demo.plans import DEMOS
from umber_compass.formats import thumbnail
from umber_compass.formats.plan_file import ENDING
from umber_compass.steps.sketch.compositions import COMPOSITIONS
from umber_compass.steps.sketch.kinds import AUTO, KINDS
from umber_compass.window.benches.bench import quiet
from umber_compass.window.start_pictures import composition_picture, kind_picture
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted, is_px_by_px

_PICTURE = QSize(200, 150)
_SMALL = QSize(150, 112)  # of kinds, compositions and demos
_WORDS_PX = 42
_SHOWN = 4  # pictures in a row


class Card(QAbstractButton):
    """A picture with its name and a line below; a click takes it."""

    def __init__(
        self, title: str, says: str, load: Callable[[], QImage], room: QSize = _PICTURE
    ) -> None:
        super().__init__()
        self._says, self._load, self._room = says, load, room
        self._image: QImage | None = None
        self.setText(title)
        self.setAccessibleName(title)
        self.setAccessibleDescription(says)
        self.setToolTip(f"{title}\n{says}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def _loaded(self) -> QImage:
        """The picture, read when it is first seen: mostly another page is."""
        if self._image is None:
            keep = Qt.AspectRatioMode.KeepAspectRatio
            smooth = Qt.TransformationMode.SmoothTransformation
            image = self._load()
            small = image.isNull() or is_px_by_px(image.width(), image.height())
            self._image = image if small else image.scaled(self._room * 2, keep, smooth)
        return self._image

    def sizeHint(self) -> QSize:
        return QSize(self._room.width(), self._room.height() + _WORDS_PX)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        room = QRectF(0, 0, self._room.width(), self._room.height())
        image = self._loaded()
        box = _within(room, image)
        if image.isNull():
            painter.fillRect(room, THEME.colour("well"))
        else:
            draw_image(painter, box, image)
        if self.hasFocus() or self.underMouse():
            painter.setPen(QPen(THEME.colour("ink"), 3 if self.hasFocus() else 1.5))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        for text, px, strong, ink, top in (
            (self.text(), 14, True, "ink", 5),
            (self._says, 12, False, "quiet", 23),
        ):
            painter.setFont(font(px, strong))
            painter.setPen(THEME.colour(ink))
            cut = painter.fontMetrics().elidedText(
                text, Qt.TextElideMode.ElideRight, self._room.width()
            )
            line = QRectF(0, self._room.height() + top, self._room.width(), 18)
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft, cut)


def _within(room: QRectF, image: QImage) -> QRectF:
    """Where an image stands in a room: at its foot and left, as large as it may be."""
    if image.isNull():
        return room
    size = fitted(room, image).bottomRight() - room.topLeft()
    return QRectF(0, room.height() - size.y(), size.x(), size.y())


class StartPage(QScrollArea):
    """Says which file is wanted."""

    picked = Signal(object, bool)  # path of a plan, whether it is a demo
    choosing = Signal(str)  # a file is to be chosen, and read as this kind
    composed = Signal(str)  # a composition is to be begun with

    def __init__(self, recent: Callable[[], Sequence[Path]]) -> None:
        super().__init__()
        self._recent = recent
        self.setObjectName("start")
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        self.setWidget(inner)
        column = QVBoxLayout(inner)
        column.setContentsMargins(140, 20, 24, 16)
        column.setSpacing(7)
        self._build_bringing(column)
        column.addSpacing(8)
        self._were = self._add_head(column, self.tr("Where you were"), "")
        self.plans = self._add_row(column)
        column.addSpacing(8)
        self._build_compositions(column)
        column.addSpacing(8)
        self._add_head(column, self.tr("Try it on a picture of ours"), "")
        self.demos = self._add_row(column)
        column.addStretch(1)
        for demo in DEMOS:
            card = Card(demo.title, demo.says, partial(_thumbnail, demo.plan), _SMALL)
            card.clicked.connect(lambda _=False, p=demo.plan: self.picked.emit(p, True))
            self.demos.addWidget(card, 0, self.demos.count())
        self.demos.setColumnStretch(len(DEMOS), 1)
        self.show_plans()

    def tell(self, line: str, refused: bool) -> None:
        """What happens to a picture that was brought, where no other line is seen."""
        self.says.setText(f"▲  {line}" if refused and line else line)

    def go_on(self, kind: str, says: str, share: float) -> None:
        """How far a picture is that takes long."""
        self.says.setText(f"{says} … {share:.0%}" if share > 0 else f"{says} …")

    def _build_bringing(self, column: QVBoxLayout) -> None:
        self._add_head(
            column,
            self.tr("Bring in a picture"),
            self.tr("drop it here, paste it (Ctrl+V), or choose a file"),
        )
        self.kinds = self._add_row(column)
        for i, kind in enumerate(KINDS.values()):
            card = Card(kind.title, kind.says, partial(kind_picture, kind.name), _SMALL)
            card.setToolTip(
                self.tr("{title}: {says}. A click chooses a file and reads it so").format(
                    title=kind.title, says=kind.says
                )
            )
            card.clicked.connect(lambda _=False, k=kind.name: self.choosing.emit(k))
            self.kinds.addWidget(card, 0, i)
        self.kinds.setColumnStretch(len(KINDS), 1)
        row = QHBoxLayout()
        row.setSpacing(24)
        self.choose = QPushButton(self.tr("Choose a file …"))
        self.choose.setObjectName("chief")
        self.choose.clicked.connect(lambda: self.choosing.emit(AUTO))
        row.addWidget(self.choose)
        self.says = QLabel()
        self.says.setObjectName("strong")
        self.says.setWordWrap(True)
        plain = quiet(
            self.tr(
                "PNG, JPEG, WebP, TIFF, BMP or OpenRaster; its kind is guessed, and can be "
                "changed. The file itself is never changed."
            )
        )
        plain.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        row.addWidget(plain, 1)
        column.addLayout(row)
        column.addWidget(self.says)

    def _build_compositions(self, column: QVBoxLayout) -> None:
        self._add_head(
            column,
            self.tr("Begin without one"),
            self.tr("six compositions, to be named and coloured as your own"),
        )
        self.compositions = self._add_row(column)
        for i, composition in enumerate(COMPOSITIONS.values()):
            card = Card(
                composition.title,
                composition.says,
                partial(composition_picture, composition.name),
                _SMALL,
            )
            card.clicked.connect(lambda _=False, n=composition.name: self.composed.emit(n))
            self.compositions.addWidget(card, 0, i)
        self.compositions.setColumnStretch(len(COMPOSITIONS), 1)

    def _add_head(self, column: QVBoxLayout, title: str, says: str) -> QWidget:
        holder = QWidget()
        line = QHBoxLayout(holder)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(24)
        head = QLabel(title)
        head.setObjectName("title")
        line.addWidget(head)
        line.addWidget(quiet(says), 1)
        column.addWidget(holder)
        return holder

    def _add_row(self, column: QVBoxLayout) -> QGridLayout:
        row = QGridLayout()
        row.setHorizontalSpacing(22)
        row.setVerticalSpacing(14)
        column.addLayout(row)
        return row

    def show_plans(self) -> None:
        """The plans that were open last, newest first."""
        clear(self.plans)
        found = list(self._recent())[: 2 * _SHOWN]
        self._were.setVisible(bool(found))
        for i, path in enumerate(found):
            card = Card(plain(path), _when(path), partial(_thumbnail, path))
            card.setToolTip(str(path))
            card.clicked.connect(lambda _=False, p=path: self.picked.emit(p, False))
            self.plans.addWidget(card, i // _SHOWN, i % _SHOWN)
        self.plans.setColumnStretch(_SHOWN, 1)


def _thumbnail(path: Path) -> QImage:
    """A plan's thumbnail; a null image where there is none."""
    return QImage.fromData(thumbnail.read(path))


def plain(path: Path) -> str:
    """A plan's file as a name."""
    return path.name[: -len(ENDING)] if path.name.lower().endswith(ENDING) else path.name


def _when(path: Path) -> str:
    """When a file was last saved, and where it lies."""
    try:
        saved = datetime.fromtimestamp(path.stat().st_mtime)
    except OSError:
        return str(path.parent)
    return f"{saved:%d %b %Y, %H:%M}, {path.parent.name}"
