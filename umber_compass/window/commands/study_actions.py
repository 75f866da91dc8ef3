"""The menu of studies."""

from collections.abc import Callable
from functools import partial

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import (
    choose_study,
    duplicate_study,
    remove_study,
)
from umber_compass.window.commands.studies import StudyCommands
from umber_compass.window.frame.menus import Action


def study_actions(studies: StudyCommands, has_plan: Callable[[], bool]) -> list[Action]:
    """Study."""

    def action(name: str, group: str, text: str, keys: str, run: Callable[[], object]) -> Action:
        return Action(name, "Study", group, text, keys, run, has_plan)

    def one(make: Callable[[Plan, Study], Edit]) -> Callable[[], None]:
        return partial(studies.with_one, make)

    return [
        action(
            "grow",
            "grow",
            "Grow six from the one that is shown",
            "Ctrl+Shift+G",
            lambda: studies.grow(studies.bench.chosen_rules()),
        ),
        action("next-study", "through", "Next study", "Ctrl+Down", partial(studies.step, 1)),
        action("previous-study", "through", "Previous study", "Ctrl+Up", partial(studies.step, -1)),
        action(
            "study-current",
            "one",
            "Make the chosen one current",
            "Ctrl+Return",
            one(lambda p, s: choose_study(p, s.id)),
        ),
        action(
            "study-copy", "one", "Duplicate", "Ctrl+D", one(lambda p, s: duplicate_study(p, s.id))
        ),
        action(
            "study-keep",
            "one",
            "Keep",
            "Ctrl+K",
            one(
                lambda p, s: change_setting(
                    "study.verdict", "" if s.verdict == "kept" else "kept", s.id
                )
            ),
        ),
        action(
            "study-reject",
            "one",
            "Reject",
            "Ctrl+Shift+K",
            one(
                lambda p, s: change_setting(
                    "study.verdict", "" if s.verdict == "rejected" else "rejected", s.id
                )
            ),
        ),
        action(
            "study-remove", "one", "Remove", "Ctrl+Del", one(lambda p, s: remove_study(p, s.id))
        ),
        action(
            "compare-side", "compare", "Side by side", "", partial(studies.shown.compare, "side")
        ),
        action("compare-split", "compare", "Split", "", partial(studies.shown.compare, "split")),
        action("compare-fade", "compare", "Slow fade", "", partial(studies.shown.compare, "fade")),
        action(
            "client-colours",
            "client",
            "Client set: other base colours …",
            "",
            partial(studies.client_sheet, "colours"),
        ),
        action(
            "client-light",
            "client",
            "Client set: other light …",
            "",
            partial(studies.client_sheet, "light"),
        ),
    ]
