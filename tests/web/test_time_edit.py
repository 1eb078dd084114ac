"""Edits of time under the ruler: chosen, seen in the lanes, kept or left."""

import re

import numpy as np
from playwright.sync_api import Route, expect

from tests.web.harness import at_first, settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.shot import Shot
from tools.demo.cuts import CUT

SHOT = "signal-run"


class TimeEdits(WithPage):
    def shot(self) -> Shot:
        return self.library().state(SHOT).document

    def type_into(self, name: str, text: str) -> None:
        row = self.page.get_by_role("region", name="Edit time")
        row.get_by_role("spinbutton", name=name, exact=True).press("Enter")
        entry = row.get_by_role("textbox", name=name, exact=True)
        entry.fill(text)
        entry.press("Enter")

    def test_what_is_typed_counts_however_soon_it_is_applied(self) -> None:
        page = self.open(SHOT)
        self.go_to(41)
        row = page.get_by_role("region", name="Edit time")
        entry = row.get_by_role("textbox", name="frames", exact=True)
        for text, undo in (("30", "Insert 30 frames at frame 41"), ("2 * 4", "Insert 8 frames at frame 41")):
            with self.subTest(text):
                page.keyboard.press("Shift+I")
                row.get_by_role("spinbutton", name="frames", exact=True).press("Enter")
                entry.fill(text)
                row.get_by_role("button", name="Apply").click()
                expect(page.get_by_label(f"Undo: {undo}")).to_be_visible()
        page.keyboard.press("Shift+I")
        row.get_by_role("spinbutton", name="frames", exact=True).press("Enter")
        entry.fill("many")
        # Read when it is left, which may be before the button is let go, and once more when it is pressed again.
        apply = row.get_by_role("button", name="Apply")
        apply.hover()
        page.mouse.down()
        expect(row.get_by_role("alert")).to_be_visible()
        page.mouse.up()
        expect(entry).to_be_focused()
        apply.click()
        expect(row.get_by_role("alert")).to_be_visible()
        expect(page.get_by_label("Undo: Insert 8 frames at frame 41")).to_be_visible()

    def test_an_ease_is_about_the_whole_shot_unless_a_range_loops(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+I")
        row = page.get_by_role("region", name="Edit time")
        row.get_by_role("button", name="ease", exact=True).click()
        shot = self.shot()
        for label, frame in (("from frame", shot.first_frame), ("to frame", shot.last_frame)):
            expect(row.get_by_role("spinbutton", name=label, exact=True)).to_have_text(re.compile(rf"^{frame}\b"))

    def test_a_wrong_number_behind_a_dialog_has_no_part_in_what_is_done_there(self) -> None:
        page = self.open(SHOT)
        self.go_to(2)
        page.get_by_role("button", name="Clip Breath").click()
        page.get_by_role("spinbutton", name="from frame", exact=True).press("Enter")
        page.get_by_role("textbox", name="from frame", exact=True).fill("many")
        page.get_by_role("button", name="Export", exact=True).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name=re.compile("mp4")).check()
        dialog.get_by_role("button", name="Make .mp4").click()
        expect(dialog.get_by_role("button", name="Cancel the movie")).to_be_visible()
        dialog.get_by_role("button", name="Cancel the movie").click()
        expect(dialog.get_by_role("button", name="Make .mp4")).to_be_enabled()

    def test_a_number_that_is_read_late_leaves_who_types_the_next_one_alone(self) -> None:
        page = self.open(SHOT)
        held: list[Route] = []
        at_first(page, "**/api/arithmetic", held.append)
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("backwards")
        page.keyboard.press("Enter")
        with page.expect_request("**/api/arithmetic"):
            self.type_into("from frame", "30")
        row = page.get_by_role("region", name="Edit time")
        row.get_by_role("spinbutton", name="to frame", exact=True).press("Enter")
        with page.expect_response("**/api/arithmetic"):
            held[0].continue_()
        expect(row.get_by_role("spinbutton", name="from frame", exact=True)).to_have_text("30")
        expect(row.get_by_role("textbox", name="to frame", exact=True)).to_be_focused()

    def test_frames_are_put_in_where_the_playhead_is_and_come_out_again(self) -> None:
        page = self.open(SHOT)
        before = self.shot()
        self.go_to(41)
        page.keyboard.press("Shift+I")
        row = page.get_by_role("region", name="Edit time")
        expect(row.get_by_role("spinbutton", name="at frame")).to_have_text("41")
        self.type_into("frames", "30")
        row.get_by_role("button", name="Apply").click()
        expect(page.get_by_label("Undo: Insert 30 frames at frame 41")).to_be_visible()
        expect(row).to_have_count(0)
        settled(page)
        after = self.shot()
        self.assertEqual(after.last_frame, before.last_frame + 30)
        was, now = evaluate(before).bare.position_m, evaluate(after).bare.position_m
        np.testing.assert_allclose(now[:40], was[:40], atol=1e-9)
        np.testing.assert_allclose(now[70:], was[40:], atol=1e-9)
        page.keyboard.press("Control+z")
        expect(page.get_by_label("Redo: Insert 30 frames at frame 41")).to_be_visible()
        settled(page)
        self.assertEqual(self.shot(), before)

    def test_a_range_is_reversed(self) -> None:
        page = self.open(SHOT)
        before = self.shot()
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("backwards")
        page.keyboard.press("Enter")
        self.type_into("from frame", "30")
        self.type_into("to frame", "90")
        page.get_by_role("region", name="Edit time").get_by_role("button", name="Apply").click()
        expect(page.get_by_label("Undo: Reverse frames 30 to 90")).to_be_visible()
        settled(page)
        was, now = evaluate(before).bare.position_m, evaluate(self.shot()).bare.position_m
        np.testing.assert_allclose(now[29:90], was[29:90][::-1], atol=1e-9)

    def test_what_is_chosen_is_seen_before_it_is_kept_and_gone_with_escape(self) -> None:
        page = self.open(SHOT)
        self.go_to(100)
        finder = page.get_by_test_id("viewfinder")
        at_rest, revisions = finder.get_attribute("data-pose") or "", self.library().history(SHOT).count
        page.get_by_label("Edit time").first.click()
        self.type_into("at frame", "20")
        expect(finder).not_to_have_attribute("data-pose", at_rest)
        expect(page.locator("[data-mark=new]")).to_be_visible()
        row = page.get_by_role("region", name="Edit time")
        expect(row.get_by_role("spinbutton", name="at frame", exact=True)).to_be_focused()
        # The first leaves the number that was typed.
        page.keyboard.press("Escape")
        page.keyboard.press("Escape")
        expect(page.get_by_role("region", name="Edit time")).to_have_count(0)
        expect(page.locator("[data-mark]")).to_have_count(0)
        settled(page)
        expect(finder).to_have_attribute("data-pose", at_rest)
        self.assertEqual(self.library().history(SHOT).count, revisions)

    def test_keys_and_bars_are_shown_where_they_will_be(self) -> None:
        page = self.open(SHOT)
        pins = page.get_by_test_id("move-lane").locator("[data-pin]")
        expect(pins.first).to_be_visible()
        frames = [float(each) for each in pins.evaluate_all("all => all.map(each => each.dataset.pin)")]
        late = max((clip for clip in self.shot().clips() if clip.span_frames), key=lambda clip: clip.span_frames[0])
        bar = page.locator(f"[data-clip='{late.id}']")
        first, last = late.span_frames
        expect(bar).to_have_attribute("title", re.compile(f"frames {first:g} to {last:g}:"))
        page.get_by_label("Edit time").first.click()
        self.type_into("at frame", "20")
        self.type_into("frames", "30")
        expect(bar).to_have_attribute("title", re.compile(f"frames {first + 30:g} to {last + 30:g}:"))
        # What comes to lie to the right of what is in view is not drawn.
        moved = [frame if frame < 20 else frame + 30 for frame in frames if frame + 30 <= self.shot().last_frame]
        self.assertGreater(len(moved), 3)
        for frame in moved:
            expect(page.get_by_test_id("move-lane").locator(f"[data-pin='{frame:g}']")).to_have_count(1)
        page.keyboard.press("Escape")
        page.keyboard.press("Escape")
        for frame in frames:
            expect(page.get_by_test_id("move-lane").locator(f"[data-pin='{frame:g}']")).to_have_count(1)

    def test_a_range_is_drawn_on_the_ruler_and_taken_out_with_shakes_as_they_were(self) -> None:
        page = self.open(SHOT)
        before = self.shot()
        page.get_by_label("Edit time").first.click()
        row = page.get_by_role("region", name="Edit time")
        row.get_by_role("button", name="take out").click()
        ruler = page.get_by_test_id("ruler").bounding_box()
        assert ruler is not None
        page.keyboard.down("Shift")
        y = ruler["y"] + 10
        self.pull((ruler["x"] + ruler["width"] * 0.3, y), (ruler["x"] + ruler["width"] * 0.4, y))
        page.keyboard.up("Shift")
        first = int(row.get_by_role("spinbutton", name="from frame").inner_text())
        last = int(row.get_by_role("spinbutton", name="to frame").inner_text())
        self.assertGreater(last - first, 10)
        row.get_by_label("Shakes").select_option("stay unchanged")
        row.get_by_role("button", name="Apply").click()
        expect(page.get_by_label(f"Undo: Take out frames {first} to {last}")).to_be_visible()
        settled(page)
        after = self.shot()
        self.assertEqual(after.frame_count, before.frame_count - (last - first + 1))
        was, now = evaluate(before).bare.position_m, evaluate(after).bare.position_m
        np.testing.assert_allclose(now[first - 1 :], was[last:], atol=1e-9)

    def test_people_find_it_by_their_own_words(self) -> None:
        page = self.open(SHOT)
        for word in ("insert", "delay", "later", "shift", "offset", "ripple", "retime"):
            page.keyboard.press("Control+k")
            page.get_by_label("Search commands").fill(word)
            titles = page.get_by_role("option").all_inner_texts()
            self.assertTrue(any("frames …" in each or "everything after" in each for each in titles), (word, titles))
            page.keyboard.press("Escape")
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("ripple")
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name="Edit time")).to_be_visible()

    def test_what_makes_no_sense_is_told_and_changes_nothing(self) -> None:
        page = self.open(SHOT)
        revisions = self.library().history(SHOT).count
        page.get_by_label("Edit time").first.click()
        self.type_into("at frame", "9000")
        page.get_by_role("region", name="Edit time").get_by_role("button", name="Apply").click()
        expect(page.get_by_role("alert").first).to_contain_text("the shot goes from frame 1 to")
        self.assertEqual(self.library().history(SHOT).count, revisions)

    def test_the_ruler_stands_over_the_lanes(self) -> None:
        page = self.open(SHOT)
        ruler = page.get_by_test_id("ruler").bounding_box()
        lane = page.get_by_role("button", name="Select the move").bounding_box()
        assert ruler is not None and lane is not None
        self.assertAlmostEqual(ruler["x"], lane["x"], delta=1.0)
        self.assertAlmostEqual(ruler["width"], lane["width"], delta=1.0)

    def test_a_cut_is_read_told_and_taken(self) -> None:
        page = self.open("mast-fall")
        page.keyboard.press("i")
        page.get_by_label("Camera path file").set_input_files(CUT)
        told = page.get_by_role("region", name="What the cut changes")
        expect(told).to_contain_text("time runs at 50 %: 30 frames last 60")
        told.get_by_role("spinbutton", name="Handles").dblclick()
        told.get_by_role("textbox", name="Handles").fill("6")
        page.keyboard.press("Enter")
        expect(told).to_contain_text("6 frames of handles on both sides")
        told.get_by_role("button", name="Conform to the cut").click()
        expect(page.get_by_label("Undo: Conform to cut: frames 21 to 50")).to_be_visible()
        settled(page)
        document = self.library().state("mast-fall").document
        self.assertEqual((document.first_frame, document.last_frame), (15, 86))
