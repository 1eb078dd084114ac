"""Base of all documents: frozen, strict about fields and numbers, with a fingerprint of their content."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator
from functools import cache, cached_property
from typing import Annotated, Any, ClassVar, Self, TypeVar, get_args

from pydantic import BaseModel, ConfigDict, StringConstraints

from zittern.core.errors import DocumentError, faults_as

__all__ = ["Doc", "Id", "Label", "changed_within", "digest", "document_fields", "parts", "rebuilt"]

D = TypeVar("D", bound="Doc")

Id = Annotated[str, StringConstraints(pattern=r"^[A-Za-z][A-Za-z0-9_-]{0,39}$")]
Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class Doc(BaseModel):
    """A frozen value. Unknown fields, NaN and infinities are refused."""

    # Fields that do not affect motion: names, ids, locks, origin.
    motion_irrelevant: ClassVar[frozenset[str]] = frozenset()

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, ignored_types=(cached_property,))

    def __eq__(self, other: object) -> bool:
        """Compare by fields: cached values do not count."""
        if self is other:
            return True
        if type(self) is not type(other):
            return NotImplemented
        return all(getattr(self, name) == getattr(other, name) for name in type(self).model_fields)

    def replace(self, **changes: Any) -> Self:
        """Return a new document with some fields changed, checked; parts that did not change are shared.

        Raises DocumentError with the path of the field.
        """
        fields = {name: getattr(self, name) for name in type(self).model_fields} | changes
        with faults_as(DocumentError):
            return type(self)(**fields)

    @cached_property
    def fingerprint(self) -> str:
        """Hash of the content: equal documents have equal fingerprints."""
        return digest(self.model_dump_json())

    @cached_property
    def content_print(self) -> str:
        """Hash of the differences from the defaults: a new field with a default does not change it."""
        return digest(self.model_dump_json(exclude_defaults=True))

    @cached_property
    def motion_key(self) -> str:
        """Hash of all that affects motion: without `motion_irrelevant` fields, with the limits of its numbers."""
        fields = (name for name in type(self).model_fields if name not in self.motion_irrelevant)
        return digest(f"{type(self).__name__}({','.join(motion_text(getattr(self, name)) for name in fields)})")


@cache
def document_fields(kind: type[Doc]) -> tuple[str, ...]:
    """Return the fields of a kind of document that may hold others."""
    return tuple(name for name, field in kind.model_fields.items() if _may_be_document(field.annotation))


def parts(doc: Doc) -> Iterator[tuple[str | None, Doc]]:
    """Yield the documents directly in a document by field name; None for those in tuples."""
    for name in document_fields(type(doc)):
        value = getattr(doc, name)
        if isinstance(value, Doc):
            yield name, value
        elif isinstance(value, tuple):
            yield from ((None, each) for each in value if isinstance(each, Doc))


def rebuilt(doc: D, change: Callable[[Any], Any], **own: Any) -> D:
    """Return a document with the documents directly in it changed. What did not change is shared.

    Parameters
    ----------
    change: returns the new document for one in a field or in a tuple.
    own: values of fields that are left to the caller.
    """
    changes = {name: value for name, value in own.items() if value is not getattr(doc, name)}
    for name in document_fields(type(doc)):
        if name not in own and (changed := changed_within(value := getattr(doc, name), change)) is not value:
            changes[name] = changed
    return doc.replace(**changes) if changes else doc


def changed_within(value: Any, change: Callable[[Any], Any]) -> Any:
    """Return a value with a document, or each document in a tuple, changed; the same object if nothing changes."""
    if isinstance(value, Doc):
        return change(value)
    if not isinstance(value, tuple):
        return value
    changed = tuple(change(each) if isinstance(each, Doc) else each for each in value)
    return value if all(new is old for new, old in zip(changed, value, strict=True)) else changed


def _may_be_document(annotation: Any) -> bool:
    if isinstance(annotation, type) and not get_args(annotation):
        return issubclass(annotation, Doc)
    return any(map(_may_be_document, get_args(annotation)))


def motion_text(value: object) -> str:
    """Return the text of a value in a motion key."""
    if isinstance(value, Doc):
        return value.motion_key
    if isinstance(value, tuple):
        return f"({','.join(map(motion_text, value))})"
    return repr(value)


def digest(text: str) -> str:
    """Return a short hash of a text."""
    return hashlib.blake2b(text.encode("utf-8", "surrogatepass"), digest_size=12).hexdigest()
