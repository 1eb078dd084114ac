"""Exports in the background, one after another, into files; with progress and cancel.

A file is downloaded once or expires; a download that has started runs to its end.
"""

from __future__ import annotations

import logging
import os
import secrets
import shutil
import threading
import time
from collections import OrderedDict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from zittern.core.errors import NotFound, StoreBusy, ZitternError
from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import Shot
from zittern.formats.delivery import Delivery
from zittern.formats.table import Format
from zittern.store.faults import faults_of
from zittern.store.workspace import Workspace

__all__ = ["MOST_WAITING", "Busy", "ExportJob", "ExportJobs"]

# Exports that may wait in line, and finished ones that may wait to be fetched.
MOST_WAITING = 100
_KEPT_S = 900.0
# Small chunks: a request for a picture waits for only one of them.
_PART_FRAMES = 500
_MOST_PAUSE_S = 0.25


class Busy:
    """Count of requests that wait for an answer; background work pauses for them."""

    def __init__(self) -> None:
        self._count = 0
        self._lock = threading.Lock()
        self._idle = threading.Event()
        self._idle.set()

    def __enter__(self) -> None:
        """Count a request as waiting."""
        with self._lock:
            self._count += 1
            self._idle.clear()

    def __exit__(self, *_: object) -> None:
        """Count a request as answered."""
        with self._lock:
            self._count -= 1
            if self._count == 0:
                self._idle.set()

    def step_aside(self) -> None:
        """Wait until idle, up to a timeout."""
        self._idle.wait(_MOST_PAUSE_S)


class _Cancelled(Exception):
    """The client canceled the job."""


@dataclass
class ExportJob:
    """One export. `path` holds the file once status is done; `says`: what reduced keys lose."""

    id: str
    filename: str
    format: Format
    path: Path
    data_dir: Path
    status: Literal["working", "done", "failed", "cancelled"] = "working"
    progress: float = 0.0
    problem: str | None = None
    says: str | None = None
    ended_s: float | None = None
    cancelled: threading.Event = field(default_factory=threading.Event)

    def run(self, shot: Shot, delivery: Delivery, busy: Busy) -> None:
        """Run the job on the calling thread."""
        assert self.format.write is not None
        try:
            with faults_of(self.data_dir), self.path.open("wb") as file:
                loss = self.format.write(shot, delivery, self._motion_parts(shot, delivery, busy), file)
            self.says = None if loss is None else loss.says
            self.status = "cancelled" if self.cancelled.is_set() else "done"
            self.progress = 1.0
        except _Cancelled:
            self.status = "cancelled"
        except (ZitternError, MemoryError) as error:
            self.problem = str(error) or "not enough memory"
            self.status = "failed"
        except Exception as error:
            logging.getLogger("zittern").error("the export %s failed", self.filename, exc_info=error)
            self.problem = (
                f"internal error while exporting ({type(error).__name__}: {error}); the server's log says more"
            )
            self.status = "failed"
        finally:
            self.ended_s = time.monotonic()
            if self.status != "done":
                self.path.unlink(missing_ok=True)

    def _motion_parts(self, shot: Shot, delivery: Delivery, busy: Busy) -> Iterator[Motion]:
        done, count = 0, len(delivery.frames(shot))
        for part in delivery.parts(shot, _PART_FRAMES):
            yield part
            done += len(part.frames)
            self.progress = min(0.99, done / count)
            busy.step_aside()
            if self.cancelled.is_set():
                raise _Cancelled


class ExportJobs:
    """The exports of this server."""

    def __init__(self, workspace: Workspace, busy: Busy) -> None:
        self._workspace = workspace
        self._busy = busy
        self._jobs: OrderedDict[str, ExportJob] = OrderedDict()
        self._lock = threading.Lock()
        self._worker = ThreadPoolExecutor(1, thread_name_prefix="export")

    def start(self, shot: Shot, slug: str, format_: Format, delivery: Delivery) -> ExportJob:
        """Start an export, or queue it behind the active one.

        Raises BadInput for what is too much, StoreError without room, StoreBusy where too many wait.
        """
        delivery.check(format_)
        delivery.frames(shot)
        path = self._workspace.new_path(format_.ending)
        job = ExportJob(secrets.token_hex(8), f"{slug}{format_.ending}", format_, path, self._workspace.data_dir)
        self._sweep()
        with self._lock:
            if sum(each.ended_s is None for each in self._jobs.values()) >= MOST_WAITING:
                raise StoreBusy(
                    f"{MOST_WAITING} exports are waiting already; start this one when some are done, or cancel some"
                )
            self._jobs[job.id] = job
        self._worker.submit(job.run, shot, delivery, self._busy)
        return job

    def get(self, job_id: str) -> ExportJob:
        """Return the job with an id. Raises NotFound."""
        self._sweep()
        with self._lock:
            if job_id not in self._jobs:
                raise NotFound("this export is gone; start it again")
            return self._jobs[job_id]

    def fetched(self, job: ExportJob) -> Path:
        """Return a private name for a finished file.

        A download completes even after another client removes the file. The caller removes it. Raises NotFound,
        StoreError.
        """
        gone = NotFound("this export is gone; start it again")
        if job.status != "done":
            raise NotFound(f"the export is {job.status}, not done")
        path = self._workspace.new_path(job.format.ending)
        with faults_of(self._workspace.data_dir):
            try:
                os.link(job.path, path)
            except FileNotFoundError:
                raise gone from None
            except OSError:  # a disk without links
                shutil.copyfile(job.path, path)
        return path

    def drop(self, job: ExportJob) -> None:
        """Discard an export and its file."""
        job.cancelled.set()
        with self._lock:
            self._jobs.pop(job.id, None)
        job.path.unlink(missing_ok=True)

    def close(self) -> None:
        """End all work."""
        with self._lock:
            left = list(self._jobs.values())
        for job in left:
            job.cancelled.set()
        self._worker.shutdown(cancel_futures=True)

    def _sweep(self) -> None:
        """Drop jobs that ended long ago, and the oldest finished ones beyond a limit.

        Waiting and running jobs stay, and as many finished ones as may wait in the queue, so that a client that starts
        many gets all of them.
        """
        now = time.monotonic()
        with self._lock:
            ended = [job for job in self._jobs.values() if job.ended_s is not None]
        old = [job for job in ended if job.ended_s is not None and now - job.ended_s > _KEPT_S]
        for job in {each.id: each for each in [*old, *ended[:-MOST_WAITING]]}.values():
            self.drop(job)
