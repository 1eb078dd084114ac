"""Drags: what is held goes as far as the pointer, whether its way comes in one event or in many."""

from collections.abc import Callable

from playwright.sync_api import Locator, Request, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.numbers.param import Number
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot

EVENTS = 12


class Drags(WithPage):
    def setUp(self) -> None:
        super().setUp()
        self.under_way = 0
        self.listen("request", lambda request: self.count(request, 1))
        for event in ("requestfinished", "requestfailed"):
            self.listen(event, lambda request: self.count(request, -1))

    def count(self, request: Request, by: int) -> None:
        if "/motion" in request.url:
            self.under_way += by

    def drawn(self) -> None:
        """Waits until what was tried on has come back and is drawn."""
        for _ in range(3):
            self.page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        while self.under_way:
            self.page.evaluate("() => new Promise((done) => requestAnimationFrame(done))")

    def shot(self, slug: str) -> Shot:
        return self.library().state(slug).document

    def dragged(self, held: Locator, by: tuple[float, float], events: int) -> None:
        box = held.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        for n in range(1, events + 1):
            self.page.mouse.move(x + by[0] * n / events, y + by[1] * n / events)
            self.drawn()
        self.page.mouse.up()
        settled(self.page)

    def assert_one_way(self, slug: str, held: Locator, by: tuple[float, float], read: Callable[[Shot], object]) -> None:
        """The same comes of one event and of many, and it is another thing than before."""
        before = read(self.shot(slug))
        found = []
        for events in (1, EVENTS):
            self.dragged(held, by, events)
            found.append(read(self.shot(slug)))
            self.page.keyboard.press("Control+z")
            settled(self.page)
            self.drawn()
            self.assertEqual(read(self.shot(slug)), before)
        self.assertNotEqual(found[0], before)
        self.assertEqual(found[0], found[1], str(held))


def numbers(*each: Number) -> list[object]:
    return [number.model_dump() for number in each]


class OnTheBoard(Drags):
    def blend(self, shot: Shot) -> Clip:
        return next(clip for clip in shot.clips() if clip.blend)

    def place(self, shot: Shot) -> list[object]:
        blend = self.blend(shot).blend
        assert blend is not None
        return numbers(blend.across_percent, blend.up_percent)

    def open_blend(self) -> None:
        page = self.open("jetty-walk")
        page.keyboard.press("r")
        for name in ("Careful walk", "Run", "Small boat"):
            page.get_by_label(f"Compare {name}", exact=True).check()
        page.get_by_role("button", name="Blend these").click()
        expect(page.get_by_test_id("blend-pad")).to_be_visible()
        settled(page)

    def test_the_place_of_a_blend_and_its_numbers_follow_the_pointer(self) -> None:
        self.open_blend()
        dot = self.page.get_by_test_id("blend-place")
        self.assert_one_way("jetty-walk", dot, (30.0, 10.0), self.place)
        box = dot.bounding_box()
        assert box is not None
        across = self.page.get_by_role("spinbutton", name="across", exact=True)
        x, y = box["x"] + 12, box["y"] + 12
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        shown = [across.get_attribute("aria-valuenow")]
        for n in (1, 2):
            self.page.mouse.move(x + 10 * n, y)
            self.drawn()
            shown.append(across.get_attribute("aria-valuenow"))
        self.page.mouse.up()
        # 152 px are the whole way.
        self.assertEqual([round(float(each or "nan"), 1) for each in shown], [50.0, 56.6, 63.2])

    def test_a_swing(self) -> None:
        page = self.open("jetty-walk-swaying")
        page.get_by_role("button", name="Slow sway", exact=True).first.click()
        swing = page.get_by_role("spinbutton", name="Swing of pan", exact=True).first
        self.assert_one_way(
            "jetty-walk-swaying", swing, (40.0, 0.0),
            lambda shot: [numbers(layer.axes.pan.swing) for _, layer in shot.layers()],
        )  # fmt: skip


