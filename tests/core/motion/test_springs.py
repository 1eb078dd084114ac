import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.wave import Wave
from zittern.core.timebase import Fps

LOOSE = {"shift_stop_cm": 1e4, "turn_stop_deg": 180.0}
SHIFT = Springs(turn=False, shift_hz=1.2, shift_damping=0.3, **LOOSE)
TURN = Springs(shift=False, turn_hz=1.5, turn_damping=0.4, **LOOSE)
CART = Mount(id="cart", name="Cart")


def shot(springs: Springs | None, *layers: object, cart: Mount = CART, **fields: object) -> Shot:
    camera = Mount(id="camera", name="Camera", y_m=fixed(1.0), springs=springs)
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
        stray = moved(evaluate(shot(SHIFT.replace(shift_stop_cm=20.0), cart=jump)), 0) - moved(
            evaluate(shot(None, cart=jump)), 0
        )
        self.assertLess(np.max(np.abs(stray)), 0.2)
        self.assertGreater(np.max(np.abs(stray)), 0.18)

    def test_weight(self) -> None:
        jump = CART.replace(x_m=keyed((100, 0.0), (106, 1.0)))
        full, bare = (moved(evaluate(shot(each, cart=jump)), 0) for each in (SHIFT, None))
        half = moved(evaluate(shot(SHIFT.replace(weight=fixed(0.5)), cart=jump)), 0)
        np.testing.assert_allclose(half, 0.5 * (full + bare), atol=1e-9)


class Rotation(unittest.TestCase):
    def test_about_one_axis_it_is_the_same_spring(self) -> None:
        def angle(field: str, axis: int, springs: Springs | None) -> np.ndarray:
            cart = CART.replace(**{field: keyed((60, 0.0), (72, 40.0))})
            return evaluate(shot(springs, cart=cart)).pose.angles_deg[:, axis]

        def place(springs: Springs | None) -> np.ndarray:
            return moved(evaluate(shot(springs, cart=CART.replace(x_m=keyed((60, 0.0), (72, 40.0))))), 0)

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
        made = shot(Springs(), bob)
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
        slow = Springs(shift_hz=0.2, shift_damping=0.2, turn_hz=0.2, turn_damping=0.2)
        np.testing.assert_allclose(evaluate(shot(slow)).pose.position_m, [[0.0, 1.0, 0.0]] * 480, atol=1e-9)
        frames = np.arange(1.0, 481.0)
        wave = np.sin(frames / 9.0)
        cart = CART.replace(x_m=keyed(*zip(frames.tolist(), wave.tolist(), strict=True), interp="linear"))
        fast_cart = CART.replace(
            x_m=keyed(*zip((2 * frames - 1).tolist(), wave.tolist(), strict=True), interp="linear")
        )
        fast = shot(Springs(), cart=fast_cart, fps=Fps(num=48), last_frame=959)
        np.testing.assert_allclose(
            evaluate(fast).pose.position_m[::2], evaluate(shot(Springs(), cart=cart)).pose.position_m, atol=1e-4
        )

    def test_layers_on_the_mount_itself_are_carried_by_it_not_softened(self) -> None:
        shake = layer("shake", Wave(rate_hz=fixed(4.0)), 0, {"pedestal": 4.0}, target="camera")
        np.testing.assert_allclose(
            evaluate(shot(SHIFT, shake)).pose.position_m, evaluate(shot(None, shake)).pose.position_m, atol=1e-9
        )

    def test_a_muted_layer_changes_nothing_wherever_it_acts(self) -> None:
        cart = CART.replace(x_m=by_formula("2*sin(t*7)", fixed(0.0)))
        muted = layer("muted", seed=4, mute=True, span_frames=(60.3, 90.7))
        one, other = (
            evaluate(shot(SHIFT, muted.replace(target=target), cart=cart)).pose.position_m for target in ("cart", None)
        )
        np.testing.assert_array_equal(one, other)

    def test_a_held_mount_neither_moves_nor_gives(self) -> None:
        cart = CART.replace(x_m=keyed((1, 0.0), (480, 9.0)))
        made = shot(SHIFT, cart=cart)
        camera = made.mounts[1]
        np.testing.assert_allclose(
            moved(evaluate(made.replace(mounts=(cart.replace(mute=True), camera))), 0), 0.0, atol=1e-9
        )
        alone = evaluate(made.replace(mounts=(cart.replace(solo=True), camera)))
        np.testing.assert_allclose(alone.pose.position_m, evaluate(shot(None, cart=cart)).pose.position_m, atol=1e-12)
        self.assertEqual(alone.on.given, {})


