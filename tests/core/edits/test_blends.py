import unittest

import numpy as np

from tests.core.making import edited, layer, rms, shot_with, three_layers
from tests.core.motion.test_blends import blended, noise
from tests.core.motion.test_morph import walker
from zittern.core.edits.parts import find_clip
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.presets.files import read_preset, write_preset
from zittern.core.presets.saved import of_clip, of_layers
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.core.sources.hand_keys import HandKeys, Tracks


def two_clips(**second: object) -> Shot:
    shot = shot_with(layer("calm", swings={"pan": 0.4}), clip={"span_frames": (1.0, 120.0), "amount": fixed(0.5)})
    wild = Clip(id="wild", name="Wild", layers=(layer("shock", seed=8, swings={"pan": 2.0}),), **second)
    return shot.replace(lanes=(*shot.lanes, Lane(id="top", name="Top", clips=(wild,))))


def place(shot: Shot, across: float) -> Shot:
    clip = next(clip for clip in shot.clips() if clip.blend)
    return edited(
        shot, {"type": "set_values", "values": [{"at": f"clip:{clip.id}.blend.across_percent", "value": across}]}
    )


class OfClips(unittest.TestCase):
    def test_two_become_corners_of_one_and_their_lanes_go(self) -> None:
        shot = two_clips(span_frames=(61.0, 200.0), speed=fixed(2.0))
        made = edited(shot, {"type": "blend_clips", "clips": ["main", "wild"], "method": "mix"})
        (clip,) = made.clips()
        self.assertEqual((clip.id, clip.name, clip.span_frames), ("main", "Whole shot … Wild", (1.0, 200.0)))
        self.assertEqual([corner.name for corner in clip.blend.corners], ["Whole shot", "Wild"])
        self.assertEqual(
            {each.id: (each.corner, each.weight.constant, each.speed.constant) for each in clip.layers},
            {"calm": ("corner-1", 0.5, 1.0), "shock": ("corner-2", 1.0, 2.0)},
        )
        self.assertEqual(len(made.lanes), 1)
        before, after = (
            evaluate(each).total[:120]
            for each in (shot_with(*shot.lanes[0].clips[0].layers, clip={"amount": fixed(0.5)}), place(made, 0.0))
        )
        np.testing.assert_allclose(after, before, atol=1e-12)

    def test_a_strong_clip_keeps_its_strength_as_a_corner(self) -> None:
        for weight in (fixed(3.0), keyed((1, 0.5), (100, 3.0)), by_formula("2 + sin(t)", fixed(1.0))):
            for mode in ("add", "replace"):
                first = layer("calm", swings={"pan": 0.4})
                over = layer("wild", seed=3, swings={"pan": 0.8}, weight=weight, mode=mode)
                alone = shot_with(first, over, clip={"amount": fixed(5.0)})
                other = Lane.of(Clip(id="other", name="Other", layers=(layer("third"),))).replace(id="top", name="Top")
                made = edited(
                    alone.replace(lanes=(*alone.lanes, other)), {"type": "blend_clips", "clips": ["main", "other"]}
                )
                np.testing.assert_allclose(evaluate(place(made, 0.0)).total, evaluate(alone).total, atol=1e-9)
        take = layer("keys", HandKeys(tracks=Tracks(pan=keyed((1, 0.0), (60, 3.0)))), weight=fixed(3.0))
        strong = shot_with(take, clip={"amount": fixed(5.0)})
        with self.assertRaisesRegex(EditError, "a weight that would exceed 10 with the amount 5"):
            edited(strong.replace(lanes=(*strong.lanes, other)), {"type": "blend_clips", "clips": ["main", "other"]})

    def test_what_cannot_be_a_corner_says_why(self) -> None:
        for shot, clips, why in (
            (two_clips(amount=keyed((1, 0.0), (9, 1.0))), ["main", "wild"], "the amount of “Wild” changes over time"),
            (two_clips(speed=keyed((1, 0.5), (9, 1.0))), ["main", "wild"], "the speed of “Wild” changes over time"),
            (two_clips(), ["main", "main"], "only one corner"),
            (two_clips(), ["main", "gone"], "there is no clip 'gone'"),
        ):
            with self.assertRaisesRegex(EditError, why):
                edited(shot, {"type": "blend_clips", "clips": clips})
        blend = edited(two_clips(), {"type": "blend_clips", "clips": ["main", "wild"]})
        third = Clip(id="third", name="Third", layers=(layer("other"),))
        more = blend.replace(lanes=(*blend.lanes, Lane(id="third", name="Third", clips=(third,))))
        with self.assertRaisesRegex(EditError, "is a blend itself"):
            edited(more, {"type": "blend_clips", "clips": ["third", "main"]})
        wider = find_clip(edited(more, {"type": "blend_clips", "clips": ["main", "third"]}), "main")
        self.assertEqual([corner.name for corner in wider.blend.corners], ["Whole shot", "Wild", "Third"])
        full = blended(*(noise(name, n) for n, name in enumerate(("one", "two", "three", "four"))), count=4)
        rest = tuple(Lane.of(third.replace(id=f"more-{n}", layers=(layer(f"more-{n}"),))) for n in range(3))
        with self.assertRaisesRegex(EditError, "up to 6 corners"):
            edited(
                full.replace(lanes=(*full.lanes, *(each.replace(id=f"l{n}") for n, each in enumerate(rest)))),
                {"type": "blend_clips", "clips": ["main", "more-0", "more-1", "more-2"]},
            )

    def test_it_is_read_as_it_was_written(self) -> None:
        made = edited(two_clips(), {"type": "blend_clips", "clips": ["main", "wild"], "method": "morph"})
        self.assertEqual(read_shot(write_shot(made)), made)


