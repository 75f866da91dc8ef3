"""The journal as text: Markdown to be read, CSV for a table. A cell that a table program would take
for a formula is escaped."""

import csv
import io
import re
import time
from collections.abc import Mapping

from umber_compass.plan.journal import Burst, Entry, Journal, bursts

_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_MARKED = re.compile(r"([\\`*_{}\[\]<>#|])")
QUESTIONS = (
    "What did you see first?",
    "What is wrong at a glance?",
    "What would you change?",
)


def said_day(at: float) -> str:
    """A day of the journal, as it is here: `2026-12-01`."""
    return time.strftime("%Y-%m-%d", time.localtime(at))


def said_hour(at: float) -> str:
    """An hour of the journal, as it is here: `14:05`."""
    return time.strftime("%H:%M", time.localtime(at))


def log_markdown(journal: Journal, title: str, steps: Mapping[str, str]) -> str:
    """All decisions, by bursts of work, with the looks at the painting and what was said on looking
    anew. `steps` are titles of steps by name."""
    lines = [f"# {_plain(title)}", ""]
    entries = list(journal.entries)
    for burst in bursts(journal):
        lines += [f"## {said_burst(burst)}", ""]
        mine, entries = entries[: burst.count], entries[burst.count :]
        lines += [_line(e, steps) for e in mine] + [""]
    if journal.looks:
        lines += ["## The painting", ""]
        for look in journal.looks:
            drifted = "; ".join(f"{d.region} {d.text}" for d in look.drifted[:3]) or "as planned"
            head = f"{said_day(look.at)} {said_hour(look.at)} {look.file_name}"
            note = f" – {_plain(look.note)}" if look.note else ""
            lines.append(f"- {_plain(head)}, {look.painted:.0%} painted: {_plain(drifted)}{note}")
        lines.append("")
    for fresh in journal.fresh:
        lines += [f"## Fresh look, {said_day(fresh.at)} {said_hour(fresh.at)}", ""]
        for question, answer in zip(QUESTIONS, fresh.answers, strict=True):
            lines.append(f"- {question} {_plain(answer)}")
        lines.append("")
    return "\n".join(lines).rstrip() + "\n"


def said_burst(burst: Burst) -> str:
    """A time of work in words."""
    count = "1 decision" if burst.count == 1 else f"{burst.count} decisions"
    minutes = max(round(burst.minutes), 1)
    spans = f"{said_hour(burst.begin)} to {said_hour(burst.end)}"
    return f"{said_day(burst.begin)}, {spans}: {minutes} min, {count}"


def _line(entry: Entry, steps: Mapping[str, str]) -> str:
    why = f" – why: {_plain(entry.why)}" if entry.why else ""
    step = steps.get(entry.step, entry.step)
    return f"- {said_hour(entry.at)} **{_plain(step)}** {_plain(entry.text)}{why}"


def _plain(text: str) -> str:
    return _MARKED.sub(r"\\\1", " ".join(text.split()))


def log_csv(journal: Journal, steps: Mapping[str, str]) -> str:
    """All decisions as a table: time, step, study, what, why."""
    held = io.StringIO()
    table = csv.writer(held)
    table.writerow(["time", "step", "study", "what", "why"])
    for e in journal.entries:
        when = time.strftime("%Y-%m-%dT%H:%M:%S%z", time.localtime(e.at))
        row = (when, steps.get(e.step, e.step), e.study, e.text, e.why)
        table.writerow([_safe(cell) for cell in row])
    return held.getvalue()


def _safe(cell: str) -> str:
    return f"'{cell}" if cell.startswith(_FORMULA) else cell
