import unittest

import numpy as np
from scipy.integrate import solve_ivp
from scipy.signal import welch

from tests.core.making import contribution, layer, rms, shot_with
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.road import CLASSES, SUSPENSIONS, WAVENUMBERS, Road, _sines, amplitudes_m

FPS = 60
TWO = {"pan": 2.0, "tilt": 2.0, "roll": 2.0, "truck": 2.0, "pedestal": 2.0, "dolly": 2.0}


def road(**fields: object) -> Road:
    """With all of its hills, unless a test says otherwise."""
    return Road.model_validate({"high_pass_hz": 0.0, **fields})


def rolling(source: Road, seconds: float = 60.0, **fields: object) -> Shot:
    return shot_with(layer(source=source, swings=TWO), fps=FPS, last_frame=int(seconds * FPS), **fields)


def along(*points: tuple[float, float]) -> tuple[Mount]:
    track = keyed(*((1.0 + s * FPS, -m) for s, m in points), interp="linear")
    return (Mount(id="camera", name="Camera", y_m=fixed(1.6), z_m=track),)


class Profile(unittest.TestCase):
    def test_its_spectrum_lies_within_the_class(self) -> None:
        """The mean of many roads, by octave of wavenumber, is within the class: half to twice its middle."""
        step_m, metres = 0.1, 4096 * 0.1
        way = np.arange(0.0, metres, step_m)
        for name in "ADH":
            middle, power = CLASSES[name], np.zeros(513)
            for seed in range(12):
                n, starts = _sines(np.array([seed], dtype=np.uint64), "mean")
                height = (amplitudes_m(name, n) * np.sin(2 * np.pi * (way[:, None] * n + starts))).sum(axis=1)
                wavenumber, found = welch(height, fs=1 / step_m, nperseg=1024, detrend="linear")
                power += found / 12
            for low in (0.05, 0.1, 0.2, 0.4, 0.8):
                octave = (wavenumber >= low) & (wavenumber < 2 * low)
                expected = middle * 1e-6 * (wavenumber[octave] / 0.1) ** -2
                self.assertTrue(0.5 < power[octave].mean() / expected.mean() < 2.0, f"class {name} at {low}")
        self.assertLess(WAVENUMBERS[0], 0.05)


class Wheels(unittest.TestCase):
    def test_the_body_answers_as_the_equations_of_motion_say(self) -> None:
        """Against a naive integration of both masses over one sine of road."""
        for springs in SUSPENSIONS.values():
            k, c = (2 * np.pi * springs.body_hz) ** 2, 2 * springs.damping * 2 * np.pi * springs.body_hz
            mu = springs.mass_ratio
            tyre = mu * (2 * np.pi * springs.wheel_hz) ** 2 - k
            for f in (0.5, springs.body_hz, 3.0, springs.wheel_hz):

                def motion(
                    t: float,
                    x: np.ndarray,
                    f: float = f,
                    k: float = k,
                    c: float = c,
                    mu: float = mu,
                    tyre: float = tyre,
                ) -> tuple[float, ...]:
                    spring = k * (x[1] - x[0]) + c * (x[3] - x[2])
                    return x[2], x[3], spring, (tyre * (np.sin(2 * np.pi * f * t) - x[1]) - spring) / mu

                times = np.linspace(20.0, 24.0, 2000)
                body = solve_ivp(motion, (0.0, 24.0), np.zeros(4), "DOP853", times, rtol=1e-8, atol=1e-10).y[0]
                answer = springs.response(np.array([f]))[0]
                np.testing.assert_allclose(
                    body, np.abs(answer) * np.sin(2 * np.pi * f * times + np.angle(answer)), atol=0.01
                )

    def test_it_resonates_where_the_body_does_and_a_slow_wave_lifts_it_as_it_is(self) -> None:
        f = np.linspace(0.05, 30.0, 6000)
        for springs in SUSPENSIONS.values():
            gain = np.abs(springs.response(f))
            self.assertAlmostEqual(gain[0], 1.0, delta=0.01)
            # The tyre gives too: spring and tyre in a row.
            k = (2 * np.pi * springs.body_hz) ** 2
            tyre = springs.mass_ratio * (2 * np.pi * springs.wheel_hz) ** 2 - k
            self.assertLess(abs(f[np.argmax(gain)] / (springs.body_hz * np.sqrt(tyre / (k + tyre))) - 1.0), 0.1)
            self.assertLess(gain[-1], 0.3)

    def test_what_is_seen_peaks_near_the_body_and_falls_off_above(self) -> None:
        up = contribution(rolling(road(springs="soft", speed_m_s=25.0), 120.0))[:, 4]
        frequency, power = welch(up, fs=FPS, nperseg=2048)
        acceleration = power * frequency**4
        inside = (frequency > 0.3) & (frequency < 6.0)
        self.assertAlmostEqual(frequency[inside][np.argmax(acceleration[inside])], 1.1, delta=0.35)


