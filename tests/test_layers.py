"""The house's one direction: every import, lazy ones too, held against the layers."""

import ast
import subprocess
import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent / "umber_compass"
# From the ground up: a room may use those named, and itself.
ALLOWED = {
    "registry": set(),
    "__init__": set(),
    "words": set(),
    "work": set(),
    "colour": {"words"},
    "plan": {"words", "registry"},
    "views": {"colour", "registry"},
    "picture": {"words", "work", "colour", "plan"},
    "formats": {"words", "work", "colour", "plan"},
    "steps": {"words", "work", "registry", "colour", "plan", "picture"},
    "demo": {"words", "formats"},
    "document": {"", "words", "work", "colour", "plan", "picture", "formats", "views", "steps"},
}
CORE = set(ALLOWED) | {""}
ALLOWED |= {"cli": CORE, "window": CORE, "__main__": {"cli", "window"}}


def imports(path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom):
            # A module of a package is named as such, so that the package itself is not meant.
            for alias in node.names:
                inner = f"{node.module}.{alias.name}"
                is_module = (ROOT.parent / Path(*inner.split("."))).with_suffix(".py").exists()
                is_folder = (ROOT.parent / Path(*inner.split("."))).is_dir()
                yield inner if is_module or is_folder else node.module or ""


def folder(parts):
    """The folder of steps/ or window/ that a module lies in; each bench and step has its own."""
    deep = 3 if list(parts[1:2]) == ["benches"] else 2
    kept = list(parts[:deep])
    while not (ROOT.joinpath(*kept)).is_dir():
        kept.pop()
    return "/".join(kept)


class Layers(unittest.TestCase):
    def test_every_import_keeps_the_direction(self):
        for path in ROOT.rglob("*.py"):
            room = path.relative_to(ROOT).parts[0].removesuffix(".py")
            for name in imports(path):
                with self.subTest(path=path.name, imports=name):
                    if name.startswith("PySide6"):
                        self.assertEqual(room, "window")
                    if name.startswith("umber_compass"):
                        other = [*name.split("."), ""][1].replace("__version__", "")
                        self.assertIn(other, ALLOWED[room] | {room})

    def test_no_two_folders_within_steps_or_window_use_each_other(self):
        for base in ("steps", "window"):
            used = set()
            for path in (ROOT / base).rglob("*.py"):
                own = folder((base, *path.relative_to(ROOT / base).parts[:-1]))
                for name in imports(path):
                    other = name.split(".")[1:]
                    if other[:1] == [base] and folder(other) != own:
                        used.add((own, folder(other)))
            both = {pair for pair in used if pair[::-1] in used and pair[0] < pair[1]}
            self.assertEqual(both, set())
            self.assertGreater(len(used), 10)

    def test_core_and_command_line_start_without_qt_and_scipy(self):
        code = (
            "import sys, umber_compass.document, umber_compass.cli.run as r; r._parser();"
            "print(sorted(m for m in sys.modules if m.startswith(('PySide6', 'scipy'))))"
        )
        said = subprocess.run(
            [sys.executable, "-c", code], capture_output=True, text=True, check=True
        )
        self.assertEqual(said.stdout.strip(), "[]")

    def test_a_window_loads_no_bench_but_the_one_it_shows(self):
        code = (
            "import sys, umber_compass.window.main_window;"
            "own = [m for m in sys.modules if m.startswith('umber_compass')];"
            "print(len(own) <= 440, [m for m in own if '.benches.' in m or '.drawers.' in m])"
        )
        done = subprocess.run(
            [sys.executable, "-c", code], capture_output=True, text=True, check=True
        )
        self.assertEqual(done.stdout.strip(), "True []")

    def test_modules_and_classes_stay_short(self):
        long, wide = [], []
        for path in ROOT.rglob("*.py"):
            text = path.read_text()
            if len(text.splitlines()) > 400:
                long.append(path.name)
            for node in ast.walk(ast.parse(text)):
                if isinstance(node, ast.ClassDef):
                    methods = sum(isinstance(n, ast.FunctionDef) for n in node.body)
                    if methods > 15:
                        wide.append(f"{node.name}: {methods}")
        self.assertEqual((long, wide), ([], []))

    def test_what_is_said_on_hover_stands_in_the_pages(self):
        from umber_compass.steps.checks import CHECKS
        from umber_compass.steps.values.wishes import SPECS

        def page(name):
            return " ".join((ROOT.parent / "docs" / f"{name}.md").read_text().split())

        said = [("values", s.says) for s in SPECS.values()]
        said += [("checks", c.says) for c in CHECKS.values()]
        for name, says in said:
            self.assertTrue(says)
            self.assertIn(" ".join(says.split()), page(name))

    def test_no_file_needs_itself(self):
        names = {_module(p): p for p in ROOT.rglob("*.py")}
        needs = {m: {_known(n, names) for n in imports(p)} - {None, m} for m, p in names.items()}
        left = dict(needs)
        while left:
            free = [m for m, n in left.items() if not n & left.keys()]
            self.assertTrue(free, f"a circle among {sorted(left)}")
            for module in free:
                del left[module]

    def test_only_formats_open_files(self):
        for path in ROOT.rglob("*.py"):
            if path.relative_to(ROOT).parts[0] in ("formats", "demo"):
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                name = (
                    getattr(node.func, "attr", getattr(node.func, "id", ""))
                    if isinstance(node, ast.Call)
                    else ""
                )
                with self.subTest(path=path.name):
                    self.assertNotIn(name, ("read_bytes", "write_bytes", "read_text", "write_text"))

    def test_every_step_has_its_folder_its_page_and_its_place_in_the_readme(self):
        top = ROOT.parent
        readme = (top / "README.md").read_text()
        for bench in sorted((ROOT / "window" / "benches").iterdir()):
            if bench.is_dir() and bench.name != "__pycache__":
                self.assertTrue((ROOT / "steps" / bench.name / "__init__.py").exists(), bench.name)
                self.assertTrue((top / "docs" / f"{bench.name}.md").exists(), bench.name)
                self.assertIn(f"docs/{bench.name}.md", readme)


def _module(path):
    """A file's dotted name; a package's is its folder's."""
    parts = path.relative_to(ROOT.parent).with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def _known(name, names):
    """The file that an imported name is in: a module, or the one it is a part of."""
    while name and name not in names:
        name = name.rpartition(".")[0]
    return name if name and name != "umber_compass" else None
