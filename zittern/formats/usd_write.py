"""A shot as OpenUSD: a transform prim for each mount, and a camera.

Layers are ops on the prim of their mount, or on the camera: up to six about or along single axes, which hold the
pose between the sums before and after the layer. Meters, Y up; time codes are frames. Lengths of the camera are in
tenths of a scene unit: 35 mm is 0.35.
"""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, TYPE_CHECKING, Any

import numpy as np
from pxr import Sdf, Tf, Usd, UsdGeom, UsdUtils

from zittern import __version__
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.nodes import PosedNode, nodes
from zittern.core.optics.lens import height_mm
from zittern.core.rig import rotations
from zittern.core.shot.ids import free_name
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

if TYPE_CHECKING:
    from zittern.formats.delivery import Delivery

__all__ = ["write_usda", "write_usdc", "write_usdz"]

# Tenths of a meter per millimeter.
_PER_MM = 0.01
_NEAR_M, _FAR_M = 0.05, 5000.0
# Open for half a frame about its time, as in movies at 180 degrees.
_SHUTTER_FRAMES = 0.25
_STILL = 1e-12
# Types of the ops of a pose, from the outside: position, then pan, tilt, roll.
_OPS = ("translateX", "translateY", "translateZ", "rotateY", "rotateX", "rotateZ")


