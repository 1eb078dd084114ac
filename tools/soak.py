"""`make soak`: drags, edits, imports and exports for some minutes; the server's memory stays where it is allowed to be,
and edits stay quick.

Somebody drags a swing in a shot of 2,000 frames and 20 layers, keeps every tenth, looks about in a shot of 100,000
frames, brings in camera paths, and exports both. The largest resident size of the server process counts, and how long
an edit takes meanwhile.
"""

from __future__ import annotations

import argparse
import json
import sys
import tempfile
import time
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from tests.web.harness import Server
from tools.traffic import ask, send_file, size_mb
from zittern.bench import big_shot
from zittern.store.library import Library

__all__ = ["MOST_MB", "Report", "run"]

MOST_MB = 400
_EXPORT_EVERY = 150
_IMPORT_EVERY = 100
_IMPORTED_FRAMES = 2000
_FORMATS = ("csv", "glb", "gltf", "shot")


@dataclass
class Report:
    """What was done, and how large the server was."""

    seconds: float = 0.0
    drags: int = 0
    edits: int = 0
    exports: int = 0
    imports: int = 0
    edit_p50_ms: float = 0.0
    edit_p99_ms: float = 0.0
    start_mb: float = 0.0
    most_mb: float = 0.0
    end_mb: float = 0.0


def run(seconds: float, long_frames: int = 100_000, least_drags: int = 0) -> Report:
    """Works for so long, but no less than so many drags, and ends with six exports of the long shot."""
    report = Report()
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder)
        with closing(Library(data)) as library:
            library.add_project("Soak")
            library.add_shot("soak", big_shot(2000, 20), slug="usual")
            library.add_shot("soak", big_shot(long_frames), slug="long")
        server = Server(data, "serve")
        try:
            report.start_mb = size_mb(server.process.pid)
            _work(server, seconds, least_drags, report)
            for n in range(6):
                _export(server.url, "long", _FORMATS[n % 3], report)
            report.end_mb = size_mb(server.process.pid)
            report.most_mb = max(report.most_mb, size_mb(server.process.pid, "VmHWM"))
        finally:
            server.stop()
    return report


def _work(server: Server, seconds: float, least_drags: int, report: Report) -> None:
    took_s: list[float] = []
    url, started, revision = server.url, time.monotonic(), ask(f"{server.url}api/shots/usual")["revision"]
    while time.monotonic() - started < seconds or report.drags < least_drags:
        swing = 0.5 + (report.drags % 100) / 100
        command = {
            "type": "set_values",
            "values": [{"at": f"layer:layer-{report.drags % 20}.axes.pan.swing", "value": swing}],
        }
        ask(f"{url}api/shots/usual/motion", {"commands": [command], "frame": 1}, raw=True)
        report.drags += 1
        if report.drags % 10 == 0:
            asked_s = time.monotonic()
            revision = ask(f"{url}api/shots/usual/edits", {"base_revision": revision, "command": command})["revision"]
            took_s.append(time.monotonic() - asked_s)
            report.edits += 1
            ask(f"{url}api/shots/long/motion", {"frame": (report.drags * 997) % 100_000, "window": [1, 4000]}, raw=True)
        if report.drags % _EXPORT_EVERY == 0:
            _export(url, "usual", _FORMATS[report.exports % 4], report)
        if report.drags % _IMPORT_EVERY == 0:
            _import(url, report)
    report.seconds = round(time.monotonic() - started, 1)
    if took_s:
        report.edit_p50_ms, report.edit_p99_ms = (
            round(float(each) * 1e3, 1) for each in np.percentile(took_s, (50, 99))
        )


def _import(url: str, report: Report) -> None:
    """A camera path as a new shot, which is then deleted."""
    rows = [f"{n + 1},{0.01 * n:.3f},1.6,0,{0.02 * n:.3f},0,0,35" for n in range(_IMPORTED_FRAMES)]
    text = "\n".join(["frame,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm", *rows]) + "\n"
    made = send_file(f"{url}api/projects/soak/imports", "path.csv", text.encode())
    ask(f"{url}api/shots/{made['state']['id']}", method="DELETE", raw=True)
    report.imports += 1


def _export(url: str, shot: str, format_: str, report: Report) -> None:
    job = ask(f"{url}api/shots/{shot}/exports", {"format": format_})
    while job["status"] == "working":
        time.sleep(0.05)
        job = ask(f"{url}api/exports/{job['id']}")
    if job["status"] != "done":
        raise AssertionError(f"the export of {shot} as {format_} {job['status']}: {job['problem']}")
    ask(f"{url}api/exports/{job['id']}/file", raw=True)
    report.exports += 1


def main() -> int:
    """0 when the server stayed small enough."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=600.0)
    given = parser.parse_args()
    report = run(given.seconds)
    print(json.dumps({**vars(report), "allowed_mb": MOST_MB}, indent=1))
    return 1 if report.most_mb > MOST_MB else 0


if __name__ == "__main__":
    sys.exit(main())
