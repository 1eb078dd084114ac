import unittest
from itertools import product

import numpy as np
from scipy.spatial.transform import Rotation

from tests.core.making import edited, layer, shot_with
from zittern.core.checks.table import check, named
from zittern.core.errors import DocumentError, EditError, TooDear
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.plates.border import SIDES
from zittern.core.plates.coverage import counting, depths_m, in_order, uncovered_px
from zittern.core.plates.needs import needs
from zittern.core.plates.surface import along_m, covers
from zittern.core.runtime.budget import Budget, on_budget
from zittern.core.shot.glass import Glass
from zittern.core.shot.mounts import Mount
from zittern.core.shot.plates import MASK_CELLS, Plate, packed_mask
from zittern.core.shot.shot import Shot
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.timebase import frame_grid

DIGEST = "0" * 64
EYE = (Mount(id="camera", name="Camera", x_m=2.0, y_m=1.5, pan_deg=40.0, tilt_deg=-15.0),)
F_PX = 35.0 / 36.0 * 1920
AWAY_M = 8.0


def hung(*layers: object, distance_m: float = AWAY_M, overscan_percent: float = 0.0, **fields: object) -> Shot:
    """A shot before one plate that fills the frame."""
    shot = shot_with(*layers, **{"mounts": EYE, "last_frame": 48, **fields})  # type: ignore[arg-type]
    picture = {"name": "Shore", "picture": DIGEST, "width_px": 1920, "height_px": 1080}
    return edited(
        shot,
        {"type": "hang_plates", "plates": [picture], "distance_m": distance_m, "overscan_percent": overscan_percent},
    )


def offset(**tracks: float) -> object:
    return layer(
        "keys", source=HandKeys(tracks=Tracks(**{each: fixed(value) for each, value in tracks.items()})), swings={}
    )


def bare_px(shot: Shot, frame: float = 5.0) -> dict[str, float]:
    return dict(zip(SIDES, uncovered_px(shot, evaluate(shot, np.array([frame])))[0].tolist(), strict=True))


class Hanging(unittest.TestCase):
    def test_it_fills_the_frame_exactly_and_with_overscan_is_so_much_larger(self) -> None:
        for size, expected in (
            ((1920, 1080), AWAY_M * 36 / 35),
            ((1000, 1000), AWAY_M * 36 / 35),
            ((4000, 500), 8 * AWAY_M * 36 / 35 * 9 / 16),
        ):
            shot = shot_with(mounts=EYE)
            picture = {"name": "A", "picture": DIGEST, "width_px": size[0], "height_px": size[1]}
            for more in (0.0, 25.0):
                plates = edited(
                    shot, {"type": "hang_plates", "plates": [picture], "distance_m": AWAY_M, "overscan_percent": more}
                ).plates
                self.assertAlmostEqual(plates[0].width_m, expected * (1 + more / 100), places=9, msg=f"{size} {more}")
        self.assertEqual(max(bare_px(hung(overscan_percent=0.001)).values()), 0.0)

    def test_several_hang_behind_one_another_in_order_of_depth(self) -> None:
        picture = {"name": "A", "picture": DIGEST, "width_px": 100, "height_px": 100}
        shot = edited(shot_with(mounts=EYE), {"type": "hang_plates", "plates": [picture] * 3, "distance_m": 2.0})
        np.testing.assert_allclose(sorted(depths_m(shot).values()), [2.0, 3.2, 5.12])
        shot = edited(shot, {"type": "set_plate_distance", "plate": shot.plates[0].id, "distance_m": 9.0})
        self.assertEqual([plate.name for plate in in_order(shot)], ["A 2", "A 3", "A"])
        self.assertEqual([plate.name for plate in counting(shot)], ["A"])

    def test_another_distance_keeps_its_size_in_the_picture(self) -> None:
        shot = hung()
        for away in (1.0, 30.0):
            moved = edited(shot, {"type": "set_plate_distance", "plate": "plate-1", "distance_m": away})
            scope = moved.scope(1.0)
            corners = np.array([[x, y, 0.0] for x in (-0.5, 0.5) for y in (-0.5, 0.5)])
            for each, expected in ((moved, None), (shot, None)):
                plate = each.plates[0]
                turn = Rotation.from_euler("YXZ", plate.angles_deg(scope)[0], degrees=True)
                world = turn.apply(corners * [plate.width_m, plate.height_m, 0.0]) + plate.position_m(scope)[0]
                eye = Rotation.from_euler("YXZ", [40.0, -15.0, 0.0], degrees=True)
                seen = eye.inv().apply(world - [2.0, 1.5, 0.0])
                px = seen[:, :2] / -seen[:, 2:] * F_PX
                np.testing.assert_allclose(np.abs(px), [[960.0, 540.0]] * 4, atol=1e-6, err_msg=str(expected))


