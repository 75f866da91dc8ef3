"""A picture as it is read, in which region means may be changed and looked at again."""

import numpy as np

from umber_compass.colour.spaces import Floats, hue_distance, polar
from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.steps.focus.pull import Look, parts_of, pull_of
from umber_compass.steps.harmony.shifts import Shift, mean_lab, value_of
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived


class Scene:
    """The focus, the lattice and the local colours, OKLab by label, of one derived plan."""

    def __init__(
        self, derived: Derived, lattice: Lattice, attention: Attention, first: Derived
    ) -> None:
        self.derived, self.lattice, self.attention = derived, lattice, attention
        self.look, self.focus = attention.pull.look, attention.focus
        self.by_label = {r.label: r.id for r in derived.regions}
        # Not for a start: fixes are looked for when the hand rests.
        from umber_compass.steps.harmony.skin import is_told_skin

        colours = first.colours
        self._skin = {
            r.label: mean_lab(colours[r.id])
            for r in derived.regions
            if is_told_skin(r, colours[r.id])
        }
        most = len(lattice.share)
        self._local = np.zeros((most, 3))
        for region in derived.regions:
            if region.label < most:
                self._local[region.label] = mean_lab(derived.colours[region.id])

    def is_free(self, label: int) -> bool:
        """Whether a label's colour may be changed."""
        return label in self.by_label and is_movable(self.derived, self.by_label[label])

    def is_skin(self, label: int) -> bool:
        """Whether a label is said to be skin."""
        return label in self._skin

    def quiet(self, local: Floats, label: int) -> Floats:
        """What a label gives way to: its neighbours' mean colour, OKLab; skin gives way a little
        only, and keeps its hue, or it looks ill."""
        there = self.neighbour(local, label)
        if not self.is_skin(label):
            return there
        from umber_compass.steps.harmony.skin import eased  # not for a start either

        return eased(self._skin[label], there)

    def neighbour(self, local: Floats, label: int) -> Floats:
        """The mean local colour, OKLab, of what lies round a label; the focus is no part of it,
        because nothing should come nearer to that."""
        near = self.lattice.near[label].copy()
        near[list(self.focus)] = 0.0
        if near.sum() <= 0:
            near = self.lattice.share.copy()
            near[[label, *self.focus]] = 0.0
        if near.sum() <= 0:
            return np.asarray(local[label])
        return np.asarray(near @ local / near.sum())

    def pull_at(self, local: Floats, label: int) -> float:
        """What one label would draw."""
        rows = np.array([label])
        return float(parts_of(self.lattice, self.shown(local), rows).sum())

    def shown(self, local: Floats) -> Look:
        """What the regions would look like with other local colours: light takes a colour as it
        took the one before."""
        changed = np.flatnonzero((local != self._local).any(axis=1))
        before, after = polar(self._local[changed]), polar(local[changed])
        lit = polar(self.look.lab[changed])
        ratio = np.where(before[:, 0] > 1e-3, after[:, 0] / np.maximum(before[:, 0], 1e-3), 1.0)
        taken = np.where(before[:, 0] > 1e-3, lit[:, 0] / np.maximum(before[:, 0], 1e-3), 1.0)
        chroma = np.maximum(lit[:, 1] + (after[:, 1] - before[:, 1]) * np.minimum(taken, 2), 0)
        turn = np.where(after[:, 1] > 1e-3, hue_distance(before[:, 2], after[:, 2]), 0.0)
        angle = np.radians(np.where(lit[:, 1] > 5e-3, lit[:, 2] + turn, after[:, 2]))
        lab, detail = self.look.lab.copy(), self.look.detail.copy()
        lab[changed, 0] = lit[:, 0] * ratio
        lab[changed, 1], lab[changed, 2] = chroma * np.cos(angle), chroma * np.sin(angle)
        detail[changed] *= ratio
        return Look(lab, detail)

    def pull(self, local: Floats) -> Floats:
        """What every label would draw, (labels,)."""
        total = pull_of(self.lattice, self.shown(local)).total
        keep = list(self.focus)
        found = np.where(self.lattice.is_line, 0.0, total)
        found[keep] = total[keep]
        return np.asarray(found)

    @property
    def local(self) -> Floats:
        """Every label's own colour, OKLab, (labels, 3); a copy."""
        return self._local.copy()

    def shifts(self, local: Floats) -> dict[str, Shift]:
        """What must be done to the plan for other local colours."""
        found = {}
        for label in np.flatnonzero((np.abs(local - self._local) > 1e-6).any(axis=1)).tolist():
            region = self.by_label[label]
            most = max(e.chroma for e in self.derived.colours[region].ends)
            found[region] = _shift(self._local[label], local[label])._replace(shown=most)
        return found


def _shift(before: Floats, after: Floats) -> Shift:
    one, two = polar(before), polar(after)
    lights = [value_of(lab) for lab in (before, after)]
    turn = float(hue_distance(one[2], two[2])) if min(one[1], two[1]) > 2e-3 else 0.0
    return Shift(lights[1] - lights[0], float(two[1] - one[1]), turn)


def scene_of(derived: Derived, first: Derived | None = None) -> Scene | None:
    """The scene of a plan whose attention is known; None until it is. `first` is the plan that
    several changes began from, where this is not the first of them."""
    if derived.lattice is None or derived.attention is None:
        return None
    return Scene(derived, derived.lattice, derived.attention, first or derived)
