import json
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.errors import DocumentError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.shot.clips import Clock
from zittern.core.shot.shot import SCHEMA_VERSION, Shot, new_shot
from zittern.core.shot.upgrades import STEPS, read_shot, shot_from, write_shot

DATA = Path(__file__).parents[2] / "data"
ROOT = Path(__file__).parents[3]


class RoundTrip(unittest.TestCase):
    def test_reading_what_was_written(self) -> None:
        shot = edited(
            shot_with(layer(weight=keyed((1, 0.0), (9, 1.0)))),
            {"type": "add_layer", "source": "wave"},
            {"type": "set_keys", "keys": [{"at": "mount:camera.x_m", "frame": 3}]},
        )
        self.assertEqual(read_shot(write_shot(shot)), shot)


class Versions(unittest.TestCase):
    def test_one_old_file_for_every_version(self) -> None:
        for version in range(1, SCHEMA_VERSION + 1):
            shot = read_shot((DATA / f"shot-v{version}.shot.json").read_bytes())
            self.assertEqual(shot.schema_version, SCHEMA_VERSION)
            self.assertGreater(sum(1 for _ in shot.layers()), 0)

    def test_limits_of_dials_have_new_names(self) -> None:
        (dial,) = read_shot((DATA / "shot-v15.shot.json").read_bytes()).dials
        self.assertEqual((dial.name, dial.minimum, dial.maximum, dial.value.constant), ("panic", 10.0, 40.0, 20.0))

    def test_springs_and_ignored_findings_have_new_names(self) -> None:
        old = json.loads((DATA / "shot-v16.shot.json").read_text())
        name = old["mounts"][0]["id"]
        at = f"mount:{name}.give.turn_hz"
        old["meant"] = [{"check": "limits", "at": at, "amount": 2.0}, {"check": "twins", "at": None, "amount": 1.0}]
        shot = shot_from(old)
        (mount,) = (each for each in shot.mounts if each.springs is not None)
        self.assertEqual((mount.id, mount.springs.turn_hz), (name, 3.5))
        self.assertEqual([each.at for each in shot.ignored], [at.replace("give", "springs"), None])

    def test_what_was_far_out_of_reach_comes_to_the_edge(self) -> None:
        old = json.loads((DATA / "shot-v1.shot.json").read_text())
        old["mounts"][0]["pivot_m"] = [1e308, -2.0, 0.0]
        old["clips"][0]["layers"][0] |= {"span_frames": [-1e300, 5e7], "ramp_in_frames": 5.0}
        keys = [{"frame": 1, "value": 0.0, "interp": "free", "handle_out": [1.0, 1e308]}, {"frame": 9, "value": 1.0}]
        old["mounts"][0]["x_m"] = {"state": "keyed", "curve": {"keys": keys}}
        shot = shot_from(old)
        self.assertEqual(shot.mounts[0].pivot_m, (1e6, -2.0, 0.0))
        self.assertEqual(
            (shot.lanes[0].clips[0].layers[0].span_frames, shot.lanes[0].clips[0].layers[0].ramp_in_frames),
            ((-1e7, 1e7), 0.0),
        )
        self.assertTrue(np.all(np.isfinite(evaluate(shot).pose.position_m)))

    def test_clips_come_onto_lanes_of_their_own_and_move_as_before(self) -> None:
        old = json.loads((DATA / "shot-v2.shot.json").read_text())
        again = {**old["clips"][0]["layers"][0], "id": "again"}
        old["clips"].append({"id": "late", "name": "Later", "span_frames": [50, 90], "amount": 0.5, "layers": [again]})
        shot = shot_from(old)
        self.assertEqual(
            [(lane.id, [clip.id for clip in lane.clips]) for lane in shot.lanes],
            [("main", ["main"]), ("late", ["late"])],
        )
        motion = evaluate(shot)
        late = (motion.frames >= 50) & (motion.frames <= 90)
        np.testing.assert_allclose(
            motion.total - sum(motion.layers[each.id] for each in shot.lanes[0].clips[0].layers),
            motion.layers["again"],
            atol=1e-12,
        )
        self.assertTrue(np.any(motion.layers["again"][late]) and not np.any(motion.layers["again"][~late]))
        with self.assertRaisesRegex(DocumentError, "clips: expected a list"):
            shot_from(old | {"clips": 3})

    def test_origins_become_clocks_and_the_motion_stays(self) -> None:
        golden = json.loads((DATA / "golden/spans.shot.json").read_text())
        clip = next(clip for clip in shot_from(golden).clips() if clip.id == "c")
        self.assertEqual(clip.clock, Clock(start_frame=100.0))
        self.assertEqual(shot_from(golden), shot_from(golden))

    def test_an_old_shot_has_a_seed_of_its_own_the_same_each_time(self) -> None:
        old = json.loads((DATA / "shot-v7.shot.json").read_text())
        self.assertEqual(shot_from(old).seed, shot_from(json.loads(json.dumps(old))).seed)
        self.assertNotEqual(shot_from(old).seed, shot_from(old | {"name": "Another"}).seed)
        self.assertNotEqual(shot_from(old).seed, 0)

    def test_noise_without_a_seed_stays_the_same_on_all_axes(self) -> None:
        old = json.loads((DATA / "shot-v7.shot.json").read_text())
        text = "noise(t) + noise ( max(t, 1) ) - noise(f, 3) * noise(noise(u))"
        old["focal_mm"] = {"state": "formula", "text": "35 + noise(t)", "draft": text + " +", "before": None}
        number = shot_from(old).focal_mm
        self.assertEqual(number.text, "35 + noise(t, 0)")  # type: ignore[attr-defined]
        wanted = "noise(t, 0) + noise ( max(t, 1) , 0) - noise(f, 3) * noise(noise(u, 0), 0) +"
        self.assertEqual(number.draft, wanted)  # type: ignore[attr-defined]

    def test_every_step_is_there(self) -> None:
        self.assertEqual(set(STEPS), set(range(1, SCHEMA_VERSION)))

    def test_newer_and_foreign_documents(self) -> None:
        good = json.loads(write_shot(new_shot("A")))
        for change, pattern in (
            ({"schema_version": SCHEMA_VERSION + 1}, "a newer Zittern"),
            ({"schema_version": "1"}, "schema_version"),
            ({"schema_name": "something.else"}, "not a shot"),
            ({"wobble": 1}, "wobble: there is no such field"),
        ):
            with self.assertRaisesRegex(DocumentError, pattern):
                shot_from(good | change)

    def test_the_place_of_a_fault_is_named(self) -> None:
        bad = json.loads(write_shot(shot_with(layer())))
        bad["lanes"][0]["clips"][0]["layers"][0]["source"]["rate_hz"] = {"state": "fixed", "value": -3}
        with self.assertRaises(DocumentError) as caught:
            shot_from(bad)
        self.assertEqual(caught.exception.where, "lanes[0].clips[0].layers[0].source.rate_hz")
        self.assertIn("expected 0 to 500, got -3", caught.exception.message)

    def test_what_is_no_json(self) -> None:
        for text in ("", "{", "[]", "null", '"x"', b"\xff\xfe", "[" * 100_000):
            with self.assertRaises(DocumentError):
                read_shot(text)


class Schema(unittest.TestCase):
    def test_the_published_schema_is_up_to_date(self) -> None:
        published = json.loads((ROOT / "docs/shot.schema.json").read_text())
        published.pop("$schema")
        self.assertEqual(published, Shot.model_json_schema(), "run `make schema`")
