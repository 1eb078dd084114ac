"""THE TABLES of what forms show of layers, clips and the move, and of the choices they offer.

Those of the sources stand with the sources.
"""

from __future__ import annotations

from dataclasses import replace

from zittern.core.axes import AXES, AXIS_INFO, axis_title
from zittern.core.numbers.curves import Interp
from zittern.core.numbers.limits import limits_of
from zittern.core.numbers.looks import FieldLook, Look, described
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clip
from zittern.core.shot.glass import Glass
from zittern.core.shot.layers import AxisSetting, Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.pad import FEWEST_CORNERS, MOST_CORNERS, corners
from zittern.core.shot.plates import Plate
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Picture, Shot
from zittern.core.shot.springs import Springs

__all__ = [
    "BLEND",
    "CLIP",
    "FRAMINGS",
    "GLASS",
    "HOLD",
    "LAYER",
    "LENSES_MM",
    "MOUNT",
    "MOVE",
    "OPERATOR",
    "PADS",
    "PICTURES",
    "PLACES",
    "PLATE",
    "RIDE",
    "RUNS_ON",
    "SAID",
    "SPRINGS",
]

_LAYER = (
    Look.percent("weight", "weight", group="weight, speed", ink="pedestal"),
    Look.percent("speed", "speed", group="weight, speed", ink="pan"),
    Look("mode", "blending"),
    Look("steady", "steady on screen", hint="Pan and tilt keep their size on screen while the lens zooms"),
    Look("ramp_shape", "ramp shape"),
)
_CLIP = (
    Look.percent("amount", "amount", group="amount, speed", ink="pedestal"),
    Look.percent("speed", "speed", group="amount, speed", ink="pan"),
)
_BLEND = (
    Look(
        "method",
        "blend by",
        said="method of blending",
        hint="Mix: weighted sum of the corners. Morph: one motion with interpolated swings and rates",
    ),
    Look("across_percent", "across", "%", step=0.5, digits=1, group="place", said="place across the pad", ink="pan"),
    Look("up_percent", "up", "%", step=0.5, digits=1, group="place", said="place up the pad", ink="tilt"),
)
_PLACE = (
    Look("x_m", "x", "m", step=0.01, digits=3, group="position", said="camera x", ink="truck"),
    Look("y_m", "height", "m", step=0.01, digits=3, group="position", said="camera height", ink="pedestal"),
    Look("z_m", "z", "m", step=0.01, digits=3, group="position", said="camera z", ink="dolly"),
    Look("pan_deg", "pan", "°", step=0.1, group="angles", ink="pan"),
    Look("tilt_deg", "tilt", "°", step=0.1, group="angles", ink="tilt"),
    Look("roll_deg", "roll", "°", step=0.1, group="angles", ink="roll"),
)
_PLATE = (
    *_PLACE,
    Look("width_m", "width", "m", step=0.01, digits=3, scales=True, hint="Along its surface; the height follows"),
    Look("shape", "shape", hint="Flat, or part of a cylinder or a sphere around you"),
    Look("bend_deg", "bent by", "°", step=0.2, digits=1, hint="Arc covered by its width"),
    Look("edges", "edges", hint="Edge extension: mirror or clamp"),
    Look("edge_percent", "edges by", "%", step=0.2, digits=1, hint="Extension per side"),
    Look(
        "counts",
        "must fill",
        hint="Must fill the frame: checks report its edge. Usually the rearmost plate only",
        titles={"when rearmost": "rearmost"},
    ),
)
_LENS = (Look("focal_mm", "lens", "mm", step=0.2, digits=1, said="focal length", ink="zoom"),)
_GLASS = (
    Look(
        "k1",
        "distortion k1",
        step=0.001,
        digits=3,
        hint="Brown and Conrady: below 0 barrel, above 0 pincushion",
    ),
    Look("k2", "distortion k2", step=0.001, digits=3, hint="Second radial term (r⁴), mostly at the edges"),
    Look(
        "breathing_percent",
        "breathing",
        "%",
        step=0.05,
        digits=2,
        hint="Focal-length change, infinity to 1 m; unit focusing: 0.1 % per mm",
    ),
    Look(
        "focus_m",
        "focus",
        "m",
        step=0.01,
        digits=2,
        scales=True,
        said="focus distance",
        hint="Focus distance; write =distance and it follows the subject",
    ),
)
_MOUNT = (
    Look("kind", "kind", hint="Drawing and purpose; does not affect motion"),
    Look("length_m", "length", "m", step=0.01, digits=2, ink="dolly", hint="Forward offset of the next mount"),
)


