import asyncio
import io
import threading
from types import SimpleNamespace
from typing import Any
from unittest.mock import patch

from fastapi import UploadFile
from fastapi.routing import APIRoute
from PIL import Image

from tests.api.making import WithServer
from tests.formats.pictures import clear_half, encoded, plain
from zittern.api.pictures import AT_ONCE, pictures_of
from zittern.api.routes import plates
from zittern.core.shot.upgrades import shot_from
from zittern.formats.picture_file import PictureFacts, read_picture

SHOT = "/api/shots/jetty-walk"


class Plates(WithServer):
    def hang(self, *files: tuple[str, bytes], **fields: object):  # type: ignore[no-untyped-def]
        body = {"base_revision": self.state()["revision"], **fields}
        return self.client.post(f"{SHOT}/plates", data=body, files=[("files", each) for each in files])

    def test_hung_seen_and_exchanged(self) -> None:
        answer = self.hang(
            ("far_shore.png", encoded(plain())), ("Reeds.webp", encoded(clear_half(), "WEBP", lossless=True))
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        shot = shot_from(answer.json()["document"])
        self.assertEqual([plate.name for plate in shot.plates], ["far shore", "Reeds"])
        self.assertEqual(answer.json()["made"], ["plate:plate-1", "plate:plate-2"])
        self.assertIsNotNone(shot.plates[1].opaque)
        for small in ("false", "true"):
            picture = self.client.get(f"/api/pictures/{shot.plates[0].picture}?small={small}")
            self.assertEqual((picture.status_code, picture.headers["content-type"]), (200, "image/webp"))
            self.assertIn("immutable", picture.headers["cache-control"])
        body = {"base_revision": answer.json()["revision"]}
        other = self.client.post(
            f"{SHOT}/plates/plate-1", data=body, files=[("file", ("dusk.png", encoded(plain(100, 100))))]
        )
        self.assertEqual(other.json()["label"], "Show “dusk” on “far shore”")
        changed = shot_from(other.json()["document"]).plates[0]
        self.assertEqual((changed.width_m, changed.height_px), (shot.plates[0].width_m, 100))

    def test_a_shot_is_made_of_pictures_or_not_at_all(self) -> None:
        at = "/api/projects/saltmarsh-post/plates"
        shots = "/api/projects/saltmarsh-post/shots"
        before = len(self.client.get(shots).json())
        files = [("files", (name, encoded(plain()))) for name in ("far_shore.png", "sky.png")]
        made = self.client.post(at, files=files)
        self.assertEqual(made.status_code, 201, made.text)
        shot = shot_from(made.json()["document"])
        self.assertEqual((shot.name, [plate.name for plate in shot.plates]), ("far shore", ["far shore", "sky"]))
        again = self.client.get(f"/api/shots/{made.json()['slug']}").json()
        self.assertEqual(again["revision"], made.json()["revision"])
        for bad, status in (
            ([*files, ("files", ("b.png", b"no picture"))], 422),
            ([], 422),
            (files * 13, 422),
        ):
            self.assertEqual(self.client.post(at, files=bad).status_code, status)
        self.assertEqual(self.client.post("/api/projects/nowhere/plates", files=files).status_code, 404)
        self.assertEqual(len(self.client.get(shots).json()), before + 1)

    def test_coverage_tells_what_would_do_and_each_does(self) -> None:
        self.hang(("shore.png", encoded(plain())), distance_m=20, overscan_percent=0)
        self.edit({"type": "move_plate", "plate": "plate-1", "across_m": 0.8})
        told = self.client.post(f"{SHOT}/coverage").json()
        self.assertGreater(told["uncovered_px"], 1.0)
        self.assertIn("punch-in", {need["kind"] for need in told["needs"]})
        lens = next(need for need in told["needs"] if need["kind"] == "punch-in")
        self.edit(lens["command"])
        self.assertLess(self.client.post(f"{SHOT}/coverage").json()["uncovered_px"], 0.05)

    def test_what_cannot_be_hung_names_the_file_and_loses_nothing(self) -> None:
        before = self.state()["document"]
        good = ("a.png", encoded(plain()))
        for files, fields, words in (
            ((good, ("b.png", b"no picture")), {}, "this picture cannot be used"),
            ((), {}, "files"),
            ((good,) * 25, {}, "expected up to 24 pictures"),
            ((good,), {"distance_m": 0}, "distance_m"),
            ((good,), {"distance_m": "1e308"}, "distance_m"),
            ((good,), {"overscan_percent": "nan"}, "overscan_percent"),
            ((good,), {"base_revision": 2**63}, "base_revision"),
        ):
            with self.subTest(words):
                answer = self.hang(*files, **fields)
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn(words, answer.text)
        odd = self.hang(("\u202e../../x\u0000.png", encoded(plain())))
        self.assertEqual(odd.status_code, 200, odd.text)
        undone = self.client.post(f"{SHOT}/undo", json={"base_revision": odd.json()["revision"]})
        self.assertEqual(undone.json()["document"], before)
        for digest in ("0" * 64, "..%2f..%2fetc", "x" * 500):
            self.assertEqual(self.client.get(f"/api/pictures/{digest}").status_code, 404)

    def test_two_pictures_are_decoded_at_a_time_and_before_the_turn_to_write(self) -> None:
        decoding, most, lock = 0, 0, threading.Lock()

        def counted(*arguments: Any) -> PictureFacts:
            nonlocal decoding, most
            with lock:
                decoding += 1
                most = max(most, decoding)
            facts = read_picture(*arguments[1:])
            with lock:
                decoding -= 1
            return facts

        async def eight() -> None:
            state = SimpleNamespace(decoders=asyncio.Semaphore(AT_ONCE))
            request: Any = SimpleNamespace(app=SimpleNamespace(state=state), path_params={"shot": "jetty-walk"})
            context: Any = SimpleNamespace(library=self.library)
            uploads = [UploadFile(io.BytesIO(encoded(plain(20 + n, 20))), filename=f"p{n}.png") for n in range(8)]
            await asyncio.gather(*(pictures_of([each], request, context) for each in uploads))

        with patch("zittern.api.pictures.read_as", counted):
            asyncio.run(eight())
        self.assertEqual(most, AT_ONCE)
        for route in (plates.hang, plates.shot_from_pictures, plates.show):
            (here,) = [each for each in plates.router.routes if isinstance(each, APIRoute) and each.endpoint is route]
            calls = [getattr(each.call, "__name__", "") for each in here.dependant.dependencies]
            decoded = calls.index("_picture" if route is plates.show else "pictures_of")
            self.assertLess(decoded, calls.index("_turn"), calls)

    def test_a_phone_s_jpeg_with_a_preview_in_it_is_hung(self) -> None:
        pictures = [Image.new("RGB", (64, 48), color) for color in ("navy", "white")]
        data = io.BytesIO()
        pictures[0].save(data, "MPO", save_all=True, append_images=pictures[1:])
        answer = self.hang(("phone.jpg", data.getvalue()))
        self.assertEqual(answer.status_code, 200, answer.text)
        (plate,) = shot_from(answer.json()["document"]).plates
        self.assertEqual((plate.width_px, plate.height_px), (64, 48))

    def test_refusals_name_the_file_and_what_was_expected(self) -> None:
        answer = self.hang(("far_shore.png", b"no picture"))
        self.assertIn("this picture cannot be used: expected a PNG, JPEG or WebP picture", answer.text)
        self.assertNotIn("BytesIO", answer.text)

    def test_a_large_one_comes_in_tiles(self) -> None:
        answer = self.hang(("wall.png", encoded(plain(5000, 2100))), ("door.png", encoded(plain(300, 300))))
        wall, door = (plate.picture for plate in shot_from(answer.json()["document"]).plates)
        tiles = self.client.get(f"/api/pictures/{wall}/tiles").json()
        self.assertEqual(
            [(each["width_px"], each["height_px"]) for each in tiles["levels"]], [(5000, 2100), (2500, 1050)]
        )
        tile = self.client.get(f"/api/pictures/{wall}/tiles/0/2/1")
        self.assertEqual((tile.status_code, tile.headers["content-type"]), (200, "image/jpeg"))
        with Image.open(io.BytesIO(tile.content)) as picture:
            self.assertEqual(picture.size, (5000 - 2 * tiles["step_px"] + 8, 2100 - tiles["step_px"] + 8))
        self.assertEqual(self.client.get(f"/api/pictures/{door}/tiles").json()["levels"], [])
        for path, status in (
            (f"{wall}/tiles/0/3/0", 404), (f"{wall}/tiles/2/0/0", 404), (f"{wall}/tiles/-1/0/0", 422),
            (f"{wall}/tiles/0/0/9223372036854775808", 422), (f"{door}/tiles/0/0/0", 404),
            (f"{'0' * 64}/tiles/0/0/0", 404),
        ):  # fmt: skip
            with self.subTest(path):
                self.assertEqual(self.client.get(f"/api/pictures/{path}").status_code, status)
        (self.library.data_dir / "pictures" / f"{wall}.zip").write_bytes(b"PK half of it")
        self.assertEqual(self.client.get(f"/api/pictures/{wall}/tiles").json()["levels"], [])

    def test_pictures_stay_while_any_revision_shows_them(self) -> None:
        import os

        shot = shot_from(self.hang(("shore.png", encoded(plain()))).json()["document"])
        self.edit({"type": "remove_plate", "plate": "plate-1"})
        folder = self.library.data_dir / "pictures"
        stray = folder / f"{'1' * 64}.webp"
        stray.write_bytes(b"x")
        for path in folder.iterdir():
            os.utime(path, (1.0, 1.0))
        self.assertEqual(self.library.sweep_pictures(), 1)
        self.assertEqual(self.client.get(f"/api/pictures/{shot.plates[0].picture}").status_code, 200)
        self.assertFalse(stray.exists())
