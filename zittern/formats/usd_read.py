"""A camera anywhere in an OpenUSD file, its parents animated too, becomes a move."""

from __future__ import annotations

import json
import math
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

import numpy as np

from zittern.core.errors import FormatError
from zittern.core.numbers.curves import MOST_FRAME
from zittern.core.optics.lens import LEAST_FOCAL_MM, MOST_FOCAL_MM
from zittern.core.rig import rotations
from zittern.core.rig.transforms import orthonormal
from zittern.core.shot.mounts import KINDS
from zittern.core.shot.shot import Picture
from zittern.core.timebase import MOST_FPS, Fps
from zittern.core.units import Array
from zittern.formats.files import Sidecars
from zittern.formats.paths import Imported, PathFile, PathPart, PathSamples, sample_plan
from zittern.formats.reader_process import ask_reader
from zittern.formats.usd_reader import MOST_S

__all__ = ["read"]

_READER = "zittern.formats.usd_reader"
# Lengths of a camera are in tenths of a scene unit.
_MM_PER_TENTH_M = 100.0
_LEAST_SENSOR_MM, _MOST_SENSOR_MM = 1.0, 200.0
_MOST_M = 1e6
_STILL_LAST_FRAME = 240
_LEAST_RATE = 1e-3
# Number of samples above which no further camera is asked for in the same request.
_MOST_TOGETHER = 20_000
# From Z up to Y up.
_UPRIGHT = np.array([[1.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 0.0], [0.0, -1.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0]])


def read(data: bytes, sidecars: Sidecars) -> PathFile:
    """Perspective cameras of a .usda, .usdc or .usdz. Raises FormatError."""
    found = _ask(data, {})
    _check_times(found)
    file = _UsdFile(data, found)
    if not file.codes:
        raise FormatError("the file holds no perspective camera")
    missing = found["missing"]
    notices = (f"other files were not read: {', '.join(missing)[:300]}",) if missing else ()
    return PathFile(tuple(file.codes), file.imported, notices, _rate(found), file.first)


def _check_times(found: dict[str, Any]) -> None:
    if not _LEAST_RATE <= found["rate"] <= MOST_FPS:
        raise FormatError(f"{found['rate']:g} time codes per second are not possible", "timeCodesPerSecond")
    codes = [*(found["range"] or ()), *(code for each in found["cameras"] for code in each["codes"])]
    if not all(abs(code) <= MOST_FRAME for code in codes):
        raise FormatError(f"time codes are finite and up to {MOST_FRAME:g}", "startTimeCode")
    if not 1e-6 <= found["meters"] <= 1e6:
        raise FormatError(f"a scene unit of {found['meters']:g} m is not possible", "metersPerUnit")


def _ask(data: bytes, request: dict[str, Any]) -> dict[str, Any]:
    ending = ".usdz" if data[:2] == b"PK" else ".usdc" if data[:8] == b"PXR-USDC" else ".usda"
    line = json.dumps(request | {"ending": ending}).encode() + b"\n"
    answer = ask_reader(_READER, line + data, MOST_S)
    if answer is None:
        raise FormatError(f"this file cannot be read within {MOST_S} s and 1 GB; save only the camera and its parents")
    if "fault" in answer:
        raise FormatError(f"this is not an OpenUSD file that can be read: {answer['fault']}")
    return answer


def _rate(found: dict[str, Any]) -> Fps | None:
    """Return the exact rate that an exported file names, else its time codes per second."""
    for value in (found["fps"], found["rate"]):
        try:
            rate = Fps.model_validate(value)
        except ValueError:
            continue
        if abs(rate.value - found["rate"]) <= 1e-6 * rate.value:
            return rate
    return None


@dataclass(frozen=True, slots=True)
class _Plan:
    """Frames and times (s) at which a camera is sampled, and its last frame."""

    frames: Array
    times_s: Array
    last: int


