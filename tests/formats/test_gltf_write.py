import io
import json
import struct
import subprocess
import tempfile
import unittest
from pathlib import Path

import numpy as np
from scipy.interpolate import BPoly
from scipy.spatial.transform import Rotation

from tests.core.making import edited, layer, shot_with
from zittern.core.edits.moves import ReplaceMove
from zittern.core.motion.evaluate import Motion, evaluate, evaluate_in_parts
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.glass import Glass
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.timebase import frame_grid
from zittern.formats import gltf_read
from zittern.formats.delivery import Delivery
from zittern.formats.files import no_sidecars
from zittern.formats.gltf_write import write_glb, write_gltf
from zittern.formats.reduced import Tolerance
from zittern.formats.table import format_named, written

ROOT = Path(__file__).parents[2]
RIG = (
    Mount(
        id="crane",
        name="Crane",
        x_m=keyed((1, 0.0), (240, 8.0)),
        pan_deg=keyed((1, 0.0), (240, 500.0)),
        pivot_m=(0.0, 0.0, -1.0),
    ),
    Mount(id="head", name="Head", y_m=1.5, tilt_deg=-20.0),
)
SHOT = edited(
    shot_with(
        layer("base", target="crane"),
        layer("sway", seed=2),
        mounts=RIG,
        focal_mm=keyed((1, 35.0), (240, 90.0)),
        sensor_mm=24.0,
    ),
    {"type": "add_handheld"},
)


WRITERS = {"glb": write_glb, "gltf": write_gltf}


def parsed(glb: bytes) -> tuple[dict, bytes]:  # type: ignore[type-arg]
    length = struct.unpack_from("<I", glb, 12)[0]
    return json.loads(glb[20 : 20 + length]), glb[28 + length :]


def keyed_values(at_s: np.ndarray, keys_s: np.ndarray, output: np.ndarray, kind: str) -> np.ndarray:
    """Values of a sampler at some times, by scipy; cubic ones in Bernstein form."""
    if kind == "LINEAR":
        return np.stack([np.interp(at_s, keys_s, column) for column in output.T], axis=1)
    slope_in, values, slope_out = output[0::3], output[1::3], output[2::3]
    third = np.diff(keys_s)[:, None] / 3.0
    inner = values[:-1] + third * slope_out[:-1], values[1:] - third * slope_in[1:]
    return np.asarray(BPoly(np.stack([values[:-1], *inner, values[1:]]), keys_s)(np.clip(at_s, *keys_s[[0, -1]])))


def composed(glb: bytes, at_s: np.ndarray | None = None) -> tuple[np.ndarray, np.ndarray]:
    """World position and rotation of the camera node, by multiplying the nodes: at times, else at their keys."""
    document, data = parsed(glb)

    def values(index: int) -> np.ndarray:
        accessor = document["accessors"][index]
        start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
        width = {"SCALAR": 1, "VEC3": 3, "VEC4": 4}[accessor["type"]]
        return np.frombuffer(data, "<f4", accessor["count"] * width, start).reshape(-1, width).astype(float)

    animation = document["animations"][0]
    if at_s is None:
        at_s = values(animation["samplers"][0]["input"])[:, 0]
    tracks = {}
    for channel in animation["channels"]:
        sampler = animation["samplers"][channel["sampler"]]
        keys_s, output = values(sampler["input"])[:, 0], values(sampler["output"])
        name = channel["target"].get("node"), channel["target"]["path"]
        tracks[name] = keyed_values(at_s, keys_s, output, sampler["interpolation"])
    count = len(at_s)
    world, node = np.tile(np.eye(4), (count, 1, 1)), 0
    while True:
        each = document["nodes"][node]
        local = np.tile(np.eye(4), (count, 1, 1))
        local[:, :3, 3] = tracks.get((node, "translation"), np.array([each.get("translation") or [0, 0, 0]]))
        quat = np.broadcast_to(
            tracks.get((node, "rotation"), np.array([each.get("rotation") or [0, 0, 0, 1]])), (count, 4)
        )
        local[:, :3, :3] = Rotation.from_quat(quat).as_matrix()
        world = world @ local
        if "camera" in each and each["camera"] is not None:
            return world[:, :3, 3], world[:, :3, :3]
        node = each["children"][0]


def csv_rows(data: bytes) -> np.ndarray:
    return np.genfromtxt(data.decode().splitlines()[1:], delimiter=",")


def reread(data: bytes, shot: Shot) -> tuple[Shot, Motion]:
    move = gltf_read.read(data, no_sidecars).read(None, shot.fps).move
    again = ReplaceMove(move=move, name="x").apply(new_shot("Again", fps=shot.fps))
    return again, evaluate(again)


