"""A shot through one of its variants: that one is active in the document, the others are stored.

Commands and evaluation only see the active variant.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable

from zittern.core.errors import BadInput, DocumentError, NotFound
from zittern.core.shot.cues import Cue
from zittern.core.shot.ids import counted_on
from zittern.core.shot.lanes import Lane, lanes_with
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import MountTarget, SubjectTarget, Target, mounts_in, with_each
from zittern.core.shot.variants import DialAside, MountAside, StoredVariant, Variant, ids_in

__all__ = [
    "alone",
    "as_stored",
    "aside_of",
    "checked",
    "fitted",
    "renewed",
    "through_each",
    "through_variant",
    "variant_of",
    "with_mounts",
]

# Cache of a shot through its other variants.
_SEEN = "_seen"


def variant_of(shot: Shot, wanted: str) -> Variant:
    """Return a variant by id, or else by name. Raises NotFound."""
    for each in (*(one for one in shot.variants if one.id == wanted), *shot.variants):
        if wanted in (each.id, each.name):
            return each
    names = ", ".join(f"“{each.name}”" for each in shot.variants)
    raise NotFound(f"there is no variant {wanted!r}; it may have been deleted. There are: {names}")


def through_variant(shot: Shot, wanted: str) -> Shot:
    """Return the shot through a variant, by id or name.

    The result is cached. Raises NotFound, and DocumentError where a stored variant does not fit the shot.
    """
    variant = variant_of(shot, wanted)
    if variant.aside is None:
        return shot
    known: dict[str, Shot] = shot.__dict__.setdefault(_SEEN, {})
    if variant.id not in known:
        known[variant.id] = found = _swapped(shot, variant, variant.aside)
        found.__dict__[_SEEN] = {shot.variant: shot}
    return known[variant.id]


def checked(shot: Shot) -> Shot:
    """Return the shot after a check of each of its variants. Raises DocumentError for one that does not fit it."""
    for each in shot.variants:
        through_variant(shot, each.id)
    return shot


def as_stored(shot: Shot) -> Shot:
    """Return the shot as it is stored: through its main variant."""
    return through_variant(shot, shot.main)


def _swapped(shot: Shot, variant: Variant, aside: StoredVariant) -> Shot:
    own = {each.mount: each for each in aside.mounts}
    values = {each.dial: each.value for each in aside.dials}

    def mount_with(mount: Mount) -> Mount:
        has = own.get(mount.id)
        operator, springs = (has.operator, has.springs) if has is not None else (None, None)
        same = mount.operator == operator and mount.springs == springs
        return mount if same else mount.replace(operator=operator, springs=springs)

    try:
        return shot.replace(
            lanes=aside.lanes,
            hold=aside.hold,
            mounts=tuple(map(mount_with, shot.mounts)),
            dials=tuple(
                dial if values.get(dial.name, dial.value) == dial.value else dial.replace(value=values[dial.name])
                for dial in shot.dials
            ),
            variants=tuple(
                each.replace(aside=None)
                if each is variant
                else each.replace(aside=aside_of(shot))
                if each.aside is None
                else each
                for each in shot.variants
            ),
        )
    except DocumentError as error:
        raise DocumentError(f"in the variant “{variant.name}”: {error.message}", error.where) from error


def aside_of(shot: Shot) -> StoredVariant:
    """Return the motion of a shot as a stored variant."""
    return StoredVariant(
        lanes=shot.lanes,
        hold=shot.hold,
        mounts=tuple(
            MountAside(mount=mount.id, operator=mount.operator, springs=mount.springs)
            for mount in shot.mounts
            if mount.operator is not None or mount.springs is not None
        ),
        dials=tuple(DialAside(dial=dial.name, value=dial.value) for dial in shot.dials),
    )


def alone(shot: Shot) -> Shot:
    """Return the shot without stored variants."""
    if len(shot.variants) == 1:
        return shot
    here = next(each for each in shot.variants if each.aside is None)
    return shot.replace(variants=(here,), main=here.id)


def fitted(shot: Shot, before: Shot) -> Shot:
    """Return the shot after an edit, with all stored variants adapted to its mounts and dials.

    Removed ones are dropped, new ones have no springs there and the value of the active variant. Raises DocumentError
    where a variant reads a removed name.
    """
    if len(shot.variants) == 1 or _leaned_on(shot) == _leaned_on(before):
        return shot
    out = shot.replace(
        variants=tuple(
            each if each.aside is None else each.replace(aside=_fitting(each.aside, shot)) for each in shot.variants
        )
    )
    return checked(out)


def _leaned_on(shot: Shot) -> tuple[object, ...]:
    """Return the parts that stored variants depend on."""
    return (
        tuple(mount.id for mount in shot.mounts),
        tuple((dial.name, dial.minimum, dial.maximum) for dial in shot.dials),
        tuple(plate.id for plate in shot.plates),
        shot.subject is None,
    )


def _fitting(aside: StoredVariant, shot: Shot) -> StoredVariant:
    mounts = frozenset(mount.id for mount in shot.mounts)
    values = {each.dial: each.value for each in aside.dials}
    there = _where_there(mounts, None)
    return aside.replace(
        lanes=_aimed(aside.lanes, mounts, None),
        hold=aside.hold and aside.hold.with_targets(there),
        mounts=tuple(
            each if each.operator is None else each.replace(operator=each.operator.with_targets(there))
            for each in aside.mounts
            if each.mount in mounts
        ),
        dials=tuple(DialAside(dial=dial.name, value=values.get(dial.name, dial.value)) for dial in shot.dials),
    )


def with_mounts(shot: Shot, mounts: tuple[Mount, ...], instead: str | None = None) -> Shot:
    """Another rig; layers on mounts that go act on the one named instead, or at the lens end."""
    known = frozenset(mount.id for mount in mounts)
    there = _where_there(known, instead)
    mounts = tuple(
        mount if mount.operator is None else mount.replace(operator=mount.operator.with_targets(there))
        for mount in mounts
    )
    hold = shot.hold and shot.hold.with_targets(there)
    cues = tuple(_cue_there(cue, known, instead) for cue in shot.cues)
    return shot.replace(mounts=mounts, lanes=_aimed(shot.lanes, known, instead), hold=hold, cues=cues)


def _cue_there(cue: Cue, known: frozenset[str], instead: str | None) -> Cue:
    """Return a cue at a mount that goes happens at the one instead, or nowhere."""
    if cue.on is None or known.issuperset(mounts_in(cue.on)):
        return cue
    return cue.replace(on=None if instead is None else with_each(cue.on, _where_there(known, instead)))


def _where_there(known: frozenset[str], instead: str | None) -> Callable[[Target], Target]:
    def there(target: Target) -> Target:
        if not isinstance(target, MountTarget) or target.mount in known:
            return target
        return SubjectTarget() if instead is None else target.replace(mount=instead)

    return there


def _aimed(lanes: tuple[Lane, ...], known: frozenset[str], instead: str | None) -> tuple[Lane, ...]:
    return lanes_with(
        lanes,
        lambda layer: layer if layer.target is None or layer.target in known else layer.replace(target=instead),
    )


def through_each(before: Shot, after: Shot, edit: Callable[[Shot], Shot]) -> Shot:
    """Return the shot after an edit of all variants.

    The edited active variant, with the result of the edit for each other one. Shared parts are those of the active
    variant; duplicate ids are replaced in the stored ones. Raises what the edit raises, with the variant's name.
    """
    taken = set(after.ids)
    variants: list[Variant] = []
    for each in after.variants:
        if each.aside is None:
            variants.append(each)
            continue
        try:
            aside = aside_of(edit(alone(through_variant(before, each.id))))
        except BadInput as error:
            raise type(error)(f"in the variant “{each.name}”: {error.message}", error.where) from error
        aside = aside.replace(lanes=renewed(aside.lanes, taken))
        taken |= aside.ids
        variants.append(each.replace(aside=_fitting(aside, after)))
    return checked(after.replace(variants=tuple(variants)))


def renewed(lanes: Iterable[Lane], taken: Iterable[str]) -> tuple[Lane, ...]:
    """Return lanes with new ids in place of used ones; taken: such as `layer:sway`."""
    lanes = tuple(lanes)
    gone = frozenset(taken)
    names = {each.partition(":")[2] for each in gone.union(ids_in(lanes))}

    def free(kind: str, id_: str) -> str:
        if f"{kind}:{id_}" not in gone:
            return id_
        new = counted_on(id_, names)
        names.add(new)
        return new

    return tuple(
        lane.replace(
            id=free("lane", lane.id),
            clips=tuple(
                clip.replace(
                    id=free("clip", clip.id),
                    layers=tuple(layer.replace(id=free("layer", layer.id)) for layer in clip.layers),
                )
                for clip in lane.clips
            ),
        )
        for lane in lanes
    )
