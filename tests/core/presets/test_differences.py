import unittest

import numpy as np

from tests.core.making import edited, shot_with, three_layers
from zittern.core.edits.parts import find_clip
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.presets.differences import PartDifference, differences
from zittern.core.presets.preset import Preset
from zittern.core.shot.shot import Shot
from zittern.store.shipped import shipped_presets

RUN = three_layers()
BREATH = shipped_presets()["exhausted-breath"]
LONG = shot_with(focal_mm=fixed(70.0))


def put(preset: Preset, key: str, *commands: dict[str, object], shot: Shot = LONG) -> Shot:
    return edited(
        shot,
        {"type": "place_preset", "preset": preset, "key": key, "first_frame": 31.0, "last_frame": 150.0},
        *commands,
    )


def told(shot: Shot, preset: Preset) -> list[PartDifference]:
    return list(differences(shot, find_clip(shot, "clip-1"), preset))


class Differences(unittest.TestCase):
    def test_just_placed_nothing_differs(self) -> None:
        for key, preset in shipped_presets().items():
            rows = told(put(preset, key), preset)
            self.assertEqual([row.how for row in rows], ["same"] * (len(preset.layers) + 1), key)

    def test_nor_when_it_was_moved_split_muted_or_its_dial_renamed(self) -> None:
        keys = BREATH.replace(layers=(BREATH.layers[0].replace(speed=keyed((0, 1.0), (40, 2.0))), *BREATH.layers[1:]))
        shot = put(
            keys, "exhausted-breath", {"type": "move_clip", "clip": "clip-1", "by_frames": 12.5},
            {"type": "split_clip", "clip": "clip-1", "frame": 90},
            {"type": "set_dial", "dial": "exhaustion", "name": "worn"},
            {"type": "set_values", "values": [{"at": "layer:sway-1.mute", "value": True}]},
        )  # fmt: skip
        halves = [clip for clip in shot.clips() if clip.from_preset]
        self.assertEqual(len(halves), 2)
        for clip in halves:
            self.assertEqual([row.how for row in differences(shot, clip, keys)], ["same"] * 4, clip.id)

    def test_what_was_changed_here_is_told_field_by_field(self) -> None:
        shot = put(
            RUN, "run",
            {"type": "set_values", "values": [
                {"at": "layer:hand-1.axes.pan.swing", "value": 2.0}, {"at": "layer:hand-1.source.octaves", "value": 5},
                {"at": "clip:clip-1.amount", "value": 0.5},
            ]},
            {"type": "remove_layers", "layers": ["step-1"]},
            {"type": "add_layer", "source": "drift", "clip": "clip-1"},
        )  # fmt: skip
        rows = told(shot, RUN)
        self.assertEqual(
            [(row.name, row.how) for row in rows],
            [
                ("Amount and speed", "changed here"),
                ("Steps", "not here"),
                ("Side to side", "same"),
                ("Arms", "changed here"),
                ("Drift", "of this clip"),
            ],
        )
        self.assertEqual(
            [(field.title, field.here, field.there) for field in rows[0].fields], [("amount", "50 %", "100 %")]
        )
        self.assertEqual(
            [(field.title, field.here, field.there) for field in rows[3].fields],
            [("octaves", "5", "3"), ("pan swing", "2 °", "0.45 °")],
        )

    def test_a_preset_that_went_on_is_told_from_a_clip_that_did(self) -> None:
        arms = RUN.layers[2].replace(speed=keyed((0, 1.0), (9, 2.0)))
        newer = RUN.replace(layers=(*RUN.layers[:1], arms, RUN.layers[0].replace(id="new", name="More")))
        rows = told(put(RUN, "run"), newer)
        self.assertEqual(
            [(row.name, row.how) for row in rows[1:]],
            [
                ("Steps", "same"),
                ("Arms", "changed in the preset"),
                ("More", "not here"),
                ("Side to side", "not in the preset"),
            ],
        )
        self.assertEqual(
            [(field.title, field.here, field.there) for field in rows[2].fields], [("speed", "100 %", "2 keys")]
        )


class Taking(unittest.TestCase):
    def test_taken_all_it_is_as_it_was_placed(self) -> None:
        placed = put(RUN, "run")
        changed = edited(
            placed, {"type": "scale_swings", "layers": ["hand-1"], "factor": 3.0},
            {"type": "remove_layers", "layers": ["stride-1"]},
            {"type": "add_layer", "source": "drift", "clip": "clip-1"},
            {"type": "set_values", "values": [{"at": "clip:clip-1.amount", "value": 0.5}]},
        )  # fmt: skip
        back = {
            "type": "take_from_preset",
            "clip": "clip-1",
            "preset": RUN,
            "parts": ["step", "stride", "hand"],
            "drop": ["drift-1"],
            "settings": True,
        }
        again = edited(changed, back)
        self.assertEqual(
            [layer.name for layer in find_clip(again, "clip-1").layers], [layer.name for layer in RUN.layers]
        )
        self.assertTrue(all(row.how == "same" for row in told(again, RUN)))
        seeds = [layer.seed for layer in find_clip(placed, "clip-1").layers]
        self.assertEqual([find_clip(again, "clip-1").layers[n].seed for n in (0, 2)], [seeds[0], seeds[2]])
        np.testing.assert_allclose(evaluate(again).layers["hand-1"], evaluate(placed).layers["hand-1"], atol=1e-12)

    def test_a_layer_alone_leaves_the_others(self) -> None:
        changed = put(RUN, "run", {"type": "scale_swings", "layers": ["step-1", "hand-1"], "factor": 3.0})
        again = edited(changed, {"type": "take_from_preset", "clip": "clip-1", "preset": RUN, "parts": ["hand"]})
        self.assertEqual([row.how for row in told(again, RUN)], ["same", "changed here", "same", "same"])

    def test_a_dial_that_is_gone_comes_back(self) -> None:
        bare = put(BREATH, "exhausted-breath", {"type": "remove_dial", "dial": "exhaustion", "leave": True, "frame": 1})
        self.assertEqual([row.how for row in told(bare, BREATH)][1:], ["changed here", "changed here", "same"])
        again = edited(
            bare, {"type": "take_from_preset", "clip": "clip-1", "preset": BREATH, "parts": ["breath", "muscle"]}
        )
        self.assertEqual(
            ([dial.name for dial in again.dials], {row.how for row in told(again, BREATH)}), (["exhaustion"], {"same"})
        )

    def test_what_is_not_there_is_refused(self) -> None:
        shot = put(RUN, "run")
        bare = edited(LONG, {"type": "place_preset", "preset": RUN})
        for on, fields, pattern in (
            (shot, {"parts": ["gone"]}, "'gone'"),
            (shot, {"drop": ["gone"]}, "'gone'"),
            (bare, {"parts": ["hand"]}, "not placed from a preset"),
            (shot, {"clip": "other"}, "there is no clip 'other'"),
        ):
            with self.assertRaisesRegex(EditError, pattern):
                edited(on, {"type": "take_from_preset", "clip": "clip-1", "preset": RUN, **fields})
