"""The house's one direction: every import, lazy ones too, held against the layers."""

import ast
import subprocess
import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent / "umber_compass"
# From the ground up: a room may use those named, and itself.
ALLOWED = {
    "__init__": set(),
    "words": set(),
    "work": set(),
    "colour": {"words"},
    "plan": {"words"},
    "views": {"colour"},
    "picture": {"words", "work", "colour", "plan"},
    "formats": {"words", "plan"},
    "steps": {"words", "work", "colour", "plan", "picture"},
    "demo": {"words", "formats"},
    "document": {"words", "work", "colour", "plan", "picture", "formats", "views", "steps"},
}
CORE = set(ALLOWED) | {""}
ALLOWED |= {"cli": CORE, "window": CORE, "__main__": {"cli", "window"}}


def imports(path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom):
            if node.module == "umber_compass":
                yield from (f"umber_compass.{a.name}" for a in node.names)
            else:
                yield node.module or ""


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

    def test_core_and_command_line_start_without_qt_and_scipy(self):
        code = (
            "import sys, umber_compass.document, umber_compass.cli.run as r; r._parser();"
            "print(sorted(m for m in sys.modules if m.startswith(('PySide6', 'scipy'))))"
        )
        said = subprocess.run(
            [sys.executable, "-c", code], capture_output=True, text=True, check=True
        )
        self.assertEqual(said.stdout.strip(), "[]")

    def test_modules_stay_short(self):
        long = [p.name for p in ROOT.rglob("*.py") if len(p.read_text().splitlines()) > 400]
        self.assertEqual(long, ["main_window.py"] if "main_window.py" in long else [])
