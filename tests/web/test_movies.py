"""Movies, decoded: what was drawn is what the shot is, at every moment."""

import io
import json
import os
import re
import signal
import zipfile
from pathlib import Path
from typing import Any

import av
import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.web.harness import grey, settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import Pose, evaluate
from zittern.core.picture import places_px
from zittern.core.plates.coverage import uncovered_px
from zittern.core.plates.needs import needs
from zittern.core.readings.flow import flowing
from zittern.core.rig import rotations
from zittern.core.shot.shot import Shot

PROJECT = "saltmarsh-post"
W, H = 320, 180
# Patches of 80 x 60 px of the movie.
CHART = (
    (255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255), (0, 0, 0), (128, 128, 128),
    (30, 60, 200), (200, 120, 40), (60, 160, 90), (240, 230, 140), (90, 20, 60), (17, 201, 188),
)  # fmt: skip

POINTS = [(x, y) for x in (160, 480, 800) for y in (110, 270, 430)]

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


def chart() -> np.ndarray:
    picture = np.zeros((540, 960, 3), np.uint8)
    for n, colour in enumerate(CHART):
        x, y = n % 4 * 240, n // 4 * 180
        picture[y : y + 180, x : x + 240] = colour
    return picture


def linear(values: np.ndarray) -> np.ndarray:
    """Light of what is shown, 0 to 1 (IEC 61966-2-1)."""
    shown = np.asarray(values, dtype=np.float64) / 255.0
    return np.where(shown <= 0.04045, shown / 12.92, ((shown + 0.055) / 1.055) ** 2.4)


class WithMovies(WithPage):
    def shot_of(self, picture: np.ndarray, last_frame: int = 8, overscan: int = 0) -> str:
        """A shot in which a picture fills the frame, and so many percent more; its slug."""
        data = io.BytesIO()
        Image.fromarray(picture).save(data, "PNG")
        file = {"name": "chart.png", "mimeType": "image/png", "buffer": data.getvalue()}
        url = f"{self.server.url}api/projects/{PROJECT}/plates"
        fields = {"files": file, "distance_m": "4", "overscan_percent": str(overscan)}
        made = self.page.request.post(url, multipart=fields, headers=self.origin())
        self.assertEqual(made.status, 201, made.text())
        slug = str(made.json()["slug"])
        self.edit(slug, {"type": "set_shot", "last_frame": last_frame})
        return slug

    def origin(self) -> dict[str, str]:
        return {"Origin": self.server.url.rstrip("/")}

    def begin(self, slug: str, **asked: object) -> dict[str, Any]:
        body = {"width_px": W, "height_px": H, "quality": "best", "subframes": 1, **asked}
        made = self.page.request.post(f"{self.server.url}api/shots/{slug}/movies", data=body, headers=self.origin())
        self.assertEqual(made.status, 201, made.text())
        return dict(made.json())

    def state(self, movie: dict[str, Any]) -> dict[str, Any]:
        return dict(self.page.request.get(f"{self.server.url}api/movies/{movie['id']}").json())

    def made(self, slug: str, **asked: object) -> bytes:
        """A movie's file, drawn by the page by itself."""
        movie = self.begin(slug, **asked)
        with self.page.expect_download() as given:
            self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        return Path(given.value.path()).read_bytes()

    def pictures(self, slug: str, **asked: object) -> list[np.ndarray]:
        """Its frames, as PNGs have them."""
        with zipfile.ZipFile(io.BytesIO(self.made(slug, format="png", **asked))) as archive:
            return [np.asarray(Image.open(io.BytesIO(archive.read(name))).convert("RGB")) for name in archive.namelist()]


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


