import ast
import unittest

from tools.mutate import ROOT, mutants, run

SOURCE = '''
LIMIT = 4

def size(a: int = 3, b: float = 0.5) -> float:
    """A text with 1 + 1 in it."""
    if a < 2 and not b:
        raise ValueError(f"got {a + 1}")
    return a * 1.5 if a is None else b - "ä".count("ä")
'''


class Changes(unittest.TestCase):
    def test_each_is_another_program_and_texts_stay(self) -> None:
        found = mutants(SOURCE)
        self.assertEqual(
            {(each.before, each.after) for each in found},
            {
                ("a < 2", "(a >= 2)"), ("a < 2 and not b", "(a < 2 or not b)"), ("not b", "(b)"), ("2", "(3)"),
                ("1.5", "(2.5)"), ("a * 1.5", "(a / 1.5)"),
                ("a is None", "(a is not None)"), ('b - "ä".count("ä")', "(b + 'ä'.count('ä'))"),
                ('a * 1.5 if a is None else b - "ä".count("ä")', "(b - 'ä'.count('ä') if a is None else a * 1.5)"),
            },
        )  # fmt: skip
        for each in found:
            changed = each.put_into(SOURCE)
            self.assertNotEqual(ast.dump(ast.parse(changed)), ast.dump(ast.parse(SOURCE)))
            self.assertIn("got {a + 1}", changed)

    def test_the_core_has_many_and_all_can_be_parsed(self) -> None:
        count = 0
        for path in (ROOT / "zittern/core/rig").glob("*.py"):
            source = path.read_text()
            for each in mutants(source):
                ast.parse(each.put_into(source))
                count += 1
        self.assertGreater(count, 100)

    def test_a_change_of_a_tested_module_is_noticed(self) -> None:
        self.assertTrue(any(noticed for _, _, noticed in run(3, 1, "zittern/core/rig")))
