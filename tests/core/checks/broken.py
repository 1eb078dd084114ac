"""THE CATALOGUE of broken shots: each with the one finding that it must give."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from tests.core.making import edited, layer, shot_with
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Number, by_formula, fixed, keyed, on_curve
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard, AxisSetting, Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.springs import Springs
from zittern.core.sources.formulas import Formulas
from zittern.core.sources.gait import Gait
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.take import Take
from zittern.core.sources.wave import Phases, Wave

__all__ = ["BROKEN", "Broken", "sound"]

MOVE = {"x_m": keyed((1, 0.0), (240, 2.0)), "y_m": fixed(1.6)}
POST = Subject.at("Post", (1.0, 1.6, -6.0))
SWAY = {"pan": 0.5, "tilt": 0.4, "truck": 1.0, "pedestal": 0.8}


@dataclass(frozen=True, slots=True)
class Broken:
    """What a check must find, and nothing else of weight. mended: whether its fix takes it away."""

    check: str
    shot: Shot
    weight: bool = True
    mended: bool = True


def sound(*extra: Layer, base: bool = True, clip: dict[str, object] | None = None, **fields: object) -> Shot:
    """A shot with nothing wrong: a slow truck with a calm shake, ten seconds."""
    layers = (layer("calm", Noise(rate_hz=fixed(1.3)), 11, SWAY), *extra) if base else extra
    camera = Mount(id="camera", name="Camera", **MOVE)  # type: ignore[arg-type]
    made = {"mounts": (camera,), "last_frame": 240, "subject": POST, **fields}
    return shot_with(*layers, clip=clip, **made)


def moving(**tracks: object) -> Shot:
    """The same with other tracks of the camera."""
    camera = Mount(id="camera", name="Camera", **{**MOVE, **tracks})  # type: ignore[arg-type]
    return sound(mounts=(camera,))


IN_PHASE = Wave(rate_hz=fixed(1.1), phase_deg=Phases(pedestal=fixed(0.0), shift_y=fixed(0.0)))


def waving(tilt_deg: float) -> Layer:
    """A wave that is so far on in its tilt."""
    return layer("wave", Wave(rate_hz=fixed(1.1), phase_deg=Phases(tilt=fixed(tilt_deg))), 4, {"pan": 0.4, "tilt": 0.3})


def asleep() -> Shot:
    """The subject runs to and fro; the operator turns far too late."""
    there = keyed(*((1 + 24 * n, -2.2 if n % 2 else 2.2) for n in range(11)))
    runner = Subject.at("Runner", (0.0, 1.6, -8.0)).replace(x_m=there)
    head = Mount(id="camera", name="Camera", y_m=fixed(1.6), operator=Operator(reaction_s=1.0, pan_hz=0.9))
    return sound(subject=runner, mounts=(head,), focal_mm=fixed(24.0))


def own(name: str, rate_hz: float = 0.5, **fields: object) -> Layer:
    """A layer with motion of its own."""
    return layer(name, Noise(rate_hz=fixed(rate_hz)), 21, {"pan": 2.0, "tilt": 1.7}, **fields)


def formula(name: str, **tracks: Number) -> Layer:
    return layer(name, Formulas(tracks=Tracks(**{"pan": fixed(0.0), **tracks})), 4)


def beside(clip: Clip) -> Shot:
    """The sound shot with a clip on a lane of its own."""
    return with_clip(sound(), clip)


def with_clip(shot: Shot, clip: Clip) -> Shot:
    return shot.replace(lanes=(*shot.lanes, Lane(id="other", name="Other", clips=(clip,))))


def clip(name: str, *layers: Layer, **fields: object) -> Clip:
    return Clip(id=name, name=name.title(), layers=layers, **fields)  # type: ignore[arg-type]


AWAY = keyed((1, 0.0), (120, 36.0), (240, 0.0))
SAME = by_formula("0.5 * sin(7 * t) + 0.3 * noise(3 * t, 5)", fixed(0.0))
ALIKE = Formulas(tracks=Tracks(pan=SAME, tilt=SAME))
STOPPING = Curve(
    keys=(
        Key(frame=1, value=0.0, interp="free", handle_out=(30.0, 0.0)),
        Key(frame=120, value=1.0, interp="free", handle_in=(-60.0, 0.0), handle_out=(60.0, 0.0)),
        Key(frame=240, value=2.0, handle_in=(-30.0, 0.0)),
    )
)
PAST = Curve(
    keys=(
        Key(frame=1, value=0.0, interp="free", handle_out=(80.0, -6.0)),
        Key(frame=240, value=4.0, handle_in=(-80.0, 0.0)),
    )
)
PACED = AxisBoard(roll=AxisSetting(swing=fixed(0.4), pace=fixed(5.0)))
LINKED = AxisBoard(pan=AxisSetting(swing=fixed(0.4)), tilt=AxisSetting(swing=fixed(0.4), linked_to="pan"))
LOOPED = {"x_m": keyed((1, 0.0), (121, 1.0), (241, 0.0))}


def hung(distance_m: float, overscan_percent: float, **move: object) -> Shot:
    """The sound shot with a plate in front of the lens, of the shape of the picture."""
    picture = {"name": "Shore", "picture": "0" * 64, "width_px": 1920, "height_px": 1080}
    hang = {"type": "hang_plates", "plates": [picture], "distance_m": distance_m, "overscan_percent": overscan_percent}
    shot = edited(sound(), hang)
    return edited(shot, {"type": "move_plate", "plate": "plate-1", **move}) if move else shot


def uncounted(shot: Shot) -> Shot:
    """The same with plates that need not fill the frame."""
    return shot.replace(plates=tuple(plate.replace(counts="no") for plate in shot.plates))


def strolled_through(**fields: object) -> Shot:
    """The lens goes where something is."""
    return moving(z_m=keyed((1, 0.0), (240, -6.0)), x_m=fixed(0.0), pan_deg=fixed(0.0)).replace(**fields)


BROKEN: Mapping[str, Broken] = {
    "a plate without overscan": Broken("coverage", hung(30.0, 0.0)),
    "a plate that hangs too far aside": Broken("coverage", hung(30.0, 60.0, across_m=12.0)),
    "a plate before the subject": Broken("hidden", uncounted(hung(3.0, 100.0))),
    "a plate in the way of the lens": Broken(
        "through", strolled_through(plates=uncounted(hung(4.0, 300.0)).plates, subject=None), mended=False
    ),
    "a muted layer": Broken("silent", sound(own("quiet", mute=True)), weight=False),
    "a muted clip": Broken("silent", beside(clip("quiet", own("quiet"), mute=True)), weight=False),
    "beside a soloed layer": Broken("silent", sound(own("loud", solo=True)), weight=False),
    "no swings": Broken("silent", sound(layer("still", Noise(), 4, {}))),
    "axes that are off": Broken(
        "silent", sound(layer("off", Noise(), 4, axes=AxisBoard(pan=AxisSetting(swing=fixed(1.0), on=False))))
    ),
    "a layer after the shot": Broken("silent", sound(own("late", span_frames=(500.0, 600.0)))),
    "a clip after the shot": Broken("silent", beside(clip("late", own("late"), span_frames=(500.0, 600.0)))),
    "a layer after its clip": Broken(
        "silent",
        beside(
            clip(
                "early",
                own("later", span_frames=(180.0, 230.0)),
                span_frames=(20.0, 170.0),
                ramp_in_frames=60.0,
                ramp_out_frames=60.0,
            )
        ),
    ),
    "no weight": Broken("silent", sound(own("none", weight=fixed(0.0)))),
    "no amount": Broken("silent", beside(clip("none", own("none"), amount=fixed(0.0)))),
    "under one that replaces": Broken("silent", sound(layer("above", Noise(), 21, SWAY, mode="replace"))),
    "no cues": Broken("silent", sound(layer("hit", Hit(at_start=False), 4, SWAY))),
    "a rate of 0": Broken("silent", sound(layer("still", Noise(rate_hz=fixed(0.0)), 4, SWAY))),
    "a speed of 0": Broken("silent", sound(own("stopped", speed=fixed(0.0)))),
    "a clip with a speed of 0": Broken("silent", beside(clip("stopped", own("stopped"), speed=fixed(0.0)))),
    "a swing that nobody sees": Broken("silent", sound(layer("tiny", Noise(), 4, {"pan": 0.001})), mended=False),
    "springs on the ground": Broken(
        "silent",
        sound(mounts=(Mount(id="camera", name="Camera", springs=Springs(), **MOVE),)),
        mended=False,  # type: ignore[arg-type]
    ),
    "no take": Broken("silent", sound(layer("take", Take(), 4, SWAY)), mended=False),
    "steps of a camera that stands": Broken(
        "silent",
        sound(
            layer("steps", Gait(follows="the path"), 4, SWAY),
            mounts=(Mount(id="camera", name="Camera", y_m=fixed(1.6)),),
        ),
        mended=False,
    ),
    "a wave along the diagonal": Broken(
        "twins",
        sound(waving(0.0)),
    ),
    "one formula for pan and tilt": Broken("twins", sound(layer("text", ALIKE, 4))),
    "a truck along the diagonal": Broken(
        "twins",
        sound(layer("wave", IN_PHASE, 4, {"truck": 3.0, "pedestal": 2.0})),
    ),
    "a shift along the diagonal": Broken(
        "twins",
        sound(layer("wave", IN_PHASE, 4, {"shift_x": 0.6, "shift_y": 0.6})),
    ),
    "a layer twice": Broken("twins", sound(own("one", rate_hz=1.9), own("two", rate_hz=1.9))),
    "a layer twice, in another clip": Broken(
        "twins", with_clip(sound(own("one", rate_hz=1.9)), clip("again", own("two", rate_hz=1.9)))
    ),
    "pan of one layer and tilt of another": Broken(
        "twins", sound(formula("one", pan=SAME), formula("two", tilt=SAME)), mended=False
    ),
    "the other diagonal": Broken(
        "twins",
        sound(waving(180.0)),
    ),
    "linked on purpose": Broken(
        "twins", sound(layer("linked", Noise(rate_hz=fixed(2.0)), 5, axes=LINKED)), weight=False
    ),
    "a loop that noise does not close": Broken(
        "seam",
        sound(loops=True, mounts=(Mount(id="camera", name="Camera", **MOVE | LOOPED),)),  # type: ignore[arg-type]
    ),
    "a loop that the move does not close": Broken(
        "seam", sound(layer("closed", Noise(rate_hz=fixed(1.3), loop=True), 11, SWAY), base=False, loops=True)
    ),
    "a clip that starts at once": Broken("pop", beside(clip("sudden", own("sudden"), span_frames=(77.0, 300.0)))),
    "a clip that ends at once": Broken("pop", beside(clip("sudden", own("sudden"), span_frames=(-50.0, 130.0)))),
    "a layer that starts at once": Broken("pop", sound(own("sudden", span_frames=(77.0, 300.0)))),
    "a layer that ends at once": Broken("pop", sound(own("sudden", span_frames=(-50.0, 130.0)))),
    "past the subject": Broken("framing", moving(pan_deg=keyed((1, 0.0), (240, 60.0))), mended=False),
    "behind the camera": Broken("framing", moving(pan_deg=fixed(180.0)), mended=False),
    "shaken out of the picture": Broken(
        "framing", sound(layer("aside", HandKeys(tracks=Tracks(pan=AWAY)), 8)), mended=False
    ),
    "blurred": Broken("blur", sound(layer("wild", Noise(rate_hz=fixed(3.0)), 8, {"pan": 7.0, "tilt": 6.0}))),
    "blurred by a shaken mount": Broken(
        "blur", sound(layer("wild", Noise(rate_hz=fixed(3.0)), 8, {"truck": 60.0, "pedestal": 50.0}))
    ),
    "a buzz that frames cannot show": Broken("rate", sound(layer("buzz", Noise(rate_hz=fixed(19.0)), 8, {"pan": 0.2}))),
    "a buzz by its pace": Broken(
        "rate",
        sound(
            layer(
                "buzz", Wave(rate_hz=fixed(4.0)), 8, axes=AxisBoard(roll=AxisSetting(swing=fixed(0.4), pace=fixed(5.0)))
            )
        ),
    ),
    "a buzz in the octaves": Broken(
        "rate", sound(layer("fine", Noise(rate_hz=fixed(8.0), octaves=4, persistence=fixed(0.9)), 8, {"pan": 0.3}))
    ),
    "a formula that frames cannot show": Broken(
        "rate", sound(formula("fast", pan=by_formula("0.2 * sin(tau * 17 * t)", fixed(0.0)))), mended=False
    ),
    "a ring that frames cannot show": Broken("rate", sound(layer("hit", Hit(ring_hz=fixed(21.0)), 8, {"pan": 0.8}))),
    "a beat that is too fast by the clip": Broken(
        "rate",
        beside(clip("fast", layer("beat", Wave(rate_hz=fixed(3.0)), 8, {"roll": 0.6}), speed=fixed(6.0))),
        mended=False,
    ),
    "a whip pan": Broken(
        "blur",
        moving(pan_deg=keyed((1, 0.0), (117, 0.0), (124, 90.0), (240, 90.0))).replace(subject=None),
        weight=False,
        mended=False,
    ),
    "a lens at its stop": Broken(
        "limits",
        sound(
            layer("zoom", Noise(rate_hz=fixed(1.0)), 9, {"zoom": 90.0}), base=False, focal_mm=fixed(1.2), subject=None
        ),
        weight=False,
        mended=False,
    ),
    "a corner in the truck": Broken("kink", moving(x_m=keyed((1, 0.0), (120, 2.0), (240, 0.0), interp="linear"))),
    "a corner in the pan": Broken("kink", moving(pan_deg=keyed((1, 0.0), (120, 12.0), (240, -6.0), interp="linear"))),
    "a stop on the way": Broken("kink", moving(x_m=on_curve(STOPPING)), weight=False),
    "handles that go too far": Broken("kink", moving(pan_deg=on_curve(PAST)), weight=False),
    "a face that fills more than the picture": Broken(
        "framing", sound(subject=Subject.at("Face", (0.6, 1.6, -6.0)).replace(height_m=6.5)), mended=False
    ),
    "an operator who is asleep": Broken("framing", asleep(), weight=False, mended=False),
    "a key above its limit": Broken(
        "limits",
        sound(layer("over", Noise(), 21, {"pan": 0.05}, weight=by_formula("0.5 + 12 * u", fixed(1.0)))),
        weight=False,
        mended=False,
    ),
    "a machine": Broken("smooth", sound(base=False), weight=False),
    "sways like a ship": Broken(
        "comfort", sound(layer("ship", Wave(rate_hz=fixed(0.2)), 8, {"roll": 5.0})), weight=False
    ),
    "more hits than anybody can see": Broken(
        "rate",
        sound(layer("hits", Hit(at_start=False, rhythm_hz=fixed(10.0)), 8, SWAY, speed=fixed(40.0))),
        mended=False,
    ),
    "more steps than anybody can see": Broken(
        "rate", beside(clip("steps", layer("feet", Gait(), 8, SWAY), speed=fixed(500.0))), mended=False
    ),
    "turns too fast": Broken(
        "comfort", sound(layer("fast", Noise(rate_hz=fixed(1.6)), 8, {"roll": 6.0})), weight=False
    ),
    "the same again and again": Broken(
        "repeats",
        sound(layer("again", Wave(rate_hz=fixed(0.9)), 8, {"pan": 1.0}), base=False),
        weight=False,
        mended=False,
    ),
}
