import gc
import threading
import unittest
import weakref

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making import edited, layer, over, shot_with
from zittern.core.axes import no_offsets
from zittern.core.motion import evaluate as evaluate_module
from zittern.core.motion import layers as layers_module
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate, evaluate_in_parts, joined
from zittern.core.motion.mixing import active
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.rig import rotations
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.formulas import Formulas
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.take import Recording, Take, Track
from zittern.core.sources.wave import Phases, Wave
from zittern.core.timebase import frame_grid

CRANE = (
    Mount(id="crane", name="Crane", x_m=1.0, y_m=2.0, pan_deg=keyed((1, 0.0), (240, 90.0)), pivot_m=(0.0, 0.0, -1.0)),
    Mount(id="head", name="Head", z_m=-3.0, tilt_deg=-20.0),
)


def naive_pose(shot: Shot, frame: float, offsets: dict[str, np.ndarray]) -> np.ndarray:
    """tf_world_lens of one frame, written out."""

    def local(mount: Mount) -> np.ndarray:
        at = np.array([frame])
        tf = np.eye(4)
        tf[:3, :3] = rotations.matrices(mount.angles_deg(over(at)))[0]
        pivot = np.array(mount.pivot_m)
        tf[:3, 3] = mount.position_m(over(at))[0] + pivot - tf[:3, :3] @ pivot
        return tf

    def offset(row: np.ndarray) -> np.ndarray:
        tf = np.eye(4)
        tf[:3, :3] = rotations.matrices(row[None, :3])[0]
        tf[:3, 3] = [row[3] / 100, row[4] / 100, -row[5] / 100]
        return tf

    tf = np.eye(4)
    for mount in shot.mounts:
        tf = tf @ local(mount)
        if mount.id in offsets:
            tf = tf @ offset(offsets[mount.id])
    return tf @ offset(offsets[""]) if "" in offsets else tf


class Poses(unittest.TestCase):
    def test_no_layers_means_the_bare_move(self) -> None:
        motion = evaluate(shot_with(mounts=CRANE))
        np.testing.assert_array_equal(motion.pose.position_m, motion.bare.position_m)
        np.testing.assert_array_equal(motion.total, 0)

    def test_mount_chain_and_layer_targets_against_a_naive_product(self) -> None:
        shot = shot_with(layer("base", target="crane"), layer("lens", seed=2), mounts=CRANE)
        motion = evaluate(shot)
        for i in (0, 77, 239):
            rows = {target: values[i] for target, values in motion.offsets.items()}
            expected = naive_pose(shot, motion.frames[i], rows)
            np.testing.assert_allclose(motion.pose.position_m[i], expected[:3, 3], atol=1e-12)
            np.testing.assert_allclose(
                rotations.matrices(motion.pose.angles_deg[i : i + 1])[0], expected[:3, :3], atol=1e-12
            )

    def test_a_layer_on_the_lens_pans_in_the_picture_whatever_the_rig_does(self) -> None:
        still = Wave(rate_hz=0.0, phase_deg=Phases(pan=90.0))
        tilted = (Mount(id="head", name="Head", roll_deg=90.0),)
        motion = evaluate(shot_with(layer(source=still, swings={"pan": 10.0}), mounts=tilted, last_frame=2))
        # Rolled by 90 degrees, a pan to the left on screen looks down or up in the world, not sideways.
        self.assertAlmostEqual(abs(motion.pose.angles_deg[0, 1]), 10 / 2 * np.sqrt(2), places=9)

    def test_angles_stay_continuous_through_whole_turns(self) -> None:
        spin = (Mount(id="camera", name="Camera", pan_deg=keyed((1, 0.0), (240, 1000.0), interp="linear")),)
        pan = evaluate(shot_with(layer(), mounts=spin)).pose.angles_deg[:, 0]
        self.assertLess(np.abs(np.diff(pan)).max(), 10)
        self.assertGreater(pan[-1], 990)

    def test_zoom_is_a_share_of_the_focal_length(self) -> None:
        still = Wave(rate_hz=0.0, phase_deg=Phases(zoom=90.0))
        motion = evaluate(shot_with(layer(source=still, swings={"zoom": 10.0}), focal_mm=50.0, last_frame=2))
        self.assertAlmostEqual(motion.pose.focal_mm[0], 50 * (1 + 0.1 / np.sqrt(2)), places=9)
        self.assertEqual(motion.bare.focal_mm[0], 50.0)


