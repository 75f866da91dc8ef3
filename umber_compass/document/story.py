"""The pages of a story, read from plan files."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from umber_compass.colour.packed import Packed
from umber_compass.document.opening import open_plan
from umber_compass.document.seeing import small_of
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.story import Page, page_of
from umber_compass.words import Refusal
from umber_compass.work import Tick, idle

SMALL_PX = 260


class StoryPage(NamedTuple):
    """A page and its picture, small."""

    path: Path
    page: Page
    picture: Packed


class Pages(NamedTuple):
    """The pages that could be read, and why the others could not."""

    found: tuple[StoryPage, ...]
    refused: tuple[Refusal, ...]


def read_pages(paths: Sequence[Path], tick: Tick = idle) -> Pages:
    """Plans as pages, in their order."""
    found, refused = [], []
    for path in paths:
        try:
            found.append(read_page(path, tick))
        except Refusal as refusal:
            refused.append(refusal)
    return Pages(tuple(found), tuple(refused))


def read_page(path: Path, tick: Tick = idle) -> StoryPage:
    """A plan as a page. Raises Refusal if it cannot be read."""
    opened = open_plan(path, None, tick)
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
    return StoryPage(path, page_of(derived), small_of(picture(derived), SMALL_PX))
