"""Commands on the keys of any number: of the move, a weight, a swing, a keyed axis.

Keys are named by address and frame.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Annotated, TypeVar

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.driven import free_of_formulas
from zittern.core.edits.titles import field_title, of_mount
from zittern.core.errors import EditError, faults_as
from zittern.core.numbers.curves import Curve, Extend, Frame, Handle, Interp, Key
from zittern.core.numbers.param import Number, fixed, on_curve
from zittern.core.shot.shot import Shot

__all__ = [
    "DeleteKeys",
    "KeyHandles",
    "KeyRef",
    "KeyValue",
    "MoveKeys",
    "ScaleKeys",
    "SetExtend",
    "SetHandles",
    "SetInterp",
    "SetKeys",
    "handles_of",
]

_Address = Annotated[str, Field(max_length=300)]
_MOST = 200_000
# A single key has no curve to bend.
_LEAST_KEYS = 2


class KeyRef(Doc):
    """A key: its number and its frame."""

    at: _Address
    frame: Frame


class KeyValue(KeyRef):
    """A key with its value; without one, the value that the number has there already."""

    value: float | None = None


_Refs = Annotated[tuple[KeyRef, ...], Field(min_length=1, max_length=_MOST)]
_Ref = TypeVar("_Ref", bound=KeyRef)


class SetKeys(CommandDoc):
    """Sets keys.

    One at the same frame is replaced and keeps how it runs on; a new one runs on as the one before it. What follows a
    formula is left alone.
    """

    keys: Annotated[tuple[KeyValue, ...], Field(min_length=1, max_length=_MOST)]

    def apply(self, shot: Shot) -> Shot:
        """Set the keys; a fixed number becomes keyed. Raises EditError where formulas give all of them."""
        for at, refs in _by_address(free_of_formulas(shot, self.keys)).items():
            param = number_at(shot, at)
            there = param.sample(scope_of(shot, at, np.array([ref.frame for ref in refs]))).tolist()
            given = {
                ref.frame: value if ref.value is None else ref.value for ref, value in zip(refs, there, strict=True)
            }
            with faults_as(EditError, at):
                keyed = on_curve(_with_keys(param.curve, given))
            shot = set_at(shot, at, keyed)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Set key at frame 24`."""
        return _label("Set", shot, self.keys)


class MoveKeys(CommandDoc):
    """Move or copy keys in time and value. Keys at the same frames are replaced."""

    keys: _Refs
    by_frames: float = Field(default=0.0, ge=-1e6, le=1e6)
    by_value: float = Field(default=0.0, ge=-1e12, le=1e12)
    copy_keys: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when a key is not there."""

        def moved(key: Key) -> Key:
            return key.moved(key.frame + self.by_frames, key.value + self.by_value)

        return _each(shot, self.keys, lambda curve, frames: _with_keys_at(curve, frames, moved, keep=self.copy_keys))

    def label(self, shot: Shot) -> str:
        """Return `Move key by +4 frames`."""
        verb = "Copy" if self.copy_keys else "Move"
        by = f" by {self.by_frames:+g} frames" if self.by_frames else ""
        return f"{verb} {_what(self.keys)}{by}"


class ScaleKeys(CommandDoc):
    """Stretches keys in time about a frame. Handles stretch along."""

    keys: _Refs
    about_frame: Frame
    factor: float = Field(ge=0.001, le=1000.0)

    def apply(self, shot: Shot) -> Shot:
        """Scaled keys may be at fractional frames."""

        def scaled(key: Key) -> Key:
            return key.replace(
                frame=self.about_frame + (key.frame - self.about_frame) * self.factor,
                handle_in=key.handle_in and (key.handle_in[0] * self.factor, key.handle_in[1]),
                handle_out=key.handle_out and (key.handle_out[0] * self.factor, key.handle_out[1]),
            )

        return _each(shot, self.keys, lambda curve, frames: _with_keys_at(curve, frames, scaled, keep=False))

    def label(self, shot: Shot) -> str:
        """Return `Stretch 3 keys to 150 %`."""
        return f"Stretch {_what(self.keys)} to {self.factor * 100:.0f} %"


class DeleteKeys(CommandDoc):
    """Delete keys; a number without keys keeps its last value, fixed."""

    keys: _Refs

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when a key is not there."""

        def thinned(curve: Curve, frames: set[float]) -> Curve | Number:
            kept = tuple(key for key in curve.keys if key.frame not in frames)
            return curve.replace(keys=kept) if kept else fixed(curve.keys[-1].value)

        return _each(shot, self.keys, thinned)

    def label(self, shot: Shot) -> str:
        """Return `Delete key at frame 24`."""
        return _label("Delete", shot, self.keys)


