"""Movies, decoded: what was drawn is what the shot is, at every moment."""

import io
import os
import re
import signal
from pathlib import Path
from typing import Any

import av
import numpy as np
from playwright.sync_api import expect

from tests.web.filming import CHART, DRAWN_MS, H, W, WithMovies, chart, linear
from tests.web.harness import grey, settled
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.flow import flowing

# What browsers do to a tab that nobody sees: no animation frames, timers a minute apart.
HIDDEN = """() => {
  const later = window.setTimeout;
  window.unanswered = 0;
  window.requestAnimationFrame = () => ++window.unanswered;
  window.setTimeout = (run, ms, ...more) => later(run, Math.max(ms || 0, 60_000), ...more);
  Object.defineProperty(document, "hidden", { value: true });
  Object.defineProperty(document, "visibilityState", { value: "hidden" });
  document.dispatchEvent(new Event("visibilitychange"));
}"""


def decoded(data: bytes) -> tuple[list[np.ndarray], Any]:
    with av.open(io.BytesIO(data)) as container:
        stream = container.streams.video[0]
        return [shown(frame) for frame in container.decode(stream)], stream


def shown(frame: av.VideoFrame) -> np.ndarray:
    """Red, green and blue of 4:2:0 in limited range, by the equations of ITU-R BT.709 (readers in use round more)."""
    planes = [np.frombuffer(plane, np.uint8).reshape(plane.height, plane.line_size)[:, : plane.width] for plane in frame.planes]
    light = (planes[0].astype(float) - 16.0) / 219.0
    blue, red = ((np.kron(each.astype(float), np.ones((2, 2))) - 128.0) / 224.0 for each in planes[1:])
    r, b = light + 1.5748 * red, light + 1.8556 * blue
    g = (light - 0.2126 * r - 0.0722 * b) / 0.7152
    return np.clip(255.0 * np.stack([r, g, b], axis=2), 0.0, 255.0)


class Decoded(WithMovies):
    def test_frames_rate_size_tags_and_colours(self) -> None:
        slug = self.shot_of(chart(), last_frame=6)
        self.edit(slug, {"type": "set_shot", "fps": {"num": 24000, "den": 1001}})
        for kind in ("mp4", "webm"):
            frames, stream = decoded(self.made(slug, format=kind))
            self.assertEqual((len(frames), str(stream.average_rate), stream.pix_fmt), (6, "24000/1001", "yuv420p"))
            self.assertEqual(frames[0].shape, (H, W, 3))
            context = stream.codec_context
            self.assertEqual([int(each) for each in (context.colorspace, context.color_range)], [1, 1])
            for n, colour in enumerate(CHART):
                x, y = n % 4 * 80, n // 4 * 60
                mean = frames[3][y + 14 : y + 46, x + 20 : x + 60].reshape(-1, 3).mean(axis=0)
                self.assertLessEqual(float(np.max(np.abs(mean - colour))), 2.0, (kind, colour))

    def test_the_index_of_an_mp4_comes_first(self) -> None:
        data = self.made(self.shot_of(chart(), last_frame=3))
        self.assertLess(data.index(b"moov"), data.index(b"mdat"))


