"""What an edit changed, in numbers: for the log, where the edit's name does not say them."""

from collections.abc import Iterator
from typing import Any

from umber_compass.plan.model import Plan
from umber_compass.plan.terms import Record

_MOST = 3  # changes that are still told
_NONE = object()


def changed_numbers(before: Plan, after: Plan) -> str:
    """What one plan has otherwise than another, as `20 → 34`; empty where that is nothing, text, or
    more than can be told in a line. Parts that two plans share are not looked through."""
    found = []
    for one, other in _leaves(before, after):
        found.append((one, other))
        if len(found) > _MOST:
            return ""
    told = [f"{_said(a)} → {_said(b)}" for a, b in found if _is_told(a) and _is_told(b)]
    return ", ".join(told) if len(told) == len(found) else ""


def _leaves(one: Any, other: Any) -> Iterator[tuple[Any, Any]]:
    """The plain values in which two parts of plans differ."""
    if one is other:
        return
    if isinstance(one, Record) and type(one) is type(other):
        for name in one.__struct_fields__:
            yield from _leaves(getattr(one, name), getattr(other, name))
    elif isinstance(one, dict) and isinstance(other, dict):
        for key in {**one, **other}:
            yield from _leaves(one.get(key, _NONE), other.get(key, _NONE))
    elif isinstance(one, tuple) and isinstance(other, tuple) and len(one) == len(other):
        for a, b in zip(one, other, strict=True):
            yield from _leaves(a, b)
    elif one != other:
        yield one, other


def _is_told(value: Any) -> bool:
    """Whether a value is a number or a hex, or is not there."""
    is_hex = isinstance(value, str) and value.startswith("#") and len(value) == 7
    number = isinstance(value, int | float) and not isinstance(value, bool)
    return is_hex or number or value is None or value is _NONE


def _said(value: Any) -> str:
    if value is None or value is _NONE:
        return "–"
    return value if isinstance(value, str) else f"{value:.4g}"
