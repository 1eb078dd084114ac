"""The user's own presets.

Each change is one transaction and can be undone, also after a restart; the last steps are kept.
"""

from __future__ import annotations

import secrets
from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import dataclass
from functools import lru_cache

from sqlalchemy import Connection, delete, func, insert, select, update

from zittern.core.errors import BadInput, Conflict, DocumentError, NotFound
from zittern.core.presets.files import read_preset, write_preset
from zittern.core.presets.preset import Preset
from zittern.core.shot.ids import free_name
from zittern.store.shipped import shipped_presets
from zittern.store.tables import PresetRow, PresetStepRow, now

__all__ = ["MOST_BYTES", "MOST_PRESETS", "KeptPreset", "PresetShelf", "Shelf"]

MOST_PRESETS = 2000
# All of them together, as stored.
MOST_BYTES = 64 * 2**20
_KEPT_STEPS = 200
_LABEL_LENGTH = 300
_UNREADABLE = "unreadable"
Door = Callable[[], AbstractContextManager[Connection]]


@dataclass(frozen=True, slots=True)
class KeptPreset:
    """preset: None for one that cannot be read; `problem` then states the reason.

    content: fingerprint of the preset.
    """

    key: str
    preset: Preset | None
    content: str
    problem: str | None = None


@dataclass(frozen=True, slots=True)
class Shelf:
    """All of the user's presets by name, and what undo and redo would do."""

    presets: tuple[KeptPreset, ...]
    undo_label: str | None
    redo_label: str | None


class PresetShelf:
    """reading, writing: transactions on the database."""

    def __init__(self, reading: Door, writing: Door) -> None:
        self._reading = reading
        self._writing = writing

    def all(self) -> Shelf:
        """Everything."""
        with self._reading() as connection:
            rows = connection.execute(select(PresetRow.key, PresetRow.document)).all()
            done, undone = _next_steps(connection)
        kept = sorted(
            (_read_preset(key, text) for key, text in rows),
            key=lambda each: (each.preset.name.casefold() if each.preset else "", each.key),
        )
        return Shelf(tuple(kept), done.label if done else None, undone.label if undone else None)

    def get(self, key: str) -> KeptPreset:
        """One, shipped or the user's own. Raises NotFound."""
        shipped = shipped_presets().get(key)
        if shipped is not None:
            return KeptPreset(key, shipped, shipped.fingerprint)
        with self._reading() as connection:
            return _read_preset(key, _document(connection, key))

    def raw(self, key: str) -> str:
        """Return the stored text of a preset, even if it is unreadable. Raises NotFound."""
        if key in shipped_presets():
            return write_preset(shipped_presets()[key])
        with self._reading() as connection:
            return _document(connection, key)

    def add(self, preset: Preset, said: str = "Save", rename: bool = False) -> KeptPreset:
        """Return a new one. A name that is taken is refused (BadInput), or counted on when it may be."""
        key = f"own-{secrets.token_hex(6)}"
        with self._writing() as connection:
            if connection.execute(select(func.count()).select_from(PresetRow)).scalar_one() >= MOST_PRESETS:
                raise BadInput(f"there are {MOST_PRESETS} custom presets already; delete some first")
            taken = _names(connection)
            if preset.name.casefold() in taken:
                if not rename:
                    raise _name_taken(preset.name)
                stem = preset.name[:110]
                preset = preset.replace(name=free_name(stem, _AnyCase(taken | {stem.casefold()}), " "))
            text = write_preset(preset)
            _check_room(connection, key, text)
            _step(connection, key, f"{said} preset “{preset.name}”", None, text)
        return KeptPreset(key, preset, preset.fingerprint)

    def change(self, key: str, base: str, preset: Preset) -> KeptPreset:
        """Replace a document that was `base`.

        Raises NotFound, Conflict, BadInput for a name that is taken.
        """
        with self._writing() as connection:
            before = _document(connection, key)
            old = _checked(_read_preset(key, before), base)
            if preset.name.casefold() in _names(connection, but=key):
                raise _name_taken(preset.name)
            if preset != old.preset:
                text = write_preset(preset)
                _check_room(connection, key, text)
                _step(connection, key, f"Change preset “{preset.name}”", before, text)
        return KeptPreset(key, preset, preset.fingerprint)

    def remove(self, key: str, base: str) -> None:
        """Remove a preset. Raises NotFound, Conflict."""
        with self._writing() as connection:
            before = _document(connection, key)
            old = _checked(_read_preset(key, before), base)
            _step(connection, key, f"Delete preset “{old.preset.name if old.preset else key}”", before, None)

    def undo(self) -> None:
        """Undo the last step, if there is one."""
        with self._writing() as connection:
            step, _ = _next_steps(connection)
            if step is not None:
                _store_document(connection, step.key, step.before)
                connection.execute(update(PresetStepRow).where(PresetStepRow.id == step.id).values(undone=True))

    def redo(self) -> None:
        """Redo the last undone step, if there is one."""
        with self._writing() as connection:
            _, step = _next_steps(connection)
            if step is not None:
                _store_document(connection, step.key, step.after)
                connection.execute(update(PresetStepRow).where(PresetStepRow.id == step.id).values(undone=False))


