"""Camera paths from OpenUSD files that its own library wrote."""

import math
import tempfile
import unittest
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

import numpy as np
from pxr import Gf, Usd, UsdGeom

from tests.core.making import edited, layer, shot_with
from tests.formats.test_usd_write import DEMO
from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.timebase import Fps
from zittern.formats import usd_read
from zittern.formats.files import no_sidecars
from zittern.formats.opening import open_shot
from zittern.formats.shot_json import read
from zittern.formats.table import format_of, reader_of, written


def opened(data: bytes, name: str = "path.usda", camera: str | None = None) -> tuple[Shot, Motion]:
    shot = open_shot(name, data, no_sidecars, camera, None).shot
    return shot, evaluate(shot)


def stage_of(camera: UsdGeom.Camera) -> Usd.Stage:
    return camera.GetPrim().GetStage()


def timed(camera: UsdGeom.Camera, start: float, end: float) -> None:
    stage_of(camera).SetStartTimeCode(start)
    stage_of(camera).SetEndTimeCode(end)


class Back(unittest.TestCase):
    def test_demo_shots_come_back_with_poses_and_lens(self) -> None:
        for path in DEMO[::2]:
            shot = read(path.read_bytes())
            for name in ("usda", "usdc", "usdz"):
                with self.subTest(path.name, format=name):
                    made = evaluate(shot)
                    again, motion = opened(written(name, shot, made), f"x.{name}")
                    np.testing.assert_allclose(motion.pose.position_m, made.pose.position_m, atol=1e-6)
                    np.testing.assert_allclose(motion.pose.focal_mm / made.pose.focal_mm, 1.0, atol=1e-6)
                    turns = np.abs((motion.pose.angles_deg - made.pose.angles_deg + 180.0) % 360.0 - 180.0)
                    self.assertLess(turns.max(), 1e-6)
                    self.assertEqual(again.picture, shot.picture)
                    self.assertAlmostEqual(again.sensor_mm, shot.sensor_mm, places=5)

    def test_the_rig_comes_back_as_mounts_and_rate_and_first_frame_too(self) -> None:
        crane = Mount(id="crane", name="Crane", kind="arm", pan_deg=keyed((1001, 0.0), (1060, 400.0)))
        head = Mount(id="head", name="Düne head", y_m=fixed(1.5))
        shot = edited(
            shot_with(layer("sway", target="crane"), mounts=(crane, head), fps=Fps(num=24000, den=1001),
                      first_frame=1001, last_frame=1060),
            {"type": "add_handheld"},
        )  # fmt: skip
        again, motion = opened(written("usdc", shot, evaluate(shot)), "x.usdc")
        self.assertEqual([mount.name for mount in again.mounts][:2], ["Crane", "Düne head"])
        self.assertEqual([mount.kind for mount in again.mounts][:2], ["arm", "free"])
        self.assertEqual((again.fps, again.first_frame, again.last_frame), (Fps(num=24000, den=1001), 1001, 1060))
        np.testing.assert_allclose(motion.pose.position_m, evaluate(shot).pose.position_m, atol=1e-6)


