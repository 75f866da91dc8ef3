"""Forms held to exact solutions."""

import unittest

import numpy as np
from msgspec.structs import replace

from tests import scenes
from umber_compass.picture import forms, poisson, solids
from umber_compass.picture.pieces import pieces_of


def exact_swelling(state):
    """The same equation solved directly."""
    import scipy.sparse as sparse
    import scipy.sparse.linalg as solver

    inside = state == poisson.INSIDE
    number = np.where(inside, np.cumsum(inside.reshape(-1)).reshape(state.shape) - 1, -1)
    ys, xs = np.nonzero(inside)
    weight, rows, columns = np.zeros(len(ys)), [], []
    for dy, dx in ((0, 1), (1, 0), (0, -1), (-1, 0)):
        near, other = state[ys + dy, xs + dx], number[ys + dy, xs + dx]
        weight += (near == poisson.INSIDE) + 2 * (near == poisson.BEHIND)
        rows += np.flatnonzero(other >= 0).tolist()
        columns += other[other >= 0].tolist()
    ones = sparse.coo_matrix((np.ones(len(rows)), (rows, columns)), (len(ys), len(ys)))
    out = np.zeros(state.shape)
    out[inside] = solver.spsolve((sparse.diags(weight) - ones).tocsc(), np.full(len(ys), 4.0))
    return out


def shapes():
    y, x = np.mgrid[:220, :240]
    disc = ((x - 120) ** 2 + (y - 110) ** 2 < 100**2).astype(np.uint8)
    ring = disc * ((x - 120) ** 2 + (y - 110) ** 2 > 45**2)
    cross = ((np.abs(x - 90) < 40) | (np.abs(y - 120) < 22)).astype(np.uint8)
    cross[:4] = cross[-4:] = 0
    cross[:, :4] = cross[:, -4:] = 0
    covered = disc.copy()
    covered[90:150, 130:] = np.where(disc[90:150, 130:] > 0, poisson.FRONT, 0)
    bars = {f"bar of {w} px": np.pad(np.ones((w, 150), np.uint8), 1) for w in (6, 18, 38)}
    return {**bars, "disc": disc, "ring": ring.astype(np.uint8), "cross": cross, "covered": covered}


def doubled(labels):
    return np.kron(labels, np.ones((2, 2), labels.dtype))


