"""Documents with one field per axis, derived from the table of axes."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import create_model

from zittern.core.axes import AXIS_INFO, AxisInfo
from zittern.core.documents.doc import Doc

__all__ = ["fields_by_axis"]


def fields_by_axis(field: Callable[[AxisInfo], tuple[Any, Any]]) -> Any:
    """Return a base class of documents with a field for each axis.

    Parameters
    ----------
    field : returns the type and the default of the field of an axis.
    """
    fields: dict[str, Any] = {info.name: field(info) for info in AXIS_INFO}
    return create_model("ByAxis", __base__=Doc, **fields)