def _springs(field: str, said: str, stop: Look) -> tuple[Look, ...]:
    """Return frequency, damping and stop of springs, shown next to their switch."""
    only = (field, True)
    told = "Natural frequency of its springs; faster motion is softened"
    return (
        Look(
            f"{field}_hz", "frequency", "Hz", step=0.01, scales=True, only=only, said=f"frequency of {said}", hint=told
        ),
        Look(
            f"{field}_damping",
            "damping",
            "×",
            step=0.005,
            only=only,
            said=f"damping of {said}",
            hint="1 = critically damped; less overshoots",
        ),
        replace(stop, only=only, scales=True, said=f"stop of {said}", hint="End stop: it goes no further"),
    )


def _hand(field: str, of: str) -> tuple[Look, ...]:
    """Return the fields of the operator for one axis, shown where the axis is."""
    only = (field, True)
    near = f"Of the {of}: nothing is done while it is that near"
    return (
        Look(
            f"{field}_hz",
            "response",
            "Hz",
            step=0.01,
            scales=True,
            only=only,
            said=f"response of {field}",
            hint="Speed of the camera's response",
        ),
        Look(
            f"{field}_damping",
            "damping",
            "×",
            step=0.005,
            only=only,
            said=f"damping of {field}",
            hint="1 = critically damped; less overshoots",
        ),
        Look(
            f"{field}_slack_percent",
            "slack ±",
            "%",
            step=0.05,
            digits=1,
            only=only,
            said=f"slack of {field}",
            hint=near,
        ),
    )


_GIVE = (
    Look("shift", "translation springs", hint="Translation springs to its parent"),
    *_springs("shift", "shifts", Look("shift_stop_cm", "stop", "cm", step=0.1, digits=1)),
    Look("turn", "rotation springs", hint="Rotation springs to its parent, about its own axes"),
    *_springs("turn", "turns", Look("turn_stop_deg", "stop", "°", step=0.1, digits=1)),
    Look.percent("weight", "weight", ink="pedestal"),
)
_PLACE_IN_PICTURE = (
    Look(
        "across_percent",
        "across",
        "%",
        step=0.1,
        digits=1,
        group="place on screen",
        ink="pan",
        hint="Framing target, from the left edge",
    ),
    Look(
        "up_percent",
        "up",
        "%",
        step=0.1,
        digits=1,
        group="place on screen",
        ink="tilt",
        hint="Framing target, from the lower edge",
    ),
)
_OPERATOR = (
    *_PLACE_IN_PICTURE,
    Look("reaction_s", "reaction", "s", step=0.005, said="reaction time", hint="Reaction time"),
    Look(
        "anticipation_s",
        "looks ahead",
        "s",
        step=0.005,
        said="anticipation",
        hint="Lead time along the subject's path",
    ),
    Look("pan", "pans"),
    *_hand("pan", "width"),
    Look("tilt", "tilts"),
    *_hand("tilt", "height"),
    Look("mode", "keyed pan/tilt", hint="Replaces keyed pan and tilt, or adds to them"),
    Look.percent("weight", "weight", ink="pedestal"),
)
_RIDE = (
    Look.percent(
        "position_weight",
        "follows place",
        ink="truck",
        hint="Share of the object's travel; fades without a jump",
    ),
    Look.percent("rotation_weight", "follows turns", ink="pan", hint="Share of the object's rotation"),
)
_HOLD = (
    Look(
        "below_hz",
        "below",
        "Hz",
        step=0.005,
        scales=True,
        hint="Drift below this is removed, faster shake stays",
    ),
    *_PLACE_IN_PICTURE,
    Look.percent("weight", "weight", ink="pedestal"),
)
# Names in sentences, by field.
SAID: dict[str, str] = {
    look.field: look.said or look.title
    for look in (
        *_GIVE,
        *_OPERATOR,
        *_RIDE,
        *_HOLD,
        *_MOUNT,
        *_LAYER,
        *_CLIP,
        *_BLEND[:1],
        *_PLACE,
        *_LENS,
        *_GLASS,
        *_PLATE[6:],
    )
}


