"""The shot document: the one thing that is stored, edited, evaluated and exported."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cached_property
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, StringConstraints, model_validator

from zittern.core.documents.doc import Doc, Id, Label, digest
from zittern.core.documents.timemarks import BY_ITSELF, FIRST, LAST
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.optics.lens import LEAST_FOCAL_MM, MOST_FOCAL_MM
from zittern.core.shot.clips import Clip
from zittern.core.shot.cues import MOST_CUE_KEYS, MOST_CUES, Cue
from zittern.core.shot.dials import Dial
from zittern.core.shot.glass import Glass
from zittern.core.shot.ignored import MOST_IGNORED, IgnoredFinding
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import MOST_SEED, Layer, Seed, Span, Spanned
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.shot.plates import MOST_PLATES, Plate
from zittern.core.shot.reads import check_reads
from zittern.core.shot.targets import Follows, mounts_in
from zittern.core.shot.variants import MOST_VARIANTS, Variant, ids_in
from zittern.core.timebase import Fps
from zittern.core.units import Array

__all__ = ["SCHEMA_VERSION", "Picture", "Shot", "Subject", "new_shot"]

SCHEMA_VERSION: Literal[17] = 17
MOST_FRAMES = 1_000_000
DEFAULT_SENSOR_MM = 36.0
DEFAULT_FOCAL_MM = 35.0
_MAIN = Variant(id="main", name="Main")
# An eye's height above the ground, where a fresh camera stands.
EYE_HEIGHT_M = 1.6


class Picture(Doc):
    """Size of the picture in pixels; pixels are square."""

    width_px: int = Field(default=1920, ge=16, le=32768)
    height_px: int = Field(default=1080, ge=16, le=32768)


class Subject(Doc):
    """A point or the path of an object of the set that the camera frames.

    Meters in the world; height_m and width_m, its larger side on the ground, are its size around this point; by default
    the width is a third of the height.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"name", "object", "height_m", "width_m"})

    name: Label
    object: str | None = Field(default=None, max_length=200)
    height_m: float = Field(default=1.8, gt=0.0, le=1e5)
    width_m: float | None = Field(default=None, ge=0.0, le=1e5)
    x_m: Annotated[Param, bounded(-1e6, 1e6)] = fixed(0.0)
    y_m: Annotated[Param, bounded(-1e6, 1e6)] = fixed(0.0)
    z_m: Annotated[Param, bounded(-1e6, 1e6)] = fixed(0.0)

    @classmethod
    def at(cls, name: str, position_m: tuple[float, float, float]) -> Subject:
        """Return a point that stands still. position_m: metres in the world."""
        x, y, z = position_m
        return cls(name=name, x_m=fixed(x), y_m=fixed(y), z_m=fixed(z))

    @property
    def corners_m(self) -> Array:
        """Corners of its box about its point.

        Returns
        -------
        (8, 3) metres along the world's axes.
        """
        across = self.height_m / 3.0 if self.width_m is None else self.width_m
        signs = np.array([(x, y, z) for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)])
        return np.asarray(signs * np.array([across, self.height_m, across]))

    def position_m(self, scope: Scope) -> Array:
        """Return its position.

        Returns
        -------
        (F, 3) metres in the world.
        """
        return np.stack([self.x_m.sample(scope), self.y_m.sample(scope), self.z_m.sample(scope)], axis=1)


