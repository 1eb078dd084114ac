import io
import tempfile
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import command, rms
from tools.demo import deck, kite
from tools.demo.courier import STEP_HZ, place_m
from tools.demo.sets import SETS
from tools.demo.shots import SHOTS
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import subject_distance_m
from zittern.core.readings.framing import misses_px, report
from zittern.core.readings.point_readings import read
from zittern.demo.build import SHIPPED as SHIPPED_SHOTS
from zittern.demo.build import SLUGS, ensure_demo
from zittern.formats import shot_json
from zittern.store.library import Library
from zittern.store.sets import SHIPPED, set_file, set_ids


class Sets(unittest.TestCase):
    def test_the_shipped_files_are_what_the_code_makes(self) -> None:
        for set_id, make in SETS.items():
            self.assertEqual((SHIPPED / f"{set_id}.glb").read_bytes(), make(), "run `make sets`")

    def test_every_demo_shot_has_its_set(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for make in SHOTS.values():
                if make().plates:
                    continue
                self.assertIn(make().set_id, set_ids(Path(folder)))
                self.assertTrue(set_file(Path(folder), make().set_id).is_file())


class Shots(unittest.TestCase):
    def test_the_shipped_files_are_what_the_code_makes(self) -> None:
        self.assertEqual(tuple(SHOTS), SLUGS)
        self.assertEqual({path.name for path in SHIPPED_SHOTS.iterdir()}, {f"{slug}.shot.json" for slug in SLUGS})
        for slug, make in SHOTS.items():
            written = io.BytesIO()
            shot_json.write(make(), np.empty(0), (), written)
            self.assertEqual((SHIPPED_SHOTS / f"{slug}.shot.json").read_bytes(), written.getvalue(), "run `make shots`")

    def test_the_bare_walk_is_eight_seconds_without_shake(self) -> None:
        shot = SHOTS["jetty-walk"]()
        self.assertEqual((shot.frame_count, shot.fps.num), (192, 24))
        self.assertEqual(list(shot.layers()), [])
        self.assertTrue(np.all(evaluate(shot).total == 0))

    def test_the_handheld_copy_has_the_same_move_on_a_shoulder_in_step_with_the_courier(self) -> None:
        bare, held = SHOTS["jetty-walk"](), SHOTS["jetty-walk-handheld"]()
        self.assertEqual(held.mounts[0], bare.mounts[0])
        self.assertEqual([mount.name for mount in held.mounts], ["Camera", "Shoulder", "Hands"])
        self.assertIsNotNone(held.mounts[1].springs)
        steps = next(layer for _, layer in held.layers() if layer.source.kind == "gait")
        self.assertEqual((steps.target, steps.source.cadence_hz.constant), ("camera", STEP_HZ))  # type: ignore[attr-defined]
        moved = evaluate(held).pose.position_m - evaluate(held).bare.position_m
        hz = np.fft.rfftfreq(len(moved), 1 / 24)
        power = np.abs(np.fft.rfft(moved[:, 1] - moved[:, 1].mean()))
        self.assertAlmostEqual(hz[np.argmax(np.where(hz > 1.0, power, 0.0))], STEP_HZ, delta=0.15)
        typical = read(held, evaluate(held), 96).typical_px
        self.assertGreater(typical, 4)
        self.assertLess(typical, 30)

    def test_the_operator_chases_the_kite_through_two_turns_on_the_third_ahead_of_it(self) -> None:
        shot = SHOTS["kite-pass"]()
        motion = evaluate(shot)
        told = report(shot, motion)
        assert told is not None
        turns = [turn for turn in told.turns if any(abs(turn.frame - (1 + 24 * at)) < 8 for at in kite.TURNS_S)]
        self.assertEqual(len(turns), 2)
        for turn in turns:
            self.assertGreater(turn.lag_frames or 0.0, 3.0)
            self.assertLess(turn.lag_frames or 99.0, 20.0)
        inside = misses_px(shot, motion)[:, 2]
        self.assertGreater(np.mean(inside), 0.95)

    def test_the_camera_follows_the_courier_who_stays_in_the_picture(self) -> None:
        motion = evaluate(SHOTS["jetty-walk-handheld"]())
        shot = SHOTS["jetty-walk-handheld"]()
        feet = place_m((motion.frames - 1) / 24)
        for i in range(0, 192, 12):
            distance = subject_distance_m(shot, motion.frames[i], motion.pose.position_m[i])
            self.assertGreater(distance, 2.0)
            self.assertLess(distance, 5.0)
            pan = np.radians(motion.pose.angles_deg[i, 0])
            ahead = np.array([-np.sin(pan), -np.cos(pan)])
            to_courier = feet[i, [0, 2]] - motion.pose.position_m[i, [0, 2]]
            off_axis_deg = np.degrees(np.arccos(to_courier @ ahead / np.linalg.norm(to_courier)))
            self.assertLess(off_axis_deg, 27.0)  # half the horizontal field of the 35 mm lens

    def test_the_lamp_loops_and_stays_in_a_long_lens(self) -> None:
        shot = SHOTS["lamp-close"]()
        first, after = evaluate(shot, np.array([1.0, 241.0])).total
        np.testing.assert_allclose(after, first, atol=1e-9)
        motion = evaluate(shot)
        typical = read(shot, motion, 1).typical_px
        self.assertGreater(typical, 7.5)
        self.assertLess(typical, 45)
        self.assertEqual([layer.source.kind for _, layer in shot.layers()], ["drift", "breath", "tremor"])

    def test_panic_drives_three_clips_on_lanes_of_their_own(self) -> None:
        shot = SHOTS["signal-run"]()
        self.assertEqual(
            [[clip.name for clip in lane.clips] for lane in shot.lanes], [["Brisk walk"], ["Breath"], ["Panic"]]
        )
        self.assertEqual([clip.amount.reads for clip in shot.clips()], [{"panic"}] * 3)
        total = evaluate(shot).total
        self.assertGreater(rms(total[99:140]).max(), 1.5 * rms(total[:40]).max())

    def test_the_sled_is_reached_by_a_cross_fade(self) -> None:
        shot = SHOTS["sled-run"]()
        self.assertEqual(
            [[(clip.name, clip.span_frames) for clip in lane.clips] for lane in shot.lanes],
            [[("Washboard", (1, 132)), ("Shoulder, standing", (96, 168))]],
        )
        motion = evaluate(shot)
        rough, calm = (np.abs(np.diff(motion.total[part], axis=0)).max() for part in (slice(0, 90), slice(135, 168)))
        self.assertGreater(rough, 5 * calm)
        self.assertLess(subject_distance_m(shot, 168, motion.bare.position_m[-1]), 4.0)

    def test_the_empty_dune_has_nothing_yet(self) -> None:
        shot = SHOTS["empty-dune"]()
        self.assertEqual((list(shot.layers()), shot.mounts[0].x_m.constant), ([], 0.0))


class Ensuring(unittest.TestCase):
    def test_what_the_user_changed_is_left_alone(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            library = Library(Path(folder))
            self.assertTrue(ensure_demo(library))
            state = library.state("jetty-walk")
            library.edit("jetty-walk", state.revision, command(type="add_handheld"))
            library.remove_shot("jetty-walk-handheld")
            self.assertTrue(ensure_demo(library))
            self.assertFalse(ensure_demo(library))
            self.assertEqual(len(library.state("jetty-walk").document.lanes), 1)
            self.assertEqual(len(library.shots()), len(SLUGS))
            library.close()

    def test_the_mast_falls_and_the_camera_feels_it_as_late_as_the_planks_take(self) -> None:
        shot = SHOTS["mast-fall"]()
        self.assertLess(deck.fall_deg(np.array([0.5]))[0], 10.0)
        self.assertGreater(deck.fall_deg(np.array([deck.HITS_S]))[0], 85.0)
        self.assertAlmostEqual(shot.cues[0].frame, 1.0 + 24.0 * deck.HITS_S, places=6)
        frames = np.arange(1.0, 168.0, 0.1)
        hit = evaluate(shot, frames).layers["hit-1"]
        begun = frames[np.flatnonzero(np.abs(hit[:, 4]) > 1e-6)[0]]
        away = np.linalg.norm(
            np.array(shot.cues[0].place_m) - evaluate(shot, np.array([shot.cues[0].frame])).bare.position_m[0]
        )
        self.assertAlmostEqual(begun, shot.cues[0].frame + away / 60.0 * 24.0, delta=0.2)
        self.assertGreater(np.abs(hit[:, 1]).max(), 0.5)
