"""Which command, with which arguments; one line for every mistake."""

import json
import os
import sys
from argparse import ArgumentParser, Namespace
from collections.abc import Callable, Mapping, Sequence
from contextlib import redirect_stderr, redirect_stdout, suppress
from io import StringIO, TextIOWrapper
from pathlib import Path
from typing import Any, NoReturn

from umber_compass import __version__
from umber_compass.cli.values import number, place
from umber_compass.words import Refusal, words

PROGRAM = "umber-compass"
Answer = dict[str, Any]


class _UsageError(Exception):
    """The arguments are not what a command takes."""


class _Parser(ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise _UsageError(f"{message}; see {self.prog} --help")


def _parser() -> ArgumentParser:
    from umber_compass.cli import colours, plans

    parser = _Parser(prog=PROGRAM, description="Plan a picture’s colours before rendering it.")
    parser.add_argument("--version", action="version", version=f"{PROGRAM} {__version__}")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND", required=True)
    _add_colours(commands, colours.CHOICES)
    _add_plans(commands, plans.CHOICES)
    _command(commands, "batch", "read a JSON array of arguments a line, answer a line each", _batch)
    demo = _command(commands, "demo", "open a demo plan in the window", _demo)
    demo.add_argument("name", nargs="?", help="which demo")
    demo.add_argument("--list", action="store_true", help="list the demos")
    demo.add_argument("--save", metavar="DIR", help="write the demo sketches and plans")
    opening = _command(commands, "open", "open the window", _demo)
    opening.add_argument("plan", nargs="?")
    _add_desktop(commands)
    return parser


def _command(
    commands: Any, name: str, says: str, run: Callable[[Namespace], Answer]
) -> ArgumentParser:
    made: ArgumentParser = commands.add_parser(name, help=says, description=says)
    made.add_argument("--json", action="store_true", help="print one JSON document")
    made.set_defaults(run=run)
    return made


def _add_colours(commands: Any, choices: Mapping[str, Sequence[str]]) -> None:
    from umber_compass.cli import colours

    _command(commands, "colour", "every measure of a colour", colours.colour).add_argument("hex")
    two = _command(commands, "difference", "how far two colours lie apart", colours.difference)
    two.add_argument("first")
    two.add_argument("second")
    layer = _command(commands, "blend", "a layer over a ground", colours.mixed)
    layer.add_argument("base")
    layer.add_argument("top")
    layer.add_argument("--mode", choices=choices["mode"], default="normal")
    layer.add_argument("--opacity", type=number(0, 1), default=1.0)
    scheme = _command(commands, "harmony", "the colours of a scheme", colours.harmony)
    scheme.add_argument("hex")
    scheme.add_argument("--scheme", choices=choices["scheme"], required=True)
    scheme.add_argument("--wheel", choices=choices["wheel"], default="painter")
    scheme.add_argument("--spread", type=number(0, 180), help="wheel degrees")
    steps = _command(commands, "ramp", "a colour’s darker and lighter steps", colours.ramp)
    steps.add_argument("hex")
    steps.add_argument("--recipe", choices=choices["recipe"], default="straight")
    steps.add_argument("--darker", type=number(0, 9, whole=True), default=3)
    steps.add_argument("--lighter", type=number(0, 9, whole=True), default=3)
    steps.add_argument("--degrees", type=number(0, 60), help="a step")
    steps.add_argument("--spacing", type=number(0.5, 50), help="a step (9): L*, or CIEDE2000")
    steps.add_argument("--tint", metavar="HEX", help="what shades lean to, or are tinted with")
    steps.add_argument("--picked", metavar="HEX,HEX", help="colours whose way is borrowed")
    steps.add_argument("--dark-chroma", type=number(0, 2), default=1.0, help="times the recipe’s")
    steps.add_argument("--light-chroma", type=number(0, 2), default=1.0, help="times the recipe’s")
    steps.add_argument("--grey-tint", type=number(0, 0.04), default=0.014, help="OKLCh chroma")
    steps.add_argument("--darkest", type=number(0, 40), default=10.0, help="L* of shades")
    steps.add_argument("--to", metavar="HEX", help="the colour that in-between steps go to")


def _add_desktop(commands: Any) -> None:
    from umber_compass.cli import desktop, sheets

    sheet = _command(commands, "sheet", "a plan on one page, as SVG", sheets.sheet)
    sheet.add_argument("plan")
    sheet.add_argument("-o", "--output", required=True, metavar="SVG")
    sheet.add_argument("--paper", choices=sheets.PAPER_NAMES, default="A4")
    sheet.add_argument("--upright", action="store_true", help="higher than wide")
    sheet.add_argument("--client", action="store_true", help="without numbers and checks")
    sheet.add_argument("--card", action="store_true", help="with the paint-along card")
    sheet.add_argument("--without", metavar="PART,PART", help="parts to be left out")
    pages = _command(commands, "references", "pictures to paint by", sheets.references)
    pages.add_argument("plan")
    pages.add_argument("-o", "--output", required=True, metavar="FOLDER")
    pages.add_argument("--kinds", default="flat,lit,grey", metavar="KIND,KIND")
    pages.add_argument("--width", type=number(1, 100_000, whole=True), metavar="PX")
    pages.add_argument("--jpeg", action="store_true", help="smaller files, not for picking")
    pages.add_argument("--force", action="store_true", help="replace files that are not ours")
    story = _command(commands, "story", "plans of one book in a row, as an arc", sheets.story)
    story.add_argument("plans", nargs="+", metavar="PLAN")
    at_home = _command(commands, "install", "put the program into the menu", desktop.install)
    at_home.add_argument("--user", action="store_true", help="into your own, for no one else")
    at_home.add_argument("--remove", action="store_true", help="take it away again")
    small = _command(commands, "thumbnail", "a plan’s small picture as PNG", desktop.small_picture)
    small.add_argument("-s", "--size", type=number(1, 2048, whole=True), default=256, metavar="PX")
    small.add_argument("plan", help="a path, or a file: address")
    small.add_argument("output", metavar="PNG")


def _add_sketches(commands: Any) -> None:
    from umber_compass.cli import sketches

    new = _command(commands, "new", "a plan for a picture", sketches.new)
    new.add_argument("sketch", help="a picture; with --from none a composition’s name")
    new.add_argument("-o", "--output", required=True, metavar="PLAN")
    new.add_argument("--focus", type=place, metavar="X,Y", help="px in the sketch")
    new.add_argument("--shading", metavar="PICTURE", help="takes its light and dark from it")
    other = _command(commands, "replace", "another sketch for a plan", sketches.replace)
    other.add_argument("plan")
    other.add_argument("sketch")
    other.add_argument("-o", "--output", required=True, metavar="PLAN2")
    for command in (new, other):
        command.add_argument(
            "--from", dest="kind", choices=sketches.KINDS_OF_SKETCH, default="auto"
        )
        command.add_argument(
            "--with",
            dest="told",
            action="append",
            metavar="KEY=NUMBER",
            help="what the kind is told, as gap=12, groups=4, regions=30, at-most=300",
        )
    says = "the compositions to begin with without a sketch"
    _command(commands, "compositions", says, sketches.compositions)


def _add_plans(commands: Any, choices: Mapping[str, Sequence[str]]) -> None:
    from umber_compass.cli import judging, plans

    _add_sketches(commands)
    regions = _command(commands, "regions", "a plan’s regions", plans.regions)
    regions.add_argument("plan")
    regions.add_argument("--labels", metavar="PNG")
    _command(commands, "checks", "what a plan’s checks say", plans.checks).add_argument("plan")
    fix = _command(commands, "fix", "take the best fixes", plans.fix)
    fix.add_argument("plan")
    fix.add_argument("-o", "--output", required=True, metavar="PLAN2")
    fix.add_argument("--check", choices=choices["check"])
    even = _command(commands, "balance", "move values to meet the wishes", judging.balance)
    even.add_argument("plan")
    even.add_argument("-o", "--output", required=True, metavar="PLAN2")
    _command(commands, "focus", "what the eye meets first", judging.focus).add_argument("plan")
    any_picture = _command(commands, "read", "what any picture shows", judging.read)
    any_picture.add_argument("picture")
    any_picture.add_argument("--wheel", choices=choices["wheel"], default="painter")
    drift = _command(commands, "drift", "how a painting drifts from its plan", judging.drift)
    drift.add_argument("plan")
    drift.add_argument("picture", help="the painting as it is now: PNG, JPEG, OpenRaster ...")
    lights = _command(commands, "rig", "the lights of any picture", judging.rig)
    lights.add_argument("picture")
    for side, text in (("lit", "in the light"), ("shaded", "of the same material in shade")):
        lights.add_argument(f"--{side}", type=place, metavar="X,Y", action="append", default=[],
                            help=f"a place {text}, px; once for each pair")  # fmt: skip
    lights.add_argument("--grey", action="store_true", help="the first pair is white or grey")
    decide = _command(commands, "set", "change decisions by name", plans.decide)
    decide.add_argument("plan", nargs="?")
    decide.add_argument("change", nargs="*", metavar="KEY=VALUE")
    decide.add_argument("-o", "--output", metavar="PLAN2")
    decide.add_argument(
        "--keys", action="store_true", help="list the keys, of a plan or in general"
    )
    lit = _command(commands, "chart", "every material’s colours in the light", plans.chart)
    lit.add_argument("plan")
    render = _command(commands, "render", "a view of the picture as PNG", plans.render)
    render.add_argument("plan")
    render.add_argument("-o", "--output", required=True, metavar="PNG")
    render.add_argument("--view", choices=choices["view"], default="flat")
    render.add_argument("--width", type=number(1, 16384, whole=True), metavar="PX")
    render.add_argument("--profile", metavar="ICC", help="the press that the view print shows")
    _add_studies(commands)
    out = _command(commands, "handoff", "write the painting program’s files", plans.handoff)
    out.add_argument("plan")
    out.add_argument("-o", "--output", required=True, metavar="DIR")
    out.add_argument("--formats", metavar="LIST", help="gpl,flat,lit,chart")
    out.add_argument("--force", action="store_true", help="replace files that are not ours")


def _add_studies(commands: Any) -> None:
    from umber_compass.cli import studies

    grown = _command(commands, "studies", "grow colour versions as PNGs", studies.studies)
    grown.add_argument("plan")
    grown.add_argument("-o", "--output", required=True, metavar="DIR")
    grown.add_argument("--count", type=number(1, 24, whole=True), default=6)
    grown.add_argument("--rules", metavar="LIST", help="ground,turn,lead,scheme,...")
    grown.add_argument("--save", metavar="PLAN2", help="the plan with them")
    grown.add_argument("--force", action="store_true", help="replace files that are not ours")
    _add_first(commands)
    read = _command(commands, "palette", "the colours of a palette or a picture", studies.palette)
    read.add_argument("file")
    read.add_argument("-o", "--output", metavar="FILE", help="written by its ending: .gpl, .hex")


def _add_first(commands: Any) -> None:
    from typing import get_args

    from umber_compass.cli import first as cli_first
    from umber_compass.plan.first import FirstKey, FirstValues

    says = "propose first colours for a drawing as PNGs"
    first = _command(commands, "first", says, cli_first.first)
    first.add_argument("plan")
    first.add_argument("-o", "--output", required=True, metavar="DIR")
    first.add_argument("--count", type=number(1, 12, whole=True), default=6)
    first.add_argument("--focus", type=place, metavar="X,Y", help="px in the sketch")
    first.add_argument("--material", action="append", metavar="R=M", help="what a region is")
    first.add_argument("--light", metavar="L", help="noon,overcast,dusk,night,festive")
    first.add_argument("--key", choices=get_args(FirstKey))
    first.add_argument("--values", choices=get_args(FirstValues))
    first.add_argument("--keep", metavar="R,...", help="regions whose colour all have")
    first.add_argument("--seed", type=number(1, 1_000_000, whole=True))
    first.add_argument("--save", metavar="PLAN2", help="the plan with them")
    first.add_argument("--force", action="store_true", help="replace files that are not ours")


def _demo(args: Namespace) -> Answer:
    """The demos that need no window: listed or written out."""
    from umber_compass.demo import plans as demos

    if args.command == "open" or not (args.list or args.save):
        raise Refusal(args.command, words("opens a window, so it cannot run here; use it alone"))
    if args.save:
        return {"files": [str(p) for p in demos.save(Path(args.save))]}
    return {"demos": [{"name": d.name, "title": d.title} for d in demos.DEMOS]}


def _batch(_: Namespace) -> Answer:
    """One JSON line for each line of standard input; never ends early."""
    for line in sys.stdin:
        if line.strip():
            print(_as_json(_answer_line(line)), flush=True)
    return {}


def _answer_line(line: str) -> Answer:
    try:
        words_given = json.loads(line)
    except (ValueError, RecursionError):
        return {"error": "not a JSON array of arguments"}
    if not isinstance(words_given, list) or not all(isinstance(w, str) for w in words_given):
        return {"error": "not a JSON array of arguments"}
    if words_given[:1] == ["batch"]:
        return {"error": "batch: cannot run inside itself"}
    try:
        args = _parse(words_given)
        answer = dict(args.run(args))
        _as_json(answer)  # what cannot be said is found here, not while printing
        return answer
    except (Refusal, _UsageError) as error:
        return {"error": " ".join(str(error).split())}
    except SystemExit:
        return {"error": "asks for help; run it alone"}
    except Exception as error:  # a batch goes on whatever one of its lines does
        return {"error": f"{words_given[0]}: {_inside(error)}"}


def _inside(error: Exception) -> str:
    """One line for what no input should bring about."""
    what = " ".join(f"{type(error).__name__}: {error}".split())[:200]
    return f"failed inside ({what}); please report it with the input"


def _arguments(given: Sequence[str]) -> Namespace:
    if given.count("--") > 1:  # argparse gives a list for one of them, where a text is wished
        raise _UsageError("-- is given more than once")
    return _parser().parse_args(given)


def _parse(given: Sequence[str]) -> Namespace:
    with redirect_stderr(StringIO()), redirect_stdout(StringIO()):
        return _arguments(given)


def main(given: Sequence[str]) -> int:
    """Run one command; the exit code is 0 done, 1 bad input, 2 wrong usage."""
    _open_ended()
    try:
        args = _arguments(given)
        answer = args.run(args)
        if args.command != "batch":
            print(_as_json(answer) if args.json else _as_text(answer))
        sys.stdout.flush()
    except Refusal as error:
        return _fail(str(error), 1)
    except _UsageError as error:
        return _fail(str(error), 2)
    except BrokenPipeError:
        _mute()
        return 0
    except OSError as error:
        _mute()
        why = (error.strerror or type(error).__name__).lower()
        return _fail(f"standard output: could not be written ({why}); free some space", 1)
    except MemoryError:
        return _fail(f"{given[0]}: there is not enough memory; take a smaller picture", 1)
    return 0


def _open_ended() -> None:
    """Let names of files that are no text through, in and out, in a form that JSON keeps."""
    for stream, errors in (
        (sys.stdin, "surrogateescape"),
        (sys.stdout, "backslashreplace"),
        (sys.stderr, "backslashreplace"),
    ):
        if isinstance(stream, TextIOWrapper):
            stream.reconfigure(errors=errors)


def _mute() -> None:
    """Standard output cannot be written: what it still holds goes nowhere, and says nothing."""
    with suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _fail(line: str, code: int) -> int:
    print(f"{PROGRAM}: " + " ".join(_shown(line).split()), file=sys.stderr)
    return code


def _as_json(answer: Answer) -> str:
    return json.dumps(answer, ensure_ascii=False, allow_nan=False)


def _as_text(answer: Answer, indent: str = "") -> str:
    """An answer as lines a person can read."""
    lines = []
    for key, item in answer.items():
        if isinstance(item, list) and item and isinstance(item[0], dict):
            lines += [f"{indent}{key}", *("  " + indent + _row(x) for x in item)]
        elif isinstance(item, dict):
            lines.append(f"{indent}{key}  {_row(item)}")
        else:
            lines.append(f"{indent}{key}  {_plain(item)}")
    return "\n".join(lines)


def _row(item: Answer) -> str:
    return "  ".join(f"{k} {_plain(v)}" for k, v in item.items() if v is not None and v != [])


def _plain(item: object) -> str:
    if isinstance(item, float):
        return f"{item:.4g}"
    if isinstance(item, dict) and set(item) == {"hex", "value"}:
        return f"{item['hex']} {item['value']:.0f}"
    if isinstance(item, dict):
        return _row(item)
    if isinstance(item, list):
        return ", ".join(_row(x) if isinstance(x, dict) else _plain(x) for x in item)
    return _shown(str(item))


def _shown(text: str) -> str:
    """A text as a terminal may have it: names from files may hold what steers one. Bytes that are
    no text are left to the stream."""
    return "".join(c if c.isprintable() or "\udc80" <= c <= "\udcff" else " " for c in text)
