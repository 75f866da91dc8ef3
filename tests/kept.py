"""Results that were looked at and found good, kept in tests/kept/*.json: what changes them unasked
fails. `python -m tests.kept` writes them anew; read the difference before you commit it."""

import importlib
import json
import sys
from pathlib import Path

import numpy as np

FOLDER = Path(__file__).parent / "kept"
ROOMS = ("colour", "plan", "picture", "steps", "formats", "document", "cli")
NEAR = 2e-3  # of a number, and at least that much: another processor rounds otherwise


def plain(result):
    """A result as JSON holds it."""
    if isinstance(result, dict):
        return {str(k): plain(v) for k, v in result.items()}
    if isinstance(result, list | tuple | set | frozenset):
        return [plain(v) for v in (sorted(result) if isinstance(result, set) else result)]
    if isinstance(result, np.ndarray):
        return plain(result.tolist())
    if isinstance(result, float | np.floating):
        return round(float(result), 5)
    if isinstance(result, np.integer):
        return int(result)
    return result if isinstance(result, str | int | bool | None) else str(result)


def differences(wanted, found, where=""):
    """Where two plain results part, as lines."""
    if isinstance(wanted, dict) and isinstance(found, dict) and wanted.keys() == found.keys():
        return [d for k in wanted for d in differences(wanted[k], found[k], f"{where}.{k}")]
    if isinstance(wanted, list) and isinstance(found, list) and len(wanted) == len(found):
        pairs = enumerate(zip(wanted, found, strict=True))
        return [d for i, (a, b) in pairs for d in differences(a, b, f"{where}[{i}]")]
    if same(wanted, found):
        return []
    return [f"{where}: {wanted!r} was kept, {found!r} is found"]


def same(wanted, found):
    if isinstance(wanted, int | float) and isinstance(found, int | float):
        return abs(wanted - found) <= NEAR * max(1.0, abs(wanted))
    if isinstance(wanted, str) and isinstance(found, str) and wanted[:1] == found[:1] == "#":
        pair = [bytes.fromhex(x[1:7]) for x in (wanted, found)]
        return wanted[7:] == found[7:] and all(abs(a - b) <= 1 for a, b in zip(*pair, strict=True))
    return wanted == found


def check(test, room, results):
    """Hold results, by name, against those that were kept for a folder."""
    kept = json.loads((FOLDER / f"{room}.json").read_text())
    test.assertEqual(set(kept), set(results))
    for name, work in results.items():
        with test.subTest(name):
            lines = differences(kept[name], plain(work()))
            test.assertEqual(lines[:5], [])


def main():
    """Write all that is kept anew."""
    FOLDER.mkdir(exist_ok=True)
    for room in sys.argv[1:] or ROOMS:
        results = importlib.import_module(f"tests.{room}.test_kept").RESULTS
        kept = {name: plain(work()) for name, work in results.items()}
        text = json.dumps(kept, ensure_ascii=False, separators=(",", ":"))
        (FOLDER / f"{room}.json").write_text(text.replace('],"', '],\n"') + "\n")


if __name__ == "__main__":
    main()
