"""Imports and exports over HTTP."""

import csv
import errno
import io
import json
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path

import numpy as np

from tests.api.making import WithServer
from tests.formats.making import GltfMaker
from tools.demo.cuts import CUT
from zittern.api.jobs import MOST_WAITING, Busy, ExportJob
from zittern.core.motion.evaluate import evaluate
from zittern.formats.delivery import Delivery
from zittern.formats.table import format_named

WALK = GltfMaker({"camera": 0, "name": "A"}, {"camera": 0, "name": "B"}).animate(
    1, "translation", [0, 1], [[0, 0, 0], [3, 0, 0]]
)


class Cuts(WithServer):
    def test_what_a_cut_shows_is_told_and_taken_as_an_edit(self) -> None:
        files = {"file": ("cut.otio", CUT.read_bytes())}
        answer = self.client.post("/api/shots/mast-fall/cut", files=files, data={"handles": "2"})
        self.assertEqual(answer.status_code, 200, answer.text)
        told = answer.json()
        self.assertIn("time runs at 50 %: 30 frames last 60", told["says"])
        state = self.edit(told["command"], "mast-fall")
        self.assertEqual(state["undo_label"], "Conform to cut: frames 21 to 50")
        document = self.state("mast-fall")["document"]
        self.assertEqual((document["first_frame"], document["last_frame"]), (19, 82))
        self.problem(self.client.post("/api/shots/lamp-close/cut", files=files), 422, "no clip of this cut")
        broken = {"file": ("cut.otio", b"{}")}
        self.problem(self.client.post("/api/shots/mast-fall/cut", files=broken), 422, "not an OpenTimelineIO cut list")


