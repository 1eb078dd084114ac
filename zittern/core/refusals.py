"""Messages for values that pydantic rejects."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

__all__ = ["in_words"]

_WHOLE, _NUMBER, _TEXT = "expected a whole number", "expected a number", "expected text"
_FIELDS, _LIST, _YES_OR_NO = "expected an object with fields", "expected a list", "expected true or false"
# By pydantic's kind of fault, with what it knows of it in braces.
_WORDS: Mapping[str, str] = {
    "missing": "a value is missing here",
    "extra_forbidden": "there is no such field",
    "greater_than": "expected more than {gt:.16g}",
    "greater_than_equal": "expected at least {ge:.16g}",
    "less_than": "expected less than {lt:.16g}",
    "less_than_equal": "expected {le:.16g} or less",
    "int_type": _WHOLE,
    "int_parsing": _WHOLE,
    "int_from_float": _WHOLE,
    "int_parsing_size": "expected a whole number of fewer digits",
    "float_type": _NUMBER,
    "float_parsing": _NUMBER,
    "finite_number": "expected a finite number",
    "bool_type": _YES_OR_NO,
    "bool_parsing": _YES_OR_NO,
    "string_type": _TEXT,
    "string_unicode": "expected text of whole characters",
    "string_too_short": "expected a text of at least {min_length}",
    "string_too_long": "expected a text of up to {max_length} characters",
    "string_pattern_mismatch": "expected a text like {pattern}",
    "literal_error": "expected {expected}",
    "enum": "expected {expected}",
    "union_tag_invalid": "there is no {discriminator} {tag!r}; there are {expected_tags}",
    "union_tag_not_found": "{discriminator} is missing here",
    "model_type": _FIELDS,
    "model_attributes_type": _FIELDS,
    "dict_type": _FIELDS,
    "list_type": _LIST,
    "tuple_type": _LIST,
    "too_short": "expected at least {min_length}, got {actual_length}",
    "too_long": "expected {max_length} or fewer, got {actual_length}",
    "json_invalid": "this is not JSON: {error}",
}
# Longer values are not repeated in messages.
_MOST_TOLD = 60
# Longer lists of allowed values are shortened.
_MOST_LISTED = 200
# The input adds nothing to these messages.
_NEVER_TOLD = frozenset({"missing", "extra_forbidden", "json_invalid"})


def in_words(fault: Mapping[str, Any]) -> str:
    """Return the message of one error of `ValidationError.errors()`, with short inputs quoted."""
    words = _WORDS.get(fault["type"])
    known = {name: _short(value) for name, value in fault.get("ctx", {}).items()}
    text = str(fault["msg"]).removeprefix("Value error, ") if words is None else words.format(**known)
    told = _value_text(fault.get("input"))
    return text if not told or fault["type"] in _NEVER_TOLD or ", got " in text else f"{text}, got {told}"


def _short(value: object) -> object:
    """Shorten long lists of allowed values."""
    if not isinstance(value, str) or len(value) <= _MOST_LISTED:
        return value
    return f"{value[:_MOST_LISTED].rpartition(',')[0]} and more" if "," in value else f"{value[:_MOST_LISTED]}…"


def _value_text(got: object) -> str:
    """Return a short value, as it would be typed; nothing for others."""
    long = (isinstance(got, str) and len(got) > _MOST_TOLD) or (isinstance(got, int) and abs(got) >= 10**_MOST_TOLD)
    if long or not isinstance(got, (int, float, str)):
        return ""
    told = repr(got)
    return told if len(told) <= _MOST_TOLD else ""