@dataclass(frozen=True, slots=True)
class _Step:
    id: int
    key: str
    label: str
    before: str | None
    after: str | None


@lru_cache(maxsize=MOST_PRESETS + 200)
def _read_preset(key: str, text: str) -> KeptPreset:
    try:
        preset = read_preset(text)
    except DocumentError as error:
        return KeptPreset(key, None, _UNREADABLE, str(error))
    return KeptPreset(key, preset, preset.fingerprint)


def _document(connection: Connection, key: str) -> str:
    text: str | None = connection.execute(select(PresetRow.document).where(PresetRow.key == key)).scalar()
    if text is None:
        raise NotFound(f"there is no custom preset {key!r}; it may have been deleted")
    return text


class _AnyCase:
    """Case-insensitive set of used names."""

    def __init__(self, folded: set[str]) -> None:
        self._folded = folded

    def __contains__(self, name: object) -> bool:
        return str(name).casefold() in self._folded


def _names(connection: Connection, but: str = "") -> set[str]:
    own = connection.scalars(select(PresetRow.name).where(PresetRow.key != but))
    return {name.casefold() for name in (*own, *(preset.name for preset in shipped_presets().values()))}


def _check_room(connection: Connection, key: str, text: str) -> None:
    others = connection.execute(
        select(func.coalesce(func.sum(func.length(PresetRow.document)), 0)).where(PresetRow.key != key)
    ).scalar_one()
    if others + len(text) > MOST_BYTES:
        raise BadInput(
            f"custom presets can have up to {MOST_BYTES // 2**20} MB together, and this one would "
            f"make them {(others + len(text)) / 2**20:.1f}; delete some first"
        )


def _name_taken(name: str) -> BadInput:
    return BadInput(f"a preset is called “{name}” already; take another name", "name")


def _checked(kept: KeptPreset, base: str) -> KeptPreset:
    if kept.content != base:
        raise Conflict(
            "this preset was changed elsewhere and was reloaded; check it and try again",
            {"content": kept.content},
        )
    return kept


def _store_document(connection: Connection, key: str, document: str | None) -> None:
    connection.execute(delete(PresetRow).where(PresetRow.key == key))
    if document is not None:
        preset = _read_preset(key, document).preset
        connection.execute(insert(PresetRow).values(key=key, name=preset.name if preset else "", document=document))


def _step(connection: Connection, key: str, label: str, before: str | None, after: str | None) -> None:
    connection.execute(delete(PresetStepRow).where(PresetStepRow.undone))
    row = {
        "key": key,
        "label": label[:_LABEL_LENGTH],
        "before": before,
        "after": after,
        "undone": False,
        "created_at": now(),
    }
    newest = connection.execute(insert(PresetStepRow).values(**row)).inserted_primary_key
    if newest is not None:
        connection.execute(delete(PresetStepRow).where(PresetStepRow.id <= newest[0] - _KEPT_STEPS))
    _store_document(connection, key, after)


def _next_steps(connection: Connection) -> tuple[_Step | None, _Step | None]:
    """Return the labels of the next undo and redo."""
    columns = select(
        PresetStepRow.id, PresetStepRow.key, PresetStepRow.label, PresetStepRow.before, PresetStepRow.after
    )
    done = connection.execute(columns.where(~PresetStepRow.undone).order_by(PresetStepRow.id.desc()).limit(1)).first()
    undone = connection.execute(columns.where(PresetStepRow.undone).order_by(PresetStepRow.id).limit(1)).first()
    return (_Step(*done) if done else None, _Step(*undone) if undone else None)
