import unittest

import numpy as np

from tests.core.making import edited
from zittern.core.edits.parts import find_clip
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.presets.softening import softened
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.sources.hit import Hit
from zittern.store.shipped import shipped_presets


def placed(key: str, *, seed: int = 1, **fields: object) -> Shot:
    preset = shipped_presets()[key]
    return edited(new_shot("Shot", seed=seed), {"type": "place_preset", "preset": preset, "key": key, **fields})


def clip_of(shot: Shot) -> Clip:
    return find_clip(shot, "clip-1")


class Ends(unittest.TestCase):
    def test_part_way_nothing_pops(self) -> None:
        """At the frame where it begins and where it ends a preset is no larger than it grows in a frame anyway."""
        for key, preset in shipped_presets().items():
            if any(isinstance(layer.source, Hit) for layer in preset.layers):
                continue
            for seed in range(3):
                shot = placed(key, seed=seed, first_frame=97.0, last_frame=190.0)
                total = evaluate(shot).total
                usual = np.abs(np.diff(total[110:180], axis=0)).max(axis=0) + 1e-9
                for edge in (95, 189):
                    self.assertTrue(
                        np.all(np.abs(np.diff(total[edge : edge + 3], axis=0)).max(axis=0) <= 1.2 * usual),
                        f"{preset.name} {edge}",
                    )

    def test_as_long_as_a_quarter_of_the_slowest_period_within_bounds(self) -> None:
        self.assertEqual(
            clip_of(placed("small-boat", first_frame=49.0, last_frame=200.0)).ramp_in_frames, 24.0
        )  # 0.24 Hz: a second at most
        self.assertEqual(
            clip_of(placed("washboard", first_frame=49.0, last_frame=60.0)).ramp_in_frames, 3.0
        )  # a quarter of the clip at most

    def test_by_how_slow_it_is_where_it_begins(self) -> None:
        shot = placed("small-boat", first_frame=49.0, last_frame=400.0)
        clip = clip_of(shot).replace(ramp_in_frames=0.0, ramp_out_frames=0.0)
        found = []
        for first, last in ((1.0, 1.0), (8.0, 1.0), (1.0, 8.0)):
            speed = keyed((49, first), (400, last))
            faster = clip.replace(layers=tuple(layer.replace(speed=speed) for layer in clip.layers))
            found.append(softened(shot, faster).ramp_in_frames)
        self.assertEqual((found[0], found[2], found[1] < found[0]), (24.0, 24.0, True))

    def test_none_at_the_ends_of_the_shot_and_over_all_of_it(self) -> None:
        self.assertEqual(clip_of(placed("small-boat")).ramp_in_frames, 0.0)
        clip = clip_of(placed("small-boat", first_frame=1.0, last_frame=100.0))
        self.assertEqual((clip.ramp_in_frames, clip.ramp_out_frames > 0), (0.0, True))

    def test_none_where_a_neighbour_is_overlapped(self) -> None:
        boat = shipped_presets()["small-boat"]
        shot = placed("small-boat", first_frame=1.0, last_frame=100.0)
        both = edited(
            shot,
            {
                "type": "place_preset",
                "preset": boat,
                "first_frame": 80.0,
                "last_frame": 200.0,
                "lane": shot.lanes[0].id,
            },
        )
        clip = find_clip(both, "clip-2")
        self.assertEqual((clip.ramp_in_frames, clip.ramp_out_frames > 0), (0.0, True))

    def test_blows_begin_at_once(self) -> None:
        clip = clip_of(placed("thud", first_frame=97.0))
        self.assertEqual((clip.ramp_in_frames, clip.ramp_out_frames), (0.0, 0.0))

    def test_a_layer_put_into_an_empty_clip_softens_it(self) -> None:
        shot = edited(
            new_shot("Shot"),
            {"type": "add_clip", "first_frame": 50, "last_frame": 150},
            {"type": "add_layer", "source": "noise", "clip": "clip-1"},
        )
        self.assertGreater(clip_of(shot).ramp_in_frames, 0.0)


class Cues(unittest.TestCase):
    CUES = {"type": "add_cues", "cues": [{"frame": 120.0, "name": "Bang"}]}

    def test_where_cues_are_blows_respond_to_them_and_do_not_come_at_the_start(self) -> None:
        for key in ("thud", "startled"):
            preset = shipped_presets()[key]
            shot = edited(
                new_shot("Shot"), self.CUES, {"type": "place_preset", "preset": preset, "key": key, "first_frame": 97.0}
            )
            hits = [layer.source for _, layer in shot.layers() if isinstance(layer.source, Hit)]
            self.assertEqual({(hit.at_start, hit.answers) for hit in hits}, {(False, "all cues")}, key)
            elsewhere = edited(
                new_shot("Shot"),
                self.CUES,
                {"type": "place_preset", "preset": preset, "key": key, "first_frame": 1.0, "last_frame": 40.0},
            )
            self.assertTrue(
                all(layer.source.at_start for _, layer in elsewhere.layers() if isinstance(layer.source, Hit)), key
            )

    def test_a_fresh_hit_layer_too(self) -> None:
        hit = {"type": "add_layer", "source": "hit"}
        shots = edited(new_shot("A"), self.CUES, hit), edited(new_shot("A"), hit)
        self.assertEqual([layer.source.at_start for shot in shots for _, layer in shot.layers()], [False, True])
