"""Variants: switched by keys while it plays, edited each for itself, side by side, wiped, tested blind."""

import re

from playwright.sync_api import Request, expect

from tests.web.harness import not_following, settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.point_readings import read
from zittern.core.shot.through_variant import through_variant
from zittern.core.shot.shot import Shot

SHOT = "signal-run"


class Variants(WithPage):
    def setUp(self) -> None:
        super().setUp()
        self.said: list[str] = []
        # What a part of the page falls over, and gets up from, is said there.
        self.listen("console", lambda message: self.said.append(message.text) if message.type == "error" else None)

    def of(self, variant: str) -> Shot:
        return through_variant(self.library().state(SHOT).document, variant)

    def shown(self, name: str) -> None:
        expect(self.page.locator(f"button[aria-label='Variant: {name}']")).to_be_visible()

    def test_keys_switch_while_it_plays_and_make_no_revision(self) -> None:
        page = self.open(SHOT)
        before = self.library().history(SHOT).count
        page.keyboard.press("Space")
        for key, name, clip in (("2", "Stand to run", "Stand to walk to run"), ("1", "Main", "Brisk walk"), ("Shift+N", "Stand to run", "Breath")):
            page.keyboard.press(key)
            self.shown(name)
            expect(page.get_by_role("button", name=f"Clip {clip}")).to_be_visible()
            expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.keyboard.press("Space")
        page.reload()
        self.shown("Stand to run")
        self.assertEqual(self.library().history(SHOT).count, before)
        page.keyboard.press("5")
        expect(page.get_by_text("“Show variant 5”")).to_be_visible()

    def test_an_edit_goes_to_the_one_that_is_shown_and_the_counterpart_stays_selected(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Clip Breath").click()
        page.keyboard.press("2")
        self.shown("Stand to run")
        expect(page.get_by_role("textbox", name="Clip name")).to_have_value("Breath")
        page.keyboard.press("m")
        settled(page)
        muted = [[each.name for each in self.of(name).clips() if each.mute] for name in ("Main", "Stand to run")]
        self.assertEqual(muted, [[], ["Breath"]])
        page.keyboard.press("Control+z")
        settled(page)
        self.shown("Stand to run")
        self.assertEqual(list(self.of("Stand to run").clips())[0].mute, False)

    def test_an_edit_made_while_another_is_being_switched_to_stays_where_it_was_made(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Clip Breath").click()
        page.evaluate(
            """() => { for (const key of ["2", "m"]) dispatchEvent(new KeyboardEvent("keydown", {key, bubbles: true})); }"""
        )
        self.shown("Stand to run")
        settled(page)
        muted = [[each.name for each in self.of(name).clips() if each.mute] for name in ("Main", "Stand to run")]
        self.assertEqual(muted, [["Breath"], []])
        self.shown("Stand to run")

    def test_an_edit_of_time_that_is_being_chosen_is_shown_in_the_one_that_is_switched_to(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+I")
        clip = page.get_by_role("button", name="Clip Brisk walk")
        expect(clip).to_have_attribute("title", re.compile("frames 1 to 216"))
        page.keyboard.press("2")
        self.shown("Stand to run")
        expect(page.get_by_role("button", name="Clip Stand to walk to run")).to_have_attribute("title", re.compile("frames 1 to 216"))
        page.keyboard.press("1")
        expect(clip).to_have_attribute("title", re.compile("frames 1 to 216"))
        page.get_by_role("button", name="Cancel").click()
        expect(clip).to_have_attribute("title", re.compile("frames 1 to 192"))
        self.assertEqual(self.said, [])

    def test_presets_that_are_compared_are_tried_on_in_the_one_that_is_switched_to(self) -> None:
        page = self.open(SHOT)
        # Nothing is selected that would be another in each variant.
        page.keyboard.press("Escape")
        page.keyboard.press("r")
        page.get_by_label("Compare Careful walk", exact=True).check()
        expect(page.locator("[data-trial=careful-walk][data-ready=yes]")).to_be_visible()

        def tried_on(request: Request) -> bool:
            return "place_preset" in (request.post_data or "") and request.headers.get("zittern-variant") == "variant-1"

        with page.expect_request(tried_on):
            page.keyboard.press("2")
        self.shown("Stand to run")

    def test_made_named_noted_ordered_deleted(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+W")
        dialog = page.get_by_role("dialog", name="Variants")
        dialog.get_by_role("button", name="New variant").click()
        self.shown("Variant 3")
        name = dialog.get_by_label("Name of variant Variant 3")
        name.fill("Calm at last, with a very long name that has no room")
        name.press("Enter")
        dialog.get_by_label("Note on Calm at last").fill("for the close view")
        dialog.get_by_label("Note on Calm at last").press("Enter")
        settled(page)
        expect(dialog.get_by_role("button", name="Move Stand to run to place 2").locator("svg.lucide-arrow-up")).to_be_visible()
        dialog.get_by_role("button", name="Move Calm at last, with a very long name that has no room to place 1").click()
        dialog.get_by_label("Make Calm at last").click()
        settled(page)
        stored = self.library().state(SHOT).document
        self.assertEqual(stored.main, "variant-2")
        self.assertEqual([(each.name[:4], each.note) for each in stored.variants][:2], [("Calm", "for the close view"), ("Main", "")])
        dialog.get_by_role("button", name="Delete Calm at last").click()
        self.shown("Main")
        page.keyboard.press("Escape")
        page.keyboard.press("Control+z")
        settled(page)
        self.assertEqual(len(self.library().state(SHOT).document.variants), 3)

    def test_one_that_another_window_deletes_is_said_and_nothing_else_is_changed(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("2")
        not_following(page)
        self.shown("Stand to run")
        page.get_by_role("button", name="Clip Breath").click()
        self.edit(SHOT, {"type": "remove_variant", "variant": "variant-1"})
        page.keyboard.press("m")
        expect(page.get_by_text("Another window deleted this variant")).to_be_visible()
        self.shown("Main")
        settled(page)
        self.assertEqual([each.mute for each in self.of("Main").clips()], [False, False, False])
        page.get_by_role("button", name="Bring it back and apply").click()
        self.shown("Stand to run")
        expect(page.get_by_label("Undo: Mute “Breath” · Stand to run")).to_be_visible()
        settled(page)
        self.assertEqual([each.name for each in self.of("Stand to run").clips() if each.mute], ["Breath"])

    def test_layers_are_copied_to_the_next_one(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Clip Panic").click()
        page.keyboard.press("Control+k")
        page.get_by_placeholder("Search commands").fill("copy the selected layers or clip to the next")
        page.keyboard.press("Enter")
        settled(page)
        self.assertIn("Panic", [each.name for each in self.of("Stand to run").clips()])
        self.shown("Main")

    def test_each_chosen_one_is_exported_with_its_name(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("e")
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name=re.compile(r"\.csv")).first.check()
        dialog.get_by_role("checkbox", name="Stand to run").check()
        names: list[str] = []
        self.listen("download", lambda each: names.append(each.suggested_filename))
        dialog.get_by_role("button", name="Export .csv").click()
        expect(page.get_by_text("signal-run-stand-to-run.csv is ready")).to_be_visible()
        self.assertEqual(names, ["signal-run-main.csv", "signal-run-stand-to-run.csv"])


class Beside(WithPage):
    def beside(self) -> None:
        self.open(SHOT)
        self.page.get_by_role("button", name="Variant: Main").click()
        self.page.get_by_role("menuitem", name="Compare with Stand to run").click()
        self.page.locator("[data-side='variant:variant-1'][data-ready=yes]").wait_for()

    def run_command(self, words: str) -> None:
        self.page.keyboard.press("Control+k")
        self.page.get_by_placeholder("Search commands").fill(words)
        self.page.keyboard.press("Enter")

    def typical_px(self, variant: str) -> str:
        shot = self.library().state(SHOT, variant).document
        return f"{read(shot, evaluate(shot), 1).typical_px:.0f}"

    def test_variants_the_bare_move_and_a_revision_stand_beside_the_shot_with_their_readings(self) -> None:
        page = self.page
        self.beside()
        expect(page.get_by_test_id("sides").get_by_text(f"Stand to run · typical {self.typical_px('Stand to run')} px")).to_be_visible()
        expect(page.get_by_label("Waveform of the difference to Stand to run")).to_be_visible()
        self.run_command("compare with the move without motion layers")
        expect(page.locator("[data-side=bare][data-ready=yes]")).to_be_visible()
        self.edit(SHOT, {"type": "set_shot", "name": "Signal"})
        self.open(SHOT)
        page.keyboard.press("Control+h")
        page.get_by_role("button", name="Side by side").click()
        expect(page.get_by_test_id("sides").get_by_text(f"Revision: Demo shot · typical {self.typical_px('Main')} px")).to_be_visible()
        page.get_by_role("button", name="Stop comparing Revision: Demo shot").click()
        expect(page.get_by_test_id("set-view")).to_be_visible()

    def test_space_plays_after_a_choice_in_the_menu(self) -> None:
        self.beside()
        self.page.keyboard.press("Space")
        expect(self.page.get_by_role("button", name="Pause")).to_be_visible()

    def test_another_shot_in_the_same_set_stands_beside_it(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+W")
        choice = page.get_by_role("combobox", name="Compare with")
        expect(choice.get_by_role("option", name="Sled run (in another set)")).to_be_disabled()
        choice.select_option("jetty-walk-handheld")
        expect(page.get_by_test_id("sides").get_by_text(re.compile("Jetty walk, handheld · typical [0-9]+ px"))).to_be_visible()

    def test_a_wipe_shows_the_other_right_of_its_line(self) -> None:
        page = self.page
        self.beside()
        pane, button = page.get_by_test_id("sides").bounding_box(), page.get_by_role("button", name="Wipe").bounding_box()
        assert pane is not None and button is not None
        foot = pane["y"] + (pane["height"] + pane["width"] * 9 / 16) / 2
        self.assertLessEqual(button["y"] + button["height"], foot, "it stands in the picture")
        page.get_by_role("button", name="Wipe").click()
        line = page.get_by_role("slider", name="Line of the wipe")
        self.assertEqual(line.get_attribute("aria-valuenow"), "50")
        box = line.bounding_box()
        assert box is not None
        self.pull((box["x"] + 12, box["y"] + 100), (box["x"] + 112, box["y"] + 100))
        expect(line).not_to_have_attribute("aria-valuenow", "50")
        before = int(line.get_attribute("aria-valuenow") or 0)
        self.assertGreater(before, 60)
        line.focus()
        page.keyboard.press("ArrowLeft")
        expect(line).to_have_attribute("aria-valuenow", str(before - 2))

    # Whether A is the other variant, round by round: what the page would draw at random.
    TURNED = (0, 1, 0, 1, 1)

    def blind_test(self) -> None:
        self.beside()
        self.page.evaluate(
            "(drawn) => { crypto.getRandomValues = (into) => { into.set(drawn.slice(0, into.length)); return into; }; }",
            self.TURNED,
        )
        self.page.get_by_role("button", name="Blind test").click()

    def test_a_blind_test_shows_two_equal_pictures_and_nothing_that_names_them(self) -> None:
        page = self.page
        self.blind_test()
        for number in range(1, 6):
            expect(page.get_by_text(f"Round {number} of 5")).to_be_visible()
            expect(page.locator("[data-place][data-ready=yes]")).to_have_count(2)
            boxes = [page.locator(f"[data-place={place}]").bounding_box() for place in "AB"]
            assert boxes[0] is not None and boxes[1] is not None
            self.assertAlmostEqual(boxes[0]["width"], boxes[1]["width"], delta=1.0)
            self.assertEqual([boxes[0][each] for each in ("y", "height")], [boxes[1][each] for each in ("y", "height")])
            body = page.locator("main").inner_text()
            for word in ("Stand to run", "swing", "px", "blur", "typical", "peak"):
                self.assertNotIn(word, body)
            expect(page.get_by_label("Lanes")).to_have_count(0)
            expect(page.locator("[data-testid=viewfinder], [data-testid=scribble]")).to_have_count(0)
            page.keyboard.press("2")
            page.keyboard.press("Delete")
            page.get_by_role("button", name="No difference").click()
        expect(page.get_by_test_id("blind-result")).to_contain_text("Stand to runpreferred 0 ×")
        expect(page.get_by_test_id("blind-result")).to_contain_text("No difference5 ×")
        expect(page.get_by_role("button", name="Use the preferred one")).to_have_count(0)
        page.get_by_role("button", name="Close").click()
        expect(page.get_by_test_id("sides")).to_be_visible()

    def test_the_preferred_one_of_a_blind_test_becomes_the_main_variant(self) -> None:
        page = self.page
        self.blind_test()
        for number, turned in enumerate(self.TURNED, start=1):
            expect(page.get_by_text(f"Round {number} of 5")).to_be_visible()
            # Four times for the other, once for the shot.
            page.get_by_role("button", name="A, left" if bool(turned) is (number != 2) else "B, right").click()
        result = page.get_by_test_id("blind-result")
        expect(result).to_contain_text("Mainpreferred 1 ×")
        expect(result).to_contain_text("Stand to runpreferred 4 ×")
        page.get_by_role("button", name="Use the preferred one").click()
        expect(page.locator("button[aria-label='Variant: Stand to run']")).to_be_visible()
        settled(page)
        self.assertEqual(self.library().state(SHOT).document.main, "variant-1")

    def test_an_edit_ends_a_blind_test(self) -> None:
        self.edit(SHOT, {"type": "set_shot", "name": "Signal"})
        self.blind_test()
        expect(self.page.get_by_text("Round 1 of 5")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_test_id("sides")).to_be_visible()
