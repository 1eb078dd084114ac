"""Tables that the page loads once, and sets."""

from __future__ import annotations

from zittern.api.models.base import Model
from zittern.core.axes import Axis
from zittern.core.numbers.curves import Extend, Interp
from zittern.core.numbers.envelope import RampShape
from zittern.core.numbers.looks import FieldLook
from zittern.core.presets.rigs import Rig
from zittern.core.shot.shot import Picture, Shot
from zittern.core.sources.table import Kind
from zittern.formats.table import Kind as FileKind

__all__ = [
    "AxisOut",
    "CheckOut",
    "FormatOut",
    "FormsOut",
    "FramingOut",
    "PlaceOut",
    "SetChoice",
    "SetOut",
    "SourceOut",
    "TablesOut",
]


class SetOut(Model):
    """A set: its files, objects and path."""

    set_id: str
    objects: list[str]


class MovieKindOut(Model):
    """A kind of movie that can be made."""

    name: str
    title: str
    ending: str


class FormatOut(Model):
    """carries: the parts of a shot that it includes.

    reads: camera paths can be read from it; writes: shots can be written to it; has_nodes: as nested nodes;
    has_curves: also with reduced keys; has_frame_numbers: frames can be numbered.
    """

    name: str
    ending: str
    kind: FileKind
    title: str
    carries: str
    reads: bool
    writes: bool
    has_nodes: bool
    has_curves: bool
    has_frame_numbers: bool


class SourceOut(Model):
    """absolute: its values are in the units of the axes, and swings do not scale it."""

    kind: Kind
    title: str
    imitates: str
    absolute: bool
    fields: list[FieldLook]


class AxisOut(Model):
    """unit: in words; sign: as numbers carry it.

    step: a fine change of a swing. title: display name. column: name in tables of offsets. dash: pattern of its line.
    folds: shown when it is asked for, or moves.
    """

    name: Axis
    title: str
    unit: str
    sign: str
    plus: str
    minus: str
    most_swing: float
    step: float
    column: str
    dash: tuple[float, ...]
    folds: bool


class FramingOut(Model):
    """Height of a subject in the picture, as a share of the picture height."""

    title: str
    fill: float


class PlaceOut(Model):
    """A place on screen that has a name: percent from the left and from the lower edge."""

    title: str
    across_percent: float
    up_percent: float


class FormsOut(Model):
    """Form fields by the document they belong to; choices that forms offer.

    Limits of the numbers in commands, by `type.field`; names of the layers of the handheld feel; the default values of
    a new shot. pads: positions of the corners of a blend, by their number, percent from the left and lower edge.
    """

    layer: list[FieldLook]
    clip: list[FieldLook]
    blend: list[FieldLook]
    move: list[FieldLook]
    mount: list[FieldLook]
    springs: list[FieldLook]
    operator: list[FieldLook]
    ride: list[FieldLook]
    hold: list[FieldLook]
    glass: list[FieldLook]
    plate: list[FieldLook]
    places: list[PlaceOut]
    pads: dict[int, list[tuple[float, float]]]
    rigs: list[Rig]
    interps: list[Interp]
    extends: list[Extend]
    ramps: list[RampShape]
    lenses_mm: list[float]
    pictures: list[Picture]
    framings: list[FramingOut]
    handheld: list[str]
    limits: dict[str, tuple[float, float]]
    fresh: Shot


class CheckOut(Model):
    """A check: its name and description."""

    name: str
    title: str
    told: str


class SetChoice(Model):
    """A set to choose."""

    set_id: str
    title: str


class TablesOut(Model):
    """All tables."""

    version: str
    axes: list[AxisOut]
    sources: list[SourceOut]
    forms: FormsOut
    formats: list[FormatOut]
    movies: list[MovieKindOut]
    sets: list[SetChoice]
    takes: list[str]
    checks: list[CheckOut]
