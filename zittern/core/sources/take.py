"""Take: recorded samples, played back. In the axes' own units; swing does not scale it, gain and weight do.

Samples are at equal time steps. Between them runs a cubic curve (Catmull and Rom 1974). Drift slower than a chosen
rate is removed by a second-order Butterworth high-pass, forwards and backwards over the whole take, so that
there is no delay. A loop of D - x seconds, x the cross-fade, cross-fades into itself: the start and the end
count sin and cos of a quarter turn, so two stretches that have nothing to do with each other keep their energy. Without
a loop the take fades in and out over x at its ends, and is 0 outside.
"""

from __future__ import annotations

import base64
import binascii
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from zittern.core.axes import AXES, Axis
from zittern.core.documents.by_axis import fields_by_axis
from zittern.core.documents.doc import Doc
from zittern.core.numbers.envelope import shape_of
from zittern.core.numbers.interpolate import catmull_rom
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.runtime.later import scipy_part
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["MOST_SAMPLES", "Recording", "Take", "Track", "without_drift"]

MOST_SAMPLES = 20_000
# Samples are stored as 16-bit numbers, in multiples of this step.
_STEPS = 32_767
_ORDER = 2
# A filter needs some samples to work on; what is shorter has no drift.
_LEAST_FILTERED = 32


class Track(Doc):
    """Samples of one axis: `data` is base64 of little-endian int16, each times `scale` / 32767 in the axis' unit."""

    scale: float = Field(default=0.0, ge=0.0, le=1e6)
    data: str = Field(default="", max_length=4 * MOST_SAMPLES)

    @classmethod
    def of(cls, values: Array) -> Track:
        """From samples.

        Parameters
        ----------
        values : (N,) float64, in the unit of the axis.

        Returns
        -------
        A track.
        """
        scale = float(np.max(np.abs(values), initial=0.0))
        whole = np.round(values / scale * _STEPS) if scale > 0.0 else np.zeros(0)
        return cls(scale=scale, data=base64.b64encode(whole.astype("<i2").tobytes()).decode())

    @cached_property
    def samples(self) -> Array:
        """Return the recorded samples. Raises ValueError for what is no such data.

        Returns
        -------
        (N,) float64, in the unit of the axis.
        """
        try:
            raw = base64.b64decode(self.data, validate=True)
        except binascii.Error as error:
            raise ValueError("the samples of a take are base64 of 16-bit numbers") from error
        if len(raw) % 2:
            raise ValueError("the samples of a take are base64 of 16-bit numbers; a byte is missing")
        return np.frombuffer(raw, "<i2").astype(np.float64) * (self.scale / _STEPS)


_Tracks: Any = fields_by_axis(lambda info: (Track, Track()))


class Recording(_Tracks, Doc):
    """Recorded samples: sample rate, and samples of some axes, degrees / cm / %.

    Axes that were not recorded have none.
    """

    name: str = Field(default="", max_length=120)
    rate_hz: float = Field(default=60.0, ge=1.0, le=1000.0)

    @model_validator(mode="after")
    def _even(self) -> Self:
        counts = {axis: len(getattr(self, axis).samples) for axis in AXES}
        some = {count for count in counts.values() if count}
        if len(some) > 1:
            raise ValueError(f"all axes of a take have as many samples, got {counts}")
        if some and not 2 <= max(some) <= MOST_SAMPLES:
            raise ValueError(f"a take has 2 to {MOST_SAMPLES} samples, got {max(some)}")
        return self

    @property
    def axes(self) -> tuple[Axis, ...]:
        """The axes that were recorded."""
        return tuple(axis for axis in AXES if getattr(self, axis).data)

    @property
    def length_s(self) -> float:
        """From the first sample to the last."""
        count = max((len(getattr(self, axis).samples) for axis in self.axes), default=1)
        return (count - 1) / self.rate_hz


class Take(SourceDoc):
    """gain: multiple of what was recorded.

    drift_hz: cutoff of the high-pass; 0 removes only the mean. offset_s: start time within the take. fade_s: of the
    loop's cross-fade, or at the ends.
    """

    kind: Literal["take"] = "take"
    recording: Recording = Recording()
    gain: Annotated[Param, bounded(0.0, 20.0)] = fixed(1.0)
    drift_hz: float = Field(default=0.1, ge=0.0, le=5.0)
    offset_s: float = Field(default=0.0, ge=0.0, le=3600.0)
    loop: bool = True
    fade_s: float = Field(default=1.0, ge=0.0, le=10.0)

    absolute: ClassVar[bool] = True

    @property
    def may_jump(self) -> bool:
        """Return whether the loop has no cross-fade."""
        return self.fade_s == 0.0

    def axes(self) -> tuple[Axis, ...]:
        """Return the recorded axes."""
        return self.recording.axes

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Time in the take is the integral of layer and clip speed and the axis' pace.

        Returns
        -------
        (F, A) in the axes' units.
        """
        length = self.recording.length_s
        fade = min(self.fade_s, 0.5 * length)
        at = inputs.phase(fixed(1.0)) + self.offset_s
        gain = self.gain.sample(inputs.scope)
        tracks = [self._without_drift(axis, inputs.scope) for axis in inputs.axes]
        columns = [self._played(track, at[:, n], length, fade) for n, track in enumerate(tracks)]
        return np.stack(columns, axis=1) * gain[:, None]

    def _without_drift(self, axis: Axis, scope: Scope) -> Array:
        """Sample of an axis without motion below `drift_hz`; with 0, without their mean. (N,)."""
        recording, below_hz = self.recording, self.drift_hz
        return scope.table(
            "take",
            (recording, axis, below_hz),
            lambda: without_drift(getattr(recording, axis).samples, below_hz, recording.rate_hz),
        )

    def _played(self, samples: Array, at: Array, length: float, fade: float) -> Array:
        rate = self.recording.rate_hz
        if not self.loop:
            ends = np.minimum(at, length - at)
            shape = shape_of("smooth", ends / fade) if fade > 0.0 else 1.0
            return np.where((at < 0.0) | (at > length), 0.0, _sampled(samples, at * rate) * shape)
        period = length - fade
        within = np.mod(at, period)
        if fade == 0.0:
            return _sampled(samples, within * rate)
        turn = 0.5 * np.pi * np.clip(within / fade, 0.0, 1.0)
        going = np.where(within < fade, np.cos(turn), 0.0) * _sampled(samples, (within + period) * rate)
        return np.asarray(np.sin(turn) * _sampled(samples, within * rate) + going, dtype=np.float64)


def _sampled(samples: Array, place: Array) -> Array:
    """Sample at places between them, held outside. (N,), (F,) -> (F,)."""
    last = len(samples) - 1
    place = np.clip(place, 0.0, last)
    i = np.minimum(np.floor(place).astype(np.int64), last - 1)
    return catmull_rom([samples[np.clip(i + k, 0, last)] for k in (-1, 0, 1, 2)], place - i)


def without_drift(samples: Array, below_hz: float, rate_hz: float) -> Array:
    """Return samples without motion below a frequency; with 0, without their mean.

    Parameters
    ----------
    samples : (N,) float64, in the unit of the axis.

    Returns
    -------
    (N,) float64, in the unit of the axis.
    """
    if below_hz <= 0.0 or len(samples) < _LEAST_FILTERED:
        return samples - np.mean(samples)
    signal = scipy_part("signal")
    edge = min(below_hz, 0.45 * rate_hz)
    return np.asarray(
        signal.sosfiltfilt(signal.butter(_ORDER, edge, "highpass", fs=rate_hz, output="sos"), samples), dtype=np.float64
    )
