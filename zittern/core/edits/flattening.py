"""A blend made plain: at one place, or with all that it does over time as keys."""

from __future__ import annotations

from typing import Literal

import numpy as np

from zittern.core.axes import AXES, axis_index
from zittern.core.doc import Doc
from zittern.core.edits.address import scope_of
from zittern.core.edits.blends import find_blend, of_no_corner, times
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, with_clip
from zittern.core.envelope import ramp
from zittern.core.motion import blends, morph
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import Number, fixed, through
from zittern.core.numbers.scope import Scope
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["BakeBlend", "FlattenBlend"]

# Less than this of a layer is nothing.
_NOTHING = 1e-6


class BakeBlend(CommandDoc):
    """One plain clip of what a blend is at a frame: the layers of its place there, with their numbers."""

    type: Literal["bake_blend"] = "bake_blend"
    clip: str
    frame: Frame

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError when the clip is no blend."""
        clip, blend, _ = find_blend(shot, self.clip, None)
        place = blends.place(blend, scope_of(shot, f"clip:{clip.id}", self.frame))[0] * 100.0
        still = clip.replace(
            blend=blend.replace(across_percent=fixed(float(place[0])), up_percent=fixed(float(place[1])))
        )
        return with_clip(shot, clip, _plain(shot, still))

    def label(self, shot: Shot) -> str:
        """`Bake blend “Walk … run”`."""
        return f"Bake blend “{find_clip(shot, self.clip).name}”"


class FlattenBlend(CommandDoc):
    """One plain clip that does what a blend does over time: how much its layers count, and the numbers that lie between
    corners, become keys on whole frames.
    """

    type: Literal["flatten_blend"] = "flatten_blend"
    clip: str

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError when the clip is no blend, or takes more keys than a curve may have."""
        clip, _, _ = find_blend(shot, self.clip, None)
        return with_clip(shot, clip, _plain(shot, clip))

    def label(self, shot: Shot) -> str:
        """`Flatten blend “Walk … run”`."""
        return f"Flatten blend “{find_clip(shot, self.clip).name}”"


def _plain(shot: Shot, clip: Clip) -> Clip:
    """A clip that moves as a blend does."""
    everything = {layer.id for layer in clip.layers}
    together = {group[0].id: group for group in morph.groups(clip, everything)}
    others = {layer.id for group in together.values() for layer in group[1:]}
    layers = [
        _one(shot, clip, together[layer.id]) if layer.id in together else _weighed(shot, clip, layer)
        for layer in clip.layers
        if layer.id not in others
    ]
    return clip.replace(layers=of_no_corner([each for each in layers if each]), blend=None)


def _weighed(shot: Shot, clip: Clip, layer: Layer) -> Layer | None:
    """A layer that counts as much as it does in its corner; none where that is nothing at all times."""
    frames = frame_grid(shot.first_frame, shot.last_frame)
    stands = blends.standing(clip, layer)
    if stands is None:
        return layer
    share = stands.weight(scope_of(shot, f"clip:{clip.id}", frames))
    if float(np.max(share)) <= _NOTHING:
        return None
    if float(np.ptp(share)) <= _NOTHING:
        return layer.replace(weight=times(layer.weight, float(share[0])))
    own = layer.weight.sample(scope_of(shot, f"layer:{layer.id}.weight", frames))
    return layer.replace(weight=_at_most_one(frames, share * own))


def _at_most_one(frames: Array, values: Array) -> Number:
    """A weight through samples; what rounding put past its limits comes to them."""
    return through(frames, np.clip(values, 0.0, 1.0))


def _one(shot: Shot, clip: Clip, group: list[Layer]) -> Layer:
    """The layer between several, with numbers of its own: fixed where its place stands still, else keyed."""
    frames = frame_grid(shot.first_frame, shot.last_frame)
    scope = scope_of(shot, f"clip:{clip.id}", frames)
    made = morph.merged(clip, group, (scope.span, scope.later_frames), shot.fps.value)

    def plain(number: Number, at: Scope = scope) -> Number:
        if not isinstance(number, morph.Blended):
            return number
        return fixed(number.constant) if number.constant is not None else through(frames, number.sample(at))

    def told(doc: Doc, at: Scope = scope) -> dict[str, object]:
        fields = ((name, getattr(doc, name)) for name in type(doc).model_fields)
        return doc.model_copy(
            update={name: plain(value, at) for name, value in fields if isinstance(value, Number)}
        ).model_dump()

    blend = clip.blend
    assert blend is not None, "it was found as a blend"
    which = morph.corners_of(blend, group)
    size = morph.size_of(blend, which, scope)
    first = group[0]
    alike = {layer.ends for layer in group}
    changes: dict[str, object] = {"weight": _at_most_one(frames, size)}
    if len(alike) > 1:
        # Each has its own ends and ramps: what is left of them together is keyed.
        heard = morph.shares_among(blend, which, scope) * size[:, None]
        whole = (float(shot.first_frame), float(shot.last_frame))
        ramped = sum(heard[:, n] * ramp(frames, *layer.ends, whole) for n, layer in enumerate(group))
        changes = {
            "weight": _at_most_one(frames, np.asarray(ramped)),
            "span_frames": None,
            "ramp_in_frames": 0.0,
            "ramp_out_frames": 0.0,
        }
    return first.replace(
        source=told(made.source),
        axes={axis: told(made.axes.of(axis), scope.on_axis(axis_index(axis))) for axis in AXES},
        speed=plain(made.speed),
        **changes,
    )
