"""Axes of a layer: switched together, copied to others, linked and let go again."""

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.web.harness import grey, settled
from tests.web.test_keys import SHOT, Keys
from zittern.core.axes import Axis
from zittern.core.motion.evaluate import evaluate


class Axes(Keys):
    def on(self) -> set[str]:
        board = self.layers()["Slow sway"].axes
        return {axis for axis in type(board).model_fields if board.of(axis).on}  # type: ignore[arg-type]

    def test_only_one_axis_rotations_translations_and_all_again_a_locked_one_stays(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.get_by_role("button", name="Lock zoom", exact=True).click()
        settled(page)
        locked = {"zoom"} & self.on()
        page.get_by_label("tilt on", exact=True).click(modifiers=["Alt"])
        expect(page.get_by_label("pan on", exact=True)).not_to_be_checked()
        settled(page)
        self.assertEqual(self.on() - locked, {"tilt"})
        for words, wanted in (
            ("Rotations only", {"pan", "tilt", "roll"}),
            ("Translations only", {"truck", "pedestal", "dolly"}),
            ("All axes on", {"pan", "tilt", "roll", "truck", "pedestal", "dolly", "shift_x", "shift_y", "focus"}),
        ):
            page.keyboard.press("Control+k")
            page.get_by_label("Search commands").fill(words)
            page.keyboard.press("Enter")
            expect(page.get_by_role("dialog")).to_have_count(0)
            settled(page)
            self.assertEqual(self.on() - locked, wanted)

    def test_copied_to_others_linked_and_let_go_again(self) -> None:
        page = self.open(SHOT)
        self.pick()
        axes: tuple[Axis, ...] = ("pan", "tilt", "roll")
        page.get_by_role("button", name="pan", exact=True).click()
        page.get_by_role("button", name="roll", exact=True).click(modifiers=["Shift"])
        page.get_by_role("button", name="Copy pan to the others").click()
        settled(page)
        board = self.layers()["Slow sway"].axes
        self.assertEqual(len({board.of(axis).swing.constant for axis in axes}), 1)
        apart = evaluate(self.document()).layers[self.layers()["Slow sway"].id]
        self.assertLess(abs(float(np.corrcoef(apart[:, 0], apart[:, 1])[0, 1])), 0.8, "each has a seed of its own")
        page.get_by_role("button", name="Link to pan").click()
        settled(page)
        self.assertEqual([self.layers()["Slow sway"].axes.of(axis).linked_to for axis in axes], [None, "pan", "pan"])
        moved = evaluate(self.document()).layers[self.layers()["Slow sway"].id]
        np.testing.assert_allclose(moved[:, 1:3], moved[:, [0, 0]], atol=1e-9)
        page.get_by_role("button", name="Unlink").click()
        settled(page)
        self.assertEqual({self.layers()["Slow sway"].axes.of(axis).linked_to for axis in axes}, {None})

    def test_a_picture_shifted_by_the_film_back_lies_beside_itself(self) -> None:
        page = self.open(SHOT)
        self.pick()
        page.keyboard.press("Home")
        page.get_by_role("button", name="Mute Slow sway").click()
        expect(page.get_by_role("button", name="Lock shift x")).to_have_count(0)
        page.get_by_role("button", name="shift x, shift y").click()
        expect(page.get_by_role("button", name="Lock shift x")).to_be_visible()
        settled(page)
        before = self.seen()
        page.get_by_label("Add layer").click()
        page.get_by_role("menuitem", name="Keys curves").click()
        settled(page)
        number = page.get_by_role("spinbutton", name="shift x key", exact=True)
        number.dblclick()
        page.get_by_role("textbox", name="shift x key", exact=True).fill("5")
        with page.expect_response("**/edits"):
            page.keyboard.press("Enter")
        settled(page)
        after = self.seen()
        width = before.shape[1]
        apart = [float(np.mean(np.abs(after[:, by:] - before[:, : width - by]))) for by in range(60)]
        self.assertAlmostEqual(int(np.argmin(apart)), 0.05 * self.width, delta=1.5)
        self.assertLess(min(apart), 0.5 * apart[0])

    def test_a_close_look_is_the_middle_of_the_picture_in_its_own_shape(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Home")
        settled(page)
        far = self.seen()
        box = page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.wheel(0, -693)
        expect(page.get_by_text("×2.8", exact=False)).to_be_visible()
        zoom = float(np.exp(693 * 0.0015))
        near = self.seen()
        rows, columns = far.shape
        part = far[round(rows * (0.5 - 0.5 / zoom)) : round(rows * (0.5 + 0.5 / zoom)),
                   round(columns * (0.5 - 0.5 / zoom)) : round(columns * (0.5 + 0.5 / zoom))]
        larger = np.asarray(Image.fromarray(part.astype(np.uint8)).resize((columns, rows)), dtype=np.float64)
        squeezed = np.asarray(Image.fromarray(far.astype(np.uint8)).resize((columns, rows)), dtype=np.float64)
        self.assertLess(np.mean(np.abs(larger - near)), 0.7 * np.mean(np.abs(squeezed - near)))

    def seen(self) -> np.ndarray:
        """What the lens sees between the guides and below the words, grey. (rows, columns); `width`: of all of it."""
        box = self.page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        self.width = box["width"]
        third = {"x": box["x"] + box["width"] / 3 + 4, "width": box["width"] / 3 - 8}
        middle = {"y": box["y"] + box["height"] / 3 + 4, "height": box["height"] / 3 - 8}
        return grey(self.page.screenshot(clip={**third, **middle}))