class SetInterp(CommandDoc):
    """Set the interpolation after keys: hold, linear, smooth or free handles."""

    keys: _Refs
    interp: Interp

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when a key is not there."""
        return _each(
            shot,
            self.keys,
            lambda curve, frames: _with_keys_at(curve, frames, lambda key: key.replace(interp=self.interp), keep=False),
        )

    def label(self, shot: Shot) -> str:
        """Return `Make 4 keys linear`."""
        return f"Make {_what(self.keys)} {'free' if self.interp == 'free' else self.interp}"


class SetHandles(CommandDoc, label="Edit handle at frame {frame:g}"):
    """Set the free handles of a key: (frames, value) relative to it. Both sides become free."""

    at: _Address
    frame: Frame
    handle_in: Handle | None = None
    handle_out: Handle | None = None

    def apply(self, shot: Shot) -> Shot:
        """Set the handles; a missing one is unchanged. Raises EditError for one that points the wrong way."""
        if (self.handle_in and self.handle_in[0] > 0) or (self.handle_out and self.handle_out[0] < 0):
            raise EditError("the handle before a key extends back in time, the one after it forwards", self.at)
        changes = {
            name: value
            for name, value in (("handle_in", self.handle_in), ("handle_out", self.handle_out))
            if value is not None
        }

        def bent(curve: Curve, frames: set[float]) -> Curve:
            keys = list(curve.keys)
            for i, key in enumerate(keys):
                if key.frame in frames:
                    keys[i] = key.replace(interp="free" if self.handle_out else key.interp, **changes)
                    # The far ends of segments that become free keep the course they had.
                    if i and self.handle_in:
                        keys[i - 1] = keys[i - 1].replace(interp="free", handle_out=curve.handles(i - 1)[1])
                    if i + 1 < len(keys) and self.handle_out:
                        keys[i + 1] = keys[i + 1].replace(handle_in=curve.handles(i + 1)[0])
            return curve.replace(keys=tuple(keys))

        return _each(shot, (KeyRef(at=self.at, frame=self.frame),), bent)


class KeyHandles(KeyRef):
    """Handles of a key: (frames, value) relative to it; nothing where the curve ends."""

    handle_in: Handle | None
    handle_out: Handle | None


def handles_of(shot: Shot, keys: Sequence[KeyRef]) -> list[KeyHandles]:
    """Return the handles of keys.

    Missing keys and numbers are skipped: the page may still show a part that was just removed.
    """
    told = []
    for at in dict.fromkeys(key.at for key in keys):
        try:
            curve = number_at(shot, at).curve
        except EditError:
            continue
        if curve is None or len(curve.keys) < _LEAST_KEYS:
            continue
        wanted = {key.frame for key in keys if key.at == at}
        for i, key in enumerate(curve.keys):
            if key.frame in wanted:
                into, out = curve.handles(i)
                told.append(KeyHandles(at=at, frame=key.frame, handle_in=into, handle_out=out))
    return told


class SetExtend(CommandDoc):
    """Set the extension of curves before their first and after their last key: hold, continue, repeat."""

    at: Annotated[tuple[_Address, ...], Field(min_length=1, max_length=500)]
    before: Extend | None = None
    after: Extend | None = None

    def apply(self, shot: Shot) -> Shot:
        """Numbers without keys are passed over."""
        changes = {name: value for name, value in (("before", self.before), ("after", self.after)) if value is not None}
        for at in self.at:
            param = number_at(shot, at)
            if param.curve is not None and changes:
                shot = set_at(shot, at, on_curve(param.curve.replace(**changes)))
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Repeat after the last key`."""
        if self.after:
            return f"{self.after.capitalize()} after the last key"
        return f"{(self.before or 'hold').capitalize()} before the first key"


def _with_keys(curve: Curve | None, values: dict[float, float]) -> Curve:
    """Keys at frames put among those of a curve: in one pass over both, in order of frame."""
    if curve is None:
        return Curve(keys=tuple(Key(frame=frame, value=values[frame]) for frame in sorted(values)))
    keys = {key.frame: key for key in curve.keys}
    interp = curve.keys[0].interp
    for frame in sorted(keys.keys() | values.keys()):
        there = keys.get(frame)
        if frame in values:
            keys[frame] = (
                there.moved(frame, values[frame]) if there else Key(frame=frame, value=values[frame], interp=interp)
            )
        interp = there.interp if there else interp
    return curve.replace(keys=tuple(keys[frame] for frame in sorted(keys)))


def _with_keys_at(curve: Curve, frames: set[float], change: Callable[[Key], Key], keep: bool) -> Curve:
    """Return the keys with changed ones merged; they replace keys at the same frames. `keep` leaves the originals."""
    changed = {key.frame: key for key in (change(each) for each in curve.keys if each.frame in frames)}
    rest = [key for key in curve.keys if (keep or key.frame not in frames) and key.frame not in changed]
    return curve.replace(keys=tuple(sorted((*changed.values(), *rest), key=lambda key: key.frame)))


def _each(shot: Shot, refs: tuple[KeyRef, ...], change: Callable[[Curve, set[float]], Curve | Number]) -> Shot:
    for at, mine in _by_address(refs).items():
        curve = number_at(shot, at).curve
        frames = {ref.frame for ref in mine}
        missing = frames - ({key.frame for key in curve.keys} if curve else set())
        if curve is None or missing:
            raise EditError(f"there is no key at frame {min(missing):g}; it may have been moved", at)
        with faults_as(EditError, at):
            changed = change(curve, frames)
        shot = set_at(shot, at, on_curve(changed) if isinstance(changed, Curve) else changed)
    return shot


def _by_address(refs: Sequence[_Ref]) -> dict[str, list[_Ref]]:
    found: dict[str, list[_Ref]] = {}
    for ref in refs:
        found.setdefault(ref.at, []).append(ref)
    return found


def _what(refs: tuple[KeyRef, ...]) -> str:
    frames = {ref.frame for ref in refs}
    return "key" if len(frames) == 1 else f"keys at {len(frames)} frames"


def _label(verb: str, shot: Shot, refs: tuple[KeyRef, ...]) -> str:
    fields = {ref.at.rsplit(".", 1)[-1] for ref in refs}
    of = f" of {field_title(fields.pop())}" if len(fields) == 1 else ""
    mounts = {ref.at.partition(".")[0].partition(":")[2] for ref in refs if ref.at.startswith("mount:")}
    if len(mounts) == 1 and all(ref.at.startswith("mount:") for ref in refs):
        of += of_mount(shot, mounts.pop())
    frames = {ref.frame for ref in refs}
    return (
        f"{verb} key{of} at frame {min(frames):g}" if len(frames) == 1 else f"{verb} keys{of} at {len(frames)} frames"
    )
