"""No edit is lost, and keys act on what is shown as selected: real keys on a real page."""

import json
import re

from playwright.sync_api import Locator, Route, expect

from tests.web.harness import at_first, not_following, settled
from tests.web.making import WithPage
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot

SHOT = "jetty-walk-swaying"
FIELD = "Swing of pan"


class Keys(WithPage):
    def document(self) -> Shot:
        return self.library().state(SHOT).document

    def layers(self) -> dict[str, Layer]:
        return {layer.name: layer for _, layer in self.document().layers()}

    def revisions(self) -> int:
        return self.library().state(SHOT).revision

    def number(self, name: str = FIELD) -> Locator:
        return self.page.get_by_role("spinbutton", name=name, exact=True).first

    def pick(self, name: str = "Slow sway") -> None:
        self.page.get_by_role("button", name=name, exact=True).first.click()

    def pick_clip(self) -> None:
        self.page.get_by_role("button", name="Clip Whole shot").click()
        expect(self.page.get_by_label("Clip name")).to_be_visible()


    def answer_next(self, status: int, body: dict[str, str]) -> None:
        """The next edit is answered by this in place of the server."""

        def answer(route: Route) -> None:
            route.fulfill(status=status, content_type="application/problem+json", body=json.dumps(body))

        at_first(self.page, f"**/api/shots/{SHOT}/edits", answer)


