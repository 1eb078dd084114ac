"""The animator's first sitting: a clean path, a handheld feel, tuned, taken away."""

import json
import re

import numpy as np
from playwright.sync_api import expect

from tests.web.harness import BROWSING, not_following, settled
from tests.web.making import WithPage


class HandheldFeel(WithPage):
    home = True

    def test_from_the_projects_page_to_a_shaken_shot_and_back(self) -> None:
        self.page.get_by_role("link", name="Jetty walk", exact=True).click()
        settled(self.page)
        expect(self.page.get_by_text("No motion yet")).to_be_visible()
        bare = self.poses(range(60, 72))
        self.page.get_by_role("button", name="Add handheld feel").click()
        expect(self.page.get_by_label("Undo: Add handheld feel")).to_be_visible()
        settled(self.page)
        shaken = self.poses(range(60, 72))
        jerk = [np.abs(np.diff(rows, n=2, axis=0)).max(axis=0) for rows in (bare, shaken)]
        self.assertTrue(np.all(jerk[1][3:] > 3 * jerk[0][3:] + 1e-3), jerk)
        self.assertTrue(np.all(jerk[1][:3] > jerk[0][:3] + 1e-4), jerk)
        self.assertLess(np.abs(shaken - bare)[:, 3:].max(), 3.0)

        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_text("No motion yet")).to_be_visible()
        settled(self.page)
        self.go_to(66)
        np.testing.assert_allclose(self.pose(), bare[6], atol=1e-6)

    def test_bare_move_while_the_key_is_held(self) -> None:
        self.open("jetty-walk-swaying")
        self.go_to(50)
        shaken = self.pose()
        self.page.keyboard.down("b")
        expect(self.page.get_by_test_id("viewfinder").get_by_text("bare move")).to_be_visible()
        bare = self.pose()
        self.page.keyboard.up("b")
        self.assertGreater(np.abs(shaken - bare).max(), 0.01)
        np.testing.assert_array_equal(self.pose(), shaken)