def _swing_fields() -> tuple[FieldLook, ...]:
    """Swing of each axis, within what the axis can do."""
    least, _ = limits_of(AxisSetting.model_fields["swing"]) or (0.0, 0.0)
    return tuple(
        FieldLook(
            field=f"axes.{axis}.swing", title=info.title, kind="number", unit=info.sign, step=info.step, digits=2,
            scales=True, least=least,
            most=info.most_swing, group="swing", ink=axis, axis=axis,
        )
        for axis, info in zip(AXES, AXIS_INFO, strict=True)
    )  # fmt: skip


def _paces() -> tuple[FieldLook, ...]:
    """Rate of each axis, as a multiple of its source's."""
    least, most = limits_of(AxisSetting.model_fields["pace"]) or (0.0, 0.0)
    return tuple(
        FieldLook(
            field=f"axes.{axis}.pace", title=axis_title(axis), kind="number", unit="×", step=0.01, digits=2,
            scales=True,
            least=least, most=most, group="rate", ink=axis,
            axis=axis, hint="Multiple of the source's own rate",
        )
        for axis in AXES
    )  # fmt: skip


LAYER: tuple[FieldLook, ...] = (*described(Layer, _LAYER), *_swing_fields(), *_paces())
CLIP: tuple[FieldLook, ...] = described(Clip, _CLIP)
BLEND: tuple[FieldLook, ...] = described(Blend, _BLEND)
# Positions of the corners of a pad, by their number: percent from its left and lower edge.
PADS: dict[int, tuple[tuple[float, float], ...]] = {
    count: tuple((float(x), float(y)) for x, y in (100.0 * corners(count)).round(6))
    for count in range(FEWEST_CORNERS, MOST_CORNERS + 1)
}
# In the order of the columns of poses: where a mount is and how it stands, then the lens.
MOVE: tuple[FieldLook, ...] = (*described(Mount, _PLACE), *described(Shot, _LENS))
# Other fields of a mount: its own, then those of its optional parts.
PLATE: tuple[FieldLook, ...] = described(Plate, _PLATE)
MOUNT: tuple[FieldLook, ...] = described(Mount, _MOUNT)
SPRINGS: tuple[FieldLook, ...] = described(Springs, _GIVE)
OPERATOR: tuple[FieldLook, ...] = described(Operator, _OPERATOR)
RIDE: tuple[FieldLook, ...] = described(Ride, _RIDE)
GLASS: tuple[FieldLook, ...] = described(Glass, _GLASS)
HOLD: tuple[FieldLook, ...] = described(HoldFraming, _HOLD)
# Places on screen that have a name: percent from the left and lower edge.
PLACES: dict[str, tuple[float, float]] = {
    "centre": (50.0, 50.0), "left third": (100.0 / 3.0, 50.0), "right third": (200.0 / 3.0, 50.0),
    "upper left": (100.0 / 3.0, 200.0 / 3.0),
    "upper right": (200.0 / 3.0, 200.0 / 3.0), "lower left": (100.0 / 3.0, 100.0 / 3.0),
    "lower right": (200.0 / 3.0, 100.0 / 3.0),
}  # fmt: skip

# Interpolations in menus; free handles result from dragging.
RUNS_ON: tuple[Interp, ...] = ("smooth", "linear", "hold")
# Sizes of pictures that are often asked for, in pixels.
PICTURES: tuple[Picture, ...] = tuple(
    Picture(width_px=width, height_px=height)
    for width, height in ((1920, 1080), (2048, 858), (3840, 2160), (1080, 1920), (1440, 1080))
)
# Focal lengths that lenses are made in.
LENSES_MM = (12, 15, 18, 24, 35, 50, 85, 135)
# Height of a subject in the picture, as a share of the picture height.
FRAMINGS = {"wide": 0.33, "full shot": 0.75, "close-up": 1.8}
