"""Movies asked for, and drawn by a page by itself."""

import io
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from tests.web.harness import RETRIES
from tests.web.making import WithPage

PROJECT = "saltmarsh-post"
W, H = 320, 180
# How long drawing all frames of a movie may last; a busy machine with software drawing needs a second per frame.
DRAWN_MS = 240_000
# Patches of 80 x 60 px of the movie.
CHART = (
    (255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255), (0, 0, 0), (128, 128, 128),
    (30, 60, 200), (200, 120, 40), (60, 160, 90), (240, 230, 140), (90, 20, 60), (17, 201, 188),
)  # fmt: skip


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
        made = self.page.request.post(url, multipart=fields, headers=self.origin(), max_retries=RETRIES)
        self.assertEqual(made.status, 201, made.text())
        slug = str(made.json()["slug"])
        self.edit(slug, {"type": "set_shot", "last_frame": last_frame})
        return slug

    def origin(self) -> dict[str, str]:
        return {"Origin": self.server.url.rstrip("/")}

    def begin(self, slug: str, **asked: object) -> dict[str, Any]:
        body = {"width_px": W, "height_px": H, "quality": "best", "subframes": 1, **asked}
        made = self.page.request.post(f"{self.server.url}api/shots/{slug}/movies", data=body, headers=self.origin(), max_retries=RETRIES)
        self.assertEqual(made.status, 201, made.text())
        return dict(made.json())

    def state(self, movie: dict[str, Any]) -> dict[str, Any]:
        return dict(self.page.request.get(f"{self.server.url}api/movies/{movie['id']}", max_retries=RETRIES).json())

    def made(self, slug: str, **asked: object) -> bytes:
        """A movie's file, drawn by the page by itself."""
        movie = self.begin(slug, **asked)
        with self.page.expect_download(timeout=DRAWN_MS) as given:
            self.page.goto(f"{self.server.url}shot/{slug}?movie={movie['id']}")
        return Path(given.value.path()).read_bytes()

    def pictures(self, slug: str, **asked: object) -> list[np.ndarray]:
        """Its frames, as PNGs have them."""
        with zipfile.ZipFile(io.BytesIO(self.made(slug, format="png", **asked))) as archive:
            return [np.asarray(Image.open(io.BytesIO(archive.read(name))).convert("RGB")) for name in archive.namelist()]
