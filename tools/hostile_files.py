"""`make hostile-files`: good files of every kind that is read, spoilt at random, and what comes of reading them.

A file gives what it should, and all of its numbers finite, or a fault in words. Anything else is a failure: another
exception, more time than promised. The same seed spoils the same way.

python -m tools.hostile_files --count 5000 --seed 1
"""

from __future__ import annotations

import argparse
import io
import json
import random
import re
import struct
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

import zittern.demo
from zittern.bench import big_shot
from zittern.core.edits.presets import PlacePreset
from zittern.core.errors import BadInput
from zittern.core.motion.evaluate import evaluate
from zittern.core.presets.files import read_preset, write_preset
from zittern.core.shot.shot import Shot
from zittern.core.timebase import Fps
from zittern.formats import cue_csv, set_file, shot_json, take_file
from zittern.formats.files import no_sidecars
from zittern.formats.opening import open_shot
from zittern.formats.table import written
from zittern.project_file import pack, read_project
from zittern.store.library import Library
from zittern.store.sets import add_set
from zittern.store.shipped import shipped_presets

__all__ = ["KINDS", "Report", "run"]

MOST_S = 2.0
SETS = Path(zittern.demo.__file__).parent / "sets"
_FRAMES = 40
_VALUES = (
    "NaN", "Infinity", "-Infinity", "1e308", "-1e308", "1e999", "9223372036854775808", "-0", "-1", "0", "1e-320",
    "null", "true", '"x"', "[]", "{}", "[[[[[[[[]]]]]]]]", "9" * 4000, '"\\ud800"', "4294967295",
)  # fmt: skip
_BYTES = (b"", b"\0", b"\xff", b",", b"\n", b'"', b"{", b"]", b"\xed\xa0\x80", b"\xef\xbb\xbf", b";", b"nan", b"inf")


@dataclass
class Report:
    """What came of it. kinds: how many of each kind were read to the end."""

    tried: int = 0
    read: Counter[str] = field(default_factory=Counter)
    faults: int = 0
    failures: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    slowest: str = ""

    def as_dict(self) -> dict[str, object]:
        """For printing."""
        return {
            "files": self.tried, "read": dict(self.read), "faults": self.faults, "failed": len(self.failures),
            "failures": self.failures[:20], "slowest_ms": round(self.slowest_s * 1e3), "slowest": self.slowest,
        }  # fmt: skip


def _path(ending: str) -> Callable[[bytes], object]:
    def read(data: bytes) -> object:
        return _moves(open_shot(f"x{ending}", data, no_sidecars, None, Fps(num=24)).shot)

    return read


def _shot(data: bytes) -> object:
    return _moves(shot_json.read(data))


def _moves(shot: Shot) -> object:
    if shot.frame_count > 1000:
        return []
    motion = evaluate(shot)
    return [motion.pose.position_m, motion.pose.angles_deg, motion.pose.focal_mm]


def _take(name: str) -> Callable[[bytes], object]:
    return lambda data: take_file.read_take(data, name).model_dump_json()


def _project(shot: Shot) -> bytes:
    """A project file with one shot, and a preset and a set that it uses."""
    with tempfile.TemporaryDirectory() as folder, closing(Library(Path(folder))) as library:
        project = library.add_project("Hostile")
        key = library.presets.add(shipped_presets()["thud"].replace(name="Own thud")).key
        set_id = add_set(library.data_dir, library.workspace, "kite", (SETS / "saltmarsh-kite.glb").read_bytes())
        placed = PlacePreset(preset=shipped_presets()["thud"], key=key).apply(shot.replace(set_id=set_id))
        library.add_shot(project.slug, placed)
        file = io.BytesIO()
        pack(library, project.slug, file)
    return file.getvalue()


def _zipped(parts: dict[str, bytes]) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    return file.getvalue()


def _read_project(data: bytes) -> object:
    _, shots, _ = read_project(io.BytesIO(data))
    return [_moves(shot) for shot in shots.values()]


