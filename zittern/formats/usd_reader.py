"""Run by itself, with limits.

Reads OpenUSD from standard input, after one line of JSON with the request, and prints its cameras or the samples of
some as JSON. The file may come from anywhere; layers outside of it are not read.
"""

from __future__ import annotations

import json
import os
import sys
import tempfile
from collections.abc import Iterator
from itertools import islice
from pathlib import Path
from typing import Any

from zittern.formats.reader_process import limit_myself, one_line_fault

__all__ = ["MOST_BYTES", "MOST_S", "main"]

MOST_BYTES, MOST_S = 2**30, 20
_MOST_PRIMS, _MOST_CAMERAS, _MOST_CODES, _MOST_DEPTH = 500_000, 200, 200_000, 8
_LENS = ("focalLength", "horizontalAperture")


def main() -> None:
    """Print {"cameras": [...], ...}, {"samples": {...}} or {"fault": text}."""
    os.environ["PXR_WORK_THREAD_LIMIT"] = "1"
    limit_myself(MOST_BYTES, MOST_S)
    from pxr import Tf

    request = json.loads(sys.stdin.buffer.readline())
    try:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / f"file{request['ending']}"
            path.write_bytes(sys.stdin.buffer.read())
            print(json.dumps(_answer(path, request)))
    except (Tf.ErrorException, RuntimeError, ValueError, MemoryError) as error:
        print(json.dumps({"fault": one_line_fault(error)}))


def _answer(path: Path, request: dict[str, Any]) -> dict[str, Any]:
    from pxr import Sdf, Usd

    layer = Sdf.Layer.FindOrOpen(str(path))
    if layer is None:
        return {"fault": "it cannot be opened"}
    missing: list[str] = []
    _close(layer, request["ending"] == ".usdz", missing, 0)
    stage = Usd.Stage.Open(layer)
    if "codes" in request:
        return {"samples": {path: _samples(stage, path, codes) for path, codes in request["codes"].items()}}
    return _cameras(stage) | {"missing": sorted(set(missing))[:20]}


def _close(layer: Any, in_package: bool, missing: list[str], depth: int) -> None:
    """Remove all references of a layer to files outside, and list those to other layers."""
    from pxr import Sdf, UsdUtils

    layers = set(layer.GetCompositionAssetDependencies())
    inside: list[str] = []

    def inner_name(name: str) -> str:
        if in_package and not name.startswith("/") and ".." not in name and ":" not in name:
            inside.append(name)
            return name
        return ""

    UsdUtils.ModifyAssetPaths(layer, inner_name)
    missing += layers.difference(inside)
    for name in layers.intersection(inside):
        found = Sdf.Layer.FindOrOpen(layer.ComputeAbsolutePath(name))
        if found is not None and found != layer and depth < _MOST_DEPTH:
            _close(found, True, missing, depth + 1)


def _cameras(stage: Any) -> dict[str, Any]:
    from pxr import Usd, UsdGeom

    prims = islice(Usd.PrimRange.Stage(stage, Usd.TraverseInstanceProxies()), _MOST_PRIMS)
    found = islice((prim for prim in prims if prim.IsA(UsdGeom.Camera)), _MOST_CAMERAS)
    cameras = [{"path": str(prim.GetPath()), "flat": _is_flat(prim), "codes": _codes(prim)} for prim in found]
    own = dict(stage.GetRootLayer().customLayerData).get("zittern")
    has_range = stage.HasAuthoredTimeCodeRange()
    return {
        "cameras": cameras,
        "rate": stage.GetTimeCodesPerSecond(),
        "fps": own.get("fps") if isinstance(own, dict) else None,
        "range": [stage.GetStartTimeCode(), stage.GetEndTimeCode()] if has_range else None,
        "meters": UsdGeom.GetStageMetersPerUnit(stage),
        "z_up": UsdGeom.GetStageUpAxis(stage) == UsdGeom.Tokens.z,
    }


def _is_flat(prim: Any) -> bool:
    return str(prim.GetAttribute("projection").Get()) == "orthographic"


def _chain(prim: Any) -> list[Any]:
    """Return the prim and those above it, from the outside."""
    chain = []
    while prim and not prim.IsPseudoRoot():
        chain.append(prim)
        prim = prim.GetParent()
    return chain[::-1]


def _codes(prim: Any) -> list[float]:
    """Return the time codes of all samples of a camera and its parents."""
    from pxr import UsdGeom

    codes: set[float] = set()
    for each in _chain(prim):
        if each.IsA(UsdGeom.Xformable):
            codes.update(UsdGeom.Xformable(each).GetTimeSamples())
    for name in _LENS:
        codes.update(prim.GetAttribute(name).GetTimeSamples())
    return sorted(codes)[:_MOST_CODES]


def _samples(stage: Any, path: str, codes: list[float]) -> dict[str, Any]:
    from pxr import UsdGeom

    prim = stage.GetPrimAtPath(path)
    camera, cache = UsdGeom.Camera(prim), UsdGeom.XformCache()
    chain = _chain(prim)
    mounts = _mounts(chain)
    world, focal, aperture = [], [], []
    local: list[list[list[float]]] = [[] for _ in mounts]
    for code in codes:
        cache.SetTime(code)
        world.append(_flat(cache.GetLocalToWorldTransform(prim)))
        for out, (each, _, _) in zip(local, mounts, strict=True):
            out.append(_flat(cache.GetLocalTransformation(each)[0]))
        focal.append(camera.GetFocalLengthAttr().Get(code))
        aperture.append(camera.GetHorizontalApertureAttr().Get(code))
    parts = [{"name": n, "kind": k, "local": at} for at, (_, n, k) in zip(local, mounts, strict=True)]
    tall = camera.GetVerticalApertureAttr().Get(codes[0])
    return {"world": world, "focal": focal, "aperture": aperture, "tall": tall, "parts": parts}


def _flat(matrix: Any) -> list[float]:
    """Return the matrix for column vectors, row by row."""
    return [float(matrix[column][row]) for row in range(4) for column in range(4)]


def _mounts(chain: list[Any]) -> list[tuple[Any, str, str]]:
    """Mounts of a rig that was exported, with names and kinds; the camera last, for the layers on it."""
    mounts = chain[1:-1]
    kinds = [each.GetCustomDataByKey("zittern:mount") for each in mounts]
    if not mounts or not all(isinstance(kind, str) for kind in kinds):
        return []
    names = [str(each.GetDisplayName() or each.GetName()) for each in mounts]
    return [*zip(mounts, names, kinds, strict=True), *_lens_layers(chain[-1])]


def _lens_layers(camera: Any) -> Iterator[tuple[Any, str, str]]:
    from pxr import UsdGeom

    if UsdGeom.Xformable(camera).GetOrderedXformOps():
        yield camera, "Layers", "free"


if __name__ == "__main__":
    main()
