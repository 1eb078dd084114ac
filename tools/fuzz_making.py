"""Random shots of all that there is, and random edits of them."""

from __future__ import annotations

import random
from collections.abc import Callable

import numpy as np

from zittern.core.axes import AXES
from zittern.core.edits.variants import AddVariant, CarryTo, RemoveVariant
from zittern.core.errors import BadInput
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Number, by_formula, fixed, on_curve
from zittern.core.shot.blends import Blend, Corner
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.cues import Cue
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane, lanes_with
from zittern.core.shot.layers import AxisBoard, AxisSetting, Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.plates import Plate
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject, new_shot
from zittern.core.shot.springs import Springs
from zittern.core.shot.targets import MiddleTarget, MountTarget, PointTarget, SubjectTarget, Target, TargetChange
from zittern.core.shot.through_variant import fitted, through_variant
from zittern.core.sources.table import SOURCES
from zittern.core.sources.take import Recording, Take, Track
from zittern.core.timebase import Fps

__all__ = ["edited", "made"]

_LAST = 90
_CORNERS = ("one", "two", "three", "four")
_FORMULAS = (
    "{v} + 0.1 * u",
    "{v} * (1 + 0.2 * sin(t))",
    "{v} + 0.05 * noise(t)",
    "{v} * (0.5 + panic / 100)",
    "if f > 40 then {v} else 0.5 * {v}",
)
_ON_PATH = ("{v} + 0.05 * speed", "{v} * (1 + 0.01 * distance)")


def made(rng: random.Random) -> Shot:
    """A shot with a rig, cues, dials, and layers of all kinds."""
    mounts = tuple(_mount(rng, n, rng.randint(1, 4)) for n in range(rng.randint(1, 4)))
    aimed = [n for n, mount in enumerate(mounts) if mount.operator is not None]
    mounts = tuple(mount if n in aimed[:1] else mount.replace(operator=None) for n, mount in enumerate(mounts))
    ids = [None, *(mount.id for mount in mounts)]
    lanes = tuple(_lane(rng, n, ids) for n in range(rng.randint(1, 3)))
    return new_shot(
        "Fuzz",
        last_frame=_LAST,
        mounts=mounts,
        lanes=lanes,
        subject=Subject.at("Post", (rng.uniform(-3, 3), 1.0, -8.0)),
        dials=(Dial(name="panic", value=_number(rng, 0.0, 100.0, formulas=())),),
        cues=tuple(
            Cue(id=f"cue-{n}", frame=rng.uniform(1, 80), place_m=rng.choice([None, (1.0, 0.0, -3.0)]))
            for n in range(rng.randint(0, 3))
        ),
        hold=rng.choice([None, None, _hold(rng, ids)]),
        focal_mm=_number(rng, 30.0, 60.0),
        plates=tuple(_plate(rng, n) for n in range(rng.randint(0, 2))),
    )


def edited(shot: Shot, rng: random.Random) -> Shot:
    """The shot after one random change that it takes."""
    for _ in range(50):
        try:
            return fitted(rng.choice(_EDITS)(shot, rng), shot)
        except (BadInput, ValueError, IndexError):
            continue
    return shot


def _number(
    rng: random.Random, least: float, most: float, formulas: tuple[str, ...] = (*_FORMULAS, *_ON_PATH)
) -> Number:
    value = rng.uniform(least, most)
    kind = rng.random()
    if kind < 0.55 or (kind > 0.8 and not formulas):
        return fixed(value)
    if kind > 0.8:
        return by_formula(rng.choice(formulas).format(v=round(value, 3)), fixed(value))
    keys = sorted({round(rng.uniform(1, _LAST), 1) for _ in range(rng.randint(1, 4))})
    interps = ("hold", "linear", "smooth", "free")
    return on_curve(
        Curve(
            keys=tuple(Key(frame=f, value=rng.uniform(least, most), interp=rng.choice(interps)) for f in keys),
            after=rng.choice(["hold", "repeat"]),
        )
    )


def _plate(rng: random.Random, n: int) -> Plate:
    return Plate(
        id=f"plate-{n}", name="Plate", picture="0" * 64, width_px=160, height_px=90, width_m=rng.uniform(4.0, 30.0),
        shape=rng.choice(["flat", "cylinder", "sphere"]), edges=rng.choice(["bare", "mirrored"]),
        x_m=_number(rng, -2.0, 2.0, _FORMULAS), z_m=fixed(-8.0 - 4.0 * n), pan_deg=_number(rng, -10.0, 10.0, _FORMULAS),
    )  # fmt: skip


