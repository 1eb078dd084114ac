"""A shot in a script. Every change returns another shot; none is changed in place.

Numbers have addresses, such as `mount:camera.pan_deg`, `layer:sway.axes.pan.swing`, `clip:main.amount`,
`dial:panic.value`, `shot.focal_mm`; those of a shot's parts are in `Shot.layers`, `clips`, `mounts` and `dials`.
Wrong input raises ZitternError, which states what is wrong and where.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
from pydantic import TypeAdapter

from zittern.core.checks.finding import Finding
from zittern.core.checks.table import CHECKS, check, named
from zittern.core.documents.doc import Doc
from zittern.core.edits.address import get_at
from zittern.core.edits.table import COMMANDS, Command, apply
from zittern.core.errors import BadInput, EditError, faults_as
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import MOST_FRAME
from zittern.core.numbers.param import Number
from zittern.core.shot.shot import Shot as Document
from zittern.core.shot.shot import new_shot
from zittern.core.timebase import Fps
from zittern.core.units import Array
from zittern.formats.delivery import Delivery, deliver
from zittern.formats.opening import open_path
from zittern.formats.reduced import tolerance_from
from zittern.formats.table import format_named, format_of
from zittern.formats.world_axes import Reading
from zittern.scripting.motion import Motion, named_motion
from zittern.shaking import Shake, axes_named, preset_named, shaken
from zittern.store.seeds import newly_seeded
from zittern.store.shipped import shipped_presets

__all__ = ["Shot", "commands", "new", "open", "presets"]

_COMMAND: TypeAdapter[Command] = TypeAdapter(Command)


def presets() -> tuple[str, ...]:
    """Return the names of the presets that ship.

    >>> presets()[:2]
    ('shoulder-standing', 'stand-off-long-lens')
    """
    return tuple(shipped_presets())


def commands() -> dict[str, str]:
    """Return the types of commands for `Shot.edit`, with their fields.

    >>> commands()["insert_time"]
    'frame, frames, gap, runs'
    """
    return {name: ", ".join(field for field in kind.model_fields if field != "type") for name, kind in COMMANDS.items()}


def new(
    name: str,
    *,
    first_frame: int = 1,
    last_frame: int = 240,
    fps: str | float | Fraction = 24,
    seed: int | None = None,
) -> Shot:
    """Return a shot with one camera at eye height and no layers.

    Parameters
    ----------
    fps : frame rate, also as "24000/1001".
    seed : seed of its layers; without one it is drawn, and no two shots shake alike.
    """
    rate = _fps(fps)
    with faults_as(EditError):
        return _seeded(new_shot(name, first_frame=first_frame, last_frame=last_frame, fps=rate), seed)


def open(
    path: str | Path,
    *,
    camera: str | None = None,
    fps: str | float | Fraction | None = None,
    z_up: bool = False,
    centimeters: bool = False,
    seed: int | None = None,
) -> Shot:
    """Return the shot of a file: a camera path (GLB, glTF, OpenUSD, CSV) or a .shot.json.

    Parameters
    ----------
    camera : name of the camera, where a file has several.
    fps : frame rate of a camera path; by default that of the file, or 24.
    z_up, centimeters : up axis and unit of a camera path.
    seed : seed of new layers; without one it is drawn. Layers of a .shot.json keep theirs.
    """
    rate = None if fps is None else _fps(fps)
    return _seeded(open_path(Path(path), camera, rate, reading=Reading(z_up, centimeters)).shot, seed)


class Shot:
    """A camera move with motion on top. Created by `zittern.new` and `zittern.open`."""

    def __init__(self, document: Document) -> None:
        self._document = document

    def __repr__(self) -> str:
        """Return name, frames and rate."""
        shot = self._document
        return f"<Shot {shot.name!r}, frames {shot.first_frame} to {shot.last_frame}, {shot.fps.value:g} fps>"

    def __eq__(self, other: object) -> bool:
        """Return whether both have the same document."""
        return isinstance(other, Shot) and self._document == other._document

    @property
    def name(self) -> str:
        """Name of the shot."""
        return self._document.name

    @property
    def fps(self) -> Fraction:
        """Frame rate, exact."""
        return Fraction(self._document.fps.num, self._document.fps.den)

    @property
    def frames(self) -> tuple[int, int]:
        """First and last frame."""
        return self._document.first_frame, self._document.last_frame

    @property
    def mounts(self) -> dict[str, str]:
        """Names of the mounts by id, from the ground to the lens."""
        return {each.id: each.name for each in self._document.mounts}

    @property
    def clips(self) -> dict[str, str]:
        """Names of the clips by id."""
        return {each.id: each.name for each in self._document.clips()}

    @property
    def layers(self) -> dict[str, str]:
        """Names of the layers by id."""
        return {each.id: each.name for _, each in self._document.layers()}

    @property
    def dials(self) -> tuple[str, ...]:
        """Names of the dials."""
        return tuple(each.name for each in self._document.dials)

    def add_preset(
        self,
        preset: str,
        *,
        amount: float = 1.0,
        axes: str = "rotations,translations,lens,shifts",
        first_frame: float | None = None,
        last_frame: float | None = None,
    ) -> Shot:
        """Return the shot with a preset as another clip, sized for the lens.

        Parameters
        ----------
        preset : name of a preset that ships, or path of a .preset.json.
        amount : factor of its strength.
        axes : groups and names of the axes that may move, with commas between.
        first_frame, last_frame : range of the clip; by default the whole shot.
        """
        key, found = preset_named(preset, "preset")
        first, last = self.frames
        span = None
        if first_frame is not None or last_frame is not None:
            span = (first if first_frame is None else first_frame, last if last_frame is None else last_frame)
        return Shot(shaken(self._document, Shake(found, key, amount, axes_named(axes, "axes"), span)))

    def get(self, address: str) -> Any:
        """Return the value at an address: the number of a fixed one, otherwise its description as JSON has it.

        >>> new("Walk").get("shot.focal_mm")
        35.0
        """
        value = get_at(self._document, address)
        if not isinstance(value, Doc):
            return value
        described = value.model_dump(mode="json")
        # Only a fixed number has a value.
        return described.get("value", described) if isinstance(value, Number) else described

    def set(self, address: str, value: Any) -> Shot:
        """Return the shot with a value at an address. A plain number becomes a fixed one.

        >>> new("Walk").set("mount:camera.y_m", 1.7).get("mount:camera.y_m")
        1.7
        """
        return self.edit("set_values", values=[{"at": address, "value": value}])

    def key(
        self,
        address: str,
        values: Mapping[float, float],
        *,
        interp: Literal["hold", "linear", "smooth"] | None = None,
    ) -> Shot:
        """Return the shot with keys of a number, by frame. Other keys stay.

        >>> new("Walk").key("mount:camera.x_m", {1: 0.0, 240: 2.5}).evaluate([240]).pose["x_m"]
        array([2.5])
        """
        keys = [{"at": address, "frame": frame, "value": value} for frame, value in values.items()]
        keyed = self.edit("set_keys", keys=keys)
        refs = [{"at": address, "frame": frame} for frame in values]
        return keyed if interp is None else keyed.edit("set_interp", keys=refs, interp=interp)

    def formula(self, address: str, text: str) -> Shot:
        """Return the shot with a formula for a number. Raises ZitternError for a text that is not valid.

        >>> new("Walk").formula("mount:camera.roll_deg", "2 * sin(tau * t)").evaluate([7]).pose["roll_deg"].round(3)
        array([2.])
        """
        return self.set(address, {"state": "formula", "text": text})

    def blend(self, clips: Sequence[str], *, method: Literal["mix", "morph"] = "mix") -> Shot:
        """Return the shot with clips as the corners of one blend, which replaces the first.

        Its position is at `clip:ID.blend.across_percent` and `up_percent`.
        """
        return self.edit("blend_clips", clips=list(clips), method=method)

    def edit(self, command: str, **fields: Any) -> Shot:
        """Return the shot after any command of the application, by its type and fields.

        `zittern.commands()` lists them.
        """
        with faults_as(EditError):
            parsed = _COMMAND.validate_python({"type": command, **fields})
        return Shot(apply(self._document, parsed))

    def evaluate(self, frames: npt.ArrayLike | None = None) -> Motion:
        """Return the motion at some frames, between whole ones too; by default at all whole frames.

        Rows do not depend on the other frames.
        """
        return named_motion(evaluate(self._document, None if frames is None else _frames(frames)))

    def check(self, only: Sequence[str] | None = None) -> tuple[Finding, ...]:
        """Return the findings of all checks, or of some by name; problems (`weight`) before hints.

        >>> [found.check for found in new("Walk").check(["smooth"])]
        ['smooth']
        """
        return check(self._document, CHECKS if only is None else named(tuple(only))).findings

    def export(
        self,
        path: str | Path,
        *,
        format: str | None = None,
        step: float = 1.0,
        reduce: str | None = None,
        one_camera: bool = False,
    ) -> str | None:
        """Write the motion to a file: GLB, glTF, OpenUSD, CSV, or the document as .shot.json. Returns the loss, if any.

        Parameters
        ----------
        format : name of a format, where an ending has several: "csv-lens".
        step : frames between two samples.
        reduce : few cubic keys within a tolerance, such as "0.5px" or "0.5px,0.2mm".
        one_camera : one node with all motion, instead of mounts and layers.
        """
        file = Path(path)
        chosen = format_of(file.name) if format is None else format_named(format)
        delivery = Delivery(step, tolerance_from(reduce, "reduce"), one_camera)
        loss = deliver(file, chosen, self._document, delivery)
        return None if loss is None else loss.says


def _seeded(document: Document, seed: int | None) -> Shot:
    if seed is None:
        return Shot(newly_seeded(document))
    with faults_as(EditError):
        return Shot(document.replace(seed=seed, seeds_drawn=0))


def _frames(frames: npt.ArrayLike) -> Array:
    try:
        at = np.atleast_1d(np.asarray(frames, dtype=np.float64))
    except (TypeError, ValueError):
        at = np.empty(0)
    if at.ndim != 1 or not at.size or not np.all(np.abs(at) <= MOST_FRAME):
        raise BadInput(f"expected finite frames up to {MOST_FRAME:g}, in one row", "frames")
    return at


def _fps(value: str | float | Fraction) -> Fps:
    text = f"{value.numerator}/{value.denominator}" if isinstance(value, Fraction) else value
    with faults_as(EditError, "fps"):
        return Fps.model_validate(text)
