import unittest

from tools.words import OUT, words


class Words(unittest.TestCase):
    def test_the_list_of_all_texts_is_up_to_date(self) -> None:
        self.assertEqual(OUT.read_text(), words(), "run `make words`")

    def test_it_has_what_people_read_on_the_page_and_in_errors(self) -> None:
        page, _, python = OUT.read_text().partition("## Python")
        for text in (
            "Export the motion",
            "No matching commands.",
            "All swings ×",
            "Add cue at playhead (also while playing)",
        ):
            self.assertIn(f"\n{text}\n", page)
        for text in ("there is no field {}", "the file is empty", "sway of a standing person"):
            self.assertIn(f"\n{text}\n", python)

    def test_one_thing_has_one_word(self) -> None:
        for old in (
            "pen line",
            "random start",
            "stretch that loops",
            "ring in ",
            "a frame apart",
            "half as strong again",
            "held by hand",
        ):
            self.assertNotIn(old, OUT.read_text())
