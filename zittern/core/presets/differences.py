"""Differences between a clip and its preset, layer by layer."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from zittern.core.documents.doc import Doc
from zittern.core.numbers.looks import FieldLook
from zittern.core.numbers.param import Number, formula_of
from zittern.core.presets.fitting import fitting_of
from zittern.core.presets.placed import layer_of
from zittern.core.presets.preset import Preset
from zittern.core.shot import forms
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.sources.table import row_of

__all__ = ["FieldDifference", "PartDifference", "differences", "partners"]

How = Literal["same", "changed here", "changed in the preset", "not here", "not in the preset", "of this clip"]
# Fields that every placed layer changes, besides its seeds, and temporary switches.
_OWN = ("id", "from_preset", "mute", "solo", "target")
# Fields that are drawn for each placement, unless the preset keeps its seeds.
_DRAWN = ("seed", "start")
_MOST_CHARACTERS = 60


class FieldDifference(Doc):
    """A field that differs: its name, its value in the clip and in the preset fitted to the clip."""

    title: str
    here: str
    there: str


class PartDifference(Doc):
    """A layer of a clip, of its preset or of both.

    layer, part: its id in the clip, in the preset; both missing for the clip's own amount and speed.
    """

    layer: str | None
    part: str | None
    name: str
    how: How
    fields: tuple[FieldDifference, ...] = ()


def partners(clip: Clip, preset: Preset) -> dict[str, Layer]:
    """Layers of a clip by the ids of the preset's layers that they came from; of several from one the lowest."""
    key = clip.from_preset.preset if clip.from_preset else None
    parts = {layer.id for layer in preset.layers}
    found: dict[str, Layer] = {}
    for layer in clip.layers:
        if layer.from_preset is not None and layer.from_preset.preset == key and layer.from_preset.layer in parts:
            found.setdefault(layer.from_preset.layer, layer)
    return found


def differences(shot: Shot, clip: Clip, preset: Preset) -> tuple[PartDifference, ...]:
    """Amount and speed first, then the preset's layers in its order, then those that the clip alone has."""
    fitting = fitting_of(shot, clip, preset)
    held = partners(clip, preset)
    rows = [_settings(clip, {name: fitting.doc(getattr(preset, name)) for name in ("amount", "speed")})]
    for part in preset.layers:
        layer = held.get(part.id)
        if layer is None:
            rows.append(PartDifference(layer=None, part=part.id, name=part.name, how="not here"))
            continue
        fields = tuple(_layer_fields(layer, layer_of(shot, fitting, part, None, shot.span_of(clip)), preset.keep_seeds))
        as_then = layer.from_preset is not None and layer.from_preset.content == part.content_print
        how: How = "same" if not fields else "changed here" if as_then else "changed in the preset"
        rows.append(PartDifference(layer=layer.id, part=part.id, name=layer.name, how=how, fields=fields))
    met = {layer.id for layer in held.values()}
    for layer in clip.layers:
        if layer.id not in met:
            gone = (
                layer.from_preset is not None
                and clip.from_preset is not None
                and layer.from_preset.preset == clip.from_preset.preset
            )
            rows.append(
                PartDifference(
                    layer=layer.id, part=None, name=layer.name, how="not in the preset" if gone else "of this clip"
                )
            )
    return tuple(rows)


def _settings(clip: Clip, there: dict[str, Number]) -> PartDifference:
    fields = tuple(
        FieldDifference(
            title=look.title,
            here=_value_text(getattr(clip, look.field), look),
            there=_value_text(there[look.field], look),
        )
        for look in forms.CLIP
        if look.field in there and getattr(clip, look.field) != there[look.field]
    )
    return PartDifference(
        layer=None, part=None, name="Amount and speed", how="changed here" if fields else "same", fields=fields
    )


def _layer_fields(here: Layer, there: Layer, seeds: bool) -> Iterator[FieldDifference]:
    looks = {look.field: look for look in (*forms.LAYER, *_source_looks(here))}
    for path, a, b in _unlike(here, there, ""):
        if path in _OWN or (not seeds and path.rsplit(".", 1)[-1] in _DRAWN):
            continue
        look = looks.get(path)
        title = (
            look.title
            if look is not None
            else path.removeprefix("axes.").removeprefix("source.").replace("_", " ").replace(".", " ")
        )
        yield FieldDifference(
            title=f"{title} swing" if path.endswith(".swing") else title,
            here=_value_text(a, look),
            there=_value_text(b, look),
        )


def _source_looks(layer: Layer) -> Iterator[FieldLook]:
    for look in row_of(layer.source.kind).fields:
        yield look.replace(field=f"source.{look.field}")


def _unlike(a: Any, b: Any, path: str) -> Iterator[tuple[str, Any, Any]]:
    """Fields that differ, as deep as both are documents of one kind."""
    if a == b:
        return
    if isinstance(a, Doc) and type(a) is type(b) and not isinstance(a, Number):
        for name in type(a).model_fields:
            yield from _unlike(getattr(a, name), getattr(b, name), f"{path}.{name}" if path else name)
    else:
        yield path, a, b


def _value_text(value: Any, look: FieldLook | None) -> str:
    """Return a value as people read it."""
    if isinstance(value, Number):
        formula = formula_of(value)
        if formula is not None:
            return f"= {formula.text or formula.draft or ''}"[:_MOST_CHARACTERS]
        if value.curve is not None:
            return f"{len(value.curve.keys)} keys"
        times, unit = (look.times, look.unit) if look else (1.0, "")
        return f"{(value.constant or 0.0) * times:.4g} {unit}".strip()
    if isinstance(value, bool):
        return "on" if value else "off"
    if isinstance(value, Doc):
        return str(getattr(value, "kind", "changed"))
    return (
        "none"
        if value is None
        else str(value)[:_MOST_CHARACTERS]
        if isinstance(value, (str, int, float))
        else "changed"
    )
