"""THE TABLES of what forms show of layers, clips and the move, and of the choices they offer. Those of the sources stand with the sources."""

from __future__ import annotations

from zittern.core.axes import AXES, AXIS_INFO
from zittern.core.looks import FieldLook, Look, described
from zittern.core.numbers.curves import Interp
from zittern.core.numbers.param import limits_of
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import AxisSetting, Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Picture, Shot

__all__ = ["CLIP", "FRAMINGS", "LAYER", "LENSES_MM", "MOVE", "PICTURES", "RUNS_ON", "SAID"]

_LAYER = (
    Look.percent("weight", "weight", group="weight, speed", ink="pedestal"),
    Look.percent("speed", "speed", group="weight, speed", ink="pan"),
    Look("mode", "with those under it"),
    Look("steady", "steady on screen", hint="Keeps its size in the picture while the lens zooms"),
    Look("ramp_shape", "ramp shape"),
)
_CLIP = (Look.percent("amount", "amount", group="amount, speed", ink="pedestal"), Look.percent("speed", "speed", group="amount, speed", ink="pan"))
_PLACE = (
    Look("x_m", "x", "m", step=0.01, digits=3, group="position", said="camera x", ink="truck"),
    Look("y_m", "height", "m", step=0.01, digits=3, group="position", said="camera height", ink="pedestal"),
    Look("z_m", "z", "m", step=0.01, digits=3, group="position", said="camera z", ink="dolly"),
    Look("pan_deg", "pan", "°", step=0.1, group="angles", ink="pan"),
    Look("tilt_deg", "tilt", "°", step=0.1, group="angles", ink="tilt"),
    Look("roll_deg", "roll", "°", step=0.1, group="angles", ink="roll"),
)
_LENS = (Look("focal_mm", "lens", "mm", step=0.2, digits=1, said="focal length", ink="zoom"),)
# Names in sentences, by field.
SAID: dict[str, str] = {look.field: look.said or look.title for look in (*_LAYER, *_CLIP, *_PLACE, *_LENS)}


def _swings() -> tuple[FieldLook, ...]:
    """Swing of each axis, within what the axis can do."""
    least, _ = limits_of(AxisSetting.model_fields["swing"]) or (0.0, 0.0)
    return tuple(
        FieldLook(
            field=f"axes.{axis}.swing", title=axis, kind="number", unit=info.sign, step=info.step, digits=2, scales=True, least=least,
            most=info.most_swing, group="swing", ink=axis, axis=axis,
        )
        for axis, info in zip(AXES, AXIS_INFO, strict=True)
    )  # fmt: skip


LAYER: tuple[FieldLook, ...] = (*described(Layer, _LAYER), *_swings())
CLIP: tuple[FieldLook, ...] = described(Clip, _CLIP)
# In the order of the columns of poses: where a mount is and how it stands, then the lens.
MOVE: tuple[FieldLook, ...] = (*described(Mount, _PLACE), *described(Shot, _LENS))

# How people have keys run on; free handles come of dragging them.
RUNS_ON: tuple[Interp, ...] = ("smooth", "linear", "hold")
# Sizes of pictures that are often asked for, in pixels.
PICTURES: tuple[Picture, ...] = tuple(
    Picture(width_px=width, height_px=height) for width, height in ((1920, 1080), (2048, 858), (3840, 2160), (1080, 1920), (1440, 1080))
)
# Focal lengths that lenses are made in.
LENSES_MM = (18, 24, 35, 50, 85, 135)
# How large a subject stands in the picture, as a share of its height.
FRAMINGS = {"wide": 0.33, "full figure": 0.75, "close": 1.8}
