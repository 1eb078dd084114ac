import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
from pxr import Usd

from tests.core.making import layer, shot_with
from tests.formats.test_gltf_write import composed
from zittern.core.errors import BadInput
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount
from zittern.core.timebase import Fps
from zittern.formats.delivery import Delivery, deliver
from zittern.formats.reduced import Tolerance
from zittern.formats.table import format_named

MOVE = Mount(id="camera", name="Camera", x_m=keyed((1001, 0.0), (1096, 4.0), interp="linear"))
SHOT = shot_with(layer("sway", seed=3), mounts=(MOVE,), fps=Fps(num=25), first_frame=1001, last_frame=1096)
# Eight frames before and after the shot.
HANDLES = {"first_frame": 993, "last_frame": 1104}


def bytes_of(name: str, **settings: object) -> bytes:
    delivery, file = Delivery(**settings), io.BytesIO()  # type: ignore[arg-type]
    delivery.check(format_named(name))
    write = format_named(name).write
    assert write is not None
    write(SHOT, delivery, delivery.parts(SHOT), file)
    return file.getvalue()


def rows(data: bytes) -> np.ndarray:
    return np.genfromtxt(data.decode().splitlines()[1:], delimiter=",")


class Ranges(unittest.TestCase):
    def test_a_part_is_the_same_rows_of_the_whole(self) -> None:
        whole = rows(bytes_of("csv"))
        part = rows(bytes_of("csv", first_frame=1010, last_frame=1020))
        np.testing.assert_array_equal(part[:, 0], np.arange(1010, 1021))
        np.testing.assert_allclose(part[:, 1], np.arange(11) / 25.0, atol=1e-9)
        np.testing.assert_array_equal(part[:, 2:], whole[9:20, 2:])
        only_last = rows(bytes_of("csv", last_frame=1003))
        np.testing.assert_array_equal(only_last[:, 0], [1001, 1002, 1003])

    def test_handles_are_what_the_shot_does_outside(self) -> None:
        frames = np.arange(993.0, 1105.0)
        pose = evaluate(SHOT, frames).pose
        found = rows(bytes_of("csv", **HANDLES))
        np.testing.assert_allclose(found[:, 2:5], pose.position_m, atol=1e-8)
        np.testing.assert_allclose(found[:, 5:8], pose.angles_deg, atol=1e-8)
        for settings in ({}, {"reduce": Tolerance(0.05)}):
            position, _ = composed(bytes_of("glb", **HANDLES, **settings), (frames - 993.0) / 25.0)
            np.testing.assert_allclose(position, pose.position_m, atol=2e-4)

    def test_frames_are_numbered_from_anywhere(self) -> None:
        data = bytes_of("csv", first_frame=1010, last_frame=1020, first_number=1, step=0.5)
        np.testing.assert_allclose(rows(data)[:, 0], 1.0 + 0.5 * np.arange(21))
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.usda"
            deliver(path, format_named("usda"), SHOT, Delivery(first_number=1))
            stage = Usd.Stage.Open(str(path))
            self.assertEqual((stage.GetStartTimeCode(), stage.GetEndTimeCode()), (1.0, 96.0))
            self.assertEqual(list(Path(folder).iterdir()), [path])


class Refused(unittest.TestCase):
    def test_settings_that_contradict_each_other_or_the_format(self) -> None:
        for words, name, settings in (
            ("expected a last frame from 1020 on, got 1010", "csv", {"first_frame": 1020, "last_frame": 1010}),
            ("expected a last frame from 1001 on, got 5", "csv", {"last_frame": 5}),
            ("has times and no frame numbers", "glb", {"first_number": 1}),
            ("written whole", "shot", {"first_frame": 1002}),
            ("samples are possible", "csv", {"first_frame": -10_000_000, "last_frame": 10_000_000}),
            ("up to [0-9,]+ frames can be reduced", "glb", {"last_frame": 4_000_000, "reduce": Tolerance(0.5)}),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                bytes_of(name, **settings)

    def test_a_failure_leaves_the_file_as_it_was(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.csv"
            path.write_text("before")
            with self.assertRaises(BadInput):
                deliver(path, format_named("csv"), SHOT, Delivery(last_frame=5))
            self.assertEqual([each.read_text() for each in Path(folder).iterdir()], ["before"])
