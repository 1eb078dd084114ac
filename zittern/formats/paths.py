"""A camera path as samples, and the keyed move derived from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

from zittern.core.edits.moves import Move
from zittern.core.errors import FormatError, faults_as
from zittern.core.numbers.curves import MOST_KEYS
from zittern.core.numbers.param import Number, linear_keys
from zittern.core.shot.mounts import MOVE_FIELDS, Mount, MountKind
from zittern.core.shot.shot import Picture
from zittern.core.timebase import FRAME_TOLERANCE_FRAMES, Fps, last_frame_covering
from zittern.core.units import Array

__all__ = ["FIRST_FRAME", "Imported", "PathFile", "PathPart", "PathSamples", "keys_of", "sample_plan"]

FIRST_FRAME = 1


@dataclass(frozen=True, slots=True)
class PathPart:
    """A part of a rig that was exported: its name, its kind, its poses in its parent. position_m (N, 3).

    angles_deg (N, 3) continuous.
    """

    name: str
    kind: MountKind
    position_m: Array
    angles_deg: Array


@dataclass(frozen=True, slots=True)
class PathSamples:
    """frames (N,), rising; position_m (N, 3); angles_deg (N, 3) continuous; focal_mm (N,) or None."""

    frames: Array
    position_m: Array
    angles_deg: Array
    focal_mm: Array | None
    last_frame: int
    picture: Picture | None = None
    sensor_mm: float | None = None
    parts: tuple[PathPart, ...] = ()


@dataclass(frozen=True, slots=True)
class Imported:
    """A camera's path from a file as samples, and the notices of the reader."""

    samples: PathSamples
    camera: str
    notices: tuple[str, ...] = ()

    @property
    def move(self) -> Move:
        """The keyed move of it. Raises FormatError."""
        return move_of(self.samples)


@dataclass(frozen=True, slots=True)
class PathFile:
    """A file that holds camera paths: its cameras by name, and how to get one.

    fps, first_frame: what the file says of its frames, where it does.
    """

    cameras: tuple[str, ...]
    pick: Callable[[str, Fps], Imported]
    notices: tuple[str, ...] = field(default=())
    fps: Fps | None = None
    first_frame: int | None = None

    def read(self, camera: str | None, fps: Fps) -> Imported:
        """Return the named camera's path, or the first one's. Raises FormatError."""
        if camera is not None and camera not in self.cameras:
            raise FormatError(
                f"there is no camera {camera!r}; the file has {', '.join(map(repr, self.cameras))}", "camera"
            )
        got = self.pick(camera if camera is not None else self.cameras[0], fps)
        others: tuple[str, ...] = ()
        if camera is None and len(self.cameras) > 1:
            others = (
                f"the file has {len(self.cameras)} cameras; took {got.camera!r}, others are "
                f"{', '.join(map(repr, self.cameras[1:]))}",
            )
        return replace(got, notices=(*self.notices, *others, *got.notices))


def move_of(samples: PathSamples) -> Move:
    """Return the keyed move through samples: linear between them, keys on straight stretches left out.

    Raises FormatError.
    """
    columns = np.concatenate([samples.position_m, samples.angles_deg], axis=1)
    with faults_as(FormatError):
        fields: dict[str, object] = {name: keys_of(samples.frames, columns[:, i]) for i, name in enumerate(MOVE_FIELDS)}
        focal = None if samples.focal_mm is None else keys_of(samples.frames, samples.focal_mm)
        rig = tuple(_mount_of(samples.frames, part, n) for n, part in enumerate(samples.parts, 1))
        return Move.model_validate(
            {
                **fields,
                "rig": rig,
                "focal_mm": focal,
                "picture": samples.picture,
                "sensor_mm": samples.sensor_mm,
                "last_frame": samples.last_frame,
            }
        )


def _mount_of(frames: Array, part: PathPart, number: int) -> Mount:
    columns = np.concatenate([part.position_m, part.angles_deg], axis=1)
    numbers = {name: keys_of(frames, columns[:, i]) for i, name in enumerate(MOVE_FIELDS)}
    return Mount.model_validate({"id": f"mount-{number}", "name": part.name, "kind": part.kind, **numbers})


def keys_of(frames: Array, values: Array) -> Number:
    """Return the keyed number through samples, linear between them.

    (N,), (N,). Raises FormatError when it needs too many keys.
    """
    with faults_as(FormatError):
        return linear_keys(frames, values)


def sample_plan(key_times_s: Array, jump_times_s: Array, fps: Fps) -> tuple[Array, Array, int]:
    """When to sample a path so that its keys survive: frames (N,), times (N,) in seconds, and the last frame.

    Every whole frame, every key between them, and just before each jump (a stepped key), so that jumps stay steep.
    A key within a thousandth of a frame of a whole frame is on it: the whole frame then samples at the key's time.
    Raises FormatError when there are too many frames.
    """
    key_frames = FIRST_FRAME + key_times_s * fps.value
    last_exact = float(key_frames.max()) if key_frames.size else float(FIRST_FRAME)
    if last_exact - FIRST_FRAME >= MOST_KEYS:
        raise FormatError(
            f"the path lasts {last_exact:.0f} frames; up to {MOST_KEYS} can be imported. Shorten it, or split it "
            f"into shots"
        )
    last = last_frame_covering(float(key_times_s.max()) if key_times_s.size else 0.0, fps, FIRST_FRAME)
    frames = np.arange(FIRST_FRAME, last + 1, dtype=np.float64)
    times = (frames - FIRST_FRAME) / fps.value
    nearest = np.round(key_frames)
    on_frame = np.abs(key_frames - nearest) <= FRAME_TOLERANCE_FRAMES
    inside = on_frame & (nearest >= FIRST_FRAME) & (nearest <= last)
    times[(nearest[inside] - FIRST_FRAME).astype(np.int64)] = key_times_s[inside]
    jumps = FIRST_FRAME + jump_times_s * fps.value
    jump_on = np.abs(jumps - np.round(jumps)) <= FRAME_TOLERANCE_FRAMES
    before = np.where(jump_on, np.round(jumps), jumps) - 2.0 * FRAME_TOLERANCE_FRAMES
    extra_frames = np.concatenate([key_frames[~on_frame], before[before > FIRST_FRAME]])
    extra_times = np.concatenate([key_times_s[~on_frame], (before[before > FIRST_FRAME] - FIRST_FRAME) / fps.value])
    all_frames, first = np.unique(np.concatenate([frames, extra_frames]), return_index=True)
    return all_frames, np.concatenate([times, extra_times])[first], last


def continuous_angles(angles_deg: Array) -> Array:
    """Angles from a table, unwrapped. (N, 3) -> (N, 3) degrees."""
    return np.asarray(np.unwrap(angles_deg, period=360.0, axis=0), dtype=np.float64)
