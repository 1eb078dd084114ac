import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.give import Give
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.wave import Wave
from zittern.core.timebase import Fps

LOOSE = {"shift_stop_cm": 1e4, "turn_stop_deg": 180.0}
SHIFT = Give(turn=False, shift_hz=1.2, shift_damping=0.3, **LOOSE)
TURN = Give(shift=False, turn_hz=1.5, turn_damping=0.4, **LOOSE)
CART = Mount(id="cart", name="Cart")


def shot(give: Give | None, *layers: object, cart: Mount = CART, **fields: object) -> Shot:
    camera = Mount(id="camera", name="Camera", y_m=fixed(1.0), give=give)
    return shot_with(*layers, mounts=(cart, camera), **{"last_frame": 480, **fields})  # type: ignore[arg-type]


def moved(motion: Motion, axis: int) -> np.ndarray:
    return motion.pose.position_m[:, axis]


class Translation(unittest.TestCase):
    def test_no_lag_at_constant_speed_and_a_over_w_squared_under_acceleration(self) -> None:
        steady = CART.replace(x_m=keyed((1, 0.0), (480, 20.0), interp="linear"))
        motion = evaluate(shot(SHIFT, cart=steady))
        np.testing.assert_allclose(moved(motion, 0)[200:470], 20.0 * np.arange(200, 470) / 479, atol=1e-6)
        frames = np.arange(1.0, 481.0)
        faster = CART.replace(x_m=keyed(*((f, 0.5 * 2.0 * ((f - 1) / 24.0) ** 2) for f in frames), interp="linear"))
        lag = ((frames - 1) / 24.0) ** 2 - moved(evaluate(shot(SHIFT, cart=faster)), 0)
        np.testing.assert_allclose(lag[200:470], 2.0 / (2 * np.pi * 1.2) ** 2, rtol=0.02)

    def test_a_stabiliser_isolates_bob_above_root_two_times_its_frequency(self) -> None:
        for r, isolates in ((0.5, False), (1.0, False), (2.0, True), (4.0, True)):
            bob = layer("bob", Wave(rate_hz=fixed(1.2 * r)), 0, {"pedestal": 4.0}, target="cart")
            got = np.ptp(moved(evaluate(shot(SHIFT, bob)), 1)[240:])
            bare = np.ptp(moved(evaluate(shot(None, bob)), 1)[240:])
            z = 0.3
            wanted = np.sqrt((1 + (2 * z * r) ** 2) / ((1 - r * r) ** 2 + (2 * z * r) ** 2))
            self.assertAlmostEqual(got / bare, wanted, delta=0.03 * wanted)
            self.assertEqual(got < bare, isolates)

    def test_it_stops_smoothly(self) -> None:
        jump = CART.replace(x_m=keyed((100, 0.0), (102, 3.0)))
        stray = moved(evaluate(shot(SHIFT.replace(shift_stop_cm=20.0), cart=jump)), 0) - moved(evaluate(shot(None, cart=jump)), 0)
        self.assertLess(np.max(np.abs(stray)), 0.2)
        self.assertGreater(np.max(np.abs(stray)), 0.18)

    def test_weight(self) -> None:
        jump = CART.replace(x_m=keyed((100, 0.0), (106, 1.0)))
        full, bare = (moved(evaluate(shot(each, cart=jump)), 0) for each in (SHIFT, None))
        half = moved(evaluate(shot(SHIFT.replace(weight=fixed(0.5)), cart=jump)), 0)
        np.testing.assert_allclose(half, 0.5 * (full + bare), atol=1e-9)


class Rotation(unittest.TestCase):
    def test_about_one_axis_it_is_the_same_spring(self) -> None:
        def angle(field: str, axis: int, give: Give | None) -> np.ndarray:
            cart = CART.replace(**{field: keyed((60, 0.0), (72, 40.0))})
            return evaluate(shot(give, cart=cart)).pose.angles_deg[:, axis]

        def place(give: Give | None) -> np.ndarray:
            return moved(evaluate(shot(give, cart=CART.replace(x_m=keyed((60, 0.0), (72, 40.0))))), 0)

        same = SHIFT.replace(shift_hz=1.5, shift_damping=0.4)
        for field, axis in (("pan_deg", 0), ("tilt_deg", 1), ("roll_deg", 2)):
            stray = angle(field, axis, TURN) - angle(field, axis, None)
            np.testing.assert_allclose(stray, place(same) - place(None), atol=1e-4)
            self.assertGreater(np.max(np.abs(stray)), 5.0)

    def test_straight_up_nothing_breaks(self) -> None:
        over = CART.replace(tilt_deg=keyed((1, 60.0), (240, 120.0)), pan_deg=keyed((1, 0.0), (240, 20.0)))
        motion = evaluate(shot(TURN, cart=over))
        self.assertLess(np.max(np.abs(np.diff(motion.pose.angles_deg, axis=0))), 5.0)


class Grid(unittest.TestCase):
    def test_a_part_is_the_whole_with_and_without_a_cache(self) -> None:
        bob = layer("bob", seed=3, target="cart")
        made = shot(Give(), bob)
        whole = evaluate(made)
        cache = Cache()
        for frames in (np.array([240.0]), np.arange(30.0, 60.0), np.array([99.5])):
            got = evaluate(made, frames, cache)
            near = whole.pose.position_m[frames.astype(int) - 1]
            if frames[0] % 1 == 0:
                np.testing.assert_allclose(got.pose.position_m, near, atol=1e-12)
            else:
                np.testing.assert_allclose(got.pose.position_m, near, atol=0.05)

    def test_it_has_settled_at_the_first_frame_and_the_frame_rate_does_not_matter(self) -> None:
        slow = Give(shift_hz=0.2, shift_damping=0.2, turn_hz=0.2, turn_damping=0.2)
        np.testing.assert_allclose(evaluate(shot(slow)).pose.position_m, [[0.0, 1.0, 0.0]] * 480, atol=1e-9)
        frames = np.arange(1.0, 481.0)
        wave = np.sin(frames / 9.0)
        cart = CART.replace(x_m=keyed(*zip(frames.tolist(), wave.tolist(), strict=True), interp="linear"))
        fast_cart = CART.replace(x_m=keyed(*zip((2 * frames - 1).tolist(), wave.tolist(), strict=True), interp="linear"))
        fast = shot(Give(), cart=fast_cart, fps=Fps(num=48), last_frame=959)
        np.testing.assert_allclose(evaluate(fast).pose.position_m[::2], evaluate(shot(Give(), cart=cart)).pose.position_m, atol=1e-4)

    def test_layers_on_the_mount_itself_are_carried_by_it_not_softened(self) -> None:
        shake = layer("shake", Wave(rate_hz=fixed(4.0)), 0, {"pedestal": 4.0}, target="camera")
        np.testing.assert_allclose(evaluate(shot(SHIFT, shake)).pose.position_m, evaluate(shot(None, shake)).pose.position_m, atol=1e-9)

    def test_a_held_mount_neither_moves_nor_gives(self) -> None:
        cart = CART.replace(x_m=keyed((1, 0.0), (480, 9.0)))
        made = shot(SHIFT, cart=cart)
        camera = made.mounts[1]
        np.testing.assert_allclose(moved(evaluate(made.replace(mounts=(cart.replace(mute=True), camera))), 0), 0.0, atol=1e-9)
        alone = evaluate(made.replace(mounts=(cart.replace(solo=True), camera)))
        np.testing.assert_allclose(alone.pose.position_m, evaluate(shot(None, cart=cart)).pose.position_m, atol=1e-12)
        self.assertEqual(alone.on.given, {})
