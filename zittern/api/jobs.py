"""Exports in the background, with progress and cancel."""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict
from dataclasses import dataclass, field
from typing import Literal

from zittern.core.errors import NotFound, ZitternError
from zittern.core.evaluate import evaluate_in_parts, joined
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.formats.table import Format

__all__ = ["ExportJob", "ExportJobs"]

# Evaluation is most of the work; the rest is writing the file.
_EVALUATION_SHARE = 0.9
_MOST_KEPT = 20


@dataclass
class ExportJob:
    """One export. `result` is there once status is done."""

    id: str
    filename: str
    format: Format
    status: Literal["working", "done", "failed", "cancelled"] = "working"
    progress: float = 0.0
    problem: str | None = None
    result: bytes = b""
    cancelled: threading.Event = field(default_factory=threading.Event)

    def run(self, shot: Shot, step: float) -> None:
        """Does the work on the calling thread."""
        try:
            frames = frame_grid(shot.first_frame, shot.last_frame, step)
            parts = []
            for part in evaluate_in_parts(shot, frames):
                if self.cancelled.is_set():
                    self.status = "cancelled"
                    return
                parts.append(part)
                self.progress = _EVALUATION_SHARE * sum(len(each.frames) for each in parts) / len(frames)
            assert self.format.write is not None
            self.result = self.format.write(shot, joined(parts))
            self.progress = 1.0
            self.status = "cancelled" if self.cancelled.is_set() else "done"
        except (ZitternError, MemoryError, ValueError) as error:
            self.problem = str(error) or "not enough memory"
            self.status = "failed"


class ExportJobs:
    """The exports of this server, the newest kept until fetched."""

    def __init__(self) -> None:
        self._jobs: OrderedDict[str, ExportJob] = OrderedDict()
        self._lock = threading.Lock()

    def start(self, shot: Shot, filename: str, format_: Format, step: float) -> ExportJob:
        """Begins an export."""
        job = ExportJob(secrets.token_hex(8), filename, format_)
        with self._lock:
            self._jobs[job.id] = job
            while len(self._jobs) > _MOST_KEPT:
                self._jobs.popitem(last=False)[1].cancelled.set()
        threading.Thread(target=job.run, args=(shot, step), name=f"export-{job.id}", daemon=True).start()
        return job

    def get(self, job_id: str) -> ExportJob:
        """Raises NotFound."""
        with self._lock:
            if job_id not in self._jobs:
                raise NotFound("this export is gone; start it again")
            return self._jobs[job_id]
