"""The board beside the lanes, its menus, and what is read while it plays."""

from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.flow import flowing

SHOT = "jetty-walk-swaying"


class Board(WithPage):
    def test_the_usual_numbers_fit_and_the_rest_folds_away(self) -> None:
        page = self.open(SHOT)
        board = page.get_by_role("complementary", name="Axis board")
        for name in ("weight", "speed", "from frame", "to frame", "ramp in", "ramp out", "rate", "persistence"):
            expect(board.get_by_role("spinbutton", name=name, exact=True)).to_be_in_viewport(ratio=1)
        expect(board.get_by_role("img", name="Spectrum of the layer and of the sum")).to_have_count(0)
        self.assertTrue(board.evaluate("board => board.scrollHeight <= board.clientHeight"))
        page.get_by_role("button", name="Blending, ramp shape").click()
        expect(board.get_by_role("img", name="Spectrum of the layer and of the sum")).to_be_visible()
        page.reload()
        settled(page)
        expect(board.get_by_label("ramp shape")).to_be_visible()

    def test_a_ramp_yields_to_the_other_and_the_board_shows_what_came_of_it(self) -> None:
        page = self.open(SHOT)
        last = self.library().state(SHOT).document.last_frame
        for name, typed in (("ramp in", "100"), ("ramp out", "9999")):
            page.get_by_role("spinbutton", name=name, exact=True).dblclick()
            page.get_by_role("textbox", name=name, exact=True).fill(typed)
            page.keyboard.press("Enter")
            settled(page)
        expect(page.get_by_role("spinbutton", name="ramp out", exact=True)).to_have_text(f"{last - 1 - 100} f")
        expect(page.get_by_role("spinbutton", name="ramp in", exact=True)).to_have_text("100 f")

    def test_who_drags_beside_a_number_selects_no_text_and_what_is_typed_can_be_selected(self) -> None:
        page = self.open(SHOT)
        board = page.get_by_role("complementary", name="Axis board")
        lanes = page.get_by_role("region", name="Lanes")
        for start, stop in (
            (board.get_by_text("swing", exact=True).first, board.get_by_text("weight", exact=True).first),
            (lanes.get_by_text("Move", exact=True).first, lanes.get_by_text("Sum", exact=True).first),
        ):
            start.hover()
            page.mouse.down()
            stop.hover()
            page.mouse.up()
            self.assertEqual(page.evaluate("getSelection().toString()"), "")
        number = board.get_by_role("spinbutton", name="Swing of pan", exact=True)
        number.dblclick()
        field = board.get_by_role("textbox", name="Swing of pan", exact=True)
        field.fill("0.75")
        field.dblclick()
        page.keyboard.type("2")
        expect(field).not_to_have_value("0.752")

    def test_escape_gives_up_a_drag(self) -> None:
        page = self.open(SHOT)
        number = page.get_by_role("spinbutton", name="Swing of pan", exact=True)
        before, revisions = number.inner_text(), self.library().history(SHOT).count
        box = number.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 20, box["y"] + 8)
        page.mouse.down()
        page.mouse.move(box["x"] + 120, box["y"] + 8, steps=4)
        expect(number).not_to_have_text(before)
        page.keyboard.press("Escape")
        expect(number).to_have_text(before)
        page.mouse.up()
        settled(page)
        expect(number).to_have_text(before)
        self.assertEqual(self.library().history(SHOT).count, revisions)


class Menus(WithPage):
    def test_escape_a_click_elsewhere_and_a_choice_close_them(self) -> None:
        page = self.open(SHOT)
        button, items = page.get_by_label("Add layer"), page.get_by_role("menuitem")
        button.press("Enter")
        expect(items.first).to_be_focused()
        page.keyboard.press("Escape")
        expect(button).to_be_focused()
        expect(items).to_have_count(0)
        button.click()
        expect(items.first).to_be_visible()
        page.get_by_test_id("viewfinder").click(position={"x": 60, "y": 60})
        expect(items).to_have_count(0)
        button.press("ArrowDown")
        expect(items.first).to_be_focused()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("menuitem", name="Wave")).to_be_focused()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("menuitem", name="Drift")).to_be_focused()
        page.keyboard.press("End")
        expect(page.get_by_role("menuitem", name="Formula")).to_be_focused()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("menuitem", name="Noise")).to_be_focused()
        page.keyboard.press("ArrowUp")
        expect(page.get_by_role("menuitem", name="Formula")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.get_by_label("Undo: Add formula layer")).to_be_visible()
        expect(items).to_have_count(0)


class Watching(WithPage):
    def test_readings_follow_while_it_plays(self) -> None:
        page = self.open(SHOT)
        lens, moving = page.get_by_test_id("finder-flow"), page.get_by_test_id("set-flow")
        expect(lens).to_contain_text("blur")
        still = lens.inner_text(), moving.inner_text()
        page.get_by_role("button", name="Play").click()
        expect(lens).not_to_have_text(still[0])
        expect(moving).not_to_have_text(still[1])
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.get_by_role("button", name="Pause").click()
        shot = self.library().state(SHOT).document
        frame = int(page.get_by_test_id("frame").inner_text())
        streak, distance, height, speed = flowing(shot, evaluate(shot))[frame - shot.first_frame]
        expect(lens).to_have_text(f"blur {streak:.1f} px · subject {distance:.1f} m")
        expect(moving).to_have_text(f"lens {height:.2f} m high · speed {speed:.2f} m/s")
