"""How values may be dealt: levels, what grounds and figures should have, what each third holds.

Studio rules, chosen by eye (docs/first-colours.md); each belongs to a key of the Values bench.
"""

from typing import NamedTuple


class ValueKey(NamedTuple):
    """One way: six levels L*; wishes L* for ground, middle ground and figure; the shares of dark,
    middle and light; and the key of the Values bench that it is of."""

    levels: tuple[float, ...]
    ground: float
    middle: float
    figure: float
    bands: tuple[float, float, float]
    of: str


VALUE_KEYS: dict[str, ValueKey] = {
    "light ground": ValueKey((26, 42, 58, 72, 79, 87), 77, 64, 38, (0.22, 0.30, 0.48),
                             "dark-on-light"),
    "dark ground": ValueKey((22, 30, 42, 56, 70, 84), 27, 38, 62, (0.52, 0.30, 0.18),
                            "light-on-dark"),
    "middle, light figure": ValueKey((24, 36, 47, 58, 70, 84), 46, 38, 72, (0.25, 0.50, 0.25),
                                     "middle"),
    "middle, dark figure": ValueKey((22, 32, 44, 56, 68, 82), 60, 68, 33, (0.28, 0.47, 0.25),
                                    "middle"),
    "high": ValueKey((38, 52, 63, 71, 78, 87), 78, 70, 55, (0.06, 0.44, 0.50), "high"),
    "low": ValueKey((20, 26, 34, 43, 55, 76), 30, 25, 46, (0.55, 0.37, 0.08), "low"),
}  # fmt: skip


def keys_of(name: str, among: tuple[str, ...] = ()) -> list[str]:
    """The ways that belong to a key of the Values bench, or all; those among some, if any are."""
    mine = [k for k, row in VALUE_KEYS.items() if name in ("free", row.of)]
    return [k for k in mine if k in among] or mine