def _hold(rng: random.Random, mounts: list[str | None]) -> HoldFraming:
    """On the subject, a point or a mount, and later on another."""
    targets = (
        SubjectTarget(),
        PointTarget(x_m=_number(rng, -2.0, 2.0, _FORMULAS), y_m=fixed(1.0), z_m=fixed(-9.0)),
        *(MountTarget(mount=each) for each in mounts if each is not None),
    )
    change = TargetChange(frame=rng.uniform(5.0, 60.0), target=rng.choice(targets))
    return HoldFraming(below_hz=0.3, target=rng.choice(targets), changes=rng.choice([(), (change,)]))


def _on(shot: Shot, rng: random.Random) -> Target | None:
    """What a cue happens at."""
    mount = MountTarget(mount=rng.choice(shot.mounts).id)
    point = PointTarget(x_m=_number(rng, -2.0, 2.0, ()), z_m=fixed(-4.0))
    return rng.choice([None, SubjectTarget(), mount, point, MiddleTarget(one=mount, other=SubjectTarget())])


def _mount(rng: random.Random, n: int, _: int) -> Mount:
    move = {field: _number(rng, -2.0, 2.0, _FORMULAS) for field in ("x_m", "y_m", "z_m")}
    move |= {field: _number(rng, -40.0, 40.0, _FORMULAS) for field in ("pan_deg", "tilt_deg", "roll_deg")}
    ride = (
        Ride(
            object="sled",
            x_m=_number(rng, -1, 1, ()),
            pan_deg=_number(rng, -30, 30, ()),
            position_weight=_number(rng, 0, 1, ()),
        )
        if rng.random() < 0.2
        else None
    )
    springs = (
        Springs(shift_hz=rng.uniform(0.5, 6), turn_hz=rng.uniform(0.5, 6), weight=_number(rng, 0, 1, ()))
        if rng.random() < 0.4
        else None
    )
    operator = (
        Operator(mode=rng.choice(["replace", "add"]), reaction_s=rng.uniform(0, 0.4)) if rng.random() < 0.3 else None
    )
    return Mount(
        id=f"mount-{n}",
        name=f"Mount {n}",
        ride=ride,
        springs=springs,
        operator=operator,
        length_m=fixed(rng.choice([0.0, 0.4])),
        **move,
    )


def _lane(rng: random.Random, n: int, targets: list[str | None]) -> Lane:
    clips = tuple(_clip(rng, f"clip-{n}-{c}", targets) for c in range(rng.randint(1, 3)))
    return Lane(id=f"lane-{n}", name="Lane", clips=clips, fade=rng.choice(["linear", "smooth", "equal-power"]))


def _clip(rng: random.Random, id_: str, targets: list[str | None]) -> Clip:
    layers = tuple(_layer(rng, f"{id_}-{i}", targets) for i in range(rng.randint(1, 3)))
    more = {"amount": _number(rng, 0, 1), "speed": _number(rng, 0.5, 2, _FORMULAS), "layers": layers}
    clock = (
        Clock(start_frame=rng.uniform(-10, 20), end_frame=rng.choice([None, 70.0]), later_frames=rng.uniform(-5, 5))
        if rng.random() < 0.3
        else None
    )
    blend = _blend(rng) if rng.random() < 0.4 else None
    return Clip(id=id_, name=id_, span_frames=_span(rng), clock=clock, blend=blend, **more)


def _blend(rng: random.Random) -> Blend:
    corners = tuple(Corner(id=name, name=name) for name in _CORNERS[: rng.randint(2, len(_CORNERS))])
    return Blend(
        method=rng.choice(["mix", "morph"]), corners=corners,
        across_percent=_number(rng, 0.0, 100.0), up_percent=_number(rng, 0.0, 100.0),
    )  # fmt: skip


def _span(rng: random.Random) -> tuple[float, float] | None:
    first = float(rng.randint(1, 60))
    return None if rng.random() < 0.4 else (first, first + rng.randint(0, 40))


