"""Commands on variants: derived from the active one, named, annotated, ordered, deleted, made the main one.

Clips and layers copied from one to another.
"""

from __future__ import annotations

from itertools import count
from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Label
from zittern.core.edits.clips import on_lane
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.layers import PasteLayers
from zittern.core.edits.parts import find_clip, find_layer, lane_of
from zittern.core.edits.titles import layers_title, owners_title
from zittern.core.errors import EditError, NotFound
from zittern.core.shot.clips import Clip
from zittern.core.shot.ids import counted_on, ids_of, names_in
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import aside_of, renewed, through_variant, variant_of
from zittern.core.shot.variants import MOST_VARIANTS, Variant, VariantNote

__all__ = ["AddVariant", "CarryTo", "MoveVariant", "RemoveVariant", "SetMain", "SetVariant"]

_Several = Annotated[tuple[str, ...], Field(max_length=500)]


class AddVariant(CommandDoc):
    """Add a copy of the active variant after it, and activate it.

    Its random starts are the same, so that only what is changed in it differs.
    """

    name: Label | None = None
    note: VariantNote = ""

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError beyond the maximum number, and for a used name."""
        if len(shot.variants) >= MOST_VARIANTS:
            raise EditError(f"a shot has up to {MOST_VARIANTS} variants; delete one first")
        names = {each.name for each in shot.variants}
        if self.name in names:
            raise _name_taken(self.name or "")
        new = Variant(
            id=counted_on("variant", {each.id for each in shot.variants}),
            name=self.name or next(name for n in count(len(names) + 1) if (name := f"Variant {n}") not in names),
            note=self.note,
        )
        variants: list[Variant] = []
        for each in shot.variants:
            variants += [each] if each.aside is not None else [each.replace(aside=aside_of(shot)), new]
        return shot.replace(lanes=renewed(shot.lanes, ids_of(shot)), variants=tuple(variants))

    def label(self, shot: Shot) -> str:
        """Return the label: `New variant “Calm”`."""
        return f"New variant “{self.name}”" if self.name else "New variant"


class SetVariant(CommandDoc):
    """Another name or note for a variant."""

    variant: str
    name: Label | None = None
    note: VariantNote | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when it is not there, and for a name that another one has."""
        old = _find(shot, self.variant)
        if any(each.name == self.name for each in shot.variants if each is not old):
            raise _name_taken(self.name or "")
        new = old.replace(
            name=old.name if self.name is None else self.name, note=old.note if self.note is None else self.note
        )
        return shot.replace(variants=tuple(new if each is old else each for each in shot.variants))

    def label(self, shot: Shot) -> str:
        """Return `Rename variant “Calm” to “Calmer”`, `Note on variant “Calm”`."""
        old = _find(shot, self.variant)
        return f"Note on variant “{old.name}”" if self.name is None else f"Rename variant “{old.name}” to “{self.name}”"


class MoveVariant(CommandDoc, label="Reorder variant {variant}"):
    """Move a variant in the order."""

    variant: str
    index: int = Field(ge=0, lt=MOST_VARIANTS)

    def apply(self, shot: Shot) -> Shot:
        """Index counts from the first. Raises EditError when it is not there."""
        moved = _find(shot, self.variant)
        rest = [each for each in shot.variants if each is not moved]
        rest.insert(self.index, moved)
        return shot.replace(variants=tuple(rest))


class SetMain(CommandDoc, label="Make {variant} the main variant"):
    """Make a variant the main one, which other windows, scripts and exports show first."""

    variant: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when it is not there."""
        return shot.replace(main=_find(shot, self.variant).id)


class RemoveVariant(CommandDoc, label="Delete variant {variant}"):
    """Delete a variant with all its motion.

    Where it is the one that is seen, or the main one, the next one is.
    """

    variant: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when it is not there, or the last one."""
        gone = _find(shot, self.variant)
        if len(shot.variants) == 1:
            raise EditError("this is the only variant; a shot needs one", "variant")
        at = shot.variants.index(gone)
        rest = [each for each in shot.variants if each is not gone]
        following = rest[min(at, len(rest) - 1)]
        main = following.id if shot.main == gone.id else shot.main
        left = through_variant(shot, main if main != gone.id else following.id) if gone.aside is None else shot
        return left.replace(variants=tuple(each for each in left.variants if each.id != gone.id), main=main)


class CarryTo(CommandDoc):
    """Copy clips and layers of the active variant to another one, with their random phases.

    A clip is placed on the lane of the same name, or on a new one; a layer in the clip of the same name, or over the
    whole shot.
    """

    to: str
    clips: _Several = ()
    layers: _Several = ()

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for missing parts, and without any."""
        if not self.clips and not self.layers:
            raise EditError("name clips or layers to be copied", "clips")
        target = _find(shot, self.to)
        if target.aside is None:
            raise EditError(f"“{target.name}” is the variant that these are in; choose another one", "to")
        other = through_variant(shot, target.id)
        for name in self.clips:
            clip = find_clip(shot, name)
            lane = next((each for each in other.lanes if each.name == lane_of(shot, clip).name), None)
            other = on_lane(other, _copy(other, clip), None if lane is None else lane.id)
        for name in self.layers:
            clip, layer = find_layer(shot, name)
            there = next((each.id for each in other.clips() if each.name == clip.name and each.blend is None), None)
            other = PasteLayers(layers=(layer,), clip=there).apply(other)
        return through_variant(other, shot.variant)

    def label(self, shot: Shot) -> str:
        """Return `Copy “Slow sway” to variant “Calm”`."""
        what = [
            *([owners_title(shot, [f"clip:{each}" for each in self.clips])] if self.clips else []),
            *([layers_title(shot, self.layers)] if self.layers else []),
        ]
        return f"Copy {' and '.join(what)} to variant “{_find(shot, self.to).name}”"


def _copy(shot: Shot, clip: Clip) -> Clip:
    """Return a clip with ids that a shot has room for."""
    (lane,) = renewed([Lane(id=counted_on("lane", names_in(shot)), name=clip.name, clips=(clip,))], ids_of(shot))
    return lane.clips[0]


def _find(shot: Shot, wanted: str) -> Variant:
    try:
        return variant_of(shot, wanted)
    except NotFound as error:
        raise EditError(error.message, "variant") from error


def _name_taken(name: str) -> EditError:
    return EditError(f"a variant is called “{name}” already; take another name", "name")