class Imports(WithServer):
    def send(self, path: str, data: bytes, name: str = "walk.glb", **fields: str):  # type: ignore[no-untyped-def]
        return self.client.post(path, files={"file": (name, data)}, data=fields)

    def test_inspect_names_the_cameras(self) -> None:
        self.assertEqual(
            self.send("/api/imports/inspect", WALK.glb()).json(),
            {"cameras": ["A", "B"], "notices": [], "shot": None, "fps": None, "readings": {}},
        )

    def test_a_new_shot_from_a_file(self) -> None:
        made = self.send("/api/projects/saltmarsh-post/imports", WALK.gltf(), "long_walk.gltf", camera="B", fps="25")
        self.assertEqual(made.status_code, 201, made.text)
        state = made.json()["state"]
        self.assertEqual(
            (state["slug"], state["document"]["name"], state["document"]["last_frame"]), ("long-walk", "long_walk", 26)
        )

    def test_a_shot_of_our_own_opens_as_it_was(self) -> None:
        document = self.state("lamp-close")["document"]
        data = json.dumps(document).encode()
        self.assertEqual(self.send("/api/imports/inspect", data, "lamp.shot.json").json()["shot"], "Lamp close")
        made = self.send("/api/projects/saltmarsh-post/imports", data, "lamp.shot.json")
        self.assertEqual((made.status_code, made.json()["state"]["label"]), (201, "Open “lamp.shot.json”"))
        opened = made.json()["state"]["document"]
        self.assertEqual({**opened, "seed": document["seed"], "seeds_drawn": document["seeds_drawn"]}, document)
        self.assertNotEqual(opened["seed"], document["seed"])
        old = (Path(__file__).parents[1] / "data/shot-v1.shot.json").read_bytes()
        self.assertEqual(self.send("/api/projects/saltmarsh-post/imports", old, "old.shot.json").status_code, 201)
        for wrong, pattern in (
            (b"{}", "not a shot"),
            (b"[" * 50_000, "not JSON"),
            (json.dumps(document | {"schema_version": 99}).encode(), "newer Zittern"),
        ):
            for path in ("/api/imports/inspect", "/api/projects/saltmarsh-post/imports"):
                self.problem(self.send(path, wrong, "bad.shot.json"), 422, pattern)
        revision = str(self.state()["revision"])
        self.problem(
            self.send("/api/shots/jetty-walk/imports", data, "lamp.shot.json", base_revision=revision),
            422,
            "camera paths are read from",
        )

    def test_replacing_a_move_keeps_the_layers_and_can_be_undone(self) -> None:
        before = self.state("jetty-walk-swaying")
        answer = self.send(
            "/api/shots/jetty-walk-swaying/imports", WALK.glb(), camera="B", base_revision=str(before["revision"])
        )
        state = answer.json()["state"]
        self.assertEqual(state["undo_label"], "Import move “walk.glb”")
        self.assertEqual(state["document"]["lanes"], before["document"]["lanes"])
        undone = self.client.post(
            "/api/shots/jetty-walk-swaying/undo", json={"base_revision": state["revision"]}
        ).json()
        self.assertEqual(undone["document"], before["document"])

    def test_a_move_can_ride_on_the_one_that_is_there(self) -> None:
        before = self.state("jetty-walk-swaying")
        fields = {"camera": "B", "how": "add", "base_revision": str(before["revision"])}
        state = self.send("/api/shots/jetty-walk-swaying/imports", WALK.glb(), **fields).json()["state"]
        self.assertEqual(state["undo_label"], "Add move “walk.glb”")
        self.assertEqual(state["document"]["mounts"][0], before["document"]["mounts"][0])
        self.assertEqual(state["document"]["mounts"][1]["x_m"]["curve"]["keys"][-1]["value"], 3.0)
        wrong = self.send("/api/shots/jetty-walk-swaying/imports", WALK.glb(), **{**fields, "how": "mix"})
        self.problem(wrong, 422, "replace", "how")

    def test_bad_files_are_4xx_and_leave_the_project_as_it_was(self) -> None:
        before = self.client.get("/api/projects/saltmarsh-post/shots").json()
        revision = str(self.state()["revision"])
        for name, data, pattern in (
            ("a.glb", b"", "empty"),
            ("a.glb", WALK.glb()[:-4], "cut off"),
            ("a.gltf", b"{}", "a value is missing here"),
            ("a.csv", b"frame,x_m,y_m,z_m\n1,0,0,nan\n", "finite"),
            ("a.csv", b"frame;x_m\n", "semicolons"),
            ("a.doc", b"x", "unknown file ending"),
            ("a.gltf", WALK.gltf().replace(b"data:application", b"file:///etc/passwd?"), "another file"),
        ):
            for path, fields in (
                ("/api/projects/saltmarsh-post/imports", {}),
                ("/api/shots/jetty-walk/imports", {"base_revision": revision}),
                ("/api/imports/inspect", {}),
            ):
                self.problem(self.send(path, data, name, **fields), 422, pattern)
        self.problem(self.send("/api/projects/saltmarsh-post/imports", WALK.glb(), fps="0"), 422, "above 0", "fps")
        self.problem(
            self.send("/api/projects/saltmarsh-post/imports", WALK.glb(), camera="C"), 422, "no camera 'C'", "camera"
        )
        self.assertEqual(self.client.get("/api/projects/saltmarsh-post/shots").json(), before)

    def test_uploads_have_a_limit(self) -> None:
        self.problem(self.send("/api/imports/inspect", b"x" * (2 * 2**20)), 413, "up to 1 MB")


