import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with, use_rig
from zittern.core.edits.parts import find_clip
from zittern.core.edits.presets import PlacePreset
from zittern.core.errors import DocumentError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.presets.files import read_preset, write_preset
from zittern.core.presets.placed import placed
from zittern.core.presets.preset import CARRIER, Preset
from zittern.core.presets.saved import of_layers, saved
from zittern.core.shot.clips import Clock
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.core.timebase import Fps
from zittern.store.shipped import shipped_presets

BREATH = shipped_presets()["exhausted-breath"]
PANIC = Dial(name="panic", unit="%", value=keyed((21, 0.0), (90, 80.0)))
BEATS = Dial(name="beats", maximum=10.0, value=by_formula("panic / 20", fixed(0.0)))
STRAY = Dial(name="stray")


def held(**fields: object) -> Shot:
    """A clip from 21 to 140 whose weight is keyed and whose speed is on a dial that reads another."""
    own = layer(
        weight=keyed((30, 0.0), (60, 1.0)), speed=by_formula("0.5 + beats", fixed(1.0)), span_frames=(25.0, 130.0)
    )
    clip = {"span_frames": (21.0, 140.0), "amount": fixed(1.5)}
    return shot_with(own, clip=clip, dials=(PANIC, BEATS, STRAY), **fields)


def preset_of(shot: Shot, keep_seeds: bool = True) -> Preset:
    clip = find_clip(shot, "main")
    return saved(shot, (clip,), clip.layers, "Mine").replace(keep_seeds=keep_seeds)


def alone(shot: Shot) -> Shot:
    return shot.replace(lanes=(), dials=())


HARD = (
    {"type": "set_span", "at": ["clip:clip-1"], "ramp_in_frames": 0},
    {"type": "set_span", "at": ["clip:clip-1"], "ramp_out_frames": 0},
)


class Saving(unittest.TestCase):
    def test_placed_where_it_was_saved_it_moves_as_it_did(self) -> None:
        for fields in ({}, {"focal_mm": fixed(70.0)}, {"fps": Fps(num=60)}):
            shot = held(**fields)
            preset = preset_of(shot)
            self.assertEqual([dial.name for dial in preset.dials], ["panic", "beats"])
            again = edited(alone(shot), {"type": "place_preset", "preset": preset, "first_frame": 21.0}, *HARD)
            self.assertEqual(find_clip(again, "clip-1").span_frames, (21.0, 140.0))
            np.testing.assert_allclose(evaluate(again).total, evaluate(shot).total, atol=1e-9)

    def test_placed_later_its_keys_come_along(self) -> None:
        shot = held()
        later = edited(alone(shot), {"type": "place_preset", "preset": preset_of(shot), "first_frame": 71.0}, *HARD)
        np.testing.assert_allclose(evaluate(later).total[70:190], evaluate(shot).total[20:140], atol=1e-9)

    def test_at_another_frame_rate_it_takes_as_long(self) -> None:
        shot = held()
        faster = edited(
            alone(shot.replace(fps=Fps(num=48), last_frame=480)),
            {"type": "place_preset", "preset": preset_of(shot), "first_frame": 41.0},
            *HARD,
        )
        self.assertEqual(find_clip(faster, "clip-1").span_frames, (41.0, 41.0 + 2 * 119.0))
        np.testing.assert_allclose(evaluate(faster).total[40:279:2], evaluate(shot).total[20:140], atol=1e-9)

    def test_a_clip_that_was_cut_goes_on_from_where_it_was_cut(self) -> None:
        shot = edited(held(), {"type": "split_clip", "clip": "main", "frame": 80.0})
        second = next(clip for clip in shot.clips() if clip.id != "main")
        preset = saved(shot, (second,), second.layers, "Second").replace(keep_seeds=True)
        self.assertEqual(preset.clock, Clock(start_frame=-59.0, end_frame=60.0, later_frames=-79.0))
        again = edited(alone(shot), {"type": "place_preset", "preset": preset, "first_frame": 80.0}, *HARD)
        np.testing.assert_allclose(evaluate(again).total[79:], evaluate(shot).total[79:], atol=1e-9)

    def test_layers_of_several_clips_have_no_amount_of_their_own(self) -> None:
        shot = edited(held(), {"type": "place_preset", "preset": BREATH})
        clips = tuple(shot.clips())
        preset = saved(shot, clips, (clips[0].layers[0], clips[1].layers[1]), "Both")
        self.assertEqual(
            (preset.amount, preset.length_s, [each.name for each in preset.layers]),
            (fixed(1.0), None, [clips[0].layers[0].name, "Arms"]),
        )
        self.assertEqual([dial.name for dial in preset.dials], ["panic", "beats", "exhaustion"])


