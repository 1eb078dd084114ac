"""The camera dragged by its rings and mast in the Set view; a point of the set marked as the subject."""

import re

import numpy as np
from playwright.sync_api import Route, expect

from tests.core.making import over
from tests.web.harness import settled
from tests.web.making import WithPage


class InTheSetView(WithPage):
    def grip(self, part: str) -> tuple[float, float]:
        """A place on a ring, the mast or the camera, found with the pointer."""
        box = self.page.get_by_test_id("set-view").bounding_box()
        assert box is not None
        told = self.page.get_by_test_id("set-view").locator("b")

        def says(x: float, y: float) -> bool:
            self.page.mouse.move(x, y)
            # What is said follows the pointer by a drawing; only then does it belong to this place.
            self.page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
            return any(text.startswith(part) for text in told.all_inner_texts())

        for x in range(40, int(box["width"]) - 40, 14):
            for y in range(60, int(box["height"]) - 30, 5):
                self.page.mouse.move(box["x"] + x, box["y"] + y)
                if told.count():
                    for near in (y - 5, y):
                        if says(box["x"] + x, box["y"] + near):
                            return box["x"] + x, box["y"] + near
        raise AssertionError(f"there is no {part} to take hold of")

    def drag_from(self, x: float, y: float) -> None:
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 8, y - 12)
        self.page.mouse.move(x + 16, y - 24)
        self.page.mouse.up()
        settled(self.page)

    def test_rings_turn_one_angle_each_and_the_mast_lifts(self) -> None:
        page = self.open("empty-dune")
        page.get_by_role("button", name="Move", exact=False).filter(has_text="no keys").click()
        for part, column in (("pan", 3), ("tilt", 4), ("roll", 5), ("height", 1)):
            before = self.pose()
            self.drag_from(*self.grip(part))
            expect(page.get_by_label(re.compile(f"^Undo: Set .*{part}.* at frame 1"))).to_be_visible()
            changed = np.abs(self.pose() - before)
            self.assertGreater(changed[column], 0.02, part)
            np.testing.assert_allclose(np.delete(changed, column), 0, atol=1e-5, err_msg=part)

    def test_turning_it_selects_no_text_on_the_way(self) -> None:
        page = self.open("jetty-walk")
        box = page.get_by_test_id("set-view").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        for to in ((box["x"] + 60, box["y"] - 20), (x, box["y"] + box["height"] + 150)):
            self.pull((x, y), to)
            self.assertEqual(page.evaluate("getSelection().toString()"), "")

    def test_a_point_is_picked_and_looked_at(self) -> None:
        page = self.open("jetty-walk")
        page.locator("[data-testid=set-view][data-set=ready]").wait_for()
        page.keyboard.press("p")
        view = page.get_by_test_id("viewfinder")
        expect(view.get_by_text("click the point to look at")).to_be_visible()
        box = view.bounding_box()
        assert box is not None
        page.mouse.click(box["x"] + 240, box["y"] + 130)
        expect(page.get_by_label("Undo: Set subject")).to_be_visible()
        subject = self.library().state("jetty-walk").document.subject
        assert subject is not None
        self.assertRegex(subject.name, "point on")
        page.get_by_role("button", name=f"Aim at {subject.name}").click()
        expect(page.get_by_label(f"Undo: Aim at “{subject.name}” at frame 1")).to_be_visible()
        settled(page)
        pose = self.pose()
        away = subject.position_m(over(np.array([1.0])))[0] - pose[:3]
        pan = np.degrees(np.arctan2(-away[0], -away[2]))
        tilt = np.degrees(np.arctan2(away[1], np.hypot(away[0], away[2])))
        np.testing.assert_allclose(pose[3:5], [pan, tilt], atol=1e-3)

    def test_a_click_before_the_set_is_loaded_says_so_and_picks_on(self) -> None:
        held: list[Route] = []
        self.page.route("**/api/sets/**", lambda route: held.append(route))
        page = self.open("jetty-walk")
        page.keyboard.press("p")
        view = page.get_by_test_id("viewfinder")
        expect(view.get_by_text("click the point to look at")).to_be_visible()
        box = view.bounding_box()
        assert box is not None
        page.mouse.click(box["x"] + 240, box["y"] + 130)
        expect(page.get_by_text("The set is still loading: click again in a moment")).to_be_visible()
        for route in held:
            route.continue_()
        page.locator("[data-testid=set-view][data-set=ready]").wait_for()
        page.mouse.click(box["x"] + 240, box["y"] + 130)
        expect(page.get_by_label("Undo: Set subject")).to_be_visible()

    def test_nothing_is_picked_after_escape(self) -> None:
        page = self.open("empty-dune")
        page.keyboard.press("p")
        page.keyboard.press("Escape")
        expect(page.get_by_test_id("viewfinder").get_by_text("click the point")).to_have_count(0)
        expect(page.get_by_label("Nothing to undo")).to_be_visible()