class OverThePicture(Drags):
    def test_a_framing_target(self) -> None:
        page = self.open("kite-pass")
        page.keyboard.press("Shift+R")
        page.locator("[data-mount=shoulder] button").first.click()
        page.get_by_role("tab", name="operator").click()
        mark = page.get_by_label("Place of the subject on screen")

        def target(shot: Shot) -> list[object]:
            operator = next(mount.operator for mount in shot.mounts if mount.operator)
            return numbers(operator.across_percent, operator.up_percent)

        self.assert_one_way("kite-pass", mark, (40.0, -25.0), target)


class OnTheLanes(Drags):
    def test_a_step_of_a_gait(self) -> None:
        page = self.open("jetty-walk-handheld")
        page.get_by_role("button", name="Steps", exact=True).click()
        step = page.locator("[data-step='5']")
        self.assert_one_way(
            "jetty-walk-handheld", step, (9.0, 0.0),
            lambda shot: [layer.source.steps for _, layer in shot.layers() if layer.source.kind == "gait"],
        )  # fmt: skip

    def test_ends_ramps_and_cross_fades_of_clips(self) -> None:
        page = self.open("sled-run")
        page.get_by_role("button", name="Clip Washboard", exact=True).click()

        def spans(shot: Shot) -> list[object]:
            return [(clip.span_frames, clip.ramp_in_frames, clip.ramp_out_frames) for clip in shot.clips()]

        for part in ("end", "out"):
            self.assert_one_way("sled-run", page.locator(f"[data-span={part}]").first, (-45.0, 0.0), spans)
        fade = page.locator("[data-fade]").first
        self.assert_one_way("sled-run", fade, (30.0, 0.0), spans)

    def test_the_amount_of_a_clip_and_a_point_of_it(self) -> None:
        page = self.open("sled-run")
        page.get_by_role("button", name="Clip Washboard", exact=True).click()

        def amounts(shot: Shot) -> list[object]:
            return numbers(*(clip.amount for clip in shot.clips()))

        self.assert_one_way("sled-run", page.locator("[data-level^=Amount]").first, (0.0, 12.0), amounts)
        clip = next(clip for clip in self.shot("sled-run").clips() if clip.name == "Washboard")
        self.edit(
            "sled-run",
            {"type": "set_keys", "keys": [{"at": f"clip:{clip.id}.amount", "frame": f, "value": 0.6} for f in (20, 50)]},
        )
        page = self.open("sled-run")
        page.get_by_role("button", name="Clip Washboard", exact=True).click()
        self.assert_one_way("sled-run", page.locator("[data-weight='50']"), (24.0, 8.0), amounts)

    def test_pins_and_cues(self) -> None:
        page = self.open("mast-fall")
        self.assert_one_way(
            "mast-fall", page.locator("[data-cue]").first, (40.0, 0.0),
            lambda shot: [cue.frame for cue in shot.cues],
        )  # fmt: skip
        page = self.open("jetty-walk")
        pins = page.locator("[data-pin]")
        self.assert_one_way(
            "jetty-walk", pins.nth(1), (40.0, 0.0), lambda shot: numbers(shot.mounts[0].pan_deg, shot.mounts[0].z_m)
        )


class OnTheCurves(Drags):
    def test_points_and_handles(self) -> None:
        page = self.open("jetty-walk")
        page.keyboard.press("c")
        page.get_by_label("Numbers shown").select_option(label="angles °")

        def pan(shot: Shot) -> list[object]:
            return numbers(*(mount.pan_deg for mount in shot.mounts))

        self.assert_one_way("jetty-walk", page.locator("[data-point^='pan/']").nth(1), (40.0, -12.0), pan)
        page.locator("[data-point^='pan/']").nth(1).click()
        self.assert_one_way("jetty-walk", page.locator("[data-handle$='handle_out']").first, (20.0, -9.0), pan)
