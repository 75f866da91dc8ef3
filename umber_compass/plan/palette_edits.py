"""Changes to a study's palette beside the colours of its regions, and to the colour budget."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan
from umber_compass.plan.palettes import Swatch
from umber_compass.words import Refusal, words

MOST_EXTRAS = 64
MOST_COLOURS = 256  # of a budget


def note_colour(region: str, note: str, name: str) -> Edit:
    """What the artist wrote of a region's colour; nothing takes it away."""
    kept = " ".join(note.split())[:400]

    def change(plan: Plan) -> Plan:
        now = study(plan)
        notes = {r: n for r, n in now.notes.items() if r != region}
        if kept:
            notes[region] = kept
        return with_study(plan, replace(now, notes=notes))

    return Edit(words("note on the colour of {name}", name=name), change)


def order_rows(order: tuple[str, ...]) -> Edit:
    """The order of the palette's rows, by region; none: by family."""
    kept = tuple(dict.fromkeys(order))
    text = words("order the palette")
    return Edit(text, lambda plan: with_study(plan, replace(study(plan), row_order=kept)))


def add_extra(hex_text: str, name: str = "") -> Edit:
    """A colour of no region, such as a white or an ink, at the palette's end."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        if any(s.hex == hex_text for s in now.extras):
            return plan
        if len(now.extras) >= MOST_EXTRAS:
            line = words("are kept beside the regions’; remove some first")
            raise Refusal(f"at most {MOST_EXTRAS} extra colours", line)
        return with_study(plan, replace(now, extras=(*now.extras, Swatch(hex=hex_text, name=name))))

    return Edit(words("add the colour {hex}", hex=hex_text), change)


def remove_extra(hex_text: str) -> Edit:
    """An extra colour taken away."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        left = tuple(s for s in now.extras if s.hex != hex_text)
        return with_study(plan, replace(now, extras=left))

    return Edit(words("remove the colour {hex}", hex=hex_text), change)
