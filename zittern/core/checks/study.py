"""The motion for all checks: evaluated once, a long shot at some of its frames, with sizes in pixels."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property

import numpy as np

from zittern.core.axes import no_offsets, px_per_unit
from zittern.core.documents.doc import Doc, parts
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.motion.facts import scope_at
from zittern.core.motion.mixing import active
from zittern.core.motion.picture import NEAREST_M, distances_m, picture_offsets_px, picture_scale, view_shift_px
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.optics.lens import focal_px
from zittern.core.plates.set_pieces import SetPieces
from zittern.core.readings.flow import SHUTTER_SHARE, flowing
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array, BoolArray

__all__ = ["MOST_FRAMES", "Study", "stretch"]

# Longer shots are sampled at this many frames, in ranges that are spread over them.
MOST_FRAMES = 8_000
_STRETCH_FRAMES = 500


class Study:
    """A shot with its motion, and the objects of its set. frames (F,).

    All of it, or ranges of adjacent frames of a long one.
    """

    def __init__(self, shot: Shot, cache: Cache | None = None, pieces: SetPieces | None = None) -> None:
        self.shot, self.cache = shot, cache if cache is not None else Cache()
        self.set_pieces = pieces or SetPieces()
        self.frames = _looked_at(shot)
        self.thinned = len(self.frames) < shot.frame_count

    @cached_property
    def motion(self) -> Motion:
        """At its frames."""
        return evaluate(self.shot, self.frames, self.cache)

    @cached_property
    def scope(self) -> Scope:
        """Return the scope of the shot's numbers, path attributes included."""
        return scope_at(self.shot, self.frames)

    @cached_property
    def set_seconds(self) -> Array:
        """Time of the set at its frames.

        Returns
        -------
        (F,) float64, seconds since the start of the set's animation.
        """
        return self.shot.fps.seconds(self.frames, self.shot.first_frame)

    @cached_property
    def neighbours(self) -> BoolArray:
        """Return whether each frame follows the one before it.

        Returns
        -------
        (F - 1,).
        """
        return np.asarray(np.diff(self.frames) == 1.0)

    @cached_property
    def layers(self) -> tuple[tuple[Clip, Layer], ...]:
        """All layers with their clips."""
        return tuple(self.shot.layers())

    @cached_property
    def counted(self) -> set[str]:
        """Ids of the layers that count."""
        return active(self.shot)

    @cached_property
    def distance_m(self) -> Array:
        """To the subject.

        Returns
        -------
        (F,) float64, meters from the bare lens.
        """
        return np.maximum(distances_m(self.shot, self.motion), NEAREST_M)

    @cached_property
    def f_px(self) -> Array:
        """Focal length in pixels.

        Returns
        -------
        (F,) float64, pixels.
        """
        return np.asarray(focal_px(self.motion.pose.focal_mm, self.shot.sensor_mm, self.shot.picture.width_px))

    @cached_property
    def px_per_unit(self) -> Array:
        """Return the picture movement for a unit of each axis (degree, centimeter, percent).

        Returns
        -------
        (F, A) float64, pixels per degree, cm or %.
        """
        breathing = self.shot.breathing(self.scope)
        return px_per_unit(picture_scale(self.shot, self.motion.pose.focal_mm, self.distance_m, breathing))

    def layer_px(self, layer: str) -> Array:
        """Return the picture movement by a layer on each axis.

        Returns
        -------
        (F, A) pixels.
        """
        given = self.motion.layers.get(layer)
        if given is None:
            given = self.motion.silent.get(layer, no_offsets(self.frames))
        return np.asarray(given * self.px_per_unit)

    def clocked(self, clip: Clip, layer: Layer | None = None) -> Scope:
        """Return the scope of the numbers of a clip or of a layer in it."""
        return clip.clocked(self.scope, layer)

    def beats_a_frame(self, clip: Clip, layer: Layer) -> Array:
        """Return the beats per frame of a layer.

        Returns
        -------
        (F,) float64, beats per frame.
        """
        scope = self.clocked(clip, layer)
        speed = layer.speed.sample(scope) * clip.speed.sample(scope)
        return np.asarray(layer.source.beats_hz(scope) * speed / self.shot.fps.value)

    @cached_property
    def sum_px(self) -> Array:
        """Return the shift of the picture center by the shake.

        Returns
        -------
        (F, 2) right and down.
        """
        return picture_offsets_px(self.shot, self.motion, self.distance_m)

    @cached_property
    def blur_px(self) -> Array:
        """Streak of the shake at the shutter angle.

        Returns
        -------
        (F,) float64, pixels.
        """
        return flowing(self.shot, self.motion)[:, 0]

    @cached_property
    def whole_blur_px(self) -> Array:
        """Streak of the whole motion at the shutter angle, up to the width of the picture.

        Of what the middle of the picture shows at the distance of the subject.

        Returns
        -------
        (F,) float64, pixels.
        """
        pose, width = self.motion.pose, float(self.shot.picture.width_px)
        after = pose.rows_at(np.minimum(np.arange(len(self.frames)) + 1, len(self.frames) - 1))
        streak = np.hypot(*view_shift_px(self.shot, pose, after, self.distance_m).T) * SHUTTER_SHARE
        streak[:-1][~self.neighbours] = 0.0
        return np.asarray(np.minimum(streak, width))

    def numbers(self) -> Iterator[tuple[str, Number]]:
        """Every number of the shot with its address, those of clips, layers, mounts, dials and the lens."""
        for dial in self.shot.dials:
            yield f"dial:{dial.name}.value", dial.value.within(dial.minimum, dial.maximum)
        for mount in self.shot.mounts:
            yield from _numbers(mount, f"mount:{mount.id}")
        for clip in self.shot.clips():
            yield f"clip:{clip.id}.amount", clip.amount
            yield f"clip:{clip.id}.speed", clip.speed
        for _, layer in self.layers:
            yield from _numbers(layer, f"layer:{layer.id}")
        yield "shot.focal_mm", self.shot.focal_mm
        if self.shot.glass is not None:
            yield from _numbers(self.shot.glass, "shot.glass")


def stretch(frames: Array, found: BoolArray) -> tuple[float, float]:
    """Return the first and last frame with a finding.

    Parameters
    ----------
    frames : (F,) float64, frame numbers, rising.
    found: (F,) whether.

    Returns
    -------
    Two frames.
    """
    rows = np.flatnonzero(found)
    return float(frames[rows[0]]), float(frames[rows[-1]])


def _numbers(doc: Doc, at: str) -> Iterator[tuple[str, Number]]:
    for name, part in parts(doc):
        if name is not None:
            yield from [(f"{at}.{name}", part)] if isinstance(part, Number) else _numbers(part, f"{at}.{name}")


def _looked_at(shot: Shot) -> Array:
    if shot.frame_count <= MOST_FRAMES:
        return frame_grid(shot.first_frame, shot.last_frame)
    count = MOST_FRAMES // _STRETCH_FRAMES
    starts = np.linspace(shot.first_frame, shot.last_frame - _STRETCH_FRAMES + 1, count).round()
    return np.asarray((starts[:, None] + np.arange(_STRETCH_FRAMES)).ravel(), dtype=np.float64)
