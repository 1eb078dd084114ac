"""A shot set up from nothing: the camera placed and keyed, the move edited in lanes, curves and table, a shake built
and looped.
"""

import re

import numpy as np
from playwright.sync_api import expect

from tests.core.making import over
from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.rig import rotations
from zittern.core.edits.values import Assignment, SetValues


class FromNothing(WithPage):
    def type_number(self, name: str, text: str) -> None:
        self.page.get_by_role("spinbutton", name=name, exact=True).dblclick()
        entry = self.page.get_by_role("textbox", name=name, exact=True)
        entry.fill(text)
        entry.press("Enter")
        settled(self.page)

    def pins(self) -> list[str | None]:
        return [pin.get_attribute("data-pin") for pin in self.page.locator("[data-pin]").all()]

    def test_two_poses_keyed_then_edited_in_lanes_curves_and_table_and_all_the_way_back(self) -> None:
        page = self.open("empty-dune")
        start = self.pose()
        page.get_by_role("button", name="Move", exact=False).filter(has_text="no keys").click()
        page.get_by_role("button", name="Aim at Lamp").click()
        expect(page.get_by_label("Undo: Aim at “Lamp” at frame 1")).to_be_visible()
        page.get_by_role("button", name="Set key", exact=True).click()
        expect(page.locator("[data-pin='1']")).to_be_visible()
        page.keyboard.press("End")
        self.type_number("Move x", "1.5")
        self.type_number("Move pan", "+=12")
        self.assertEqual(self.pins(), ["1", "144"])
        np.testing.assert_allclose(self.pose()[0], 1.5, atol=1e-6)

        # lanes: the last pin is dragged to the left
        pin = page.locator("[data-pin='144']")
        box = pin.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 6, box["y"] + 6)
        page.mouse.down()
        page.mouse.move(box["x"] - 60, box["y"] + 6)
        page.mouse.move(box["x"] - 100, box["y"] + 6)
        page.mouse.up()
        settled(page)
        expect(page.get_by_label("Undo: Move key by -")).to_be_visible()
        moved = int(self.library().state("empty-dune").document.mounts[-1].pan_deg.curve.keys[-1].frame)
        self.assertLess(moved, 135)
        expect(page.locator(f"[data-pin='{moved}']")).to_be_visible()

        # curves: a point of pan is dragged upwards, and a new one put on the curve
        page.keyboard.press("c")
        page.get_by_label("Numbers shown").select_option(label="angles °")
        point = page.locator(f"[data-point='pan/{moved}']")
        box = point.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 4, box["y"] + 4)
        page.mouse.down()
        page.mouse.move(box["x"] + 4, box["y"] - 10)
        page.mouse.move(box["x"] + 4, box["y"] - 20)
        page.mouse.up()
        settled(page)
        expect(page.get_by_label("Undo: Move key")).to_be_visible()
        page.get_by_role("group", name="Curves", exact=True).dblclick(position={"x": 200, "y": 60})
        expect(page.get_by_label("Undo: Set key of")).to_be_visible()

        # table: a value is typed, a column pasted, and what is no number is refused
        page.keyboard.press("Home")
        page.keyboard.press("t")
        cell = page.get_by_label("roll at frame 1", exact=True)
        cell.fill("2*1.5")
        cell.press("Enter")
        expect(page.get_by_label("Undo: Set key of roll at frame 1")).to_be_visible()
        cell.evaluate("(e) => { const d = new DataTransfer(); d.setData('text', '1\\n2\\n3'); e.dispatchEvent(new "
                      "ClipboardEvent('paste', { clipboardData: d, bubbles: true })); }")
        expect(page.get_by_label("Undo: Set keys of roll at 3 frames")).to_be_visible()
        cell.evaluate("(e) => { const d = new DataTransfer(); d.setData('text', '1\\nNaN'); e.dispatchEvent(new "
                      "ClipboardEvent('paste', { clipboardData: d, bubbles: true })); }")
        expect(page.get_by_role("alert")).to_contain_text("“NaN” (line 2, column 1) is not a number")
        settled(page)
        end = self.library().state("empty-dune")

        # all the way back, and forward again
        steps = 0
        while page.get_by_label("Nothing to undo").count() == 0:
            page.keyboard.press("Control+z")
            settled(page)
            steps += 1
            self.assertLess(steps, 20)
        page.keyboard.press("Home")
        np.testing.assert_allclose(self.pose(), start, atol=1e-6)
        for _ in range(steps):
            page.keyboard.press("Control+Shift+z")
            settled(page)
        expect(page.get_by_label("Nothing to redo")).to_be_visible()
        self.assertEqual(self.library().state("empty-dune").document, end.document)

    def test_slow_and_fast_in_two_clicks_then_looped(self) -> None:
        page = self.open("empty-dune")
        page.get_by_label("Add layer").click()
        page.get_by_role("menuitem", name="Drift sway").click()
        expect(page.get_by_role("textbox", name="Layer name")).to_have_value("Drift")
        page.get_by_label("Add layer").click()
        page.get_by_role("menuitem", name="Tremor muscles").click()
        expect(page.get_by_role("textbox", name="Layer name")).to_have_value("Tremor")
        page.get_by_role("checkbox", name="loop").click()
        expect(page.get_by_label("Undo: Set loop in “Tremor”")).to_be_visible()
        page.get_by_role("button", name="Select layer Drift").click()
        page.get_by_role("checkbox", name="loop").click()
        expect(page.get_by_label("Undo: Set loop in “Drift”")).to_be_visible()
        settled(page)
        from zittern.core.motion.evaluate import evaluate

        shot = self.library().state("empty-dune").document
        first, after = evaluate(shot, np.array([1.0, 145.0])).total
        np.testing.assert_allclose(after, first, atol=1e-9)

    def test_the_hull_gets_a_point_and_it_is_dragged(self) -> None:
        page = self.open("jetty-walk-swaying")
        point = page.locator("[data-weight='74']")
        box = point.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 4, box["y"] + 4)
        page.mouse.down()
        page.mouse.move(box["x"] + 4, box["y"] + 14)
        page.mouse.move(box["x"] + 4, box["y"] + 20)
        page.mouse.up()
        settled(page)
        expect(page.get_by_label("Undo: Move key")).to_be_visible()
        weight = self.library().state("jetty-walk-swaying").document.lanes[0].clips[0].layers[0].weight
        self.assertLess(float(weight.sample(over(np.array([74.0])))[0]), 0.9)

    def test_flying_in_the_viewfinder(self) -> None:
        page = self.open("empty-dune")
        page.keyboard.press("v")
        box = page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 60, y - 20, steps=6)
        page.mouse.move(x + 100, y, steps=6)
        page.mouse.up()
        settled(page)
        expect(page.get_by_label("Undo: Fly camera at frame 1")).to_be_visible()
        np.testing.assert_allclose(self.pose()[3:5], [8.0, 0.0], atol=1e-4)
        tilt = page.get_by_role("spinbutton", name="Move tilt", exact=True)
        self.assertRegex(tilt.inner_text(), r"^0\.00\s")

    def test_a_flight_while_it_plays_is_recorded(self) -> None:
        page = self.open("jetty-walk")
        shot = self.library().state("jetty-walk").document
        self.go_to(shot.first_frame)
        page.keyboard.press("v")
        page.get_by_label("key every change").check()
        box = page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.keyboard.press("Space")
        page.mouse.down()
        for step in range(1, 5):
            page.mouse.move(x + 25 * step, y)
            self.frame_passes("jetty-walk")
        page.mouse.up()
        page.keyboard.press("Space")
        settled(page)
        expect(page.get_by_label("Undo: Record flight from frame")).to_be_visible()
        before, after = shot.mounts[-1], self.library().state("jetty-walk").document.mounts[-1]
        self.assertGreater(len(after.pan_deg.breaks), len(before.pan_deg.breaks))
        self.assertEqual(after.x_m, before.x_m, "a turn leaves the place alone")

    def test_locks_box_selection_filling_and_a_close_look(self) -> None:
        page = self.open("jetty-walk")
        lane = page.get_by_role("button", name="Select the move").bounding_box()
        assert lane is not None
        page.mouse.move(lane["x"] + lane["width"] * 0.3, lane["y"] + 34)
        page.mouse.down()
        page.mouse.move(lane["x"] + lane["width"] * 0.5, lane["y"] + 34)
        page.mouse.move(lane["x"] + lane["width"] * 0.8, lane["y"] + 34)
        page.mouse.up()
        expect(page.get_by_text("2 of 4 keyed frames selected")).to_be_visible()
        page.keyboard.press(".")
        expect(page.locator("[data-pin='75']")).to_be_visible()
        expect(page.locator("[data-pin='137']")).to_be_visible()
        settled(page)

        before = self.pose()
        page.get_by_role("button", name="Lock pan").click()
        page.get_by_role("button", name="Aim at Courier").click()
        expect(page.get_by_label("Undo: Aim at “Courier” at frame 1")).to_be_visible()
        settled(page)
        self.assertAlmostEqual(self.pose()[3], before[3], places=5)
        self.assertNotAlmostEqual(self.pose()[4], before[4], places=2)
        page.get_by_role("button", name="Set tilt to 0").click()
        expect(page.get_by_label("Undo: Zero tilt at frame 1")).to_be_visible()
        settled(page)
        self.assertAlmostEqual(self.pose()[4], 0.0, places=6)

        page.get_by_test_id("viewfinder").hover()
        page.mouse.wheel(0, -600)
        expect(page.get_by_text("(0 resets)")).to_be_visible()
        page.keyboard.press("0")
        expect(page.get_by_text("(0 resets)")).to_have_count(0)

        page.keyboard.press("t")
        page.get_by_label("Numbers shown").select_option(label="angles °")
        page.get_by_label("roll at frame 2", exact=True).click()
        page.get_by_label("roll at frame 5", exact=True).click(modifiers=["Shift"])
        cell = page.get_by_label("roll at frame 2", exact=True)
        cell.fill("1.5")
        cell.press("Enter")
        expect(page.get_by_label("Undo: Set keys of roll at 4 frames")).to_be_visible()

    def test_camera_where_the_set_view_looks_from(self) -> None:
        page = self.open("empty-dune")
        before = self.pose()
        page.get_by_role("button", name="Move", exact=False).filter(has_text="no keys").click()
        page.get_by_role("button", name="Move camera to the Set view's eye").click()
        expect(page.get_by_label("Undo: Place camera at frame 1")).to_be_visible()
        settled(page)
        self.assertGreater(np.linalg.norm(self.pose()[:3] - before[:3]), 2.0)


    def test_the_camera_is_dragged_in_the_set_view_without_taking_the_shake_along(self) -> None:
        page = self.open("jetty-walk-swaying")
        page.locator("[data-testid=set-view][data-set=ready]").wait_for()
        before = self.library().state("jetty-walk-swaying").document.mounts[0]
        box = page.get_by_test_id("set-view").bounding_box()
        assert box is not None
        # Where the camera's body is when the shot has just been opened; the outside view always starts alike.
        x, y = box["x"] + 0.145 * box["width"], box["y"] + 0.6 * box["height"]
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 20, y + 10)
        page.mouse.move(x + 50, y + 25)
        page.mouse.up()
        expect(page.get_by_label("Undo: Set camera x, camera z at frame 1")).to_be_visible()
        settled(page)
        after = self.library().state("jetty-walk-swaying").document.mounts[0]
        at = np.array([1.0])
        self.assertGreater(abs(float(after.x_m.sample(over(at))[0] - before.x_m.sample(over(at))[0])), 0.05)
        self.assertEqual(after.y_m, before.y_m)

    def test_the_subject_is_marked_and_tinted_and_pieces_are_hidden(self) -> None:
        page = self.open("jetty-walk")
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.get_by_label("subject").select_option("signal mast")
        expect(page.get_by_label("Undo: Set subject")).to_be_visible()
        page.get_by_role("button", name="Aim at signal mast").click()
        expect(page.get_by_label("Undo: Aim at “signal mast” at frame 1")).to_be_visible()
        page.get_by_label("highlight").check()
        page.get_by_label("Pieces of the set").click()
        page.get_by_role("menuitem", name="reeds shown").click()
        page.get_by_role("menuitem", name="reeds box").click()
        expect(page.get_by_text("pieces · 1 hidden")).to_be_visible()
        self.assertEqual(self.library().history("jetty-walk").count, 3)

    def test_a_layer_goes_from_one_shot_to_another(self) -> None:
        page = self.open("jetty-walk-swaying")
        page.keyboard.press("Control+c")
        expect(page.get_by_text("Copied “Slow sway”")).to_be_visible()
        self.open("empty-dune")
        page.keyboard.press("Control+v")
        expect(page.get_by_label("Undo: Paste “Slow sway”")).to_be_visible()
        settled(page)
        library = self.library()
        pasted = library.state("empty-dune").document.lanes[0].clips[0].layers[0]
        self.assertEqual(pasted.axes, library.state("jetty-walk-swaying").document.lanes[0].clips[0].layers[0].axes)

    def test_a_loop_range_is_drawn_on_the_ruler(self) -> None:
        page = self.open("empty-dune")
        box = page.get_by_test_id("ruler").bounding_box()
        assert box is not None
        page.keyboard.down("Shift")
        page.mouse.move(box["x"] + box["width"] * 0.25, box["y"] + 10)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + 10)
        page.mouse.up()
        page.keyboard.up("Shift")
        expect(page.get_by_role("button", name=re.compile(r"^3\d–7\d$"))).to_be_visible()


