"""Movies: begun, what their frames need, frames in order, cancelled, fetched."""

import json
import os
import struct
import threading

import numpy as np

from tests.api.making import WithServer
from zittern.api.movies import MOST_MOVIES
from zittern.core.motion.pose import POSE_COLUMNS

SHOT = "signal-run"
SMALL = {"width_px": 32, "height_px": 16, "last_frame": 6}
RAW = {"Content-Type": "application/octet-stream"}


class Movies(WithServer):
    def begin(self, **asked: object) -> dict:  # type: ignore[type-arg]
        answer = self.client.post(f"/api/shots/{SHOT}/movies", json={**SMALL, **asked})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def put(self, movie: dict, number: int, data: bytes | None = None):  # type: ignore[no-untyped-def, type-arg]
        size = movie["width"] * movie["height"] * 4
        return self.client.put(f"/api/movies/{movie['id']}/frames/{number}", content=data or bytes(size), headers=RAW)

    def files(self) -> list[str]:
        return [each.name for each in (self.library.data_dir / "work").rglob("*.mp4")]

    def moments(self, movie: dict, first: int, count: int) -> dict[str, np.ndarray]:  # type: ignore[type-arg]
        packet = self.client.post(f"/api/movies/{movie['id']}/moments", json={"first": first, "count": count}).content
        length = struct.unpack_from("<I", packet, 4)[0]
        head = json.loads(packet[8 : 8 + length])
        found = {}
        for each in head["arrays"]:
            kind, start = "<f8" if each["name"] == "at" else "<f4", 8 + length + each["offset"]
            values = np.frombuffer(packet, kind, each["rows"] * each["columns"], start)
            found[each["name"]] = values.reshape(-1, each["columns"])
        return found

    def test_frames_come_in_order_repeats_are_ignored_and_the_last_ends_it(self) -> None:
        movie = self.begin()
        self.assertEqual((movie["frames"], movie["next"], movie["filename"]), (6, 0, "signal-run-main.mp4"))
        early = self.problem(self.put(movie, 2), 409, "frame 0 comes next, not 2")
        self.assertEqual(early["next"], 0)
        for number in (0, 0, 1, 0, 1, 2, 3, 4):
            self.assertEqual(self.put(movie, number).status_code, 200)
        self.problem(self.client.get(f"/api/movies/{movie['id']}/file"), 404, "not done: frame 5 of 6")
        self.problem(self.put(movie, 5, b"short"), 422, "has 2048 bytes, got 5", "frame")
        self.assertEqual(self.put(movie, 5).json(), {"next": 6, "status": "done"})
        self.assertEqual(self.put(movie, 5).status_code, 200)
        file = self.client.get(f"/api/movies/{movie['id']}/file")
        self.assertEqual((file.headers["content-type"], file.content[4:8]), ("video/mp4", b"ftyp"))

    def test_moments_of_each_picture(self) -> None:
        movie = self.begin(subframes=3, panes=[{}, {"variant": "Stand to run"}, {"bare": True}])
        found = self.moments(movie, 0, 2)
        self.assertEqual(set(found), {"at", "pose:0", "pose:1", "pose:2", "wave"})
        np.testing.assert_allclose(found["at"].ravel()[:4], [1 - 1 / 6, 1.0, 1 + 1 / 6, 2 - 1 / 6])
        self.assertEqual((found["pose:0"].shape, found["wave"].shape), ((6, len(POSE_COLUMNS) + 1), (6, 2)))
        self.assertGreater(float(np.abs(found["pose:0"] - found["pose:2"]).max()), 0.01)
        self.assertNotIn("wave", self.moments(movie, 3, 2))
        answer = self.client.post(f"/api/movies/{movie['id']}/moments", json={"first": 5, "count": 2})
        self.problem(answer, 422, "the movie has 6 frames", "first")

    def test_what_was_drawn_stays_of_the_shot_as_it_stood(self) -> None:
        movie = self.begin()
        before = self.moments(movie, 1, 3)["pose:0"]
        self.edit({"type": "remove_clip", "clip": "clip-1"}, SHOT)
        np.testing.assert_array_equal(self.moments(movie, 1, 3)["pose:0"], before)

    def test_cancelled_nothing_is_left_and_frames_are_refused(self) -> None:
        movie = self.begin()
        self.put(movie, 0)
        self.assertEqual(self.client.delete(f"/api/movies/{movie['id']}").json()["status"], "cancelled")
        self.assertEqual(self.files(), [])
        self.problem(self.put(movie, 1), 404, "this movie is cancelled; start it again")
        self.problem(self.client.get("/api/movies/nothing"), 404, "this movie is gone")

    def test_a_frame_that_comes_while_it_is_cancelled_is_refused_like_later_ones(self) -> None:
        movie = self.begin()
        found = self.context.movies.get(movie["id"])
        put = found.encoder.put

        def late(frame: bytes) -> None:
            cancelling = threading.Thread(target=found.cancel)
            cancelling.start()
            self.addCleanup(cancelling.join)
            while not found.encoder._process.stdin.closed:
                os.sched_yield()
            put(frame)

        found.encoder.put = late
        self.problem(self.put(movie, 0), 404, "this movie is cancelled")
        self.assertEqual(self.client.get(f"/api/movies/{movie['id']}").json()["status"], "cancelled")
        self.assertEqual(self.files(), [])

    def test_what_cannot_be_drawn_is_refused_with_its_place(self) -> None:
        for asked, where, says in (
            ({"subframes": 0}, "subframes", "expected at least 1"),
            ({"subframes": 2**63}, "subframes", "64"),
            ({"width_px": 17, "height_px": 1}, "height_px", "expected at least 2"),
            ({"first_frame": 900, "last_frame": 950}, "first_frame", "not in the shot, which goes from 1 to 192"),
            ({"first_frame": 9, "last_frame": 5}, "first_frame", "before it starts"),
            ({"width_px": 4096, "height_px": 4096, "panes": [{}, {}]}, "width_px", "is 128 MB, and up to 1 MB"),
            ({"layout": "wipe"}, "", "a wipe is between two pictures"),
            ({"format": "gif"}, "format", "mp4"),
            ({"shutter_deg": 1e308}, "shutter_deg", "360"),
        ):
            answer = self.client.post(f"/api/shots/{SHOT}/movies", json={**SMALL, **asked})
            self.problem(answer, 422, says, where)
        gone = self.client.post(f"/api/shots/{SHOT}/movies", json={**SMALL, "panes": [{"variant": "gone"}]})
        self.problem(gone, 404, "no variant 'gone'")

    def test_odd_sizes_are_made_even_and_said(self) -> None:
        movie = self.begin(width_px=33, height_px=17)
        self.assertEqual((movie["width"], movie["height"]), (32, 16))
        self.assertIn("movies have even sizes", movie["says"][0])
        tiny = self.begin(width_px=17, height_px=13)
        self.assertEqual((tiny["width"], tiny["height"]), (16, 12))

    def test_one_frame_exposed_and_how_far_a_rolling_shutter_leans(self) -> None:
        answer = self.client.post(f"/api/shots/{SHOT}/still", json={"frame": 60.5, "subframes": 4})
        self.assertEqual((answer.status_code, answer.content[:4]), (200, b"ZTM1"))
        for body in ({"frame": 1, "subframes": 65}, {"frame": 1e12}, {"frame": 1, "shutter_deg": -1}):
            self.assertEqual(self.client.post(f"/api/shots/{SHOT}/still", json=body).status_code, 422)
        leans = [self.client.get(f"/api/shots/{SHOT}/lean?readout_ms={ms}").json()["px"] for ms in (0, 10, 20)]
        self.assertEqual(leans[0], 0.0)
        self.assertGreater(leans[2], leans[1])
        for odd in ("nan", "inf", "-1", "101", "1e308"):
            self.assertEqual(self.client.get(f"/api/shots/{SHOT}/lean?readout_ms={odd}").status_code, 422)

    def test_few_at_once(self) -> None:
        movies = [self.begin() for _ in range(MOST_MOVIES)]
        self.problem(self.client.post(f"/api/shots/{SHOT}/movies", json=SMALL), 503, "being made already")
        self.client.delete(f"/api/movies/{movies[0]['id']}")
        self.begin()

    def test_a_page_that_is_silent_for_a_minute_loses_its_place_and_one_with_a_heartbeat_does_not(self) -> None:
        movies = [self.begin() for _ in range(MOST_MOVIES)]
        found = [self.context.movies.get(each["id"]) for each in movies]
        for each in found:
            each.touched_s -= 61.0
        for each in movies[1:]:
            self.assertEqual(self.client.post(f"/api/movies/{each['id']}/heartbeat").status_code, 204)
        self.begin()
        self.assertEqual([each.status for each in found], ["cancelled", *["drawing"] * (MOST_MOVIES - 1)])
        self.problem(self.client.get(f"/api/movies/{movies[0]['id']}"), 404, "gone")
        self.problem(self.client.post(f"/api/shots/{SHOT}/movies", json=SMALL), 503, "being made already")
        self.assertFalse(found[0].path.exists())