class Structure(unittest.TestCase):
    def test_mounts_layers_and_lens_are_nested_nodes(self) -> None:
        document, _ = parsed(written("glb", SHOT, evaluate(SHOT)))
        names = [node["name"] for node in document["nodes"]]
        self.assertEqual(
            names,
            ["Crane", "Layer: Base", "Head", "Layer: Sway", "Layer: Slow sway", "Layer: Fine shake", "Test camera"],
        )
        for i, node in enumerate(document["nodes"][:-1]):
            self.assertEqual(node["children"], [i + 1])
        self.assertAlmostEqual(document["cameras"][0]["perspective"]["aspectRatio"], 16 / 9)
        self.assertEqual(document["cameras"][0]["extras"]["zittern"]["sensor_mm"], 24.0)

    def test_a_shift_of_the_picture_is_told_beside_the_lens(self) -> None:
        for swings, there in (({"shift_x": 2.0, "shift_y": 1.0}, True), ({"pan": 1.0}, False)):
            shot = shot_with(layer(swings=swings))
            motion = evaluate(shot)
            document, data = parsed(written("glb", shot, motion))
            extras = document["cameras"][0]["extras"]["zittern"]
            self.assertEqual("shift_percent" in extras, there)
            if there:
                accessor = document["accessors"][extras["shift_percent"]]
                start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
                told = np.frombuffer(data, "<f4", 2 * accessor["count"], start).reshape(-1, 2)
                np.testing.assert_allclose(told, motion.total[:, 7:9], atol=1e-6)
                self.assertEqual(document["accessors"][extras["shift_times"]]["count"], accessor["count"])

    def test_the_focus_distance_is_told_where_there_is_one(self) -> None:
        hunting = layer(swings={"focus": 8.0})
        for layers, glass, there in (((), None, False), ((), Glass(), True), ((hunting,), None, True)):
            shot = shot_with(*layers, glass=glass, last_frame=48)
            motion = evaluate(shot)
            document, data = parsed(written("glb", shot, motion))
            extras = document["cameras"][0]["extras"]["zittern"]
            self.assertEqual({"focus_m", "focus_times"} & set(extras), {"focus_m", "focus_times"} if there else set())
            if there:
                accessor = document["accessors"][extras["focus_m"]]
                start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
                told = np.frombuffer(data, "<f4", accessor["count"], start)
                np.testing.assert_allclose(told, motion.pose.focus_m, rtol=1e-6)

    def test_distortion_is_told_beside_the_lens_and_breathing_is_in_the_field_of_view(self) -> None:
        glass = Glass(k1=keyed((1, -0.2), (48, 0.1)), breathing_percent=fixed(5.0), focus_m=fixed(1.0))
        shot = shot_with(glass=glass, last_frame=48)
        document, data = parsed(written("glb", shot, evaluate(shot)))
        camera = document["cameras"][0]
        accessor = document["accessors"][camera["extras"]["zittern"]["distortion"]]
        start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
        told = np.frombuffer(data, "<f4", 2 * accessor["count"], start).reshape(-1, 2)
        np.testing.assert_allclose(told[[0, -1]], [[-0.2, 0.0], [0.1, 0.0]], atol=1e-6)
        wide = 2.0 * np.arctan(36.0 * 9.0 / 16.0 / (2.0 * 35.0 * 1.05))
        self.assertAlmostEqual(camera["perspective"]["yfov"], wide, places=6)

    def test_the_path_node_alone_is_the_bare_move(self) -> None:
        shot = shot_with(layer(), mounts=RIG[:1])
        document, data = parsed(written("glb", shot, evaluate(shot)))
        channel = next(
            c for c in document["animations"][0]["channels"] if c["target"] == {"node": 0, "path": "translation"}
        )
        accessor = document["accessors"][document["animations"][0]["samplers"][channel["sampler"]]["output"]]
        start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
        got = np.frombuffer(data, "<f4", 240 * 3, start).reshape(-1, 3)
        np.testing.assert_allclose(got, evaluate(shot).bare.position_m, atol=1e-5)

    def test_a_shot_that_stands_still_keeps_its_length(self) -> None:
        shot = new_shot("Still", last_frame=77)
        again, motion = reread(written("glb", shot, evaluate(shot)), shot)
        self.assertEqual(again.last_frame, 77)
        np.testing.assert_allclose(motion.pose.position_m, evaluate(shot).pose.position_m, atol=1e-6)

    def test_muted_layers_are_left_out(self) -> None:
        shot = shot_with(layer(mute=True))
        document, _ = parsed(written("glb", shot, evaluate(shot)))
        self.assertNotIn("Layer: Sway", [node["name"] for node in document["nodes"]])


