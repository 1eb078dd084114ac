"""Blends: made of presets that are compared and of clips, gone through by hand, recorded, baked."""

import re

from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.shot.clips import Clip

SHOT = "jetty-walk"


class Pad(WithPage):
    def blend(self) -> Clip:
        return next(clip for clip in self.library().state(SHOT).document.clips() if clip.blend)

    def made_of(self, *names: str) -> None:
        page = self.open(SHOT)
        page.keyboard.press("r")
        for name in names:
            page.get_by_label(f"Compare {name}", exact=True).check()
        page.get_by_role("button", name="Blend these").click()
        expect(page.get_by_test_id("blend-pad")).to_be_visible()
        settled(page)

    def centre(self, name: str) -> tuple[float, float]:
        box = self.page.get_by_test_id(name).bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def test_presets_that_are_compared_become_corners_and_the_place_goes_between_them(self) -> None:
        page = self.page
        self.made_of("Careful walk", "Run", "Small boat")
        self.assertEqual([corner.name for corner in self.blend().blend.corners], ["Careful walk", "Run", "Small boat"])
        place = page.get_by_test_id("blend-place")
        expect(place).to_have_accessible_name("Place among the corners: 50 % across, 50 % up")
        calm = page.get_by_text("typical ").first.inner_text()
        page.get_by_role("button", name="Go to corner 2: Run").click()
        expect(place).to_have_accessible_name("Place among the corners: 7 % across, 25 % up")
        settled(page)
        expect(page.get_by_text(calm, exact=True)).to_have_count(0)
        x, y = self.centre("blend-place")
        self.pull((x, y), (x + 40, y - 20))
        settled(page)
        expect(page.get_by_label("Undo: Set across, up in “Careful walk … Run … Small boat”")).to_be_visible()
        across = self.blend().blend.across_percent.constant
        assert across is not None
        self.assertGreater(across, 20.0)
        place.focus()
        page.keyboard.press("Shift+ArrowLeft")
        settled(page)
        self.assertAlmostEqual(self.blend().blend.across_percent.constant or 0.0, across - 10.0, delta=0.11)

    def test_a_card_dropped_on_a_corner_comes_into_it_and_flattening_leaves_a_plain_clip(self) -> None:
        page = self.page
        self.made_of("Careful walk", "Run", "Small boat")
        page.keyboard.press("r")
        card = page.get_by_role("button", name=re.compile("^Preset Brisk walk "))
        card.drag_to(page.get_by_role("button", name="Go to corner 2: Run"))
        settled(page)
        self.assertEqual([each.name for each in self.blend().blend.corners], ["Careful walk", "Brisk walk", "Small boat"])
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Flatten").click()
        expect(page.get_by_label("Undo: Flatten blend")).to_be_visible()
        settled(page)
        self.assertEqual([clip.blend for clip in self.library().state(SHOT).document.clips()], [None])

    def test_a_place_that_a_dial_drives_is_not_taken_from_it(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("r")
        page.get_by_label("Search presets").fill("stand to walk")
        page.locator("[data-card=stand-to-walk-to-run]").click()
        settled(page)
        before = self.blend()
        x, y = self.centre("blend-place")
        self.pull((x, y), (x + 40, y - 20))
        page.get_by_role("button", name="Go to corner 3: Run").click()
        expect(page.get_by_text("follows a formula; change the formula or the dial it reads")).to_be_visible()
        settled(page)
        self.assertEqual(self.blend(), before)

    def test_a_drag_while_it_plays_is_recorded_as_one_step(self) -> None:
        page = self.page
        self.made_of("Careful walk", "Run", "Small boat")
        x, y = self.centre("blend-place")
        page.keyboard.press("Space")
        page.mouse.move(x, y)
        page.mouse.down()
        for n in range(1, 9):
            page.mouse.move(x - 6 * n, y + 3 * n)
            self.frame_passes(SHOT)
        page.mouse.up()
        page.keyboard.press("Space")
        settled(page)
        blend = self.blend().blend
        self.assertGreaterEqual(len(blend.across_percent.curve.keys), 2)
        self.assertGreaterEqual(len(blend.up_percent.curve.keys), 2)
        page.keyboard.press("Control+z")
        settled(page)
        self.assertIsNotNone(self.blend().blend.across_percent.constant)

    def test_a_corner_is_filled_exchanged_removed_and_the_blend_baked(self) -> None:
        page = self.page
        self.made_of("Careful walk", "Run", "Small boat")
        page.keyboard.press("r")
        page.get_by_label("Into corner “Small boat”").check()
        page.locator("[data-card=washboard]").click()
        settled(page)
        names = [corner.name for corner in self.blend().blend.corners]
        self.assertEqual(names, ["Careful walk", "Run", "Washboard"])
        page.get_by_label("Swap Careful walk with Run").click()
        settled(page)
        page.get_by_label("Remove corner Washboard").click()
        settled(page)
        self.assertEqual([corner.name for corner in self.blend().blend.corners], ["Run", "Careful walk"])
        page.get_by_label("blend by").select_option("morph")
        settled(page)
        page.get_by_role("button", name="Bake to one clip").click()
        settled(page)
        (clip,) = self.library().state(SHOT).document.clips()
        self.assertIsNone(clip.blend)
        expect(page.get_by_test_id("blend-pad")).to_have_count(0)

    def test_a_clip_is_blended_with_another_clip(self) -> None:
        page = self.open(SHOT)
        for key in ("careful-walk", "run"):
            page.keyboard.press("r")
            page.locator(f"[data-card={key}]").click()
            settled(page)
        page.get_by_role("button", name="Clip Careful walk", exact=True).click()
        page.get_by_role("button", name="Blend with another clip").click()
        page.get_by_role("menuitem", name="Run").click()
        settled(page)
        self.assertEqual([corner.name for corner in self.blend().blend.corners], ["Careful walk", "Run"])
        self.assertEqual(len(self.library().state(SHOT).document.lanes), 1)
        # Layers say which corner they stand in.
        expect(page.locator("[data-layer]").filter(has=page.get_by_title("Corner 2: Run"))).to_have_count(2)
