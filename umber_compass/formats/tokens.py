"""Colours as design tokens, `.tokens.json` (W3C community group, 2025): a group for each thing, a
token for each of its colours."""

import json
import re
from collections.abc import Iterable
from typing import Any

from umber_compass.formats.css import unique
from umber_compass.formats.gpl import Row

_MOST_DEPTH = 64
_HEX = re.compile(r"#[0-9A-Fa-f]{6}")
_OURS = "org.umber-compass"


def text(title: str, rows: Iterable[Row]) -> str:
    """The file's text."""
    groups: dict[str, dict[str, Any]] = {}
    for order, row in enumerate(rows, 1):
        group = groups.setdefault(_name(row.what), {"$type": "color"})
        levels = bytes.fromhex(row.hex[1:])
        group[unique(_name(row.which or "base"), set(group))] = {
            "$value": {
                "colorSpace": "srgb",
                "components": [round(n / 255, 6) for n in levels],
                "alpha": 1,
                "hex": row.hex,
            },
            "$extensions": {_OURS: {"order": order}},
        }
    return json.dumps({"$description": title, **groups}, ensure_ascii=False, indent=1) + "\n"


def parse(data: str) -> list[tuple[str, str]]:
    """The colours of tokens, hex and `group token`, in the order they say or stand in. Raises
    ValueError for what is no JSON, has a key twice, or lies too deep."""
    found: list[tuple[float, str, str]] = []
    _gather(json.loads(data, object_pairs_hook=_once, parse_constant=_no_number), [], "", found, 0)
    return [(hex_, name) for _, hex_, name in sorted(found, key=lambda f: f[0])]


def _gather(
    node: Any, path: list[str], kind: str, found: list[tuple[float, str, str]], depth: int
) -> None:
    if not isinstance(node, dict):
        return
    if depth > _MOST_DEPTH:
        raise ValueError("1")
    kind = str(node.get("$type", kind))
    if "$value" in node:
        hex_ = _hex_of(node["$value"])
        if kind == "color" and hex_:
            found.append((_order(node, len(found)), hex_, " ".join(path)))
        return
    for name, inner in node.items():
        if not name.startswith("$"):
            _gather(inner, [*path, name], kind, found, depth + 1)


def _order(token: dict[str, Any], otherwise: int) -> float:
    """The place that our own extension gives a token; any other file says none, or anything."""
    said: Any = token
    for key in ("$extensions", _OURS, "order"):
        said = said.get(key) if isinstance(said, dict) else None
    return float(said) if isinstance(said, int | float) else float(otherwise)


def _hex_of(value: Any) -> str:
    if isinstance(value, dict):
        value = value.get("hex")
    return value.lower() if isinstance(value, str) and _HEX.fullmatch(value) else ""


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    made = dict(pairs)
    if len(made) != len(pairs):
        raise ValueError("1")
    return made


def _no_number(_: str) -> float:
    raise ValueError("1")


def _name(said: str) -> str:
    kept = " ".join(re.sub(r"[${}.]", " ", said).split())
    return kept or "colour"
