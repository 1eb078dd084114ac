import threading

from tests.store.making import InFolder
from zittern.core.errors import NotFound
from zittern.store.sets import add_set, set_file, set_ids
from zittern.store.workspace import Workspace


class Adding(InFolder):
    def setUp(self) -> None:
        super().setUp()
        self.space = Workspace(self.folder)
        self.addCleanup(self.space.close)

    def test_each_holds_its_own_bytes_however_many_come_at_once(self) -> None:
        made: dict[str, bytes] = {}

        def upload(part: int) -> None:
            for i in range(25):
                data = f"set {part} {i}".encode() * 500
                made[add_set(self.folder, self.space, "dune", data)] = data

        threads = [threading.Thread(target=upload, args=(part,)) for part in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(len(made), 100)
        for set_id, data in made.items():
            self.assertEqual(set_file(self.folder, set_id).read_bytes(), data)
        self.assertTrue(set(made) <= set(set_ids(self.folder)))

    def test_an_id_never_stands_for_other_bytes(self) -> None:
        first = add_set(self.folder, self.space, "dune", b"one")
        set_file(self.folder, first).unlink()
        self.assertNotEqual(add_set(self.folder, self.space, "dune", b"two"), first)
        self.assertEqual(add_set(self.folder, self.space, "dune", b"one"), first)
        self.assertRegex(add_set(self.folder, self.space, "x" * 90, b"long name"), "^x{48}-[0-9a-f]{12}$")

    def test_ids_are_no_paths(self) -> None:
        for wanted in ("../zittern", "a/b", "", "saltmarsh-jetty.glb", "x" * 65):
            with self.assertRaises(NotFound):
                set_file(self.folder, wanted)

    def test_links_are_not_followed(self) -> None:
        kept = add_set(self.folder, self.space, "dune", b"kept")
        secret = self.folder / "secret"
        secret.write_bytes(b"private")
        (self.folder / "sets" / "linked.glb").symlink_to(secret)
        with self.assertRaises(NotFound):
            set_file(self.folder, "linked")
        self.assertNotIn("linked", set_ids(self.folder))
        self.assertIn(kept, set_ids(self.folder))