def closed_form(t: np.ndarray, hz: float, z: float) -> np.ndarray:
    """The step response, written out once more: zero before the jump."""
    w = 2 * np.pi * hz
    s = np.maximum(t, 0.0)
    if z < 1:
        wd = w * np.sqrt(1 - z * z)
        x = 1 - np.exp(-z * w * s) * (np.cos(wd * s) - z * w / wd * np.sin(wd * s))
    elif z == 1:
        x = 1 - np.exp(-w * s) * (1 - w * s)
    else:
        p1, p2 = w * (z - np.sqrt(z * z - 1)), w * (z + np.sqrt(z * z - 1))
        x = 1 + (p1 * np.exp(-p1 * s) - p2 * np.exp(-p2 * s)) / (p2 - p1)
    return np.where(t < 0, 0.0, x)


def held(*points: tuple[float, float]) -> object:
    return keyed(*points, interp="hold")


class Jumps(unittest.TestCase):
    """A jump below springs starts them from where they are."""

    def test_the_closed_form_at_any_frame_rate_and_between_frames(self) -> None:
        for fps in (24, 25, 60):
            at = 1.0 + 3.37 * fps
            frames = np.linspace(1.0, 8.0 * fps, 1111)
            t = (frames - at) / fps
            for z in (0.3, 1.0, 2.2):
                moved_on = shot(
                    SHIFT.replace(shift_damping=z),
                    cart=CART.replace(x_m=held((1, 0.0), (at, 0.7))),
                    fps=Fps(num=fps),
                    last_frame=8 * fps,
                )
                np.testing.assert_allclose(
                    moved(evaluate(moved_on, frames), 0), 0.7 * closed_form(t, 1.2, z), atol=0.007, err_msg=f"{fps} {z}"
                )
                turned = shot(
                    TURN.replace(turn_damping=z),
                    cart=CART.replace(pan_deg=held((1, 0.0), (at, 8.0))),
                    fps=Fps(num=fps),
                    last_frame=8 * fps,
                )
                np.testing.assert_allclose(
                    evaluate(turned, frames).pose.angles_deg[:, 0],
                    8.0 * closed_form(t, 1.5, z),
                    atol=0.08,
                    err_msg=f"{fps} {z}",
                )

    def test_they_never_move_before_the_cause(self) -> None:
        spans = {"span_frames": (100.25, 180.5)}
        offset = layer("off", HandKeys(tracks=Tracks(pan=fixed(1.0), truck=fixed(40.0))), 0, {}, target="cart", **spans)
        for made in (
            shot(Springs(**LOOSE), cart=CART.replace(pan_deg=held((1, 0.0), (100.25, 1.0)))),
            shot(Springs(**LOOSE), offset),
        ):
            motion = evaluate(made, np.array([90.0, 100.0, 100.2, 100.2499, 100.25, 100.3]))
            np.testing.assert_allclose(motion.pose.angles_deg[:5, 0], 0.0, atol=1e-6)
            np.testing.assert_allclose(motion.pose.position_m[:5, 0], 0.0, atol=1e-8)
            self.assertGreater(motion.pose.angles_deg[5, 0], 1e-5)

    def test_formulas_jump_as_keys_do(self) -> None:
        at = 100.4
        by_text = shot(SHIFT, cart=CART.replace(x_m=by_formula(f"if f >= {at} then 0.7 else 0", fixed(0.0))))
        by_key = shot(SHIFT, cart=CART.replace(x_m=held((1, 0.0), (at, 0.7))))
        dial = Dial(name="push", value=held((1, 0.0), (at, 70.0)))
        by_dial = shot(SHIFT, cart=CART.replace(x_m=by_formula("push / 100", fixed(0.0))), dials=(dial,))
        frames = np.linspace(90.0, 140.0, 501)
        for made in (by_text, by_dial):
            np.testing.assert_allclose(
                evaluate(made, frames).pose.position_m, evaluate(by_key, frames).pose.position_m, atol=2e-4
            )

    def test_several_jumps_add_up_and_the_rest_is_followed_as_ever(self) -> None:
        keys = (60.0, 0.3), (61.5, -0.2), (130.0, 0.4)
        walk = layer("walk", Wave(rate_hz=fixed(0.5)), 0, {"truck": 30.0}, target="cart")
        both = evaluate(shot(SHIFT, walk, cart=CART.replace(x_m=held((1, 0.0), *keys))))
        wave, jumps = evaluate(shot(SHIFT, walk)), evaluate(shot(SHIFT, cart=CART.replace(x_m=held((1, 0.0), *keys))))
        np.testing.assert_allclose(moved(both, 0), moved(wave, 0) + moved(jumps, 0), atol=1e-5)
        np.testing.assert_allclose(
            moved(evaluate(shot(SHIFT, walk, cart=CART.replace(x_m=held((1, 0.0), *keys))), np.arange(50.0, 80.0)), 0),
            moved(both, 0)[49:79],
            atol=1e-12,
        )

    def test_a_cut_clip_below_springs_is_not_felt(self) -> None:
        bob = layer("bob", Wave(rate_hz=fixed(1.0)), 0, {"pedestal": 4.0}, target="cart")
        whole = shot(SHIFT, bob)
        cut = edited(whole, {"type": "split_clip", "clip": "main", "frame": 100})
        frames = np.linspace(90.0, 130.0, 321)
        np.testing.assert_allclose(
            evaluate(cut, frames).pose.position_m, evaluate(whole, frames).pose.position_m, atol=1e-6
        )


