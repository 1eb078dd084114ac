"""An installed browser that draws a page without a window."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager

from zittern.core.errors import BadInput

__all__ = ["QUIET", "drawing", "find_browser"]

_NAMES = (
    "chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome", "msedge",
    "chromium-headless-shell",
)  # fmt: skip
# It shows no prompts.
QUIET = (
    "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update",
    "--disable-sync",
)  # fmt: skip
_FLAGS = (
    *QUIET, "--headless=new", "--enable-unsafe-swiftshader", "--window-size=1280,800",
    # A page in the background is not throttled.
    "--disable-background-timer-throttling", "--disable-renderer-backgrounding",
)  # fmt: skip
_ENDS_S = 10.0


def find_browser(named: str | None) -> str:
    """Return the program of a Chromium: the one that is named, or ZITTERN_CHROMIUM, or one that is installed.

    Raises BadInput with installation advice if there is none.
    """
    wanted = os.environ.get("ZITTERN_CHROMIUM") or None if named is None else named
    for name in _NAMES if wanted is None else (wanted,):
        found = shutil.which(name)
        if found is not None:
            return found
    if wanted is not None:
        raise BadInput(f"there is no program {wanted!r}; name an installed Chromium with --browser", "--browser")
    raise BadInput(
        "this takes a Chromium, and none is installed: install one (on Debian: apt install chromium), or name "
        "its program with --browser",
        "--browser",
    )


@contextmanager
def drawing(browser: str, url: str) -> Iterator[subprocess.Popen[bytes]]:
    """Run the browser on a page, with a temporary profile."""
    root = ["--no-sandbox"] if os.geteuid() == 0 else []
    with tempfile.TemporaryDirectory(prefix="zittern-") as profile:
        process = subprocess.Popen(
            [browser, *_FLAGS, *root, f"--user-data-dir={profile}", url],
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
        )  # fmt: skip
        try:
            yield process
        finally:
            process.terminate()
            try:
                process.wait(_ENDS_S)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
            # Its children may still write there.
            shutil.rmtree(profile, ignore_errors=True)
