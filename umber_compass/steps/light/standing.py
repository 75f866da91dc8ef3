"""Things as they stand, told or guessed, made ready to cast shadows, and the shadows they cast."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.cards import Placed, Stage, Standee, standee_of
from umber_compass.picture.casting import Parts, Shadows, cast
from umber_compass.picture.forms import MARK, FormWish, enclosed, surfaces
from umber_compass.picture.mixes import Ints
from umber_compass.picture.pieces import Pieces
from umber_compass.picture.reach import FLOOR, FREE, THING, WALL, Receivers
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Direction, Lamp
from umber_compass.plan.scene import Scene
from umber_compass.plan.terms import Ground
from umber_compass.steps.light.things import Guessed
from umber_compass.work import Tick, idle

STEP = 2  # px of the map of pieces for one of live shadows
_OUT, _MARK_OUT = 20 / 1280, 6 / 1280  # of the width, how far parts and marks stand out
_KINDS: dict[Ground, int] = {"floor": FLOOR, "wall": WALL, "sky": FREE}


class Stands(NamedTuple):
    """A thing as it stands."""

    id: str
    name: str
    members: tuple[int, ...]  # pieces
    placed: Placed


class Standing(NamedTuple):
    """What stands where."""

    things: tuple[Stands, ...]
    stage: Stage
    grounds: Mapping[str, Ground]  # by region id


def pieces_in(buffers: SurfaceBuffers | None) -> Pieces | None:
    """The connected pieces of a sketch; None while it is flat."""
    return None if buffers is None else buffers.pieces


def standing(
    pieces: Pieces | None, guessed: Guessed | None, scene: Scene, regions: tuple[Region, ...]
) -> Standing | None:
    """What stands where, as the artist said it, and guessed where nothing was said."""
    if pieces is None or guessed is None:
        return None
    if scene.things is None:
        things = tuple(
            Stands(f"t{i + 1}", f.name, f.members, f.placed) for i, f in enumerate(guessed.things)
        )
    else:
        things = tuple(_told(pieces, scene, i) for i in range(len(scene.things)))
    grounds = {**guessed.grounds, **scene.grounds}
    label = {r.id: r.label for r in regions}
    floor = tuple(label[r] for r, g in grounds.items() if g == "floor" and r in label)
    wall = tuple(label[r] for r, g in grounds.items() if g == "wall" and r in label)
    horizon = guessed.horizon if scene.horizon is None else scene.horizon
    return Standing(things, Stage(horizon, floor, wall), grounds)


def _told(pieces: Pieces, scene: Scene, index: int) -> Stands:
    assert scene.things is not None
    thing = scene.things[index]
    members = tuple(sorted({pieces.at(x, y) for x, y in thing.pieces} - {0}))
    lowest = max((int(pieces.box[m][3]) for m in members), default=0) / pieces.number.shape[0]
    foot = lowest if thing.foot is None else thing.foot
    return Stands(thing.id, thing.name, members, Placed(thing.on, foot, thing.gap))


def members_of(standing: Standing | None) -> tuple[tuple[int, ...], ...]:
    """The pieces of every thing: what its cards are made from."""
    return () if standing is None else tuple(t.members for t in standing.things)


def standees(
    pieces: Pieces | None, members: tuple[tuple[int, ...], ...], tick: Tick = idle
) -> tuple[Standee | None, ...]:
    """Every thing as cards; None for one that has no px."""
    if pieces is None:
        return ()
    found = []
    for i, own in enumerate(members):
        tick(i / max(len(members), 1))
        found.append(standee_of(pieces, own))
    return tuple(found)


def parts_before(
    pieces: Pieces | None,
    members: tuple[tuple[int, ...], ...],
    wishes: tuple[FormWish, ...],
) -> Parts | None:
    """Which part of a thing lies before which, and how far each stands out; None where there are
    no things."""
    if pieces is None or not members:
        return None
    most = max(int(pieces.label.max(initial=0)), max((w.label for w in wishes), default=0)) + 1
    area = np.bincount(pieces.label, pieces.area, most).astype(np.intp)
    inside = enclosed(pieces)
    rank = np.zeros(most, np.int16)
    reach = np.zeros(len(wishes) + 2, np.float32)
    width = pieces.number.shape[1]
    for i, surface in enumerate(surfaces(wishes, area, inside), 1):
        rank[list(surface.labels)] = i
        marks = all(area[n] <= MARK * area[inside[n]] for n in surface.labels if n in inside)
        mark = marks and all(n in inside for n in surface.labels)
        reach[i] = round((_MARK_OUT if mark else _OUT) * width, 1)
    standing = np.zeros(len(pieces.area), bool)
    standing[[m for own in members for m in own]] = True
    by_piece = np.where(standing, rank[pieces.label], 0).astype(np.int16)
    return Parts(by_piece[pieces.number], reach)


def shadows(
    pieces: Pieces | None,
    standees: tuple[Standee | None, ...] | None,
    standing: Standing | None,
    parts: Parts | None,
    direction: Direction,
    softness: float,
    on: bool,
) -> Shadows | None:
    """The shadows of a key that shines from a direction, as they are found while it is dragged;
    None where it casts none."""
    return _cast(pieces, standees, standing, parts, direction, softness, on, STEP, False)


def exact_shadows(
    pieces: Pieces | None,
    standees: tuple[Standee | None, ...] | None,
    standing: Standing | None,
    parts: Parts | None,
    direction: Direction,
    softness: float,
    on: bool,
) -> Shadows | None:
    """The same with a px for each of the map of pieces, four times as many."""
    return _cast(pieces, standees, standing, parts, direction, softness, on, 1, True)


def _cast(
    pieces: Pieces | None,
    standees: tuple[Standee | None, ...] | None,
    standing: Standing | None,
    parts: Parts | None,
    direction: Direction,
    softness: float,
    on: bool,
    step: int,
    exact: bool,
) -> Shadows | None:
    if not on or pieces is None or standing is None or standees is None:
        return None
    if len(standees) != len(standing.things):
        return None  # the cards of other things: those of these are on their way
    both = [(s, t.placed) for s, t in zip(standees, standing.things, strict=True) if s]
    fine = pieces.number.shape
    shape = (fine[0], fine[1])
    return cast(both, standing.stage, parts, direction, softness, shape, step, exact)


def receivers(
    standing: Standing | None, buffers: SurfaceBuffers | None, regions: tuple[Region, ...]
) -> Receivers:
    """What the px of every region receive shadows as."""
    most = max((r.label for r in regions), default=0)
    if buffers is not None:
        most = max(most, len(buffers.forms.kind) - 1)
    kind = np.full(most + 1, THING, np.uint8)
    kind[0] = FREE
    grounds = standing.grounds if standing is not None else {}
    for region in regions:
        if region.id in grounds:
            kind[region.label] = _KINDS[grounds[region.id]]
    return Receivers(kind)


class Sampled(NamedTuple):
    """The codes that the px of a live shadow's planes show."""

    code: npt.NDArray[np.intp]
    held: npt.NDArray[np.float64]  # (codes,) how many px show each
    kind: npt.NDArray[np.uint8]  # what each px receives shadows as
    label: Ints  # (codes,)

    def by_code(self, plane: npt.NDArray[np.uint8]) -> npt.NDArray[np.float32]:
        """Means of a plane of 0 to 255, (codes,); codes that no px shows have their label's."""
        count = len(self.held)
        total = np.bincount(self.code, plane.reshape(-1), count)
        most = int(self.label.max(initial=0)) + 1
        whole = np.bincount(self.label, total, most)
        of_label = whole / np.maximum(np.bincount(self.label, self.held, most), 1)
        own = total / np.maximum(self.held, 1)
        return np.where(self.held > 0, own, of_label[self.label]).astype(np.float32)