def _layer(rng: random.Random, id_: str, targets: list[str | None]) -> Layer:
    row = rng.choice(SOURCES)
    source = row.make()
    if isinstance(source, Take):
        samples = np.random.default_rng(rng.randint(0, 9)).normal(size=200)
        source = Take(
            recording=Recording(rate_hz=60.0, pan=Track.of(samples)),
            fade_s=rng.choice([0.0, 0.3]),
            loop=rng.random() < 0.5,
        )
    if "follows" in type(source).model_fields and rng.random() < 0.5:
        source = source.replace(follows="the path")
    axes = {
        axis: AxisSetting(swing=_number(rng, 0, 1), pace=_number(rng, 0.5, 2, _FORMULAS))
        for axis in rng.sample(AXES, 3)
    }
    return Layer(
        id=id_,
        name=id_,
        source=source,
        seed=rng.randint(0, 99),
        axes=AxisBoard(**axes),
        weight=_number(rng, 0, 1),
        target=rng.choice(targets),
        span_frames=_span(rng),
        mode=rng.choice(["add", "add", "replace"]),
        steady=rng.random() < 0.2,
        corner=rng.choice([None, *_CORNERS]),
    )


def _some_clip(shot: Shot, rng: random.Random, change: Callable[[Clip], Clip]) -> Shot:
    chosen = rng.choice(list(shot.clips()))
    lanes = tuple(
        lane.replace(clips=tuple(change(clip) if clip is chosen else clip for clip in lane.clips))
        for lane in shot.lanes
    )
    return shot.replace(lanes=lanes)


def _some_layer(shot: Shot, rng: random.Random, change: Callable[[Layer], Layer]) -> Shot:
    chosen = rng.choice([layer for _, layer in shot.layers()])
    return shot.replace(lanes=lanes_with(shot.lanes, lambda layer: change(layer) if layer is chosen else layer))


def _some_mount(shot: Shot, rng: random.Random, change: Callable[[Mount], Mount]) -> Shot:
    chosen = rng.choice(shot.mounts)
    return shot.replace(mounts=tuple(change(mount) if mount is chosen else mount for mount in shot.mounts))


def _another_source_number(layer: Layer, rng: random.Random) -> Layer:
    """One number of a source, as another layer of another kind may have it too: only limits tell them apart."""
    fields = [name for name in type(layer.source).model_fields if isinstance(getattr(layer.source, name), Number)]
    if not fields:
        return layer.replace(seed=rng.randint(0, 99))
    return layer.replace(
        source=layer.source.replace(**{rng.choice(fields): _number(rng, 0.2, 3.0, ("{v} * 4 * (1 + u)", *_FORMULAS))})
    )


def _swapped(shot: Shot, rng: random.Random) -> Shot:
    """A layer in another clip."""
    chosen = rng.choice([layer for _, layer in shot.layers()])
    to = rng.choice(list(shot.clips()))
    lanes = []
    for lane in shot.lanes:
        clips = []
        for clip in lane.clips:
            layers = tuple(layer for layer in clip.layers if layer is not chosen)
            clips.append(clip.replace(layers=(*layers, chosen) if clip is to else layers))
        lanes.append(lane.replace(clips=tuple(clips)))
    return shot.replace(lanes=tuple(lanes))


def _alike_in_another(clip: Clip, rng: random.Random) -> Clip:
    """Another layer with the source of one, in another corner: the two morph."""
    one = rng.choice(clip.layers)
    other = one.replace(
        id=f"{one.id[:30]}-{rng.randint(0, 9999)}", corner=rng.choice(_CORNERS), weight=_number(rng, 0, 1),
        speed=_number(rng, 0.5, 2, _FORMULAS), mode="add",
    )  # fmt: skip
    return clip.replace(layers=(*clip.layers[-5:], other))


