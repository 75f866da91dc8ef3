"""What the window remembers from one day to the next: its size and place, how its width is shared,
the room, and the plans that were open last."""

from pathlib import Path

from platformdirs import user_config_dir
from PySide6.QtCore import QByteArray, QObject, QSettings, Signal

MOST_RECENT = 8


class Remembered(QObject):
    """A small settings file; without a path nothing outlives the window."""

    changed = Signal()  # other plans were open last

    def __init__(self, path: Path | None = None) -> None:
        super().__init__()
        self._plans: list[str] = []
        self._settings: QSettings | None = None
        if path is not None:
            self._settings = QSettings(str(path), QSettings.Format.IniFormat)
            self._plans = _texts(self._settings.value("recent/plans"))

    @property
    def is_kept(self) -> bool:
        """Whether anything outlives the window."""
        return self._settings is not None

    @classmethod
    def of_user(cls) -> "Remembered":
        """The user's own."""
        return cls(Path(user_config_dir("umber-compass")) / "window.ini")

    def recent(self) -> list[Path]:
        """Plans that were open last, the newest first; whether they are there is not looked at."""
        return [Path(p) for p in self._plans]

    def add(self, path: Path) -> None:
        """A plan was opened or saved."""
        text = str(path.absolute())
        self._plans = [text, *(p for p in self._plans if p != text)][:MOST_RECENT]
        self._write("recent/plans", self._plans)
        self.changed.emit()

    def forget(self) -> None:
        """Remember no plans."""
        self._plans = []
        self._write("recent/plans", self._plans)
        self.changed.emit()

    def keep(self, name: str, state: QByteArray | str) -> None:
        """Remember a state of the window."""
        self._write(f"window/{name}", state)

    def state(self, name: str) -> QByteArray | None:
        """A state of the window, if one was kept."""
        found = None if self._settings is None else self._settings.value(f"window/{name}")
        return found if isinstance(found, QByteArray) and not found.isEmpty() else None

    def word(self, name: str) -> str:
        """A word that was kept, or none."""
        found = None if self._settings is None else self._settings.value(f"window/{name}")
        return found if isinstance(found, str) else ""

    def _write(self, key: str, value: object) -> None:
        if self._settings is not None:
            self._settings.setValue(key, value)


def _texts(found: object) -> list[str]:
    """What a settings file holds as a list of texts, whatever was written into it."""
    if isinstance(found, str):
        return [found]
    return [t for t in found if isinstance(t, str)][:MOST_RECENT] if isinstance(found, list) else []
