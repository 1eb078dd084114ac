"""Several layers at once, their spans on the lanes, keys beside numbers."""

import re

from playwright.sync_api import Page, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.edits.layers import AddLayer
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.shot.layers import Layer

SHOT = "jetty-walk-swaying"


class Lanes(WithPage):
    def layers(self) -> dict[str, Layer]:
        return {layer.name: layer for _, layer in self.library().state(SHOT).document.layers()}

    def drag_part(self, name: str, by_px: int) -> None:
        """Drags an end, a ramp or the bar of a span by some pixels, and waits for the revision."""
        box = self.page.get_by_role("button", name=name, exact=True).bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + by_px / 2, y)
        self.page.mouse.move(x + by_px, y)
        self.page.mouse.up()
        settled(self.page)

    def test_span_and_ramps_are_dragged_on_the_lane(self) -> None:
        page = self.open(SHOT)
        self.drag_part("Start of Slow sway", 120)
        expect(page.get_by_label("Undo: Span of “Slow sway” from frame")).to_be_visible()
        self.drag_part("Ramp in of Slow sway", 80)
        expect(page.get_by_label("Undo: Ramp in of “Slow sway”")).to_be_visible()
        layer = self.layers()["Slow sway"]
        assert layer.span_frames is not None
        start, stop = layer.span_frames
        # The lane is about 660 pixels for 191 frames.
        self.assertTrue(30 < start < 42 and stop == 192 and 17 < layer.ramp_in_frames < 30, layer)
        self.go_to(int(start) - 5)
        silent = self.pose()
        page.keyboard.down("b")
        bare = self.pose()
        page.keyboard.up("b")
        self.assertLess(abs(silent[3] - bare[3]), 0.3)
        page.get_by_role("button", name="Start of Slow sway").dblclick()
        expect(page.get_by_label("Undo: Extend “Slow sway” to whole shot")).to_be_visible()
        self.assertIsNone(self.layers()["Slow sway"].span_frames)

    def test_the_edge_of_the_hull_is_the_weight(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Fine shake", exact=True).click()
        box = page.locator("[data-level]").bounding_box()
        assert box is not None
        x, y = box["x"] + 200, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y + 6)
        page.mouse.move(x, y + 11)
        page.mouse.up()
        expect(page.get_by_label("Undo: Set weight in “Fine shake”")).to_be_visible()
        settled(page)
        # Half of the 22 pixels from the edge of the row to its middle.
        self.assertAlmostEqual(self.layers()["Fine shake"].weight.constant or 0, 0.5, delta=0.1)

    def test_a_hull_is_drawn_by_hand(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Fine shake", exact=True).click()
        page.keyboard.press("u")
        box = page.get_by_role("img", name="Draw the Weight of Fine shake").bounding_box()
        assert box is not None
        middle, edge = box["y"] + box["height"] / 2, box["y"] + 4
        self.pull((box["x"] + 100, middle), (box["x"] + 250, edge), (box["x"] + 400, middle), steps=12)
        expect(page.get_by_label("Undo: Draw weight in “Fine shake”")).to_be_visible()
        settled(page)
        weight = self.layers()["Fine shake"].weight
        self.assertLess(len(weight.curve.keys), 12)
        tip = max(weight.curve.keys, key=lambda key: key.value)
        self.assertTrue(tip.value > 0.9 and weight.curve.keys[0].value == 1.0, weight)
        expect(page.locator("[data-weight]")).to_have_count(len(weight.curve.keys))
        page.keyboard.press("Escape")
        expect(page.get_by_role("img", name="Draw the Weight of Fine shake")).to_have_count(0)

    def test_what_is_typed_wrong_says_so_and_changes_nothing(self) -> None:
        page = self.open(SHOT)
        self.go_to(120)
        page.keyboard.press("[")
        expect(page.get_by_label("Undo: Span of “Slow sway” from frame 120")).to_be_visible()
        page.get_by_role("spinbutton", name="ramp in", exact=True).dblclick()
        entry = page.get_by_role("textbox", name="ramp in", exact=True)
        entry.fill("long")
        entry.press("Enter")
        expect(entry).to_have_attribute("aria-invalid", "true")
        expect(entry).to_have_attribute("title", re.compile("`long` varies over time"))
        entry.press("Escape")
        self.assertEqual(self.layers()["Slow sway"].ramp_in_frames, 0)

    def test_several_layers_are_muted_changed_and_removed_together(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Select layer Fine shake").click(modifiers=["Control"])
        expect(page.get_by_text("+1 selected")).to_be_visible()
        page.get_by_role("button", name="Mute Fine shake").click()
        # Both answer at once, before the server has.
        expect(page.get_by_role("button", name="Mute Slow sway")).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_label("Undo: Mute 2 layers")).to_be_visible()
        page.get_by_role("button", name="Blending, ramp shape").click()
        page.get_by_label("blending").select_option("replace")
        expect(page.get_by_label("Undo: Set add or replace in 2 layers")).to_be_visible()
        settled(page)
        self.assertEqual({(layer.mute, layer.mode) for layer in self.layers().values()}, {(True, "replace")})
        page.keyboard.press("Delete")
        expect(page.get_by_label("Undo: Remove 2 layers")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.get_by_label("Redo: Remove 2 layers")).to_be_visible()
        self.assertEqual(len(self.layers()), 2)

    def test_a_stretch_of_layers_is_copied_into_another_shot(self) -> None:
        page = self.open(SHOT)
        page.get_by_role("button", name="Fine shake", exact=True).click(modifiers=["Shift"])
        page.keyboard.press("Control+c")
        expect(page.get_by_text("Copied 2 layers")).to_be_visible()
        self.open("jetty-walk")
        page.keyboard.press("Control+v")
        expect(page.get_by_label("Undo: Paste 2 layers")).to_be_visible()
        names = [layer.name for _, layer in self.library().state("jetty-walk").document.layers()]
        self.assertEqual(names, ["Slow sway", "Fine shake"])

    def test_a_lane_is_dragged_to_another_place(self) -> None:
        page = self.open("lamp-close")
        box = page.get_by_role("button", name="Standing", exact=True).bounding_box()
        assert box is not None
        x, y = box["x"] + 30, box["y"] + 8
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y - 60)
        page.mouse.move(x, y - 110)
        page.mouse.up()
        expect(page.get_by_label("Undo: Reorder “Standing”")).to_be_visible()
        settled(page)
        names = [layer.name for _, layer in self.library().state("lamp-close").document.layers()]
        self.assertEqual(names, ["Breathing", "Holding the weight", "Standing"])

    def test_mute_shows_in_the_picture_before_it_is_kept(self) -> None:
        page = self.open(SHOT)
        self.go_to(50)
        shaken = self.pose()
        pose = page.locator("[data-testid=viewfinder]")
        before = pose.get_attribute("data-pose") or ""
        held: list[object] = []
        page.route("**/edits", lambda route: held.append(route))
        page.get_by_role("button", name="Mute Slow sway").click()
        expect(page.get_by_role("button", name="Mute Slow sway")).to_have_attribute("aria-pressed", "true")
        expect(pose).not_to_have_attribute("data-pose", before)
        self.assertGreater(abs(self.pose()[3] - shaken[3]), 0.01)
        self.assertFalse(self.layers()["Slow sway"].mute)
        for route in held:
            route.continue_()  # type: ignore[attr-defined]
        settled(page)
        self.assertTrue(self.layers()["Slow sway"].mute)


