"""One bench a step, each a folder and one row here, in the route's order. A folder is loaded when
its bench is first opened."""

from umber_compass.window.bench.row import BenchRow


def steps_titles() -> dict[str, str]:
    """Every step's title, in the order of their numbers."""
    return {row.step: row.title for row in BENCHES.values()}


def _row(step: str, title: str, number: int, *views: str, takes_stage: bool = False) -> BenchRow:
    usual = BenchRow(step, title, number, f"{__name__}.{step}", takes_stage=takes_stage)
    return usual._replace(views=views) if views else usual


_ROWS = (
    _row("sketch", "Sketch", 1, "grey", "squint", "mirrored", "upside-down"),
    _row("harmony", "Harmony", 2),
    _row("values", "Values", 3, "groups-3", "grey", "squint", "small"),
    _row("focus", "Focus", 4, "heat", "borders", "grey", "squint"),
    _row("studies", "Studies", 5, takes_stage=True),
    _row("light", "Light", 6, "lights-off", "ambient-only", "key-only", "grey"),
    _row("ramps", "Ramps", 7),
    _row("handoff", "Hand-off", 8),
)
BENCHES: dict[str, BenchRow] = {row.step: row for row in _ROWS}
