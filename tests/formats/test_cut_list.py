import json
import unittest
from collections.abc import Callable
from typing import Any

import opentimelineio as otio

from tests.core.making import shot_with
from tools.demo.cuts import CUT, sample_cut
from tools.demo.shots import SHOTS
from zittern.core.errors import EditError, FormatError
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount
from zittern.formats.cut_list import conforming

SHOT = shot_with(mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (240, 9.0))),), last_frame=240).replace(
    name="Long walk"
)


def cut(change: Callable[[Any], None] = lambda clip: None, rate: float = 24.0, also: tuple[Any, ...] = ()) -> bytes:
    """A cut of one clip of the shot: 100 frames from its 41st on."""

    def span(start: float, count: float) -> Any:
        return otio.opentime.TimeRange(otio.opentime.RationalTime(start, rate), otio.opentime.RationalTime(count, rate))

    media = otio.schema.ExternalReference(target_url="/shots/long_walk.v3.mov", available_range=span(1000, 240))
    clip = otio.schema.Clip("LONG WALK", media_reference=media, source_range=span(1040, 100))
    change(clip)
    track = otio.schema.Track("Picture")
    track.extend([otio.schema.Gap(), clip, *also])
    timeline = otio.schema.Timeline("Cut")
    timeline.tracks.append(track)
    return str(otio.adapters.write_to_string(timeline, "otio_json")).encode()


def read(data: bytes, handles: int = 0) -> Any:
    return conforming(data, SHOT, (SHOT.name,), handles)


def warped(scalar: float) -> Callable[[Any], None]:
    return lambda clip: clip.effects.append(otio.schema.LinearTimeWarp("speed", time_scalar=scalar))


class Reading(unittest.TestCase):
    def test_the_range_that_the_cut_shows(self) -> None:
        command = read(cut())
        self.assertEqual((command.first_frame, command.last_frame, command.frames), (41, 140, 100))
        after = command.apply(SHOT)
        self.assertEqual((after.first_frame, after.last_frame, after.mounts), (41, 140, SHOT.mounts))
        self.assertEqual(read(cut(rate=24.0), 8).apply(SHOT).first_frame, 33)

    def test_other_rates_are_counted_in_the_shots_own(self) -> None:
        command = read(cut(rate=48.0))
        self.assertEqual((command.first_frame, command.last_frame), (21, 70))

    def test_a_warp_is_followed(self) -> None:
        command = read(cut(warped(0.5)))
        self.assertEqual((command.first_frame, command.last_frame, command.frames), (41, 90, 100))
        after = command.apply(SHOT)
        self.assertEqual((after.first_frame, after.last_frame), (41, 140))
        self.assertIn("time runs at 50 %: 50 frames last 100", command.says(SHOT))

    def test_found_by_its_medias_name_too(self) -> None:
        def nameless(clip: Any) -> None:
            clip.name = "A010_C003"

        self.assertEqual(read(cut(nameless)).first_frame, 41)

    def test_the_sample_is_what_its_script_makes_and_every_clip_fits_its_shot(self) -> None:
        self.assertEqual(CUT.read_text(), sample_cut(), "run `make cuts`")
        for slug in ("jetty-walk", "mast-fall", "kite-pass", "sled-run"):
            shot = SHOTS[slug]()
            command = conforming(CUT.read_bytes(), shot, (slug,))
            self.assertEqual(command.apply(shot).frame_count, command.frames)


class Refused(unittest.TestCase):
    def test_each_with_its_words(self) -> None:
        def without_media(clip: Any) -> None:
            clip.media_reference = otio.schema.MissingReference()

        def frozen(clip: Any) -> None:
            clip.effects.append(otio.schema.FreezeFrame())

        def other(clip: Any) -> None:
            clip.name, clip.media_reference.target_url = "Gull flight", "gull.mov"

        def odd(clip: Any) -> None:
            clip.effects.append(otio.schema.Effect("Glow"))

        zero = otio.opentime.RationalTime(6, 24)
        fade = otio.schema.Transition("Slow fade", in_offset=zero, out_offset=zero)
        for data, words in (
            (cut(other), "no clip of this cut is about “Long walk”; it has “Gull flight”"),
            (cut(also=(otio.schema.Clip("Long walk"),)), "2 clips of this cut"),
            (cut(without_media), "link its media"),
            (cut(frozen), "freeze frame"),
            (cut(warped(0.0)), "freeze frame"),
            (cut(warped(-1.0)), "runs backwards"),
            (cut(odd), "the effect “Glow”"),
            (cut(also=(fade, otio.schema.Clip("next"))), "the transition “Slow fade”"),
            (b"{", "not an OpenTimelineIO cut list"),
            (b"\xff\xfe", "not an OpenTimelineIO cut list"),
            (json.dumps({"OTIO_SCHEMA": "Nothing.1"}).encode(), "not an OpenTimelineIO cut list"),
            (json.dumps({"OTIO_SCHEMA": "Clip.1", "name": "Long walk"}).encode(), "not an OpenTimelineIO cut list"),
            (cut(warped(1e300)), "out of reach"),
        ):
            with self.subTest(words), self.assertRaisesRegex(FormatError, words):
                read(data)

    def test_a_byte_order_mark_is_accepted(self) -> None:
        self.assertEqual(read(b"\xef\xbb\xbf" + cut()).first_frame, 41)

    def test_twenty_thousand_clips_are_read(self) -> None:
        more = tuple(otio.schema.Clip(f"gull {n}") for n in range(20_000))
        command = read(cut(also=more))
        self.assertEqual((command.first_frame, command.last_frame), (41, 140))

    def test_nested_ones(self) -> None:
        inner = otio.schema.Track("Inner")
        timeline = otio.adapters.read_from_string(cut().decode(), "otio_json")
        clip = timeline.tracks[0][1]
        del timeline.tracks[0][1]
        inner.append(clip)
        stack = otio.schema.Stack("Block A")
        stack.append(inner)
        timeline.tracks[0].append(stack)
        with self.assertRaisesRegex(FormatError, "nested"):
            read(str(otio.adapters.write_to_string(timeline, "otio_json")).encode())

    def test_frames_beside_the_shot(self) -> None:
        def far(clip: Any) -> None:
            clip.source_range = otio.opentime.TimeRange(
                otio.opentime.RationalTime(9000, 24), otio.opentime.RationalTime(10, 24)
            )

        with self.assertRaisesRegex(EditError, "the shot has 1 to 240"):
            read(cut(far)).apply(SHOT)


if __name__ == "__main__":
    unittest.main()
