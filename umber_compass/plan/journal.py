"""What happened while a piece was planned and painted: decisions, looks at the painting, steps that
are done. It lies beside the plan: undo takes a decision back, and not that it was made."""

from typing import Annotated

from msgspec import Meta
from msgspec.structs import replace

from umber_compass.plan.terms import Id, Record, Share, Verdict

MOST_ENTRIES = 5_000
MOST_LOOKS = 500
BURST_S = 10 * 60  # seconds without a decision, after which a burst of work is over

Time = Annotated[float, Meta(ge=0, le=1e11)]  # seconds since 1970, UTC
Text = Annotated[str, Meta(max_length=500)]
Why = Annotated[str, Meta(max_length=2000)]
Level = Annotated[float, Meta(ge=-100, le=100)]  # L*


class Entry(Record, frozen=True, kw_only=True):
    """A decision."""

    at: Time
    step: Id
    text: Text
    study: Annotated[str, Meta(max_length=200)] = ""  # its title
    why: Why = ""
    verdict: Verdict = ""


class Drifted(Record, frozen=True, kw_only=True):
    """How a region of a painting differed from the plan."""

    region: Id
    text: Text


class Look(Record, frozen=True, kw_only=True):
    """A painting in progress as it was at a save."""

    at: Time
    file_name: Annotated[str, Meta(max_length=255)]
    place: Annotated[str, Meta(max_length=24)] = ""  # a digest of its path: files may share a name
    painted: Share
    darks: Level  # L* that a twentieth of what is painted is darker than
    middle: Level  # that half is darker than
    lights: Level  # that a twentieth is lighter than
    by: tuple[Level, Level, Level] = (0.0, 0.0, 0.0)  # the same minus the plan's
    drifted: Annotated[tuple[Drifted, ...], Meta(max_length=64)] = ()  # the worst first
    note: Why = ""


class FreshLook(Record, frozen=True, kw_only=True):
    """What the artist said on looking anew."""

    at: Time
    answers: tuple[Why, Why, Why]


class Journal(Record, frozen=True, kw_only=True):
    """All of it, the oldest first."""

    entries: tuple[Entry, ...] = ()
    looks: tuple[Look, ...] = ()
    fresh: Annotated[tuple[FreshLook, ...], Meta(max_length=500)] = ()
    done: Annotated[tuple[Text, ...], Meta(max_length=500)] = ()  # keys of steps of the card


def with_entry(journal: Journal, entry: Entry) -> Journal:
    """A decision more. Of very many the oldest go for which no reason was said."""
    entries = (*journal.entries, entry)
    if len(entries) > MOST_ENTRIES:
        gone = next((i for i, e in enumerate(entries) if not e.why), 0)
        entries = (*entries[:gone], *entries[gone + 1 :])
    return replace(journal, entries=entries)


def with_last(journal: Journal, text: str) -> Journal:
    """The last decision in other words: a drag went on."""
    if not journal.entries:
        return journal
    last = replace(journal.entries[-1], text=text)
    return replace(journal, entries=(*journal.entries[:-1], last))


def with_why(journal: Journal, index: int, why: str) -> Journal:
    """A reason for a decision."""
    entries = list(journal.entries)
    entries[index] = replace(entries[index], why=why)
    return replace(journal, entries=tuple(entries))


def with_look(journal: Journal, look: Look) -> Journal:
    """A look at the painting more; of very many the oldest go."""
    return replace(journal, looks=(*journal.looks, look)[-MOST_LOOKS:])


def looks_of(journal: Journal, file_name: str, place: str) -> tuple[Look, ...]:
    """The looks at one file's painting, the oldest first; those that name no place are of any."""
    mine = (file_name, place)
    return tuple(e for e in journal.looks if (e.file_name, e.place or place) == mine)


def with_look_note(journal: Journal, file_name: str, place: str, note: str) -> Journal:
    """A note on the last look at a file's painting."""
    mine = looks_of(journal, file_name, place)
    if not mine:
        return journal
    noted = (replace(e, note=note) if e is mine[-1] else e for e in journal.looks)
    return replace(journal, looks=tuple(noted))


def with_done(journal: Journal, key: str, done: bool) -> Journal:
    """A step of the card ticked, or not."""
    others = tuple(k for k in journal.done if k != key)
    return replace(journal, done=(*others, key) if done else others)


class Burst(Record, frozen=True, kw_only=True):
    """A time of work without a pause."""

    begin: Time
    end: Time
    count: int  # of decisions

    @property
    def minutes(self) -> float:
        """How long it was."""
        return (self.end - self.begin) / 60


def bursts(journal: Journal) -> list[Burst]:
    """The times of work, the oldest first. Where the clock was set back a new one begins."""
    found: list[Burst] = []
    for entry in journal.entries:
        last = found[-1] if found else None
        if last is not None and 0 <= entry.at - last.end <= BURST_S:
            found[-1] = Burst(begin=last.begin, end=entry.at, count=last.count + 1)
        else:
            found.append(Burst(begin=entry.at, end=entry.at, count=1))
    return found