class Kept(Keys):
    def test_enter_keeps_what_was_typed_whatever_is_pressed_next(self) -> None:
        page = self.open(SHOT)
        self.pick()
        for n, text in enumerate(("0.31", "0.32", "0.33", "0.34", "0.35", "0.36")):
            self.number().dblclick()
            page.get_by_role("textbox", name=FIELD, exact=True).fill(text)
            page.keyboard.press("Enter")
            page.keyboard.press("Escape")
            expect(self.number()).to_have_text(f"{text} °")
            settled(page)
            self.assertEqual(self.layers()["Slow sway"].axes.pan.swing.constant, float(text), n)

    def test_after_a_conflict_that_could_not_be_read_edits_go_on(self) -> None:
        page = self.open(SHOT)
        self.pick()
        self.answer_next(409, {"detail": "changed", "current_label": "Theirs"})
        at_first(page, f"**/api/shots/{SHOT}", lambda route: route.abort())
        self.number().press("ArrowUp")
        expect(page.get_by_role("alert").first).to_be_visible()
        before = self.layers()["Slow sway"].axes.pan.swing.constant
        self.number().press("ArrowUp")
        settled(page)
        self.assertNotEqual(self.layers()["Slow sway"].axes.pan.swing.constant, before)

    def test_a_change_that_came_too_late_goes_to_its_own_shot_or_nowhere(self) -> None:
        page = self.open(SHOT)
        self.pick()
        other = self.fresh_page()
        self.open(SHOT, other)
        not_following(other)
        self.number().press("ArrowUp")
        settled(page)
        other.get_by_role("button", name="Slow sway", exact=True).first.click()
        other.get_by_role("spinbutton", name=FIELD, exact=True).first.press("ArrowUp")
        expect(other.get_by_role("button", name="Apply my change anyway")).to_be_visible()
        other.get_by_role("link", name="All projects").click()
        other.get_by_text("Signal run", exact=True).first.click()
        settled(other)
        revision = self.library().state("signal-run").revision
        if other.get_by_role("button", name="Apply my change anyway").count():
            other.get_by_role("button", name="Apply my change anyway").click()
            expect(other.get_by_text("is not open")).to_be_visible()
        settled(other)
        self.assertEqual(self.library().state("signal-run").revision, revision)

    def test_what_was_tried_on_and_is_answered_too_late_is_no_fault(self) -> None:
        """A drag of a key is let go; the motion asked for on the way comes to the server when the key is elsewhere."""
        page = self.open(SHOT)
        held: list[Route] = []

        def hold(route: Route) -> None:
            asked = json.loads(route.request.post_data or "{}")
            if asked.get("commands") and not held:
                held.append(route)
            else:
                route.continue_()

        page.route("**/motion", hold)
        box = page.locator("[data-pin='74']").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 8, box["y"] + 8)
        page.mouse.down()
        page.mouse.move(box["x"] + 48, box["y"] + 8, steps=4)
        page.mouse.up()
        expect(page.get_by_label("Undo: Move key by +")).to_be_visible()
        with page.expect_response(lambda answer: "/motion" in answer.url and answer.status == 422):
            held[0].continue_()
        settled(page)
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_flight_that_has_landed_is_not_flown_once_more(self) -> None:
        """What was tried on by how much, and is asked for when it is kept already, would be added to itself."""
        page = self.open("empty-dune")
        held: list[Route] = []
        asks = "commands\":[{"
        page.route("**/motion", lambda route: held.append(route) if asks in (route.request.post_data or "") else route.continue_())
        finder = page.get_by_test_id("viewfinder")
        finder.evaluate("""(finder) => {
          window.pans = [];
          const look = () => window.pans.push(Number(finder.dataset.pose.split(" ")[3]));
          new MutationObserver(look).observe(finder, { attributes: true, attributeFilter: ["data-pose"] });
        }""")
        page.keyboard.press("v")
        box = finder.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.pull((x, y), (x + 100, y))
        expect(page.get_by_label("Undo: Fly camera at frame 1")).to_be_visible()
        held[0].continue_()
        settled(page)
        self.assertAlmostEqual(self.pose()[3], 8.0, places=3)
        self.assertAlmostEqual(max(page.evaluate("window.pans")), 8.0, places=3)

    def test_a_look_that_waited_behind_a_trial_is_not_blamed_for_it(self) -> None:
        """Somebody steps on, drags a key meanwhile, and lets go; the trial comes to the server too late."""
        page = self.open(SHOT)
        held: list[Route] = []
        page.route("**/motion", lambda route: route.continue_() if len(held) == 2 else held.append(route))
        with page.expect_request("**/motion"):
            page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowRight")
        box = page.locator("[data-pin='74']").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 8, box["y"] + 8)
        page.mouse.down()
        page.mouse.move(box["x"] + 48, box["y"] + 8, steps=4)
        with page.expect_request("**/motion"):
            held[0].continue_()
        page.mouse.up()
        expect(page.get_by_label("Undo: Move key by +")).to_be_visible()
        with page.expect_response(lambda answer: "/motion" in answer.url and answer.status == 422):
            held[1].continue_()
        settled(page)
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_note_with_an_offer_stays_and_a_dialog_does_not_hide_it(self) -> None:
        page = self.open(SHOT)
        self.pick()
        self.answer_next(409, {"detail": "changed", "current_label": "Theirs"})
        self.number().press("ArrowUp")
        offer = page.get_by_role("button", name="Apply my change anyway")
        expect(offer).to_be_visible()
        for what in ("1", "2", "3", "4"):
            self.answer_next(422, {"detail": f"wrong {what}"})
            self.number().press("ArrowUp")
            expect(page.get_by_text(f"wrong {what}")).to_be_visible()
        expect(offer).to_be_visible()
        page.keyboard.press("Control+k")
        expect(page.get_by_role("dialog")).to_be_visible()
        before = self.layers()["Slow sway"].axes.pan.swing.constant
        offer.click()
        settled(page)
        self.assertNotEqual(self.layers()["Slow sway"].axes.pan.swing.constant, before)


