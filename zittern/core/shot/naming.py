"""The names of dials, changed wherever a document has them."""

from __future__ import annotations

from functools import partial
from typing import TypeVar, cast

from zittern.core.documents.doc import Doc, changed_within, rebuilt
from zittern.core.numbers.param import Number, with_name
from zittern.core.shot.dials import Dial
from zittern.core.shot.origins import BroughtDial

__all__ = ["renamed"]

T = TypeVar("T")


def renamed(value: T, old: str, new: str, formulas_only: bool = False) -> T:
    """Return a document, or a tuple of them, with a name changed in every formula and in the dial that has it.

    Unaffected parts are shared.
    """
    return cast(T, changed_within(value, partial(_renamed, old=old, new=new, formulas_only=formulas_only)))


def _renamed(doc: Doc, old: str, new: str, formulas_only: bool) -> Doc:
    if isinstance(doc, Number):
        return with_name(doc, old, new)
    own = {}
    if isinstance(doc, (Dial, BroughtDial)) and doc.name == old and not formulas_only:
        own["name"] = new
    return rebuilt(doc, partial(_renamed, old=old, new=new, formulas_only=formulas_only), **own)
