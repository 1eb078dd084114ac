"""A server for each test, one browser for all of them in a process."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import Page, Request, expect

from tests.demo.template import demo_data
from tests.web.harness import BROWSING, RETRIES, Server, Window, new_page, settled
from zittern.store.library import Library


class WithPage(unittest.TestCase):
    """`self.page` looks at a server with the demo in it; at its projects page where `home` says so, else at nothing yet.
    A test that puts scripts into a page takes a `fresh_page`.
    """

    home = False

    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        demo_data(self.folder / "data")
        self.log = self.folder / "log"
        self.server = Server(self.folder / "data", log=self.log, forked=True)
        self.addCleanup(self.nothing_went_wrong)
        self.addCleanup(self.server.stop)
        self.faults: list[str] = []
        self.page = self._same_page()
        if self.home:
            self.page.goto(self.server.url)

    def nothing_went_wrong(self) -> None:
        self.assertNotIn("Traceback", said := self.log.read_text(), said)

    def _same_page(self) -> Page:
        window = BROWSING.take()
        self.addCleanup(self._left, window)
        self._watch(window.page)
        return window.page

    def _left(self, window: Window) -> None:
        window.leave(self.server.url)
        BROWSING.give_back(window)

    def fresh_page(self) -> Page:
        """Another window of somebody else, which shares nothing with the first."""
        page = new_page(BROWSING.browser(), "about:blank", light=True)
        self.addCleanup(page.context.close)
        self._watch(page)
        return page

    def _watch(self, page: Page) -> None:
        def sent(request: Request) -> None:
            if not self.own(request.url):
                self.faults.append(f"left the server: {request.url}")

        self.listen("pageerror", lambda error: self.faults.append(str(error)), page)
        self.listen("request", sent, page)

    def listen(self, event: str, hear: Callable[[Any], object], page: Page | None = None) -> None:
        """Hears of what happens in a page, until the end of the test."""
        page = page or self.page
        page.on(event, hear)  # type: ignore[call-overload]  # any event that the page has
        self.addCleanup(page.remove_listener, event, hear)

    def own(self, url: str) -> bool:
        return url.startswith((self.server.url, "blob:", "data:", "about:"))

    def tearDown(self) -> None:
        self.assertEqual(self.faults, [])

    def open(self, slug: str, page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(f"{self.server.url}shot/{slug}")
        settled(page)
        return page

    def edit(self, slug: str, command: dict[str, object]) -> None:
        """One edit as another window makes it."""
        body = {"base_revision": self.library().state(slug).revision, "command": command}
        url = f"{self.server.url}api/shots/{slug}/edits"
        answer = self.page.request.post(url, data=body, headers={"Origin": self.server.url.rstrip("/")}, max_retries=RETRIES)
        self.assertTrue(answer.ok, answer.text())

    def pose(self) -> np.ndarray:
        """x, y, z, pan, tilt, roll of the camera as the page shows it."""
        text = self.page.locator("[data-testid=viewfinder]").get_attribute("data-pose")
        assert text is not None
        return np.array([float(part) for part in text.split()])

    def go_to(self, frame: int) -> None:
        """Steps to a frame by keyboard, from the first."""
        self.page.keyboard.press("Home")
        for _ in range((frame - 1) // 10):
            self.page.keyboard.press("Shift+ArrowRight")
        for _ in range((frame - 1) % 10):
            self.page.keyboard.press("ArrowRight")
        self.page.locator("[data-testid=frame]", has_text=f"{frame:04d}").wait_for()

    def frame_passes(self, slug: str) -> None:
        """Waits while the shot plays until another frame is shown. A recording ends with the shot, and a slow machine may
        be there already.
        """
        frame = self.page.get_by_test_id("frame")
        shown = frame.inner_text()
        if int(shown) < self.library().state(slug).document.last_frame:
            expect(frame).not_to_have_text(shown)

    def poses(self, frames: range) -> np.ndarray:
        """(F, 6) poses at frames next to each other."""
        self.go_to(frames.start)
        rows = [self.pose()]
        for frame in frames[1:]:
            self.page.keyboard.press("ArrowRight")
            self.page.locator("[data-testid=frame]", has_text=f"{frame:04d}").wait_for()
            rows.append(self.pose())
        return np.array(rows)

    def drag(self, name: str, by_px: int) -> None:
        """Drags a number sideways."""
        box = self.page.get_by_role("spinbutton", name=name, exact=True).bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + by_px / 2, y)
        self.page.mouse.move(x + by_px, y)
        self.page.mouse.up()
        settled(self.page)

    def pull(self, start: tuple[float, float], *stops: tuple[float, float], steps: int = 4) -> None:
        """Presses the mouse at a place of the page, goes from place to place, and lets go at the last."""
        self.page.mouse.move(*start)
        self.page.mouse.down()
        for stop in stops:
            self.page.mouse.move(*stop, steps=steps)
        self.page.mouse.up()

    def number(self, name: str) -> float:
        """Value of a number on the axis board."""
        return float(self.page.get_by_role("spinbutton", name=name, exact=True).get_attribute("aria-valuenow") or "nan")

    def library(self) -> Library:
        """The server's data, looked at from here."""
        library = Library(self.folder / "data")
        self.addCleanup(library.close)
        return library