class Tuning(WithPage):
    def test_a_dragged_swing_shows_while_it_moves_and_is_one_revision(self) -> None:
        self.open("jetty-walk-swaying")
        self.go_to(40)
        start, before = self.number("Swing of pan"), self.pose()
        in_picture = self.page.locator("[data-axis=pan] td").nth(3)
        quiet = in_picture.inner_text()
        box = self.page.get_by_role("spinbutton", name="Swing of pan", exact=True).bounding_box()
        assert box is not None
        x, y = box["x"] + 20, box["y"] + 8
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        for step in (10, 40, 80, 120):
            self.page.mouse.move(x + step, y)
        expect(in_picture).not_to_have_text(quiet)
        self.assertGreater(abs(self.pose()[3] - before[3]), 0.001)
        expect(self.page.get_by_label("Undo: Set swing")).to_have_count(0)
        self.page.mouse.move(x + 121, y)
        self.page.mouse.up()
        settled(self.page)
        expect(self.page.get_by_label("Undo: Set swing of pan")).to_be_visible()
        self.assertGreater(self.number("Swing of pan"), 2 * start)
        self.assertGreater(abs(self.pose()[3] - before[3]), 0.01)
        self.assertEqual(self.library().history("jetty-walk-swaying").count, 2)

    def test_state_is_there_after_a_reload_and_undo_still_works(self) -> None:
        self.open("jetty-walk-swaying")
        start = self.number("Swing of tilt")
        self.drag("Swing of tilt", 60)
        changed = self.number("Swing of tilt")
        self.assertNotEqual(changed, start)
        self.page.reload()
        settled(self.page)
        self.assertEqual(self.number("Swing of tilt"), changed)
        self.page.get_by_label("Undo: Set swing of tilt").click()
        expect(self.page.get_by_role("spinbutton", name="Swing of tilt", exact=True)).to_have_attribute("aria-valuenow", str(start))
        self.page.keyboard.press("Control+Shift+z")
        expect(self.page.get_by_role("spinbutton", name="Swing of tilt", exact=True)).to_have_attribute("aria-valuenow", str(changed))

    def test_typing_arithmetic_and_what_is_none(self) -> None:
        self.open("jetty-walk-swaying")
        field = self.page.get_by_role("spinbutton", name="Swing of roll", exact=True)
        field.dblclick()
        entry = self.page.get_by_role("textbox", name="Swing of roll")
        entry.fill("0.2 * (1 + 1.5)")
        entry.press("Enter")
        expect(field).to_have_attribute("aria-valuenow", "0.5")
        field.dblclick()
        entry.fill("half a degree")
        entry.press("Enter")
        expect(entry).to_have_attribute("aria-invalid", "true")
        expect(entry).to_have_value("half a degree")
        entry.press("Escape")
        expect(field).to_have_attribute("aria-valuenow", "0.5")

    def test_rows_selected_together_change_together(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.get_by_role("button", name="pan", exact=True).click()
        self.page.get_by_role("button", name="tilt", exact=True).click(modifiers=["Shift"])
        self.page.get_by_role("spinbutton", name="Swing of tilt", exact=True).dblclick()
        entry = self.page.get_by_role("textbox", name="Swing of tilt")
        entry.fill("0.8")
        entry.press("Enter")
        for axis in ("pan", "tilt"):
            expect(self.page.get_by_role("spinbutton", name=f"Swing of {axis}", exact=True)).to_have_attribute("aria-valuenow", "0.8")
        self.assertNotEqual(self.number("Swing of roll"), 0.8)

    def test_mute_solo_and_a_second_source(self) -> None:
        self.open("jetty-walk-swaying")
        sum_text = self.page.get_by_test_id("sum-size")
        full = sum_text.inner_text()
        self.page.get_by_role("button", name="Mute Slow sway").click()
        expect(self.page.get_by_label("Undo: Mute “Slow sway”")).to_be_visible()
        expect(sum_text).not_to_have_text(full)
        self.page.get_by_label("Add layer").click()
        self.page.get_by_role("menuitem", name="Wave").click()
        expect(self.page.get_by_role("textbox", name="Layer name")).to_have_value("Wave")
        self.page.get_by_label(re.compile("^shape")).select_option("triangle")
        expect(self.page.get_by_label("Undo: Set wave shape in “Wave”")).to_be_visible()
        self.page.keyboard.press("Escape")
        self.assertEqual(self.library().state("jetty-walk-swaying").document.lanes[0].clips[0].layers[-1].source.shape, "triangle")


class Playing(WithPage):
    def test_space_plays_after_a_click_and_presses_after_tab(self) -> None:
        page = self.open("jetty-walk-swaying")
        mute = page.get_by_role("button", name="Mute Slow sway")
        mute.click()
        expect(mute).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("Space")
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.keyboard.press("Space")
        expect(page.get_by_role("button", name="Play")).to_be_visible()
        expect(mute).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("Tab")
        page.keyboard.press("Shift+Tab")
        page.keyboard.press("Space")
        expect(mute).to_have_attribute("aria-pressed", "false")
        expect(page.get_by_role("button", name="Play")).to_be_visible()

    def test_play_pause_step_and_scrub(self) -> None:
        self.open("jetty-walk-swaying")
        frame = self.page.get_by_test_id("frame")
        self.page.keyboard.press("Space")
        expect(frame).not_to_have_text("0001")
        self.page.keyboard.press("Space")
        stopped = int(frame.inner_text())
        self.page.keyboard.press("ArrowRight")
        expect(frame).to_have_text(f"{stopped % 192 + 1:04d}" if stopped < 192 else "0192")
        box = self.page.get_by_test_id("ruler").bounding_box()
        assert box is not None
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + 8)
        self.assertAlmostEqual(int(frame.inner_text()), 96, delta=2)
        self.page.locator("[data-pin='74']").click()
        expect(frame).to_have_text("0074")

    def test_editing_goes_on_while_it_plays(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("Space")
        start = self.number("Swing of pan")
        self.drag("Swing of pan", 50)
        self.assertGreater(self.number("Swing of pan"), start)
        expect(self.page.get_by_role("button", name="Pause")).to_be_visible()


class AtRest(WithPage):
    def test_a_page_that_nobody_touches_draws_nothing(self) -> None:
        for slug in ("jetty-walk-swaying", "signal-run"):
            with self.subTest(slug):
                self.open(slug)
                # What comes after the first picture (readings, checks, swatches) may still be under way.
                self.assertIn(True, (self.frames_drawn() < 5 for _ in range(20)))

    def frames_drawn(self) -> int:
        """Frames that the page drew while it was asked something two hundred times."""
        BROWSING.browser().start_tracing(page=self.page, categories=["cc"])
        for _ in range(200):
            self.page.evaluate("1")
        events = json.loads(BROWSING.browser().stop_tracing())["traceEvents"]
        return sum(event["name"] == "ProxyMain::BeginMainFrame" for event in events)


class Drawn(WithPage):
    """What is drawn in the pictures, counted where it is handed to the graphics processor."""

    COUNTS = """
      window.drawn = 0;
      window.instances = [];
      for (const name of ["drawElements", "drawArrays", "drawElementsInstanced"]) {
        const draw = WebGL2RenderingContext.prototype[name];
        WebGL2RenderingContext.prototype[name] = function (...given) {
          window.drawn += 1;
          if (name === "drawElementsInstanced") window.instances.push(given[4]);
          return draw.apply(this, given);
        };
      }"""

    def counted(self, slug: str) -> None:
        self.page = self.fresh_page()
        self.page.add_init_script(self.COUNTS)
        self.open(slug)
        self.at_rest()

    def at_rest(self) -> int:
        """How much has been drawn by the time when nothing more is."""
        seen = [-1, 0]
        while seen[-1] != seen[-2]:
            for _ in range(40):
                now = self.page.evaluate("new Promise((done) => requestAnimationFrame(() => done(window.drawn)))")
            seen.append(now)
        return seen[-1]

    def test_what_lies_beside_the_pictures_draws_none_anew(self) -> None:
        self.counted("jetty-walk-swaying")
        page = self.page
        before = self.at_rest()
        ruler = page.get_by_label("Frames", exact=True)
        ruler.hover()
        page.keyboard.down("Control")
        page.mouse.wheel(0, -240)
        page.keyboard.up("Control")
        page.get_by_role("button", name="Fine shake", exact=True).first.click()
        expect(page.get_by_role("textbox", name="Layer name")).to_have_value("Fine shake")
        page.keyboard.press("Control+k")
        page.keyboard.press("Escape")
        self.assertEqual(self.at_rest(), before)
        for key in ("ArrowRight", "b"):
            page.keyboard.press(key)
            now = self.at_rest()
            self.assertGreater(now, before, key)
            before = now
        page.get_by_role("button", name="Select the move").click(position={"x": 3, "y": 40})
        self.assertGreater(self.at_rest(), before)

    # Where on a canvas of which width something was drawn, frame by frame.
    PLACES = """
      window.places = [];
      let tick = 0;
      const count = () => { tick += 1; requestAnimationFrame(count); };
      count();
      const scissor = WebGL2RenderingContext.prototype.scissor;
      WebGL2RenderingContext.prototype.scissor = function (...given) {
        window.places.push([this.canvas.width, tick, given[0]]);
        return scissor.apply(this, given);
      };"""

    def test_both_pictures_are_there_at_once_when_they_become_coarse(self) -> None:
        page = self.page = self.fresh_page()
        page.add_init_script("localStorage.setItem('zittern.light', 'no')")
        page.add_init_script(self.PLACES)
        self.open("jetty-walk-swaying")
        self.page.evaluate("window.places = []")
        # Tried on as it is chosen.
        page.keyboard.press("Shift+I")
        page.wait_for_function("window.places.length > 0")
        (width, first, _), *_ = places = page.evaluate("window.places")
        at = {x for wide, tick, x in places if (wide, tick) == (width, first)}
        self.assertEqual(len(at), 2)

    def test_pictures_are_coarse_while_the_playhead_is_dragged(self) -> None:
        page = self.page = self.fresh_page()
        page.add_init_script("localStorage.setItem('zittern.light', 'no')")
        page.add_init_script(self.PLACES)
        self.open("jetty-walk-swaying")
        page.wait_for_function("window.places.length > 0")
        fine = page.evaluate("window.places.at(-1)[0]")
        box = page.get_by_test_id("ruler").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 40, box["y"] + 5)
        page.mouse.down()
        page.mouse.move(box["x"] + 90, box["y"] + 5)
        page.wait_for_function("fine => window.places.at(-1)[0] < fine", arg=fine)
        page.mouse.up()
        page.wait_for_function("fine => window.places.at(-1)[0] === fine", arg=fine)

    def test_pins_that_cover_each_other_are_drawn_as_one(self) -> None:
        keys = [{"frame": frame, "value": frame % 7} for frame in range(1, 193, 2)]
        still = [{"at": f"mount:camera.{name}", "value": {"state": "fixed", "value": 1.5}} for name in ("x_m", "y_m", "z_m")]
        turned = {"at": "mount:camera.pan_deg", "value": {"state": "keyed", "curve": {"keys": keys}}}
        self.edit("jetty-walk", {"type": "set_values", "values": [*still, turned]})
        self.counted("jetty-walk")
        self.assertIn(1, self.page.evaluate("window.instances"))
        self.assertNotIn(len(keys), self.page.evaluate("window.instances"))


