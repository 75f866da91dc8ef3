"""Moods as data: what each wishes of a palette. They are conventions of picture books and posters,
not laws; every number can be changed for a study. Studio rule, docs/harmony.md.

Measures: `warm` and `cool` are shares of the picture, percent; `chroma` is the mean OKLCh chroma by
area x 100; `key` the mean value L*; `contrast` the spread of values between the darkest and the
lightest twentieth of the picture, L*; `hues` how many hue families hold at least 2 % of the colour.
"""

from typing import Annotated, Literal, NamedTuple, TypeAlias

from msgspec import Meta, field

from umber_compass.plan.terms import Id, Record

MoodMeasure: TypeAlias = Literal["warm", "cool", "chroma", "key", "contrast", "hues"]
Amount: TypeAlias = Annotated[float, Meta(ge=0, le=100)]
Between: TypeAlias = tuple[Amount, Amount]

MEASURES: dict[MoodMeasure, tuple[str, str]] = {  # title and unit
    "warm": ("warm colours", "% of the picture"),
    "cool": ("cool colours", "% of the picture"),
    "chroma": ("mean chroma", "OKLCh × 100"),
    "key": ("mean value", "L*"),
    "contrast": ("contrast", "L*"),
    "hues": ("hue families", "families"),
}


class Mood(NamedTuple):
    """One mood: what it is called, what is said of it, and between which amounts measures lie."""

    name: str
    title: str
    says: str
    wishes: dict[MoodMeasure, Between]
    leads: float | None = None  # OKLCh hue that leads by convention


class MoodWish(Record, frozen=True, kw_only=True):
    """The mood a study is held to; `of` are its measures where the artist changed them."""

    name: Id
    of: dict[MoodMeasure, Between] = field(default_factory=dict)

    def fault(self) -> str:
        """What is wrong with it that ranges cannot say; empty where nothing is."""
        if self.name not in MOODS:
            return "it is held to a mood that is not known here"
        if any(low > high for low, high in self.of.values()):
            return "a mood’s lower wish stands above its upper one"
        return ""

    def wishes(self) -> dict[MoodMeasure, Between]:
        """What is wished of each measure that is wished of at all."""
        return {**MOODS[self.name].wishes, **self.of}


_ALL: tuple[Mood, ...] = (
    Mood(
        "sombre",
        "Sombre",
        "dark, muted, few hues",
        {"chroma": (0, 6), "key": (12, 40), "contrast": (0, 62), "hues": (1, 3), "warm": (0, 45)},
        262.0,
    ),
    Mood(
        "quiet",
        "Quiet",
        "muted and close in value",
        {"chroma": (0, 6), "key": (45, 80), "contrast": (0, 58), "hues": (1, 3)},
        215.0,
    ),
    Mood(
        "uncanny",
        "Uncanny",
        "cool greens and violets, one warm thing that does not belong",
        {"warm": (0, 18), "cool": (45, 100), "key": (15, 50), "chroma": (3, 11)},
        165.0,
    ),
    Mood(
        "bright",
        "Bright",
        "light, clear, strong",
        {"chroma": (8, 25), "key": (58, 90), "contrast": (40, 100)},
        95.0,
    ),
    Mood(
        "tender",
        "Tender",
        "pale and warm, soft contrast",
        {"warm": (40, 100), "chroma": (3, 9), "key": (62, 92), "contrast": (0, 55)},
        25.0,
    ),
    Mood(
        "threatening",
        "Threatening",
        "dark, hard contrast, a hot colour against cold",
        {"key": (10, 42), "contrast": (50, 100), "chroma": (4, 16), "hues": (1, 3)},
        25.0,
    ),
    Mood(
        "welcoming",
        "Welcoming",
        "warm, light to middling, well apart",
        {"warm": (45, 100), "key": (48, 80), "chroma": (5, 14)},
        68.0,
    ),
    Mood(
        "festive",
        "Festive",
        "many strong hues, high contrast",
        {"chroma": (9, 28), "hues": (3, 8), "contrast": (50, 100)},
        25.0,
    ),
    Mood("own", "Own", "what you set yourself", {}),
)
MOODS: dict[str, Mood] = {m.name: m for m in _ALL}
