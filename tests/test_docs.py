"""The documents for people: length of sentences, pictures, links."""

import re
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent
GUIDE = ROOT / "docs/guide.md"
LONGEST_WORDS, README_LINES, CHAPTERS = 25, 150, 9


def texts(markdown: str) -> list[str]:
    """Sentences of a document; cells of tables count as sentences."""
    cells = [cell for line in markdown.splitlines() for cell in (line.split("|") if line.startswith("|") else [line])]
    return [sentence for cell in cells for sentence in re.split(r"(?<=[.!?:])\s", cell)]


class Guide(unittest.TestCase):
    def test_sentences_are_short(self) -> None:
        long = [text for text in texts(GUIDE.read_text()) if len(re.findall(r"[A-Za-z]+", text)) > LONGEST_WORDS]
        self.assertEqual(long, [])

    def test_each_chapter_has_a_picture(self) -> None:
        chapters = re.split(r"^## ", GUIDE.read_text(), flags=re.MULTILINE)[1:]
        self.assertEqual(len(chapters), CHAPTERS)
        self.assertEqual([each.splitlines()[0] for each in chapters if "](screenshots/" not in each], [])


class Everywhere(unittest.TestCase):
    def test_the_readme_is_short(self) -> None:
        self.assertLessEqual(len((ROOT / "README.md").read_text().splitlines()), README_LINES)

    def test_links_lead_to_files(self) -> None:
        for path in (ROOT / "README.md", *sorted((ROOT / "docs").glob("*.md"))):
            for target in re.findall(r"\]\(([^)#]+)\)", path.read_text()):
                if not target.startswith("http"):
                    with self.subTest(file=path.name, link=target):
                        self.assertTrue((path.parent / target).exists())
