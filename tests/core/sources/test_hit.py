import math
import unittest

import numpy as np

from tests.core.making import contribution, edited, layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.cues import Cue
from zittern.core.shot.shot import Shot
from zittern.core.sources.gait import Gait
from zittern.core.sources.hit import NEAR_M, Hit

FPS = 24


def hit(**fields: object) -> Hit:
    return Hit.model_validate({"at_start": False, "uneven": 0.0, **fields})


def struck(source: Hit, *cues: Cue, **fields: object) -> Shot:
    return shot_with(
        layer(source=source, swings={"pedestal": 2.0, "truck": 2.0, "tilt": 1.0}), cues=cues, fps=FPS, **fields
    )


def cue(frame: float, strength: float = 1.0, id_: str = "a", **fields: object) -> Cue:
    return Cue.model_validate({"id": id_, "frame": frame, "strength": strength, **fields})


def fine(shot: Shot, start: float = 1.0, stop: float = 100.0) -> tuple[np.ndarray, np.ndarray]:
    frames = np.linspace(start, stop, 20_001)
    return frames, contribution(shot, frames=frames)


class Ringing(unittest.TestCase):
    def test_it_solves_the_equation_of_a_struck_oscillator(self) -> None:
        """Against a naive integration of x'' + 2 sigma x' + (omega^2 + sigma^2) x = 0 from rest with a speed of its
        own.
        """
        from scipy.integrate import solve_ivp

        shot = struck(hit(ring_hz=3.0, settle_s=0.8), cue(25.0))
        frames, values = fine(shot, 25.0, 80.0)
        up = values[:, 4]
        sigma, omega = 3.0 / 0.8, 2 * math.pi * 3.0
        seconds = (frames - 25.0) / FPS
        speed = (up[1] - up[0]) / (seconds[1] - seconds[0])
        stiff = omega**2 + sigma**2
        solved = solve_ivp(
            lambda _, x: (x[1], -2 * sigma * x[1] - stiff * x[0]),
            (0, seconds[-1]),
            (0.0, speed),
            t_eval=seconds,
            rtol=1e-9,
            atol=1e-12,
        )
        np.testing.assert_allclose(up, solved.y[0], atol=0.01 * np.abs(up).max())

    def test_the_first_peak_is_the_swing_and_a_twentieth_is_left_when_it_has_settled(self) -> None:
        for ring, settle in ((2.0, 0.5), (8.0, 1.5), (0.5, 0.3)):
            frames, values = fine(struck(hit(ring_hz=ring, settle_s=settle), cue(10.0)), 10.0, 10.0 + 3 * settle * FPS)
            largest = np.abs(values[:, 4]).max()
            self.assertTrue(
                1.2 <= largest <= 2.0 + 1e-6, largest
            )  # without a place each axis goes its own way, 60 to 100 %
            late = np.abs(values[frames > 10.0 + settle * FPS, 4]).max()
            sigma, omega = 3.0 / settle, 2 * math.pi * ring
            peak = math.exp(-sigma * math.atan2(omega, sigma) / omega) * omega / math.hypot(omega, sigma)
            self.assertLess(late, 0.0501 * largest / peak)

    def test_never_a_jump_and_nothing_before_it(self) -> None:
        shot = struck(hit(ring_hz=9.0), cue(30.37))
        frames, values = fine(shot)
        self.assertFalse(values[frames < 30.37].any())
        self.assertLess(np.abs(np.diff(values, axis=0)).max(), 0.05)

    def test_many_add_up_exactly(self) -> None:
        cues = [cue(3.0 + 7.3 * n, 0.2 + 0.1 * n, f"c{n}") for n in range(12)]
        together = contribution(struck(hit(), *cues))
        apart = sum(contribution(struck(hit(), each)) for each in cues)
        np.testing.assert_allclose(together, apart, atol=1e-9)

    def test_between_frames_and_at_any_frame_rate_it_arrives_when_it_does(self) -> None:
        at_24 = contribution(struck(hit(), cue(20.25)), frames=np.array([30.0]))
        at_60 = shot_with(
            layer(source=hit(), swings={"pedestal": 2.0, "truck": 2.0, "tilt": 1.0}),
            cues=(cue(1.0 + 19.25 * 2.5),),
            fps=60,
        )
        np.testing.assert_allclose(contribution(at_60, frames=np.array([1.0 + 29.0 * 2.5])), at_24, atol=1e-9)

    def test_a_ring_that_is_keyed_bends_and_does_not_jump(self) -> None:
        frames, values = fine(struck(hit(ring_hz=keyed((1, 2.0), (60, 12.0)), settle_s=3.0), cue(5.0)))
        self.assertLess(np.abs(np.diff(values, axis=0)).max(), 0.05)
        crossings = frames[1:][np.diff(np.signbit(values[:, 4])) != 0]
        self.assertGreater(np.diff(crossings)[0], 2 * np.diff(crossings)[-1])