class Rolling(unittest.TestCase):
    def test_unit_size_at_the_reference_and_twice_from_class_to_class(self) -> None:
        sizes = {name: rms(contribution(rolling(road(roughness=name))))[[1, 2, 4]] for name in "BCD"}
        np.testing.assert_allclose(sizes["C"], 1.0, atol=0.3)
        np.testing.assert_allclose(sizes["D"] / sizes["C"], 2.0, atol=1e-6)
        np.testing.assert_allclose(sizes["C"] / sizes["B"], 2.0, atol=1e-6)

    def test_standing_still_gives_nothing_and_stopping_is_soft(self) -> None:
        self.assertFalse(contribution(rolling(road(speed_m_s=0.0), 2.0)).any())
        self.assertFalse(contribution(rolling(road(follows="the path"), 5.0)).any())
        values = contribution(
            rolling(road(follows="the path"), 30.0, mounts=along((0, 0), (10, 80), (20, 80), (30, 160)))
        )
        np.testing.assert_allclose(values[11 * FPS : 19 * FPS], 0.0, atol=1e-6)
        self.assertTrue(np.all(rms(values[: 9 * FPS])[[1, 2, 4]] > 0.1))

    def test_the_rear_axle_follows_a_wheelbase_behind(self) -> None:
        """With a very short wheelbase the body hardly pitches less per metre of it than the slope of the road says;
        heave is the road's.
        """
        short, long = (contribution(rolling(road(wheelbase_m=base, springs="firm")))[:, 4] for base in (0.3, 12.0))
        self.assertGreater(np.std(np.diff(short)), 1.3 * np.std(np.diff(long)))

    def test_ripples_are_met_as_often_as_the_speed_says(self) -> None:
        for ripples, wave_m in (("short", 0.55), ("long", 0.9)):
            up = contribution(
                rolling(road(roughness="A", ripples=ripples, speed_m_s=5.0, springs="hardly any", wheelbase_m=wave_m))
            )[:, 4]
            frequency, power = welch(up, fs=FPS, nperseg=1024)
            high = frequency > 4.8
            self.assertAlmostEqual(frequency[high][np.argmax(power[high])], 5.0 / wave_m, delta=0.1)
            self.assertAlmostEqual(
                float(road(ripples=ripples, speed_m_s=5.0).peak_hz(shot_with().scope(1.0))[0]), 5.0 / wave_m, places=9
            )

    def test_any_frames(self) -> None:
        shot = rolling(road(follows="the path", ripples="long"), 60.0, mounts=along((0, 0), (20, 90), (60, 120)))
        np.testing.assert_allclose(
            contribution(shot, frames=np.arange(2000.0, 2030.0)), contribution(shot)[1999:2029], atol=1e-9
        )

    def test_at_a_steady_speed_many_frames_together_are_what_few_are(self) -> None:
        """Many even steps are taken in blocks, few one by one."""
        for ripples in ("none", "short"):
            shot = rolling(road(ripples=ripples, speed_m_s=7.3), 60.0)
            whole = contribution(shot)
            for first in (0, 700, len(whole) - 90):
                frames = np.arange(first, first + 90.0) + shot.first_frame
                np.testing.assert_allclose(contribution(shot, frames=frames), whole[first : first + 90], atol=1e-9)
            self.assertGreater(float(np.abs(whole).max()), 0.1)

    def test_the_swing_is_twice_the_rms_at_class_c_whatever_the_speed(self) -> None:
        for fields in (
            {"speed_m_s": 4.0},
            {"speed_m_s": 30.0, "springs": "firm"},
            {"speed_m_s": 5.7, "springs": "hardly any", "wheelbase_m": 1.6, "ripples": "short"},
        ):
            sizes = np.mean(
                [
                    rms(
                        contribution(
                            shot_with(layer(source=road(**fields), seed=seed, swings=TWO), fps=FPS, last_frame=6000)
                        )
                    )
                    for seed in range(6)
                ],
                axis=0,
            )
            np.testing.assert_allclose(sizes[[1, 2, 4]], 1.0, atol=0.2, err_msg=str(fields))

    def test_under_another_layer_speed_it_keeps_its_size(self) -> None:
        one, other = (
            rms(
                contribution(shot_with(layer(source=road(), swings=TWO, speed=fixed(speed)), fps=FPS, last_frame=8000))
            )[[1, 2, 4]]
            for speed in (1.0, 3.0)
        )
        np.testing.assert_allclose(one, other, rtol=0.2)


class Hills(unittest.TestCase):
    def test_those_below_the_cutoff_do_not_use_up_the_swing(self) -> None:
        for speed in (2.0, 6.0, 14.0):
            slow, whole = [], []
            for seed in range(12):
                source = road(speed_m_s=fixed(speed), high_pass_hz=0.3)
                shot = shot_with(layer(source=source, swings=TWO, seed=seed), fps=FPS, last_frame=60 * FPS)
                power = np.abs(np.fft.rfft(contribution(shot)[:, 4])) ** 2
                rates = np.fft.rfftfreq(60 * FPS, 1.0 / FPS)
                slow.append(power[(rates > 0.0) & (rates < 0.15)].sum() / power.sum())
                whole.append(rms(contribution(shot))[4])
            self.assertLess(float(np.mean(slow)), 0.05, speed)
            self.assertAlmostEqual(float(np.sqrt(np.mean(np.square(whole)))), 1.0, delta=0.2)
