from tests.api.making import WithServer


class Files(WithServer):
    def test_a_project_is_saved_and_opened(self) -> None:
        saved = self.client.get("/api/projects/saltmarsh-post/file")
        self.assertEqual(saved.headers["content-type"], "application/zip")
        self.assertIn("saltmarsh-post.zittern", saved.headers["content-disposition"])
        opened = self.client.post("/api/projects/unpack", files={"file": ("x.zittern", saved.content)})
        self.assertEqual(opened.status_code, 201, opened.text)
        made = opened.json()
        self.assertEqual(
            (made["project"], made["name"], len(made["shots"])), ("saltmarsh-post-2", "Saltmarsh Post 2", 10)
        )
        cards = self.client.get("/api/projects/saltmarsh-post-2/shots").json()
        self.assertEqual(sorted(card["slug"] for card in cards), sorted(made["shots"]))
        work = self.library.data_dir / "work"
        self.assertEqual(list(work.rglob("*.zittern")), [])

    def test_what_is_no_project_is_refused_in_words(self) -> None:
        self.problem(self.client.get("/api/projects/none/file"), 404, "no project")
        for data, words in ((b"", "no zip"), (b"glTF" + bytes(80), "no zip")):
            answer = self.client.post("/api/projects/unpack", files={"file": ("x.zittern", data)})
            self.problem(answer, 422, words)