class Fast(unittest.TestCase):
    def test_a_12_hz_bob_through_12_hz_springs_keeps_its_size(self) -> None:
        z = 0.3
        springs = Springs(turn=False, shift_hz=12.0, shift_damping=z, **LOOSE)
        bob = layer("bob", Wave(rate_hz=fixed(12.0)), 0, {"pedestal": 1.0}, target="cart")
        frames = np.linspace(100.0, 148.0, 4001)
        got, bare = (np.ptp(moved(evaluate(shot(each, bob), frames), 1)) for each in (springs, None))
        self.assertAlmostEqual(got / bare / (np.sqrt(1 + 4 * z * z) / (2 * z)), 1.0, delta=0.02)


class Overdamped(unittest.TestCase):
    def test_the_first_frame_of_the_shot_does_not_matter(self) -> None:
        """Overdamped springs remember long: with layers on spans, what begins earlier is the same where both are
        seen.
        """
        springs = Springs(shift=False, turn_hz=0.3, turn_damping=5.0, **LOOSE)
        push = layer(
            "push",
            HandKeys(tracks=Tracks(pan=keyed((-4000, 0.0), (-3900, 40.0), (-2000, -30.0)))),
            0,
            {},
            target="cart",
            span_frames=(-5000.0, 9000.0),
        )
        late = shot(springs, push)
        early = late.replace(first_frame=-900)
        frames = np.arange(1.0, 240.0)
        np.testing.assert_allclose(
            evaluate(late, frames).pose.angles_deg[:, 0], evaluate(early, frames).pose.angles_deg[:, 0], atol=0.02
        )
