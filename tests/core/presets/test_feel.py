import unittest

import numpy as np

from tests.core.making import edited, layer, over, shot_with
from zittern.core.edits.parts import replace_layers
from zittern.core.motion.evaluate import evaluate
from zittern.core.presets.feel import held_clips, lens_factor
from zittern.core.readings.point_readings import read
from zittern.core.shot.shot import Shot, new_shot


def felt(**fields: object) -> Shot:
    return edited(new_shot("Fresh", **fields), {"type": "add_handheld"})


class Held(unittest.TestCase):
    def test_clips_that_shake_as_a_person_does(self) -> None:
        shot = felt()
        (clip,) = shot.clips()
        self.assertEqual(held_clips(shot), (clip.id,))
        instead = {each.id: (each.replace(lever_m=(0.0, 0.0)),) for each in clip.layers}
        old = replace_layers(shot, instead)
        self.assertEqual(held_clips(old), (clip.id,), "by their names, from before there were levers")
        muted = edited(shot, {"type": "set_values", "values": [{"at": f"clip:{clip.id}.mute", "value": True}]})
        self.assertEqual(held_clips(muted), ())
        self.assertEqual(held_clips(shot_with(layer())), ())


class Handheld(unittest.TestCase):
    def test_visible_at_once_and_not_too_strong_on_any_common_lens(self) -> None:
        for focal in (18.0, 35.0, 85.0, 200.0):
            shot = felt(focal_mm=focal)
            share = read(shot, evaluate(shot), 1).typical_px / 1920
            self.assertGreater(share, 0.002, focal)
            self.assertLess(share, 0.015, focal)

    def test_slow_and_large_under_fine_and_fast(self) -> None:
        slow, fast = (layer for _, layer in felt().layers())
        self.assertLess(
            slow.source.peak_hz(over(np.array([1.0])))[0], fast.source.peak_hz(over(np.array([1.0])))[0] / 3
        )
        for axis in ("pan", "tilt", "roll", "truck", "pedestal", "dolly"):
            self.assertGreater(slow.axes.of(axis).swing.constant, fast.axes.of(axis).swing.constant, axis)
            self.assertGreater(fast.axes.of(axis).swing.constant, 0, axis)

    def test_layers_and_axes_do_not_share_their_motion(self) -> None:
        motion = evaluate(felt(last_frame=24 * 400))
        columns = np.concatenate([values[:, :6] for values in motion.layers.values()], axis=1)
        r = np.corrcoef(columns.T)
        self.assertLess(np.abs(r - np.eye(12)).max(), 0.2)

    def test_the_same_shot_gets_the_same_feel(self) -> None:
        self.assertEqual(felt(), felt())

    def test_twice_gives_other_seeds_and_ids(self) -> None:
        shot = edited(felt(), {"type": "add_handheld"})
        layers = [layer for _, layer in shot.layers()]
        self.assertEqual(len({layer.seed for layer in layers}), 4)
        self.assertEqual(len({layer.id for layer in layers}), 4)

    def test_lens_factor_is_one_at_the_default_lens_and_bounded(self) -> None:
        self.assertAlmostEqual(lens_factor(new_shot("A")), 1.0)
        self.assertEqual(lens_factor(new_shot("A", focal_mm=2000.0)), 0.1)
        self.assertEqual(lens_factor(new_shot("A", focal_mm=8.0)), 2.0)