class Places(unittest.TestCase):
    def test_it_arrives_later_and_weaker_from_farther_away(self) -> None:
        for falls, power in (("not at all", 0.0), ("along the ground", 0.5), ("in the air", 1.0)):
            peaks = []
            for distance in (NEAR_M / 2, 4 * NEAR_M):
                shot = struck(hit(wave_m_s=24.0, falls=falls), cue(10.0, place_m=(0.0, 1.6, -distance)))
                frames, values = fine(shot)
                first = frames[np.flatnonzero(values[:, 4])[0]]
                self.assertAlmostEqual(first, 10.0 + distance, delta=0.02)  # a metre a frame
                peaks.append(np.abs(values[:, 4]).max())
            self.assertAlmostEqual(peaks[1] / peaks[0], 4.0**-power, delta=0.01)

    def test_it_pushes_away_from_its_place(self) -> None:
        right = fine(struck(hit(), cue(10.0, place_m=(-50.0, 1.6, 0.0))))[1]
        left = fine(struck(hit(), cue(10.0, place_m=(50.0, 1.6, 0.0))))[1]
        for values, sign in ((right, 1.0), (left, -1.0)):
            first = values[np.flatnonzero(values[:, 3])[0] + 50, 3]
            self.assertGreater(first * sign, 0.0)

    def test_by_name_or_not_at_all(self) -> None:
        named = cue(10.0, name="Sway")
        other = cue(10.0, name="Other")
        for answers, cues, moves in (
            ("cues of its name", (named,), True), ("cues of its name", (other,), False), ("no cues", (named,), False),
            ("all cues", (named,), True),
        ):  # fmt: skip
            self.assertEqual(bool(contribution(struck(hit(answers=answers), *cues)).any()), moves, answers)


class OfItsOwn(unittest.TestCase):
    def test_at_the_start_and_in_a_rhythm(self) -> None:
        once = contribution(shot_with(layer(source=Hit()), clip={"span_frames": (41.0, 200.0)}))
        self.assertTrue(not once[:40].any() and once[42:50].any())
        frames, values = fine(struck(hit(rhythm_hz=1.0, settle_s=0.1, ring_hz=4.0)), 1.0, 120.0)
        loud = frames[np.abs(values[:, 4]) > 0.4]
        starts = loud[1:][np.diff(loud) > 10.0]
        np.testing.assert_allclose(np.diff(starts), 24.0, atol=0.2)

    def test_a_sub_range_far_into_it_equals_the_whole(self) -> None:
        shot = struck(
            hit(rhythm_hz=keyed((1, 1.0), (3000, 4.0)), uneven=1.0, settle_s=2.0), cue(2000.5), last_frame=4000
        )
        np.testing.assert_allclose(
            contribution(shot, frames=np.arange(2100.0, 2140.0)), contribution(shot)[2099:2139], atol=1e-8
        )

    def test_ten_thousand_cues_and_none(self) -> None:
        many = tuple(cue(1.0 + 0.02 * n, 0.1, f"c{n}") for n in range(10_000))
        self.assertTrue(np.all(np.isfinite(contribution(struck(hit(), *many)))))
        self.assertFalse(contribution(struck(hit())).any())

    def test_what_moves_the_camera_moves_with_the_cue_alone(self) -> None:
        """What is kept from before is not taken for another: cues, their places, and the camera's way."""
        from zittern.core.motion.cache import Cache
        from zittern.core.motion.evaluate import evaluate

        cache = Cache()
        shot = struck(hit(), cue(10.0, place_m=(5.0, 0.0, -9.0)))
        moved = edited(shot, {"type": "set_values", "values": [{"at": "mount:camera.x_m", "value": -40.0}]})
        later = edited(shot, {"type": "move_cues", "cues": ["a"], "by_frames": 3.0})
        for each in (shot, moved, later, shot):
            np.testing.assert_array_equal(evaluate(each, cache=cache).layers["sway"], evaluate(each).layers["sway"])
        self.assertEqual(fixed(5.0), Hit().ring_hz)


