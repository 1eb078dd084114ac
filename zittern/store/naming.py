"""Names of projects and shots, and their slugs for addresses."""

from __future__ import annotations

import re
import unicodedata

from sqlalchemy import Connection, select

from zittern.core.errors import BadInput
from zittern.core.shot.ids import free_name
from zittern.store.tables import ProjectRow, ShotRow

__all__ = ["clean_name", "free_slug", "slug_of"]


def slug_of(name: str) -> str:
    """Return a name for addresses: lower case, letters, digits and dashes."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "untitled"


def clean_name(name: str) -> str:
    """Return a name in its stored form. Raises BadInput."""
    cleaned = name.strip()
    if not cleaned or len(cleaned) > 120:
        raise BadInput("a name has 1 to 120 characters", "name")
    return cleaned


def free_slug(connection: Connection, table: type[ProjectRow] | type[ShotRow], wanted: str) -> str:
    """Return a free slug, with a number appended if the requested one is taken."""
    taken = set(connection.scalars(select(table.slug).where(table.slug.startswith(wanted, autoescape=True))))
    return free_name(wanted, taken)
