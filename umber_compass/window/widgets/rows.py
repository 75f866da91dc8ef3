"""Widgets side by side or one below the other, said in one line."""

from typing import TypeAlias, TypeVar

from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QLayout, QVBoxLayout, QWidget

Part: TypeAlias = QWidget | QLayout | int | tuple[QWidget | QLayout, int]
Margins: TypeAlias = tuple[int, int, int, int]
Box = TypeVar("Box", bound=QBoxLayout)
_NONE: Margins = (0, 0, 0, 0)


def in_row(
    *parts: Part, gap: int | None = None, margins: Margins = _NONE, on: QWidget | None = None
) -> QHBoxLayout:
    """Parts side by side, `gap` px apart. A number is a stretch between them, a pair a part and its
    stretch; margins are px left, above, right, below; `on` is a widget that is laid out so."""
    return _filled(QHBoxLayout() if on is None else QHBoxLayout(on), parts, gap, margins)


def in_column(
    *parts: Part, gap: int | None = None, margins: Margins = _NONE, on: QWidget | None = None
) -> QVBoxLayout:
    """Parts one below the other, as `in_row` has them side by side."""
    return _filled(QVBoxLayout() if on is None else QVBoxLayout(on), parts, gap, margins)


def _filled(box: Box, parts: tuple[Part, ...], gap: int | None, margins: Margins) -> Box:
    if gap is not None:
        box.setSpacing(gap)
    box.setContentsMargins(*margins)
    for part in parts:
        if isinstance(part, int):
            box.addStretch(part)
            continue
        one, stretch = part if isinstance(part, tuple) else (part, 0)
        if isinstance(one, QLayout):
            box.addLayout(one, stretch)
        else:
            box.addWidget(one, stretch)
    return box
