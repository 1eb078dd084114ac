"""Another shot is opened in the middle of things: every change goes to its own shot."""

import numpy as np
from playwright.sync_api import Page, Response, Route, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.numbers.param import formula_of

SHOT, OTHER = "jetty-walk-swaying", "signal-run"
FIELD = "Swing of pan"


class Leaving(WithPage):
    def swing(self) -> float | None:
        layer = next(layer for _, layer in self.library().state(SHOT).document.layers() if layer.name == "Slow sway")
        return layer.axes.pan.swing.constant

    def count(self, slug: str) -> int:
        return self.library().history(slug).count

    def leave(self, page: Page) -> None:
        page.get_by_role("link", name="All projects").click()
        page.get_by_text("Signal run", exact=True).first.click()
        page.wait_for_url(f"**/shot/{OTHER}")
        page.locator("[data-testid=viewfinder][data-ready=yes]").wait_for()

    def pick(self) -> None:
        self.page.get_by_role("button", name="Slow sway", exact=True).first.click()

    def hold_edits(self) -> list[Route]:
        """The first edit waits until it is let go on."""
        held: list[Route] = []

        def hold(route: Route) -> None:
            if held:
                route.continue_()
            else:
                held.append(route)

        self.page.route(f"**/api/shots/{SHOT}/edits", hold)
        return held

    def test_what_waited_for_its_turn_is_kept_in_its_own_shot(self) -> None:
        page = self.open(SHOT)
        self.pick()
        before, revision = self.swing(), self.count(SHOT)
        theirs = self.count(OTHER)
        held = self.hold_edits()
        number = page.get_by_role("spinbutton", name=FIELD, exact=True).first
        for _ in range(3):
            number.press("ArrowUp")
        self.leave(page)
        answers: list[str] = []

        def third(response: Response) -> bool:
            if response.url.endswith(f"{SHOT}/edits"):
                answers.append(response.url)
            return len(answers) == 3

        with page.expect_response(third):
            held[0].continue_()
        self.assertEqual(self.count(SHOT), revision + 3)
        assert before is not None
        self.assertAlmostEqual(self.swing() or 0.0, 1.15 * before, places=6, msg="three steps")
        self.assertEqual(self.count(OTHER), theirs)

    def test_a_change_that_is_refused_after_leaving_is_told_with_its_shot(self) -> None:
        page = self.open(SHOT)
        self.pick()
        held = self.hold_edits()
        page.get_by_role("spinbutton", name=FIELD, exact=True).first.press("ArrowUp")
        self.leave(page)
        theirs = self.count(OTHER)
        held[0].fulfill(status=422, content_type="application/problem+json", body='{"detail": "too much of it"}')
        expect(page.get_by_role("alert")).to_contain_text("too much of it")
        expect(page.get_by_role("alert")).to_contain_text("Jetty walk, swaying")
        page.get_by_role("spinbutton", name="weight", exact=True).first.press("ArrowDown")
        settled(page)
        self.assertEqual(self.count(OTHER), theirs + 1)

    def test_a_flight_by_the_wheel_ends_in_the_shot_in_which_it_began(self) -> None:
        page = self.open(SHOT)
        revision, theirs = self.count(SHOT), self.count(OTHER)
        page.keyboard.press("v")
        page.get_by_test_id("viewfinder").hover()
        start = self.pose()
        # It lands when the wheel rests, or when the shot is left before that.
        with page.expect_response(lambda each: each.url.endswith(f"{SHOT}/edits")):
            page.mouse.wheel(0, -400)
            self.leave(page)
        self.assertEqual((self.count(SHOT), self.count(OTHER)), (revision + 1, theirs))
        self.open(SHOT)
        self.assertGreater(np.linalg.norm(self.pose()[:3] - start[:3]), 0.1)
        np.testing.assert_allclose(self.pose()[3:], start[3:], atol=1e-6)

    def test_a_formula_being_written_stays_with_its_shot(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.get_by_role("spinbutton", name=FIELD, exact=True).dblclick()
        page.get_by_role("textbox", name=FIELD, exact=True).fill("= 0.25")
        page.keyboard.press("Enter")
        settled(page)
        page.get_by_role("combobox", name=f"Formula of {FIELD}").fill("0.5 + 0.125")
        with page.expect_response(lambda each: each.url.endswith(f"{SHOT}/edits")):
            page.evaluate(f"() => history.pushState(null, '', '/shot/{OTHER}')")
        page.locator("[data-testid=viewfinder][data-ready=yes]").wait_for()
        settled(page)
        layer = next(layer for _, layer in self.library().state(SHOT).document.layers() if layer.name == "Slow sway")
        written = formula_of(layer.axes.pan.swing)
        self.assertEqual(written and written.text, "0.5 + 0.125")
