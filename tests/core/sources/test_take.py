import unittest

import numpy as np

from tests.core.making import contribution, edited, layer, rms, shot_with
from zittern.core.errors import DocumentError, EditError
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.shot import Shot
from zittern.core.sources.take import Recording, Take, Track

RATE = 40.0
TIMES = np.arange(0.0, 8.0, 1.0 / RATE)
SHAKE = np.sin(2 * np.pi * 1.5 * TIMES) + 0.4 * np.sin(2 * np.pi * 3.7 * TIMES + 1.0)
PLAIN = Take(
    recording=Recording(name="one", rate_hz=RATE, pan=Track.of(SHAKE), truck=Track.of(0.5 * SHAKE)),
    drift_hz=0.0,
    loop=False,
    fade_s=0.0,
)


def shot(take: Take, **fields: object) -> Shot:
    return shot_with(layer("take", take, swings={}, **fields), last_frame=600)


class Playing(unittest.TestCase):
    def test_samples_come_at_their_times_in_their_units(self) -> None:
        values = contribution(shot(PLAIN), "take")
        seconds = np.arange(600) / 24.0
        inside = seconds < 7.9
        np.testing.assert_allclose(
            values[inside, 0], np.interp(seconds, TIMES, SHAKE - SHAKE.mean())[inside], atol=0.03
        )
        np.testing.assert_allclose(values[:, 3], 0.5 * values[:, 0], atol=1e-4)
        self.assertTrue(np.all(values[:, [1, 2, 4, 5, 6]] == 0.0))
        self.assertTrue(np.all(values[seconds > 8.0] == 0.0))

    def test_gain_speed_and_where_it_begins(self) -> None:
        base = contribution(shot(PLAIN), "take")[:, 0]
        np.testing.assert_allclose(
            contribution(shot(PLAIN.replace(gain=fixed(2.5))), "take")[:, 0], 2.5 * base, atol=1e-9
        )
        np.testing.assert_allclose(contribution(shot(PLAIN, speed=2.0), "take")[:80, 0], base[:160:2], atol=1e-9)
        np.testing.assert_allclose(
            contribution(shot(PLAIN.replace(offset_s=1.0)), "take")[:100, 0], base[24:124], atol=1e-9
        )
        faster = contribution(shot(PLAIN.replace(loop=True, fade_s=1.0), speed=keyed((1, 1.0), (600, 3.0))), "take")[
            :, 0
        ]
        self.assertLess(np.max(np.abs(np.diff(faster))), 2 * np.max(np.abs(np.diff(base[:180]))) * 3)

    def test_drift_goes_and_the_shake_stays(self) -> None:
        drifting = Take(
            recording=Recording(rate_hz=RATE, pan=Track.of(SHAKE + 0.8 * TIMES + 3.0)),
            drift_hz=0.3,
            loop=False,
            fade_s=0.0,
        )
        values = contribution(shot(drifting), "take")[24:150, 0]
        np.testing.assert_allclose(values, contribution(shot(PLAIN), "take")[24:150, 0], atol=0.25)

    def test_a_loop_goes_over_into_itself_without_a_jump_and_keeps_its_size(self) -> None:
        rng = np.random.default_rng(1)
        noise = np.convolve(rng.normal(size=2000), np.hanning(15) / 7.0, "same")
        take = Take(recording=Recording(rate_hz=RATE, pan=Track.of(noise[:640])), drift_hz=0.0, fade_s=2.0)
        seam = contribution(shot(take), "take", np.arange(1.0, 2400.0, 0.25))[:, 0]
        self.assertLess(np.max(np.abs(np.diff(seam))), 1.2 * np.max(np.abs(np.diff(noise))))
        period = (639 / RATE - 2.0) * 24.0
        start = contribution(shot(take), "take", np.linspace(100.0, 200.0, 50))[:, 0]
        np.testing.assert_allclose(
            contribution(shot(take), "take", np.linspace(100.0, 200.0, 50) + period)[:, 0], start, atol=1e-6
        )
        self.assertAlmostEqual(rms(seam) / rms(noise[:640]), 1.0, delta=0.15)

    def test_without_a_loop_it_grows_and_fades(self) -> None:
        values = contribution(shot(PLAIN.replace(fade_s=2.0)), "take")[:, 0]
        self.assertEqual(values[0], 0.0)
        self.assertLess(np.max(np.abs(values[:12])), 0.3)
        self.assertLess(np.max(np.abs(np.diff(values[180:]))), 0.3)


class Documents(unittest.TestCase):
    def test_samples_survive_writing_to_a_hundred_thousandth(self) -> None:
        np.testing.assert_allclose(Track.of(SHAKE).samples, SHAKE, atol=2e-5 * np.max(np.abs(SHAKE)))
        self.assertEqual(len(Track.of(np.zeros(9)).samples), 0)

    def test_what_is_no_take(self) -> None:
        for fields, told in (
            ({"pan": {"scale": 1.0, "data": "!!"}}, "base64"),
            ({"pan": {"scale": 1.0, "data": "AAAA"}}, "a byte is missing"),
            ({"pan": Track.of(SHAKE), "tilt": Track.of(SHAKE[:9])}, "as many samples"),
            ({"pan": Track.of(np.ones(1))}, "has 2 to 20000 samples"),
        ):
            with self.assertRaisesRegex((DocumentError, ValueError), told):
                Recording(**fields)  # type: ignore[arg-type]

    def test_a_layer_plays_another_take_and_a_new_one_is_made(self) -> None:
        recording = PLAIN.recording.model_dump()
        made = edited(shot_with(), {"type": "play_take", "recording": recording})
        [(_, new)] = list(made.layers())
        self.assertEqual((new.name, new.source.kind), ("one", "take"))
        again = edited(made, {"type": "play_take", "recording": {**recording, "name": "two"}, "layer": new.id})
        self.assertEqual(next(again.layers())[1].source.recording.name, "two")  # type: ignore[attr-defined]
        with self.assertRaisesRegex(EditError, "nothing was recorded"):
            edited(shot_with(), {"type": "play_take", "recording": {}})
        with self.assertRaisesRegex(EditError, "is not a take"):
            edited(shot_with(layer()), {"type": "play_take", "recording": recording, "layer": "sway"})


class Paces(unittest.TestCase):
    def test_each_axis_plays_at_its_own_pace(self) -> None:
        both = shot(PLAIN)
        paced = edited(both, {"type": "set_values", "values": [{"at": "layer:take.axes.truck.pace", "value": 2.0}]})
        base, values = contribution(both, "take"), contribution(paced, "take")
        np.testing.assert_allclose(values[:, 0], base[:, 0], atol=1e-12)
        np.testing.assert_allclose(values[:80, 3], base[:160:2, 3], atol=1e-9)
