"""A motion as nested poses, from the ground to the lens: what formats with nodes write.

Layers of one mount add in axis space, but nested nodes multiply. So the node of layer k carries
inverse(offset of layers 1..k-1) x (offset of layers 1..k): the chain of nodes multiplies to exactly the sum.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from zittern.core.axes import no_offsets
from zittern.core.motion import chain
from zittern.core.motion.evaluate import Motion
from zittern.core.rig import transforms
from zittern.core.shot.mounts import MountKind
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["PosedNode", "nodes"]


@dataclass(frozen=True, slots=True)
class PosedNode:
    """A node: pose (F, 4, 4) in the node before it, the first in the world.

    is_layer: the offset of a layer; at_lens: on no mount, but at the lens end.
    """

    kind: MountKind
    name: str
    pose: Array
    is_layer: bool = False
    at_lens: bool = False


def nodes(shot: Shot, motion: Motion, one_camera: bool = False) -> Iterator[PosedNode]:
    """Yield the mounts with all that is on them, the layers, and what holds the framing; or one node with all of it.

    They multiply to the world pose.
    """
    if one_camera:
        yield PosedNode(
            "free", f"{shot.name} path", transforms.from_parts(motion.pose.position_m, motion.pose.angles_deg)
        )
        return
    base = transforms.identity(len(motion.frames))
    carried = chain.RigOffsets(motion.on.carried, motion.on.given)
    for mount in shot.mounts:
        own = chain.step(mount, base, motion.locals_[mount.id], carried)
        yield PosedNode(mount.kind, mount.name, transforms.inverse(base) @ own)
        yield from _layers(shot, motion, mount.id)
        base = motion.rig[mount.id]
    yield from _layers(shot, motion, None)
    if chain.HOLD in motion.on.given:
        still = transforms.identity(len(motion.frames))
        yield PosedNode("free", "Hold framing", chain.with_deflection(still, motion.on.given[chain.HOLD]), at_lens=True)


def _layers(shot: Shot, motion: Motion, target: str | None) -> Iterator[PosedNode]:
    total = no_offsets(motion.frames)
    before = transforms.identity(len(motion.frames))
    for _, layer in shot.layers():
        if layer.target != target or layer.id not in motion.layers:
            continue
        total = total + motion.layers[layer.id]
        after = transforms.offset_transforms(total)
        yield PosedNode("free", layer.name, transforms.inverse(before) @ after, is_layer=True, at_lens=target is None)
        before = after
