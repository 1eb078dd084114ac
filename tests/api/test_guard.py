import re
import socket

from starlette.testclient import TestClient

from tests.api.making import WithServer
from zittern.api.app import make_app
from zittern.api.guard import hosts_of
from zittern.settings import Settings


class Door(WithServer):
    def test_names_of_this_machine_only(self) -> None:
        for host in ("127.0.0.1:8712", "localhost:1", "localhost", "[::1]:8712"):
            self.assertEqual(self.client.get("/api/projects", headers={"Host": host}).status_code, 200, host)
        refusal = self.client.get("/api/projects", headers={"Host": "evil.example"}).json()["detail"]
        for host in re.findall(r"answers to (.*), not to", refusal)[0].split(", "):
            self.assertEqual(self.client.get("/api/projects", headers={"Host": host}).status_code, 200, host)
        for host in (
            "evil.example",
            "evil.example:8712",
            "127.0.0.1.evil.example",
            "",
            "localhost:@evil.example",
            "localhost@evil.example:8712",
            "[::1",
        ):
            self.problem(self.client.get("/api/projects", headers={"Host": host}), 403, "answers to")

    def test_own_pages_only(self) -> None:
        body = {"name": "X"}
        own = self.client.post("/api/projects", json=body, headers={"Origin": "http://127.0.0.1:8712"})
        self.assertEqual(own.status_code, 201)
        for origin in ("http://evil.example", "http://127.0.0.1:9999", "https://127.0.0.1:8712", "null"):
            self.problem(self.client.post("/api/projects", json=body, headers={"Origin": origin}), 403, "refused")
        self.assertEqual(len(self.client.get("/api/projects").json()), 2)

    def test_a_host_that_was_chosen_is_answered_to(self) -> None:
        self.assertIn("studio.example", hosts_of("studio.example"))
        self.assertNotIn("studio.example", hosts_of("127.0.0.1"))
        self.assertIn(socket.gethostname(), hosts_of("0.0.0.0"))
        self.assertIn("[fe80::1]", hosts_of("fe80::1"))

    def test_other_sites_change_nothing(self) -> None:
        for site, status in (("cross-site", 403), ("same-site", 403), ("same-origin", 201), ("none", 201)):
            self.assertEqual(
                self.client.post("/api/projects", json={"name": site}, headers={"Sec-Fetch-Site": site}).status_code,
                status,
                site,
            )

    def test_other_sites_read_nothing_but_may_link_to_the_page(self) -> None:
        opened = {"Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document"}
        for path, more, status in (
            ("/", opened, 200),
            ("/shot/jetty-walk", opened, 200),
            ("/", {}, 403),
            ("/", {**opened, "Sec-Fetch-Dest": "iframe"}, 403),
            ("/api/tables", opened, 403),
            ("/api/tables", {"Sec-Fetch-Mode": "no-cors", "Sec-Fetch-Dest": "script"}, 403),
            ("/assets/mark.svg", {"Sec-Fetch-Mode": "no-cors", "Sec-Fetch-Dest": "image"}, 403),
        ):
            with self.subTest(path=path, **more):
                for site in ("cross-site", "same-site"):
                    answer = self.client.get(path, headers={"Sec-Fetch-Site": site, **more})
                    self.assertEqual(answer.status_code, status)
                self.assertNotEqual(self.client.get(path).status_code, 403)
                for site in ("same-origin", "none"):
                    self.assertNotEqual(self.client.get(path, headers={"Sec-Fetch-Site": site}).status_code, 403)

    def test_only_forms_and_frames_may_be_larger_than_4_mb(self) -> None:
        app = make_app(Settings(data=self.library.data_dir, most_upload_mb=16), self.library)
        client = TestClient(app, base_url="http://127.0.0.1:8712", raise_server_exceptions=False)
        body = b'{"name": "' + b"x" * (4 * 2**20) + b'"}'
        for kind in ("application/json", "application/x+json", "application/vnd.a+json; v=1", "text/json", "x/y", ""):
            answer = client.post("/api/projects", content=body, headers={"Content-Type": kind})
            self.problem(answer, 413, "4 MB")
        form = client.post("/api/imports/inspect", files={"file": ("a.csv", b"x" * (5 * 2**20))})
        self.assertNotEqual(form.status_code, 413)

    def test_what_decides_is_said_once(self) -> None:
        for name, values in (
            ("Origin", ("http://127.0.0.1:8712",) * 2),
            ("Sec-Fetch-Site", ("same-origin", "cross-site")),
            ("Host", ("localhost", "localhost")),
        ):
            answer = self.client.post("/api/projects", json={"name": "X"}, headers=[(name, value) for value in values])
            self.assertIn(answer.status_code, (400, 403), name)
        self.assertEqual(len(self.client.get("/api/projects").json()), 1)

    def test_every_answer_says_how_it_is_to_be_taken(self) -> None:
        for path in ("/", "/api/projects", "/api/none", "/assets/none.js"):
            headers = self.client.get(path).headers
            self.assertEqual(headers["x-content-type-options"], "nosniff", path)
            self.assertIn("frame-ancestors 'none'", headers["content-security-policy"], path)
            self.assertEqual(headers["cross-origin-resource-policy"], "same-origin", path)

    def test_announced_and_unannounced_size(self) -> None:
        headers = {"Content-Type": "application/json"}
        self.problem(self.client.post("/api/projects", content=b" " * (2 * 2**20), headers=headers), 413, "1 MB")
        self.problem(
            self.client.post("/api/projects", content=b"{}", headers={**headers, "Content-Length": "many"}), 413, "1 MB"
        )

        def endless():  # type: ignore[no-untyped-def]
            for _ in range(64):
                yield b" " * 65536

        answer = self.client.post("/api/projects", content=endless(), headers=headers)
        self.problem(answer, 413, "1 MB")
        self.assertEqual(len(self.client.get("/api/projects").json()), 1)

    def test_the_page_loads_nothing_from_outside(self) -> None:
        answer = self.client.get("/")
        self.assertIn("default-src 'self'", answer.headers["content-security-policy"])
        self.assertNotIn("http://", answer.text.replace("http://127.0.0.1", ""))
        self.assertNotIn("https://", answer.text)

    def test_page_addresses_and_files_outside(self) -> None:
        self.assertIn('<div id="root">', self.client.get("/shot/jetty-walk").text)
        for path in ("/..%2f..%2fpyproject.toml", "/%00", "/" + "x" * 3000, "/%ed%a0%80"):
            self.assertIn('<div id="root">', self.client.get(path).text, path)

    def test_json_is_read_strictly(self) -> None:
        head = {"Content-Type": "application/json"}
        for text in (
            '{"name": "\\ud800"}',
            '{"name": NaN}',
            '{"name": "a"',
            '{"name": "' + "a" * 200 + '"}',
            '{"name": 1e400}',
            "[" * 5000,
        ):
            self.problem(self.client.post("/api/projects", content=text.encode(), headers=head), 422, ".")
        self.problem(
            self.client.post("/api/projects/saltmarsh-post/shots", json={"name": "A", "copy_of": "x" * 4000}),
            422,
            "120",
        )
        big = b'{"name": "A", "fps": ' + b"9" * 4000 + b"}"
        self.problem(self.client.post("/api/projects/saltmarsh-post/shots", content=big, headers=head), 422, ".")


class OpenApi(WithServer):
    def test_the_committed_description_is_up_to_date(self) -> None:
        from pathlib import Path

        from zittern.api.export_openapi import describe

        committed = (Path(__file__).parents[2] / "web/openapi.json").read_text()
        self.assertEqual(committed, describe(), "run `make types`")
