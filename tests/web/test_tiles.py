"""Large pictures: as sharp as the lens asks for, in the Viewfinder and in movies, and where they belong."""

import io

import numpy as np
from PIL import Image
from playwright.sync_api import Route, expect

from tests.web.filming import WithMovies
from tests.web.harness import settled

WIDTH, HEIGHT = 5000, 2812
# Red from left to right, green from above down, blue in stripes of two pixels: finer than what is drawn of the whole.
STRIPES = 100.0


def striped() -> np.ndarray:
    across, down = np.meshgrid(np.arange(WIDTH), np.arange(HEIGHT))
    stripes = np.where(across // 2 % 2, STRIPES, -STRIPES)
    return np.stack([60 + 120 * across / WIDTH, 60 + 120 * down / HEIGHT, 125 + stripes], axis=2).astype(np.uint8)


class Tiles(WithMovies):
    def hung(self, focal_mm: float) -> str:
        slug = self.shot_of(striped(), last_frame=2)
        self.edit(slug, {"type": "set_values", "values": [{"at": "shot.focal_mm", "value": focal_mm}]})
        return slug

    def contrast(self) -> float:
        """Of the picture's middle in the Viewfinder, between one pixel and the next."""
        box = self.page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        clip = {"x": box["x"] + 0.4 * box["width"], "y": box["y"] + 0.45 * box["height"], "width": 80, "height": 20}
        pixels = np.asarray(Image.open(io.BytesIO(self.page.screenshot(clip=clip))).convert("RGB"), dtype=float)
        return float(np.std(pixels[:, :, 2]))

    def test_the_viewfinder_fetches_what_a_long_lens_sees(self) -> None:
        fetched: list[str] = []
        self.listen("request", lambda request: fetched.append(request.url) if "/tiles" in request.url else None)
        page = self.open(self.hung(600.0))
        finder = page.get_by_test_id("viewfinder")
        expect(finder).to_have_attribute("data-tiles", "1")
        self.assertEqual([url.split("/tiles")[1] for url in fetched], ["", "/0/1/0"])
        self.assertGreater(self.contrast(), 0.5 * STRIPES)
        wide = {"type": "set_values", "values": [{"at": "shot.focal_mm", "value": 35.0}]}
        self.edit(page.url.rsplit("/", 1)[1], wide)
        with page.expect_response("**/tiles"):
            page.reload()
        settled(page)
        self.go_to(2)
        expect(finder).to_have_attribute("data-tiles", "0")
        self.assertEqual(len(fetched), 3, "the index once more, and no tile")

    def test_a_tile_that_does_not_come_leaves_the_whole_picture(self) -> None:
        asked: list[str] = []

        def refuse(route: Route) -> None:
            asked.append(route.request.url)
            route.fulfill(status=500, body="no")

        self.page.route("**/tiles/0/**", refuse)
        page = self.page
        with page.expect_request("**/tiles/0/**"):
            self.open(self.hung(600.0))
        self.go_to(2)
        self.go_to(1)
        expect(page.get_by_test_id("viewfinder")).to_have_attribute("data-tiles", "0")
        self.assertEqual(len(asked), 1)
        self.assertLess(self.contrast(), 0.25 * STRIPES)

    def test_a_movie_waits_for_them_and_seams_do_not_show(self) -> None:
        focal_mm, width, height = 100.0, 1280, 720
        slug = self.hung(focal_mm)
        frame = self.pictures(slug, width_px=width, height_px=height, last_frame=1)[0].astype(float)
        self.assertGreater(np.std(np.diff(frame[360, :, 2])), 0.3 * STRIPES)
        share = 35.0 / focal_mm
        right = 0.5 + share * ((np.arange(width) + 0.5) / width - 0.5)
        down = 0.5 + share * ((np.arange(height) + 0.5) / height - 0.5)
        # About the seam of two tiles (2,032 of 5,000 px) too: colours, and the stripes within a quarter of a pixel.
        red = np.broadcast_to(60 + 120 * right, (height, width))
        np.testing.assert_allclose(frame[100:620, 4:-4, 0], red[100:620, 4:-4], atol=8)
        np.testing.assert_allclose(frame[4:-4, 600, 1], (60 + 120 * down)[4:-4], atol=8)
        turned = (frame[360, :, 2] - 125) * np.exp(-0.5j * np.pi * right * WIDTH)
        phases = np.angle(turned.reshape(-1, 40).mean(axis=1))
        np.testing.assert_allclose(phases, np.pi / 2, atol=np.pi / 8)