class ManyLayers(WithPage):
    def test_eight_are_seen_at_once_and_the_one_on_the_board_is_tall(self) -> None:
        library = self.library()
        state = library.state("jetty-walk-swaying")
        for kind in ("drift", "breath", "tremor", "wave", "noise", "cycle", "drift"):
            state = library.edit("jetty-walk-swaying", state.revision, AddLayer(source=kind))
        page = self.open("jetty-walk-swaying")
        rows = page.locator("[data-layer]")
        expect(rows).to_have_count(9)
        foot = page.get_by_role("img", name="Waveform of sum").bounding_box()
        assert foot is not None
        boxes = [box for row in rows.all() if (box := row.bounding_box())]
        self.assertGreaterEqual(sum(1 for box in boxes if box["y"] + box["height"] <= foot["y"] + 1), 8)
        self.assertEqual(sorted({round(box["height"]) for box in boxes}), [24, 54])
        page.get_by_role("button", name="Compact rows").click()
        expect(page.get_by_role("button", name="Compact rows")).to_have_attribute("aria-pressed", "false")
        self.assertEqual({round(box["height"]) for row in rows.all() if (box := row.bounding_box())}, {54})
        page.reload()
        settled(page)
        expect(page.get_by_role("button", name="Compact rows")).to_have_attribute("aria-pressed", "false")


