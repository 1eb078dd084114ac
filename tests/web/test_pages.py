"""Projects page, accessibility, odd states."""

import json
import re
import sqlite3
from contextlib import closing
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate

AXE = Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js"
LONG = "The courier who carried letters between the tide stations until the third flood of the year " * 1


def serious(page: Page) -> list[str]:
    """Serious and critical findings of axe on what is shown."""
    page.evaluate(AXE.read_text() + "; undefined")
    fading = page.evaluate("document.getAnimations().filter((each) => each instanceof CSSTransition).map((each) => "
                           "each.transitionProperty)")
    assert fading == [], f"still fading: {fading}"
    results = page.evaluate("axe.run(document, { resultTypes: ['violations'] })")
    return [f"{v['id']}: {json.dumps([n['html'][:140] for n in v['nodes'][:3]])}" for v in results["violations"] if v["impact"] in ("serious", "critical")]


class BrokenShot(WithPage):
    home = True

    def test_it_says_what_is_wrong_and_can_be_saved_and_removed(self) -> None:
        with closing(sqlite3.connect(self.folder / "data/zittern.db")) as connection:
            connection.execute("UPDATE revisions SET document = x'00ff' WHERE shot_id = (SELECT id FROM shots WHERE "
                               "slug = 'lamp-close')")
            connection.commit()
        self.page.reload()
        card = self.page.get_by_role("article", name="lamp-close")
        expect(card).to_contain_text("Cannot be read: the stored bytes are damaged")
        expect(self.page.get_by_role("link", name="Jetty walk", exact=True)).to_be_visible()
        with self.page.expect_download() as download:
            card.get_by_role("link", name="Download the raw document").click()
        self.assertEqual(Path(download.value.path()).read_bytes(), b"\x00\xff")
        self.page.goto(f"{self.server.url}shot/lamp-close")
        expect(self.page.get_by_role("heading", name="This shot cannot be opened")).to_be_visible()
        expect(self.page.get_by_text("Export it raw")).to_be_visible()
        self.page.get_by_role("link", name="All projects").click()
        card.get_by_role("button", name="Remove lamp-close").click()
        card.get_by_role("button", name="Really remove lamp-close").click()
        expect(card).to_have_count(0)


class LongShot(WithPage):
    home = True

    def test_a_hundred_thousand_frames_are_looked_at_closely_where_one_is(self) -> None:
        long = self.library().state("jetty-walk-swaying").document.replace(name="Watch", last_frame=100_000)
        self.library().add_shot("saltmarsh-post", long, slug="watch")
        page = self.open("watch")
        expect(page.get_by_role("img", name="Waveform of sum")).to_be_visible()
        page.keyboard.press("End")
        viewfinder = page.locator("[data-testid=viewfinder]")
        expected = evaluate(long, np.array([100_000.0])).pose
        expect(viewfinder).to_have_attribute("data-pose", re.compile(re.escape(f"{np.float32(expected.position_m[0, 0]):.7g}"[:9])))
        for _ in range(5):
            page.keyboard.press("ArrowLeft")
        page.get_by_role("button", name="Select the move").click()
        page.keyboard.press("t")
        expect(page.get_by_role("table", name="Frame table").get_by_role("textbox", name="at frame 99995").first).to_have_value(re.compile("^-?[0-9.]+$"))


class Projects(WithPage):
    home = True

    def test_make_a_project_and_a_shot_duplicate_and_remove_it(self) -> None:
        self.page.get_by_label("Name of a new project").fill("Second reel")
        self.page.get_by_role("button", name="New project").click()
        shelf = self.page.get_by_role("region", name="Second reel")
        expect(shelf.get_by_text("No shots yet")).to_be_visible()
        shelf.get_by_role("button", name="New shot").click()
        form = self.page.get_by_role("dialog", name="New shot")
        form.get_by_label("Name of the new shot").fill(LONG)
        form.get_by_role("button", name="Create").click()
        self.page.wait_for_url("**/shot/the-courier-*")
        settled(self.page)
        expect(self.page.get_by_text("no keys (static)")).to_be_visible()
        self.page.get_by_label("Zittern: all projects").click()
        shelf.get_by_role("button", name="Duplicate The courier").click()
        expect(shelf.get_by_role("article")).to_have_count(2)
        first = shelf.get_by_role("article").first
        first.get_by_role("button", name="Remove The courier").click()
        first.get_by_role("button", name="Really remove The courier").click()
        expect(shelf.get_by_role("article")).to_have_count(1)

    def test_a_shot_that_is_not_there(self) -> None:
        self.page.goto(f"{self.server.url}shot/never-made")
        expect(self.page.get_by_text("This shot cannot be opened")).to_be_visible()
        self.page.get_by_role("link", name="All projects").click()
        expect(self.page.get_by_role("heading", name="Saltmarsh Post")).to_be_visible()

    def test_when_the_server_is_gone_the_change_is_not_pretended(self) -> None:
        self.open("jetty-walk-swaying").wait_for_load_state("networkidle")
        self.server.kill()
        self.page.get_by_role("button", name="Mute Slow sway").click()
        expect(self.page.get_by_role("alert").first).to_contain_text("did not answer")
        expect(self.page.get_by_role("button", name="Mute Slow sway")).to_have_attribute("aria-pressed", "false")