def sampled(
    buffers: SurfaceBuffers | None, labels: npt.NDArray[np.uint16], receivers: Receivers
) -> Sampled | None:
    """The codes under the planes of live shadows."""
    if buffers is None:
        return None
    step = buffers.pieces.scale * STEP
    half = buffers.pieces.scale // 2
    rows = np.minimum(np.arange(half, buffers.shape[0] + step, step), buffers.shape[0] - 1)
    columns = np.minimum(np.arange(half, buffers.shape[1] + step, step), buffers.shape[1] - 1)
    fine = buffers.pieces.number.shape
    rows, columns = rows[: -(-fine[0] // STEP)], columns[: -(-fine[1] // STEP)]
    place = (rows[:, None] * buffers.shape[1] + columns).reshape(-1)
    code = buffers.code[place]
    kind = receivers.of_label[labels.reshape(-1)[place]]
    held = np.bincount(code, minlength=buffers.size).astype(float)
    return Sampled(code, held, kind, buffers.adjacency.label)


def shadow_by_code(
    sampled: Sampled | None, shadows: Shadows | None
) -> npt.NDArray[np.float32] | None:
    """Of the key's light, the share 0-1 that is kept from each code's px on the mean, (codes,)."""
    if sampled is None or shadows is None:
        return None
    kept = np.zeros(len(sampled.code), np.uint8)
    for number, plane in ((FLOOR, shadows.floor), (WALL, shadows.wall), (THING, shadows.things)):
        np.copyto(kept, plane.reshape(-1), where=sampled.kind == number)
    return sampled.by_code(kept) / np.float32(255)


def casts(key: Lamp, on: bool) -> bool:
    """Whether the key casts shadows."""
    return on and key.on and key.strength > 0