class Forms(unittest.TestCase):
    def test_normals_lie_near_those_of_an_exact_solution(self):
        for name, state in shapes().items():
            with self.subTest(name):
                found = [
                    np.stack(solids._round(s.astype(np.float32), state)).astype(float)
                    for s in (poisson.swelling(state), exact_swelling(state))
                ]
                z = [np.sqrt(np.maximum(1 - (n**2).sum(axis=0), 0)) for n in found]
                cosine = (found[0] * found[1]).sum(axis=0) + z[0] * z[1]
                inside = (state == poisson.INSIDE)[1:-1, 1:-1]
                off = np.degrees(np.arccos(np.clip(cosine[inside], -1, 1)))
                self.assertLess(off.mean(), 1.5)
                self.assertLess(np.percentile(off, 99), 5)

    def test_a_disc_is_half_a_ball(self):
        labels = shapes()["disc"].astype(np.uint16) + 1
        built = self.build(labels, ("ground", "figure"))
        y, x = np.mgrid[:220, :240]
        inside = (x - 120) ** 2 + (y - 110) ** 2 < 92**2
        self.assertLess(np.abs(built.nx - (x - 120) / 100)[inside].mean(), 0.02)
        self.assertLess(np.abs(built.ny - (y - 110) / 100)[inside].mean(), 0.02)
        step = np.degrees(
            np.hypot(*(np.diff(n.astype(float), axis=1)[:, :][:, :] for n in (built.nx, built.ny)))
        )
        self.assertLess(np.percentile(step[inside[:, 1:]], 99.9), 6)

    def build(self, labels, roles, **more):
        regions = [
            scenes.region(i + 1, role, **more.get(f"r{i + 1}", {})) for i, role in enumerate(roles)
        ]
        wishes = forms.form_wishes(regions)
        return forms.build(labels, wishes, pieces_of(labels, forms.lines_of(wishes)))

    def test_what_stands_in_front_neither_dents_nor_is_dented(self):
        labels = np.ones((120, 160), np.uint16)
        labels[20:100, 20:140] = 2
        labels = doubled(labels)  # a sprite has no crevices
        alone = self.build(labels, ("ground", "figure"))
        labels[88:152, 130:190] = 3  # more than a mark
        before = self.build(labels, ("ground", "figure", "focus"))
        behind = labels == 2
        far = np.abs(alone.nx.astype(float) - before.nx)[behind]
        self.assertLess(far.max(), 0.35)  # it gives way a little, and never turns over
        self.assertLess(np.abs(before.nx[120, 194].astype(float)), 0.25)
        self.assertLess(before.occlusion[120, 191], 120)
        self.assertEqual(before.occlusion[50, 50], 255)

    def test_frame_shared_surface_slope_and_told_order(self):
        labels = np.ones((90, 120), np.uint16)
        labels[:, 60:] = 2
        self.assertEqual(
            float(np.abs(self.build(np.full_like(labels, 1), ("figure",)).nx).max()), 0
        )
        labels[8:82, 8:112] += 2
        one = self.build(
            labels, ("ground", "ground", "figure", "figure"), r4={"shares_form_with": "r3"}
        )
        self.assertLess(np.abs(one.nx[45, 55:65]).max(), 0.2)
        two = self.build(labels, ("ground", "ground", "figure", "figure"))
        self.assertGreater(np.abs(two.nx[45, 55:65]).max(), 0.6)
        sloped = self.build(labels, ("ground", "middle ground"), r1={"form": "slope"})
        self.assertAlmostEqual(float(sloped.ny[3, 20]), forms.SLOPE_NORMAL[1], places=3)

    def test_the_order_is_by_role_then_area_then_what_was_told(self):
        area = np.array([0, 40, 60, 10, 5])
        regions = [scenes.region(i, "figure") for i in (1, 2, 3)]
        regions.append(scenes.region(4, "ground"))
        order = forms.front_order(forms.form_wishes(regions), area)
        self.assertEqual(order, {4: 1, 2: 2, 1: 3, 3: 4})
        regions[2] = replace(regions[2], front=0)
        self.assertEqual(forms.front_order(forms.form_wishes(regions), area)[3], 1)

    def test_flat_things_lie_like_paint_and_what_stands_out_darkens(self):
        """A patch on a figure: flat it takes nothing from what lies behind, round it does."""
        labels = np.ones((120, 160), np.uint16)
        labels[20:100, 20:140] = 2
        labels[40:80, 60:100] = 3
        labels = doubled(labels)
        roles = ("ground", "figure", "focus")
        paint = self.build(labels, roles, r3={"form": "flat"})
        stands = self.build(labels, roles)
        self.assertEqual(int(paint.occlusion[labels == 2].min()), 255)
        self.assertLess(int(stands.occlusion[120, 201]), 120)
        self.assertEqual(int(stands.occlusion[labels == 3].min()), 255)

    def test_no_figure_darkens_the_ground_it_stands_before(self):
        """The halo is gone: grounds are darkened by shadows alone, parts of a thing by what lies
        before them, what stands behind by its own like."""
        labels = np.ones((120, 160), np.uint16)
        labels[40:80, 50:110] = 2
        for role, told, dark in (
            ("ground", {}, False),
            ("middle ground", {"form": "round"}, False),
            ("ground", {"form": "slope"}, False),
            ("figure", {}, True),
        ):
            with self.subTest(role=role, told=told):
                built = self.build(labels, (role, "focus"), r1=told)
                self.assertEqual(int(built.occlusion[labels == 1].min()) < 120, dark)
        small = self.build(labels[::2, ::2], ("figure", "focus"))
        self.assertEqual(int(small.occlusion.min()), 255)  # a sprite has no crevices

    def test_lines_neither_dent_nor_cover_and_a_form_goes_on_beneath_them(self):
        labels = np.ones((120, 160), np.uint16)
        labels[20:100, 20:140] = 2
        plain = self.build(labels, ("ground", "figure"))
        inked = labels.copy()
        inked[58:62, 20:140] = 3  # across the figure
        inked[16:20, 16:144] = inked[100:104, 16:144] = 3  # round it
        inked[16:104, 16:20] = inked[16:104, 140:144] = 3
        lined = self.build(inked, ("ground", "figure", "line"))
        inside = labels == 2
        off = np.hypot(plain.nx - lined.nx.astype(float), plain.ny - lined.ny.astype(float))
        self.assertLess(off[30:90, 30:130].max(), 0.25)
        self.assertLess(off[inside].mean(), 0.06)
        self.assertEqual(int(lined.kind[3]), forms.FLAT)

    def test_what_is_enclosed_lies_in_front_whatever_its_role(self):
        """A face that is the focus, and the eyes in it that are not."""
        labels = np.ones((120, 160), np.uint16)
        labels[20:100, 20:140] = 2
        labels[50:60, 50:60] = labels[50:60, 90:100] = 3
        regions = [
            scenes.region(1, "ground"),
            scenes.region(2, "focus"),
            scenes.region(3, "figure"),
        ]
        wishes, area = forms.form_wishes(regions), np.bincount(labels.reshape(-1))
        inside = forms.enclosed(pieces_of(labels, frozenset()))
        self.assertEqual(inside, {2: 1, 3: 2})
        self.assertEqual(forms.front_order(wishes, area)[3], 2)
        self.assertEqual(forms.front_order(wishes, area, inside)[3], 3)
        told = forms.form_wishes([*regions[:2], replace(regions[2], front=0)])
        self.assertEqual(forms.front_order(told, area, inside)[3], 1)  # the artist's word last

    def test_every_form_turns_as_it_is_told(self):
        """Of a bar: a cylinder turns across it alone, a slab at its edge alone, a membrane hardly,
        a rock in flat faces."""
        labels = np.ones((240, 200), np.uint16)
        labels[20:220, 70:130] = 2
        nx, ny = {}, {}
        for form in ("round", "cylinder", "slab", "membrane", "faceted"):
            made = self.build(labels, ("ground", "figure"), r2={"form": form})
            inside = np.s_[30:210, 72:128]
            nx[form], ny[form] = (n[inside].astype(float) for n in (made.nx, made.ny))
        across = (np.arange(72, 128) + 0.5 - 100) / 30
        np.testing.assert_allclose(nx["cylinder"][90], across, atol=0.06)
        self.assertLess(np.abs(ny["cylinder"]).max(), 0.02)
        self.assertEqual(float(np.abs(nx["slab"][:, 20:36]).max()), 0)
        self.assertGreater(np.abs(nx["slab"][90, 0]), 0.3)
        self.assertLess(np.abs(nx["membrane"]).max(), 0.5 * np.abs(nx["round"]).max())
        faces = len(np.unique(np.round(nx["faceted"], 3)))
        self.assertTrue(4 <= faces <= 60, faces)

    def test_big_volumes_draw_small_forms_together(self):
        y, x = np.mgrid[:240, :320]
        ripple = 80 + 14 * np.sin(np.arctan2(y - 120, x - 160) * 14)
        labels = (np.hypot(x - 160, y - 120) < ripple).astype(np.uint16) + 1
        wishes = forms.form_wishes([scenes.region(1, "ground"), scenes.region(2, "figure")])
        pieces = pieces_of(labels, frozenset())
        inside, off = np.hypot(x - 160, y - 120) < 60, {}
        for volume in ("medium", "big"):
            made = forms.build(labels, wishes, pieces, volume)
            turn = made.nx.astype(float) * (y - 120) - made.ny.astype(float) * (x - 160)
            off[volume] = np.abs(turn)[inside].mean()  # how far they turn aside from the middle
        self.assertLess(off["big"], 0.8 * off["medium"])

    def test_a_border_darkens_as_far_as_the_reach_and_evenly(self):
        labels = np.ones((60, 640), np.uint16)
        labels[:, 320:] = 2
        near = self.build(labels, ("figure", "focus"))
        reach = forms.OPEN_REACH * 640
        middle = near.occlusion[30, :320].astype(float) / 255
        self.assertTrue((middle[: 320 - int(reach) - 2] == 1).all())
        half = middle[320 - int(reach / 2)]
        self.assertAlmostEqual(half, 0.5, delta=0.12)

    def test_who_shares_a_form_and_a_ring_of_them(self):
        area = np.array([0, 40, 60, 10])
        ring = [scenes.region(i, "figure", shares_form_with=f"r{i % 3 + 1}") for i in (1, 2, 3)]
        found = forms.surfaces(forms.form_wishes(ring), area)
        self.assertEqual([sorted(s.labels) for s in found], [[1, 2, 3]])
        chain = [
            scenes.region(1, "ground", form="slope"),
            scenes.region(2, "figure", shares_form_with="r1"),
            scenes.region(3, "figure", shares_form_with="r2"),
        ]
        found = forms.surfaces(forms.form_wishes(chain), area)
        self.assertEqual([(sorted(s.labels), s.kind) for s in found], [([1, 2, 3], forms.SLOPE)])
        gone = [scenes.region(1, "figure", shares_form_with="r9")]
        self.assertEqual(forms.surfaces(forms.form_wishes(gone), area)[0].labels, (1,))

    def test_a_name_or_a_material_changes_no_form(self):
        one = scenes.region(1, "figure")
        same = forms.form_wishes([replace(one, name="other", material="wet")])
        self.assertEqual(forms.form_wishes([one]), same)
        for change in (
            {"role": "focus"},
            {"form": "flat"},
            {"front": 2},
            {"shares_form_with": "r2"},
        ):
            self.assertNotEqual(forms.form_wishes([replace(one, **change)]), same)

    def test_strange_sketches(self):
        many = np.arange(400).reshape(20, 20).repeat(6, 0).repeat(6, 1).astype(np.uint16) + 1
        one_px = np.ones((30, 40), np.uint16)
        one_px[10, 10] = 2
        for labels, count in (
            (many, 400),
            (one_px, 2),
            (np.ones((12, 40), np.uint16), 1),
            (np.ones((1, 1), np.uint16), 1),
        ):
            built = self.build(labels, ["figure"] * count)
            self.assertTrue(np.isfinite(built.nx).all())
