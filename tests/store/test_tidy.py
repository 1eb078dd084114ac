from tests.store.test_library import WithPost, rename
from zittern.core.shot.shot import new_shot


class Tidying(WithPost):
    def setUp(self) -> None:
        super().setUp()
        state = self.library.add_shot("post", new_shot("Walk"))
        self.revisions = [state.revision]
        for i in range(12):
            state = self.library.edit("walk", state.revision, rename(f"N{i}"))
            self.revisions.append(state.revision)
        self.library.name_revision("walk", self.revisions[3], "before the gull")

    def left(self) -> list[int]:
        return [each.revision for each in self.library.history("walk").rows]

    def test_it_says_what_goes_and_keeps_new_named_and_present_ones(self) -> None:
        self.library.go_to("walk", self.revisions[-1], self.revisions[1])
        planned = self.library.tidying("walk", keep=4)
        self.assertEqual((planned.revisions, planned.of, planned.bytes > 0), (7, 13, True))
        self.assertEqual(len(self.left()), 13)
        done = self.library.tidy("walk", keep=4)
        self.assertEqual(
            (done.revisions, self.left()), (7, [*self.revisions[:-5:-1], self.revisions[3], self.revisions[1]])
        )
        self.assertEqual(self.library.state("walk").document.name, "N0")

    def test_undo_and_redo_step_over_what_is_gone(self) -> None:
        self.library.tidy("walk", keep=2)
        state = self.library.state("walk")
        names = []
        for _ in range(5):
            names.append(state.document.name)
            state = self.library.undo("walk", state.revision)
        self.assertEqual(names, ["N11", "N10", "N2", "N2", "N2"])
        for name in ("N10", "N11"):
            state = self.library.redo("walk", state.revision)
            self.assertEqual(state.document.name, name)

    def test_the_space_is_given_back_and_ids_are_not_used_again(self) -> None:
        state = self.library.state("walk")
        for i in range(300):
            state = self.library.edit("walk", state.revision, rename(f"M{i} {'x' * 90}"))
        before = self.library.size_bytes()
        self.library.tidy("walk", keep=1)
        self.assertLess(self.library.size_bytes(), before / 2)
        self.assertGreater(self.library.edit("walk", state.revision, rename("Z")).revision, state.revision)

    def test_nothing_to_do(self) -> None:
        self.assertEqual(self.library.tidy("walk", keep=100).revisions, 0)