class Layers(unittest.TestCase):
    def test_weight_speed_and_amount_multiply(self) -> None:
        plain = evaluate(shot_with(layer())).layers["sway"]
        scaled = evaluate(shot_with(layer(weight=0.5), clip={"amount": 0.4})).layers["sway"]
        np.testing.assert_allclose(scaled, 0.2 * plain, atol=1e-12)
        faster = evaluate(shot_with(layer(speed=2.0)), np.array([1.0, 13.0, 61.0])).layers["sway"]
        at_twice_the_time = evaluate(shot_with(layer()), np.array([1.0, 25.0, 121.0])).layers["sway"]
        np.testing.assert_allclose(faster, at_twice_the_time, atol=1e-12)

    def test_a_clip_moved_in_time_takes_its_shake_along(self) -> None:
        early = evaluate(shot_with(layer(), clip={"span_frames": (20, 80)})).layers["sway"]
        late = evaluate(shot_with(layer(), clip={"span_frames": (50, 110)})).layers["sway"]
        np.testing.assert_allclose(late[49:110], early[19:80], atol=1e-12)
        self.assertTrue(np.all(early[:19] == 0) and np.all(early[80:] == 0))

    def test_mute_solo_and_what_is_silent(self) -> None:
        a, b, c = layer("a"), layer("b", seed=2), layer("c", seed=3, mute=True)
        self.assertEqual(active(shot_with(a, b, c)), {"a", "b"})
        soloed = shot_with(a.replace(solo=True), b, c)
        motion = evaluate(soloed)
        self.assertEqual((set(motion.layers), set(motion.silent)), ({"a"}, {"b", "c"}))
        np.testing.assert_array_equal(motion.total, motion.layers["a"])
        self.assertEqual(active(shot_with(a, b, clip={"mute": True})), set())

    def test_replace_pushes_back_what_is_under_it_by_its_weight(self) -> None:
        under, over = layer("under"), layer("over", seed=2, mode="replace", weight=0.25, swings={"pan": 1.0})
        motion, alone = evaluate(shot_with(under, over)), evaluate(shot_with(under))
        np.testing.assert_allclose(motion.layers["under"][:, 0], 0.75 * alone.layers["under"][:, 0], atol=1e-12)
        np.testing.assert_array_equal(motion.layers["under"][:, 1], alone.layers["under"][:, 1])
        double = evaluate(shot_with(under, over.replace(weight=fixed(2.0))))
        np.testing.assert_array_equal(double.layers["under"][:, 0], 0.0)

    def test_steady_holds_for_takes_keys_and_formulas_too(self) -> None:
        zooming = {"focal_mm": keyed((1, 25.0), (240, 100.0))}
        samples = Track.of(np.sin(np.arange(600) / 9.0))
        sources = (
            HandKeys(tracks=Tracks(pan=fixed(2.0), truck=fixed(3.0))),
            Formulas(tracks=Tracks(pan=by_formula("sin(t)", fixed(0.0)))),
            Take(recording=Recording(pan=samples, truck=samples)),
        )
        for source in sources:
            plain, steady = (
                evaluate(shot_with(layer(source=source, swings={}, steady=on), **zooming)) for on in (False, True)
            )
            focal = zooming["focal_mm"].sample(shot_with(**zooming).scope(plain.frames))
            np.testing.assert_allclose(
                steady.layers["sway"][:, 0] * focal, plain.layers["sway"][:, 0] * 25.0, atol=1e-9, err_msg=source.kind
            )
            np.testing.assert_array_equal(steady.layers["sway"][:, 3], plain.layers["sway"][:, 3])

    def test_noise_in_a_formula_differs_by_axis_unless_a_seed_is_given(self) -> None:
        for text, alike in (("noise(t)", False), ("noise(t, 4)", True)):
            tracks = Tracks(**{axis: by_formula(text, fixed(0.0)) for axis in ("pan", "tilt", "roll")})
            values = evaluate(shot_with(layer(source=Formulas(tracks=tracks), swings={}), last_frame=4000)).layers[
                "sway"
            ][:, :3]
            r = np.abs(np.corrcoef(values.T) - np.eye(3)).max()
            self.assertTrue(r > 0.999 if alike else r < 0.15, f"{text}: {r}")

    def test_steady_keeps_the_size_in_the_picture_while_the_lens_zooms(self) -> None:
        zooming = {"focal_mm": keyed((1, 25.0), (240, 100.0))}
        plain, steady = (evaluate(shot_with(layer(steady=on), **zooming)) for on in (False, True))
        focal = plain.bare.focal_mm
        np.testing.assert_allclose(
            steady.layers["sway"][:, :2] * focal[:, None], plain.layers["sway"][:, :2] * 25.0, atol=1e-9
        )
        # Roll has the same size through any lens.
        np.testing.assert_array_equal(steady.layers["sway"][:, 2:], plain.layers["sway"][:, 2:])
        rolled = evaluate(shot_with(layer(steady=True, steady_roll=True), **zooming)).layers["sway"]
        np.testing.assert_allclose(rolled[:, 2] * focal, plain.layers["sway"][:, 2] * 25.0, atol=1e-9)

    def test_axes_switched_off_give_nothing(self) -> None:
        shot = edited(
            shot_with(layer()), {"type": "set_values", "values": [{"at": "layer:sway.axes.pan.on", "value": False}]}
        )
        values = evaluate(shot).layers["sway"]
        self.assertTrue(np.all(values[:, 0] == 0) and np.any(values[:, 1] != 0))

    def test_clips_of_two_lanes_add(self) -> None:
        one, other = (Clip(id=i, name=i, layers=(layer(i, seed=s),)) for s, i in enumerate(("a", "b")))
        motion = evaluate(shot_with(lanes=(Lane.of(one), Lane.of(other))))
        np.testing.assert_allclose(motion.offsets[""], motion.layers["a"] + motion.layers["b"], atol=1e-15)


