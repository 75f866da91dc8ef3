"""Changes to which sketch a plan is for: candidates are set aside with all that was decided for
them."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Candidate, Plan, Region, Sketch, Study
from umber_compass.plan.terms import Id
from umber_compass.words import Refusal, words

MOST_CANDIDATES = 24


def _free_id(plan: Plan) -> Id:
    taken = {c.id for c in plan.candidates}
    number = 1
    while f"c{number}" in taken:
        number += 1
    return f"c{number}"


def set_aside(plan: Plan) -> Candidate:
    """The sketch that is chosen, as a candidate."""
    return Candidate(
        id=_free_id(plan),
        sketch=plan.sketch,
        regions=plan.regions,
        studies=plan.studies,
        current_study=plan.current_study,
        scene=plan.scene,
    )


def shown(plan: Plan, candidate: Candidate) -> Plan:
    """The plan as it is with a candidate chosen; nothing is set aside for it."""
    return replace(
        plan,
        sketch=candidate.sketch,
        regions=candidate.regions,
        studies=candidate.studies,
        current_study=candidate.current_study,
        scene=candidate.scene,
    )


def add_candidate(sketch: Sketch, regions: tuple[Region, ...], studies: tuple[Study, ...]) -> Edit:
    """Another sketch for the same piece, among the candidates; the one that is chosen stays. Raises
    Refusal where there are too many."""

    def change(plan: Plan) -> Plan:
        if len(plan.candidates) >= MOST_CANDIDATES:
            line = words("are as many as a plan holds; remove one first")
            raise Refusal(f"{len(plan.candidates)} candidates", line)
        made = Candidate(
            id=_free_id(plan),
            sketch=sketch,
            regions=regions,
            studies=studies,
            current_study=studies[0].id,
        )
        return replace(plan, candidates=(*plan.candidates, made))

    return Edit(words("add the sketch {name}", name=sketch.file_name), change)


def choose_candidate(candidate_id: Id, name: str) -> Edit:
    """A candidate chosen; the sketch that was stays among them, in its place."""

    def change(plan: Plan) -> Plan:
        chosen = next((c for c in plan.candidates if c.id == candidate_id), None)
        if chosen is None:
            return plan
        aside = replace(set_aside(plan), id=candidate_id)
        candidates = tuple(aside if c is chosen else c for c in plan.candidates)
        return replace(shown(plan, chosen), candidates=candidates)

    return Edit(words("choose the sketch {name}", name=name), change)


def remove_candidate(candidate_id: Id, name: str) -> Edit:
    """A candidate taken out of the plan."""
    return Edit(
        words("remove the sketch {name}", name=name),
        lambda plan: replace(
            plan, candidates=tuple(c for c in plan.candidates if c.id != candidate_id)
        ),
    )
