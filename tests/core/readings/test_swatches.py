import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.presets.preset import Preset
from zittern.core.readings.point_readings import read
from zittern.core.readings.swatches import STAND_IN, Swatch, rates_hz, swatch
from zittern.store.shipped import shipped_presets

RUN = shipped_presets()["run"]


def looks(made: Swatch) -> np.ndarray:
    """What a card lets people see: sizes, how high beside wide, roll, and how often it goes up and down."""
    right, up, edge = (each - each.mean() for each in made.scribble_px.T)
    turns = [np.count_nonzero(np.diff(np.signbit(np.diff(each)))) / len(each) for each in (right, up, edge)]
    return np.array([*np.log10([np.std(right) + 0.5, np.std(up) + 0.5, np.std(edge) + 0.5]), *turns])


class OnAShot(unittest.TestCase):
    def test_its_size_is_what_the_lanes_tell_when_it_is_placed(self) -> None:
        shot = shot_with(layer(), focal_mm=fixed(85.0))
        placed = edited(shot.replace(lanes=()), {"type": "place_preset", "preset": RUN})
        motion = evaluate(placed)
        self.assertAlmostEqual(swatch(shot, RUN).typical_px, read(placed, motion, 1.0).typical_px, places=6)

    def test_waveforms_are_the_extremes_of_what_each_axis_does(self) -> None:
        made = swatch(STAND_IN, RUN)
        total = evaluate(edited(STAND_IN, {"type": "place_preset", "preset": RUN})).total
        per_unit = made.waves_px["truck"].max() / total[:, 3].max()
        self.assertAlmostEqual(made.waves_px["truck"].min(), total[:, 3].min() * per_unit, places=6)
        self.assertTrue(all(np.all(wave[:, 0] <= wave[:, 1]) and len(wave) == 96 for wave in made.waves_px.values()))

    def test_what_ends_is_shown_while_it_lasts(self) -> None:
        jolt = swatch(shot_with(last_frame=2400), shipped_presets()["startled"])
        self.assertAlmostEqual(jolt.typical_px, swatch(STAND_IN, shipped_presets()["startled"]).typical_px, places=6)
        self.assertEqual(len(jolt.scribble_px), 61)

    def test_dials_of_the_shot_turn_it(self) -> None:
        boat = shipped_presets()["small-boat"]
        stormy = edited(
            STAND_IN,
            {"type": "place_preset", "preset": boat},
            {"type": "set_values", "values": [{"at": "dial:sea.value", "value": 80}]},
        )
        self.assertAlmostEqual(swatch(stormy, boat).typical_px, 2 * swatch(STAND_IN, boat).typical_px, delta=1.5)

    def test_a_million_frames_and_a_single_one(self) -> None:
        for last in (1, 2, 1_000_000):
            made = swatch(shot_with(last_frame=last), RUN)
            self.assertTrue(
                np.isfinite(made.typical_px)
                and 1 <= len(made.scribble_px) <= 360
                and max(map(len, made.waves_px.values())) <= 96
            )

    def test_what_stands_still_has_no_waves(self) -> None:
        still = Preset(name="Still", layers=(layer(axes={}),))
        made = swatch(STAND_IN, still)
        self.assertEqual((made.typical_px, made.waves_px, np.ptp(made.scribble_px)), (0.0, {}, 0.0))


class Apart(unittest.TestCase):
    def test_no_two_shipped_ones_look_alike(self) -> None:
        seen = {preset.name: looks(swatch(STAND_IN, preset)) for preset in shipped_presets().values()}
        for name, mine in seen.items():
            for other, theirs in seen.items():
                if other > name:
                    self.assertGreater(np.abs(mine - theirs).max(), 0.1, f"{name} and {other}")

    def test_main_rates_are_those_of_its_layers(self) -> None:
        self.assertEqual(rates_hz(RUN), (1.4, 2.75))
        self.assertIn(0.6, rates_hz(shipped_presets()["exhausted-breath"]))
