"""Makes the sample cut of the demo project. Run by `make cuts`; a test compares the file with its result."""

from __future__ import annotations

from pathlib import Path

import opentimelineio as otio

import zittern.demo
from tools.demo.shots import SHOTS

__all__ = ["CUT", "main", "sample_cut"]

CUT = Path(zittern.demo.__file__).parent / "cuts" / "saltmarsh-post.otio"

# For each shot: the first shown frame, counted from the shot's own, the number of frames, and the speed.
_SHOWN = (
    ("jetty-walk", 12, 96, 1.0),
    ("mast-fall", 20, 60, 0.5),
    ("kite-pass", 0, 120, 1.0),
    ("sled-run", 20, 64, 2.0),
)


def sample_cut() -> str:
    """Return an OpenTimelineIO document: four shots one after another, one slowed down, one sped up."""
    track = otio.schema.Track("Picture", kind="Video")
    for slug, start, count, speed in _SHOWN:
        shot = SHOTS[slug]()
        rate = shot.fps.value
        media = otio.schema.ExternalReference(
            target_url=f"{slug}.mov",
            available_range=otio.opentime.TimeRange(
                otio.opentime.RationalTime(0, rate), otio.opentime.RationalTime(shot.frame_count, rate)
            ),
        )
        shown = otio.opentime.TimeRange(
            otio.opentime.RationalTime(start, rate), otio.opentime.RationalTime(count, rate)
        )
        clip = otio.schema.Clip(slug, media_reference=media, source_range=shown)
        if speed != 1.0:
            clip.effects.append(otio.schema.LinearTimeWarp("speed", time_scalar=speed))
        track.append(clip)
    timeline = otio.schema.Timeline("Saltmarsh Post")
    timeline.tracks.append(track)
    return str(otio.adapters.write_to_string(timeline, "otio_json")) + "\n"


def main() -> None:
    """Write the file."""
    CUT.write_text(sample_cut(), encoding="utf-8")


if __name__ == "__main__":
    main()
