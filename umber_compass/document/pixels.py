"""The pixels beside a plan, by content hash: sketches as they came, whose region each px is, and
the drawings made of both at working size.

A plan names pixels by hash only, so that an edit may name others and undo finds the old ones.
"""

import hashlib
from collections.abc import Iterable, Iterator

import numpy as np
from PIL import Image

from umber_compass.colour.packed import Levels, Packed
from umber_compass.document.kept import Kept
from umber_compass.formats import picture
from umber_compass.formats.plan_file import PlanFile
from umber_compass.picture.drawing import Drawing, draw
from umber_compass.picture.mixes import Labels
from umber_compass.plan.journal import Journal
from umber_compass.plan.model import Plan, Sketch
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

MOST_WORKING = 1600  # px, the longer side of the picture the window works on


def hash_of(data: bytes) -> str:
    """What a plan calls a picture's or a label map's bytes by."""
    return hashlib.sha256(data).hexdigest()


class Pixels:
    """What lies beside a plan. Nothing is taken away while the plan is open: undo may want it."""

    def __init__(self) -> None:
        self.sketches: dict[str, bytes] = {}
        self.references: dict[str, bytes] = {}
        self.drawings: dict[str, Drawing] = {}  # at working size, by the hash of the labels
        self._labels: dict[str, Labels] = {}
        self._encoded: dict[str, bytes] = {}
        # The picture that hands worked on last: hash of its sketch, itself at working size, greys.
        self.shown: tuple[str, Packed, Levels] | None = None
        self.journal = Journal()

    @classmethod
    def of_file(cls, held: PlanFile) -> "Pixels":
        """The pixels of a plan file."""
        made = cls()
        made.sketches, made._encoded = dict(held.sketches), dict(held.labels)
        made._labels = dict(held.arrays)
        made.references = dict(held.references)
        made.journal = held.journal
        return made

    def add_sketch(self, data: bytes) -> str:
        """Take a picture in as it came; gives its hash."""
        key = hash_of(data)
        self.sketches[key] = data
        return key

    def add_reference(self, data: bytes) -> str:
        """Take a picture that is kept beside the plan in; gives its hash."""
        key = hash_of(data)
        self.references[key] = data
        return key

    def add_labels(self, labels: Labels, of: str = "") -> str:
        """Take label pixels, (h, w), in; gives their hash. `of` is what their drawing is made from,
        where the same labels have another one."""
        key, data = self.encoded(labels, of)
        self.take_labels(key, data, labels)
        return key

    @staticmethod
    def encoded(labels: Labels, of: str = "") -> tuple[str, bytes]:
        """Label pixels as they lie in a file, and their hash: what takes time of taking them in."""
        data = picture.png_bytes(labels, of)
        return hash_of(data), data

    def take_labels(self, key: str, data: bytes, labels: Labels) -> None:
        """Take label pixels in that were encoded already."""
        labels.flags.writeable = False
        self._encoded[key], self._labels[key] = data, labels

    def take_over(self, other: "Pixels") -> None:
        """Take in all that another plan's pixels hold."""
        self.sketches |= other.sketches
        self.drawings |= other.drawings
        self._labels |= other._labels
        self._encoded |= other._encoded

    def labels(self, sketch: Sketch) -> Labels:
        """Which region each px of a sketch belongs to, (h, w), at the sketch's own size."""
        return self._labels[sketch.labels]

    def picture(self, sketch: Sketch, subject: str = "", tick: Tick = idle) -> Packed:
        """A sketch's picture, (h, w) 0x00RRGGBB or CLEAR. Raises Refusal if its regions do not fit
        it, which its head tells before it is decoded."""
        said = subject or sketch.file_name
        data = self.sketches[sketch.hash]
        line = words("is damaged: its regions do not fit its sketch; open a copy")
        if picture.size_of(data, said) != sketch.size:
            raise Refusal(said, line)
        found = picture.decode(data, said, tick).packed
        if found.shape != self.labels(sketch).shape:
            raise Refusal(said, line)
        return found

    def drawing(
        self, sketch: Sketch, subject: str = "", kept: Kept | None = None, tick: Tick = idle
    ) -> Drawing:
        """A sketch's drawing at working size: known, kept from an earlier opening, or made."""
        if sketch.labels not in self.drawings:
            found = kept.drawing(sketch, MOST_WORKING) if kept is not None else None
            if found is None:
                drawn = as_drawn(self.picture(sketch, subject, tick), sketch)
                found = at_working_size(drawn, self.labels(sketch), sketch.shaded)
                if kept is not None:
                    kept.keep_drawing(sketch, MOST_WORKING, found)
            self.drawings[sketch.labels] = found
        return self.drawings[sketch.labels]

    @staticmethod
    def keys_of(plan: Plan) -> Iterator[str]:
        """The hashes of all pixels and pictures that a plan names."""
        for sketch in _sketches(plan):
            yield from (sketch.hash, sketch.labels)
        yield from (r.hash for r in plan.references)

    def named_by(self, keys: Iterable[str]) -> Iterator[tuple[str, bytes]]:
        """What is here of these hashes: sketches and references as they came, labels as PNG."""
        for key in keys:
            for known in (self.sketches, self._encoded, self.references):
                if key in known:
                    yield key, known[key]
                    break

    def held_with(self, plan: Plan, thumbnail: bytes) -> PlanFile:
        """A plan file of a plan and of those pixels that it names."""
        named = list(_sketches(plan))
        return PlanFile(
            plan,
            {s.hash: self.sketches[s.hash] for s in named},
            {s.labels: self._encoded[s.labels] for s in named},
            {s.labels: self._labels[s.labels] for s in named},
            thumbnail,
            {r.hash: self.references[r.hash] for r in plan.references},
            journal=self.journal,
        )