class Closed(unittest.TestCase):
    """Gaps in closed form, to a tenth of a pixel."""

    def test_each_axis_alone(self) -> None:
        for tracks, side, expected in (
            ({"truck": 10.0}, "right", F_PX * 0.10 / AWAY_M),
            ({"truck": -10.0}, "left", F_PX * 0.10 / AWAY_M),
            ({"pedestal": 6.0}, "top", F_PX * 0.06 / AWAY_M),
            ({"shift_x": 2.0}, "left", 38.4),
            ({"shift_y": 2.0}, "bottom", 21.6),
            ({"zoom": -10.0}, "left", 960.0 - 960.0 * 0.9),
            ({"dolly": -40.0}, "right", 960.0 * (1 - AWAY_M / (AWAY_M + 0.4))),
        ):
            with self.subTest(str(tracks)):
                gaps = bare_px(hung(offset(**tracks)))
                self.assertAlmostEqual(gaps[side], expected, delta=0.1)
        half, turned = np.arctan(960 / F_PX), np.radians(1.0)
        self.assertAlmostEqual(bare_px(hung(offset(pan=1.0)))["left"], 960 - F_PX * np.tan(half - turned), delta=0.1)
        self.assertEqual(max(bare_px(hung(offset(dolly=40.0))).values()), 0.0)

    def test_a_plate_overhangs_by_its_edges_and_not_where_it_is_clear(self) -> None:
        shot = hung(offset(truck=10.0))
        for edges, gap in (("bare", F_PX * 0.1 / AWAY_M), ("mirrored", 0.0), ("stretched", 0.0)):
            each = shot.replace(plates=(shot.plates[0].replace(edges=edges, edge_percent=3.0),))
            self.assertAlmostEqual(bare_px(each)["right"], gap, delta=0.1, msg=edges)
        clear = np.ones((MASK_CELLS, MASK_CELLS), dtype=bool)
        clear[:, :16] = False
        holed = hung(overscan_percent=0.01)
        holed = holed.replace(plates=(holed.plates[0].replace(opaque=packed_mask(clear)),))
        self.assertAlmostEqual(bare_px(holed)["left"], 480.0, delta=1.0)

    def test_a_mask_is_read_up_to_its_last_row_and_column(self) -> None:
        plate = hung().plates[0]
        out = np.array([plate.width_m, -plate.height_m]) / 2.0
        for row, column in ((MASK_CELLS - 1, MASK_CELLS - 1), (MASK_CELLS - 2, MASK_CELLS - 1), (MASK_CELLS - 1, 5)):
            one = np.zeros((MASK_CELLS, MASK_CELLS), dtype=bool)
            one[row, column] = True
            masked = plate.replace(opaque=packed_mask(one))
            corner = row == column == MASK_CELLS - 1
            self.assertEqual(covers(masked, np.stack([out, out * 0.999, -out])).tolist(), [corner, corner, False])

    def test_a_barrel_sees_past_the_edges_and_a_cushion_does_not(self) -> None:
        for k1, k2 in ((-0.1, 0.0), (-0.15, 0.08)):
            gaps = bare_px(hung(glass=Glass(k1=fixed(k1), k2=fixed(k2))))
            # The plate ends at half the picture of a pinhole; on the axes the lens shows that so much nearer in, and
            # off them its straight edge is bent the most in the middle.
            for sides, half in ((("left", "right"), 960.0), (("top", "bottom"), 540.0)):
                far = half / F_PX
                corner = np.hypot(960.0, 540.0) / F_PX
                middle, out = (half * (1 - (1 + k1 * r2 + k2 * r2**2)) for r2 in (far**2, corner**2))
                for side in sides:
                    self.assertGreater(gaps[side], middle - 0.1)
                    self.assertLess(gaps[side], out + 0.5)
        self.assertEqual(max(bare_px(hung(glass=Glass(k1=fixed(0.1)))).values()), 0.0)

    def test_what_fixes_a_bent_picture_just_suffices(self) -> None:
        shot = hung(offset(pan=1.0), glass=Glass(k1=fixed(-0.12)))
        found = {need.kind: need for need in needs(shot, evaluate(shot))}
        self.assertIn("overscan", found)
        for need in (found["overscan"], found["punch-in"]):
            mended = need.command.apply(shot)
            self.assertEqual(max(bare_px(mended).values()), 0.0, need.kind)
        size = found["overscan"].command
        less = size.replace(times=1.0 + 0.99 * (size.times - 1.0)).apply(shot)  # type: ignore[union-attr]
        self.assertGreater(max(bare_px(less).values()), 0.05)

    def test_curved_ones_are_met_where_the_curve_is(self) -> None:
        rng = np.random.default_rng(3)
        for shape in ("cylinder", "sphere"):
            plate = Plate(
                id="p",
                name="P",
                picture=DIGEST,
                width_px=200,
                height_px=100,
                width_m=6.0,
                shape=shape,
                bend_deg=80.0,
                x_m=1.0,
                y_m=2.0,
                z_m=-5.0,
                pan_deg=20.0,
                tilt_deg=5.0,
            )
            radius = 6.0 / np.radians(80.0)
            u, v = rng.uniform(-2.5, 2.5, 40), rng.uniform(-1.2, 1.2, 40)
            lon = u / radius
            if shape == "cylinder":
                local = np.stack([radius * np.sin(lon), v, radius * (1 - np.cos(lon))], axis=1)
            else:
                lat = v / radius
                local = np.stack(
                    [
                        radius * np.cos(lat) * np.sin(lon),
                        radius * np.sin(lat),
                        radius * (1 - np.cos(lat) * np.cos(lon)),
                    ],
                    axis=1,
                )
            world = Rotation.from_euler("YXZ", [20.0, 5.0, 0.0], degrees=True).apply(local) + np.array([1.0, 2.0, -5.0])
            eye = np.array([0.5, 1.5, -1.0])
            met = along_m(plate, shot_with().scope(1.0), eye[None], (world - eye)[None])[0]
            np.testing.assert_allclose(met, np.stack([u, v], axis=1), atol=1e-9, err_msg=shape)

    def test_the_closed_form_is_what_is_found_by_looking(self) -> None:
        """A hole in the middle makes no edge, but has the picture looked through."""
        holed = np.ones((MASK_CELLS, MASK_CELLS), dtype=bool)
        holed[31, 31] = False
        swings = {"pan": 6.0, "tilt": 4.0, "roll": 8.0, "truck": 60.0, "dolly": 80.0, "zoom": 20.0, "shift_x": 6.0}
        for seed, glass in product(range(4), (None, Glass(k1=fixed(-0.12), k2=fixed(0.02)))):
            shot = hung(layer(seed=seed, swings=swings), overscan_percent=10.0 * seed, glass=glass)
            plate = shot.plates[0].replace(tilt_deg=fixed(-15.0 + 4.0 * seed), roll_deg=fixed(3.0 * seed))
            motion = evaluate(shot, np.arange(1.0, 49.0, 4.0))
            closed = uncovered_px(shot.replace(plates=(plate,)), motion)
            looked = uncovered_px(shot.replace(plates=(plate.replace(opaque=packed_mask(holed)),)), motion)
            self.assertGreater(closed.max(), 20.0)
            np.testing.assert_allclose(closed, looked, atol=0.2, err_msg=f"{seed} {glass}")

    def test_behind_the_lens_it_covers_nothing(self) -> None:
        shot = hung()
        away = shot.plates[0].replace(z_m=fixed(500.0), x_m=fixed(0.0))
        self.assertGreater(max(bare_px(shot.replace(plates=(away,))).values()), 500.0)
        with self.assertRaisesRegex(EditError, "hangs behind the lens"):
            edited(shot.replace(plates=(away,)), {"type": "set_plate_distance", "plate": "plate-1", "distance_m": 3.0})

    def test_a_part_is_as_the_whole_and_what_costs_too_much_is_refused_by_name(self) -> None:
        shot = hung(layer(seed=4, swings={"pan": 0.6, "truck": 20.0}), last_frame=1200)
        whole = uncovered_px(shot, evaluate(shot))
        part = uncovered_px(shot, evaluate(shot, np.arange(700.0, 720.0)))
        np.testing.assert_allclose(part, whole[699:719], atol=1e-6)
        many = tuple(
            shot.plates[0].replace(id=f"p-{n}", name=f"P {n}", shape="sphere", counts="yes") for n in range(40)
        )
        with on_budget(Budget(0.05, 2**40)), self.assertRaisesRegex(TooDear, "the number of plates that must fill"):
            uncovered_px(shot.replace(plates=many), evaluate(shot))

    def test_bad_masks(self) -> None:
        for text in ("x", "AAAA", "é"):
            with self.assertRaises(DocumentError):
                hung().plates[0].replace(opaque=text)