class Bent(WithMovies):
    """Through a lens that distorts."""

    def bent(self, k1: float, k2: float, **hung: int) -> tuple[str, Shot]:
        """A shot of nine white points on black, which wide lens shows bent, framed off its axis."""
        picture = np.zeros((540, 960, 3), np.uint8)
        for x, y in POINTS:
            picture[y - 5 : y + 5, x - 5 : x + 5] = 255
        slug = self.shot_of(picture, last_frame=2, **hung)
        numbers = [{"at": f"shot.{at}", "value": {"state": "fixed", "value": value}} for at, value in
                   (("focal_mm", 24.0), ("glass.k1", k1), ("glass.k2", k2), ("glass.breathing_percent", 3.0))]
        self.edit(slug, {"type": "set_values", "values": [{"at": "shot.glass", "value": {}}, *numbers]})
        self.edit(slug, {"type": "add_layer", "source": "keys"})
        layer = next(each.id for _, each in self.library().state(slug).document.layers())
        values = [{"at": f"layer:{layer}.source.tracks.{axis}", "value": {"state": "fixed", "value": value}} for axis, value in (("shift_x", 6.0), ("pan", 2.0))]
        self.edit(slug, {"type": "set_values", "values": values})
        return slug, self.library().state(slug).document

    def expected(self, shot: Shot, width: int) -> np.ndarray:
        """Where the core has the points, (N, 2) px from the left and from above."""
        (plate,) = shot.plates
        pose, scope = evaluate(shot, np.array([1.0])).pose, shot.scope(1.0)
        pose = Pose(*(np.repeat(each, len(POINTS), axis=0) for each in (pose.position_m, pose.angles_deg, pose.focal_mm, pose.shift_percent, pose.distortion)))
        flat = (np.array(POINTS) / [960, 540] - 0.5) * [plate.width_m, -plate.width_m * 9 / 16]
        turn = rotations.matrices(plate.angles_deg(scope))[0]
        world = plate.position_m(scope) + np.column_stack([flat, np.zeros(len(flat))]) @ turn.T
        seen = np.einsum("fji,fj->fi", rotations.matrices(pose.angles_deg), world - pose.position_m)
        return (places_px(shot, pose, seen) * [1, -1] + [960, 540]) * width / 1920.0

    def found(self, frame: np.ndarray, near: np.ndarray) -> np.ndarray:
        """Middles of the light about some places, (N, 2)."""
        light = linear(frame)
        out = []
        for x, y in near.round().astype(int):
            part = light[y - 9 : y + 10, x - 9 : x + 10]
            rows, columns = np.mgrid[y - 9 : y + 10, x - 9 : x + 10] + 0.5
            self.assertGreater(part.sum(), 0.5, (x, y))
            out.append([np.average(columns, weights=part), np.average(rows, weights=part)])
        return np.array(out)

    def test_every_point_is_drawn_where_the_core_has_it(self) -> None:
        for k1, k2 in ((-0.25, 0.06), (0.15, 0.0)):
            slug, shot = self.bent(k1, k2)
            expected = self.expected(shot, 640)
            movie = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0]
            np.testing.assert_allclose(self.found(movie[..., 1], expected), expected, atol=0.4)
            straight = self.expected(shot.replace(glass=None), 640)
            self.assertGreater(float(np.abs(straight - expected).max()), 5.0)
            page = self.open(slug)
            page.keyboard.press("g")
            box = page.get_by_test_id("viewfinder").bounding_box()
            assert box is not None
            wide = min(box["width"], box["height"] * 16 / 9)
            clip = {"x": box["x"] + (box["width"] - wide) / 2, "y": box["y"] + (box["height"] - wide * 9 / 16) / 2,
                    "width": wide, "height": wide * 9 / 16}
            drawn = grey(page.screenshot(clip=clip))
            points = self.expected(shot, round(wide))[[4, 5, 7]]
            np.testing.assert_allclose(self.found(drawn, points), points, atol=1.0)

    def test_a_click_on_a_bent_picture_marks_what_is_seen_there(self) -> None:
        slug = "jetty-walk"
        self.edit(slug, {"type": "bend_corner", "frame": 1, "percent": -15.0})
        page = self.open(slug)
        box = page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        page.keyboard.press("p")
        expect(page.get_by_text("click the point to look at").first).to_be_visible()
        place = np.array([0.22, 0.3])
        high = box["width"] * 9 / 16
        x, y = box["x"] + place[0] * box["width"], box["y"] + box["height"] / 2 + (place[1] - 0.5) * high
        page.mouse.click(x, y)
        expect(page.get_by_label("Undo: Set subject")).to_be_visible()
        shot = self.library().state(slug).document
        assert shot.subject is not None
        pose = evaluate(shot, np.array([1.0])).pose
        away = shot.subject.position_m(shot.scope(1.0)) - pose.position_m
        px = places_px(shot, pose, np.einsum("fji,fj->fi", rotations.matrices(pose.angles_deg), away))[0]
        np.testing.assert_allclose(px, (place - 0.5) * [1920, -1080], atol=4.0)

    def test_the_edge_that_shows_is_as_wide_as_is_told_and_the_fix_hides_it(self) -> None:
        slug = self.shot_of(np.full((540, 960, 3), 255, np.uint8), last_frame=2, overscan=0)
        self.edit(slug, {"type": "bend_corner", "frame": 1, "percent": -10.0})
        shot = self.library().state(slug).document
        motion = evaluate(shot)
        self.assertGreater(float(uncovered_px(shot, motion).max()), 30.0)
        drawn = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0].min(axis=2)
        # In the middle of a side the plate ends where a pinhole has the side.
        k1, f_px = motion.pose.distortion[0, 0], 35.0 / 36.0 * 640
        for line, half in ((drawn[180], 320.0), (drawn[180, ::-1], 320.0), (drawn[:, 320], 180.0)):
            self.assertAlmostEqual(float(np.argmax(line > 250)), half * -k1 * (half / f_px) ** 2, delta=1.0)
        (fix,) = (each for each in needs(shot, motion) if each.kind == "overscan")
        self.edit(slug, json.loads(fix.command.model_dump_json()))
        whole = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0].min(axis=2)
        border = np.concatenate([whole[0], whole[-1], whole[:, 0], whole[:, -1]])
        self.assertGreater(int(np.min(border)), 225)


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
        slug = self.shot_of(chart(), last_frame=120)
        movie = self.begin(slug)
        page = self.page
        page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(page.get_by_test_id("filming")).to_be_visible()
        expect(page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d %"))
        page.goto(f"{self.server.url}shot/jetty-walk")
        settled(page)
        stopped = self.state(movie)
        self.assertEqual(stopped["status"], "drawing")
        self.assertGreater(stopped["next"], 5)
        with page.expect_download() as given:
            page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 120)

    def test_a_lost_connection_is_waited_for_and_no_frame_is_missing(self) -> None:
        slug = self.shot_of(chart(), last_frame=30)
        movie = self.begin(slug)
        page = self.page
        lost = re.compile(r"/frames/(9|1\d)$")
        page.route(lost, lambda route: route.abort("connectionreset"))
        page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(page.get_by_test_id("filming")).to_contain_text("it waits for the server")
        self.assertEqual(self.state(movie)["next"], 9)
        with page.expect_download() as given:
            page.unroute(lost)
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 30)

    def test_in_a_hidden_tab_it_goes_on(self) -> None:
        slug = self.shot_of(chart(), last_frame=120)
        movie = self.begin(slug)
        self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(self.page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d? %"))
        with self.page.expect_download() as given:
            self.page.evaluate(HIDDEN)
        self.assertEqual(len(decoded(Path(given.value.path()).read_bytes())[0]), 120)
        self.assertGreater(self.page.evaluate("window.unanswered"), 0)

    def test_an_encoder_that_is_killed_is_said_and_nothing_is_left(self) -> None:
        slug = self.shot_of(chart(), last_frame=300)
        movie = self.begin(slug)
        self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        expect(self.page.get_by_test_id("filming")).to_contain_text(re.compile(r"[1-9]\d? %"))
        (encoder,) = self.encoders()
        os.kill(encoder, signal.SIGKILL)
        expect(self.page.get_by_test_id("filming")).to_contain_text("the encoder was stopped from outside")
        self.assertEqual((self.state(movie)["status"], self.encoders(), self.files()), ("failed", [], []))
