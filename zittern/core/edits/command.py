"""Base of all commands."""

from __future__ import annotations

import re
from inspect import get_annotations
from typing import Any, ClassVar, Literal

from zittern.core.documents.doc import Doc
from zittern.core.edits.titles import FIELD_TITLES
from zittern.core.shot.shot import Shot

__all__ = ["COMMANDS", "CommandDoc"]

_BEFORE_CAPITAL = re.compile(r"(?<!^)(?=[A-Z])")


class CommandDoc(Doc):
    """A command: pure, typed, with a readable label.

    A subclass that defines `apply` is a separate command: its `type` is the class name in snake case, and it is
    registered in `COMMANDS`. Its label is declared with the class, as in `label="Remove clip {clip}"`; one that depends
    on more overrides `label`. everywhere: the command edits all variants, not only the one in the shot.
    """

    everywhere: ClassVar[bool] = False
    _label: ClassVar[str] = ""

    type: str = ""

    def __init_subclass__(cls, label: str = "", **options: Any) -> None:
        """Register the command with its type and label."""
        super().__init_subclass__(**options)
        cls._label = label
        if "apply" in cls.__dict__:
            name = _BEFORE_CAPITAL.sub("_", cls.__name__).lower()
            cls.__annotations__ = {**get_annotations(cls), "type": Literal[name]}
            cls.type = name
            COMMANDS[name] = cls

    def apply(self, shot: Shot) -> Shot:
        """Return the changed shot. Raises EditError."""
        raise NotImplementedError

    def label(self, shot: Shot) -> str:
        """Return the label of the undo step. shot: the one before."""
        return self._label.format_map(_Titles(self, shot))


# Every command by its `type`, filled as classes are defined.
COMMANDS: dict[str, type[CommandDoc]] = {}


class _Titles:
    """Fields of a command by name for a label, those that hold ids or addresses as titles."""

    def __init__(self, command: CommandDoc, shot: Shot) -> None:
        self._command = command
        self._shot = shot

    def __getitem__(self, name: str) -> object:
        value = getattr(self._command, name)
        title = FIELD_TITLES.get(name)
        return value if title is None else title(self._shot, value)
