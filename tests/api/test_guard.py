from tests.api.making import WithServer


class Door(WithServer):
    def test_names_of_this_machine_only(self) -> None:
        for host in ("127.0.0.1:8712", "localhost:1", "localhost", "[::1]:8712"):
            self.assertEqual(self.client.get("/api/projects", headers={"Host": host}).status_code, 200, host)
        for host in ("evil.example", "evil.example:8712", "127.0.0.1.evil.example", ""):
            self.problem(self.client.get("/api/projects", headers={"Host": host}), 403, "answers to")

    def test_own_pages_only(self) -> None:
        body = {"name": "X"}
        own = self.client.post("/api/projects", json=body, headers={"Origin": "http://127.0.0.1:8712"})
        self.assertEqual(own.status_code, 201)
        for origin in ("http://evil.example", "http://127.0.0.1:9999", "null"):
            self.problem(self.client.post("/api/projects", json=body, headers={"Origin": origin}), 403, "refused")
        self.assertEqual(len(self.client.get("/api/projects").json()), 2)

    def test_announced_and_unannounced_size(self) -> None:
        headers = {"Content-Type": "application/json"}
        self.problem(self.client.post("/api/projects", content=b" " * (2 * 2**20), headers=headers), 413, "1 MB")
        self.problem(self.client.post("/api/projects", content=b"{}", headers={**headers, "Content-Length": "many"}), 413, "1 MB")

        def endless():  # type: ignore[no-untyped-def]
            for _ in range(64):
                yield b" " * 65536

        answer = self.client.post("/api/projects", content=endless(), headers=headers)
        self.assertGreaterEqual(answer.status_code, 400)
        self.assertEqual(len(self.client.get("/api/projects").json()), 1)

    def test_the_page_loads_nothing_from_outside(self) -> None:
        answer = self.client.get("/")
        self.assertIn("default-src 'self'", answer.headers["content-security-policy"])
        self.assertNotIn("http://", answer.text.replace("http://127.0.0.1", ""))
        self.assertNotIn("https://", answer.text)

    def test_page_addresses_and_files_outside(self) -> None:
        self.assertIn('<div id="root">', self.client.get("/shot/jetty-walk").text)
        self.assertIn('<div id="root">', self.client.get("/..%2f..%2fpyproject.toml").text)


class OpenApi(WithServer):
    def test_the_committed_description_is_up_to_date(self) -> None:
        from pathlib import Path

        from zittern.api.export_openapi import describe

        committed = (Path(__file__).parents[2] / "web/openapi.json").read_text()
        self.assertEqual(committed, describe(), "run `make types`")
