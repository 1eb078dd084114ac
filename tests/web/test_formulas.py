"""Formulas and dials: written, wrong and mended, driven, recorded."""

import re

from playwright.sync_api import Page, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.edits.dials import AddDial
from zittern.core.edits.formulas import ConnectDial
from zittern.core.numbers.param import Number, formula_of
from zittern.core.shot.shot import Shot

SHOT = "jetty-walk-swaying"
PAN = "layer:sway-1.axes.pan.swing"


class WithFormulas(WithPage):
    def shot(self) -> Shot:
        return self.library().state(SHOT).document

    def pan(self) -> Number:
        return next(layer for _, layer in self.shot().layers() if layer.id == "sway-1").axes.pan.swing

    def type_into(self, page: Page, name: str, text: str) -> None:
        page.get_by_role("spinbutton", name=name, exact=True).dblclick()
        entry = page.get_by_role("textbox", name=name, exact=True)
        entry.fill(text)
        entry.press("Enter")
        settled(page)

    def dial(self) -> None:
        library = self.library()
        state = library.edit(SHOT, library.state(SHOT).revision, AddDial(name="panic"))
        library.edit(SHOT, state.revision, ConnectDial(dial="panic", at=(PAN,), low=0.0, high=2.0))


class Writing(WithFormulas):
    def test_written_wrong_mended_and_ended(self) -> None:
        page = self.open(SHOT)
        self.type_into(page, "Swing of pan", "= 0.5 + sine(t)")
        strip = page.get_by_role("region", name="Formula")
        expect(strip.get_by_role("alert")).to_contain_text("did you mean `sin`? The previous formula stays active.")
        expect(strip.locator("[data-fault]")).to_have_text("sine")
        self.assertEqual((formula_of(self.pan()).draft, self.number_value(page)), ("0.5 + sine(t)", "0.66 °"))
        entry = page.get_by_role("combobox", name="Formula of Swing of pan")
        entry.fill("0.5 + abs(sin(t))")
        expect(strip.get_by_role("alert")).to_have_count(0)
        entry.press("Enter")
        settled(page)
        self.assertEqual((formula_of(self.pan()).text, formula_of(self.pan()).draft), ("0.5 + abs(sin(t))", None))
        entry.press("Escape")
        expect(strip).to_have_count(0)
        page.get_by_role("button", name="Formula of Swing of pan", exact=True).click()
        page.get_by_role("button", name="Convert to value").click()
        settled(page)
        self.assertAlmostEqual(self.pan().constant or 0, 0.5, places=6)
        expect(page.get_by_role("spinbutton", name="Swing of pan", exact=True)).to_have_text("0.50 °")

    def test_beyond_the_limits_it_is_told_in_the_unit_of_the_field_and_divided_by_a_hundred(self) -> None:
        page = self.open(SHOT)
        self.type_into(page, "weight", "= 30")
        strip = page.get_by_role("region", name="Formula")
        expect(strip.get_by_test_id("formula-reach")).to_contain_text("3000 %, clamped to 1000 %")
        strip.get_by_role("button", name="÷ 100").click()
        expect(strip.get_by_test_id("formula-reach")).to_have_count(0)
        page.get_by_label("Templates").select_option(label="decaying sine")
        entry = page.get_by_role("combobox", name="Formula of weight")
        expect(entry).to_have_value("0.5 * decay(t, 1) * sin(tau * 2 * t)")
        expect(strip.get_by_test_id("formula-reach")).to_contain_text("clamped to 0 %")

    def number_value(self, page: Page) -> str:
        return page.get_by_test_id("formula-value").inner_text()

    def test_what_is_typed_survives_a_reload(self) -> None:
        page = self.open(SHOT)
        self.type_into(page, "Swing of pan", "= 1")
        entry = page.get_by_role("combobox", name="Formula of Swing of pan")
        entry.fill("1 + (unfinished")
        page.reload()
        settled(page)
        page.get_by_role("button", name="Formula of Swing of pan", exact=True).click()
        expect(entry).to_have_value("1 + (unfinished")
        page.get_by_label("Close the formula").click()
        settled(page)
        self.assertEqual(formula_of(self.pan()).draft, "1 + (unfinished")
        self.assertEqual(self.pan().at(self.shot().scope(1.0)), 1.0)

    def test_names_are_completed_and_the_motion_follows_before_it_is_kept(self) -> None:
        self.dial()
        page = self.open(SHOT)
        page.get_by_role("button", name="Formula of Swing of pan", exact=True).click()
        entry = page.get_by_role("combobox", name="Formula of Swing of pan")
        entry.fill("")
        entry.press_sequentially("2 + pan")
        expect(page.get_by_role("option", name="panic dial, 0 to 100 %")).to_be_visible()
        entry.press("Tab")
        expect(entry).to_have_value("2 + panic")
        expect(page.get_by_test_id("formula-value")).to_have_text("2.00 °")
        self.assertEqual(formula_of(self.pan()).text, "mix(0.0, 2.0, panic / 100.0)")
        entry.press("Enter")
        settled(page)
        self.assertEqual(formula_of(self.pan()).text, "2 + panic")


