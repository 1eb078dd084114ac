"""Layers that do nothing, and why."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.cues import AddCues
from zittern.core.edits.spans import SetSpan
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion import blends
from zittern.core.shot.clips import Clip
from zittern.core.shot.cues import CueIn
from zittern.core.shot.layers import Layer
from zittern.core.sources.ringing import MOST_A_FRAME
from zittern.core.sources.source import CUES
from zittern.core.sources.take import Take

__all__ = ["silent"]

_NOTHING = 1e-9
# Picture motion that is too small to see.
_LEAST_PX = 0.1
# Swing that the fix gives to a layer without one, in degrees.
_GENTLE_DEG = 0.3
# A pose that changes by no more than this stands still.
_STILL = 1e-9


def silent(study: Study) -> Iterator[Finding]:
    """Find layers without a visible effect, with the first reason that applies, and springs without effect."""
    yield from _springs(study)
    whole = study.shot.span
    for clip, layer in study.layers:
        found = _reason(study, clip, layer)
        if found is not None:
            weight, why, fix = found
            yield Finding(
                check="silent",
                weight=weight,
                at=f"layer:{layer.id}",
                frames=whole,
                amount=0.0,
                unit="px",
                px=0.0,
                says=f"“{layer.name}” does nothing: {why}",
                fix=fix,
            )


def _springs(study: Study) -> Iterator[Finding]:
    """Find springs of mounts with a static parent."""
    shot = study.shot
    for at, mount in enumerate(shot.mounts):
        if mount.springs is None or mount.springs.weight.nothing or any(each.ride for each in shot.mounts[: at + 1]):
            continue
        parent = None if at == 0 else study.motion.rig[shot.mounts[at - 1].id]
        if parent is not None and np.ptp(parent, axis=0).max() > _STILL:
            continue
        below = "the ground" if at == 0 else f"“{shot.mounts[at - 1].name}”"
        yield Finding(
            check="silent",
            weight=True,
            at=f"mount:{mount.id}",
            frames=shot.span,
            amount=0.0,
            unit="px",
            px=0.0,
            says=f"the springs of “{mount.name}” have no effect: {below} that carries them is static. Add "
            f"a mount with the springs: it responds to the motion of “{mount.name}”",
        )


def _reason(study: Study, clip: Clip, layer: Layer) -> tuple[bool, str, Fix | None] | None:
    shot, at = study.shot, f"layer:{layer.id}"
    if layer.mute:
        return False, "it is muted", Fix(says="unmute it", command=_set(f"{at}.mute", False))
    if clip.mute:
        return False, "its clip is muted", Fix(says="unmute the clip", command=_set(f"clip:{clip.id}.mute", False))
    if layer.id not in study.counted:
        solos = [f"layer:{each.id}.solo" for _, each in study.layers if each.solo]
        fix = Fix(
            says="end the solo", command=SetValues(values=tuple(Assignment(at=each, value=False) for each in solos))
        )
        return False, "another layer is soloed", fix
    if isinstance(layer.source, Take) and not layer.source.recording.axes:
        return True, "it has no take to play; choose one", None
    if not layer.moving_axes:
        fix = Fix(says=f"pan by {_GENTLE_DEG:g}°", command=_set(f"{at}.axes.pan", {"swing": _GENTLE_DEG, "seed": 1}))
        absolute = layer.source.absolute
        return (
            (False, "nothing is keyed on it yet", None)
            if absolute
            else (True, "all of its swings are zero or off", fix)
        )
    for part, name, what in ((layer, at, "its span lies"), (clip, f"clip:{clip.id}", "its clip lies")):
        if part.span_frames and _disjoint(part.span_frames, (shot.first_frame, shot.last_frame)):
            return (
                True,
                f"{what} outside of the shot",
                Fix(says="over the whole shot", command=SetSpan(at=(name,), whole=True)),
            )
    if layer.span_frames and clip.span_frames and _disjoint(layer.span_frames, clip.span_frames):
        fix = Fix(says="over its whole clip", command=SetSpan(at=(at,), whole=True))
        return True, "its span is outside its clip's span", fix
    stopped = _stopped(clip, layer)
    if stopped is not None:
        return stopped
    if np.max(np.abs(study.motion.layers[layer.id])) > _NOTHING:
        return _too_small(study, layer)
    if np.max(study.beats_a_frame(clip, layer)) > MOST_A_FRAME:
        return None  # `rate` reports it
    return _without_motion(study, clip, layer)


def _stopped(clip: Clip, layer: Layer) -> tuple[bool, str, Fix | None] | None:
    """Find a rate or speed of 0 everywhere, which reduces the motion to a fixed offset."""
    rate = getattr(layer.source, "rate_hz", None)
    for address, number, what, usual in (
        (f"layer:{layer.id}.source.rate_hz", rate, "its rate is", "1 Hz"),
        (f"layer:{layer.id}.speed", layer.speed, "its speed is", "100 %"),
        (f"clip:{clip.id}.speed", clip.speed, "the speed of its clip is", "100 %"),
    ):
        if number is not None and number.nothing:
            return True, f"{what} 0, so it does not move", Fix(says=f"to {usual}", command=_set(address, 1.0))
    return None


def _too_small(study: Study, layer: Layer) -> tuple[bool, str, Fix | None] | None:
    """Find motion with an invisible peak."""
    peak = float(np.max(np.abs(study.layer_px(layer.id))))
    if peak >= _LEAST_PX:
        return None
    if layer.moving_axes == ("focus",) and not np.any(study.shot.breathing(study.scope)):
        return False, "focus moves the picture by breathing, and the lens has none; only exports show it", None
    return True, f"its peak in the picture is {peak:.2g} px, less than {_LEAST_PX:g} px", None


def _disjoint(one: tuple[float, float], other: tuple[float, float]) -> bool:
    """Return whether two spans do not overlap."""
    return one[1] < other[0] or one[0] > other[1]


def _without_motion(study: Study, clip: Clip, layer: Layer) -> tuple[bool, str, Fix | None]:
    shot, at = study.shot, f"layer:{layer.id}"
    if blends.counts_nowhere(clip, layer, study.clocked(clip)):
        return False, "the position of the blend never comes near its corner", None
    for address, number, what in (
        (f"{at}.weight", layer.weight, "its weight is"),
        (f"clip:{clip.id}.amount", clip.amount, "its clip's amount is"),
    ):
        if number.nothing:
            return True, f"{what} 0 whole shot", Fix(says="to 100 %", command=_set(address, 1.0))
    if np.max(study.motion.weights[layer.id]) <= _NOTHING:
        if not any((layer.ramp_in_frames, layer.ramp_out_frames, clip.ramp_in_frames, clip.ramp_out_frames)):
            return True, "its weight and its clip's amount leave nothing of it", None
        return (
            True,
            "its ramps and those of its clip reduce it to zero",
            Fix(
                says="without ramps",
                command=SetSpan(at=(at, f"clip:{clip.id}"), ramp_in_frames=0.0, ramp_out_frames=0.0),
            ),
        )
    above = clip.layers[[each.id for each in clip.layers].index(layer.id) + 1 :]
    replacing = next((each for each in above if each.mode == "replace" and each.id in study.counted), None)
    if replacing is not None:
        fix = Fix(says=f"“{replacing.name}” adds instead", command=_set(f"layer:{replacing.id}.mode", "add"))
        return True, f"“{replacing.name}” above it replaces it", fix
    if CUES in layer.source.reads and not shot.cues:
        middle = float(round(0.5 * (shot.first_frame + shot.last_frame)))
        fix = Fix(says=f"add a cue at frame {middle:g}", command=AddCues(cues=(CueIn(frame=middle),)))
        return True, "it waits for cues, and the shot has none", fix
    if layer.source.reads:
        return True, "it follows the path, and the camera stands still", None
    return True, "it gives no motion in this shot", None


def _set(at: str, value: object) -> SetValues:
    return SetValues(values=(Assignment(at=at, value=value),))