class SeveralAtOnce(WithPage):
    """What belongs to one layer stays with it, while several are selected."""

    def test_a_start_that_is_typed_leaves_each_layer_its_own_end(self) -> None:
        library = self.library()
        state = library.state("jetty-walk-swaying")
        spans = (("layer:sway-1.span_frames", (10.0, 100.0)), ("layer:shake-1.span_frames", (20.0, 150.0)))
        library.edit("jetty-walk-swaying", state.revision, SetValues(values=tuple(Assignment(at=at, value=span) for at,
            span in spans)))
        page = self.open("jetty-walk-swaying")
        page.get_by_role("button", name="Fine shake", exact=True).click()
        page.get_by_role("button", name="Slow sway", exact=True).click(modifiers=["Control"])
        page.get_by_role("spinbutton", name="from frame", exact=True).dblclick()
        page.get_by_role("textbox", name="from frame", exact=True).fill("40")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Undo: Span of 2 layers from frame 40")).to_be_visible()
        settled(page)
        layers = {layer.id: layer.span_frames for _, layer in library.state("jetty-walk-swaying").document.layers()}
        self.assertEqual(layers, {"sway-1": (40.0, 100.0), "shake-1": (40.0, 150.0)})

    def test_the_key_dot_deletes_the_key_that_is_shown(self) -> None:
        library = self.library()
        state = library.state("jetty-walk-swaying")
        keyed = {"state": "keyed", "curve": {"keys": [{"frame": 1, "value": 0.5}, {"frame": 50, "value": 1.0}]}}
        values = tuple(Assignment(at=f"layer:{name}.speed", value=keyed) for name in ("sway-1", "shake-1"))
        library.edit("jetty-walk-swaying", state.revision, SetValues(values=values))
        page = self.open("jetty-walk-swaying")
        page.get_by_role("button", name="Slow sway", exact=True).click()
        page.get_by_role("button", name="Fine shake", exact=True).click(modifiers=["Control"])
        page.get_by_role("button", name="Key of speed here").click()
        settled(page)
        left = {layer.id: layer.speed.curve for _, layer in library.state("jetty-walk-swaying").document.layers()}
        self.assertEqual({name: len(curve.keys) if curve else 0 for name, curve in left.items()}, {"sway-1": 2, "shake-1": 1})

    def test_backspace_on_points_of_a_curve_leaves_the_layer(self) -> None:
        page = self.open("jetty-walk-swaying")
        page.get_by_role("button", name="Slow sway", exact=True).click()
        page.keyboard.press("c")
        page.locator("[data-point='weight/74']").click()
        page.keyboard.press("Backspace")
        expect(page.get_by_label("Undo: Delete key of weight at frame 74")).to_be_visible()
        self.assertEqual(len(list(self.library().state("jetty-walk-swaying").document.layers())), 2)


