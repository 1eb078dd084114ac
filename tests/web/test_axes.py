"""Axes of a layer: switched together, copied to others, linked and let go again."""

import numpy as np
from playwright.sync_api import expect

from tests.web.harness import settled
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
            ("All axes on", {"pan", "tilt", "roll", "truck", "pedestal", "dolly"}),
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