class Foreign(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def made(self, build: Callable[[Usd.Stage], object], name: str = "path.usda") -> bytes:
        stage = Usd.Stage.CreateNew(str(self.folder / name))
        build(stage)
        stage.GetRootLayer().Save()
        return (self.folder / name).read_bytes()

    def camera(self, stage: Usd.Stage, path: str, x: tuple[tuple[float, float], ...] = ()) -> UsdGeom.Camera:
        camera = UsdGeom.Camera.Define(stage, path)
        move = camera.AddTranslateOp()
        for code, value in x:
            move.Set(Gf.Vec3d(value, 0.0, 0.0), code)
        return camera

    def test_z_up_centimeters_and_scaled_animated_parents(self) -> None:
        def build(stage: Usd.Stage) -> None:
            UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
            UsdGeom.SetStageMetersPerUnit(stage, 0.01)
            stage.SetTimeCodesPerSecond(30.0)
            parent = UsdGeom.Xform.Define(stage, "/World/Dolly")
            turn = parent.AddRotateZOp()
            turn.Set(0.0, -10.0)
            turn.Set(90.0, 20.0)
            parent.AddScaleOp().Set(Gf.Vec3f(2.0, 2.0, 2.0))
            camera = self.camera(stage, "/World/Dolly/View")
            camera.GetOrderedXformOps()[0].Set(Gf.Vec3d(50.0, 0.0, 75.0))
            camera.AddRotateXOp().Set(90.0)
            camera.GetFocalLengthAttr().Set(50.0)
            camera.GetHorizontalApertureAttr().Set(36.0)
            camera.GetVerticalApertureAttr().Set(36.0 / 2.0)

        shot, motion = opened(self.made(build))
        self.assertEqual((shot.fps, shot.first_frame, shot.last_frame), (Fps(num=30), -10, 20))
        turn = np.radians(3.0 * np.arange(31))
        # 1 m from the axis and 1.5 m up; in the world with Y up, a turn about +Z is one about +Y.
        wanted = np.column_stack([np.cos(turn), np.full(31, 1.5), -np.sin(turn)])
        np.testing.assert_allclose(motion.pose.position_m, wanted, atol=1e-6)
        np.testing.assert_allclose(motion.pose.angles_deg[:, 0], np.degrees(turn), atol=1e-5)
        np.testing.assert_allclose(motion.pose.angles_deg[:, 1:], 0.0, atol=1e-5)
        self.assertAlmostEqual(motion.pose.focal_mm[0], 50.0, places=4)
        self.assertEqual((shot.picture.width_px, shot.picture.height_px), (1920, 960))

    def test_several_cameras_and_instances(self) -> None:
        def build(stage: Usd.Stage) -> None:
            self.camera(stage, "/A", ((1.0, 0.0), (11.0, 10.0)))
            stage.CreateClassPrim("/_Rig")
            self.camera(stage, "/_Rig/View", ((1.0, 2.0), (11.0, 4.0)))
            for name, at in (("Left", -100.0), ("Right", 100.0)):
                place = UsdGeom.Xform.Define(stage, f"/{name}")
                place.AddTranslateOp().Set(Gf.Vec3d(0.0, at, 0.0))
                place.GetPrim().GetReferences().AddInternalReference("/_Rig")
                place.GetPrim().SetInstanceable(True)
            flat = self.camera(stage, "/Plan")
            flat.GetProjectionAttr().Set(UsdGeom.Tokens.orthographic)

        data = self.made(build)
        found = reader_of("path.usda", data)(data, no_sidecars)
        self.assertEqual(found.cameras, ("/A", "/Left/View", "/Right/View"))
        _, motion = opened(data, camera="/Right/View")
        meters = 0.01  # the default scene unit
        np.testing.assert_allclose(motion.pose.position_m[[0, 10], 0], np.array([2.0, 4.0]) * meters, atol=1e-7)
        np.testing.assert_allclose(motion.pose.position_m[:, 1], 100.0 * meters, atol=1e-7)
        with self.assertRaisesRegex(FormatError, "there is no camera '/B'"):
            opened(data, camera="/B")

    def test_many_cameras_are_sampled_together(self) -> None:
        def build(stage: Usd.Stage) -> None:
            UsdGeom.SetStageMetersPerUnit(stage, 1.0)
            for n in range(12):
                self.camera(stage, f"/C{n}", ((1.0, float(n)), (25.0, n + 2.4)))

        data = self.made(build)
        with patch.object(usd_read, "ask_reader", wraps=usd_read.ask_reader) as asked:
            found = reader_of("path.usda", data)(data, no_sidecars)
            paths = [found.read(name, Fps(num=24)).samples.position_m[[0, -1], 0] for name in found.cameras]
        np.testing.assert_allclose(paths, np.arange(12.0)[:, None] + [0.0, 2.4], atol=1e-6)
        self.assertEqual(asked.call_count, 2)

    def test_other_files_are_not_read_and_named(self) -> None:
        self.made(lambda stage: self.camera(stage, "/Secret"), "secret.usda")
        for name in (str(self.folder / "secret.usda"), "./secret.usda", "../secret.usda", "https://a.b/secret.usda"):

            def build(stage: Usd.Stage, name: str = name) -> None:
                self.camera(stage, "/Own", ((1.0, 0.0), (5.0, 1.0)))
                stage.DefinePrim("/Set").GetReferences().AddReference(name, "/Secret")
                stage.GetRootLayer().subLayerPaths.append(name)

            data = self.made(build, f"refers-{len(name)}.usda")
            found = reader_of("path.usda", data)(data, no_sidecars)
            self.assertEqual(found.cameras, ("/Own",))
            self.assertIn(f"other files were not read: {name}", found.notices)

    def test_a_still_camera_gets_a_length(self) -> None:
        shot, motion = opened(
            self.made(lambda stage: self.camera(stage, "/A").GetOrderedXformOps()[0].Set(Gf.Vec3d(1, 2, 3)))
        )
        self.assertEqual((shot.frame_count, motion.pose.position_m[0].round(4).tolist()), (240, [0.01, 0.02, 0.03]))

    def test_what_cannot_be_read_is_said(self) -> None:
        def with_camera(change: Callable[[UsdGeom.Camera], object]) -> Callable[[Usd.Stage], object]:
            def build(stage: Usd.Stage) -> None:
                change(self.camera(stage, "/A", ((1.0, 0.0), (5.0, 1.0))))

            return build

        far = Gf.Vec3d(1e30, 0.0, 0.0)
        for words, build in (
            ("no perspective camera", lambda stage: stage.DefinePrim("/A")),
            ("zero scale", with_camera(lambda camera: camera.AddScaleOp().Set(Gf.Vec3f(0, 1, 1)))),
            ("not finite", with_camera(lambda camera: camera.AddRotateXOp().Set(math.nan))),
            ("farther away", with_camera(lambda camera: camera.AddTranslateOp(opSuffix="far").Set(far))),
            ("focal length", with_camera(lambda camera: camera.GetFocalLengthAttr().Set(1e9))),
            ("focal length and aperture", with_camera(lambda camera: camera.GetHorizontalApertureAttr().Set(0.0))),
            ("usable picture", with_camera(lambda camera: camera.GetVerticalApertureAttr().Set(0.0))),
            ("scene unit", with_camera(lambda camera: UsdGeom.SetStageMetersPerUnit(stage_of(camera), 1e9))),
            ("0 time codes per second", with_camera(lambda camera: stage_of(camera).SetTimeCodesPerSecond(0.0))),
            ("nan time codes per second", with_camera(lambda camera: stage_of(camera).SetTimeCodesPerSecond(math.nan))),
            ("time codes are finite", with_camera(lambda camera: timed(camera, math.nan, 5.0))),
            ("time codes are finite", with_camera(lambda camera: timed(camera, 1.0, 1e300))),
            ("time codes are finite", lambda stage: self.camera(stage, "/A", ((-1e30, 0.0), (1.0, 1.0)))),
            ("can be imported", lambda stage: self.camera(stage, "/A", ((1.0, 0.0), (9e6, 1.0)))),
        ):
            name = f"bad-{len(list(self.folder.iterdir()))}.usda"
            with self.subTest(words), self.assertRaisesRegex(FormatError, words):
                opened(self.made(build, name))
        for data in (b"", b"#usda 1.0\n(", b"PXR-USDC" + bytes(100), b"PK\x03\x04" + bytes(40), b"\xff" * 50):
            with self.subTest(data), self.assertRaisesRegex(FormatError, "not an OpenUSD file|no perspective camera"):
                opened(data)

    def test_endings(self) -> None:
        self.assertEqual([format_of(f"a.{name}").name for name in ("usda", "usdc", "USDZ")], ["usda", "usdc", "usdz"])