class ProjectFile(WithPage):
    home = True

    def test_a_project_is_saved_to_a_file_and_opened_as_another_one(self) -> None:
        page = self.page
        with page.expect_download() as download:
            page.get_by_role("link", name="Save as a file").click()
        self.assertEqual(download.value.suggested_filename, "saltmarsh-post.zittern")
        path = self.folder / "saltmarsh-post.zittern"
        download.value.save_as(path)
        page.get_by_label("Project file").set_input_files(path)
        expect(page.get_by_text("“Saltmarsh Post 2” is open: 10 shots")).to_be_visible()
        second = page.get_by_role("region", name="Saltmarsh Post 2")
        expect(second.get_by_role("article")).to_have_count(10)
        path.write_bytes(b"no zip")
        page.get_by_label("Project file").set_input_files(path)
        expect(page.get_by_text("this is no zip")).to_be_visible()


class ThisShot(WithPage):
    home = True

    def test_what_a_shot_is_made_of_can_be_changed_later(self) -> None:
        page = self.open("jetty-walk-swaying")
        page.get_by_role("button", name="Shot settings: Jetty walk, swaying").click()
        page.get_by_role("textbox", name="First frame").fill("500")
        page.get_by_role("button", name="Apply").click()
        expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("the last frame (192) comes before "
                                                                                "the first (500); make it 500 or later")
        expect(page.get_by_role("textbox", name="First frame")).to_have_value("500")
        page.get_by_role("textbox", name="Last frame").fill("700")
        page.get_by_role("textbox", name="Name of the shot").fill("Jetty, late")
        page.get_by_role("textbox", name="Frame rate").fill("23.976")
        page.get_by_role("group",
            name="When the frame rate changes, keep").get_by_label("their frames").check()
        page.get_by_role("group", name="When the first frame changes, keys and spans").get_by_label("move along").check()
        page.get_by_label("Resolution", exact=True).select_option("Custom …")
        page.get_by_label("Width of the picture in pixels").fill("2400")
        page.get_by_role("button", name="Apply").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        settled(page)
        expect(page.get_by_role("button", name="Shot settings: Jetty, late")).to_be_visible()
        shot = self.library().state("jetty-walk-swaying").document
        self.assertEqual((shot.name, shot.first_frame, shot.last_frame, str(shot.fps), shot.picture.width_px), ("Jetty, late", 500, 700, "24000/1001", 2400))
        self.assertEqual([key.frame for key in shot.mounts[0].x_m.curve.keys], [500, 573, 635,
            691])  # type: ignore[union-attr]
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name="Shot settings: Jetty walk, swaying")).to_be_visible()

    def test_what_the_boards_do_the_command_list_does_too(self) -> None:
        page = self.open("jetty-walk-swaying")
        self.go_to(11)
        for words, label in (
            ("aim subject wide", "Aim at “Courier” at frame 11"),
            ("constant speed", "Make keys at 5 frames linear"),
            ("after the last key: repeat", "Repeat after the last key"),
            ("lens of 85", "Set focal length at frame 11"),
            ("key the weight", "Set key of weight at frame 11"),
            ("add/replace", "Set add or replace in “Slow sway”"),
            ("steady", "Set steady on screen in “Slow sway”"),
            ("swing ×1.5", "Scale “Slow sway” to 150 %"),
        ):
            page.keyboard.press("Control+k")
            page.get_by_role("combobox", name="Search commands").fill(words)
            page.keyboard.press("Enter")
            expect(page.get_by_label(f"Undo: {label}")).to_be_visible()


class Head(WithPage):
    # Neighbours in a row: by how much each begins before the one on its left ends.
    OVERLAP_PX = """() => {
      const boxes = [...document.querySelectorAll("header button, header a")].map((each) => each.getBoundingClientRect());
      boxes.sort((a, b) => a.left - b.left);
      return Math.max(...boxes.slice(1).map((box, n) => boxes[n].right - box.left));
    }"""

    def test_nothing_lies_on_anything_else_and_names_are_whole(self) -> None:
        page = self.open("jetty-walk-handheld")
        self.assertLessEqual(page.evaluate(self.OVERLAP_PX), 0)
        name = page.get_by_role("button", name=re.compile("^Shot settings"))
        self.assertTrue(name.evaluate("name => name.scrollWidth <= name.clientWidth"))
        # The undo label gives way.
        page.keyboard.press("m")
        expect(page.get_by_label(re.compile("^Undo: "))).to_be_visible()
        self.assertLessEqual(page.evaluate(self.OVERLAP_PX), 0)
        self.assertTrue(name.evaluate("name => name.scrollWidth <= name.clientWidth"))
        self.edit("jetty-walk-handheld", {"type": "set_shot", "name": "The whole of the long walk along the jetty, take nine"})
        page.reload()
        settled(page)
        for width in (1280, 1152, 1024):
            page.set_viewport_size({"width": width, "height": 800})
            self.assertLessEqual(page.evaluate(self.OVERLAP_PX), 0, width)
        page.set_viewport_size({"width": 1280, "height": 800})