class Exports(WithServer):
    def exported(self, format_: str, step: float = 1.0, **settings: object) -> tuple[bytes, dict[str, str]]:
        body = {"format": format_, "step": step, **settings}
        job = self.client.post("/api/shots/jetty-walk-swaying/exports", json=body)
        self.assertEqual(job.status_code, 202, job.text)
        name = job.json()["id"]
        self.jobs._worker.submit(lambda: None).result(60)  # it works in turn: this one is done, so is the export
        self.assertEqual(self.jobs.get(name).status, "done")
        self.assertEqual(self.client.get(f"/api/exports/{name}").json()["progress"], 1.0)
        answer = self.client.get(f"/api/exports/{name}/file")
        return answer.content, dict(answer.headers)

    def setUp(self) -> None:
        super().setUp()
        self.jobs = self.client.app.state.context.jobs  # type: ignore[attr-defined]
        self.addCleanup(self.jobs.close)

    def test_csv_has_the_poses(self) -> None:
        data, headers = self.exported("csv")
        self.assertIn("jetty-walk-swaying.csv", headers["content-disposition"])
        rows = list(csv.DictReader(io.StringIO(data.decode())))
        motion = evaluate(self.library.state("jetty-walk-swaying").document)
        np.testing.assert_allclose([float(row["x_m"]) for row in rows], motion.pose.position_m[:, 0], atol=1e-8)

    def test_every_format_can_be_fetched(self) -> None:
        for format_, start in (("glb", b"glTF"), ("gltf", b"{"), ("shot", b"{"), ("csv", b"frame,")):
            self.assertTrue(self.exported(format_)[0].startswith(start), format_)
        self.assertEqual(len(self.exported("csv", 0.5)[0].splitlines()), 1 + 383)

    def test_reduced_keys_say_what_they_lose(self) -> None:
        says = []
        for settings in ({}, {"reduce": "0.5px", "one_camera": True}):
            body = {"format": "glb", **settings}
            job = self.client.post("/api/shots/jetty-walk-swaying/exports", json=body).json()["id"]
            self.jobs._worker.submit(lambda: None).result(60)
            says.append(self.client.get(f"/api/exports/{job}").json()["says"])
        self.assertIsNone(says[0])
        self.assertRegex(says[1], r"^2 channels of 192 frames → \d+ keys, up to 0\.[0-5]\d px, \d+\.\d\d mm$")

    def test_a_range_with_numbers_of_its_own(self) -> None:
        data, _ = self.exported("csv", first_frame=50, last_frame=52, first_number=1001)
        self.assertEqual([row.split(b",")[0] for row in data.splitlines()[1:]], [b"1001", b"1002", b"1003"])

    def test_settings_that_a_format_does_not_have(self) -> None:
        for settings, words, where in (
            ({"format": "glb", "first_number": 1001}, "no frame numbers", "first_number"),
            ({"format": "csv", "first_frame": 9, "last_frame": 2}, "from 9 on, got 2", "last_frame"),
            ({"format": "csv", "last_frame": 2**63}, "10000000", "last_frame"),
            ({"format": "csv", "reduce": "0.5px"}, "choose glb or gltf", "reduce"),
            ({"format": "shot", "one_camera": True}, "choose glb, gltf or usd", "one_camera"),
            ({"format": "glb", "reduce": "much"}, "expected a tolerance such as 0.5px", "reduce"),
            ({"format": "glb", "reduce": "0.5px", "step": 0.5}, "leave out the step", "step"),
        ):
            self.problem(self.client.post("/api/shots/jetty-walk/exports", json=settings), 422, words, where)

    def test_what_cannot_be_exported(self) -> None:
        self.problem(
            self.client.post("/api/shots/jetty-walk/exports", json={"format": "abc"}), 422, "known are", "format"
        )
        self.problem(
            self.client.post("/api/shots/jetty-walk/exports", json={"format": "glb", "step": 1e-320}),
            422,
            "expected at least 0.01",
            "step",
        )
        self.problem(self.client.get("/api/exports/none"), 404, "gone")
        self.problem(self.client.get("/api/exports/none/file"), 404, "gone")

    def job(self) -> ExportJob:
        return ExportJob(
            "x", "x.glb", format_named("glb"), self.library.workspace.new_path(".glb"), self.library.data_dir
        )

    def test_cancelling_stops_the_work(self) -> None:
        job = self.job()
        job.cancelled.set()
        job.run(self.library.state("jetty-walk").document, Delivery(), Busy())
        self.assertEqual((job.status, job.path.exists()), ("cancelled", False))

    def test_a_file_is_fetched_once_and_gone(self) -> None:
        job = self.client.post("/api/shots/jetty-walk/exports", json={"format": "csv"}).json()["id"]
        self.jobs._worker.submit(lambda: None).result(60)
        path = self.jobs.get(job).path
        part = self.client.get(f"/api/exports/{job}/file", headers={"Range": "bytes=0-4"})
        self.assertEqual((part.status_code, part.content, path.exists()), (206, b"frame", True))
        self.assertTrue(self.client.get(f"/api/exports/{job}/file").content.startswith(b"frame,"))
        self.assertFalse(path.exists())
        self.problem(self.client.get(f"/api/exports/{job}/file"), 404, "gone")

    def test_eight_at_once_and_each_gets_all_of_it(self) -> None:
        job = self.client.post("/api/shots/jetty-walk/exports", json={"format": "glb", "step": 0.1}).json()["id"]
        self.jobs._worker.submit(lambda: None).result(60)
        size = self.jobs.get(job).path.stat().st_size
        names = [self.jobs.fetched(self.jobs.get(job)) for _ in range(3)]  # three who began before the others are done
        with ThreadPoolExecutor(8) as pool:
            answers = list(pool.map(lambda _: self.client.get(f"/api/exports/{job}/file"), range(8)))
        self.assertLessEqual({answer.status_code for answer in answers}, {200, 404})
        whole = [len(answer.content) for answer in answers if answer.status_code == 200]
        self.assertEqual(set(whole), {size})
        self.assertEqual({name.stat().st_size for name in names}, {size})
        left = {path for path in names[0].parent.iterdir() if path.suffix == ".glb"}
        self.assertEqual(left, set(names), "names of those who are done are gone")

    def test_many_wait_in_line_and_too_many_are_told(self) -> None:
        hold = threading.Event()
        self.addCleanup(hold.set)
        self.jobs._worker.submit(hold.wait)
        start = {"format": "shot"}
        ids = [self.client.post("/api/shots/jetty-walk/exports", json=start).json()["id"] for _ in range(MOST_WAITING)]
        self.assertEqual({self.client.get(f"/api/exports/{each}").json()["status"] for each in ids}, {"working"})
        self.problem(self.client.post("/api/shots/jetty-walk/exports", json=start), 503, "are waiting already")
        hold.set()
        self.jobs._worker.submit(lambda: None).result(60)
        self.assertEqual({self.client.get(f"/api/exports/{each}").json()["status"] for each in ids}, {"done"})
        for each in ids[:30]:
            self.assertEqual(self.client.get(f"/api/exports/{each}/file").status_code, 200)
        more = [self.client.post("/api/shots/jetty-walk/exports", json=start).json()["id"] for _ in range(35)]
        self.jobs._worker.submit(lambda: None).result(60)
        found = [self.client.get(f"/api/exports/{each}").status_code for each in (*ids[30:], *more)]
        self.assertEqual(found, [404] * 5 + [200] * 100, "of more than that, those that were done first are dropped")

    def test_any_fault_ends_it_with_words(self) -> None:
        job = self.job()

        def broken(*_: object) -> None:
            raise ZeroDivisionError("of no use")

        job.format = replace(job.format, write=broken)
        with self.assertLogs("zittern", "ERROR"):
            job.run(self.library.state("jetty-walk").document, Delivery(), Busy())
        self.assertEqual((job.status, job.path.exists()), ("failed", False))
        self.assertIn("ZeroDivisionError: of no use", job.problem or "")

    def test_what_nobody_fetches_is_dropped_after_a_while(self) -> None:
        job = self.client.post("/api/shots/jetty-walk/exports", json={"format": "shot"}).json()["id"]
        self.jobs._worker.submit(lambda: None).result(60)
        found = self.jobs.get(job)
        found.ended_s = time.monotonic() - 3600
        self.problem(self.client.get(f"/api/exports/{job}"), 404, "gone")
        self.assertFalse(found.path.exists())

    def test_a_full_disk_is_told_and_leaves_nothing(self) -> None:
        job = self.job()

        def full(*_: object) -> None:
            raise OSError(errno.ENOSPC, "No space left on device")

        job.format = replace(job.format, write=full)
        job.run(self.library.state("jetty-walk").document, Delivery(), Busy())
        self.assertEqual((job.status, job.path.exists()), ("failed", False))
        self.assertIn("the disk is full", job.problem or "")
