"""The motion of a shot as binary float32, commands tried on included."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from fastapi import APIRouter
from fastapi.responses import Response

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.motion import HandlesIn, HandlesOut, MotionHead, MotionIn, SpectrumOut
from zittern.api.packet import pack_motion
from zittern.api.timing import Timing
from zittern.api.variant_shot import Seen
from zittern.core.edits.address import number_at, scope_of
from zittern.core.edits.keys import handles_of
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.motion.sampled import CLOSE_FRAMES, MOST_WHOLE_FRAMES
from zittern.core.readings.point_readings import read
from zittern.core.readings.spectrum import bands_px
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

router = APIRouter(prefix="/api/shots/{shot}", tags=["motion"], route_class=JsonRoute)


@router.post("/motion", response_class=Response, responses={200: {"content": {"application/octet-stream": {}}}})
def get_motion(shot: str, body: MotionIn, ctx: Ctx, seen: Seen) -> Response:
    """Return a motion packet: only the arrays that the page does not have yet."""
    timing = Timing()
    state = seen.state(shot)
    document = state.document if body.revision is None else ctx.library.document(shot, body.revision, seen.variant)
    for command in body.commands:
        document = apply(document, command)
    timing.mark("apply")
    sampled = ctx.sampled(document, body.frame, body.window)
    timing.mark("evaluate")
    curves = {
        f"curve:{address}": samples[:, None] for address, samples in _curves(document, body.curves, sampled.frames)
    }
    readings = read(
        document, sampled.near, body.frame, sampled.whole, ctx.cache, _in_view(document, body), body.loop,
        passing=bool(body.commands),
    )  # fmt: skip
    timing.mark("read")
    packet = pack_motion(document, sampled, state, readings, body, curves)
    timing.mark("pack")
    return Response(packet, media_type="application/octet-stream", headers=timing.headers())


def _in_view(document: Shot, body: MotionIn) -> tuple[float, float] | None:
    """Return the frames in view of a long shot; of others all count."""
    if document.frame_count <= MOST_WHOLE_FRAMES:
        return None
    return body.window or (body.frame, body.frame + CLOSE_FRAMES)


def _curves(document: Shot, addresses: Iterable[str], frames: Array) -> Iterator[tuple[str, Array]]:
    """Yield samples of numbers.

    Missing ones are skipped, since the page may still show a part that was just removed.
    """
    for address in addresses:
        try:
            yield address, number_at(document, address).sample(scope_of(document, address, frames))
        except EditError:
            continue


@router.post("/handles")
def get_handles(shot: str, body: HandlesIn, seen: Seen) -> HandlesOut:
    """Return the handles of curves at keys, for drawing. Nothing is changed."""
    return HandlesOut(handles=handles_of(seen.document(shot), body.keys))


@router.get("/motion/header", include_in_schema=True)
def get_motion_header(shot: str, ctx: Ctx, seen: Seen) -> MotionHead:
    """Return the header alone, without any array: for scripts, and so that the page's types know it."""
    state = seen.state(shot)
    document = state.document
    first = float(document.first_frame)
    sampled = ctx.sampled(document, first)
    return MotionHead(
        revision=state.revision, first_frame=document.first_frame, last_frame=document.last_frame,
        rows=len(sampled.frames),
        exact=list(sampled.exact), close_frames=CLOSE_FRAMES, arrays=[], layers=[],
        readings=read(document, sampled.near, first, sampled.whole),
    )  # fmt: skip


@router.get("/spectrum/{layer}")
def get_spectrum(shot: str, layer: str, ctx: Ctx, seen: Seen) -> SpectrumOut:
    """Return the spectrum of a layer and of the sum of all active ones."""
    document = seen.document(shot)
    rate_hz, layer_px, sum_px = bands_px(document, ctx.stretches(document), layer)
    return SpectrumOut(rate_hz=rate_hz.tolist(), layer_px=layer_px.tolist(), sum_px=sum_px.tolist())
