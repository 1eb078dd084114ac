"""Clips on lanes: made, cut, dragged, moved to another lane, cross-faded."""

from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.numbers.param import Number
from zittern.core.shot.shot import Shot

SHOT = "jetty-walk-swaying"


class Clips(WithPage):
    def shot(self) -> Shot:
        return self.library().state(SHOT).document

    def stretches(self) -> list[list[tuple[float, float] | None]]:
        return [[clip.span_frames for clip in lane.clips] for lane in self.shot().lanes]

    def test_cut_repeated_and_taken_away(self) -> None:
        page = self.open(SHOT)
        self.go_to(81)
        before = self.pose()
        page.get_by_role("button", name="Clip Whole shot", exact=True).click()
        page.keyboard.press("x")
        expect(page.get_by_label("Undo: Split clip “Whole shot” at frame 81")).to_be_visible()
        settled(page)
        self.assertEqual(self.stretches(), [[(1.0, 80.0), (81.0, 192.0)]])
        self.assertTrue((abs(self.pose() - before) < 1e-4).all())
        page.keyboard.press("Delete")
        settled(page)
        self.assertEqual(self.stretches(), [[(1.0, 80.0)]])
        page.get_by_role("button", name="Clip Whole shot", exact=True).click()
        page.get_by_role("button", name="Duplicate", exact=True).click()
        settled(page)
        self.assertEqual(self.stretches(), [[(1.0, 80.0), (81.0, 160.0)]])

    def test_a_clip_of_its_own_is_filled_dragged_and_cross_faded(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("New clip")
        page.keyboard.press("Enter")
        settled(page)
        self.assertEqual(self.stretches(), [[None], [(1.0, 49.0)]])
        expect(page.get_by_label("Clip name")).to_have_value("Clip")
        page.get_by_label("Add layer").click()
        page.get_by_role("menuitem", name="Wave").click()
        settled(page)
        self.assertEqual([layer.source.kind for layer in self.shot().lanes[1].clips[0].layers], ["wave"])
        page.get_by_role("button", name="Clip Clip", exact=True).click()
        bar = page.get_by_role("button", name="Span of clip Clip").bounding_box()
        assert bar is not None
        self.pull((bar["x"] + 60, bar["y"] + 3), (bar["x"] + 130, bar["y"] + 3))
        settled(page)
        moved = self.shot().lanes[1].clips[0].span_frames
        assert moved is not None
        self.assertTrue(10 < moved[0] < 40 and moved[1] - moved[0] == 48, moved)
        page.get_by_label("Lane of the clip").select_option("Whole shot")
        settled(page)
        self.assertEqual(len(self.stretches()), 1)
        page.get_by_label("cross-fades").select_option("linear")
        settled(page)
        self.assertEqual(self.shot().lanes[0].fade, "linear")
        expect(page.get_by_text("2 clips are on its lane")).to_be_visible()
        page.get_by_role("button", name="Mute", exact=True).click()
        settled(page)
        self.assertTrue(self.shot().lanes[0].clips[1].mute)

    def test_only_within_the_stretch_that_loops(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Clip Whole shot", exact=True).click()
        page.keyboard.press("y")
        expect(page.get_by_text("Set a loop range first")).to_be_visible()
        ruler = page.get_by_test_id("ruler").bounding_box()
        assert ruler is not None
        page.keyboard.down("Shift")
        page.mouse.move(ruler["x"] + 100, ruler["y"] + 10)
        page.mouse.down()
        page.mouse.move(ruler["x"] + 300, ruler["y"] + 10, steps=4)
        page.mouse.up()
        page.keyboard.up("Shift")
        page.keyboard.press("y")
        settled(page)
        clip = self.shot().lanes[0].clips[0]
        assert clip.span_frames is not None
        self.assertTrue(1 < clip.span_frames[0] < clip.span_frames[1] < 192, clip.span_frames)
        self.assertEqual((clip.ramp_in_frames, clip.ramp_out_frames), (6, 6))

    def test_the_amount_is_dragged_on_the_bar_and_keyed_there(self) -> None:
        page = self.open("sled-run")
        page.get_by_role("button", name="Clip Washboard", exact=True).click()
        level = page.get_by_role("button", name="Amount of Washboard: drag up or down")
        box = level.bounding_box()
        assert box is not None
        self.pull((box["x"] + 60, box["y"] + 4), (box["x"] + 60, box["y"] + 14))
        expect(page.get_by_label("Undo: Set amount in “Washboard”")).to_be_visible()
        settled(page)

        def amount() -> Number:
            return next(clip for clip in self.library().state("sled-run").document.clips() if clip.name == "Washboard").amount

        self.assertAlmostEqual(amount().constant or 0, 0.5, delta=0.15)
        page.get_by_role("button", name="Draw the Amount of Washboard by hand").click()
        surface = page.get_by_role("img", name="Draw the Amount of Washboard").bounding_box()
        assert surface is not None
        self.pull((surface["x"] + 50, surface["y"] + 10), (surface["x"] + 200, surface["y"] + 20), steps=8)
        expect(page.get_by_label("Undo: Draw amount in “Washboard”")).to_be_visible()
        self.assertGreater(len(amount().curve.keys), 2)
