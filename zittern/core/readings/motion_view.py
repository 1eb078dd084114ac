"""Motion for a view.

Several readings share intermediate results, each computed once and tagged by its inputs.
"""

from __future__ import annotations

from functools import cached_property, partial

import numpy as np

from zittern.core.documents.doc import motion_text
from zittern.core.motion import chain
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.picture import NEAREST_M, distances_m
from zittern.core.motion.pose import Pose
from zittern.core.optics.lens import focal_px
from zittern.core.readings.tagged import Tagged, derived, tagged
from zittern.core.shot.shot import Shot

__all__ = ["MotionView"]


class MotionView:
    """A shot's motion at some frames. What it keeps never refers back to it: no ring keeps arrays alive."""

    def __init__(self, shot: Shot, motion: Motion) -> None:
        self.shot = shot
        self.motion = motion

    @cached_property
    def frames(self) -> Tagged:
        """(F,)."""
        return tagged(self.motion.frames)

    @cached_property
    def pose(self) -> Tagged:
        """Return the pose of the lens, with all motion.

        (F, P) in the order of POSE_COLUMNS.
        """
        return _columns(self.motion.pose)

    @cached_property
    def bare(self) -> Tagged:
        """Return the pose of the move alone. (F, P)."""
        return _columns(self.motion.bare)

    @cached_property
    def layers(self) -> dict[str, Tagged]:
        """Return the offsets of each layer, muted ones included. (F, A) by id."""
        return {name: tagged(values) for name, values in {**self.motion.layers, **self.motion.silent}.items()}

    @cached_property
    def total(self) -> Tagged:
        """Sum of the layers that count. (F, A)."""
        motion = self.motion
        return derived("total", [self.layers[name] for name in motion.layers], lambda: motion.total)

    @cached_property
    def offsets(self) -> dict[str, Tagged]:
        """Sums of the layers that count, by the mount they act on, or chain.LENS. (F, A) each."""
        motion = self.motion
        acting: dict[str, list[Tagged]] = {name: [] for name in motion.offsets}
        for _, layer in self.shot.layers():
            if layer.id in motion.layers:
                acting[layer.target or chain.LENS].append(self.layers[layer.id])
        values = motion.offsets
        return {name: derived("offsets", parts, partial(values.__getitem__, name)) for name, parts in acting.items()}

    @cached_property
    def away_m(self) -> Tagged:
        """From the bare lens to the subject, or to where it is taken to be. (F,)."""
        shot, motion = self.shot, self.motion
        parts = [self.bare, self.frames, self.apart_from_layers if shot.subject else None]
        return derived("away", parts, lambda: np.maximum(distances_m(shot, motion), NEAREST_M))

    @cached_property
    def apart_from_layers(self) -> str:
        """Return the fingerprint of the shot without its layers."""
        fields = [
            motion_text(getattr(self.shot, name))
            for name in type(self.shot).model_fields
            if name not in ("name", "lanes")
        ]
        names = [dial.name for dial in self.shot.dials]
        return "/".join([*fields, repr(names), repr(sorted(chain.held_mounts(self.shot)))])

    @cached_property
    def f_px(self) -> Tagged:
        """Focal length in pixels. (F,)."""
        shot, focal = self.shot, self.motion.pose.focal_mm
        width_px = shot.picture.width_px
        return derived(
            "f_px", [tagged(focal), shot.sensor_mm, width_px], lambda: focal_px(focal, shot.sensor_mm, width_px)
        )

    @cached_property
    def rig(self) -> dict[str, Tagged]:
        """World poses behind the mounts. (F, 4, 4) by id."""
        return {name: tagged(pose) for name, pose in self.motion.rig.items()}

    @cached_property
    def lens(self) -> Tagged:
        """World pose of the lens. (F, 4, 4)."""
        last, on = self.motion.rig[self.shot.mounts[-1].id], self.motion.on
        behind = [self.offsets[chain.LENS]] if chain.LENS in on.offsets else []
        if chain.HOLD in on.given:
            behind.append(tagged(on.given[chain.HOLD]))
        return derived("lens", [self.rig[self.shot.mounts[-1].id], *behind], lambda: chain.at_lens(last, on))


def _columns(pose: Pose) -> Tagged:
    parts = [tagged(each) for each in pose.parts]
    return derived("columns", parts, lambda: np.column_stack([each.values for each in parts]))
