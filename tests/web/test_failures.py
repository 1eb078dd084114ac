"""What goes wrong beside the page, and how it goes on."""

import json
import re

from playwright.sync_api import Locator, Page, Route, expect

from tests.web.harness import at_first, settled
from tests.web.making import WithPage

SHOT = "jetty-walk-swaying"
BENCH = re.compile(r"/assets/bench[^/]*\.js")
NO_WEBGL = """
const plain = HTMLCanvasElement.prototype.getContext;
HTMLCanvasElement.prototype.getContext = function (kind, ...more) {
  return kind.startsWith('webgl') ? null : plain.call(this, kind, ...more);
};
"""
# A limit of two minutes is over at once while `hurry` is set.
NOTED_LIMITS = """
const plain = AbortSignal.timeout;
window.limits = [];
window.hurry = false;
AbortSignal.timeout = (ms) => {
  window.limits.push(ms);
  return plain.call(AbortSignal, window.hurry ? 1 : ms);
};
"""


class Failing(WithPage):
    def swing(self, page: Page | None = None) -> Locator:
        return (page or self.page).get_by_role("spinbutton", name="Swing of pan", exact=True).first

    def kept(self) -> float | None:
        layer = next(layer for _, layer in self.library().state(SHOT).document.layers() if layer.name == "Slow sway")
        return layer.axes.pan.swing.constant

    def pick(self) -> None:
        self.page.get_by_role("button", name="Slow sway", exact=True).first.click()

    def goes_on(self) -> None:
        """The next edit is kept."""
        before = self.kept()
        self.swing().press("ArrowUp")
        settled(self.page)
        self.assertNotEqual(self.kept(), before)

    def test_a_page_of_something_else_in_place_of_an_answer(self) -> None:
        page = self.open(SHOT)
        self.pick()
        body = "<h1>Internal error</h1>"
        at_first(page, "**/edits", lambda route: route.fulfill(status=500, content_type="text/html", body=body))
        self.swing().press("ArrowUp")
        expect(page.get_by_role("alert")).to_contain_text("the server failed (500)")
        self.goes_on()

    def test_off_the_network_and_back(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.context.set_offline(True)
        self.swing().press("ArrowUp")
        expect(page.get_by_role("alert").first).to_contain_text("did not answer")
        page.context.set_offline(False)
        self.goes_on()

    def test_what_is_never_answered_is_given_up_after_two_minutes(self) -> None:
        page = self.page = self.fresh_page()
        page.add_init_script(NOTED_LIMITS)
        self.open(SHOT)
        self.pick()
        before = self.kept()
        holding = True
        page.route("**/edits", lambda route: None if holding else route.fallback())
        page.evaluate("() => { window.limits = []; window.hurry = true; }")
        self.swing().press("ArrowUp")
        expect(page.get_by_role("alert").first).to_contain_text("has not answered for 2 minutes")
        self.assertEqual(set(page.evaluate("() => window.limits")), {120_000})
        page.evaluate("() => { window.hurry = false; }")
        self.assertEqual(self.kept(), before)
        holding = False
        self.goes_on()

    def test_a_reading_that_does_not_come_is_told(self) -> None:
        page = self.open(SHOT)
        self.pick()
        body = json.dumps({"detail": "the spectrum met a fault"})
        page.route(
            "**/spectrum/*", lambda route: route.fulfill(status=500, content_type="application/problem+json", body=body)
        )
        page.get_by_role("button", name="Blending, ramp shape").click()
        expect(page.get_by_role("alert")).to_contain_text("the spectrum met a fault")
        self.goes_on()

    def test_an_undo_that_came_too_late(self) -> None:
        page = self.open(SHOT)
        self.pick()
        self.goes_on()
        body = json.dumps({"detail": "changed", "current_label": "Theirs"})

        def too_late(route: Route) -> None:
            route.fulfill(status=409, content_type="application/problem+json", body=body)

        at_first(page, "**/undo", too_late)
        before = self.kept()
        page.keyboard.press("Control+z")
        expect(page.get_by_role("alert")).to_contain_text("“Theirs”")
        self.assertEqual(self.kept(), before)
        page.keyboard.press("Control+z")
        settled(page)
        self.assertNotEqual(self.kept(), before)

    def test_a_part_of_the_page_that_does_not_come(self) -> None:
        page = self.page
        missing: list[str] = []

        def lost(route: Route) -> None:
            missing.append(route.request.url)
            route.abort()

        page.route(BENCH, lost)
        page.goto(f"{self.server.url}shot/{SHOT}")
        expect(page.get_by_role("alert")).to_contain_text("reload the page")
        self.assertTrue(missing)
        page.unroute(BENCH)
        page.reload()
        settled(page)

    def test_without_webgl_everything_but_the_pictures_works(self) -> None:
        page = self.page = self.fresh_page()
        page.add_init_script(NO_WEBGL)
        page.goto(f"{self.server.url}shot/{SHOT}")
        expect(page.get_by_role("alert").first).to_contain_text("WebGL 2 is off or missing")
        self.pick()
        before = self.kept()
        self.swing().press("ArrowUp")
        page.locator("header [role=status]", has_text="saved").wait_for(state="attached")
        expect(page.get_by_label("Undo: Set swing").first).to_be_visible()
        self.assertNotEqual(self.kept(), before)
