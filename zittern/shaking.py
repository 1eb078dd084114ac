"""The motion of a preset on a camera path, without a data folder: for the command line and for scripts."""

from __future__ import annotations

import hashlib
import unicodedata
from dataclasses import dataclass
from difflib import get_close_matches
from pathlib import Path

from zittern.core.axes import AXES, ROTATIONS, SHIFTS, TRANSLATIONS, Axis
from zittern.core.edits.presets import PlacePreset
from zittern.core.edits.table import apply
from zittern.core.errors import BadInput
from zittern.core.presets.files import ENDING, read_preset
from zittern.core.presets.preset import Preset
from zittern.core.shot.layers import MOST_SEED, Layer
from zittern.core.shot.shot import Shot
from zittern.formats.files import read_bytes
from zittern.store.shipped import shipped_presets

__all__ = ["AXIS_GROUPS", "MOST_AMOUNT", "Shake", "axes_named", "preset_named", "seed_for", "shaken"]

AXIS_GROUPS: dict[str, tuple[Axis, ...]] = {
    "rotations": ROTATIONS,
    "translations": TRANSLATIONS,
    "lens": tuple(axis for axis in AXES if axis not in (*ROTATIONS, *TRANSLATIONS, *SHIFTS)),
    "shifts": SHIFTS,
}
MOST_AMOUNT = 10.0


@dataclass(frozen=True, slots=True)
class Shake:
    """A preset with its key if it ships, and its settings. axes: those that may move; span: first and last frame."""

    preset: Preset
    key: str | None = None
    amount: float = 1.0
    axes: tuple[Axis, ...] = AXES
    span: tuple[float, float] | None = None


def preset_named(text: str, where: str) -> tuple[str | None, Preset]:
    """Return a preset that ships, with its key, or that of a file. Raises BadInput and FormatError."""
    if text.endswith(ENDING):
        return None, read_preset(read_bytes(Path(text)))
    presets = shipped_presets()
    if text in presets:
        return text, presets[text]
    near = get_close_matches(text[:80], list(presets), n=3, cutoff=0.4) or list(presets)[:5]
    raise BadInput(f"no preset is named {text[:80]!r}; near it are {', '.join(near)}. A file ends in {ENDING}", where)


def axes_named(text: str, where: str) -> tuple[Axis, ...]:
    """Return the axes of groups and names with commas between: `rotations,zoom`. Raises BadInput."""
    known: dict[str, tuple[Axis, ...]] = AXIS_GROUPS | {axis: (axis,) for axis in AXES}
    names = [each.strip() for each in text.split(",")]
    for name in names:
        if name not in known:
            raise BadInput(f"expected axes among {', '.join(known)}, got {name[:40]!r}", where)
    chosen = {axis for name in names for axis in known[name]}
    return tuple(axis for axis in AXES if axis in chosen)


def seed_for(name: str, seed: int) -> int:
    """Return the shot seed for a file: files with different names never shake alike, the same one always does.

    Names are compared in Unicode normal form C.
    """
    digest = hashlib.sha256(f"{seed}/{unicodedata.normalize('NFC', name)}".encode("utf-8", "surrogateescape"))
    return int.from_bytes(digest.digest()[:8]) & MOST_SEED


def shaken(shot: Shot, shake: Shake, seed: int | None = None) -> Shot:
    """Return a shot with a preset placed on it, sized for its lens. seed: of the shot, if it gets a new one.

    Raises BadInput where no axis of the preset may move, and DocumentError for an amount that is too large.
    """
    layers = [each for each in (_limited(layer, shake.axes) for layer in shake.preset.layers) if each.affected_axes]
    if not layers:
        raise BadInput(f"the preset {shake.preset.name!r} moves none of these axes", "axes")
    amount = shake.preset.amount.map(lambda value: value * shake.amount)
    preset = shake.preset.replace(layers=tuple(layers), amount=amount)
    first, last = shake.span or (None, None)
    placed = PlacePreset(preset=preset, key=shake.key, first_frame=first, last_frame=last)
    return apply(shot if seed is None else shot.replace(seed=seed, seeds_drawn=0), placed)


def _limited(layer: Layer, axes: tuple[Axis, ...]) -> Layer:
    if axes == AXES:
        return layer
    off = {axis: layer.axes.of(axis).replace(on=False) for axis in AXES if axis not in axes}
    lever_m = layer.lever_m if set(TRANSLATIONS) <= set(axes) else (0.0, 0.0)
    return layer.replace(axes=layer.axes.replace(**off), lever_m=lever_m)