class OfPresets(unittest.TestCase):
    def test_presets_become_corners_sized_for_the_lens(self) -> None:
        preset = three_layers().model_dump()
        other = {**preset, "name": "Stroll"}
        shot = edited(
            shot_with(), {"type": "add_blend", "presets": [{"preset": preset}, {"preset": other}], "method": "morph"}
        )
        clip = next(clip for clip in shot.clips() if clip.blend)
        self.assertEqual([corner.name for corner in clip.blend.corners], ["Run", "Stroll"])
        self.assertEqual(len({each.id for each in clip.layers}), 6)
        alone = edited(shot_with(), {"type": "place_preset", "preset": preset})
        np.testing.assert_allclose(rms(evaluate(place(shot, 0.0)).total)[:3], rms(evaluate(alone).total)[:3], rtol=0.2)

    def test_a_corner_is_filled_with_another_preset(self) -> None:
        shot = blended(noise("one", 1), noise("two", 2))
        filled = edited(
            shot, {"type": "fill_corner", "clip": "main", "corner": "two", "preset": three_layers().model_dump()}
        )
        clip = find_clip(filled, "main")
        self.assertEqual([corner.name for corner in clip.blend.corners], ["One", "Run"])
        self.assertEqual([each.corner for each in clip.layers], ["one", "two", "two", "two"])
        with self.assertRaisesRegex(EditError, "there is no corner 'nine'"):
            edited(
                shot, {"type": "fill_corner", "clip": "main", "corner": "nine", "preset": three_layers().model_dump()}
            )

    def test_a_preset_may_be_a_blend_and_is_placed_as_one(self) -> None:
        shot = blended(noise("one", 1), noise("two", 2, 3.0), across=keyed((1, 0.0), (120, 100.0)), way="morph")
        preset = read_preset(write_preset(of_clip(shot, "main", "Calm to wild").replace(keep_seeds=True)))
        placed = edited(shot_with(), {"type": "place_preset", "preset": preset.model_dump()})
        np.testing.assert_allclose(evaluate(placed).total, evaluate(shot).total, atol=1e-9)
        self.assertEqual({each.corner for each in of_layers(shot, ("one-1",), "One").layers}, {None})


