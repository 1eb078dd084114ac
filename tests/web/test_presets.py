"""Presets: looked for, tried on, placed in three ways."""

from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage

SHOT = "jetty-walk-handheld"


class Presets(WithPage):
    def clips(self) -> list[list[tuple[str, tuple[float, float] | None]]]:
        return [[(clip.name, clip.span_frames) for clip in lane.clips] for lane in self.library().state(SHOT).document.lanes]

    def test_found_tried_on_and_placed(self) -> None:
        page = self.open(SHOT)
        self.go_to(41)
        before = self.pose()
        page.keyboard.press("r")
        presets = page.locator("button[aria-label^='Preset ']")
        expect(presets).to_have_count(16)
        page.get_by_label("Search presets").fill("water")
        expect(presets).to_have_count(1)
        presets.hover()
        settled(page)
        self.assertGreater(abs(self.pose() - before).max(), 0.05)
        self.assertEqual(self.clips(), [[("Whole shot", None)]])
        page.get_by_role("button", name="Play", exact=True).hover()
        settled(page)
        self.assertLess(abs(self.pose() - before).max(), 1e-4)
        page.get_by_label("Search presets").fill("")
        presets.first.focus()
        page.keyboard.press("ArrowRight")
        expect(presets.nth(1)).to_be_focused()
        settled(page)
        self.assertGreater(abs(self.pose() - before).max(), 0.005)
        page.get_by_label("Search presets").fill("water")
        presets.click()
        expect(page.get_by_label("Undo: Place “Small boat”")).to_be_visible()
        self.assertEqual(self.clips(), [[("Whole shot", None)], [("Small boat", None)]])
        expect(page.get_by_label("Clip name")).to_have_value("Small boat")

    def test_in_place_of_a_clip_and_from_the_pen_line_on(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Clip Whole shot", exact=True).click()
        self.go_to(81)
        page.get_by_label("Clip name").press("Escape")
        page.get_by_role("button", name="Presets …").click()
        page.get_by_label("Instead of “Whole shot”").check()
        page.get_by_label("Preset Brisk walk").click()
        settled(page)
        self.assertEqual(self.clips(), [[("Brisk walk", None)]])
        page.get_by_label("From the pen line on").check()
        page.get_by_label("Preset Run").click()
        expect(page.get_by_label("Undo: Go over to “Run” from frame 81 within 24 frames")).to_be_visible()
        self.assertEqual(self.clips(), [[("Brisk walk", (1.0, 105.0)), ("Run", (81.0, 192.0))]])
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="Clip Run", exact=True)).to_be_visible()
