"""What is accepted can be evaluated: every place that takes a formula, with every name that there is."""

import unittest
from collections.abc import Iterator

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.documents.doc import Doc
from zittern.core.errors import BadInput
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.steps import step_marks
from zittern.core.numbers.param import Number, fixed
from zittern.core.readings.framing import misses_px, report
from zittern.core.readings.motion_view import MotionView
from zittern.core.readings.movers import movers_px
from zittern.core.readings.point_readings import read
from zittern.core.shot.clips import Clip
from zittern.core.shot.cues import Cue
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.springs import Springs
from zittern.core.sources.gait import Gait
from zittern.core.sources.hit import Hit
from zittern.core.sources.road import Road
from zittern.core.sources.table import SOURCES
from zittern.core.sources.take import Recording, Take, Track

NAMES = ("t", "f", "fps", "u", "panic", "speed", "height", "distance", "bearing", "noise(t)", "missing")
TAKE = Take(recording=Recording(pan=Track.of(np.sin(np.arange(90.0)))), fade_s=0.0, loop=False)


def layered() -> Shot:
    """All sources, on one mount."""
    whole = everything()
    camera = Mount(id="camera", name="Camera", y_m=fixed(1.6))
    return whole.replace(mounts=(camera,), hold=None, lanes=whole.lanes[:1])


def everything() -> Shot:
    sources = [TAKE if row.kind == "take" else row.make() for row in SOURCES]
    sources += [Gait(follows="the path"), Road(follows="the path"), Hit(rhythm_hz=fixed(2.0))]
    layers = [
        layer(f"{source.kind}-{n}", source, n, {"pan": 0.5, "tilt": 0.4, "pedestal": 1.0}, span_frames=(1.0, 8.0))
        for n, source in enumerate(sources)
    ]
    below = layer("below", swings={"pedestal": 2.0}, target="cart")
    lanes = (
        Lane(
            id="lane",
            name="Lane",
            clips=(
                Clip(id="main", name="Main", layers=tuple(layers)),
                Clip(id="no-length", name="Point", span_frames=(5.0, 5.0)),
            ),
        ),
        Lane(
            id="low",
            name="Low",
            clips=(
                Clip(id="springs", name="Below", layers=(below,)),
                Clip(id="beside", name="Beside", span_frames=(3.0, 3.0)),
            ),
        ),
    )
    cart = Mount(id="cart", name="Cart", ride=Ride(object="sled", x_m=fixed(0.2)))
    head = Mount(id="head", name="Head", y_m=fixed(1.6), springs=Springs(), operator=Operator())
    return shot_with(
        lanes=lanes, mounts=(cart, head), subject=Subject.at("Post", (0.5, 1.0, -6.0)), hold=HoldFraming(),
        dials=(Dial(name="panic", value=fixed(40.0)),),
        cues=(Cue(id="cue", frame=4.0, place_m=(0.0, 0.0, -2.0)),), last_frame=10,
    )  # fmt: skip


def places(shot: Shot) -> Iterator[str]:
    """Addresses of all numbers; of axes one stands for the seven."""
    yield "shot.focal_mm"
    owners: list[tuple[str, Doc]] = [(f"mount:{mount.id}", mount) for mount in shot.mounts] + [
        (f"clip:{clip.id}", clip) for clip in shot.clips()
    ]
    owners += [(f"layer:{layer.id}", layer) for _, layer in shot.layers()] + [("dial:panic", shot.dials[0])]
    for address, doc in [*owners, ("shot.hold", shot.hold), ("shot.subject", shot.subject)]:
        yield from _within(address, doc)


def _within(address: str, doc: Doc | None) -> Iterator[str]:
    for name in type(doc).model_fields if doc is not None else ():
        value = getattr(doc, name)
        if isinstance(value, Number):
            yield f"{address}.{name}"
        elif isinstance(value, Doc) and name not in ("tilt", "roll", "truck", "pedestal", "dolly", "zoom", "curve"):
            yield from _within(f"{address}.{name}", value)


class Accepted(unittest.TestCase):
    def test_what_is_accepted_can_be_evaluated_read_and_measured(self) -> None:
        rigged = everything()
        rigged = rigged.replace(lanes=(rigged.lanes[0].replace(clips=rigged.lanes[0].clips[1:]), rigged.lanes[1]))
        accepted, refused = 0, 0
        asked = [(rigged, at) for at in sorted(set(places(rigged))) if not at.startswith("layer:")]
        asked += [
            (layered(), at)
            for at in sorted(set(places(layered())))
            if at.startswith("layer:") and (".source." in at or at.startswith("layer:noise"))
        ]
        self.assertGreater(len(asked), 90)
        # What one number does not reach is met again.
        cache = Cache()
        for shot, at in asked:
            for name in NAMES[3:] if at.startswith("layer:") else NAMES:
                text = f"0.5 + 0.001 * {name}"
                try:
                    made = edited(
                        shot,
                        {"type": "set_values", "values": [{"at": at, "value": {"state": "formula", "text": text}}]},
                    )
                except BadInput as error:
                    refused += 1
                    self.assertTrue(error.message, f"{at} = {name}")
                    continue
                accepted += 1
                with self.subTest(at=at, name=name):
                    motion = evaluate(made, np.array([1.0, 2.0, 4.5]), cache)
                    for values in (
                        motion.pose.position_m,
                        motion.pose.angles_deg,
                        motion.pose.focal_mm,
                        motion.total,
                        misses_px(made, motion),
                    ):
                        self.assertTrue(np.all(np.isfinite(values)))
                    if not at.startswith("layer:"):
                        self.assertIsNotNone(read(made, motion, 1))
                        self.assertIsNotNone(report(made, motion))
                        self.assertTrue(
                            all(part.values is not None for part in movers_px(MotionView(made, motion)).values())
                            and step_marks(made) is not None
                        )
        self.assertGreater(accepted, 500)
        self.assertGreater(refused, 100)

    def test_a_clip_of_no_length_on_a_shared_lane(self) -> None:
        for fade in ("linear", "smooth", "equal-power"):
            shot = everything()
            shot = shot.replace(lanes=tuple(lane.replace(fade=fade) for lane in shot.lanes))
            motion = evaluate(shot, np.linspace(1.0, 10.0, 91))
            self.assertTrue(all(np.all(np.isfinite(values)) for values in motion.clip_weights.values()))
            at_five = motion.clip_weights["no-length"][np.isclose(motion.frames, 5.5)]
            np.testing.assert_allclose(at_five, 1.0)
