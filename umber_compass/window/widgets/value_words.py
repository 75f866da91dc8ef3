"""Values as the artist prefers to read them: 0 to 100, reversed, or in ten steps."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtWidgets import QApplication


class Notation(NamedTuple):
    """A way to say a value L*."""

    name: str
    title: str
    says: str
    shown: Callable[[float], str]
    unit: str


NOTATIONS = {
    n.name: n
    for n in (
        Notation("light", "0–100", "0 is black, 100 white", lambda v: f"{v:.0f}", " L*"),
        Notation("dark", "100–0", "0 is white, 100 black", lambda v: f"{100 - v:.0f}", " dark"),
        Notation(
            "steps",
            "ten steps",
            "1 is the darkest step, 10 the lightest",
            lambda v: f"{min(int(v // 10) + 1, 10)}",
            ". step",
        ),
    )
}
_PROPERTY = "umber-notation"


def notation() -> Notation:
    """The one that is on; the application knows it."""
    application = QApplication.instance()
    name = application.property(_PROPERTY) if application is not None else None
    return NOTATIONS.get(str(name), NOTATIONS["light"])


def choose(name: str) -> None:
    """Read values another way."""
    application = QApplication.instance()
    if application is not None:
        application.setProperty(_PROPERTY, name)


def value_text(value: float) -> str:
    """A value L* as it is read now."""
    return notation().shown(value)