class Keys(WithPage):
    def dot(self, page: Page, name: str) -> None:
        page.get_by_role("button", name=f"Key of {name} here", exact=True).click()

    def test_a_swing_is_keyed_in_place(self) -> None:
        page = self.open(SHOT)
        self.dot(page, "swing of pan")
        expect(page.get_by_label("Undo: Set key of swing at frame 1")).to_be_visible()
        page.keyboard.press("End")
        page.locator("[data-testid=frame]", has_text="0192").wait_for()
        page.get_by_role("spinbutton", name="Swing of pan", exact=True).dblclick()
        entry = page.get_by_role("textbox", name="Swing of pan", exact=True)
        entry.fill("2.5")
        entry.press("Enter")
        expect(page.get_by_label("Undo: Set swing of pan in “Slow sway” at frame 192")).to_be_visible()
        expect(page.get_by_role("button", name="Key of swing of pan here", exact=True)).to_have_attribute("aria-pressed", "true")
        layer = self.library().state(SHOT).document.lanes[0].clips[0].layers[0]
        self.assertEqual([(key.frame, round(key.value, 2)) for key in layer.axes.pan.swing.curve.keys], [(1, 0.66),
            (192, 2.5)])
        page.get_by_role("button", name="Key of swing of pan here", exact=True).click(modifiers=["Alt"])
        expect(page.get_by_label("Undo: Delete keys of swing at 2 frames")).to_be_visible()

    def test_curves_and_table_speak_the_units_of_the_board(self) -> None:
        page = self.open("lamp-close")
        page.get_by_role("button", name="Select layer Breathing").click()
        page.keyboard.press("t")
        cell = page.get_by_label("weight at frame 1", exact=True)
        expect(cell).to_have_value("100.0000")
        cell.fill("50")
        cell.press("Enter")
        expect(page.get_by_label("Undo: Set key of weight at frame 1")).to_be_visible()
        settled(page)
        (breathing,) = (each for _, each in self.library().state("lamp-close").document.layers() if each.name == "Breathing")
        weight = breathing.weight
        self.assertEqual([key.value for key in weight.curve.keys], [0.5])
        page.get_by_label("Numbers shown").select_option(label="breaths /min")
        expect(page.get_by_role("columnheader", name="breaths /min")).to_be_visible()
        rate = breathing.source.rate_hz.value
        expect(page.get_by_label("breaths at frame 1", exact=True)).to_have_value(f"{rate * 60:.4f}")
        page.keyboard.press("c")
        expect(page.get_by_role("group", name="Curves", exact=True)).to_contain_text("/min")

    def test_hand_keys_draw_their_waveform(self) -> None:
        page = self.open("jetty-walk")
        page.get_by_label("Add layer").click()
        page.get_by_role("menuitem", name="Keys curves").click()
        expect(page.get_by_label("Undo: Add keys layer")).to_be_visible()
        for key, text in (("Home", "0"), ("End", "3")):
            page.keyboard.press(key)
            page.get_by_role("spinbutton", name="pan key", exact=True).dblclick()
            entry = page.get_by_role("textbox", name="pan key", exact=True)
            entry.fill(text)
            with page.expect_response("**/edits"):
                entry.press("Enter")
            settled(page)
        shot = self.library().state("jetty-walk").document
        (keys,) = (layer for _, layer in shot.layers() if layer.name == "Keys")
        tracks = {axis: track for axis, track in keys.source.tracks if track.curve is not None}
        self.assertEqual(list(tracks), ["pan"], "what was not typed into has no keys")
        expected = [(shot.first_frame, 0.0), (shot.last_frame, 3.0)]
        self.assertEqual([(key.frame, key.value) for key in tracks["pan"].curve.keys], expected, "a zero is keyed too")
        expect(page.get_by_role("row").filter(has_text="pan").first).to_be_visible()
        expect(page.get_by_test_id("sum-size")).not_to_have_text("0 px")
        canvas = page.get_by_role("img", name="Waveform of Keys")
        inked = canvas.evaluate(
            "(c) => { const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i "
            "= 0; i < d.length; i += 4) if (d[i + 3] > 100 && d[i] < 160 && d[i + 2] > d[i + 1] + 40) n++; return n; }"
        )
        self.assertGreater(inked, 100)
