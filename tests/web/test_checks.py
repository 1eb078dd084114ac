"""Checks on the page: counted in the head, marked on the ruler, listed, mended, meant so."""

import re

from playwright.sync_api import expect

from tests.formats.making import GltfMaker
from tests.web.harness import RETRIES, settled
from tests.web.making import WithPage

SHOT = "jetty-walk-swaying"


class Checks(WithPage):
    def weaken(self) -> None:
        self.edit(SHOT, {"type": "set_values", "values": [{"at": "layer:sway-1.weight", "value": 0}]})

    def test_a_finding_is_counted_marked_gone_to_and_mended(self) -> None:
        self.weaken()
        page = self.open(SHOT)
        button = page.get_by_label(re.compile("^Checks: 1 problems?"))
        expect(button).to_be_visible()
        expect(page.locator("[data-finding=silent]")).to_have_count(1)
        page.get_by_role("button", name="Fine shake", exact=True).first.click()
        page.keyboard.press("z")
        sheet = page.get_by_role("region", name="Checks")
        expect(sheet).to_contain_text("“Slow sway” does nothing: its weight is 0 whole shot")
        sheet.get_by_role("button", name="frames 1–192").click()
        expect(page.get_by_role("textbox", name="Layer name")).to_have_value("Slow sway")
        sheet.get_by_title("Fix: to 100 %").click()
        settled(page)
        expect(page.get_by_label(re.compile("^Checks: 0 problems?"))).to_be_visible()
        expect(sheet).to_contain_text("Nothing found")
        layer = next(layer for _, layer in self.library().state(SHOT).document.layers() if layer.id == "sway-1")
        self.assertEqual(layer.weight.constant, 1.0)
        page.keyboard.press("Escape")
        expect(sheet).to_have_count(0)

    def test_a_long_finding_is_told_whole(self) -> None:
        page = self.open("surge-plates")
        page.keyboard.press("z")
        says = page.get_by_role("region", name="Checks").get_by_text("the edge of “Storm sky” shows")
        expect(says).to_contain_text("6.5 % longer")
        cut = says.evaluate("(each) => each.scrollHeight > each.clientHeight + 1 || each.scrollWidth > each.clientWidth + 1")
        self.assertFalse(cut)

    def test_meant_so_is_kept_in_the_shot_and_taken_back(self) -> None:
        self.weaken()
        page = self.open(SHOT)
        page.keyboard.press("z")
        sheet = page.get_by_role("region", name="Checks")
        sheet.get_by_role("button", name="Ignore", exact=True).click()
        expect(page.get_by_label(re.compile("^Checks: 0 problems?"))).to_be_visible()
        settled(page)
        self.assertEqual([each.check for each in self.library().state(SHOT).document.ignored], ["silent"])
        page.reload()
        settled(page)
        page.keyboard.press("z")
        sheet.get_by_role("button", name="Stop ignoring").click()
        expect(page.get_by_label(re.compile("^Checks: 1 problems?"))).to_be_visible()

    def test_a_shot_that_loops_has_its_seam_checked(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("z")
        sheet = page.get_by_role("region", name="Checks")
        expect(sheet).to_contain_text("Nothing found")
        sheet.get_by_label("this shot loops").check()
        expect(sheet).to_contain_text("at the loop point")
        sheet.get_by_title("Fix: loop it: its motion closes on itself").first.click()
        settled(page)
        loops = [layer.source.loop for _, layer in self.library().state(SHOT).document.layers()]  # type: ignore[union-attr]
        self.assertIn(True, loops)


class SetEdge(WithPage):
    def on_a_floor(self, half_m: float) -> None:
        """The shot stands on a square floor and nothing else, looking along -Z from its middle, 3 m high, 12° down."""
        # A file need not have a scene: all of its nodes are one.
        floor = GltfMaker({"mesh": 0, "name": "floor"}, cameras=())
        corners = [[x * half_m, 0.0, z * half_m] for x, z in ((-1, 1), (1, 1), (1, -1), (-1, -1))]
        places, order = floor.accessor(corners, "VEC3"), floor.accessor([0, 1, 2, 0, 2, 3], "SCALAR", "<u2")
        floor.json["meshes"] = [{"primitives": [{"attributes": {"POSITION": places}, "indices": order}]}]
        made = self.page.request.post(
            f"{self.server.url}api/sets", multipart={"file": {"name": "floor.glb", "mimeType": "model/gltf-binary", "buffer": floor.glb()}},
            headers={"Origin": self.server.url.rstrip("/")}, max_retries=RETRIES,
        )
        self.assertTrue(made.ok, made.text())
        pose = {"x_m": 0, "y_m": 3, "z_m": 0, "pan_deg": 0, "tilt_deg": -12, "roll_deg": 0}
        values = [{"at": f"mount:camera.{name}", "value": {"state": "fixed", "value": value}} for name, value in pose.items()]
        self.edit(SHOT, {"type": "set_shot", "set_id": made.json()["set_id"]})
        self.edit(SHOT, {"type": "set_values", "values": values})

    def test_where_the_picture_looks_past_it_is_hatched_and_banded(self) -> None:
        self.on_a_floor(20.0)
        page = self.open(SHOT)
        expect(page.get_by_test_id("coverage-band")).to_be_visible()
        hatched = page.get_by_test_id("past-set")
        expect(hatched).to_be_visible()
        page.keyboard.press("Space")
        expect(hatched).to_have_count(0)
        page.keyboard.press("Space")
        expect(hatched).to_be_visible()
        self.on_a_floor(600.0)
        self.open(SHOT)
        page.keyboard.press("z")
        expect(page.get_by_role("region", name="Checks")).to_contain_text("is out of frame")
        expect(page.get_by_role("region", name="Checks")).not_to_contain_text("edge of the set")
        expect(page.get_by_test_id("coverage-band")).to_have_count(0)
        expect(hatched).to_have_count(0)
