import tempfile
import unicodedata
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import shot_with
from zittern.core.axes import AXES, ROTATIONS
from zittern.core.errors import BadInput, DocumentError
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.presets.files import write_preset
from zittern.core.shot.mounts import Mount
from zittern.shaking import Shake, axes_named, preset_named, seed_for, shaken

MOVE = Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (96, 4.0)), y_m=fixed(1.6))
SHOT = shot_with(mounts=(MOVE,), last_frame=96)
KEY, PRESET = preset_named("small-boat", "--preset")


def off(motion: Motion) -> tuple[np.ndarray, np.ndarray]:
    return motion.pose.angles_deg - motion.bare.angles_deg, motion.pose.position_m - motion.bare.position_m


class Shaken(unittest.TestCase):
    def test_the_amount_scales_the_motion(self) -> None:
        whole, half = (evaluate(shaken(SHOT, Shake(PRESET, KEY, amount), 7)) for amount in (1.0, 0.5))
        for axis in range(len(AXES)):
            np.testing.assert_allclose(half.total[:, axis], 0.5 * whole.total[:, axis], atol=1e-9)
        self.assertGreater(np.abs(whole.total).max(), 0.1)

    def test_only_the_chosen_axes_move(self) -> None:
        motion = evaluate(shaken(SHOT, Shake(PRESET, KEY, axes=ROTATIONS), 7))
        angles, places = off(motion)
        self.assertGreater(np.abs(angles).max(), 0.05)
        self.assertEqual(np.abs(places).max(), 0.0)
        one = evaluate(shaken(SHOT, Shake(PRESET, KEY, axes=("roll",)), 7)).total
        self.assertEqual([axis for n, axis in enumerate(AXES) if np.ptp(one[:, n]) > 0.0], ["roll"])

    def test_the_range_leaves_the_rest_as_it_is(self) -> None:
        angles, places = off(evaluate(shaken(SHOT, Shake(PRESET, KEY, span=(30.0, 60.0)), 7)))
        for rows in (slice(0, 29), slice(61, 96)):
            self.assertEqual((np.abs(angles[rows]).max(), np.abs(places[rows]).max()), (0.0, 0.0))
        self.assertGreater(np.abs(angles[29:60]).max(), 0.01)

    def test_files_with_other_names_shake_differently_and_the_same_file_alike(self) -> None:
        seeds = [seed_for(f"shot-{n:03}.csv", 0) for n in range(200)]
        self.assertEqual(len(set(seeds)), 200)
        self.assertNotIn(seed_for("shot-001.csv", 1), seeds)
        self.assertNotEqual(seed_for("a.csv", 0), seed_for("a.glb", 0))
        self.assertEqual(seed_for(unicodedata.normalize("NFD", "Düne.csv"), 3), seed_for("Düne.csv", 3))
        long, shake = SHOT.replace(last_frame=960), Shake(preset_named("shoulder-standing", "x")[1])
        totals = [evaluate(shaken(long, shake, seed)).total for seed in (*seeds[:20], seeds[0])]
        np.testing.assert_array_equal(totals[0], totals[-1])
        likeness = np.corrcoef([total[:, 2] for total in totals[:20]])[np.triu_indices(20, 1)]
        self.assertLess(np.max(np.abs(likeness)), 0.95)
        self.assertLess(np.mean(np.abs(likeness)), 0.5)

    def test_axes_that_the_preset_does_not_move(self) -> None:
        with self.assertRaisesRegex(BadInput, "moves none of these axes"):
            shaken(SHOT, Shake(PRESET, KEY, axes=("focus",)), 7)

    def test_an_amount_beyond_the_limits_of_a_clip(self) -> None:
        loud = PRESET.replace(amount=fixed(5.0))
        with self.assertRaisesRegex(DocumentError, "expected 0 to 10, got 50"):
            shaken(SHOT, Shake(loud, None, 10.0), 7)


class Names(unittest.TestCase):
    def test_presets_by_name_and_by_file(self) -> None:
        self.assertEqual((KEY, PRESET.name), ("small-boat", "Small boat"))
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "mine.preset.json"
            path.write_text(write_preset(PRESET))
            self.assertEqual(preset_named(str(path), "x"), (None, PRESET))
        with self.assertRaisesRegex(BadInput, "--preset: no preset is named 'smal-boat'; near it are small-boat"):
            preset_named("smal-boat", "--preset")

    def test_axes_by_group_and_name(self) -> None:
        self.assertEqual(axes_named("rotations", "x"), ROTATIONS)
        self.assertEqual(axes_named("zoom, pan", "x"), ("pan", "zoom"))
        self.assertEqual(axes_named("rotations,translations,lens,shifts", "x"), AXES)
        with self.assertRaisesRegex(BadInput, "expected axes among rotations, .*pan.*, got 'yaw'"):
            axes_named("yaw", "x")