class _UsdFile:
    """The perspective cameras of a file. Samples of several are asked for together: each process takes a while."""

    def __init__(self, data: bytes, found: dict[str, Any]) -> None:
        self._data = data
        self._found = found
        self.codes: dict[str, list[float]] = {
            each["path"]: each["codes"] for each in found["cameras"] if not each["flat"]
        }
        codes = [code for each in self.codes.values() for code in each]
        self.first = math.floor(found["range"][0] if found["range"] else min(codes, default=1.0))
        self._sampled: dict[tuple[str, Fps], dict[str, Any]] = {}

    def imported(self, name: str, fps: Fps) -> Imported:
        """Return the path of a camera. Raises FormatError."""
        found, plan = self._found, self._plan(name, fps)
        samples = self._samples(name, fps, plan)
        last, notices = plan.last, []
        if not self.codes[name] and not found["range"]:
            last = max(last, _STILL_LAST_FRAME)
            notices.append(f"the camera does not move; the shot gets {last} frames")
        meters = found["meters"]
        pose = (_UPRIGHT if found["z_up"] else np.eye(4)) @ _matrices(samples["world"], name)
        picture, sensor_mm, focal_mm = _lens(samples, meters, name)
        parts = () if found["z_up"] or meters != 1.0 else _parts(samples["parts"], name)
        angles = rotations.continuous(_rotations(pose, name))
        at = _positions(pose, meters, name)
        path = PathSamples(plan.frames, at, angles, focal_mm, last, picture, sensor_mm, parts)
        return Imported(path, name, tuple(notices))

    def _plan(self, name: str, fps: Fps) -> _Plan:
        codes = np.array([*self.codes[name], *(self._found["range"] or ())], dtype=np.float64)
        keys_s = (np.unique(codes[codes >= self.first]) - self.first) / self._found["rate"]
        return _Plan(*sample_plan(keys_s, np.empty(0), fps))

    def _samples(self, name: str, fps: Fps, plan: _Plan) -> dict[str, Any]:
        """Return the samples of a camera; those of the following ones are asked for with them."""
        if (name, fps) not in self._sampled:
            names = list(self.codes)
            plans = {name: plan}
            for other in names[names.index(name) + 1 :]:
                with suppress(FormatError):
                    plans[other] = self._plan(other, fps)
                if sum(len(each.times_s) for each in plans.values()) > _MOST_TOGETHER:
                    break
            codes = {path: (self.first + each.times_s * self._found["rate"]).tolist() for path, each in plans.items()}
            for path, samples in _ask(self._data, {"codes": codes})["samples"].items():
                self._sampled[path, fps] = samples
        return self._sampled[name, fps]


def _matrices(rows: list[list[float]], where: str) -> Array:
    values = np.array(rows, dtype=np.float64).reshape(-1, 4, 4)
    if not np.all(np.isfinite(values)):
        raise FormatError("a pose is not finite", where)
    return values


def _positions(pose: Array, meters: float, where: str) -> Array:
    at = pose[:, :3, 3] * meters
    if np.max(np.abs(at)) > _MOST_M:
        raise FormatError(f"the camera is farther away than {_MOST_M:g} m", where)
    return np.asarray(at)


def _rotations(pose: Array, where: str) -> Array:
    linear = pose[:, :3, :3]
    scale = np.max(np.abs(linear), axis=(1, 2), keepdims=True)
    if np.any(scale < 1e-12) or np.any(np.abs(np.linalg.det(linear / scale)) < 1e-9):
        raise FormatError("the camera, or a parent, has zero scale", where)
    return orthonormal(linear / scale)


def _parts(found: list[dict[str, Any]], where: str) -> tuple[PathPart, ...]:
    parts = []
    for each in found:
        if each["kind"] not in KINDS:
            return ()
        local = _matrices(each["local"], where)
        angles = rotations.continuous(_rotations(local, where))
        parts.append(PathPart(each["name"][:120].strip() or "Mount", each["kind"], local[:, :3, 3], angles))
    return tuple(parts)


def _lens(samples: dict[str, Any], meters: float, where: str) -> tuple[Picture, float, Array]:
    """Return picture, sensor width (mm) and focal lengths (mm). An animated aperture changes the focal length."""
    per_mm = _MM_PER_TENTH_M * meters
    wide = np.array(samples["aperture"], dtype=np.float64) * per_mm
    focal = np.array(samples["focal"], dtype=np.float64) * per_mm
    if not (np.all(np.isfinite(wide)) and np.all(np.isfinite(focal)) and wide.min() > 0.0):
        raise FormatError("the camera has no finite focal length and aperture", where)
    sensor_mm = float(np.clip(wide[0], _LEAST_SENSOR_MM, _MOST_SENSOR_MM))
    focal = focal * sensor_mm / wide
    if focal.min() < LEAST_FOCAL_MM or focal.max() > MOST_FOCAL_MM:
        raise FormatError(
            f"expected a focal length of 1 to 10,000 mm, found {focal.min():.3g} to {focal.max():.3g}", where
        )
    width = Picture().width_px
    try:
        height = round(width * float(samples["tall"] or 0.0) * per_mm / float(wide[0]))
        return Picture(width_px=width, height_px=height), sensor_mm, focal
    except (ValueError, OverflowError) as error:
        raise FormatError("the apertures of the camera give no usable picture", where) from error