class Poses(unittest.TestCase):
    def test_composed_nodes_equal_the_csv(self) -> None:
        motion = evaluate(SHOT)
        position, rotation = composed(written("glb", SHOT, motion))
        rows = np.genfromtxt(written("csv", SHOT, motion).decode().splitlines(), delimiter=",", names=True)
        for i, name in enumerate(("x_m", "y_m", "z_m")):
            np.testing.assert_allclose(position[:, i], rows[name], atol=1e-4)
        expected = Rotation.from_euler(
            "YXZ", np.stack([rows[n] for n in ("pan_deg", "tilt_deg", "roll_deg")], axis=1), degrees=True
        )
        off_deg = np.degrees((Rotation.from_matrix(rotation).inv() * expected).magnitude())
        self.assertLess(off_deg.max(), 1e-4)

    def test_reading_back_gives_the_same_poses_and_lens(self) -> None:
        motion = evaluate(SHOT)
        for name in ("glb", "gltf"):
            again, read_back = reread(written(name, SHOT, motion), SHOT)
            self.assertEqual((again.last_frame, again.sensor_mm, again.picture), (240, 24.0, SHOT.picture))
            np.testing.assert_allclose(read_back.pose.position_m, motion.pose.position_m, atol=1e-4)
            turns = 360 * np.round((read_back.pose.angles_deg[0] - motion.pose.angles_deg[0]) / 360)
            np.testing.assert_allclose(read_back.pose.angles_deg - turns, motion.pose.angles_deg, atol=1e-4)
            np.testing.assert_allclose(read_back.pose.focal_mm, motion.pose.focal_mm, atol=1e-3)

    def test_sub_frames(self) -> None:
        frames = frame_grid(1, 240, 0.5)
        position, _ = composed(written("glb", SHOT, evaluate(SHOT, frames)))
        np.testing.assert_allclose(position, evaluate(SHOT, frames).pose.position_m, atol=1e-4)


class Parts(unittest.TestCase):
    def test_in_parts_is_the_same_file(self) -> None:
        frames = frame_grid(1, 240)
        for name in ("glb", "gltf", "csv"):
            whole, parts = io.BytesIO(), io.BytesIO()
            for file, size in ((whole, 1000), (parts, 37)):
                write = format_named(name).write
                assert write is not None
                write(SHOT, Delivery(), evaluate_in_parts(SHOT, frames, size), file)
            self.assertEqual(len(whole.getvalue()), len(parts.getvalue()))
            again = [
                csv_rows(data.getvalue()) if name == "csv" else reread(data.getvalue(), SHOT)[1].pose.position_m
                for data in (whole, parts)
            ]
            np.testing.assert_allclose(again[0], again[1], atol=1e-7)

    def test_quaternions_stay_on_one_side_from_part_to_part(self) -> None:
        spin = shot_with(
            mounts=(Mount(id="camera", name="Camera", pan_deg=keyed((1, 0.0), (240, 900.0), interp="linear")),)
        )
        frames, file = frame_grid(1, 240), io.BytesIO()
        write_glb(spin, Delivery(), evaluate_in_parts(spin, frames, 7), file)
        document, data = parsed(file.getvalue())
        accessor = next(each for each in document["accessors"] if each["type"] == "VEC4")
        start = document["bufferViews"][accessor["bufferView"]]["byteOffset"]
        quats = np.frombuffer(data, "<f4", 240 * 4, start).reshape(-1, 4)
        self.assertTrue(np.all(np.sum(quats[1:] * quats[:-1], axis=1) > 0))


class Standard(unittest.TestCase):
    def test_the_validator_finds_no_error(self) -> None:
        still = new_shot("Still")
        with tempfile.TemporaryDirectory() as folder:
            paths = []
            for name, shot in (("rig", SHOT), ("still", still)):
                for ending in ("glb", "gltf"):
                    paths.append(Path(folder) / f"{name}.{ending}")
                    paths[-1].write_bytes(written(ending, shot, evaluate(shot)))
                    paths.append(paths[-1].with_stem(f"{name}-reduced"))
                    with paths[-1].open("wb") as file:
                        settings = Delivery(reduce=Tolerance(px=0.5))
                        WRITERS[ending](shot, settings, settings.parts(shot), file)
            paths += sorted((ROOT / "zittern/demo/sets").glob("*.glb"))
            out = subprocess.run(
                ["node", str(ROOT / "tools/validate_gltf.mjs"), *map(str, paths)],
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertEqual(out.returncode, 0, out.stderr)
        reports = [json.loads(line) for line in out.stdout.splitlines()]
        self.assertEqual(len(reports), len(paths))
        for report in reports:
            self.assertEqual((report["numErrors"], report["numWarnings"]), (0, 0), report)