def write_usda(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write text."""
    _write(shot, delivery, parts, file, ".usda")


def write_usdc(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write the binary form."""
    _write(shot, delivery, parts, file, ".usdc")


def write_usdz(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write a package with the binary form."""
    _write(shot, delivery, parts, file, ".usdz")


@dataclass
class _Ops:
    """Samples of a pose over all parts: each (F, 6), meters and degrees in the order of the ops."""

    node: PosedNode
    parts: list[Array] = field(default_factory=list)

    def add(self, pose: Array) -> None:
        start = self.parts[-1][-1, 3:] if self.parts else None
        angles = rotations.continuous(pose[:, :3, :3], start)
        self.parts.append(np.concatenate([pose[:, :3, 3], angles], axis=1))

    @property
    def samples(self) -> Array:
        return np.concatenate(self.parts)


def _write(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes], ending: str) -> None:
    ops: list[_Ops] = []
    frames, lens = [], []
    for motion in parts:
        for n, node in enumerate(nodes(shot, motion, delivery.one_camera)):
            if n == len(ops):
                ops.append(_Ops(node))
            ops[n].add(node.pose)
        frames.append(motion.frames)
        pose = motion.pose
        lens.append(np.column_stack([pose.focal_mm, pose.shift_percent, pose.distortion, pose.focus_m]))
    name = getattr(file, "name", None)
    beside = str(Path(name).parent) if isinstance(name, str) else None
    with tempfile.TemporaryDirectory(dir=beside) as folder:
        path = Path(folder) / f"shot{'.usdc' if ending == '.usdz' else ending}"
        _Stage(shot, path, delivery.numbers(shot, np.concatenate(frames))).write(ops, np.concatenate(lens))
        if ending == ".usdz":
            path = _packed(path)
        with path.open("rb") as made:
            shutil.copyfileobj(made, file)


def _packed(path: Path) -> Path:
    package = path.with_suffix(".usdz")
    UsdUtils.CreateNewUsdzPackage(Sdf.AssetPath(str(path)), str(package))
    return package


def _suffix(name: str, taken: set[str]) -> str:
    """Return a readable name for the ops of a layer, and add it to those that are taken."""
    suffix: str = free_name(Tf.MakeValidIdentifier(name), taken, "_")
    taken.add(suffix)
    return suffix


class _Stage:
    """A stage of one shot, in a file."""

    def __init__(self, shot: Shot, path: Path, frames: Array) -> None:
        self._shot = shot
        self._frames = frames.tolist()
        self._layer = Sdf.Layer.CreateNew(str(path))
        self._stage = Usd.Stage.Open(self._layer)

    def write(self, all_ops: list[_Ops], lens: Array) -> None:
        """Write the whole stage. lens (F, 6): focal length, shifts, distortion, focus distance."""
        shot, stage = self._shot, self._stage
        UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.y)
        UsdGeom.SetStageMetersPerUnit(stage, 1.0)
        stage.SetTimeCodesPerSecond(shot.fps.value)
        stage.SetFramesPerSecond(shot.fps.value)
        stage.SetStartTimeCode(self._frames[0])
        stage.SetEndTimeCode(self._frames[-1])
        told = {"product": __version__, "shot": shot.name, "fps": f"{shot.fps.num}/{shot.fps.den}"}
        self._layer.customLayerData = {"zittern": told}
        parent = UsdGeom.Xform.Define(stage, f"/{Tf.MakeValidIdentifier(shot.name)}")
        parent.GetPrim().SetDisplayName(shot.name)
        stage.SetDefaultPrim(parent.GetPrim())
        taken: set[str] = set()
        for each in (ops for ops in all_ops if not ops.node.at_lens):
            if each.node.is_layer:
                self._add_ops(parent, each, _suffix(each.node.name, taken))
            else:
                parent, taken = self._child(parent, each.node.name, UsdGeom.Xform), set()
                parent.GetPrim().SetCustomDataByKey("zittern:mount", each.node.kind)
                self._add_ops(parent, each, "")
        camera, taken = self._child(parent, "Camera", UsdGeom.Camera), set()
        for each in (ops for ops in all_ops if ops.node.at_lens):
            self._add_ops(camera, each, _suffix(each.node.name, taken))
        self._add_lens(camera, lens)
        self._layer.Save()

    def _child(self, parent: Any, name: str, kind: Any) -> Any:
        child = kind.Define(self._stage, parent.GetPath().AppendChild(Tf.MakeValidIdentifier(name)))
        child.GetPrim().SetDisplayName(name)
        return child

    def _add_ops(self, prim: Any, ops: _Ops, suffix: str) -> None:
        for kind, values in zip(_OPS, ops.samples.T, strict=True):
            if np.any(values):
                kinds = getattr(UsdGeom.XformOp, f"Type{kind[0].upper()}{kind[1:]}")
                op = prim.AddXformOp(kinds, UsdGeom.XformOp.PrecisionDouble, suffix)
                self._set(op.GetAttr(), values)

    def _add_lens(self, camera: Any, lens: Array) -> None:
        shot = self._shot
        wide_mm = shot.sensor_mm
        tall_mm = height_mm(wide_mm, shot.picture.width_px, shot.picture.height_px)
        focal_mm, shift_x, shift_y, k1, k2, focus_m = lens.T
        camera.CreateProjectionAttr(UsdGeom.Tokens.perspective)
        camera.CreateClippingRangeAttr((_NEAR_M, _FAR_M))
        camera.CreateShutterOpenAttr(-_SHUTTER_FRAMES)
        camera.CreateShutterCloseAttr(_SHUTTER_FRAMES)
        camera.CreateHorizontalApertureAttr(wide_mm * _PER_MM)
        camera.CreateVerticalApertureAttr(tall_mm * _PER_MM)
        self._set(camera.CreateFocalLengthAttr(), focal_mm * _PER_MM)
        self._set(camera.CreateFocusDistanceAttr(), focus_m)
        # The picture moves to the right when the film back moves to the left.
        self._set(camera.CreateHorizontalApertureOffsetAttr(), -shift_x / 100.0 * wide_mm * _PER_MM)
        self._set(camera.CreateVerticalApertureOffsetAttr(), -shift_y / 100.0 * tall_mm * _PER_MM)
        if np.any(k1) or np.any(k2):
            for name, values in (("k1", k1), ("k2", k2)):
                self._set(camera.GetPrim().CreateAttribute(f"zittern:{name}", Sdf.ValueTypeNames.Double), values)

    def _set(self, attribute: Any, values: Array) -> None:
        """Set samples of an attribute, or one value where it does not change."""
        if float(np.ptp(values)) <= _STILL:
            attribute.Set(float(values[0]))
            return
        path = attribute.GetPath()
        attribute.Set(float(values[0]), self._frames[0])
        for frame, value in zip(self._frames, values.tolist(), strict=True):
            self._layer.SetTimeSample(path, frame, value)
