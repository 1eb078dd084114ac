"""Tags never lie: what has the same tag is the same, whatever was edited between."""

import gc
import random
import unittest
import weakref

import numpy as np

from tests.core.making import edited, layer, shot_with
from tools import fuzz_cache
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.sampled import Sampled, sample
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.point_readings import read
from zittern.core.readings.streams import STREAMS, streamed
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.springs import Springs
from zittern.core.shot.upgrades import read_shot, write_shot


def told(shot: Shot, cache: Cache | None = None) -> dict[str, tuple[str, np.ndarray]]:
    found = sample(shot, 1.0, None, cache or Cache())
    return {each.name: (each.array.tag, each.array.values) for each in streamed(shot, found)}


class Tags(unittest.TestCase):
    def test_equal_tags_are_equal_arrays_over_random_edits(self) -> None:
        same, other = 0, 0
        for number in range(3):
            rng = random.Random(number)
            shot = fuzz_cache.made(rng)
            cache, seen = Cache(), dict[tuple[str, str], np.ndarray]()
            for _ in range(6):
                told(shot, cache)  # with what is kept of the edits before
                for name, (tag, values) in told(shot).items():
                    before = seen.setdefault((name, tag), values)
                    if before is not values:
                        same += 1
                        np.testing.assert_allclose(before, values, rtol=0, atol=1e-7, err_msg=f"{number} {name}")
                    else:
                        other += 1
                shot = fuzz_cache.edited(shot, rng)
        self.assertGreater(min(same, other), 100)

    def test_an_edit_of_one_layer_leaves_the_others_their_tags(self) -> None:
        shot = shot_with(layer(), layer("fast", seed=2))
        changed = edited(shot, {"type": "set_values", "values": [{"at": "layer:fast.axes.pan.swing", "value": 0.9}]})
        before, after = told(shot), told(changed)
        differ = {name for name in before if before[name][0] != after[name][0]}
        self.assertEqual(differ, {"layer:fast", "moves:layer:fast", "moves:mount:camera", "sum", "pose", "flow"})

    def test_nothing_is_computed_that_nobody_looks_at(self) -> None:
        shot = shot_with(layer())
        found = list(streamed(shot, sample(shot, 1.0, None, Cache())))
        flow = next(each for each in found if each.name == "flow")
        self.assertNotIn("values", flow.array.__dict__)
        self.assertEqual(flow.array.values.shape, (240, 4))

    def test_nothing_is_kept_alive_by_a_ring_of_references(self) -> None:
        """A ring would keep all arrays of a motion until garbage is looked for, which is seldom."""
        mounts = (
            Mount(id="arm", name="Arm", springs=Springs(), x_m=keyed((1, 0.0), (60, 1.0))),
            Mount(id="head", name="Head"),
        )
        shot = shot_with(
            layer(target="head"), mounts=mounts, subject=Subject.at("Post", (0.0, 1.0, -5.0)), last_frame=60
        )
        gc.collect()
        gc.disable()
        self.addCleanup(gc.enable)
        found = sample(shot, 1.0, None, Cache())
        read(shot, found.near, 1.0)
        arrays = [each.array.values for each in streamed(shot, found)]
        alive = [weakref.ref(found.near.pose.position_m), weakref.ref(found.near.frames), *map(weakref.ref, arrays)]
        del found, arrays
        self.assertEqual([each() for each in alive if each() is not None], [])

    def test_pieces_are_put_in_order(self) -> None:
        shot = shot_with(layer(), last_frame=60)
        odd, even = evaluate(shot, np.arange(1.0, 61.0, 2.0)), evaluate(shot, np.arange(2.0, 61.0, 2.0))
        frames = np.arange(1.0, 61.0)
        order = np.argsort(np.concatenate([odd.frames, even.frames]))
        parts = {
            each.name: each.array.values for each in streamed(shot, Sampled(frames, (odd, even), order, (), odd, odd))
        }
        whole = told(shot)
        for name in ("pose", "sum", "layer:sway", "weight:sway", "rig:camera"):
            np.testing.assert_allclose(parts[name], whole[name][1], atol=1e-12, err_msg=name)


class Table(unittest.TestCase):
    def test_each_row_says_what_it_is_and_its_arrays_have_its_columns(self) -> None:
        self.assertEqual(len({row.name for row in STREAMS}), len(STREAMS))
        seen = set()
        for number in range(4):
            shot = fuzz_cache.made(random.Random(number))
            for each in streamed(shot, sample(shot, 1.0, None, Cache())):
                row = next(row for row in STREAMS if row.name == each.name.partition(":")[0])
                self.assertEqual(each.array.values.shape, (shot.frame_count, len(row.columns)), each.name)
                self.assertTrue(row.tells and all(row.columns))
                seen.add(row.name)
        self.assertEqual(seen, {row.name for row in STREAMS})


class KeptRows(unittest.TestCase):
    def test_readings_of_layers_are_those_of_a_document_that_was_just_read(self) -> None:
        compared = 0
        for number in range(2):
            rng = random.Random(100 + number)
            shot = fuzz_cache.made(rng)
            cache = Cache()
            for _ in range(6):
                motion = evaluate(shot, cache=cache)
                for frame in (1.0, 40.0):
                    fresh = read_shot(write_shot(shot))
                    self.assertEqual(read(shot, motion, frame).layers, read(fresh, motion, frame).layers)
                    compared += 1
                shot = fuzz_cache.edited(shot, rng)
        self.assertEqual(compared, 24)

    def test_what_reads_a_dial_or_the_span_is_read_anew(self) -> None:
        by_dial = edited(
            shot_with(layer(), dials=(Dial(name="panic", value=fixed(40.0)),)),
            {
                "type": "set_values",
                "values": [{"at": "layer:sway.axes.pan.swing", "value": {"state": "formula", "text": "panic / 100"}}],
            },
        )
        louder = edited(by_dial, {"type": "set_values", "values": [{"at": "dial:panic.value", "value": 80.0}]})
        swings = [read(shot, evaluate(shot), 10.0).layers[0].axes[0].swing for shot in (by_dial, louder, by_dial)]
        np.testing.assert_allclose(swings, [0.4, 0.8, 0.4])
        plain = shot_with(layer(swings={"pan": 0.5}))
        faster = edited(plain, {"type": "set_values", "values": [{"at": "clip:main.speed", "value": 2.0}]})
        rates = [read(shot, evaluate(shot), 10.0).layers[0].axes[0].rate_hz for shot in (plain, faster, plain)]
        np.testing.assert_allclose(rates, [0.6, 1.2, 0.6])