class Shot(Doc):
    """A camera move with the motion layered on it.

    Frames are the shot's own; time 0 is its first frame. loops: its first frame should continue its last. glass:
    distortion and breathing. plates: in the set. ignored: ignored findings. seed: origin of the seeds of new
    layers; seeds_drawn: their number, so that none repeats. variants: alternatives of lanes, springs, operator, hold
    and values of dials; one is active in the document, the others are stored in `variants`; main: the one that other
    windows and exports show first.
    """

    schema_name: Literal["zittern.shot"] = "zittern.shot"
    schema_version: Literal[17] = SCHEMA_VERSION
    name: Label
    fps: Fps = Fps(num=24)
    first_frame: Annotated[int, FIRST] = Field(default=1, ge=-1_000_000, le=10_000_000)
    last_frame: Annotated[int, LAST] = Field(default=240, ge=-1_000_000, le=10_000_000)
    picture: Picture = Picture()
    sensor_mm: float = Field(default=DEFAULT_SENSOR_MM, ge=1.0, le=200.0)
    focal_mm: Annotated[Param, bounded(LEAST_FOCAL_MM, MOST_FOCAL_MM)] = fixed(DEFAULT_FOCAL_MM)
    glass: Glass | None = None
    set_id: Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")] | None = None
    subject: Subject | None = None
    plates: Annotated[tuple[Plate, ...], Field(max_length=MOST_PLATES)] = ()
    dials: Annotated[tuple[Dial, ...], Field(max_length=100)] = ()
    mounts: Annotated[tuple[Mount, ...], Field(min_length=1, max_length=50)]
    hold: HoldFraming | None = None
    cues: Annotated[tuple[Cue, ...], Field(max_length=MOST_CUES)] = ()
    lanes: Annotated[tuple[Lane, ...], Field(max_length=500)] = ()
    loops: bool = False
    ignored: Annotated[tuple[IgnoredFinding, ...], Field(max_length=MOST_IGNORED)] = ()
    seed: Seed = 0
    seeds_drawn: Annotated[int, Field(ge=0, le=MOST_SEED)] = 0
    variants: Annotated[tuple[Variant, ...], Field(min_length=1, max_length=MOST_VARIANTS), BY_ITSELF] = (_MAIN,)
    main: Id = _MAIN.id

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.last_frame < self.first_frame:
            raise ValueError(
                f"the last frame ({self.last_frame}) comes before the first ({self.first_frame}); make it "
                f"{self.first_frame} or later"
            )
        if self.last_frame - self.first_frame >= MOST_FRAMES:
            raise ValueError(f"a shot has up to {MOST_FRAMES} frames")
        _refuse_twins("dials", [dial.name for dial in self.dials])
        _refuse_twins("cues", [cue.id for cue in self.cues])
        _refuse_twins("plates", [plate.id for plate in self.plates])
        _refuse_twins("mounts", [mount.id for mount in self.mounts])
        _refuse_twins("lanes", [lane.id for lane in self.lanes])
        _refuse_twins("clips", [clip.id for clip in self.clips()])
        _refuse_twins("layers", [layer.id for _, layer in self.layers()])
        self._check_variants()
        if len(aiming := [mount.name for mount in self.mounts if mount.operator is not None]) > 1:
            raise ValueError(
                f"a camera has one operator; there are two, on “{aiming[0]}” and “{aiming[1]}”: take one away"
            )
        known = {mount.id for mount in self.mounts}
        for n, lane in enumerate(self.lanes):
            for c, clip in enumerate(lane.clips):
                for i, layer in enumerate(clip.layers):
                    if layer.target is not None and layer.target not in known:
                        raise ValueError(
                            f"lanes[{n}].clips[{c}].layers[{i}].target names the mount {layer.target!r}, which does "
                            f"not exist"
                        )
        for where, follows in self.following():
            if missing := set(mounts_in(*follows.targets())) - known:
                raise ValueError(f"{where} follows the mount {min(missing)!r}, which does not exist")
        for n, cue in enumerate(self.cues):
            if cue.on is not None and (missing := set(mounts_in(cue.on)) - known):
                raise ValueError(f"cues[{n}].on names the mount {min(missing)!r}, which does not exist")
        if (keys := sum(cue.keys for cue in self.cues)) > MOST_CUE_KEYS:
            raise ValueError(
                f"the paths of cue targets have {keys:,} keys, more than {MOST_CUE_KEYS:,}: attach fewer cues to "
                "moving objects"
            )
        path = [*self.mounts, *([self.subject] if self.subject else [])]
        check_reads(
            self.dials,
            path,
            [
                self.focal_mm,
                *([self.glass] if self.glass else []),
                *self.plates,
                *([self.hold] if self.hold else []),
                *(layer for _, layer in self.layers()),
                *self.clips(),
            ],
            FACT_NAMES,
        )
        return self

    def _check_variants(self) -> None:
        _refuse_twins("variants", [variant.id for variant in self.variants])
        if len(here := [variant.id for variant in self.variants if variant.aside is None]) != 1:
            raise ValueError(f"expected one active variant in the shot, found {len(here)}")
        if self.main not in (variant.id for variant in self.variants):
            raise ValueError(f"the main variant {self.main!r} does not exist")
        known = set(self.ids)
        for variant in self.variants:
            if variant.aside is not None:
                if twins := known & variant.aside.ids:
                    kind, _, name = min(twins).partition(":")
                    raise ValueError(
                        f"the variant “{variant.name}” has a {kind} {name!r}, as another one has; ids are unique"
                    )
                known |= variant.aside.ids

    @cached_property
    def ids(self) -> frozenset[str]:
        """Return the ids of its lanes, clips and layers, each with its kind: `layer:sway`."""
        return frozenset(ids_in(self.lanes))

    @cached_property
    def variant(self) -> str:
        """Return the id of the active variant."""
        return next(each.id for each in self.variants if each.aside is None)

    def following(self) -> Iterator[tuple[str, Follows]]:
        """Yield everything that follows a target, with its address."""
        for mount in self.mounts:
            if mount.operator is not None:
                yield f"mount:{mount.id}.operator", mount.operator
        if self.hold is not None:
            yield "shot.hold", self.hold

    def lens_mm(self, scope: Scope, focus_m: Array | None = None) -> Array:
        """Return the keyed focal length, with the breathing of the lens.

        Parameters
        ----------
        focus_m : (F,) float64, meters; by default the keyed focus distance.

        Returns
        -------
        (F,) millimetres.
        """
        focal = self.focal_mm.sample(scope)
        return focal if self.glass is None else np.maximum(focal * self.glass.breath(scope, focus_m), LEAST_FOCAL_MM)

    def focus_m(self, scope: Scope) -> Array:
        """Return the keyed focus distance: that of the glass, or of a usual one.

        Returns
        -------
        (F,) float64, meters.
        """
        return (self.glass or Glass()).focus_m.sample(scope)

    def breathing(self, scope: Scope) -> Array:
        """Return how strongly the picture shows a motion of the focus.

        Returns
        -------
        (F,) float64, relative change of the focal length per relative change of the focus distance, without sign.
        """
        return np.zeros(len(scope.frames)) if self.glass is None else self.glass.breathing(scope)

    def lens_at(self, scope: Scope) -> float:
        """Return the focal length at a scope's first frame."""
        return float(self.lens_mm(scope.over(scope.frames[:1]))[0])

    def distortion(self, scope: Scope) -> Array:
        """k1 and k2 of the glass; 0 without.

        Returns
        -------
        (F, 2) float64, coefficients, dimensionless.
        """
        return np.zeros((len(scope.frames), 2)) if self.glass is None else self.glass.distortion(scope)

    def clips(self) -> Iterator[Clip]:
        """All clips of all lanes, from the bottom up."""
        for lane in self.lanes:
            yield from lane.clips

    def layers(self) -> Iterator[tuple[Clip, Layer]]:
        """All layers with their clips, from the bottom up."""
        for clip in self.clips():
            for layer in clip.layers:
                yield clip, layer

    @property
    def span(self) -> Span:
        """First and last frame."""
        return float(self.first_frame), float(self.last_frame)

    def span_of(self, part: Spanned) -> Span:
        """First and last frame of a layer or clip; the shot's own where it has no span."""
        return part.span_frames or self.span

    def scope(self, frames: Array | float) -> Scope:
        """Return the scope of its numbers: time and dials. Facts of the path: `motion.facts.scope_at`.

        Parameters
        ----------
        frames: (F,), or one frame.

        Returns
        -------
        The scope at these frames.
        """
        first, last = self.span
        bare = Scope(np.atleast_1d(np.asarray(frames, dtype=np.float64)), self.fps, first, (first, last))
        return replace(bare, values=_dials(self.dials, bare)) if self.dials else bare

    @cached_property
    def cues_key(self) -> str:
        """Hash of the cues as sources see them, without their names."""
        return digest("".join(cue.motion_key for cue in self.cues))

    @property
    def frame_count(self) -> int:
        """Number of whole frames."""
        return self.last_frame - self.first_frame + 1