class Dials(unittest.TestCase):
    def test_a_preset_brings_its_dials_and_shares_those_that_are_alike(self) -> None:
        once, clip = placed(shot_with(), BREATH, "exhausted-breath")
        self.assertEqual([dial.name for dial in once.dials], ["exhaustion"])
        twice, _ = placed(once.replace(dials=(once.dials[0].replace(value=fixed(10.0)),)), BREATH, "exhausted-breath")
        self.assertEqual([(dial.name, dial.value) for dial in twice.dials], [("exhaustion", fixed(10.0))])
        self.assertEqual((clip.from_preset.preset, clip.from_preset.dials[0].name), ("exhausted-breath", "exhaustion"))  # type: ignore[union-attr]

    def test_one_of_the_same_name_that_is_something_else_stays_what_it_is(self) -> None:
        other = shot_with(dials=(Dial(name="exhaustion", unit="m", maximum=3.0), Dial(name="exhaustion_2")))
        shot, clip = placed(other, BREATH, "exhausted-breath")
        self.assertEqual([dial.name for dial in shot.dials], ["exhaustion", "exhaustion_2", "exhaustion_3"])
        self.assertEqual(clip.layers[0].weight, by_formula("0.2 + exhaustion_3 / 100", fixed(1.0)))
        self.assertEqual(
            [(each.brought, each.name) for each in clip.from_preset.dials], [("exhaustion", "exhaustion_3")]
        )  # type: ignore[union-attr]

    def test_renamed_in_the_shot_the_clip_still_knows_it(self) -> None:
        shot = edited(
            shot_with(),
            {"type": "place_preset", "preset": BREATH, "key": "exhausted-breath"},
            {"type": "set_dial", "dial": "exhaustion", "name": "worn"},
        )
        self.assertEqual(find_clip(shot, "clip-1").from_preset.dials[0].name, "worn")  # type: ignore[union-attr]
        bare = edited(shot, {"type": "remove_dial", "dial": "worn", "leave": True, "frame": 1})
        self.assertEqual((bare.dials, find_clip(bare, "clip-1").from_preset.dials[0].name), ((), "worn"))  # type: ignore[union-attr]

    def test_turned_up_it_moves_more(self) -> None:
        shot = edited(shot_with(), {"type": "place_preset", "preset": BREATH})
        sizes = [
            np.ptp(evaluate(shot.replace(dials=(shot.dials[0].replace(value=fixed(value)),))).total[:, 4])
            for value in (0.0, 50.0, 100.0)
        ]
        self.assertTrue(sizes[0] < 0.4 * sizes[1] < 0.3 * sizes[2] * 2, sizes)