class History(WithPage):
    def test_it_is_read_page_by_page_and_tidied(self) -> None:
        library = self.library()
        state = library.state("jetty-walk")
        for i in range(230):
            state = library.edit("jetty-walk", state.revision, SetValues(values=(Assignment(at="shot.name", value=f"Take {i}"),)))
        library.name_revision("jetty-walk", library.history("jetty-walk", most=500).rows[-2].revision, "before the gull")
        page = self.open("jetty-walk")
        page.keyboard.press("Control+h")
        rows = page.get_by_role("list", name="Revisions").locator("[data-revision]")
        expect(rows).to_have_count(200)
        page.get_by_role("button", name="Show older").click()
        expect(rows).to_have_count(231)
        page.get_by_label("Named only").check()
        expect(rows).to_have_count(1)
        expect(rows.get_by_role("textbox")).to_have_value("before the gull")
        page.get_by_label("Named only").uncheck()
        page.get_by_role("button", name="Clean up …").click()
        expect(page.get_by_text("This permanently deletes 130 of 231 revisions")).to_be_visible()
        page.get_by_role("button", name="Remove them").click()
        expect(page.get_by_text("101 revisions", exact=True)).to_be_visible()
        self.assertEqual(library.history("jetty-walk").count, 101)

    def test_looked_at_named_and_returned_to(self) -> None:
        page = self.open("jetty-walk-swaying")
        self.go_to(40)
        viewfinder = page.locator("[data-testid=viewfinder]")
        before = viewfinder.get_attribute("data-pose") or ""
        self.drag("Swing of pan", 90)
        expect(viewfinder).not_to_have_attribute("data-pose", before)
        page.keyboard.press("Control+h")
        rows = page.locator("[data-revision]")
        expect(rows).to_have_count(2)
        rows.nth(1).get_by_label("Name of revision").fill("before the gull")
        rows.nth(1).get_by_label("Name of revision").press("Enter")
        rows.nth(1).get_by_role("button", name="Show").click()
        expect(viewfinder).to_have_attribute("data-pose", before)
        rows.nth(1).get_by_role("button", name="Restore").click()
        expect(rows.nth(1).get_by_text("current")).to_be_visible()
        expect(rows.nth(1).get_by_label("Name of revision")).to_have_value("before the gull")
        page.keyboard.press("Escape")
        settled(page)
        expect(page.get_by_label("Redo: Set swing of pan")).to_be_visible()
        expect(viewfinder).to_have_attribute("data-pose", before)


