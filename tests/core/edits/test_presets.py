import unittest

import numpy as np

from tests.core.making import command, edited, layer, shot_with, three_layers
from zittern.core.edits.parts import find_clip
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.presets.preset import Preset
from zittern.store.shipped import shipped_presets

RUN = three_layers()
JOLT = shipped_presets()["startled"]
HELD = shot_with(layer(), clip={"span_frames": (21.0, 140.0), "ramp_in_frames": 10.0, "ramp_out_frames": 20.0})


class Placing(unittest.TestCase):
    def test_over_the_shot_over_a_stretch_and_as_long_as_it_says(self) -> None:
        whole = edited(HELD, {"type": "place_preset", "preset": RUN})
        self.assertEqual([[clip.name for clip in lane.clips] for lane in whole.lanes], [["Whole shot"], ["Run"]])
        self.assertIsNone(find_clip(whole, "clip-1").span_frames)
        for fields, span in (
            ({"first_frame": 30, "last_frame": 50}, (30.0, 50.0)),
            ({"first_frame": 30}, (30.0, 90.0)),
            ({"first_frame": 30, "last_frame": 10}, (30.0, 31.0)),
        ):
            placed = edited(HELD, {"type": "place_preset", "preset": JOLT, "lane": "main", **fields})
            self.assertEqual(
                ([lane.id for lane in placed.lanes], find_clip(placed, "clip-1").span_frames), (["main"], span)
            )
        self.assertEqual(
            find_clip(edited(HELD, {"type": "place_preset", "preset": RUN, "first_frame": 30}), "clip-1").span_frames,
            (30.0, 240.0),
        )

    def test_twice_it_moves_differently_and_kept_seeds_alike(self) -> None:
        twice = edited(HELD, *[{"type": "place_preset", "preset": RUN}] * 2)
        first, second = (find_clip(twice, each).layers for each in ("clip-1", "clip-2"))
        self.assertFalse({layer.seed for layer in first} & {layer.seed for layer in second})
        self.assertEqual(len({layer.id for _, layer in twice.layers()}), 7)
        kept = RUN.replace(keep_seeds=True)
        alike = edited(HELD, *[{"type": "place_preset", "preset": kept}] * 2)
        self.assertEqual(
            {layer.seed for layer in find_clip(alike, "clip-2").layers}, {layer.seed for layer in RUN.layers}
        )

    def test_rotations_are_sized_for_the_lens_and_nothing_else_is(self) -> None:
        long = edited(shot_with(focal_mm=fixed(70.0)), {"type": "place_preset", "preset": RUN})
        made, model = find_clip(long, "clip-1").layers[2].axes, RUN.layers[2].axes
        self.assertEqual((made.pan.swing, made.dolly.swing), (fixed(0.45), model.dolly.swing))

    def test_a_part_of_the_rig_that_is_not_there_is_the_camera(self) -> None:
        away = RUN.replace(layers=(RUN.layers[0].replace(target="crane"),))
        self.assertIsNone(find_clip(edited(HELD, {"type": "place_preset", "preset": away}), "clip-1").layers[0].target)


class Replacing(unittest.TestCase):
    def test_swapped_it_lies_as_the_other_lay(self) -> None:
        swapped = edited(HELD, {"type": "swap_preset", "preset": RUN, "clip": "main"})
        clip = find_clip(swapped, "main")
        self.assertEqual(
            (clip.name, clip.span_frames, clip.ramp_in_frames, clip.ramp_out_frames), ("Run", (21.0, 140.0), 10.0, 20.0)
        )
        self.assertEqual([layer.name for layer in clip.layers], ["Steps", "Side to side", "Arms"])
        self.assertEqual(
            command(type="swap_preset", preset=RUN, clip="main").label(HELD), "Replace “Whole shot” with “Run”"
        )

    def test_gone_over_to_the_one_fades_as_the_other_comes(self) -> None:
        over = edited(HELD, {"type": "cross_fade_to", "preset": RUN, "clip": "main", "frame": 80, "within_frames": 24})
        self.assertEqual(
            [(clip.name, clip.span_frames) for clip in over.lanes[0].clips],
            [("Whole shot", (21.0, 104.0)), ("Run", (80.0, 140.0))],
        )
        self.assertEqual(
            (find_clip(over, "main").ramp_out_frames, find_clip(over, "clip-1").ramp_out_frames), (0.0, 20.0)
        )
        before, after = evaluate(HELD).total, evaluate(over).total
        np.testing.assert_allclose(after[:79], before[:79], atol=1e-12)
        self.assertGreater(np.abs(after[80:104] - before[80:104]).max(), 0.1)
        for frame in (21, 140, 5):
            with self.assertRaisesRegex(EditError, "not inside the clip"):
                edited(
                    HELD, {"type": "cross_fade_to", "preset": RUN, "clip": "main", "frame": frame, "within_frames": 24}
                )

    def test_of_a_clip_over_the_whole_shot(self) -> None:
        over = edited(
            shot_with(layer()),
            {"type": "cross_fade_to", "preset": RUN, "clip": "main", "frame": 230, "within_frames": 1e6},
        )
        self.assertEqual([clip.span_frames for clip in over.lanes[0].clips], [(1.0, 240.0), (230.0, 240.0)])


class Documents(unittest.TestCase):
    def test_nothing_empty_and_nothing_unknown(self) -> None:
        for fields in (
            {"layers": ()},
            {"layers": RUN.layers, "wobble": 1},
            {"layers": RUN.layers, "length_s": 0},
            {"layers": RUN.layers, "amount": -1},
        ):
            with self.assertRaises(ValueError):
                Preset.model_validate({"name": "X", **fields})