class Dialling(WithFormulas):
    def test_made_connected_dragged_renamed_and_removed(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("d")
        page.get_by_label("Name of the dial").fill("sin")
        page.get_by_role("button", name="Create").click()
        expect(page.get_by_role("alert")).to_contain_text("is a reserved name in formulas")
        page.get_by_label("Name of the dial").fill("panic")
        page.get_by_role("button", name="Create").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        settled(page)
        self.type_into(page, "Swing of pan", "= 0")
        page.get_by_label("Connect to a dial").select_option("panic")
        settled(page)
        self.assertEqual(formula_of(self.pan()).text, "mix(0.0, 1.0, panic / 100.0)")
        self.drag("Dial panic", 60)
        self.assertAlmostEqual(self.shot().dials[0].value.constant or 0, 30.0, places=3)
        expect(page.get_by_test_id("formula-value")).to_have_text("0.30 °")
        page.get_by_role("button", name="panic", exact=True).click()
        page.get_by_label("Name of the dial").fill("alarm")
        page.get_by_role("button", name="Apply", exact=True).click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        settled(page)
        self.assertEqual(formula_of(self.pan()).text, "mix(0.0, 1.0, alarm / 100.0)")
        page.get_by_role("button", name="alarm", exact=True).click()
        page.get_by_role("button", name="Remove dial").click()
        expect(page.get_by_role("alert").first).to_contain_text("read by “Slow sway”")
        page.get_by_role("button", name="Remove and bake its value").click()
        settled(page)
        self.assertEqual((self.shot().dials, formula_of(self.pan()).text), ((), "mix(0.0, 1.0, 30.0 / 100.0)"))

    def test_what_the_hand_does_while_it_plays_becomes_keys(self) -> None:
        self.dial()
        page = self.recording()
        page.mouse.up()
        page.keyboard.press("Space")
        settled(page)
        expect(page.get_by_label("Undo: Record value in “panic” from frame")).to_be_visible()
        curve = self.shot().dials[0].value.curve
        assert curve is not None
        self.assertGreater(len({key.frame for key in curve.keys}), 1)
        self.assertGreater(max(key.value for key in curve.keys), 10.0)

    def recording(self) -> Page:
        """The dial is held, and moved, while the shot plays."""
        page = self.open(SHOT)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.get_by_label("key every change").check()
        # A recording stops at the end of the range.
        self.go_to(self.shot().first_frame)
        page.keyboard.press("Space")
        box = page.get_by_role("spinbutton", name="Dial panic", exact=True).bounding_box()
        assert box is not None
        x, y = box["x"] + 10, box["y"] + 8
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(1, 4):
            page.mouse.move(x + 20 * step, y)
            self.frame_passes(SHOT)
        return page

    def test_a_recording_that_is_given_up_or_left_leaves_nothing_and_readings_follow(self) -> None:
        self.dial()

        def escape(page: Page) -> None:
            page.keyboard.press("Escape")

        def elsewhere(page: Page) -> None:
            page.evaluate("() => history.pushState(null, '', '/shot/signal-run')")
            expect(page.get_by_text("Signal run").first).to_be_visible()

        for leave in (escape, elsewhere):
            with self.subTest(leave.__name__):
                before = self.library().state(SHOT)
                page = self.recording()
                leave(page)
                page.mouse.up()
                if leave is not elsewhere:
                    page.keyboard.press("Space")
                    expect(page.get_by_role("spinbutton", name="Dial panic", exact=True)).to_have_text("0.0 %")
                settled(page)
                self.assertEqual(self.library().state(SHOT).revision, before.revision)
                page = self.open(SHOT)
                self.drag("Dial panic", 10)
                self.assertGreater(self.shot().dials[0].value.constant or 0.0, 1.0, "the next drag is an edit again")
                page.keyboard.press("Control+z")
                settled(page)

    def test_a_recording_goes_on_when_the_shot_is_stopped_and_is_kept(self) -> None:
        self.dial()
        page = self.recording()
        page.keyboard.press("Space")
        page.mouse.up()
        settled(page)
        expect(page.get_by_label("Undo: Record value in “panic” from frame")).to_be_visible()
        self.assertIsNotNone(self.shot().dials[0].value.curve)

    def test_a_recording_is_one_pass_and_stops_at_the_end_of_the_range(self) -> None:
        self.dial()
        page = self.open(SHOT)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.get_by_label("key every change").check()
        last = self.shot().last_frame
        start = last - 72
        self.go_to(start)
        dial = page.get_by_role("spinbutton", name="Dial panic", exact=True).bounding_box()
        assert dial is not None
        page.mouse.move(dial["x"] + 10, dial["y"] + 8)
        page.keyboard.press("Space")
        page.mouse.down()
        page.mouse.move(dial["x"] + 50, dial["y"] + 8)
        expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
        expect(page.get_by_test_id("frame")).to_have_text(f"{last:04d}")
        page.mouse.up()
        settled(page)
        curve = self.shot().dials[0].value.curve
        assert curve is not None
        self.assertGreaterEqual(min(key.frame for key in curve.keys), start - 1)

    def test_its_curve_is_edited_and_its_figure_follows_while_it_plays(self) -> None:
        page = self.open("signal-run")
        page.get_by_label("Curves of the dials").click()
        expect(page.get_by_label("Numbers shown").locator("option:checked")).to_have_text("dials %")
        plot = page.get_by_role("group", name="Curves", exact=True).bounding_box()
        assert plot is not None
        page.mouse.dblclick(plot["x"] + 500, plot["y"] + 40)
        expect(page.get_by_label(re.compile("^Undo: Set key"))).to_be_visible()
        dials = {dial.name: dial for dial in self.library().state("signal-run").document.dials}
        self.assertEqual(len(dials["panic"].value.curve.keys), 6)
        page.get_by_label("Curves of the dials").click()
        expect(page.get_by_role("group", name="Curves", exact=True)).to_have_count(0)
        figure = page.get_by_role("spinbutton", name="Dial panic", exact=True)
        page.keyboard.press("Home")
        expect(figure).to_have_text("0.0 %")
        page.keyboard.press("Space")
        page.wait_for_function("label => parseFloat(document.querySelector(`[aria-label='${label}']`).textContent) > "
                               "5", arg="Dial panic")
        page.keyboard.press("Space")