class Accessible(WithPage):
    home = True

    def test_projects_page(self) -> None:
        expect(self.page.get_by_role("link", name="Jetty walk", exact=True)).to_be_visible()
        self.assertEqual(serious(self.page), [])

    def test_messages_and_the_pad_of_a_blend(self) -> None:
        page = self.open("jetty-walk")
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("Paste layers")
        page.keyboard.press("Enter")
        expect(page.get_by_role("status").filter(has_text="Nothing to paste").or_(
            page.get_by_role("alert").filter(has_text="Nothing to paste"))).to_be_visible()
        self.assertEqual(serious(page), [], "a message")
        page.keyboard.press("r")
        for name in ("Run", "Small boat"):
            page.get_by_label(f"Compare {name}", exact=True).check()
        page.get_by_role("button", name="Blend these").click()
        expect(page.get_by_test_id("blend-pad")).to_be_visible()
        settled(page)
        self.assertEqual(serious(page), [], "a blend")

    def test_bench_empty_and_full_and_dialogs(self) -> None:
        for slug in ("jetty-walk", "jetty-walk-swaying"):
            self.open(slug)
            self.assertEqual(serious(self.page), [], slug)
        for key, title in (("e", "Export the motion"), ("i", "Import a camera path"), ("Control+k", "Commands")):
            self.page.keyboard.press(key)
            expect(self.page.get_by_role("dialog", name=title)).to_be_visible()
            self.assertEqual(serious(self.page), [], title)
            self.page.keyboard.press("Escape")
            expect(self.page.get_by_role("dialog")).to_have_count(0)
        self.page.locator("[data-pin='74']").click()
        expect(self.page.get_by_role("button", name="Aim at Courier")).to_be_visible()
        self.assertEqual(serious(self.page), [], "move board")
        self.page.get_by_role("button", name="Shot settings:").click()
        expect(self.page.get_by_role("dialog", name="Shot settings")).to_be_visible()
        self.assertEqual(serious(self.page), [], "this shot")

    def test_every_sheet_every_tab_and_the_other_dialogs(self) -> None:
        page = self.open("jetty-walk-handheld")
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        for key, shown in (("c", "sheet"), ("t", "sheet"), ("r", "presets")):
            page.keyboard.press(key)
            expect(page.get_by_test_id(shown)).to_be_visible()
            self.assertEqual(serious(page), [], key)
            page.keyboard.press("Escape")
        for tab in ("rig", "springs", "operator", "ride"):
            page.get_by_role("tab", name=tab).click()
            expect(page.get_by_role("tab", name=tab)).to_have_attribute("aria-selected", "true")
            self.assertEqual(serious(page), [], tab)
        for key, title in (("d", "New dial"), ("Control+h", "History")):
            page.keyboard.press(key)
            expect(page.get_by_role("dialog", name=title)).to_be_visible()
            self.assertEqual(serious(page), [], title)
            page.keyboard.press("Escape")
        page.get_by_role("button", name="Clip Whole shot").click()
        self.assertEqual(serious(page), [], "clip board")
        page.keyboard.press("j")
        expect(page.get_by_role("dialog")).to_be_visible()
        self.assertEqual(serious(page), [], "save as preset")

    def test_the_board_of_a_plate(self) -> None:
        page = self.open("surge-plates")
        page.keyboard.press("End")
        page.get_by_label("Pieces of the set").click()
        page.get_by_role("menuitem", name="plate: Storm sky").click()
        expect(page.get_by_text("Any one of these fixes it")).to_be_visible()
        expect(page.locator("[data-bare]").first).to_be_visible()
        page.mouse.move(5, 5)
        self.assertEqual(serious(page), [])

    def test_new_shot(self) -> None:
        self.page.get_by_role("button", name="New shot").first.click()
        expect(self.page.get_by_role("dialog", name="New shot")).to_be_visible()
        self.assertEqual(serious(self.page), [])

    def test_dark_paper(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("Control+k")
        self.page.get_by_role("combobox", name="Search commands").fill("paper")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("[data-theme=paper-night]")).to_be_visible()
        self.assertEqual(serious(self.page), [])