class Total(unittest.TestCase):
    def test_it_is_the_sum_of_all_layers_wherever_they_act(self) -> None:
        cart = Mount(id="cart", name="Cart")
        camera = Mount(id="camera", name="Camera")
        everywhere = [layer(f"l{n}", seed=n, target=target) for n, target in enumerate(("cart", "camera", None))]
        for count in (0, 1, 2, 3):
            motion = evaluate(shot_with(*everywhere[:count], mounts=(cart, camera)))
            wanted = sum(motion.layers.values(), no_offsets(motion.frames))
            np.testing.assert_allclose(motion.total, wanted, atol=1e-12)


class Consistency(unittest.TestCase):
    SHOT = shot_with(
        layer(speed=keyed((1, 0.5), (240, 3.0))), layer("fast", seed=2, weight=keyed((1, 0.0), (99, 1.0))), mounts=CRANE
    )

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.floats(1, 240), min_size=1, max_size=12))
    def test_any_frames_in_any_order_alone_or_together(self, frames: list[float]) -> None:
        together = evaluate(self.SHOT, np.array(frames))
        for i, frame in enumerate(frames):
            alone = evaluate(self.SHOT, np.array([frame]))
            np.testing.assert_allclose(alone.pose.position_m[0], together.pose.position_m[i], atol=1e-9)
            np.testing.assert_allclose(alone.pose.angles_deg[0], together.pose.angles_deg[i], atol=1e-9)

    def test_in_parts_is_the_same(self) -> None:
        frames = frame_grid(1, 240, 0.5)
        whole, parts = evaluate(self.SHOT, frames), joined(list(evaluate_in_parts(self.SHOT, frames, 100)))
        np.testing.assert_allclose(parts.pose.angles_deg, whole.pose.angles_deg, atol=1e-9)
        np.testing.assert_allclose(parts.total, whole.total, atol=1e-9)

    def test_a_cache_changes_nothing_but_the_work(self) -> None:
        cache = Cache()
        evaluate(self.SHOT, cache=cache)
        for change in (
            {"at": "layer:sway.axes.pan.swing", "value": 0.9},
            {"at": "layer:sway.seed", "value": 77},
            {"at": "layer:fast.mute", "value": True},
            {"at": "clip:main.speed", "value": 2.0},
            {"at": "mount:crane.y_m", "value": 5.0},
            {"at": "shot.fps", "value": 30},
            {"at": "shot.focal_mm", "value": 85},
        ):
            shot = edited(self.SHOT, {"type": "set_values", "values": [change]})
            cached, fresh = evaluate(shot, cache=cache), evaluate(shot)
            np.testing.assert_array_equal(cached.pose.position_m, fresh.pose.position_m, err_msg=str(change))
            np.testing.assert_array_equal(cached.total, fresh.total, err_msg=str(change))
            np.testing.assert_array_equal(cached.pose.focal_mm, fresh.pose.focal_mm)

    def test_the_cache_reuses_arrays_and_stays_within_its_size(self) -> None:
        cache = Cache(most_bytes=100_000)
        first = evaluate(self.SHOT, cache=cache)
        for seed in range(30):
            evaluate(shot_with(layer(seed=seed)), cache=cache)
        self.assertLessEqual(cache.bytes, 100_000)
        np.testing.assert_array_equal(evaluate(self.SHOT, cache=cache).total, first.total)

    def test_several_evaluations_share_a_cache_at_once(self) -> None:
        cache, expected = Cache(), evaluate(self.SHOT).total
        found: list[bool] = []

        def look() -> None:
            found.extend(np.array_equal(evaluate(self.SHOT, cache=cache).total, expected) for _ in range(5))

        threads = [threading.Thread(target=look) for _ in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(found, [True] * 30)

    def test_in_parts_each_keyed_rate_is_integrated_once(self) -> None:
        shot, calls = shot_with(layer(speed=keyed((1, 0.5), (2000, 3.0))), last_frame=2000), []
        make = layers_module.phase_table
        layers_module.phase_table = lambda *args: calls.append(args) or make(*args)  # type: ignore[func-returns-value]
        self.addCleanup(setattr, layers_module, "phase_table", make)
        parts = joined(list(evaluate_in_parts(shot, frame_grid(1, 2000), 100)))
        self.assertEqual(len(calls), 1)
        np.testing.assert_allclose(parts.total, evaluate(shot).total, atol=1e-9)

    def test_nothing_keeps_an_evaluation_alive(self) -> None:
        gc.disable()
        self.addCleanup(gc.enable)
        caches: list[weakref.ref[Cache]] = []

        class Watched(Cache):
            def __init__(self, most_bytes: int) -> None:
                super().__init__(most_bytes)
                caches.append(weakref.ref(self))

        evaluate_module.Cache = Watched  # type: ignore[misc]
        self.addCleanup(setattr, evaluate_module, "Cache", Cache)
        for _ in evaluate_in_parts(self.SHOT, frame_grid(1, 240), 50):
            pass
        self.assertEqual([each() for each in caches], [None] * len(caches))
        self.assertTrue(caches)

    def test_a_hundred_thousand_frames_work(self) -> None:
        motion = evaluate(shot_with(layer(), last_frame=100_000))
        self.assertEqual(motion.pose.position_m.shape, (100_000, 3))
        self.assertTrue(np.all(np.isfinite(motion.pose.angles_deg)))
