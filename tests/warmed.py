"""Imported by the process that servers and commands of tests are forked from: what they import late is there before
they begin.
"""

from __future__ import annotations

import gc

import zittern.api.app
import zittern.api.connection
import zittern.cli.serving
import zittern.demo.build  # noqa: F401 (imported to be there)
from tools.demo.shots import SHOTS
from zittern.core.checks.table import check
from zittern.core.runtime.later import scipy_part

for part in ("interpolate", "signal", "spatial.transform"):
    scipy_part(part)
check(SHOTS["lamp-close"]())
# Servers look for garbage as they begin: what is there now is none of theirs.
gc.collect()
gc.freeze()
