"""Zittern: handheld and operator-style motion for virtual cinematic cameras.

core     the rules of the job: document, evaluation, edits (no I/O)
formats  reading and writing camera paths
store    SQLite: projects, shots, revisions
checking checks of many shots, as lines of JSON
shaking  a preset on a camera path
project_file  a project as one file, there and back
demo     the "Saltmarsh Post" sets and shots, made by our own code
browser  an installed browser that draws a page by itself
bench    timings of the core
bench_browser  timings of the page
api      the web server
cli      the command line
scripting  the Python API
settings where data lives, which port, which limits
"""

from __future__ import annotations

import importlib
import os
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from zittern.scripting import Motion, Shot, ZitternError, commands, new, open, presets

__all__ = ["Motion", "Shot", "ZitternError", "__version__", "commands", "new", "open", "presets"]

# The matrices of poses are small: more threads do not speed up their products, but idle threads of numpy spin on the
# core that the browser draws with. It looks at this when it is imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"


def __getattr__(name: str) -> Any:
    """Load a public name when it is first used: `import zittern` stays fast."""
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    value = globals()[name] = getattr(importlib.import_module("zittern.scripting"), name)
    return value


def __dir__() -> list[str]:
    """Return the public names."""
    return __all__
