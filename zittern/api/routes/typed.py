"""Texts typed into numbers, parsed by the core."""

from __future__ import annotations

from fastapi import APIRouter

from zittern.api.context import JsonRoute
from zittern.api.models.typed import FrameIn, TypedIn, TypedManyIn, TypedManyOut, TypedOut, TypedPlace
from zittern.api.variant_shot import Seen
from zittern.core.edits.typing import field_at, frame_from
from zittern.core.formula.arithmetic import Field, evaluate_expression
from zittern.core.formula.fault import FormulaFault

router = APIRouter(prefix="/api/arithmetic", tags=["tables"], route_class=JsonRoute)


@router.post("")
def work_out(body: TypedIn, seen: Seen) -> TypedOut:
    """Parse a text typed into a field as a number in the unit of the field."""
    try:
        return TypedOut(value=evaluate_expression(body.text, body.before, _field(body, seen)))
    except FormulaFault as fault:
        return TypedOut(value=None, fault=fault.message, start=fault.start, stop=fault.stop)


@router.post("/many")
def work_out_many(body: TypedManyIn, seen: Seen) -> TypedManyOut:
    """Parse many pasted texts; the first error ends it."""
    field = _field(body, seen)
    values: list[float] = []
    for number, text in enumerate(body.texts):
        try:
            values.append(evaluate_expression(text, 0.0, field))
        except FormulaFault as fault:
            return TypedManyOut(values=[], wrong=number, fault=fault.message)
    return TypedManyOut(values=values)


@router.post("/frame")
def work_out_frame(body: FrameIn, seen: Seen) -> TypedOut:
    """Parse a text as a frame of a shot: a frame, a time, the name of a cue, or an offset from a frame."""
    try:
        return TypedOut(value=frame_from(seen.document(body.shot), body.text, body.frame))
    except FormulaFault as fault:
        return TypedOut(value=None, fault=fault.message, start=fault.start, stop=fault.stop)


def _field(place: TypedPlace, seen: Seen) -> Field:
    if place.shot is None:
        return Field(place.unit, place.fps)
    return field_at(seen.document(place.shot), place.at, place.unit, place.frame)