class Rigs(unittest.TestCase):
    MOVE = Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (240, 4.0)))

    def held(self) -> Shot:
        rigged = edited(shot_with(mounts=(self.MOVE,)).replace(lanes=()), use_rig("shoulder"))
        return rigged.replace(
            lanes=shot_with(layer("walk", seed=3, target="camera"), layer("fine", seed=4), mounts=rigged.mounts).lanes
        )

    def test_a_preset_brings_what_holds_the_camera_on_wish(self) -> None:
        held = self.held()
        preset = of_layers(held, ("walk", "fine"), "On the shoulder", rig=True)
        self.assertEqual([mount.name for mount in preset.rig], ["Shoulder", "Hands"])
        self.assertEqual([each.target for each in preset.layers], [CARRIER, None])
        self.assertEqual(read_preset(write_preset(preset)), preset)
        bare = shot_with(mounts=(self.MOVE.replace(id="dolly"),)).replace(lanes=())
        with_rig = PlacePreset(preset=preset.replace(keep_seeds=True), with_rig=True).apply(bare)
        self.assertEqual([mount.name for mount in with_rig.mounts], ["Camera", "Shoulder", "Hands"])
        self.assertEqual([each.target for _, each in with_rig.layers()], ["dolly", None])
        np.testing.assert_allclose(evaluate(with_rig).pose.position_m, evaluate(held).pose.position_m, atol=1e-9)
        without = PlacePreset(preset=preset).apply(bare)
        self.assertEqual((len(without.mounts), [each.target for _, each in without.layers()]), (1, [None, None]))

    def test_who_aims_and_what_carries_stay_with_the_shot(self) -> None:
        held = self.held()
        aimed = held.replace(mounts=(*held.mounts[:-1], held.mounts[-1].replace(operator=Operator())))
        self.assertIsNone(of_layers(aimed, ("fine",), "Fine", rig=True).rig[-1].operator)
        with self.assertRaisesRegex(DocumentError, "cannot be part of a preset"):
            of_layers(held, ("fine",), "Fine").replace(rig=(Mount(id="head", name="Head", operator=Operator()),))


class FittedRigs(unittest.TestCase):
    """What a preset brings to hold the camera is fitted as its layers are."""

    def shot(self) -> Shot:
        springs = Springs(weight=keyed((1001, 0.0), (1100, 1.0)))
        arm = Mount(id="arm", name="Arm", springs=springs)
        hand = Mount(id="hand", name="Hand", springs=Springs(weight=by_formula("panic / 100", fixed(0.2))))
        clip = {"span_frames": (1001.0, 1100.0)}
        return shot_with(
            layer(target="arm"),
            clip=clip,
            mounts=(Mount(id="camera", name="Camera", x_m=keyed((1001, 0.0), (1200, 2.0))), arm, hand),
            dials=(PANIC,),
            first_frame=1001,
            last_frame=1200,
        )

    def test_its_keys_are_timed_and_its_dials_collected(self) -> None:
        preset = saved(self.shot(), tuple(self.shot().clips()), find_clip(self.shot(), "main").layers, "Rig", rig=True)
        self.assertEqual(preset.rig[0].springs.weight.breaks.tolist(), [0.0, 99.0])  # type: ignore[union-attr]
        self.assertEqual([dial.name for dial in preset.dials], ["panic"])
        other = PANIC.replace(unit="m", minimum=0.0, maximum=7.0, value=fixed(1.0))
        there = edited(
            shot_with(lanes=(), dials=(other,), fps=Fps(num=48)),
            {"type": "place_preset", "preset": preset, "with_rig": True, "first_frame": 11.0},
        )
        arm, hand = there.mounts[-2:]
        self.assertEqual(arm.springs.weight.breaks.tolist(), [11.0, 209.0])  # type: ignore[union-attr]
        self.assertEqual(
            (hand.springs.weight.text, [dial.name for dial in there.dials]), ("panic_2 / 100", ["panic", "panic_2"])
        )  # type: ignore[attr-defined]
        self.assertEqual(next(layer for _, layer in there.layers()).target, arm.id)


class Spans(unittest.TestCase):
    def test_it_begins_where_it_is_heard_and_is_as_long(self) -> None:
        spanned = layer("late", span_frames=(97.0, 144.0), ramp_in_frames=6.0, weight=keyed((97, 0.2), (144, 1.0)))
        shot = shot_with(layer(), spanned)
        preset = saved(shot, tuple(shot.clips()), (spanned,), "Late").replace(keep_seeds=True)
        self.assertEqual((preset.layers[0].span_frames, preset.length_s), ((0.0, 47.0), 47 / 24))
        again = edited(alone(shot), {"type": "place_preset", "preset": preset, "first_frame": 31.0}, *HARD)
        self.assertEqual(find_clip(again, "clip-1").span_frames, (31.0, 78.0))
        np.testing.assert_allclose(evaluate(again).total[30:78], evaluate(shot).layers["late"][96:144], atol=1e-9)
