"""Parts of scipy that take up to half a second to import and that few commands need.

Imported on first use, by one thread at a time. (Threads that import parts of one package in parallel may see an
incomplete module.)
"""

from __future__ import annotations

import importlib
import threading
from typing import Any, Literal

__all__ = ["scipy_part"]

_LOCK = threading.RLock()
_known: dict[str, Any] = {}


def scipy_part(name: Literal["interpolate", "signal", "spatial.transform"]) -> Any:
    """Return the module `scipy.NAME`."""
    if name not in _known:
        with _LOCK:
            _known[name] = importlib.import_module(f"scipy.{name}")
    return _known[name]
