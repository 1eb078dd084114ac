"""What is dragged has a keyboard way, and every press counts; switches gone over, dials made, numbers that are told."""

import json

import numpy as np
from playwright.sync_api import Locator, Route, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import formula_of
from zittern.core.readings.point_readings import read
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot

SHOT = "jetty-walk-handheld"
SWAYING = "jetty-walk-swaying"


class Hands(WithPage):
    def document(self, slug: str = SHOT) -> Shot:
        return self.library().state(slug).document

    def pick(self, name: str) -> None:
        self.page.get_by_role("button", name=name, exact=True).first.click()

    def press(self, target: Locator, *keys: str) -> None:
        """Comes by keyboard, as the browser sees it, and presses without waiting for anything."""
        target.focus()
        for key in keys:
            self.page.keyboard.press(key)
        settled(self.page)


class Keyboard(Hands):
    def test_keys_of_the_move_and_grips_of_a_span_count_every_press(self) -> None:
        page = self.open(SWAYING)
        before = set(self.keyed())
        self.press(page.locator("[data-pin='74']"), *["ArrowRight"] * 5)
        self.assertEqual(set(self.keyed()) - before, {79.0})
        # A click leaves the arrow keys to the playhead.
        page.locator("[data-pin='136']").click()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_test_id("frame")).to_have_text("0137")
        self.assertIn(136.0, self.keyed())
        self.pick("Slow sway")
        self.press(page.get_by_label("Start of Slow sway", exact=True), *["ArrowRight"] * 6, "Shift+ArrowRight")
        sway = next(layer for _, layer in self.document(SWAYING).layers() if layer.name == "Slow sway")
        assert sway.span_frames is not None
        self.assertEqual(sway.span_frames[0], 17.0)

    def keyed(self) -> list[float]:
        curve = self.document(SWAYING).mounts[0].x_m.curve
        assert curve is not None
        return [key.frame for key in curve.keys]

    def test_points_of_a_weight_and_of_curves_and_their_handles(self) -> None:
        page = self.open(SHOT)
        self.pick("Slow sway")
        self.press(page.locator("[data-weight='74']"), *["ArrowRight"] * 3, *["ArrowDown"] * 4)
        weight = next(layer for _, layer in self.document().layers() if layer.name == "Slow sway").weight.curve
        assert weight is not None
        moved = next(key for key in weight.keys if key.frame == 77.0)
        self.assertAlmostEqual(moved.value, 0.96, places=6)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.keyboard.press("c")
        page.get_by_label("Numbers shown").select_option(label="angles °")
        point = page.locator("[data-point='pan/74']")
        point.click()
        expect(page.locator("[data-handle]")).to_have_count(2)
        # The handle after the key lies on the curve's tangent: where it is told to lie by the core.
        pan = self.document().mounts[0].pan_deg.curve
        assert pan is not None
        n = [key.frame for key in pan.keys].index(74.0)
        into, out = pan.handles(n)
        assert into is not None and out is not None
        centres = {side: self.centre(page.locator(f"[data-handle$='/74/{side}']")) for side in ("handle_in", "handle_out")}
        here = self.centre(point)
        slope = (here[1] - centres["handle_out"][1]) / (centres["handle_out"][0] - here[0])
        back = (centres["handle_in"][1] - here[1]) / (here[0] - centres["handle_in"][0])
        self.assertAlmostEqual(slope * into[1] / into[0], back * out[1] / out[0], delta=0.05 * abs(slope) + 0.01)
        self.press(page.locator("[data-point='pan/74']"), "ArrowRight", "ArrowRight")
        pan = self.document().mounts[0].pan_deg.curve
        assert pan is not None
        self.assertIn(76.0, [key.frame for key in pan.keys])

    def centre(self, locator: Locator) -> tuple[float, float]:
        box = locator.bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def test_points_of_a_cycle_and_the_framing_target(self) -> None:
        self.edit(SHOT, {"type": "add_layer", "source": "cycle"})
        self.edit(SHOT, {"type": "set_values", "values": [{"at": "mount:camera.operator", "value": {}}]})
        page = self.open(SHOT)
        self.pick("Cycle")
        before = next(layer for _, layer in self.document().layers() if layer.name == "Cycle").source.points
        self.press(page.get_by_label("Point 2 of the cycle: arrow keys"), *["ArrowRight"] * 3, "ArrowUp")
        after = next(layer for _, layer in self.document().layers() if layer.name == "Cycle").source.points
        self.assertAlmostEqual(after[1][0], before[1][0] + 3.0)
        self.assertAlmostEqual(after[1][1], before[1][1] + 0.02)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.get_by_role("tab", name="operator").click()
        self.press(page.get_by_label("Place of the subject on screen"), *["ArrowLeft"] * 4)
        operator = self.document().mounts[0].operator
        assert operator is not None
        self.assertEqual(operator.across_percent.constant, 48.0)
        # And how late it is, as it is wanted.
        lag = page.get_by_role("spinbutton", name="Steady lag of the operator")
        board = page.get_by_role("tab", name="operator").locator("xpath=ancestor::*[contains(@class, 'overflow-y')][1]")
        board.evaluate("board => board.scrollTo(0, board.scrollHeight)")
        scrolled = board.evaluate("board => board.scrollTop")
        lag.dblclick()
        page.get_by_role("textbox", name="Steady lag of the operator").fill("9")
        self.assertEqual(board.evaluate("board => board.scrollTop"), scrolled, "nothing moves under the pointer")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Undo: Set lag of the operator to 9 frames")).to_be_visible()
        expect(lag).to_have_text("9.0 f")