class Dragged(WithPage):
    # Which rows of the board were touched while nothing else was.
    TOUCHED = """
      window.touched = new Set();
      const hears = (changes) => {
        for (const { target } of changes) {
          const row = (target.nodeType === 3 ? target.parentElement : target).closest("[data-axis]");
          if (row) window.touched.add(row.dataset.axis);
        }
      };
      const all = { subtree: true, childList: true, attributes: true, characterData: true };
      new MutationObserver(hears).observe(document, all);"""

    def test_rows_that_stay_as_they_are_are_left_alone(self) -> None:
        self.open("jetty-walk-swaying")
        page = self.page
        curve = page.get_by_role("img", name="Motion of pan").locator("path")
        before = curve.get_attribute("d")
        box = page.get_by_role("spinbutton", name="Swing of pan", exact=True).bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 10, box["y"] + 10)
        page.mouse.down()
        page.mouse.move(box["x"] + 20, box["y"] + 10)
        settled(page)
        size = page.locator("tr[data-axis=pan] td").nth(3)
        shown = size.inner_text()
        page.evaluate(self.TOUCHED)
        page.mouse.move(box["x"] + 60, box["y"] + 10)
        expect(size).not_to_have_text(shown)
        self.assertEqual(page.evaluate("[...window.touched]"), ["pan"])
        page.mouse.up()
        settled(page)
        # A curve fills its row whatever its size.
        self.assertEqual(curve.get_attribute("d"), before)


