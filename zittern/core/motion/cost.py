"""Memory of an evaluation, before it starts: by the sizes of its arrays."""

from __future__ import annotations

from zittern.core.axes import AXES
from zittern.core.runtime import budget
from zittern.core.shot.shot import Shot

__all__ = ["arrays_bytes", "check_cost"]

_FLOAT_BYTES = 8
# Per layer: motion of unit size, its contribution, its weight.
_ROW_A_LAYER = 2 * len(AXES) + 1
# Per mount: its pose in its parent and in the world, and the contributions on it.
_ROW_A_MOUNT = 16 + 16 + 6 + len(AXES)
# Sums, poses, and temporary arrays.
_ROW_BESIDES = 100


def arrays_bytes(shot: Shot, frames: int) -> dict[str, int]:
    """Bytes of the arrays of a motion at so many frames: of layers, of mounts, besides."""
    row = _FLOAT_BYTES * frames
    layers = sum(1 for _ in shot.layers())
    return {
        "layers": row * _ROW_A_LAYER * layers,
        "mounts": row * _ROW_A_MOUNT * len(shot.mounts),
        "besides": row * _ROW_BESIDES,
    }


def check_cost(shot: Shot, frames: int) -> None:
    """Check the memory of an evaluation. Raises TooDear where the budget at hand does not allow for them."""
    sizes = arrays_bytes(shot, frames)
    count = sum(1 for _ in shot.layers())
    what = f"motion of {count} layers and {len(shot.mounts)} mounts at {frames} frames"
    advice = "the number of layers" if sizes["layers"] >= sizes["mounts"] else "the number of mounts"
    budget.needs(sum(sizes.values()), what, f"{advice}, or of frames")
