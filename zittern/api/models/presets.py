"""Presets: the list, their motion on a shot, differences between a clip and its preset."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.api.models.base import Key, Model, Name
from zittern.core.axes import Axis
from zittern.core.presets.differences import PartDifference
from zittern.core.presets.preset import LengthS, Preset, PresetLine, PresetTags
from zittern.core.presets.search import SEARCH_WORDS
from zittern.core.readings.swatches import Swatch
from zittern.core.shot.origins import PresetKey
from zittern.store.presets import KeptPreset

__all__ = [
    "NearestOut",
    "OriginOut",
    "PresetAboutIn",
    "PresetContentIn",
    "PresetOut",
    "PresetSaveIn",
    "PresetShelfOut",
    "SwatchOut",
    "SwatchesIn",
]

# Cards of this many presets are drawn per request.
_MOST_SWATCHES = 60
_Content = Annotated[str, StringConstraints(min_length=1, max_length=64)]
_Parts = Annotated[tuple[Key, ...], Field(max_length=100)]


class PresetOut(Model):
    """own: of the user's own, not shipped.

    content: names what it holds. problem: why it cannot be read, if so. words: search words besides the texts of its
    card.
    """

    key: str
    own: bool
    preset: Preset | None
    content: str
    problem: str | None
    words: str = ""

    @classmethod
    def of(cls, kept: KeptPreset, own: bool = True) -> PresetOut:
        """Return the card of a preset."""
        words = "" if own else SEARCH_WORDS.get(kept.key, "")
        return cls.model_construct(
            key=kept.key, own=own, preset=kept.preset, content=kept.content, problem=kept.problem, words=words
        )

    @property
    def json_text(self) -> str:
        """Return the preset as JSON, cached with it.

        A library may hold thousands and is requested after every change.
        """
        if self.preset is None:
            return self.model_dump_json()
        known: dict[tuple[str, str], str] = self.preset.__dict__.setdefault("_shelf_json", {})
        at = self.key, self.content
        if at not in known:
            known[at] = self.model_dump_json()
        return known[at]


class PresetShelfOut(Model):
    """Shipped ones first. The labels describe what undo and redo of preset changes would do."""

    presets: list[PresetOut]
    undo_label: str | None
    redo_label: str | None


class NearestOut(Model):
    """Keys of presets, the nearest first."""

    keys: list[str]


class PresetSaveIn(Model):
    """A clip of a shot, or layers of it alone, as a preset. rig: with the mounts that hold the camera."""

    shot: Key
    clip: Key | None = None
    layers: _Parts = ()
    name: Name
    line: PresetLine = ""
    tags: PresetTags = ()
    keep_seeds: bool = False
    rig: bool = False


class PresetAboutIn(Model):
    """All texts of a preset. content: its fingerprint when the texts were requested."""

    content: _Content
    name: Name
    line: PresetLine = ""
    tags: PresetTags = ()
    keep_seeds: bool = False
    length_s: LengthS | None = None


class PresetContentIn(Model):
    """A clip whose layers replace those of a preset."""

    content: _Content
    shot: Key
    clip: Key


class SwatchesIn(Model):
    """Presets to preview on a shot."""

    presets: Annotated[list[PresetKey], Field(max_length=_MOST_SWATCHES)]


class WaveOut(Model):
    """Least and largest of an axis in equal stretches of time; pixels of the picture."""

    axis: Axis
    least: list[float]
    most: list[float]


class SwatchOut(Model):
    """typical_px: RMS distance of the picture's center.

    scribble: right, up, and lift of the right edge by roll, in turn.
    """

    key: str
    typical_px: float
    scribble: list[float]
    waves: list[WaveOut]

    @classmethod
    def of(cls, key: str, made: Swatch) -> SwatchOut:
        """Return the preview of a preset for the page."""
        waves = [
            WaveOut.model_construct(
                axis=axis, least=extremes[:, 0].round(2).tolist(), most=extremes[:, 1].round(2).tolist()
            )
            for axis, extremes in made.waves_px.items()
        ]
        return cls.model_construct(
            key=key, typical_px=made.typical_px, scribble=made.scribble_px.round(2).ravel().tolist(), waves=waves
        )


class OriginOut(Model):
    """Differences between a clip and the preset that it was placed from.

    preset: missing when it was removed; `problem` explains why.
    """

    key: str
    name: str
    preset: Preset | None
    problem: str | None
    parts: list[PartDifference]
