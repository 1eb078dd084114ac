"""A server on a fresh data folder, and a browser on it."""

from __future__ import annotations

import atexit
import io
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Browser, Page, Playwright, Route, expect, sync_playwright

from tests.forked import Forked
from zittern.browser import QUIET

CHROMIUM = os.environ.get("ZITTERN_CHROMIUM") or shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox", *QUIET,
    "--use-gl=angle", "--use-angle=swiftshader-webgl", "--enable-unsafe-swiftshader",
]  # fmt: skip
# Software drawing is slow; waits are on states, this is only how long they may last.
PATIENCE_MS = 60_000
expect.set_options(timeout=30_000)
# Of a request beside the page on a connection that the server, which waits five seconds for the next, is just closing.
RETRIES = 2
# The browser would keep what so many pages have left behind, ten megabytes each, and that of many more.
TESTS_KEPT = 16


class Server:
    """`zittern demo` (or serve) in a process of its own. log: where its log goes, in place of this process's; forked:
    from a process that has everything imported.
    """

    def __init__(self, data: Path, command: str = "demo", log: Path | None = None, forked: bool = False) -> None:
        self.data = data
        arguments = [command, "--port", "0", "--data", str(data), "--no-browser"]
        self.process: subprocess.Popen[str] | Forked = Forked(arguments, log) if forked else _fresh(arguments, log)
        self.url = self._address()

    def _address(self) -> str:
        assert self.process.stdout is not None
        for line in self.process.stdout:
            found = re.search(r"http://\S+/", line)
            if found:
                return found.group(0)
        raise RuntimeError("the server ended before it said its address")

    def kill(self) -> None:
        """Ends it without warning."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def stop(self) -> None:
        """Ends it."""
        self.process.terminate()
        try:
            self.process.wait(10)
        except (subprocess.TimeoutExpired, TimeoutError):
            self.kill()
        if self.process.stdout is not None:
            self.process.stdout.close()


def _fresh(arguments: list[str], log: Path | None) -> subprocess.Popen[str]:
    with open(log or os.devnull, "w") as file:
        told = None if log is None else file
        command = [sys.executable, "-m", "zittern.cli", *arguments]
        return subprocess.Popen(command, stdout=subprocess.PIPE, stderr=told, text=True)


@contextmanager
def serving(command: str = "demo") -> Iterator[Server]:
    """A server on a fresh data folder."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder), command)
        try:
            yield server
        finally:
            server.stop()


class Browsing:
    """The one browser of a process, from the first test that needs it until it is shut, and its window."""

    def __init__(self) -> None:
        self._playwright: Playwright | None = None
        self._browser: Browser | None = None
        self._window: Window | None = None

    def browser(self) -> Browser:
        """Headless Chromium; another one where it is gone."""
        if self._browser is None or not self._browser.is_connected():
            self.shut()
            self._playwright = sync_playwright().start()
            self._browser = self._playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        return self._browser

    def take(self) -> Window:
        """The window, for one test. One that is not given back serves no other."""
        browser = self.browser()
        window, self._window = self._window or Window(browser), None
        return window

    def give_back(self, window: Window) -> None:
        """What a test has left in order."""
        self._window = window

    def shut(self) -> None:
        """Ends it. Only then can other tests of this process run loops of events."""
        if self._playwright is not None:
            self._playwright.stop()
        self._playwright = self._browser = self._window = None


BROWSING = Browsing()
atexit.register(BROWSING.shut)


def new_page(browser: Browser, url: str, width: int = 1280, height: int = 800, light: bool = False) -> Page:
    """A page of its own context. light: the views are drawn with fewer pixels, as people may choose."""
    # Nothing fades: what a test sees is the final state.
    context = browser.new_context(viewport={"width": width, "height": height}, accept_downloads=True, reduced_motion="reduce")
    if light:
        context.add_init_script("localStorage.setItem('zittern.light', 'yes')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.goto(url)
    return page


class Window:
    """A page that serves one test after another. After each it is as good as new: what it keeps is the program it has
    read, two thirds of what opening the page costs.
    """

    def __init__(self, browser: Browser) -> None:
        self.page = new_page(browser, "about:blank", light=True)
        self._devtools = self.page.context.new_cdp_session(self.page)
        self._tests = 0

    def leave(self, url: str) -> None:
        """Away from a server: nothing is held down, nothing remembered, no request answered by a test."""
        self._tests += 1
        page = self.page
        page.unroute_all(behavior="ignoreErrors")
        page.mouse.up()
        for key in ("Shift", "Control", "Alt"):
            page.keyboard.up(key)
        page.goto("about:blank")
        page.mouse.move(-1, -1)
        page.context.set_offline(False)
        page.context.clear_permissions()
        self._devtools.send("Storage.clearDataForOrigin", {"origin": url.rstrip("/"), "storageTypes": "all"})
        if self._tests % TESTS_KEPT == 0:
            self._devtools.send("HeapProfiler.collectGarbage")


def settled(page: Page) -> None:
    """Waits until the bench has its motion, its set, and nothing left to save."""
    # In this order: what was kept last is drawn after that.
    page.locator("header [role=status]", has_text="saved").wait_for(state="attached")
    page.locator("[data-testid=viewfinder][data-ready=yes]").wait_for()


def not_following(page: Page) -> None:
    """The page does not see what others edit: its question gets an empty answer."""
    page.route("**/api/shots/*/revision", lambda route: route.fulfill(status=204))


def at_first(page: Page, url: str, answer: Callable[[Route], object], times: int = 1) -> None:
    """The first requests of a kind are answered by `answer`, later ones by the server.

    The route stays: a browser that is told to end it loses whatever request is under way just then.
    """
    left = iter([answer] * times)
    page.route(url, lambda route: next(left, Route.fallback)(route))


def grey(png: bytes) -> np.ndarray:
    """Lightness of a picture, (rows, columns) 0 to 255."""
    return np.asarray(Image.open(io.BytesIO(png)).convert("L"), dtype=np.float64)