def _sketches(plan: Plan) -> Iterator[Sketch]:
    yield plan.sketch
    yield from (c.sketch for c in plan.candidates)


def at_working_size(packed: Packed, labels: Labels, shaded: bool = False) -> Drawing:
    """The drawing of a sketch, (h, w) 0x00RRGGBB, no larger than the window works on, with its own
    light and dark where it is `shaded`."""
    return draw(shown_at_working_size(packed), labels_at_working_size(labels), shaded)


def as_drawn(packed: Packed, sketch: Sketch) -> Packed:
    """A sketch's picture as its drawing is made of it: line art without its paper."""
    if sketch.kind != "lines" or sketch.shaded:
        return packed
    from umber_compass.steps.sketch.lines.paper import cleaned

    return cleaned(packed)


def _working(shape: tuple[int, ...]) -> tuple[int, int] | None:
    """Width and height, px, that a larger sketch is worked on at; None for one no larger."""
    height, width = shape
    longer = max(height, width)
    if longer <= MOST_WORKING:
        return None
    return max(1, width * MOST_WORKING // longer), max(1, height * MOST_WORKING // longer)


def shown_at_working_size(packed: Packed) -> Packed:
    """A sketch's picture, (h, w) 0x00RRGGBB, no larger than the window works on."""
    size = _working(packed.shape)
    if size is None:
        return packed
    # As it lies in memory, blue first: a large picture is not copied to be turned round.
    whole = packed.shape[1], packed.shape[0]
    image = Image.frombuffer("RGBX", whole, packed, "raw", "RGBX", 0, 1)
    small = image.resize(size, Image.Resampling.BOX)
    shown = np.frombuffer(small.tobytes(), "<u4").reshape(size[1], size[0])
    return np.asarray(shown & np.uint32(0xFFFFFF))


def labels_at_working_size(labels: Labels) -> Labels:
    """A sketch's labels, (h, w), at the same size."""
    size = _working(labels.shape)
    if size is None:
        return labels
    height, width = labels.shape
    rows = ((np.arange(size[1]) + 0.5) * height / size[1]).astype(int)
    columns = ((np.arange(size[0]) + 0.5) * width / size[0]).astype(int)
    return np.ascontiguousarray(labels[rows[:, None], columns])