class Exposed(WithMovies):
    def shaken(self, slug: str, deg_per_frame: float) -> None:
        """A shake that pans at an even pace, and nothing else."""
        text = f"{deg_per_frame} * (f - 4)"
        self.edit(slug, {"type": "add_layer", "source": "formula"})
        layer = next(each.id for _, each in self.library().state(slug).document.layers())
        values = [{"at": f"layer:{layer}.axes.{axis}.swing", "value": 1.0 if axis == "pan" else 0.0} for axis in
                  ("pan", "tilt", "roll", "truck", "pedestal", "dolly")]
        self.edit(slug, {"type": "set_values", "values": values})
        self.edit(slug, {"type": "set_values", "values": [{"at": f"layer:{layer}.source.tracks.pan", "value": {"state": "formula", "text": text, "before": {"state": "fixed", "value": 0.0}}}]})

    def test_the_streak_of_a_point_is_as_long_as_the_reading(self) -> None:
        picture = np.zeros((540, 960, 3), np.uint8)
        picture[266:274, 476:484] = 255
        slug = self.shot_of(picture, overscan=60)
        self.shaken(slug, 2.0)
        shot = self.library().state(slug).document
        told = flowing(shot, evaluate(shot))[2, 0] * W / shot.picture.width_px
        self.assertGreater(told, 4.0)
        still = self.pictures(slug, first_frame=3, last_frame=3, shutter_deg=0)[0]
        blurred = self.pictures(slug, first_frame=3, last_frame=3, subframes=64)[0]
        # The light of the point is spread over the streak: so many times less of it in each column.
        self.assertAlmostEqual(float(linear(still[..., 1]).sum()), float(linear(blurred[..., 1]).sum()), delta=0.15)
        # An even streak of length L adds L squared / 12 to how far the light is spread (its variance).
        spread = [self.spread(each) for each in (still, blurred)]
        self.assertAlmostEqual((12.0 * (spread[1] - spread[0])) ** 0.5, told, delta=0.3)

    def spread(self, frame: np.ndarray) -> float:
        """Variance across of the light in a frame, px squared."""
        columns = linear(frame[..., 1]).sum(axis=0)
        places = np.arange(len(columns)) - np.average(np.arange(len(columns)), weights=columns)
        return float(np.average(places**2, weights=columns))

    def test_sub_frames_are_averaged_as_light(self) -> None:
        picture = np.zeros((540, 960, 3), np.uint8)
        picture[:, 480:] = 255
        slug = self.shot_of(picture, overscan=60)
        self.shaken(slug, 8.0)
        frames = [self.pictures(slug, first_frame=4, last_frame=4, subframes=count)[0] for count in (4, 1)]
        row = frames[0][H // 2, :, 0]
        # Between black and white an edge that moves in four steps leaves a quarter, a half, three quarters of the light.
        levels = {round(255 * (1.055 * share ** (1 / 2.4) - 0.055)) for share in (0.25, 0.5, 0.75)}
        seen = [int(value) for value, nxt in zip(row[:-1], row[1:], strict=True) if abs(int(value) - int(nxt)) <= 1]
        for level in levels:
            self.assertLessEqual(min(abs(value - level) for value in seen), 2, (level, sorted(set(seen))))
        self.assertLess(float(np.abs(linear(frames[0]).mean() - linear(frames[1]).mean())), 0.01)

    def test_a_rolling_shutter_leans_an_upright_edge_as_the_reading_says(self) -> None:
        picture = np.zeros((540, 960, 3), np.uint8)
        picture[:, 480:] = 255
        slug = self.shot_of(picture, overscan=60)
        self.shaken(slug, 2.0)
        asked = {"first_frame": 4, "last_frame": 4, "shutter_deg": 0, "readout_ms": 20.0, "strips": 45}
        frame = self.pictures(slug, **asked)[0]
        edges = np.argmax(frame[..., 0] > 127, axis=1)
        shot = self.library().state(slug).document
        per_frame = flowing(shot, evaluate(shot))[3, 0] * 2.0 * W / shot.picture.width_px
        self.assertAlmostEqual(abs(float(edges[-1]) - float(edges[0])), per_frame * 0.020 * 24.0, delta=1.0)
        self.assertLessEqual(int(np.max(np.abs(np.diff(edges.astype(int))))), 1)


    def test_the_viewfinder_at_rest_is_blurred_by_a_key_and_sharp_again_while_it_plays(self) -> None:
        picture = np.zeros((540, 960, 3), np.uint8)
        picture[:, 480:] = 255
        slug = self.shot_of(picture, overscan=60)
        self.shaken(slug, 8.0)
        page = self.open(slug)
        self.go_to(4)
        page.keyboard.press("g")
        sharp = self.between()
        page.keyboard.press("Shift+S")
        expect(page.get_by_text("motion blur (Shift S)")).to_be_visible()
        page.locator("[data-testid=viewfinder][data-blurred=yes]").wait_for()
        self.assertGreater(self.between(), sharp + 8)
        page.keyboard.press("ArrowRight")
        page.locator("[data-testid=viewfinder][data-blurred=yes]").wait_for()
        page.keyboard.press("Space")
        expect(page.locator("[data-testid=viewfinder][data-blurred=yes]")).to_have_count(0)

    def between(self) -> int:
        """Pixels of a row of the Viewfinder that are neither black nor white."""
        box = self.page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        clip = {"x": box["x"] + 150, "y": box["y"] + 250, "width": box["width"] - 300, "height": 1}
        row = grey(self.page.screenshot(clip=clip))[0]
        return int(np.sum((row > 30) & (row < 225)))


class Beside(WithMovies):
    def test_pictures_beside_each_other_and_a_wipe_at_their_pixels(self) -> None:
        slug = "signal-run"
        one = {"first_frame": 120, "last_frame": 120, "width_px": 160, "height_px": 90}
        main, other = ({"variant": name} for name in ("main", "variant-1"))
        alone = [self.pictures(slug, panes=[each], **one)[0] for each in (main, other, {"variant": "main", "bare": True})]
        self.assertGreater(float(np.abs(alone[0].astype(int) - alone[1]).mean()), 3.0)
        both = self.pictures(slug, panes=[main, other], **one)[0]
        self.assertEqual(both.shape, (90, 320, 3))
        # Below the names.
        np.testing.assert_array_equal(both[40:, :160], alone[0][40:])
        np.testing.assert_array_equal(both[40:, 160:], alone[1][40:])
        wiped = self.pictures(slug, panes=[{"variant": "main", "bare": True}, main], layout="wipe", line=0.25, **one)[0]
        np.testing.assert_array_equal(wiped[40:, :38], alone[2][40:, :38])
        np.testing.assert_array_equal(wiped[40:, 42:], alone[0][40:, 42:])

    def test_a_strip_stands_below_the_picture(self) -> None:
        asked = {"first_frame": 120, "last_frame": 121, "width_px": 160, "height_px": 90, "panes": [{"variant": "main"}]}
        bare = self.pictures("signal-run", **asked)
        told = self.pictures("signal-run", strip=True, **asked)
        self.assertEqual(told[0].shape, (130, 160, 3))
        np.testing.assert_array_equal(told[0][:90], bare[0])
        np.testing.assert_array_equal(told[0][-1, 0], (0xF4, 0xF0, 0xE6))
        self.assertGreater(int(np.abs(told[0][90:].astype(int) - told[1][90:]).sum()), 0)


class Going(WithMovies):
    def encoders(self) -> list[int]:
        """Processes of the server that encode."""
        found = []
        for each in Path("/proc").glob("[0-9]*"):
            try:
                ours = f"PPid:\t{self.server.process.pid}\n" in (each / "status").read_text()
                if ours and b"movie_writer" in (each / "cmdline").read_bytes():
                    found.append(int(each.name))
            except OSError:
                continue
        return found

    def files(self) -> list[Path]:
        return [each for each in (self.folder / "data" / "work").rglob("*.mp4")]

    def test_from_the_dialog_and_cancelled_in_the_middle_nothing_is_left(self) -> None:
        slug = self.shot_of(chart(), last_frame=300)
        page = self.open(slug)
        page.keyboard.press("e")
        dialog = page.get_by_role("dialog", name="Export the motion")
        dialog.get_by_role("radio", name=".mp4").check()
        dialog.get_by_label("Size").select_option("360")
        dialog.get_by_label("Sub-frames").select_option("1")
        dialog.get_by_role("button", name="Make .mp4").click()
        expect(dialog.get_by_text("of 300")).to_be_visible()
        expect(dialog.get_by_text("left")).to_be_visible()
        self.assertEqual(len(self.encoders()), 1)
        page.keyboard.press("Escape")
        # The page stays usable: an edit is kept while it goes on.
        page.keyboard.press("h")
        settled(page)
        self.assertEqual(sum(1 for _ in self.library().state(slug).document.layers()), 2)
        page.get_by_role("button", name="Cancel the movie").click()
        expect(page.get_by_test_id("filming")).to_have_count(0)
        self.assertEqual((self.encoders(), self.files()), ([], []))

    def test_a_page_that_was_left_goes_on_where_it_stopped(self) -> None:
        slug = self.shot_of(chart(), last_frame=60)
        movie = self.begin(slug)
        page = self.page
        page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(page.get_by_test_id("filming")).to_be_visible()
        expect(page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d %"))
        page.goto(f"{self.server.url}shot/jetty-walk")
        settled(page)
        stopped = self.state(movie)
        self.assertEqual(stopped["status"], "drawing")
        self.assertGreater(stopped["next"], 4)
        with page.expect_download(timeout=DRAWN_MS) as given:
            page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 60)

    def test_a_lost_connection_is_waited_for_and_no_frame_is_missing(self) -> None:
        slug = self.shot_of(chart(), last_frame=30)
        movie = self.begin(slug)
        page = self.page
        lost = re.compile(r"/frames/(9|1\d)$")
        page.route(lost, lambda route: route.abort("connectionreset"))
        page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(page.get_by_test_id("filming")).to_contain_text("it waits for the server")
        self.assertEqual(self.state(movie)["next"], 9)
        with page.expect_download(timeout=DRAWN_MS) as given:
            page.unroute(lost)
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 30)

    def test_in_a_hidden_tab_it_goes_on(self) -> None:
        slug = self.shot_of(chart(), last_frame=60)
        movie = self.begin(slug)
        self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(self.page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d? %"))
        with self.page.expect_download(timeout=DRAWN_MS) as given:
            self.page.evaluate(HIDDEN)
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 60)
        self.assertGreater(self.page.evaluate("window.unanswered"), 0)

    def test_an_encoder_that_is_killed_is_said_and_nothing_is_left(self) -> None:
        slug = self.shot_of(chart(), last_frame=300)
        movie = self.begin(slug)
        self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(self.page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d? %"))
        (encoder,) = self.encoders()
        os.kill(encoder, signal.SIGKILL)
        expect(self.page.get_by_test_id("filming")).to_contain_text("the encoder was killed or crashed")
        self.assertEqual((self.state(movie)["status"], self.encoders(), self.files()), ("failed", [], []))

    # The canvas under both views loses its context as drivers take it away, and gets it back a moment later.
    LOSE = """() => new Promise((done) => {
      const canvas = document.querySelector("canvas[data-engine]");
      const lost = canvas.getContext("webgl2").getExtension("WEBGL_lose_context");
      lost.loseContext();
      setTimeout(() => { lost.restoreContext(); setTimeout(done, 100); }, 300);
    })"""

    def test_a_lost_graphics_context_puts_no_black_frame_into_a_movie(self) -> None:
        slug = self.shot_of(np.full((60, 80, 3), 200, np.uint8), last_frame=60, overscan=40)
        movie = self.begin(slug)
        page = self.page
        page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d? %"))
        with page.expect_download(timeout=DRAWN_MS) as given:
            page.evaluate(self.LOSE)
        frames, _ = decoded(Path(given.value.path()).read_bytes())
        self.assertEqual(len(frames), 60)
        self.assertGreater(min(float(frame.mean()) for frame in frames), 150.0)

    def test_the_views_are_drawn_again_after_their_context_was_lost(self) -> None:
        page = self.open("jetty-walk")
        finder = page.get_by_test_id("viewfinder")
        before = grey(finder.screenshot())
        page.evaluate(self.LOSE)
        expect(page.locator("canvas[data-engine]")).to_have_count(1)
        self.go_to(2)
        page.keyboard.press("Home")
        settled(page)
        after = grey(finder.screenshot())
        self.assertLess(float(np.mean(np.abs(after - before))), 6.0)
