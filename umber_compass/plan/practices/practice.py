"""What a practice is made of."""

from typing import Any, NamedTuple


class Rule(NamedTuple):
    """One number of a practice, with its unit, its bounds and why it is what it is."""

    key: str
    title: str
    number: float
    unit: str
    low: float
    high: float
    source: str

    @property
    def is_switch(self) -> bool:
        """Whether it is only on (1) or off (0)."""
        return self.unit == "on"


COLOUR_FIRST = ("sketch", "harmony", "values", "focus", "studies", "light", "ramps", "handoff")
VALUES_FIRST = ("sketch", "values", "harmony", "focus", "studies", "light", "ramps", "handoff")


class Practice(NamedTuple):
    """A school: its numbers, and the order in which it goes through the steps."""

    name: str
    title: str
    rules: tuple[Rule, ...]
    says: str = ""
    route: tuple[str, ...] = COLOUR_FIRST

    def told(self, name: str, title: str, says: str, **others: Any) -> "Practice":
        """Another practice that has this one's numbers but for some, by key with `_` for `.` and
        `-`. Raises KeyError for one that is no rule."""
        route = others.pop("route", self.route)
        known = {r.key.replace(".", "_").replace("-", "_"): r.key for r in self.rules}
        numbers = {known[k]: n for k, n in others.items()}
        rules = tuple(r._replace(number=numbers.get(r.key, r.number)) for r in self.rules)
        return Practice(name, title, rules, says, route)