_EDITS: tuple[Callable[[Shot, random.Random], Shot], ...] = (
    lambda shot, rng: shot.replace(fps=Fps(num=rng.choice([24, 25, 30, 48]))),
    lambda shot, rng: shot.replace(
        first_frame=rng.choice([1, -3, 5]), last_frame=rng.choice([_LAST, _LAST - 7, _LAST + 11])
    ),
    lambda shot, rng: shot.replace(focal_mm=_number(rng, 30, 60)),
    lambda shot, rng: shot.replace(plates=tuple(_plate(rng, n) for n in range(rng.randint(0, 2)))),
    lambda shot, rng: shot.replace(hold=_hold(rng, [mount.id for mount in shot.mounts])),
    lambda shot, rng: _some_clip(
        shot, rng, lambda clip: clip.replace(blend=rng.choice([None, _blend(rng), _blend(rng)]))
    ),
    lambda shot, rng: _some_layer(shot, rng, lambda layer: layer.replace(corner=rng.choice([None, *_CORNERS]))),
    lambda shot, rng: _some_clip(shot, rng, lambda clip: _alike_in_another(clip, rng)),
    lambda shot, rng: shot.replace(sensor_mm=rng.choice([24.0, 36.0])),
    lambda shot, rng: shot.replace(
        hold=rng.choice([None, HoldFraming(below_hz=0.5, across_percent=_number(rng, 30, 70))])
    ),
    lambda shot, rng: shot.replace(subject=Subject.at("Post", (rng.uniform(-3, 3), 1.0, -8.0))),
    lambda shot, rng: shot.replace(dials=(shot.dials[0].replace(value=_number(rng, 0.0, 100.0, ())),)),
    lambda shot, rng: shot.replace(
        cues=(
            *shot.cues[1:],
            Cue(
                id=f"cue-{rng.randint(5, 999)}", frame=rng.uniform(1, 80), name=rng.choice(["", "A"]), on=_on(shot, rng)
            ),
        )
    ),
    lambda shot, rng: _some_mount(
        shot,
        rng,
        lambda each: each.replace(**{rng.choice(["x_m", "pan_deg", "tilt_deg"]): _number(rng, -3, 3, _FORMULAS)}),
    ),
    lambda shot, rng: _some_mount(shot, rng, lambda each: each.replace(mute=not each.mute)),
    lambda shot, rng: _some_mount(shot, rng, lambda each: each.replace(name=f"Name {rng.random()}")),
    lambda shot, rng: _some_mount(
        shot,
        rng,
        lambda each: each.replace(
            springs=rng.choice([None, Springs(shift_hz=rng.uniform(0.5, 6), turn_damping=rng.uniform(0.1, 2))])
        ),
    ),
    lambda shot, rng: _some_mount(
        shot,
        rng,
        lambda each: each.replace(
            operator=None if any(m.operator for m in shot.mounts) else Operator(pan_hz=rng.uniform(0.5, 3))
        ),
    ),
    lambda shot, rng: _some_mount(shot, rng, lambda each: each.replace(pivot_m=(rng.uniform(-0.5, 0.5), 0.0, 0.0))),
    lambda shot, rng: _some_clip(shot, rng, lambda each: each.replace(span_frames=_span(rng))),
    lambda shot, rng: _some_clip(shot, rng, lambda each: each.replace(amount=_number(rng, 0, 1))),
    lambda shot, rng: _some_clip(shot, rng, lambda each: each.replace(speed=_number(rng, 0.5, 2, _FORMULAS))),
    lambda shot, rng: _some_clip(
        shot,
        rng,
        lambda each: each.replace(clock=rng.choice([None, Clock(start_frame=rng.uniform(-9, 9), later_frames=3.0)])),
    ),
    lambda shot, rng: _some_clip(shot, rng, lambda each: each.replace(mute=not each.mute)),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(weight=_number(rng, 0, 1))),
    lambda shot, rng: _some_layer(
        shot, rng, lambda each: each.replace(mode="replace" if each.mode == "add" else "add")
    ),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(span_frames=_span(rng))),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(name=f"Name {rng.random()}")),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(target=rng.choice([None, shot.mounts[0].id]))),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(mute=not each.mute)),
    lambda shot, rng: _some_layer(shot, rng, lambda each: each.replace(steady=not each.steady)),
    lambda shot, rng: _some_layer(shot, rng, lambda each: _another_source_number(each, rng)),
    lambda shot, rng: _some_layer(shot, rng, lambda each: _layer(rng, each.id, [each.target])),
    _swapped,
    lambda shot, rng: shot if len(shot.variants) > 2 else AddVariant().apply(shot),
    lambda shot, rng: through_variant(shot, rng.choice(shot.variants).id),
    lambda shot, rng: CarryTo(to=rng.choice(shot.variants).id, clips=(rng.choice(list(shot.clips())).id,)).apply(shot),
    lambda shot, rng: RemoveVariant(variant=rng.choice(shot.variants).id).apply(shot),
    lambda shot, rng: shot.replace(
        lanes=tuple(lane.replace(fade=rng.choice(["linear", "equal-power"])) for lane in shot.lanes)
    ),
)
