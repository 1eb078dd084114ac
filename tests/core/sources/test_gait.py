import unittest

import numpy as np
from scipy.signal import welch

from tests.core.making import contribution, layer, rms, shot_with
from zittern.core.motion.steps import step_marks
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.gait import WAYS, Gait

FPS = 60
TWO = {"pan": 2.0, "tilt": 2.0, "roll": 2.0, "truck": 2.0, "pedestal": 2.0, "dolly": 2.0}


def gait(**fields: object) -> Gait:
    return Gait.model_validate({"uneven": 0.0, **fields})


def walking(source: Gait, seconds: float = 40.0, fps: int = FPS, **fields: object) -> Shot:
    return shot_with(layer(source=source, swings=TWO), fps=fps, last_frame=int(seconds * fps), **fields)


def along(*points: tuple[float, float], fps: int = FPS, interp: str = "linear") -> tuple[Mount]:
    """A camera that goes straight, from (seconds, metres) to the next."""
    track = keyed(*((1.0 + s * fps, -m) for s, m in points), interp=interp)
    return (Mount(id="camera", name="Camera", y_m=fixed(1.6), z_m=track),)


def peak_hz(values: np.ndarray, fps: int = FPS) -> np.ndarray:
    frequency, power = welch(values, fs=fps, nperseg=min(len(values), 1024), axis=0)
    return frequency[np.argmax(power, axis=0)]


class Spectra(unittest.TestCase):
    def test_up_and_down_once_a_step_from_side_to_side_once_in_two(self) -> None:
        for cadence in (1.2, 1.9, 2.8):
            peaks = peak_hz(contribution(walking(gait(cadence_hz=cadence, surface="soft"))))
            for axis, times in ((4, 1.0), (1, 1.0), (5, 1.0), (3, 0.5), (2, 0.5), (0, 0.5)):
                self.assertAlmostEqual(peaks[axis], cadence * times, delta=0.07, msg=f"{axis} at {cadence}")

    def test_about_unit_size_and_no_mean(self) -> None:
        for source in (gait(), gait(surface="hard"), Gait(), gait(limp=0.5), gait(way="run", cadence_hz=2.75)):
            values = contribution(walking(source, 120.0))[:, :6]
            np.testing.assert_allclose(rms(values), 1.0, atol=0.2, err_msg=str(source))
            np.testing.assert_allclose(values.mean(axis=0), 0.0, atol=0.1)  # who limps leans

    def test_a_hard_ground_knocks_near_eleven_hertz(self) -> None:
        def knock(surface: str) -> float:
            frequency, power = welch(contribution(walking(gait(surface=surface)))[:, 4], fs=FPS, nperseg=1024)
            return float(power[(frequency > 8) & (frequency < 15)].sum())

        self.assertGreater(knock("hard"), 2 * knock("firm"))
        self.assertGreater(knock("firm"), 4 * knock("soft"))

    def test_a_limp_differs_from_left_to_right(self) -> None:
        up = contribution(walking(gait(limp=1.0, cadence_hz=2.0, surface="soft")))[:, 4]
        lows = np.array([up[n : n + 30].min() for n in range(15, len(up) - 30, 30)])
        self.assertGreater(abs(lows[4:40:2].mean() - lows[5:40:2].mean()), 0.5)
        even = contribution(walking(gait(cadence_hz=2.0, surface="soft")))[:, 4]
        lows = np.array([even[n : n + 30].min() for n in range(15, len(even) - 30, 30)])
        self.assertLess(np.ptp(lows[2:-2]), 0.01)


