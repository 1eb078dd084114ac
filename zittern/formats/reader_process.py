"""Third-party readers for files of unknown origin: each in a separate process, with limits.

It gets the file on standard input and answers in JSON, with {"fault": text} where it cannot.
"""

from __future__ import annotations

import json
import os
import resource
import subprocess
import sys
from typing import Any

__all__ = ["ask_reader", "limit_myself", "one_line_fault"]

# Time that runs on while nothing is computed: starting, and waiting for the machine.
_GRACE_S = 10.0
# One thread: the buffers of others would count as memory.
_ENVIRONMENT = {**os.environ, "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}


def ask_reader(module: str, data: bytes, most_s: float, *arguments: str) -> dict[str, Any] | None:
    """Return the answer of a reader about a file; None if the process was killed or crashed.

    module: run as `python -m`.
    """
    command = [sys.executable, "-m", module, *arguments]
    try:
        done = subprocess.run(
            command, input=data, capture_output=True, timeout=most_s + _GRACE_S, check=False, env=_ENVIRONMENT
        )
        answer: dict[str, Any] = json.loads(done.stdout)
    except (subprocess.TimeoutExpired, ValueError):
        return None
    return answer


def limit_myself(most_bytes: int, most_s: int) -> None:
    """Limit the memory that this process writes to, and its seconds of the processor. For a reader, before it reads."""
    resource.setrlimit(resource.RLIMIT_DATA, (most_bytes, most_bytes))
    resource.setrlimit(resource.RLIMIT_CPU, (most_s, most_s))


def one_line_fault(fault: Exception, most: int = 200) -> str:
    """Return the message of a library about a file, in one line."""
    return " ".join(str(fault).split())[:most]
