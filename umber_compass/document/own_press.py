"""The press of the artist's own printer: its ICC profile, kept for all plans on this machine."""

from pathlib import Path

from platformdirs import user_data_dir

from umber_compass.colour.press import MOST_BYTES, Press, press_of
from umber_compass.formats import atomic
from umber_compass.words import Refusal, words

_NAME = "press.icc"
_known: dict[Path, tuple[atomic.Stamp, Press | None]] = {}  # as last read, and from which state


def _path() -> Path:
    return Path(user_data_dir("umber-compass")) / _NAME


def own_press() -> Press | None:
    """The press that was chosen on this machine; None where none was, or where its file has been
    damaged since: the shipped one is then shown."""
    path = _path()
    now = atomic.stamp(path)
    if now is None:
        return None
    known = _known.get(path)
    if known is None or known[0] != now:
        try:
            press: Press | None = press_in(path)
        except Refusal:
            press = None
        known = _known[path] = now, press
    return known[1]


def press_in(path: Path) -> Press:
    """The press of an ICC profile's file. Raises Refusal where it is none."""
    return press_of(atomic.read(path, MOST_BYTES), str(path))


def keep_press(path: Path) -> Press:
    """Take the press of an ICC profile's file as this machine's. Raises Refusal where it is none,
    and where it cannot be kept; the one before then stays."""
    press = press_in(path)
    atomic.make_folder(_path().parent)
    atomic.write_data(_path(), press.data)
    return press


def forget_press() -> None:
    """Go back to the shipped press. Raises Refusal where the kept file cannot be removed."""
    try:
        _path().unlink(missing_ok=True)
    except OSError as error:
        line = words("could not be removed; check the folder’s permissions")
        raise Refusal(str(_path()), line) from error