class Selected(Keys):
    def test_layer_keys_leave_layers_alone_while_something_else_is_selected(self) -> None:
        page = self.open(SHOT)
        self.pick()
        for what in ("clip", "move"):
            if what == "clip":
                self.pick_clip()
            else:
                page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
            before = {name: layer.model_dump() for name, layer in self.layers().items()}
            for key in ("s", "w", "[", "]", "Control+ArrowUp"):
                page.keyboard.press(key)
            settled(page)
            self.assertEqual({name: layer.model_dump() for name, layer in self.layers().items()}, before, what)

    def test_with_a_clip_selected_m_mutes_it_and_ctrl_d_doubles_it(self) -> None:
        page = self.open(SHOT)
        self.pick_clip()
        page.keyboard.press("m")
        settled(page)
        self.assertTrue(next(self.document().clips()).mute)
        self.assertFalse(any(layer.mute for layer in self.layers().values()))
        page.get_by_role("spinbutton", name="to frame", exact=True).press("ArrowDown")
        settled(page)
        page.keyboard.press("Control+d")
        settled(page)
        self.assertEqual(len(list(self.document().clips())), 2)

    def test_duplicate_selects_the_copy(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.keyboard.press("Control+d")
        settled(page)
        made = [layer for _, layer in self.document().layers()]
        self.assertEqual(len(made), 3)
        page.keyboard.press("Delete")
        settled(page)
        self.assertEqual({name for name in self.layers()}, {"Slow sway", "Fine shake"})

    def test_escape_takes_back_the_axes_then_the_selection(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.locator("tr[data-axis=pan]").get_by_role("button", name="pan", exact=True).click()
        expect(page.locator("tr[data-axis=pan] [aria-pressed=true]")).to_have_count(1)
        page.keyboard.press("Escape")
        expect(page.locator("tr[data-axis=pan] [aria-pressed=true]")).to_have_count(0)
        expect(self.number()).to_be_visible()
        page.keyboard.press("Escape")
        expect(self.number()).to_have_count(0)
        revision = self.revisions()
        page.keyboard.press("Delete")
        page.keyboard.press("m")
        settled(page)
        self.assertEqual(self.revisions(), revision)

    def test_held_keys_do_a_thing_once_and_h_again_shows_what_is_there(self) -> None:
        page = self.open(SHOT)
        revision = self.revisions()
        page.keyboard.down("h")
        for _ in range(4):
            page.keyboard.down("h")
        page.keyboard.up("h")
        page.keyboard.press("h")
        expect(page.get_by_text("is there already")).to_be_visible()
        settled(page)
        self.assertEqual(self.revisions(), revision)
        self.assertEqual(len(self.layers()), 2)

    def test_space_ticks_a_box_that_has_the_focus_and_plays_after_it_was_clicked(self) -> None:
        page = self.open(SHOT)
        self.pick()
        box = page.get_by_label("tilt on", exact=True)
        box.focus()
        page.keyboard.press("Space")
        expect(box).not_to_be_checked()
        settled(page)
        self.assertFalse(self.layers()["Slow sway"].axes.tilt.on)
        box.click()
        expect(box).to_be_checked()
        page.keyboard.press("Space")
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.keyboard.press("Space")
        expect(box).to_be_checked()

    def test_delete_in_a_dialog_leaves_the_selected_points_of_the_curves_alone(self) -> None:
        page = self.open("jetty-walk")
        page.keyboard.press("c")
        page.get_by_label("Numbers shown").select_option(label="angles °")
        page.locator("[data-point^='pan/']").nth(1).click()
        revision = self.library().state("jetty-walk").revision
        page.keyboard.press("Control+h")
        page.get_by_role("dialog").get_by_role("button", name="Close").focus()
        page.keyboard.press("Delete")
        page.keyboard.press("Escape")
        settled(page)
        self.assertEqual(self.library().state("jetty-walk").revision, revision)

    def test_layers_that_the_browser_cannot_store_are_not_copied_and_it_says_so(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.evaluate("() => { Storage.prototype.setItem = () => { throw new DOMException('', 'QuotaExceededError'); }; }")
        page.keyboard.press("Control+c")
        expect(page.get_by_text("Not copied: “Slow sway” exceed what the browser stores")).to_be_visible()

    def test_keys_with_alt_are_the_browsers_and_delete_in_a_dialog_is_the_dialogs(self) -> None:
        page = self.open(SHOT)
        self.pick()
        revision = self.revisions()
        page.keyboard.press("Alt+m")
        page.keyboard.press("Control+h")
        page.get_by_role("dialog").get_by_role("button", name="Close").focus()
        page.keyboard.press("Delete")
        page.keyboard.press("Escape")
        settled(page)
        self.assertEqual(self.revisions(), revision)


class Typed(Keys):
    def test_a_focused_number_begins_to_be_typed_by_its_first_digit_sign_or_point(self) -> None:
        page = self.open(SHOT)
        self.pick()
        for first, rest, shown in (("0", ".42", "0.42 °"), (".", "5", "0.50 °"), ("1", "/4", "0.25 °")):
            self.number().focus()
            page.keyboard.press(first)
            page.keyboard.type(rest)
            page.keyboard.press("Enter")
            expect(self.number()).to_have_text(shown)
        self.number().focus()
        page.keyboard.press("m")
        settled(page)
        self.assertTrue(self.layers()["Slow sway"].mute)
        self.number().focus()
        page.keyboard.type("=mix(0.1, 0.3, u)")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name=f"Formula of {FIELD}").first).to_be_visible()

    def test_a_name_follows_what_is_undone_and_what_is_selected(self) -> None:
        page = self.open(SHOT)
        self.pick()
        name = page.get_by_role("textbox", name="Layer name")
        name.fill("Calm sway")
        name.press("Enter")
        settled(page)
        page.keyboard.press("Control+z")
        settled(page)
        expect(name).to_have_value("Slow sway")
        name.fill("not kept")
        self.pick("Fine shake")
        expect(name).to_have_value("Fine shake")


class Table(Keys):
    def table(self) -> Locator:
        self.page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        self.page.keyboard.press("t")
        return self.page.get_by_label("Frame table")

    def heights(self) -> dict[float, float]:
        curve = self.document().mounts[0].y_m.curve
        assert curve is not None
        return {key.frame: round(key.value, 6) for key in curve.keys}

    def test_cells_are_pasted_by_the_keys_from_the_clipboard(self) -> None:
        page = self.open(SHOT)
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        table = self.table()
        cell = table.get_by_label("height at frame 1", exact=True)
        page.evaluate("() => navigator.clipboard.writeText('1.25\\n1.5\\n175 cm')")
        cell.click()
        page.keyboard.press("Control+v")
        expect(table.get_by_label("height at frame 3", exact=True)).to_have_value(re.compile("^1.75"))
        settled(page)
        found = self.heights()
        self.assertEqual([found.get(frame) for frame in (1, 2, 3)], [1.25, 1.5, 1.75])
        page.keyboard.press("Control+z")
        settled(page)
        self.assertNotEqual(self.heights().get(2), 1.5)

    def test_what_is_typed_in_a_cell_survives_scrolling(self) -> None:
        page = self.open(SHOT)
        table = self.table()
        table.get_by_label("height at frame 2", exact=True).click()
        page.keyboard.type("1.875")
        scroller = table.locator("xpath=..")
        scroller.evaluate("element => { element.scrollTop = element.scrollHeight; }")
        expect(table.get_by_label("height at frame 190", exact=True)).to_be_visible()
        # The cell leaves the page, and what was in it is kept then.
        expect(page.get_by_label(re.compile("^Undo: "))).to_be_visible()
        settled(page)
        self.assertEqual(self.heights().get(2), 1.875)


class Going(Keys):
    def test_to_a_frame_a_time_so_many_on_and_a_cue(self) -> None:
        page = self.open(SHOT)
        self.edit(SHOT, {"type": "add_cues", "cues": [{"frame": 77, "name": "door"}]})
        page.reload()
        settled(page)
        frame = page.get_by_test_id("frame")
        for text, shown in (("120", "0120"), ("+12", "0132"), ("-2", "0130"), ("2.5 s", "0061"), ("door", "0077")):
            page.keyboard.press("Control+g")
            box = page.get_by_label("Frame to go to")
            expect(box).to_be_focused()
            page.keyboard.type(text)
            page.keyboard.press("Enter")
            expect(frame).to_have_text(shown)
        frame.click()
        page.keyboard.type("9999")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("the shot goes from frame 1 to 192")
        page.keyboard.press("Escape")
        expect(frame).to_have_text("0077")

    def test_home_and_going_somewhere_while_it_plays(self) -> None:
        page = self.open(SHOT)
        passed = "frame => Number(document.querySelector('[data-testid=frame]').textContent) {} frame"
        page.keyboard.press("Space")
        page.wait_for_function(passed.format(">"), arg=60)
        page.keyboard.press("Home")
        page.wait_for_function(passed.format("<"), arg=60)
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.wait_for_function(passed.format(">"), arg=61)

    def test_the_move_without_layers_is_held_or_stays(self) -> None:
        page = self.open(SHOT)
        told = page.get_by_test_id("viewfinder").get_by_text("bare move")
        page.keyboard.press("Shift+B")
        expect(told).to_be_visible()
        page.keyboard.press("b")
        expect(told).to_be_visible()
        page.keyboard.press("Shift+B")
        expect(told).to_have_count(0)
        page.keyboard.down("b")
        expect(told).to_be_visible()
        page.keyboard.up("b")
        expect(told).to_have_count(0)