class FromThePath(unittest.TestCase):
    def test_walks_stops_and_walks(self) -> None:
        """Straight at 1.4 m/s for ten seconds, still for ten, on for ten."""
        shot = walking(gait(follows="the path"), 30.0, mounts=along((0, 0), (10, 14), (20, 14), (30, 28)))
        values = contribution(shot)
        # It settles and sets off within 0.8 s beside its stand.
        still = values[int(10.9 * FPS) : int(19.1 * FPS)]
        np.testing.assert_allclose(still, 0.0, atol=1e-3)
        for part in (values[: 10 * FPS], values[20 * FPS :]):
            self.assertAlmostEqual(rms(part)[4], 1.0, delta=0.2)
            self.assertAlmostEqual(peak_hz(part)[4], 1.9, delta=0.15)
        self.assertLess(np.abs(np.diff(values[:, :6], axis=0)).max(), 1.5)
        walked = np.abs(np.diff(values[: 10 * FPS, :6], axis=0)).max(axis=0)
        beside = np.abs(np.diff(values[10 * FPS - 3 : 20 * FPS + 3, :6], axis=0)).max(axis=0)
        self.assertTrue(np.all(beside <= 1.5 * walked + 1e-9), "it neither stops nor begins with a pop")

    def test_as_many_steps_as_the_way_is_long(self) -> None:
        for speed, way in ((0.8, "walk"), (1.4, "walk"), (2.0, "walk"), (3.0, "run"), (5.0, "run")):
            model = WAYS[way]
            shot = walking(
                gait(follows="the path", way=way, surface="soft"), 40.0, mounts=along((0, 0), (40, 40 * speed))
            )
            rate = peak_hz(contribution(shot))[4]
            self.assertAlmostEqual(
                rate, model.rate_hz * (speed / model.speed_m_s) ** model.power, delta=0.07, msg=f"{way} {speed}"
            )

    def test_held_to_published_figures(self) -> None:
        """Natural walking: 105 to 118 steps a minute at 1.4 m/s (Winter 1991); slow at 0.8 m/s about 80 to 95;
        running at 3 m/s 155 to 170.
        """
        for way, speed, low, high in (("walk", 1.4, 105, 118), ("walk", 0.8, 78, 95), ("run", 3.0, 155, 170)):
            model = WAYS[way]
            self.assertTrue(low <= 60 * model.rate_hz * (speed / model.speed_m_s) ** model.power <= high)
        self.assertAlmostEqual(WAYS["walk"].step_m, 0.74, delta=0.02)

    def test_longer_legs_take_fewer_steps_and_faster_ones_rise_more(self) -> None:
        there = along((0, 0), (40, 56))
        rates = [
            peak_hz(contribution(walking(gait(follows="the path", legs=legs, surface="soft"), mounts=there)))[4]
            for legs in ("short", "usual", "long")
        ]
        self.assertGreater(rates[0], rates[1])
        self.assertGreater(rates[1], rates[2])
        sizes = [
            rms(contribution(walking(gait(follows="the path"), mounts=along((0, 0), (40, 40 * speed)))))[4]
            for speed in (0.6, 1.0, 1.4)
        ]
        self.assertTrue(sizes[0] < 0.8 * sizes[1] < sizes[2] * 0.8, sizes)


class Pure(unittest.TestCase):
    def test_any_frames_and_any_frame_rate(self) -> None:
        source = Gait.model_validate({"follows": "the path", "surface": "hard", "limp": 0.4, "uneven": 1.0})
        way = ((0.0, 0.0), (20.0, 20.0), (30.0, 21.0), (60.0, 80.0))
        shot = walking(source, 60.0, mounts=along(*way, interp="smooth"))
        whole = contribution(shot)
        np.testing.assert_allclose(contribution(shot, frames=np.arange(2000.0, 2050.0)), whole[1999:2049], atol=1e-9)
        half = contribution(walking(source, 60.0, fps=30, mounts=along(*way, fps=30, interp="smooth")))
        np.testing.assert_allclose(half, whole[::2][: len(half)], atol=3e-3)  # heels fall between whole frames

    def test_a_still_camera_and_no_cadence_give_nothing(self) -> None:
        for source in (gait(follows="the path"), gait(cadence_hz=0.0)):
            self.assertFalse(contribution(walking(source, 5.0)).any(), source)

    def test_who_starts_or_stops_does_not_lurch(self) -> None:
        """Below the speed of a stroll motion is no larger than the law of step length makes it."""
        for way, pace in (("walk", 0.2), ("walk", 0.12), ("walk", 0.28), ("run", 0.2)):
            model = WAYS[way]
            shot = walking(
                gait(follows="the path", way=way, surface="soft"), 60.0, mounts=along((0, 0), (60, 60 * pace))
            )
            law = (pace / (model.rate_hz * (pace / model.speed_m_s) ** model.power) / model.step_m) ** 2
            self.assertLess(np.abs(contribution(shot)[:, 4]).max(), 1.1 * np.sqrt(2.0) * law, f"{way} {pace}")


class EditedSteps(unittest.TestCase):
    STEPS = tuple({"number": n, "later": 0.3 if n % 2 else -0.3} for n in range(1, 12))

    def test_parts_equal_the_whole_with_moved_steps_and_a_slow_cadence(self) -> None:
        for cadence in (0.05, 0.4, 1.9):
            shot = walking(gait(cadence_hz=cadence, surface="hard", steps=self.STEPS), 120.0, fps=24)
            whole = contribution(shot)
            for first in (300, 433, 610, 1200):
                part = contribution(shot, frames=np.arange(first, first + 40.0))
                np.testing.assert_allclose(part, whole[first - 1 : first + 39], atol=1e-9, err_msg=f"{cadence} {first}")

    def test_marks_of_moved_steps_are_never_lost(self) -> None:
        shot = walking(
            gait(
                cadence_hz=0.05,
                steps=({"number": 2, "later": 0.3}, {"number": 4, "mute": True}, {"number": 5, "later": -0.3}),
            ),
            120.0,
            fps=24,
        )
        marks = {mark.number: mark for mark in step_marks(shot)["sway"]}
        self.assertEqual(sorted(marks), [1, 2, 3, 4, 5])
        self.assertAlmostEqual(marks[2].frame, 1 + 24 * 20 * 2.3, delta=0.6)
        seen = step_marks(shot, window=(1 + 24 * 20 * 2.25, 1 + 24 * 20 * 2.35))["sway"]
        self.assertEqual([mark.number for mark in seen], [2])
        many = walking(gait(cadence_hz=6.0, steps=({"number": 2500, "later": 0.2},)), 600.0, fps=24)
        self.assertIn(2500, [mark.number for mark in step_marks(many)["sway"]])