class Recorded(unittest.TestCase):
    def test_both_numbers_in_one_step_with_few_keys(self) -> None:
        samples = [{"frame": frame, "across": frame / 1.2, "up": 100.0 - frame / 2.4} for frame in range(1, 121)]
        shot = blended(*(noise(name, n) for n, name in enumerate(("one", "two", "three"))), count=3)
        clip = find_clip(edited(shot, {"type": "record_place", "clip": "main", "samples": samples}), "main")
        for number, ends in (
            (clip.blend.across_percent, (1 / 1.2, 100.0)),
            (clip.blend.up_percent, (100 - 1 / 2.4, 50.0)),
        ):
            np.testing.assert_allclose([key.value for key in number.curve.keys], ends)
        line = edited(
            blended(noise("one", 1), noise("two", 2)), {"type": "record_place", "clip": "main", "samples": samples}
        )
        self.assertIsNone(find_clip(line, "main").blend.up_percent.curve)


class Corners(unittest.TestCase):
    def test_two_change_places(self) -> None:
        shot = blended(noise("one", 1), noise("two", 2), across=10.0)
        swapped = edited(shot, {"type": "swap_corners", "clip": "main", "corner": "one", "other": "two"})
        np.testing.assert_allclose(evaluate(swapped).total, evaluate(place(shot, 90.0)).total, atol=1e-12)

    def test_one_is_removed_and_the_last_is_a_plain_clip(self) -> None:
        shot = blended(noise("one", 1), noise("two", 2), noise("three", 3), count=3)
        two = edited(shot, {"type": "remove_corner", "clip": "main", "corner": "one"})
        self.assertEqual([corner.id for corner in find_clip(two, "main").blend.corners], ["two", "three"])
        one = edited(two, {"type": "remove_corner", "clip": "main", "corner": "two"})
        self.assertIsNone(find_clip(one, "main").blend)
        np.testing.assert_array_equal(evaluate(one).total, evaluate(shot_with(noise("three", 3))).total)

    def test_a_name_that_tells_them_follows_and_a_given_one_stays(self) -> None:
        made = edited(two_clips(), {"type": "blend_clips", "clips": ["main", "wild"]})
        corner = {"clip": "main", "corner": "corner-1"}
        filled = {"type": "fill_corner", **corner, "preset": three_layers().model_dump()}
        for command, name in (
            (filled, "Run … Wild"),
            ({"type": "swap_corners", **corner, "other": "corner-2"}, "Wild … Whole shot"),
            ({"type": "remove_corner", **corner}, "Wild"),
        ):
            self.assertEqual(find_clip(edited(made, command), "main").name, name)
            given = edited(made, {"type": "set_values", "values": [{"at": "clip:main.name", "value": "Worry"}]})
            self.assertEqual(find_clip(edited(given, command), "main").name, "Worry")


