"""What is typed with a unit: on the board, in the frame table, in forms; rates per axis as any number; the nearest
presets.
"""

from playwright.sync_api import Locator, expect

from tests.web.harness import settled
from tests.web.making import WithPage

SHOT = "jetty-walk-swaying"
PASTE = (
    "(e, text) => { const d = new DataTransfer(); d.setData('text', text); e.dispatchEvent(new "
    "ClipboardEvent('paste', { clipboardData: d, bubbles: true })); }"
)


class Units(WithPage):
    def number(self, name: str) -> Locator:
        return self.page.get_by_role("spinbutton", name=name, exact=True).first

    def type_into(self, name: str, text: str) -> None:
        self.number(name).dblclick()
        self.page.get_by_role("textbox", name=name, exact=True).fill(text)
        self.page.keyboard.press("Enter")

    def typed(self, name: str, text: str, shown: str) -> None:
        self.type_into(name, text)
        expect(self.number(name)).to_have_text(shown)
        settled(self.page)

    def refused(self, name: str, text: str, why: str) -> None:
        """It stays to be mended; Escape gives it up."""
        self.type_into(name, text)
        box = self.page.get_by_role("textbox", name=name, exact=True)
        expect(box).to_have_attribute("aria-invalid", "true")
        expect(self.page.get_by_role("alert")).to_contain_text(why)
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_on_the_board_they_are_converted_or_refused(self) -> None:
        page = self.open(SHOT)
        self.typed("ramp in", "1 s", "24 f")
        self.typed("Swing of truck", "25 mm", "2.50 cm")
        self.typed("Swing of pan", "0,5", "0.50 °")
        self.typed("rate", "90 bpm", "1.50 Hz")
        self.typed("weight", "0.2", "0.2 %")
        self.refused("Swing of pan", "3 cm", "cm cannot be converted to °")
        self.refused("Swing of truck", "1,000", "can be 1000 or 1")
        expect(self.number("Swing of pan")).to_have_text("0.50 °")
        self.typed("weight", "100", "100 %")
        self.type_into("Swing of tilt", "12 px")
        settled(page)
        expect(page.locator("tr[data-axis=tilt]")).to_contain_text("12 px")
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        self.typed("Move height", "150 cm", "1.500 m")

    def test_in_the_table_and_in_what_is_pasted(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.keyboard.press("t")
        cell = page.get_by_label("x at frame 3", exact=True)
        cell.fill("50 cm")
        page.keyboard.press("Enter")
        expect(cell).to_have_value("0.5000")
        settled(page)
        cell.evaluate(PASTE, "10 cm\n0,2\n30 mm")
        for frame, value in ((3, "0.1000"), (4, "0.2000"), (5, "0.0300")):
            expect(page.get_by_label(f"x at frame {frame}", exact=True)).to_have_value(value)
        cell.evaluate(PASTE, "1\n3 kg")
        expect(page.get_by_text("Nothing was pasted")).to_contain_text("line 2, column 1")

    def test_in_the_form_of_a_new_shot(self) -> None:
        page = self.page
        for length, frames in (("144 f", 144), ("5,5", 132), ("1:02", 1488)):
            page.goto(self.server.url)
            page.get_by_role("button", name="New shot").first.click()
            page.get_by_label("Name of the new shot").fill(f"Length {frames}")
            page.get_by_role("textbox", name="Length s", exact=True).fill("abc")
            page.get_by_label("Sensor width").fill("2.4 cm")
            page.get_by_role("button", name="Create", exact=True).click()
            expect(page.get_by_role("alert")).to_contain_text("Length: ")
            page.get_by_role("textbox", name="Length s", exact=True).fill(length)
            page.get_by_role("button", name="Create", exact=True).click()
            settled(page)
            made = self.library().state(f"length-{frames}").document
            self.assertEqual((made.frame_count, made.sensor_mm), (frames, 24.0))

    def test_a_rate_of_an_axis_is_keyed_and_driven_by_a_formula(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Fine shake", exact=True).click()
        self.typed("Rate of pan", "4", "4.00 Hz")
        pan = self.library().state(SHOT).document.lanes[0].clips[0].layers[1].axes.pan
        self.assertAlmostEqual(pan.pace.constant or 0.0, 4.0 / 2.3)
        page.get_by_role("button", name="Key of rate of tilt here").click()
        settled(page)
        self.go_to(41)
        self.typed("Rate of tilt", "120 bpm", "2.00 Hz")
        pace = self.library().state(SHOT).document.lanes[0].clips[0].layers[1].axes.tilt.pace
        assert pace.curve is not None
        self.assertEqual([round(key.value * 2.3, 6) for key in pace.curve.keys], [2.3, 2.0])
        self.type_into("Rate of roll", "= 1 + u")
        expect(page.get_by_role("button", name="Formula of Rate of roll", exact=True)).to_be_visible()
        settled(page)
        self.assertEqual(self.library().state(SHOT).document.lanes[0].clips[0].layers[1].axes.roll.pace.text,
            "1 + u")  # type: ignore[attr-defined]

    def test_beats_too_fast_to_be_seen_are_told_on_the_board(self) -> None:
        page = self.open(SHOT)
        for command in ({"type": "add_layer", "source": "hit"}, {"type": "set_values", "values": [{"at": "layer:hit-1.source.rhythm_hz", "value": 10.0}]}):
            self.edit(SHOT, command)
        page.reload()
        settled(page)
        page.get_by_role("button", name="Hit", exact=True).click()
        finding = page.get_by_text("beats per frame here")
        expect(finding).to_have_count(0)
        self.typed("speed", "3000", "3000 %")
        expect(finding).to_contain_text("12.5 beats per frame here; above 8 per frame none are generated")
        self.typed("speed", "100", "100 %")
        expect(finding).to_have_count(0)

    def test_where_no_preset_is_found_the_nearest_are_offered(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("r")
        page.get_by_role("searchbox").fill("earthquake")
        expect(page.locator("[data-card=close-tremor]")).to_be_visible()
        page.get_by_role("searchbox").fill("dronne")
        page.get_by_role("button", name="Hovering machine", exact=True).click()
        expect(page.locator("[data-card=hovering-machine]")).to_be_visible()