class Numbers(WithPage):
    def type_number(self, name: str, text: str) -> None:
        self.page.get_by_role("spinbutton", name=name, exact=True).dblclick()
        entry = self.page.get_by_role("textbox", name=name, exact=True)
        entry.fill(text)
        entry.press("Enter")
        settled(self.page)

    def test_selected_pins_are_stretched_about_the_first(self) -> None:
        page = self.open("jetty-walk")
        page.locator("[data-pin='74']").click()
        page.locator("[data-pin='136']").click(modifiers=["Shift"])
        self.type_number("Stretch of the keys", "50")
        expect(page.get_by_label("Undo: Stretch keys at 2 frames to 50 %")).to_be_visible()
        frames = [pin.get_attribute("data-pin") for pin in page.locator("[data-pin]").all()]
        self.assertEqual(frames, ["1", "74", "105", "192"])
        expect(page.locator("[data-pin='105']")).to_have_attribute("aria-pressed", "true")

    def test_the_subject_fills_what_was_asked_for(self) -> None:
        page = self.open("empty-dune")
        page.get_by_role("button", name="Move", exact=False).filter(has_text="no keys").click()
        self.type_number("Fill of the picture's height", "40")
        expect(page.get_by_label("Undo: Aim at “Lamp” at frame 1")).to_be_visible()
        settled(page)
        shot = self.library().state("empty-dune").document
        assert shot.subject is not None
        pose = self.pose()
        corners = shot.subject.position_m(over(np.array([1.0])))[0] + shot.subject.corners_m - pose[:3]
        seen = corners @ rotations.matrices(pose[None, 3:6])[0]
        shares = np.abs(seen[:, :2] / -seen[:, 2:]) * 35 / 36 * 1920 / np.array([960, 540])
        self.assertAlmostEqual(shares.max(), 0.4, delta=0.001)

    def test_one_angle_is_snapped_or_set_to_zero(self) -> None:
        page = self.open("empty-dune")
        page.get_by_role("button", name="Move", exact=False).filter(has_text="no keys").click()
        self.type_number("Move pan", "50")
        self.type_number("Move tilt", "-12")
        page.get_by_role("button", name="Snap pan to the nearest 90°").click()
        expect(page.get_by_label("Undo: Snap pan at frame 1")).to_be_visible()
        page.get_by_role("button", name="Set tilt to 0").click()
        expect(page.get_by_label("Undo: Zero tilt at frame 1")).to_be_visible()
        settled(page)
        np.testing.assert_allclose(self.pose()[3:5], [90, 0], atol=1e-5)