class Baked(unittest.TestCase):
    def test_it_moves_as_the_blend_did_where_it_stood(self) -> None:
        common = layer("common", seed=5, swings={"roll": 0.3})
        late = noise("two", 3, 2.0, span_frames=(60.0, 200.0), ramp_in_frames=20.0)
        cases = {
            "mix": (noise("one", 1), noise("two", 2, 3.0), common),
            "morph": (walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2), common, late),
            "ramps": (
                noise("one", 1, 1.0, ramp_in_frames=30.0),
                noise("two", 2, 3.0, span_frames=(60.0, 200.0), ramp_out_frames=40.0),
                common,
            ),
            "keyed": (noise("one", 1), noise("two", 2).replace(weight=keyed((1, 0.5), (120, 2.0))), common),
        }
        for name, layers in cases.items():
            for across in (0.0, 35.0, 100.0):
                shot = blended(*layers, across=across, way="mix" if name == "mix" else "morph")
                baked = edited(shot, {"type": "bake_blend", "clip": "main", "frame": 50})
                self.assertIsNone(find_clip(baked, "main").blend)
                # A part of 2e-5 of a weight, see `numbers.approximation`.
                np.testing.assert_allclose(
                    evaluate(baked).total, evaluate(shot).total, atol=1e-4, err_msg=f"{name} {across}"
                )

                flat = edited(shot, {"type": "flatten_blend", "clip": "main"})
                np.testing.assert_allclose(evaluate(flat).total, evaluate(shot).total, atol=1e-4)

    def test_flattened_it_does_over_time_what_the_blend_did(self) -> None:
        one, two = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2)
        common, late = layer("common", seed=5, swings={"roll": 0.3}), noise("two", 3, 2.0, span_frames=(60.0, 200.0))
        way = keyed((1, 0.0), (60, 80.0), (110, 30.0))
        for layers, method in (
            ((noise("one", 1), noise("two", 2, 3.0).replace(weight=keyed((1, 0.5), (120, 1.0))), common), "mix"),
            ((noise("one", 1), noise("two", 1, 3.0)), "mix"),
            ((one, two, common, late), "morph"),
        ):
            shot = blended(*layers, across=way, way=method)
            flat = edited(shot, {"type": "flatten_blend", "clip": "main"})
            self.assertIsNone(find_clip(flat, "main").blend)
            self.assertEqual({each.corner for _, each in flat.layers()}, {None})
            np.testing.assert_allclose(evaluate(flat).total, evaluate(shot).total, atol=1e-4)
        self.assertEqual(len(list(flat.layers())), 3)

    def test_a_plain_clip_is_no_blend(self) -> None:
        with self.assertRaisesRegex(EditError, "“Whole shot” is not a blend"):
            edited(shot_with(layer()), {"type": "flatten_blend", "clip": "main"})
        with self.assertRaisesRegex(EditError, "“Whole shot” is not a blend"):
            edited(shot_with(layer()), {"type": "bake_blend", "clip": "main", "frame": 5})


class AroundIt(unittest.TestCase):
    """What else is done with clips is done with blends."""

    def shot(self) -> Shot:
        across = keyed((1, 0.0), (60, 80.0), (120, 100.0))
        clip = {"span_frames": (1.0, 240.0)}
        shot = blended(noise("one", 1), noise("two", 2, 3.0), across=across, way="morph")
        (made,) = shot.clips()
        return shot.replace(lanes=(Lane.of(made.replace(**clip)),))

    def test_a_cut_changes_nothing_and_time_put_in_moves_the_place_along(self) -> None:
        shot = self.shot()
        cut = edited(shot, {"type": "split_clip", "clip": "main", "frame": 80})
        np.testing.assert_allclose(evaluate(cut).total, evaluate(shot).total, atol=1e-9)
        later = edited(shot, {"type": "insert_time", "frame": 100, "frames": 24})
        weights = [evaluate(each).weights["two-2"] for each in (shot, later)]
        np.testing.assert_allclose(weights[1][:95], weights[0][:95], atol=1e-9)
        np.testing.assert_allclose(weights[1][130:], weights[0][106:], atol=1e-9)

    def test_a_dial_that_drives_it_is_renamed_in_it_and_its_formula_is_checked(self) -> None:
        shot = edited(
            self.shot(),
            {"type": "add_dial", "name": "worry"},
            {"type": "set_formula", "formulas": [{"at": "clip:main.blend.across_percent", "text": "worry"}]},
            {"type": "set_dial", "dial": "worry", "name": "fear"},
        )
        self.assertEqual(find_clip(shot, "main").blend.across_percent.text, "fear")
        with self.assertRaisesRegex(EditError, "fear is read by “Whole shot”"):
            edited(shot, {"type": "remove_dial", "dial": "fear"})

    def test_places_that_are_none_are_refused(self) -> None:
        for value in (-1.0, 101.0, 1e308, float("nan"), float("inf"), "left", None, 2**63):
            with self.assertRaises((EditError, ValueError)):
                edited(
                    self.shot(),
                    {"type": "set_values", "values": [{"at": "clip:main.blend.across_percent", "value": value}]},
                )
