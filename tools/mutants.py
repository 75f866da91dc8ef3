"""How much the tests see: plausible faults, one at a time, each run by the tests of its own folder.

python -m tools.mutants [FOLDER ...] [--count N] [--seed S] [--jobs N]. A sample is drawn by its
seed: a place in the code, then one change there (by cosmic-ray). Work is done on copies of the
checkout.
"""

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from argparse import ArgumentParser
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue
from typing import NamedTuple

from cosmic_ray.ast import ast_nodes, get_ast
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names

TOP = Path(__file__).parent.parent
PACKAGE = "umber_compass"
FOLDERS = ("colour", "plan", "picture", "steps", "formats", "document", "cli")
_LIMIT = 6.0  # times what the folder's tests take when nothing is wrong
# What no hand would get wrong, or what makes the same program: identity for equality, `not` for a
# sign, an assertion of equal lengths, how a record is made.
_SKIPPED = ("RemoveDecorator", "ExceptionReplacer", "_Is", "_IsNot", "_Not", "_Invert", "_UAdd")
_SAME = ("strict=", "frozen=True", "reshape(-1")


class Mutant(NamedTuple):
    """One change: where, by which operator, and the text of the file with it."""

    folder: str
    path: Path  # from the top of the checkout
    line: int
    operator: str
    before: str
    after: str
    text: str


def places(folder: str) -> list[tuple[Path, tuple[int, int], list[tuple[str, int]]]]:
    """Every place that can be changed, with the operators that can and which of theirs it is."""
    found: dict[tuple[Path, tuple[int, int]], list[tuple[str, int]]] = {}
    for path in sorted((TOP / PACKAGE / folder).rglob("*.py")):
        tree = get_ast(path.read_text())
        for name in sorted(operator_names()):
            kind = get_operator(name)
            if name.endswith(_SKIPPED) or kind.arguments():
                continue
            operator, count = kind(), 0
            for node in ast_nodes(tree):
                for start, _ in operator.mutation_positions(node):
                    found.setdefault((path, tuple(start)), []).append((name, count))
                    count += 1
    return [(path, at, changes) for (path, at), changes in sorted(found.items())]


def sample(folders: tuple[str, ...], count: int, seed: int) -> Iterator[Mutant]:
    """So many mutants, spread over the folders as their places are."""
    rng = random.Random(seed)
    every = [(folder, *place) for folder in folders for place in places(folder)]
    rng.shuffle(every)
    for folder, path, at, changes in every:
        if count <= 0:
            return
        name, occurrence = rng.choice(changes)
        source = path.read_text()
        changed = mutate_code(source, get_operator(name)(), occurrence)
        if changed is None or _means(changed) == _means(source):
            continue
        old, new = source.split("\n"), changed.split("\n")
        line = next((i for i, (a, b) in enumerate(zip(old, new, strict=False)) if a != b), at[0])
        if any(word in old[line] for word in _SAME):
            continue
        count -= 1
        yield Mutant(
            folder,
            path.relative_to(TOP),
            line + 1,
            name.removeprefix("core/"),
            old[line].strip(),
            new[line].strip(),
            changed,
        )


def _means(source: str) -> str:
    """A file without its annotations, docstrings and the like: a change there is none."""
    try:
        tree = ast.parse(source)
    except SyntaxError:
        return source
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            node.returns = None
            for one in (*node.args.args, *node.args.kwonlyargs):
                one.annotation = None
        if isinstance(node, ast.AnnAssign):
            node.annotation = ast.Constant(0)
    return ast.dump(tree)


class Copy:
    """A copy of the checkout in which one mutant at a time is tried."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        for part in (PACKAGE, "tests", "docs", "bench", "tools"):
            shutil.copytree(
                TOP / part, folder / part, ignore=shutil.ignore_patterns("__pycache__", "*.pyc")
            )
        shutil.copy(TOP / "README.md", folder)

    def run(self, folder: str, limit_s: float) -> bool:
        """Whether the folder's own tests pass within the time."""
        environment = {
            **os.environ,
            "PYTHONPATH": str(self.folder),
            "PYTHONDONTWRITEBYTECODE": "1",
            "UMBER_TEST_FAST": "1",
        }
        command = [sys.executable, "-m", "tests", f"tests.{folder}"]
        try:
            done = subprocess.run(
                command,
                cwd=self.folder,
                env=environment,
                capture_output=True,
                timeout=limit_s,
                check=False,
            )
        except subprocess.TimeoutExpired:
            return False
        return done.returncode == 0

    def survives(self, mutant: Mutant, limit_s: float) -> bool:
        """Whether no test of its folder notices a mutant."""
        target = self.folder / mutant.path
        kept = target.read_text()
        target.write_text(mutant.text)
        try:
            return self.run(mutant.folder, limit_s)
        finally:
            target.write_text(kept)


def main() -> int:
    """Draw a sample, try each mutant, print those that survive and the share that does not."""
    parser = ArgumentParser(prog="umber mutants")
    parser.add_argument("folder", nargs="*", choices=[*FOLDERS, []], default=[])
    parser.add_argument("--count", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--jobs", type=int, default=os.cpu_count() or 1)
    args = parser.parse_args()
    folders = tuple(args.folder) or FOLDERS
    with tempfile.TemporaryDirectory() as top:
        copies: Queue[Copy] = Queue()
        for i in range(args.jobs):
            copies.put(Copy(Path(top) / str(i)))
        limits = {f: _baseline(copies, f) * _LIMIT + 10 for f in folders}
        mutants = list(sample(folders, args.count, args.seed))

        def attempt(mutant: Mutant) -> bool:
            copy = copies.get()
            try:
                return copy.survives(mutant, limits[mutant.folder])
            finally:
                copies.put(copy)

        with ThreadPoolExecutor(args.jobs) as pool:
            survived = []
            for mutant, lives in zip(mutants, pool.map(attempt, mutants), strict=True):
                if lives:
                    survived.append(mutant)
                    print(_said(mutant), flush=True)
    killed = len(mutants) - len(survived)
    print(f"seed {args.seed}: {killed} of {len(mutants)} mutants killed")
    return 0


def _baseline(copies: "Queue[Copy]", folder: str) -> float:
    copy = copies.get()
    begin = time.monotonic()
    passes = copy.run(folder, 600)
    copies.put(copy)
    if not passes:
        sys.exit(f"umber mutants: the tests of {folder} fail as they are; mend them first")
    return time.monotonic() - begin


def _said(mutant: Mutant) -> str:
    return f"{mutant.path}:{mutant.line} {mutant.operator}\n  - {mutant.before}\n  + {mutant.after}"


if __name__ == "__main__":
    sys.exit(main())
