"""The table of actions about regions that are changed by hand, and about the sketch's file."""

from collections.abc import Callable

from umber_compass.window.commands.region_hands import RegionHands
from umber_compass.window.frame.menus import Action


def hand_actions(
    hands: RegionHands, has_plan: Callable[[], bool], chosen: Callable[[], bool]
) -> list[Action]:
    """Region: merge, split, give away, go through those without a name."""

    def several() -> bool:
        return hands.several

    work = hands.reworking
    table = (
        (
            "next-unnamed",
            "through",
            "Next region without a name",
            "N",
            hands.next_unnamed,
            has_plan,
        ),
        ("merge", "hands", "Merge the chosen regions", "Ctrl+M", work.merge, several),
        ("one-surface", "hands", "Make them one surface", "", hands.make_surface, several),
        ("split-parts", "hands", "Split it into its parts", "", work.split_parts, chosen),
        (
            "split-line",
            "hands",
            "Split it by a line …",
            "Shift+L",
            hands.on_stage.begin_line,
            chosen,
        ),
        (
            "give-part",
            "hands",
            "Give a part to it …",
            "Shift+G",
            hands.on_stage.begin_giving,
            chosen,
        ),
        ("tint-lines", "hands", "Tint lines by material", "", work.tint_lines, chosen),
        ("specks", "hands", "Give specks to their neighbours", "", work.swallow_specks, has_plan),
    )
    return [
        Action(name, "Region", group, text, keys, run, when)
        for name, group, text, keys, run, when in table
    ]


def sketch_actions(
    again: Callable[[], object],
    replace: Callable[[], object],
    add: Callable[[], object],
    has_plan: Callable[[], bool],
) -> list[Action]:
    """File: the sketch a plan is for."""
    return [
        Action("read-again", "File", "sketch", "Read the sketch again", "Ctrl+R", again, has_plan),
        Action("replace-sketch", "File", "sketch", "Replace the sketch …", "", replace, has_plan),
        Action("add-candidate", "File", "sketch", "Add a candidate …", "", add, has_plan),
    ]
