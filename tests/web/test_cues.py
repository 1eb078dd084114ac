"""Cues: set at the playhead, tapped in while it plays, dragged, named, given a place in the set, and what hits make
of them.
"""

import re
from pathlib import Path

from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.shot.cues import Cue
from zittern.core.shot.targets import MiddleTarget, MountTarget

SHOT = "jetty-walk"


class Cues(WithPage):
    def cues(self) -> tuple[Cue, ...]:
        return self.library().state(SHOT).document.cues

    def test_set_named_placed_dragged_copied_and_removed(self) -> None:
        page = self.open(SHOT)
        expect(page.get_by_test_id("cues")).to_have_count(0)
        self.go_to(41)
        page.keyboard.press("q")
        expect(page.get_by_label("Undo: Cue at frame 41")).to_be_visible()
        page.get_by_label("Name of the cue").fill("Plank")
        page.get_by_label("Name of the cue").press("Enter")
        expect(page.get_by_role("button", name="Cue Plank", exact=True)).to_be_visible()
        self.drag("Strength of the cue", 40)
        page.get_by_role("button", name="pick", exact=True).click()
        pane = page.get_by_test_id("set-view")
        expect(pane).to_contain_text("click where the cue is")
        pane.click(position={"x": 360, "y": 230})
        expect(page.get_by_role("spinbutton", name="Place of the cue, height")).to_be_visible()
        (cue,) = self.cues()
        self.assertEqual((cue.frame, cue.name), (41.0, "Plank"))
        self.assertAlmostEqual(cue.strength, 1.2, places=3)
        assert cue.place_m is not None
        self.assertTrue(abs(cue.place_m[0]) < 1.5 and abs(cue.place_m[1]) < 0.3, cue.place_m)
        flag = page.locator("[data-cue]")
        box = flag.bounding_box()
        assert box is not None
        for keys, count in (([], 1), (["Alt"], 2)):
            for key in keys:
                page.keyboard.down(key)
            self.pull((box["x"] + 3, box["y"] + 6), (box["x"] + 60, box["y"] + 6))
            for key in keys:
                page.keyboard.up(key)
            settled(page)
            self.assertEqual(len(self.cues()), count)
            box = flag.first.bounding_box()
            assert box is not None
        first, second = self.cues()
        self.assertTrue(41 < first.frame < second.frame, (first.frame, second.frame))
        page.keyboard.press("Delete")
        expect(flag).to_have_count(1)

    def test_at_the_subject_a_mount_and_the_middle_of_both(self) -> None:
        page = self.open("signal-run")
        self.go_to(41)
        page.keyboard.press("q")
        place = page.get_by_label("Where the cue happens", exact=True).last
        place.select_option("subject")
        where = page.get_by_role("group", name="Where the cue happens")
        expect(where).to_contain_text(re.compile(r"at its frame x -?\d"))
        told = where.inner_text()
        mount = self.library().state("signal-run").document.mounts[0].id
        page.get_by_label("Where the cue happens, middle of it and").select_option(f"mount:{mount}")
        expect(where).not_to_contain_text(told.split("at its frame")[1].strip())
        settled(page)
        cue = self.library().state("signal-run").document.cues[0]
        assert isinstance(cue.on, MiddleTarget)
        self.assertEqual((cue.on.one.kind, cue.on.other), ("subject", MountTarget(mount=mount)))
        place.select_option(label="nowhere")
        expect(where).to_contain_text("No position")
        settled(page)
        self.assertFalse(self.library().state("signal-run").document.cues[0].placed)

    def test_tapped_in_while_it_plays_and_the_camera_rings(self) -> None:
        page = self.open(SHOT)
        page.get_by_label("Add layer").first.click()
        page.get_by_role("menuitem", name="Hit").click()
        settled(page)
        page.get_by_label("at the start").uncheck()
        settled(page)
        self.go_to(61)
        still = self.pose()
        page.keyboard.press("Home")
        page.keyboard.press("Space")
        for frame in (20, 45):
            page.wait_for_function("frame => Number(document.querySelector('[data-testid=frame]').textContent) >= "
                                   "frame", arg=frame)
            page.keyboard.press("q")
        page.keyboard.press("Space")
        settled(page)
        expect(page.locator("[data-cue]")).to_have_count(2)
        frames = [cue.frame for cue in self.cues()]
        self.assertTrue(20 <= frames[0] < frames[1], frames)
        self.go_to(int(frames[1]) + 3)
        ringing = self.pose()
        page.keyboard.down("b")
        self.assertGreater(abs(self.pose() - ringing).max(), 1e-3)
        page.keyboard.up("b")
        self.assertEqual(len(still), 6)

    def test_out_as_csv_and_in_again(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("q")
        page.get_by_label("CSV of cues").set_input_files({"name": "c.csv", "mimeType": "text/csv", "buffer": b"frame,name\n24,Thud\n48,"})
        expect(page.get_by_label("Undo: Add 2 cues")).to_be_visible()
        expect(page.locator("[data-cue]")).to_have_count(3)
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export CSV").click()
        self.assertIn("24.0,0.958333333,Thud,1.0,,,", Path(taken.value.path()).read_text())
        page.get_by_label("CSV of cues").set_input_files({"name": "c.csv", "mimeType": "text/csv", "buffer": b"frame\nsoon"})
        expect(page.get_by_role("alert").first).to_contain_text("a number is expected, got 'soon' (line 2, column "
                                                                "frame)")
        self.assertEqual(len(self.cues()), 3)
