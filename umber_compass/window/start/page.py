"""What is seen without a plan: how to bring a picture in, the plans that were open last, and our
own to try it on."""

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QGridLayout,
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
from umber_compass.window.bench.bench import quiet
from umber_compass.window.desk.bringing_back import Left
from umber_compass.window.desk.recent_plans import Known
from umber_compass.window.start.card import Card
from umber_compass.window.start.left_card import LeftCard
from umber_compass.window.start.pictures import start_picture
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.rows import in_row

_SMALL = QSize(150, 112)  # of kinds, compositions and demos
_SHOWN = 4  # pictures in a row


class StartPage(QScrollArea):
    """Says which file is wanted."""

    picked = Signal(object, bool)  # path of a plan, whether it is a demo
    choosing = Signal(str)  # a file is to be chosen, and read as this kind
    composed = Signal(str)  # a composition is to be begun with

    brought_back = Signal(object)  # Left
    put_aside = Signal(object)  # Left

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("start")
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        self.setWidget(inner)
        column = QVBoxLayout(inner)
        column.setContentsMargins(140, 20, 24, 16)
        column.setSpacing(7)
        self._left = self._add_head(
            column,
            self.tr("Not saved when the program ended"),
            self.tr("bring it back, or put it aside: then it waits in File, Earlier versions"),
        )
        self.left = self._add_row(column)
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
        self.show_plans(())
        self.show_left(())

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
            card = Card(kind.title, kind.says, partial(start_picture, kind.name), _SMALL)
            card.setToolTip(
                self.tr("{title}: {says}. A click chooses a file and reads it so").format(
                    title=kind.title, says=kind.says
                )
            )
            card.clicked.connect(lambda _=False, k=kind.name: self.choosing.emit(k))
            self.kinds.addWidget(card, 0, i)
        self.kinds.setColumnStretch(len(KINDS), 1)
        self.choose = QPushButton(self.tr("Choose a file …"))
        self.choose.setObjectName("chief")
        self.choose.clicked.connect(lambda: self.choosing.emit(AUTO))
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
        column.addLayout(in_row(self.choose, (plain, 1), gap=24))
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
                partial(start_picture, composition.name),
                _SMALL,
            )
            card.clicked.connect(lambda _=False, n=composition.name: self.composed.emit(n))
            self.compositions.addWidget(card, 0, i)
        self.compositions.setColumnStretch(len(COMPOSITIONS), 1)

    def _add_head(self, column: QVBoxLayout, title: str, says: str) -> QWidget:
        holder = QWidget()
        head = QLabel(title)
        head.setObjectName("title")
        in_row(head, (quiet(says), 1), gap=24, on=holder)
        column.addWidget(holder)
        return holder

    def _add_row(self, column: QVBoxLayout) -> QGridLayout:
        row = QGridLayout()
        row.setHorizontalSpacing(22)
        row.setVerticalSpacing(14)
        column.addLayout(row)
        return row

    def show_plans(self, plans: Sequence[Known]) -> None:
        """The plans that were open last, newest first."""
        clear(self.plans)
        found = list(plans)[: 2 * _SHOWN]
        self._were.setVisible(bool(found))
        for i, known in enumerate(found):
            image = partial(QImage.fromData, known.thumbnail)
            card = Card(plain(known.path), f"{known.when}, {known.path.parent.name}", image)
            card.setToolTip(str(known.path))
            card.clicked.connect(lambda _=False, p=known.path: self.picked.emit(p, False))
            self.plans.addWidget(card, i // _SHOWN, i % _SHOWN)
        self.plans.setColumnStretch(_SHOWN, 1)

    def show_left(self, left: Sequence[Left]) -> None:
        """Work that was not saved when a program ended."""
        clear(self.left)
        self._left.setVisible(bool(left))
        for i, one in enumerate(left):
            card = LeftCard(one)
            card.back.clicked.connect(lambda _=False, x=one: self.brought_back.emit(x))
            card.aside.clicked.connect(lambda _=False, x=one: self.put_aside.emit(x))
            self.left.addWidget(card, i, 0)
        self.left.setColumnStretch(1, 1)


def _thumbnail(path: Path) -> QImage:
    """A plan's thumbnail; a null image where there is none."""
    return QImage.fromData(thumbnail.read(path))


def plain(path: Path) -> str:
    """A plan's file as a name."""
    return path.name[: -len(ENDING)] if path.name.lower().endswith(ENDING) else path.name
