"""The small pictures of the start page, by the name of a kind of sketch or a composition; drawn by
tools/make_start_pictures.py."""

from pathlib import Path

from PySide6.QtGui import QImage

_FOLDER = Path(__file__).parents[1] / "assets" / "start"


def start_picture(name: str) -> QImage:
    """What a kind of sketch looks like, or a composition."""
    return QImage(str(_FOLDER / f"{name}.png"))
