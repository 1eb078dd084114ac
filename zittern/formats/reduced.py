"""Few cubic keys for the nodes of a motion, within a tolerance in the picture: for formats with nodes.

The deviation is measured on the keys as the format stores and interpolates them: in float32, positions and quaternions
as cubic splines over seconds, quaternions normalized.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zittern.core.errors import BadInput
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.nodes import PosedNode
from zittern.core.motion.picture import distances_m
from zittern.core.numbers.reduction import Spline, fit
from zittern.core.optics.lens import focal_px, vfov_deg
from zittern.core.rig import rotations, transforms
from zittern.core.runtime.later import scipy_part
from zittern.core.shot.shot import Shot
from zittern.core.timebase import MOST_SAMPLES, frame_grid
from zittern.core.units import Array

__all__ = ["Loss", "NodePath", "Reducer", "Tolerance", "sample_frames", "tolerance_from"]

# A node by its number and what of it moves: "translation" or "rotation"; the number after the last has "yfov".
NodePath = tuple[int, str]
# Samples per frame. The last one is just before the next frame: a jump there stays a jump.
_JUMP_FRAMES = 2.0**-10
_FRACTIONS = (0.0, 0.25, 0.5, 0.75, 1.0 - _JUMP_FRAMES)
_LEAST, _MOST = 1e-3, 1e4
_TOLERANCE = re.compile(r"\s*([0-9.eE+-]+)\s*px\s*(?:,\s*([0-9.eE+-]+)\s*mm\s*)?")
# Number of fits, what share of the tolerance is close to it, and the share to aim at.
_FITS, _CLOSE, _AIM = 12, 0.85, 0.95
# A channel that deviates less than this from its first sample, in pixels or mm, does not move.
_STILL = 1e-4
_MM_PER_M = 1000.0


@dataclass(frozen=True, slots=True)
class Tolerance:
    """Largest deviation: of the picture corners at the subject distance, and on request of the lens position."""

    px: float
    mm: float = float("inf")


@dataclass(frozen=True, slots=True)
class Loss:
    """Result of a reduction: keys of the channels that move, and the largest deviations."""

    frames: int
    channels: int
    keys: int
    px: float
    mm: float

    @property
    def says(self) -> str:
        """One line.

        >>> Loss(frames=1000, channels=3, keys=1084, px=0.3, mm=0.42).says
        '3 channels of 1,000 frames → 1,084 keys, up to 0.30 px, 0.42 mm'
        """
        if not self.channels:
            return f"nothing moves in {self.frames:,} frames"
        named = "1 channel" if self.channels == 1 else f"{self.channels} channels"
        return f"{named} of {self.frames:,} frames → {self.keys:,} keys, up to {self.px:.2f} px, {self.mm:.2f} mm"


def tolerance_from(text: str | None, where: str) -> Tolerance | None:
    """Return a tolerance as people write it: 0.5px, or 0.5px,0.2mm; none for none. Raises BadInput."""
    if text is None:
        return None
    found = _TOLERANCE.fullmatch(text)
    try:
        values = [float(each) for each in found.groups() if each is not None] if found else []
    except ValueError:
        values = []
    if not values or not all(_LEAST <= each <= _MOST for each in values):
        raise BadInput(
            f"expected a tolerance such as 0.5px or 0.5px,0.2mm, from {_LEAST:g} to {_MOST:g}, got {text[:40]!r}", where
        )
    return Tolerance(*values)


def sample_frames(first: int, last: int) -> Array:
    """Return the frames that a reduction looks at. (F,). Raises BadInput when there would be too many."""
    most = MOST_SAMPLES // len(_FRACTIONS)
    if last - first >= most:
        raise BadInput(f"up to {most:,} frames can be reduced to few keys, got {last - first + 1:,}", "reduce")
    whole = frame_grid(first, last)
    return np.concatenate([np.add.outer(whole[:-1], _FRACTIONS).ravel(), whole[-1:]])


class Reducer:
    """Reduces a motion part by part. Each part begins with the last sample of the part before."""

    def __init__(self, shot: Shot, tolerance: Tolerance, span: tuple[int, int]) -> None:
        self._shot = shot
        self._first, self._last_frame = span
        self._tolerance = tolerance
        self._last: dict[NodePath, Spline] = {}
        self._keys: dict[NodePath, int] = {}
        self._moving: set[NodePath] = set()
        self._px = self._mm = 0.0

    def add(self, motion: Motion, nodes: Sequence[PosedNode]) -> dict[NodePath, Spline]:
        """Return the keys of the next part over seconds, without its last key: the next part begins with it."""
        picture = _Picture(self._shot, motion, self._first)
        channels = picture.channels(nodes)
        for (number, path), last in self._last.items():
            if path == "rotation" and channels[number, path].values[0] @ last.values[0] < 0.0:
                channels[number, path].values *= -1.0
        splines, px, mm = _within(self._tolerance, picture, channels)
        self._px, self._mm = max(self._px, px), max(self._mm, mm)
        self._moving |= {channel for channel, samples in channels.items() if samples.moves}
        return {channel: self._continued(channel, spline) for channel, spline in splines.items()}

    def finish(self) -> dict[NodePath, Spline]:
        """Return the last key of each channel."""
        return self._last

    @property
    def loss(self) -> Loss:
        """Result, once all parts are added."""
        keys = sum(self._keys[channel] + 1 for channel in self._moving)
        return Loss(self._last_frame - self._first + 1, len(self._moving), keys, self._px, self._mm)

    def _continued(self, channel: NodePath, spline: Spline) -> Spline:
        slope_in = spline.slope_in.copy()
        if channel in self._last:
            slope_in[:1] = self._last[channel].slope_in
        whole = Spline(spline.at, spline.values, slope_in, spline.slope_out)
        self._last[channel] = whole.keys(slice(-1, None))
        self._keys[channel] = self._keys.get(channel, 0) + len(whole.at) - 1
        return whole.keys(slice(0, -1))


@dataclass(slots=True)
class _Samples:
    """values (F, C) of a channel; px, mm (F,): about the shift of picture corners and lens by a deviation of 1."""

    values: Array
    px: Array
    mm: Array

    @property
    def moves(self) -> bool:
        """Return whether it deviates from its first sample."""
        away = np.linalg.norm(self.values - self.values[0], axis=1)
        return bool(np.max(away * np.maximum(self.px, self.mm)) > _STILL)


class _Picture:
    """The picture corners of a motion, at the subject distance."""

    def __init__(self, shot: Shot, motion: Motion, first: int) -> None:
        self.frames = motion.frames
        self.seconds = shot.fps.seconds(motion.frames, first)
        width, self._height = shot.picture.width_px, shot.picture.height_px
        pose = motion.pose
        self._lens = transforms.from_parts(pose.position_m, pose.angles_deg)
        self._f_px = focal_px(pose.focal_mm, shot.sensor_mm, width)
        self._yfov = np.radians(vfov_deg(pose.focal_mm, shot.sensor_mm, width, self._height))
        has_focus = shot.subject is None and shot.glass is not None
        self._away_m = pose.focus_m if has_focus else distances_m(shot, motion)
        self._corner_px = 0.5 * np.array([(x * width, y * self._height) for x in (-1.0, 1.0) for y in (-1.0, 1.0)])
        ahead = np.broadcast_to(-1.0, (len(motion.frames), 4, 1))
        rays = (
            np.concatenate([self._corner_px / self._f_px[:, None, None], ahead], axis=2) * self._away_m[:, None, None]
        )
        self._seen_m = self._lens[:, None, :3, 3] + np.einsum("fij,fkj->fki", self._lens[:, :3, :3], rays)

    def channels(self, nodes: Sequence[PosedNode]) -> dict[NodePath, _Samples]:
        """Return the samples of all channels of nodes, from the ground to the lens, and of the field of view."""
        out: dict[NodePath, _Samples] = {}
        half_px = float(np.hypot(*self._corner_px[0]))
        slant_px = np.hypot(self._f_px, half_px)
        per_m = slant_px / self._away_m
        pose = transforms.identity(len(self.frames))
        for number, node in enumerate(nodes):
            pose = transforms.product(pose, node.pose)
            lever_m = np.linalg.norm(self._lens[:, :3, 3] - pose[:, :3, 3], axis=1)
            quats = rotations.quaternions(node.pose[:, :3, :3])
            out[number, "translation"] = _Samples(
                np.ascontiguousarray(node.pose[:, :3, 3]), per_m, np.full(len(per_m), _MM_PER_M)
            )
            # An angle is twice the deviation of a quaternion.
            px = 2.0 * (slant_px**2 / self._f_px + lever_m * per_m)
            out[number, "rotation"] = _Samples(quats, px, 2.0 * _MM_PER_M * lever_m)
        px = half_px / self._f_px * 0.25 * self._height / np.sin(0.5 * self._yfov) ** 2
        out[len(nodes), "yfov"] = _Samples(self._yfov[:, None], px, np.zeros(len(px)))
        return out

    def deviation(self, splines: dict[NodePath, Spline]) -> tuple[float, float]:
        """Return the largest shift of the picture corners (px) and the lens (mm) by keys as stored."""
        lens = transforms.identity(len(self.frames))
        *_, (yfov, _) = splines
        for number in range(yfov):
            quats = splines[number, "rotation"].sample(self.seconds)
            pose = transforms.identity(len(self.frames))
            pose[:, :3, :3] = scipy_part("spatial.transform").Rotation.from_quat(quats).as_matrix()
            pose[:, :3, 3] = splines[number, "translation"].sample(self.seconds)
            lens = transforms.product(lens, pose)
        f_px = 0.5 * self._height / np.tan(0.5 * splines[yfov, "yfov"].sample(self.seconds))
        seen = np.einsum("fji,fkj->fki", lens[:, :3, :3], self._seen_m - lens[:, None, :3, 3])
        with np.errstate(divide="ignore", invalid="ignore"):
            at_px = seen[:, :, :2] / -seen[:, :, 2:] * f_px[:, None]
        off = np.linalg.norm(at_px - self._corner_px, axis=2)
        px = np.max(np.where(seen[:, :, 2] < 0.0, off, np.inf))
        mm = np.max(np.linalg.norm(lens[:, :3, 3] - self._lens[:, :3, 3], axis=1)) * _MM_PER_M
        return float(px), float(mm)


def _within(
    tolerance: Tolerance, picture: _Picture, channels: dict[NodePath, _Samples]
) -> tuple[dict[NodePath, Spline], float, float]:
    """Return the keys of all channels with which the picture stays within a tolerance, and the deviations.

    Deviations of several channels partly cancel: the share of each is found by trial.
    """
    whole = picture.frames == np.round(picture.frames)
    moving = sum(samples.moves for samples in channels.values())
    share = max(moving, 1) ** -0.5
    fits, fails = 0.0, np.inf
    best: tuple[dict[NodePath, Spline], float, float] | None = None
    for _ in range(_FITS):
        splines = {}
        for channel, samples in channels.items():
            weight = np.maximum(samples.px / tolerance.px, samples.mm / tolerance.mm) / share
            splines[channel] = _stored(fit(picture.frames, samples.values, weight, whole), picture)
        px, mm = picture.deviation(splines)
        used = max(px / tolerance.px, mm / tolerance.mm)
        if used <= 1.0:
            best, fits = (splines, px, mm), share
        else:
            fails = share
        if best is not None and (used > _CLOSE or moving < 2):
            break
        share *= _AIM / max(used, 0.5 * _AIM)
        if not fits < share < fails:
            share = 0.5 * (fits + fails)
    if best is None:
        raise BadInput(
            f"expected a tolerance that keys can meet, got {tolerance.px:g} px; choose a larger one", "reduce"
        )
    return best


def _stored(spline: Spline, picture: _Picture) -> Spline:
    """Return a spline over frames as stored: over seconds, in float32.

    Of the two keys of a jump the second is not later than its frame, and the first is next to it: all frames show what
    is before or after the jump.
    """
    rows = np.searchsorted(picture.frames, spline.at)
    seconds = picture.seconds[rows]
    stored = seconds.astype(np.float32)
    after = np.flatnonzero(np.diff(spline.at) < 2.0 * _JUMP_FRAMES) + 1
    late = after[stored[after] > seconds[after]]
    stored[late] = np.nextafter(stored[late], np.float32(-1.0))
    stored[after - 1] = np.nextafter(stored[after], np.float32(-1.0))
    at = stored.astype(np.float64)
    # Slopes are per second of the stored keys, so that the shape of each segment stays.
    ratio = np.diff(spline.at) / np.diff(at)
    slopes = np.zeros((2, *spline.values.shape))
    slopes[0, 1:], slopes[1, :-1] = spline.slope_in[1:] * ratio[:, None], spline.slope_out[:-1] * ratio[:, None]
    parts = (each.astype(np.float32).astype(np.float64) for each in (spline.values, *slopes))
    return Spline(at, *parts)