class Mended(unittest.TestCase):
    def shaken(self) -> Shot:
        return hung(layer(seed=4, swings={"pan": 0.6, "tilt": 0.4, "roll": 0.3, "truck": 3.0}), overscan_percent=1.0,
                    mounts=(EYE[0].replace(x_m=keyed((1, 2.0), (48, 2.1))),))  # fmt: skip

    def test_each_need_alone_suffices_and_a_little_less_does_not(self) -> None:
        shot = self.shaken()
        frames = np.linspace(1.0, 48.0, 47 * 4 + 1)
        found = {need.kind: need for need in needs(shot, evaluate(shot, frames))}
        self.assertLessEqual({"overscan", "punch-in"}, set(found))

        def worst(after: Shot) -> float:
            return float(uncovered_px(after, evaluate(after, frames)).max())

        self.assertGreater(worst(shot), 5.0)
        for kind, need in found.items():
            self.assertEqual(worst(need.command.apply(shot)), 0.0, kind)
        size = found["overscan"].command
        less = size.replace(times=1.0 + 0.99 * (size.times - 1.0))  # type: ignore[union-attr]
        self.assertGreater(worst(less.apply(shot)), 0.05)
        lens = found["punch-in"].command
        self.assertGreater(worst(lens.replace(times=1.0 + 0.99 * (lens.times - 1.0)).apply(shot)), 0.05)  # type: ignore[union-attr]

    def test_a_plate_that_is_large_enough_is_shifted_or_the_move_is(self) -> None:
        shot = edited(hung(overscan_percent=12.0), {"type": "move_plate", "plate": "plate-1", "across_m": 0.8})
        gap = bare_px(shot)["left"]
        self.assertAlmostEqual(gap, F_PX * (0.8 - 0.06 * AWAY_M * 36 / 35) / AWAY_M, delta=0.1)
        motion = evaluate(shot, frame_grid(1, 48))
        found = {need.kind: need for need in needs(shot, motion)}
        for kind in ("plate", "move"):
            self.assertAlmostEqual(found[kind].amount, gap / F_PX * AWAY_M, delta=0.002, msg=kind)
            after = found[kind].command.apply(shot)
            self.assertEqual(uncovered_px(after, evaluate(after)).max(), 0.0, kind)

    def test_the_check_finds_it_and_its_fix_takes_it_away(self) -> None:
        shot = self.shaken()
        (found,) = check(shot, named(["coverage"])).findings
        self.assertTrue(found.weight)
        self.assertRegex(
            found.says, r"the edge of “Shore” shows, up to [\d.]+ px in from the (left|right|top|bottom) side"
        )
        assert found.fix is not None
        self.assertEqual(check(found.fix.command.apply(shot), named(["coverage"])).findings, ())
        self.assertEqual(check(shot_with(), named(["coverage"])).findings, ())
