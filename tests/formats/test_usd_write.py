"""Exports as OpenUSD, read by its own library."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
from pxr import Gf, Usd, UsdGeom, UsdValidation
from scipy.spatial.transform import Rotation

from tests.core.making import edited, layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.glass import Glass
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.timebase import Fps
from zittern.formats.delivery import Delivery
from zittern.formats.shot_json import read
from zittern.formats.table import format_named

DEMO = sorted((Path(__file__).parents[2] / "zittern/demo/shots").glob("*.shot.json"))


class WithStages(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        # Prims are gone with their stage.
        self.stages: list[Usd.Stage] = []

    def stage(self, shot: Shot, name: str = "usdc", **settings: object) -> Usd.Stage:
        delivery, file = Delivery(**settings), io.BytesIO()  # type: ignore[arg-type]
        write = format_named(name).write
        assert write is not None
        write(shot, delivery, delivery.parts(shot, 50), file)
        path = self.folder / f"{len(list(self.folder.iterdir()))}.{name}"
        path.write_bytes(file.getvalue())
        self.stages.append(Usd.Stage.Open(str(path)))
        return self.stages[-1]

    def camera(self, stage: Usd.Stage) -> UsdGeom.Camera:
        cameras = [prim for prim in stage.Traverse() if prim.IsA(UsdGeom.Camera)]
        self.assertEqual(len(cameras), 1)
        return UsdGeom.Camera(cameras[0])


class Poses(WithStages):
    def same(self, shot: Shot, **settings: object) -> None:
        delivery = Delivery(**settings)  # type: ignore[arg-type]
        pose = evaluate(shot, delivery.frames(shot)).pose
        camera = self.camera(self.stage(shot, **settings))
        pan, tilt, roll = pose.angles_deg.T
        turns = Rotation.from_euler("YXZ", np.stack([pan, tilt, roll], axis=1), degrees=True)
        found = [
            np.array(UsdGeom.XformCache(float(frame)).GetLocalToWorldTransform(camera.GetPrim())).T
            for frame in delivery.frames(shot)
        ]
        np.testing.assert_allclose([each[:3, 3] for each in found], pose.position_m, atol=1e-6)
        off = turns.inv() * Rotation.from_matrix([each[:3, :3] for each in found])
        self.assertLess(np.degrees(off.magnitude()).max(), 1e-6)
        for frame, focal_mm, focus_m in zip(delivery.frames(shot), pose.focal_mm, pose.focus_m, strict=True):
            self.assertAlmostEqual(camera.GetFocalLengthAttr().Get(float(frame)) * 100.0 / focal_mm, 1.0, delta=1e-6)
            self.assertAlmostEqual(camera.GetFocusDistanceAttr().Get(float(frame)) / focus_m, 1.0, delta=1e-6)

    def test_every_demo_shot_is_equal_at_every_written_sample(self) -> None:
        for path in DEMO:
            with self.subTest(path.name):
                self.same(read(path.read_bytes()))

    def test_quarter_frames_and_one_camera(self) -> None:
        shot = read(next(path for path in DEMO if path.name.startswith("sled-run")).read_bytes())
        self.same(shot, step=0.25)
        self.same(shot, one_camera=True)

    def test_many_turns_other_rates_and_a_zoom(self) -> None:
        spin = Mount(id="crane", name="Crane", pan_deg=keyed((1001, 0.0), (1060, 900.0)), pivot_m=(0.0, 0.0, -1.0))
        head = Mount(id="head", name="Head", y_m=fixed(1.5), tilt_deg=keyed((1001, 0.0), (1060, -130.0)))
        shot = edited(
            shot_with(
                layer("sway", seed=3, target="crane"), mounts=(spin, head), fps=Fps(num=24000, den=1001),
                first_frame=1001, last_frame=1060, focal_mm=keyed((1001, 20.0), (1060, 85.0)),
            ),
            {"type": "add_handheld"},
        )  # fmt: skip
        self.same(shot)
        crane = next(each for each in self.stage(shot).Traverse() if each.GetDisplayName() == "Crane")
        pan = crane.GetAttribute("xformOp:rotateY")
        self.assertAlmostEqual(pan.Get(1060.0), 900.0, places=6)


class Picture(WithStages):
    def test_the_film_back_shifts_as_in_the_viewfinder(self) -> None:
        shifting = layer(swings={"shift_x": 9.0, "shift_y": 14.0})
        shot = shot_with(shifting, mounts=(Mount(id="camera", name="Camera"),), last_frame=9)
        shift = evaluate(shot).pose.shift_percent[6] / 100.0
        self.assertGreater(np.abs(shift).min(), 0.005)
        frustum = self.camera(self.stage(shot)).GetCamera(Usd.TimeCode(7.0)).frustum
        view = frustum.ComputeViewMatrix() * frustum.ComputeProjectionMatrix()
        point = np.array([0.4, 0.3, -3.0])
        seen = view.Transform(Gf.Vec3d(*point))
        f_px = 35.0 / 36.0 * 1920.0
        wanted = (f_px * point[:2] / -point[2] + shift * (1920.0, 1080.0)) / np.array([960.0, 540.0])
        np.testing.assert_allclose([seen[0], seen[1]], wanted, atol=1e-6)

    def test_units_of_the_camera(self) -> None:
        shot = shot_with(glass=Glass(k1=fixed(-0.1), focus_m=fixed(2.5)), last_frame=2)
        camera = self.camera(self.stage(shot, "usda"))
        self.assertAlmostEqual(camera.GetFocalLengthAttr().Get(), 0.35, places=6)
        self.assertAlmostEqual(camera.GetHorizontalApertureAttr().Get(), 0.36, places=6)
        self.assertAlmostEqual(camera.GetVerticalApertureAttr().Get(), 0.2025, places=6)
        self.assertAlmostEqual(camera.GetFocusDistanceAttr().Get(), 2.5, places=6)
        self.assertAlmostEqual(camera.GetPrim().GetAttribute("zittern:k1").Get(), -0.1)
        self.assertEqual((camera.GetShutterOpenAttr().Get(), camera.GetShutterCloseAttr().Get()), (-0.25, 0.25))


class Structure(WithStages):
    def test_the_stage_says_its_units_and_times(self) -> None:
        shot = shot_with(fps=Fps(num=30000, den=1001), first_frame=-5, last_frame=20)
        stage = self.stage(shot, "usda")
        self.assertEqual((UsdGeom.GetStageMetersPerUnit(stage), UsdGeom.GetStageUpAxis(stage)), (1.0, "Y"))
        self.assertEqual((stage.GetStartTimeCode(), stage.GetEndTimeCode()), (-5.0, 20.0))
        self.assertAlmostEqual(stage.GetTimeCodesPerSecond(), 30000 / 1001, places=12)
        self.assertEqual(stage.GetRootLayer().customLayerData["zittern"]["fps"], "30000/1001")

    def test_layers_are_ops_with_readable_names(self) -> None:
        shot = edited(
            shot_with(layer("sway", seed=1, name="Slow sway"), layer("two", seed=2, name="Slow sway"), last_frame=10),
            {"type": "add_handheld"},
        )
        names = [op.GetOpName() for op in self.camera(self.stage(shot)).GetOrderedXformOps()]
        self.assertTrue(any(name.endswith(":Slow_sway") for name in names), names)
        self.assertTrue(any(name.endswith(":Slow_sway_2") for name in names), names)
        self.assertLessEqual(max(sum(each.endswith(":Slow_sway") for each in names) for _ in names), 6)

    def test_no_validator_has_anything_to_say(self) -> None:
        registry = UsdValidation.ValidationRegistry()
        context = UsdValidation.ValidationContext(registry.GetOrLoadAllValidators())
        shots = [read(path.read_bytes()) for path in DEMO] + [new_shot("Still"), new_shot("7 — Düne / “x”")]
        for shot in shots:
            for name in ("usda", "usdz"):
                found = [error.GetMessage() for error in context.Validate(self.stage(shot, name))]
                self.assertEqual(found, [], shot.name)
