"""Limits of time and memory for one request.

Background jobs check between parts whether they may continue; the error names the part that was too slow, and what to
reduce.

Time is the working thread's own, so that a busy machine refuses nothing; memory is estimated from the sizes of arrays
before they are made.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from zittern.core.errors import ClientGone, TooDear

__all__ = ["Budget", "check", "doing", "needs", "on_budget"]

_BYTES_A_MB = 2**20


class Budget:
    """cpu_s: processor time in seconds; most_bytes: total size of arrays in memory.

    `gone` is set from outside when the client has closed the request.
    """

    def __init__(self, cpu_s: float, most_bytes: int) -> None:
        self.cpu_s, self.most_bytes = cpu_s, most_bytes
        self.gone = False
        self.spent_s = 0.0
        self._begun_s: float | None = None
        self._doing: list[tuple[Callable[[], str], str]] = []

    def check(self) -> None:
        """Raise ClientGone or TooDear if work must end."""
        if self.gone:
            raise ClientGone("the client closed the request")
        now_s = time.thread_time()
        if self._begun_s is None:
            self._begun_s = now_s
        self.spent_s = now_s - self._begun_s
        if self.spent_s > self.cpu_s:
            what, advice = self._doing[-1] if self._doing else (lambda: "this", "the number of frames or of layers")
            raise TooDear(f"computing {what()} takes more than {self.cpu_s:g} s; nothing was changed. Lower {advice}")

    def needs(self, size_bytes: float, what: str, advice: str) -> None:
        """Raise TooDear for more memory than available."""
        if size_bytes > self.most_bytes:
            needed, most = size_bytes / _BYTES_A_MB, self.most_bytes / _BYTES_A_MB
            raise TooDear(
                f"{what} takes {needed:,.0f} MB of memory, more than the limit of {most:,.0f} MB per "
                f"request; nothing was changed. Lower {advice}"
            )

    @contextmanager
    def doing(self, what: Callable[[], str], advice: str) -> Iterator[None]:
        """Set the name of the work inside."""
        self._doing.append((what, advice))
        try:
            yield
        finally:
            self._doing.pop()


_NONE = Budget(float("inf"), 2**62)
_asked: ContextVar[Budget] = ContextVar("budget", default=_NONE)


@contextmanager
def on_budget(budget: Budget) -> Iterator[Budget]:
    """Everything in here is on a budget."""
    token = _asked.set(budget)
    try:
        yield budget
    finally:
        _asked.reset(token)


def check() -> None:
    """Check whether work may continue. Raises Gone or TooDear."""
    budget = _asked.get()
    if budget is not _NONE:
        budget.check()


def needs(size_bytes: float, what: str, advice: str) -> None:
    """Check whether this amount of memory is available. Raises TooDear."""
    _asked.get().needs(size_bytes, what, advice)


@contextmanager
def doing(what: Callable[[], str], advice: str) -> Iterator[None]:
    """Set the name of the work inside, for the message of `check`.

    Evaluated only then: names are not part of the result.
    """
    budget = _asked.get()
    if budget is _NONE:
        yield
        return
    with budget.doing(what, advice):
        yield
