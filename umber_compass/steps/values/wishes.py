"""The wishes a plan may have, where their numbers come from, and what a plan comes to wish."""

from collections.abc import Mapping
from typing import NamedTuple, TypeAlias

from umber_compass.plan.wishes import Bands, Wish, Wishes


class WishSpec(NamedTuple):
    """One kind of wish: its number is the artist’s own, or the practice’s rule, or none."""

    name: str
    title: str
    says: str  # in two sentences, what it is for
    rule: str = ""  # the practice’s number; empty where there is none
    unit: str = ""
    low: float = 0.0
    high: float = 100.0
    on: bool = True  # until the artist says otherwise


SPECS: dict[str, WishSpec] = {
    s.name: s
    for s in (
        WishSpec(
            "bands",
            "value bands",
            "Darks, middles and lights each hold their share of the picture. Unequal shares give a "
            "picture one key that is felt before anything is seen.",
            "band-share.note",
            "points either way",
            on=False,
        ),
        WishSpec(
            "extremes",
            "extremes",
            "The darkest darks and lightest lights are kept for accents. Where they hold much, "
            "nothing is left to accent with.",
            "extremes.note",
            "% of the picture at most",
        ),
        WishSpec(
            "order",
            "order of materials",
            "A dark material stays darker than a light one wherever they stand. The eye knows "
            "materials by it, before it sees their colour.",
            "order-broken.note",
            "L* apart",
            high=60,
        ),
        WishSpec(
            "parting",
            "figure from ground",
            "A figure parts in value from what it stands before, along the border they share. "
            "What does not part in grey is lost at a glance.",
            "figure-merges.note",
            "L* apart",
            high=60,
        ),
        WishSpec(
            "parting-middle",
            "figure from middle ground",
            "A figure parts from things that stand behind it too. They may come closer to it than "
            "the ground does.",
            "figure-merges.middle",
            "L* apart",
            high=60,
        ),
        WishSpec(
            "figure",
            "figures lighter than grounds",
            "Light figures on a dark ground, or, below nought, dark ones on a light ground. At "
            "nought each stays on the side where it is.",
            unit="L*",
            low=-60,
            high=60,
        ),
        WishSpec(
            "halves",
            "light and dark unequal",
            "One of the two should hold clearly more. Halves that weigh the same argue.",
            "halves-equal.note",
            "points apart",
        ),
        WishSpec(
            "middles",
            "middle tones in shadow",
            "A figure in shadow keeps some middle tones. Without them it is a hole.",
            "shadow-middles.note",
            "% of the figure",
        ),
        WishSpec(
            "lines",
            "lines and solid blacks apart",
            "Drawn lines and solid blacks are ink, not light: they count neither as extremes nor "
            "as pure black, and nothing moves them. Switched off, they count as the rest do.",
        ),
        WishSpec(
            "pure",
            "no pure black or white",
            "Pure black and white leave the light no room and stand out of every palette. Some "
            "schools allow them where ink has them.",
        ),
        WishSpec(
            "lead",
            "focus leads",
            "What is wished to be met first draws the eye more than anything else, by this much. "
            "Under 1.12 times nobody can say which is first.",
            "focus-leads.note",
            "times the next",
            low=1,
            high=5,
        ),
    )
}


class HeldWish(NamedTuple):
    """What a plan comes to wish of one kind."""

    number: float
    warning: float  # from where it is badly missed
    on: bool
    locked: bool


class HeldWishes(NamedTuple):
    """All that a plan wishes of values and focus."""

    of: Mapping[str, HeldWish]
    bands: Bands
    order: tuple[str, ...]  # region ids from the darkest
    said: Mapping[str, Wish]  # what the artist said, of wishes and of single parts of wishes

    def on(self, name: str) -> bool:
        """Whether a wish, or one part of it as `parting.r3.r7`, is held to."""
        own = self.said.get(name)
        return self.of[name.partition(".")[0]].on and (own is None or own.on)

    def is_said(self, name: str) -> bool:
        """Whether the artist asked for a wish, or for one part of it."""
        own = (w for k, w in self.said.items() if k == name or k.startswith(f"{name}."))
        return any(w.on for w in own)

    def locked(self, name: str) -> bool:
        """Whether a wish, or one part of it, must not be dropped."""
        own = self.said.get(name)
        return self.of[name.partition(".")[0]].locked or (own is not None and own.locked)

    def number(self, name: str) -> float:
        """A wish’s number, in its own unit."""
        return self.of[name].number


Rules: TypeAlias = Mapping[str, float]


def held_wishes(wishes: Wishes, rules: Rules) -> HeldWishes:
    """What a plan comes to wish: what the artist said, else the practice."""
    of = {}
    for name, spec in SPECS.items():
        own_on = rules["lines.apart"] >= 0.5 if name == "lines" else spec.on
        said = wishes.of.get(name) or Wish(on=own_on)
        own, gap = (rules[spec.rule], _gap(spec, rules)) if spec.rule else (0.0, 0.0)
        number = own if said.number is None else min(max(said.number, spec.low), spec.high)
        of[name] = HeldWish(number, number + gap, said.on, said.locked)
    return HeldWishes(of, wishes.bands or own_bands(rules), wishes.order, wishes.of)


def _gap(spec: WishSpec, rules: Rules) -> float:
    """How far beyond the wish the practice warns."""
    stem = spec.rule.partition(".")[0]
    return rules[f"{stem}.warning"] - rules[f"{stem}.note"]


def own_bands(rules: Rules) -> Bands:
    """The practice’s bands: darks, middles, lights; numbers that contradict brought together."""
    dark = rules["bands.dark-edge"]
    darks = rules["bands.darks"] / 100
    lights = min(rules["bands.lights"] / 100, 1 - darks)
    edges = (dark, max(rules["bands.light-edge"], min(dark + 1, 100.0)))
    return Bands(edges=edges, shares=(darks, 1 - darks - lights, lights))
