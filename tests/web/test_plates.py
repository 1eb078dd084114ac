"""Plates on the page: hung, seen at their distance, their edges told, drawn and mended."""

import base64
import io
import re

import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from tests.formats.pictures import encoded, plain
from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.shot.plates import Plate

# The camera stands: it does not walk through what hangs in front of it.
SHOT = "lamp-close"
PAINT = (220, 20, 200)


class Plates(WithPage):
    home = True

    def plates(self) -> tuple[Plate, ...]:
        return self.library().state(SHOT).document.plates

    def hang(self, *names: str) -> Page:
        page = self.open(SHOT)
        with page.expect_file_chooser() as chooser:
            page.keyboard.press("Control+k")
            page.get_by_label("Search commands").fill("image plates")
            page.keyboard.press("Enter")
        picture = encoded(plain(colour=PAINT))
        chooser.value.set_files([{"name": name, "mimeType": "image/png", "buffer": picture} for name in names])
        expect(page.get_by_label("Name of the plate")).to_be_visible()
        settled(page)
        return page

    def painted(self) -> float:
        """Share of the picture's right border, between what is written over it, that shows the plate."""
        box = self.page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        height = box["width"] * 9 / 16
        top = box["y"] + (box["height"] - height) / 2
        clip = {"x": box["x"] + box["width"] - 3, "width": 2, "y": top + 0.1 * height, "height": 0.5 * height}
        pixels = np.asarray(Image.open(io.BytesIO(self.page.screenshot(clip=clip))).convert("RGB"), dtype=float)
        return float(np.mean(np.max(np.abs(pixels - PAINT), axis=2) < 60))

    def test_hung_in_front_of_the_lens_and_moved_away_at_the_same_size(self) -> None:
        page = self.hang("far_shore.png", "sky.png")
        self.assertEqual([plate.name for plate in self.plates()], ["far shore", "sky"])
        expect(page.get_by_label("Name of the plate")).to_have_value("sky")
        expect(page.get_by_text("px for each cm of truck")).to_be_visible()
        page.get_by_role("button", name="far shore", exact=True).click()
        before = self.plates()[0]
        page.get_by_role("spinbutton", name="Distance of the plate").dblclick()
        page.get_by_role("textbox", name="Distance of the plate").fill("8 m")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Undo: Move “far shore” to 8 m")).to_be_visible()
        settled(page)
        self.assertAlmostEqual(self.plates()[0].width_m / before.width_m, 2.0)
        page.get_by_role("combobox", name=re.compile("^shape")).select_option("cylinder")
        settled(page)
        expect(page.get_by_role("spinbutton", name="bent by")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("Delete")
        settled(page)
        self.assertEqual([plate.name for plate in self.plates()], ["sky"])

    def test_pictures_dropped_on_a_project_become_a_shot(self) -> None:
        page = self.page
        shelf = page.locator("[data-project=saltmarsh-post]")
        shelf.wait_for()
        painted = base64.b64encode(encoded(plain(colour=PAINT))).decode()
        self.drop(shelf, painted, "far_shore.png")
        expect(page.get_by_text("far shore", exact=True).first).to_be_visible()
        settled(page)
        shots = [entry.card.name for entry in self.library().shots("saltmarsh-post")]
        self.assertIn("far shore", shots)
        page.goto(self.server.url)
        shelf.wait_for()
        self.drop(shelf, "", "none.png")
        expect(page.get_by_role("alert")).to_contain_text("nothing in this file (none)")
        self.assertEqual([entry.card.name for entry in self.library().shots("saltmarsh-post")], shots)

    def drop(self, on: Locator, text: str, name: str) -> None:
        """Drops a file, its bytes as base64, on a part of the page."""
        transfer = self.page.evaluate_handle(
            """([text, name]) => {
              const transfer = new DataTransfer();
              const bytes = Uint8Array.from(atob(text), (each) => each.charCodeAt(0));
              transfer.items.add(new File([bytes], name, { type: "image/png" }));
              return transfer;
            }""",
            [text, name],
        )
        on.dispatch_event("drop", {"dataTransfer": transfer})

    def test_an_edge_that_shows_is_hatched_told_and_mended(self) -> None:
        page = self.hang("wall.png")
        page.keyboard.press("Home")
        expect(page.get_by_test_id("coverage")).to_contain_text("Full coverage")
        self.edit(SHOT, {"type": "move_plate", "plate": "plate-1", "across_m": -0.6, "up_m": 0.0})
        page.reload()
        settled(page)
        page.keyboard.press("Home")
        expect(page.locator("[data-bare=right]")).to_be_visible()
        expect(page.get_by_test_id("coverage-band")).to_be_visible()
        self.assertLess(self.painted(), 0.1)
        page.get_by_label("Pieces of the set").click()
        page.get_by_role("menuitem", name="plate: wall").click()
        expect(page.get_by_test_id("coverage")).to_contain_text("px at frame")
        page.get_by_role("button", name="larger").click()
        settled(page)
        expect(page.get_by_test_id("coverage")).to_contain_text("Full coverage")
        for key in ("Home", "End"):
            page.keyboard.press(key)
            expect(page.locator("[data-bare]")).to_have_count(0)
            settled(page)
            self.assertEqual(self.painted(), 1.0, key)

    def test_a_picture_that_is_not_here_is_told_and_hung_again(self) -> None:
        page = self.hang("wall.png")
        for path in (self.folder / "data" / "pictures").iterdir():
            path.unlink()
        page = self.open(SHOT, self.fresh_page())
        page.get_by_label("Pieces of the set").click()
        page.get_by_role("menuitem", name="plate: wall").click()
        expect(page.get_by_role("alert")).to_contain_text("Its picture is not on this machine")
        picture = {"name": "wall.png", "mimeType": "image/png", "buffer": encoded(plain(colour=PAINT))}
        with page.expect_response(lambda each: each.url.endswith("/plates/plate-1")):
            page.get_by_label("Replace image for this plate").set_input_files([picture])
        expect(page.get_by_role("alert")).to_have_count(0)