def _dials(dials: tuple[Dial, ...], bare: Scope) -> dict[str, Callable[[Array], Array]]:
    """Each dial's value at any frames, by name.

    Dials may read dials; that they read no circle was checked. Each is computed once for the same frames, for any
    number of readers: forty dials that read two each would otherwise take 2^40 steps.
    """
    values: dict[str, Callable[[Array], Array]] = {}
    known: dict[str, tuple[Array, Array]] = {}
    # Without frames: reference cycles are released late.
    scope = replace(bare, frames=np.empty(0), values=values)

    def value_of(dial: Dial) -> Callable[[Array], Array]:
        def at(frames: Array) -> Array:
            last = known.get(dial.name)
            if last is None or last[0] is not frames:
                last = known[dial.name] = frames, dial.sample(scope.over(frames))
            return last[1]

        return at

    values.update((dial.name, value_of(dial)) for dial in dials)
    return values


def new_shot(name: str, **fields: object) -> Shot:
    """Return a fresh shot: one mount at eye height, no layers."""
    camera = Mount(id="camera", name="Camera", y_m=fixed(EYE_HEIGHT_M))
    return Shot.model_validate({"name": name, "mounts": (camera,), **fields})


def _refuse_twins(where: str, ids: list[str]) -> None:
    seen: set[str] = set()
    for each in ids:
        if each in seen:
            raise ValueError(f"two of the {where} have the id {each!r}; ids are unique")
        seen.add(each)