class Switches(Hands):
    def test_gone_over_with_the_pointer_held_they_are_one_change(self) -> None:
        page = self.open(SHOT)
        self.pick("Fine shake")
        count = self.library().history(SHOT).count
        page.get_by_role("checkbox", name="pan on").hover()
        page.mouse.down()
        for axis in ("tilt", "roll"):
            page.get_by_role("checkbox", name=f"{axis} on").hover()
        page.mouse.up()
        settled(page)
        fine = next(layer for _, layer in self.document().layers() if layer.name == "Fine shake")
        self.assertEqual([fine.axes.of(axis).on for axis in ("pan", "tilt", "roll", "truck")], [False, False, False, True])
        self.assertEqual(self.library().history(SHOT).count, count + 1)
        page.get_by_role("button", name="Mute Steps").hover()
        page.mouse.down()
        page.get_by_role("button", name="Mute Slow sway").hover()
        page.mouse.up()
        settled(page)
        self.assertEqual(
            {layer.name: layer.mute for _, layer in self.document().layers()},
            {"Slow sway": True, "Fine shake": False, "Steps": True},
        )

    def test_a_dial_of_a_number_in_one_step(self) -> None:
        page = self.open(SHOT)
        self.pick("Fine shake")
        before = evaluate(self.document()).total
        page.get_by_label("Key of swing of pan here").click(modifiers=["Control"])
        dial = page.get_by_role("spinbutton", name="Dial swing_of_pan")
        expect(dial).to_be_visible()
        after = self.document()
        fine = next(layer for _, layer in after.layers() if layer.name == "Fine shake")
        formula = formula_of(fine.axes.pan.swing)
        assert formula is not None
        self.assertEqual(formula.text, "swing_of_pan")
        np.testing.assert_allclose(evaluate(after).total, before, atol=1e-12)
        # By the keyboard, of the number that was gone to last.
        page.get_by_role("spinbutton", name="Swing of tilt", exact=True).focus()
        page.keyboard.press("Shift+D")
        expect(page.get_by_role("spinbutton", name="Dial swing_of_tilt")).to_be_visible()

    def test_the_row_of_lenses_is_ones_own(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        lenses = page.get_by_role("group", name="Common lenses")
        expect(lenses.get_by_role("button", name="12", exact=True)).to_be_visible()
        page.get_by_label("Change the row of lenses").click()
        row = page.get_by_label("Lenses of the row, in mm")
        row.fill("21, 4 cm 65")
        row.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("Lens:")
        row.fill("21 4cm 65")
        row.press("Enter")
        expect(lenses.get_by_role("button")).to_have_text(["21", "40", "65", ""])
        lenses.get_by_role("button", name="40", exact=True).click()
        settled(page)
        page.reload()
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        expect(lenses.get_by_role("button", name="40", exact=True)).to_be_visible()


class Told(Hands):
    def test_how_far_at_most_over_the_loop_range_and_hidden_on_wish(self) -> None:
        page = self.open(SHOT)
        finder = page.get_by_test_id("viewfinder")
        shot = self.document()
        motion = evaluate(shot)
        whole, part = (read(shot, motion, 1, loop=loop) for loop in (None, (40, 60)))
        expect(finder).to_contain_text(f"typical {whole.typical_px:.0f} px · peak {whole.peak_px:.0f} px")
        ruler = page.get_by_test_id("ruler").bounding_box()
        assert ruler is not None
        per_frame = (ruler["width"] - 16) / 191
        x = [ruler["x"] + 8 + (frame - 1) * per_frame for frame in (40, 60)]
        page.keyboard.down("Shift")
        page.mouse.move(x[0], ruler["y"] + 12)
        page.mouse.down()
        page.mouse.move(x[1], ruler["y"] + 12, steps=4)
        page.mouse.up()
        page.keyboard.up("Shift")
        expect(finder).to_contain_text(f"typical {part.typical_px:.0f} px · peak {part.peak_px:.0f} px")
        expect(page.get_by_test_id("sum-size")).to_have_attribute("title", f"Distance of the picture's center from the bare move over frames 40–60, the loop range: typical (RMS) {part.typical_px:.1f} px, peak {part.peak_px:.1f} px; needs {part.margin_px:.0f} px overscan (at the subject's distance)")
        page.keyboard.press("Control+k")
        page.get_by_label("Search commands").fill("readings over the views")
        page.keyboard.press("Enter")
        expect(finder).not_to_contain_text("swing")

    def test_the_frame_table_goes_along_with_the_playhead(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.keyboard.press("t")
        table = page.get_by_role("table", name="Frame table")
        expect(table.get_by_label("x at frame 1", exact=True)).to_be_visible()
        page.keyboard.press("End")
        expect(table.get_by_label("x at frame 192", exact=True)).to_be_visible()
        expect(table.locator("tr[aria-current]")).to_contain_text("192")

    def test_one_handle_for_both_sides_of_a_cross_fade_and_a_hole_that_is_told(self) -> None:
        self.edit(SHOT, {"type": "set_span", "at": ["clip:main"], "last_frame": 100})
        self.edit(SHOT, {"type": "add_clip", "name": "Later", "first_frame": 91, "last_frame": 180, "lane": "main"})
        page = self.open(SHOT)
        grip = page.get_by_label("Cross-fade of Whole shot and Later")
        box = grip.bounding_box()
        assert box is not None
        self.press(grip, *["ArrowRight"] * 4)
        spans = {clip.name: clip.span_frames for clip in self.document().clips()}
        self.assertEqual(spans, {"Whole shot": (1.0, 104.0), "Later": (95.0, 180.0)})
        self.pick("Clip Later")
        self.press(page.get_by_label("Span of clip Later"), *["Shift+ArrowRight"] * 2)
        expect(page.get_by_text("have no clip now")).to_be_visible()

    def test_a_part_that_fails_leaves_the_others_and_can_be_tried_again(self) -> None:
        """The server's table of a clip's fields is missing, as after an update that went wrong."""

        def without_clips(route: Route) -> None:
            tables = route.fetch().json()
            tables["forms"]["clip"] = None
            route.fulfill(body=json.dumps(tables), content_type="application/json")

        self.page.route("**/api/tables", without_clips)
        page = self.open(SHOT)
        self.pick("Clip Whole shot")
        board = page.get_by_role("complementary", name="Axis board")
        expect(board.get_by_role("alert")).to_contain_text("The board cannot be shown")
        expect(board.get_by_role("button", name="Try again")).to_be_visible()
        self.pick("Fine shake")
        expect(page.get_by_label("Layer name")).to_have_value("Fine shake")
        page.keyboard.press("n")
        expect(page.get_by_label("Undo: New seed in “Fine shake”")).to_be_visible()


class Points(Hands):
    def sway(self) -> Layer:
        return next(layer for _, layer in self.document(SWAYING).layers() if layer.name == "Slow sway")

    def test_a_weight_point_dragged_sideways_keeps_its_value(self) -> None:
        page = self.open(SWAYING)
        self.pick("Slow sway")
        layer = self.sway().id
        for frame, value in ((60, 1.5), (120, 0.5)):
            self.edit(SWAYING, {"type": "set_keys", "keys": [{"at": f"layer:{layer}.weight", "frame": frame, "value": value}]})
        page.reload()
        settled(page)
        self.pick("Slow sway")
        point = page.locator("[data-weight='60']")
        box = point.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.pull((x, y), (x + 20, y), (x + 40, y))
        settled(page)
        curve = self.sway().weight.curve
        assert curve is not None
        moved = {key.frame: key.value for key in curve.keys}
        self.assertNotIn(60, moved)
        self.assertIn(1.5, moved.values())