class Commands(WithPage):
    def test_the_list_finds_and_runs(self) -> None:
        self.open("jetty-walk")
        self.page.keyboard.press("Control+k")
        search = self.page.get_by_role("combobox", name="Search commands")
        search.fill("handheld")
        expect(self.page.get_by_role("option", name="Add handheld feel")).to_be_visible()
        search.press("Enter")
        expect(self.page.get_by_label("Undo: Add handheld feel")).to_be_visible()

    def test_what_was_typed_in_full_comes_before_what_only_has_its_words(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("Control+k")
        search = self.page.get_by_role("combobox", name="Search commands")
        search.fill("select the move")
        expect(self.page.get_by_role("option").first).to_have_text("Select the move")
        search.press("Enter")
        expect(self.page.get_by_role("spinbutton", name="Move x", exact=True)).to_be_visible()
        expect(self.page.get_by_label("Nothing to undo")).to_be_visible()

    def test_other_words_of_the_trade_are_found(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("Control+k")
        search = self.page.get_by_role("combobox", name="Search commands")
        for words, title in (
            ("movie", "Export …"), ("render", "Export …"), ("footsteps", "Add gait layer"), ("impact", "Add hit layer"),
            ("expression", "Add formula layer"), ("coverage", "Checks: what is wrong with this shot"), ("wipe", "Compare"),
            ("focal", "Lens of"), ("track", "Toggle operator"), ("revisions", "History …"),
        ):  # fmt: skip
            with self.subTest(words):
                search.fill(words)
                expect(self.page.get_by_role("option").first).to_contain_text(title)

    def test_a_feel_added_while_the_move_is_selected_comes_to_the_board(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.get_by_role("button", name="Move", exact=False).filter(has_text="keys").click()
        expect(self.page.get_by_role("spinbutton", name="Move x", exact=True)).to_be_visible()
        self.page.keyboard.press("h")
        self.page.get_by_role("button", name="Add another").click()
        expect(self.page.get_by_label("Undo: Add handheld feel")).to_be_visible()
        expect(self.page.get_by_role("textbox", name="Layer name")).to_have_value("Slow sway")
        ways = self.page.get_by_role("button", name="Slow sway", exact=True)
        expect(ways.first).to_have_attribute("aria-pressed", "true")
        expect(ways.last).to_have_attribute("aria-pressed", "false")


class TwoWindows(WithPage):
    def test_the_late_one_is_told_and_can_put_its_change_on_top(self) -> None:
        self.open("jetty-walk-swaying")
        other = self.open("jetty-walk-swaying", self.fresh_page())
        not_following(other)
        self.drag("Swing of pan", 60)
        pan = self.number("Swing of pan")
        other.get_by_role("button", name="Mute Fine shake").click()
        expect(other.get_by_role("alert")).to_contain_text("Another window changed this shot first (“Set swing of pan "
                                                           "in “Slow sway””)")
        expect(other.get_by_role("spinbutton", name="Swing of pan", exact=True)).to_have_attribute("aria-valuenow",
            str(pan))
        other.get_by_role("button", name="Apply my change anyway").click()
        expect(other.get_by_label("Undo: Mute “Fine shake”")).to_be_visible()
        settled(other)
        document = self.library().state("jetty-walk-swaying").document
        self.assertEqual([layer.mute for _, layer in document.layers()], [False, True])
        self.assertAlmostEqual(document.lanes[0].clips[0].layers[0].axes.pan.swing.constant or 0, pan, places=5)

    def test_one_follows_what_the_other_edits(self) -> None:
        self.open("jetty-walk-swaying")
        other = self.open("jetty-walk-swaying", self.fresh_page())
        self.drag("Swing of pan", 60)
        pan = self.number("Swing of pan")
        expect(other.get_by_role("spinbutton", name="Swing of pan", exact=True)).to_have_attribute("aria-valuenow", str(pan))
        expect(other.get_by_label("Undo: Set swing of pan")).to_be_visible()
        other.get_by_role("button", name="Mute Fine shake").click()
        expect(self.page.get_by_label("Undo: Mute “Fine shake”")).to_be_visible()
        expect(other.get_by_role("alert")).to_have_count(0)

    def test_a_reload_keeps_the_playhead(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("End")
        frame = self.page.get_by_test_id("frame")
        last = frame.inner_text()
        self.page.reload()
        settled(self.page)
        expect(frame).to_have_text(last)
