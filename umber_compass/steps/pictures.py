"""The pictures of a plan: as fast as they can be had, on the px that are shown, and exactly."""

from typing import NamedTuple

from umber_compass.colour.packed import Packed, pack
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.exact import paint_exact
from umber_compass.picture.indexed import IndexedPicture, gathered, paint
from umber_compass.picture.light import Lights
from umber_compass.picture.mixes import Ints
from umber_compass.picture.pools import Near, Spread, near_on, pool_on
from umber_compass.picture.reach import (
    Ends,
    Laid,
    Reaching,
    Shares,
    ShownForms,
    laid,
    paint_reached,
    places_of_shadow,
    share_on,
    shine_on,
    shown_forms,
)
from umber_compass.picture.seen import Gather, Grid, Seen, paint_gathered, see
from umber_compass.steps.light.standing import STEP
from umber_compass.steps.light.telling import reaching
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle


class SeenForms(NamedTuple):
    """What a grid shows of a picture, and the forms of its px where it is lit."""

    gather: Seen
    forms: ShownForms | None
    known: "Known"


class Known:
    """What was last worked out for a grid: it stays while colours alone are dragged."""

    def __init__(self) -> None:
        self.places: tuple[object, Ints] | None = None
        self.laid: tuple[tuple[object, ...], Laid] | None = None
        self.pools: list[tuple[Spread, Near]] = []


def picture(derived: Derived, out: Packed | None = None) -> Packed:
    """The picture of a plan, (h, w), 0x00RRGGBB, as fast as it can be had: lit from codes where
    the rig is on, else flat. `out` is painted over where it is given."""
    if derived.buffers is None or derived.lit is None:
        return paint(derived.indexed, derived.table)
    lit = derived.lit
    if lit.ends is None:
        return paint_gathered(derived.buffers, lit.packed, out)
    assert derived.whole_forms is not None
    forms, spreads = derived.whole_forms, spreads_of(derived)
    return in_ends(derived, derived.buffers, forms, lit.ends, lit.lights, spreads, out)


def in_ends(
    derived: Derived,
    gather: SurfaceBuffers | Seen,
    forms: ShownForms,
    ends: Ends,
    lights: Lights,
    spreads: tuple[Spread, ...],
    out: Packed | None = None,
) -> Packed:
    """A picture mixed px by px of the ends of its codes. `spreads` are of the lights on parts of
    the picture, in the order of the ends'."""
    share = share_on(forms, lights, live_reaching(derived))
    shine = shine_on(forms, lights, derived.finishes, share)
    shares = Shares(share, shine, tuple(_near(derived, gather, forms, s) for s in spreads))
    return paint_reached(gather, ends, laid(gather, shares, len(ends.lit)), forms, out)


def _near(
    derived: Derived, gather: SurfaceBuffers | Seen, forms: ShownForms, spread: Spread
) -> Near:
    """The px in a light that falls on a part of the picture."""
    scale = live_reaching(derived).scale
    return near_on(gather.code, spread, pool_on(spread, forms.grid, scale))


def _pools_near(derived: Derived, seen: SeenForms, spreads: tuple[Spread, ...]) -> tuple[Near, ...]:
    """The px in each such light on a grid: as they were, or found anew."""
    assert seen.forms is not None
    known = {id(spread): near for spread, near in seen.known.pools}
    found = [
        (s, known[id(s)] if id(s) in known else _near(derived, seen.gather, seen.forms, s))
        for s in spreads
    ]
    seen.known.pools = found
    return tuple(near for _, near in found)


def _laid_on(derived: Derived, seen: SeenForms, lights: Lights, count: int) -> Laid:
    """How light lies on the px of a grid: as it was, or found anew."""
    assert seen.forms is not None
    told, known = live_reaching(derived), seen.known
    spreads = spreads_of(derived)
    of_px = (derived.edges, derived.finishes, *_of_form(lights))
    key = (told.shadows, told.receivers, *of_px, *spreads)
    if known.laid is not None and _alike(known.laid[0], key):
        return known.laid[1]
    places = None
    if told.shadows is not None:
        if known.places is None or known.places[0] is not told.receivers:
            shape = told.shadows.floor.shape
            at = places_of_shadow(seen.forms, told, (shape[0], shape[1]))
            known.places = (told.receivers, at)
        places = known.places[1]
    share = share_on(seen.forms, lights, told, places)
    shine = shine_on(seen.forms, lights, derived.finishes, share)
    found = laid(seen.gather, Shares(share, shine, _pools_near(derived, seen, spreads)), count)
    known.laid = (key, found)
    return found


def spreads_of(derived: Derived) -> tuple[Spread, ...]:
    """How far each light on a part of the picture reaches."""
    return tuple(pool.spread for pool in derived.pool_lights)


def _of_form(lights: Lights) -> tuple[object, ...]:
    """What of lights the shares hang on."""
    return lights.way, lights.edge, lights.key.direction, lights.highlights


def _alike(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    plain = (str, float, bool, tuple)  # no record of arrays among them
    if len(one) != len(other):
        return False
    return all(a is b or (type(a) in plain and a == b) for a, b in zip(one, other, strict=True))


def live_reaching(derived: Derived) -> Reaching:
    """What keeps the key's light from px, as it is found while a lamp is dragged."""
    return reaching(derived.shadows, derived.receivers, derived.buffers, derived.edges, STEP)


def seen_on(derived: Derived, grid: Grid) -> SeenForms:
    """What a grid shows of a plan's picture, whatever its colours are."""
    indexed = painted_through(derived)
    px: Gather = gathered(indexed) if isinstance(indexed, IndexedPicture) else indexed
    seen = see(px, derived.drawing.labels, indexed.adjacency.label, grid)
    forms = None
    if isinstance(indexed, SurfaceBuffers):
        forms = shown_forms(indexed, derived.drawing.labels, grid, seen.px)
    return SeenForms(seen, forms, Known())


def painted_through(derived: Derived) -> IndexedPicture | SurfaceBuffers:
    """The codes that a plan's picture is painted through: those for light where it is lit."""
    buffers = derived.buffers
    return derived.indexed if buffers is None or derived.lit is None else buffers


def seen_picture(derived: Derived, seen: SeenForms, out: Packed | None = None) -> Packed:
    """A plan's picture on a grid, (rows, columns), 0x00RRGGBB, as fast as it can be had."""
    lit = derived.lit if derived.buffers is not None else None
    if lit is None:
        return paint_gathered(seen.gather, pack(derived.table), out)
    if lit.ends is None or seen.forms is None:
        return paint_gathered(seen.gather, lit.packed, out)
    light = _laid_on(derived, seen, lit.lights, len(lit.ends.lit))
    return paint_reached(seen.gather, lit.ends, light, seen.forms, out)


def exact_picture(derived: Derived, tick: Tick = idle) -> Packed:
    """The exact picture of a plan, (h, w), 0x00RRGGBB."""
    exact = derived.exact_light
    if derived.buffers is None or exact is None:
        return paint(derived.indexed, derived.table)
    return paint_exact(
        derived.buffers,
        derived.indexed,
        derived.table,
        derived.drawing.labels,
        exact,
        tick,
    )
