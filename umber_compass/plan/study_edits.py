"""Changes to the colour versions of a plan: which is shown, which there are, what is said."""

from collections.abc import Iterable

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.moods import MOODS, Between, MoodMeasure, MoodWish
from umber_compass.words import Refusal, Words, words

MOST_STUDIES = 99


def choose_study(plan: Plan, study_id: str) -> Edit:
    """Another study shown. Raises Refusal where the plan has none of that id."""
    title = find_study(plan, study_id).title
    text = words("show the study {title}", title=title)

    def change(now: Plan) -> Plan:
        taken = (_taken(s) if s.id == study_id else s for s in now.studies)
        return replace(now, current_study=study_id, studies=tuple(taken))

    return Edit(text, change)


def _taken(one: Study) -> Study:
    """A study that was chosen waits no longer; the very same where it did not."""
    return replace(one, proposal=False) if one.proposal else one


def find_study(plan: Plan, study_id: str) -> Study:
    """The study of this id. Raises Refusal where the plan has none."""
    found = next((s for s in plan.studies if s.id == study_id), None)
    if found is None:
        known = ", ".join(s.id for s in plan.studies)
        raise Refusal(study_id[:60], words("is no study; take {known}", known=known))
    return found


def in_study(study_id: str, edit: Edit) -> Edit:
    """The same change made to another study than the one that is shown."""

    def change(plan: Plan) -> Plan:
        shown = plan.current_study
        changed = edit.change(replace(plan, current_study=study_id))
        return replace(changed, current_study=shown)

    merge = None if edit.merge is None else f"{study_id} {edit.merge}"
    return Edit(edit.name, change, merge)


def free_id(plan: Plan, taken: Iterable[str] = ()) -> str:
    """An id no study has."""
    known = {s.id for s in plan.studies} | set(taken)
    return next(i for n in range(1, 10_000) if (i := f"s{n}") not in known)


def add_studies(studies: tuple[Study, ...], name: Words) -> Edit:
    """More studies behind those that are there; each takes an id of its own. Raises Refusal where
    there would be too many."""

    def change(plan: Plan) -> Plan:
        if len(plan.studies) + len(studies) > MOST_STUDIES:
            line = words("are kept in one plan; remove some first", most=MOST_STUDIES)
            raise Refusal(f"at most {MOST_STUDIES} studies", line)
        added: list[Study] = []
        for one in studies:
            fresh = free_id(plan, (s.id for s in added))
            added.append(replace(one, id=fresh, title=_free_title(plan, added, one.title)))
        return replace(plan, studies=(*plan.studies, *added))

    return Edit(name, change)


def renew_proposals(studies: tuple[Study, ...], merge: str | None = None) -> Edit:
    """First colours in the place of those that wait: what was kept stays."""
    added = tuple(replace(s, proposal=True) for s in studies)
    add = add_studies(added, words("propose {count} first colours", count=len(studies)))

    def change(plan: Plan) -> Plan:
        left = (s for s in plan.studies if not s.proposal or s.verdict == "kept")
        return add.change(replace(plan, studies=tuple(left)))

    return add._replace(change=change, merge=merge)


def _free_title(plan: Plan, added: list[Study], title: str) -> str:
    taken = {s.title for s in (*plan.studies, *added)}
    if title not in taken:
        return title
    return next(t for n in range(2, 10_000) if (t := f"{title[:190]} {n}") not in taken)


def duplicate_study(plan: Plan, study_id: str) -> Edit:
    """A study once more, behind the others, without its verdict."""
    one = find_study(plan, study_id)
    copy = replace(one, verdict="", reason="")
    return add_studies((copy,), words("duplicate the study {title}", title=one.title))


def remove_study(plan: Plan, study_id: str) -> Edit:
    """A study taken away. Raises Refusal for the only one."""
    one = find_study(plan, study_id)
    if len(plan.studies) == 1:
        raise Refusal(one.title, words("is the only study; grow or duplicate one first"))

    def change(now: Plan) -> Plan:
        at = [s.id for s in now.studies].index(study_id)
        left = tuple(s for s in now.studies if s.id != study_id)
        shown = now.current_study
        if shown == study_id:
            shown = left[min(at, len(left) - 1)].id
        return replace(now, studies=left, current_study=shown)

    return Edit(words("remove the study {title}", title=one.title), change)


def _said(study_id: str, name: Words, merge: str | None = None, **changes: object) -> Edit:
    def change(plan: Plan) -> Plan:
        find_study(plan, study_id)
        rows = (replace(s, **changes) if s.id == study_id else s for s in plan.studies)
        return replace(plan, studies=tuple(rows))

    return Edit(name, change, merge)


def set_mood(mood: str | None) -> Edit:
    """The mood that the study shown is held to; None: none."""
    if mood is None:
        return Edit(words("hold to no mood"), lambda p: with_study(p, replace(study(p), mood=None)))
    if mood not in MOODS:
        raise Refusal(mood[:60], words("is no mood; take {known}", known=", ".join(MOODS)))

    def change(plan: Plan) -> Plan:
        return with_study(plan, replace(study(plan), mood=MoodWish(name=mood)))

    return Edit(words("hold to the mood {title}", title=MOODS[mood].title.lower()), change)


def set_mood_wish(measure: MoodMeasure, between: Between | None) -> Edit:
    """What the mood wishes of one measure in the study shown; None: what the convention does."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        if now.mood is None:
            return plan
        of = {k: v for k, v in now.mood.of.items() if k != measure}
        if between is not None:
            of[measure] = between
        return with_study(plan, replace(now, mood=replace(now.mood, of=of)))

    return Edit(words("change what the mood wishes"), change, f"mood {measure}")
