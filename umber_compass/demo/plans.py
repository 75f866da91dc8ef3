"""The demo plans that ship with the program (made by tools/make_demo.py)."""

from pathlib import Path
from typing import NamedTuple

from umber_compass.formats import atomic
from umber_compass.words import Refusal, words

FOLDER = Path(__file__).parent
_MOST = 50_000_000


class Demo(NamedTuple):
    """A shipped scenario: the sketch and the plan made for them."""

    name: str
    title: str
    says: str

    @property
    def plan(self) -> Path:
        """Its plan file."""
        return FOLDER / f"{self.name}.umber"

    @property
    def sketch(self) -> Path:
        """Its sketch."""
        return FOLDER / f"{self.name}.png"


DEMOS = (
    Demo("lighthouse-bakery", "Lighthouse Bakery", "flats, a double page"),
    Demo("kettle-weather", "Kettle weather", "flats, a cover by lamplight"),
    Demo("potting-bench", "Potting bench", "line art, a calendar leaf"),
    Demo("squall", "Squall", "grey thumbnail, a cover"),
    Demo("lantern-hedgehog", "Lantern hedgehog", "sprite, 32 x 32 px"),
)


def find(name: str | None) -> Demo:
    """The demo with this name, or the first. Raises Refusal if there is none."""
    if name is None:
        return DEMOS[0]
    for demo in DEMOS:
        if demo.name == name:
            return demo
    known = ", ".join(d.name for d in DEMOS)
    raise Refusal(name[:80], words("no such demo; choose from {known}", known=known))


def save(folder: Path) -> list[Path]:
    """Every demo's sketch and plan copied to a folder; files there are replaced."""
    atomic.make_folder(folder)
    written = []
    for source in [p for d in DEMOS for p in (d.sketch, d.plan)]:
        content = atomic.read(source, _MOST)
        path = folder / source.name
        atomic.write_data(path, content)
        written.append(path)
    return written