class Sizes(unittest.TestCase):
    def test_under_another_speed_or_pace_the_first_peak_is_still_the_swing(self) -> None:
        for speed in (0.3, 1.0, 3.0):
            shot = shot_with(
                layer(source=hit(at_start=True, ring_hz=4.0), swings={"pedestal": 2.0}, speed=fixed(speed)), fps=FPS
            )
            peaks = np.abs(fine(shot, 1.0, 60.0)[1][:, 4]).max()
            alone = np.abs(
                fine(
                    shot_with(layer(source=hit(at_start=True, ring_hz=4.0 * speed), swings={"pedestal": 2.0}), fps=FPS),
                    1.0,
                    60.0,
                )[1][:, 4]
            ).max()
            self.assertAlmostEqual(peaks, alone, delta=0.01 * alone)

    def test_the_same_way_each_time_and_down(self) -> None:
        for seed in range(20):
            stomps = hit(rhythm_hz=1.0, at_start=True, uneven=0.5, same_way=True)
            shot = shot_with(layer(source=stomps, seed=seed, swings={"pedestal": 2.0, "tilt": 1.0}), fps=FPS)
            first = contribution(shot, frames=np.linspace(1.0, 3.0, 50))
            self.assertLess(first[:, 4].min(), 0.0)
            self.assertEqual(first[:, 4].max(), 0.0)
            self.assertEqual(first[:, 1].max(), 0.0)
            for later in (25.0, 49.0, 73.0):  # each beat begins downwards
                step = np.diff(contribution(shot, frames=np.linspace(later - 14, later + 14, 1401))[:, 4])
                self.assertLess(step.min(), -0.5 * step.max())


class Beats(unittest.TestCase):
    def test_frames_far_apart_hear_what_the_whole_does(self) -> None:
        for rhythm in (0.7, 3.0, 9.0):
            shot = shot_with(
                layer(source=hit(rhythm_hz=rhythm, uneven=1.0, settle_s=0.4), swings={"pedestal": 2.0}),
                fps=FPS,
                last_frame=9000,
            )
            whole = contribution(shot)[:, 4]
            for frames in (
                np.array([3.0, 2500.0, 8999.0]),
                np.array([4000.0]),
                np.sort(np.random.default_rng(2).choice(np.arange(1.0, 9001.0), 60, False)),
            ):
                np.testing.assert_allclose(
                    contribution(shot, frames=frames)[:, 4], whole[frames.astype(int) - 1], atol=1e-9
                )

    def test_where_beats_are_too_fast_those_elsewhere_stay(self) -> None:
        """From 30 to 300 beats a second where 192 are eight a frame: a part of the shot is what it is in the whole."""
        rhythm = keyed((1, 1.0), (480, 10.0), interp="linear")
        for source in (
            hit(rhythm_hz=rhythm, settle_s=0.2),
            Gait(cadence_hz=keyed((1, 1.0), (480, 6.0), interp="linear"), surface="hard"),
        ):
            shot = shot_with(layer(source=source, swings={"pedestal": 2.0}, speed=fixed(50.0)), fps=FPS, last_frame=480)
            whole = contribution(shot)[:, 4]
            self.assertGreater(np.ptp(whole[:120]), 0.1)
            for first, stop in ((1, 121), (200, 260), (440, 481)):
                part = contribution(shot, frames=np.arange(first, stop, dtype=np.float64))[:, 4]
                np.testing.assert_allclose(part, whole[first - 1 : stop - 1], atol=1e-9)

    def test_beats_too_fast_to_be_seen_are_not_made(self) -> None:
        for source in (hit(rhythm_hz=10.0), Gait(cadence_hz=fixed(6.0), surface="hard")):
            shot = shot_with(
                layer(source=source, swings={"pedestal": 2.0}, speed=fixed(1000.0)),
                clip={"speed": fixed(1000.0)},
                fps=FPS,
                last_frame=240,
            )
            self.assertTrue(np.all(np.isfinite(contribution(shot))))
        self.assertFalse(contribution(shot_with(layer(source=hit(rhythm_hz=10.0), speed=fixed(1000.0)), fps=FPS)).any())


class FirstPeak(unittest.TestCase):
    def test_it_is_the_swing_over_many_seeds_also_all_the_same_way(self) -> None:
        for same_way in (False, True):
            for seed in range(80):
                source = Hit(ring_hz=fixed(4.0), settle_s=fixed(0.6), same_way=same_way)
                shot = shot_with(layer("hit", source, seed, {"pan": 2.0, "pedestal": 3.0}), last_frame=48)
                frames = np.linspace(1.0, 8.0, 1401)
                total = np.abs(evaluate(shot, frames).total)
                np.testing.assert_allclose(total[:, [0, 4]].max(axis=0), [2.0, 3.0], rtol=1e-4)

    def test_a_spread_makes_hits_smaller_by_up_to_that_part(self) -> None:
        peaks = []
        for seed in range(80):
            source = Hit(ring_hz=fixed(4.0), settle_s=fixed(0.6), way_spread=0.4)
            shot = shot_with(layer("hit", source, seed, {"pan": 2.0}), last_frame=48)
            peaks.append(float(np.abs(evaluate(shot, np.linspace(1.0, 8.0, 1401)).total[:, 0]).max()) / 2.0)
        self.assertTrue(0.599 < min(peaks) < 0.65 and 0.95 < max(peaks) <= 1.0001, (min(peaks), max(peaks)))