def _good() -> dict[str, tuple[bytes, Callable[[bytes], object]]]:
    """A good file of each kind, and what reads it and gives its numbers."""
    shot: Shot = big_shot(_FRAMES, 3)
    motion = evaluate(shot)
    times = np.arange(0.0, 4.0, 0.05)
    take = take_file.write_take(times, {"pan_deg": np.sin(times), "truck_cm": np.cos(times)}).encode()
    rows = [{"time_s": float(t), "pan_deg": float(np.sin(t))} for t in times]
    project = _project(shot)
    with zipfile.ZipFile(io.BytesIO(project)) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    cues = b"frame,name,strength\n" + b"".join(b"%d,door %d,1.5\n" % (n, n) for n in range(1, 30))
    return {
        "glb": (written("glb", shot, motion), _path(".glb")),
        "gltf": (written("gltf", shot, motion), _path(".gltf")),
        "csv": (written("csv", shot, motion), _path(".csv")),
        "shot": (written("shot", shot, motion), _shot),
        "preset": (
            write_preset(shipped_presets()["run"]).encode(),
            lambda data: write_preset(read_preset(data)),
        ),
        "take": (take, _take("take.csv")),
        "take-json": (json.dumps(rows).encode(), _take("take.json")),
        "cues": (cues, lambda data: [cue.model_dump_json() for cue in cue_csv.read_cues(data, shot)]),
        "set": ((SETS / "saltmarsh-kite.glb").read_bytes(), set_file.check_set),
        "project": (project, _read_project),
        "index": (parts["project.json"], lambda data: _read_project(_zipped(parts | {"project.json": data}))),
    }


KINDS = ("glb", "gltf", "csv", "shot", "preset", "take", "take-json", "cues", "set", "project", "index")


def _spoilt(data: bytes, rng: random.Random) -> bytes:
    """One to four changes: bytes put in, taken out, turned over; a number in text made hostile; cut off; doubled."""
    for _ in range(rng.choice((1, 1, 1, 2, 4))):
        at = rng.randrange(len(data) + 1)
        kind = rng.random()
        if kind < 0.25:
            data = data[:at] + rng.choice(_BYTES) + data[at + rng.choice((0, 1, 4)) :]
        elif kind < 0.5:
            numbers = list(re.finditer(rb"(?<=[:,\[\n])-?\d+(?:\.\d+)?(?:e-?\d+)?(?=[,\]}\n\r])", data))
            if numbers:
                found = rng.choice(numbers)
                data = data[: found.start()] + rng.choice(_VALUES).encode() + data[found.end() :]
        elif kind < 0.65:
            data = data[:at]
        elif kind < 0.75:
            data = data[:at] + data[at // 2 : at] + data[at:]
        elif kind < 0.85 and len(data) > 4:
            place = rng.randrange(len(data) - 4)
            word = struct.pack("<I", rng.choice((0, 1, 0x7FFFFFFF, 0xFFFFFFFF, rng.getrandbits(32))))
            data = data[:place] + word + data[place + 4 :]
        elif data:
            place = min(at, len(data) - 1)
            data = data[:place] + bytes([data[place] ^ (1 << rng.randrange(8))]) + data[place + 1 :]
    return data


def _finite(found: object) -> bool:
    if isinstance(found, (list, tuple)):
        return all(map(_finite, found))
    return not isinstance(found, (float, np.ndarray)) or bool(np.all(np.isfinite(found)))


def run(count: int, seed: int = 1, most_s: float = MOST_S) -> Report:
    """Reads so many spoilt files, the kinds in turn."""
    report, good = Report(), _good()
    for number in range(count):
        kind = KINDS[number % len(KINDS)]
        data, read = good[kind]
        spoilt = _spoilt(data, random.Random(f"{seed}/{number}"))
        began_s = time.process_time()
        try:
            found = read(spoilt)
            if _finite(found):
                report.read[kind] += 1
            else:
                report.failures.append(f"{kind} {number}: a number that is not finite")
        except BadInput:
            report.faults += 1
        except Exception as error:  # noqa: BLE001 (whatever else comes of a file is what is looked for)
            report.failures.append(f"{kind} {number}: {type(error).__name__}: {str(error)[:200]}")
        took_s = time.process_time() - began_s
        report.tried += 1
        if took_s > report.slowest_s:
            report.slowest_s, report.slowest = took_s, f"{kind} {number}"
        if took_s > most_s:
            report.failures.append(f"{kind} {number}: {took_s:.1f} s")
    return report


def main() -> int:
    """Exit code 1 when something failed."""
    options = argparse.ArgumentParser(description="Reads spoilt files of every kind.")
    options.add_argument("--count", type=int, default=5000)
    options.add_argument("--seed", type=int, default=1)
    given = options.parse_args()
    report = run(given.count, given.seed)
    sys.stdout.write(json.dumps(report.as_dict(), indent=2) + "\n")
    return 1 if report.failures else 0


if __name__ == "__main__":
    raise SystemExit(main())
