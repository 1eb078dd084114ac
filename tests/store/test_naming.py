import unittest

from tests.store.making import WithLibrary
from zittern.core.errors import BadInput
from zittern.store.naming import clean_name, free_slug, slug_of
from zittern.store.tables import ProjectRow


class Names(unittest.TestCase):
    def test_slugs_are_plain_letters_whatever_the_name(self) -> None:
        for name, slug in (("Jetty Walk", "jetty-walk"), ("  Über—Dünen 2 ", "uberdunen-2"), ("../../etc", "etc")):
            self.assertEqual(slug_of(name), slug)
        self.assertRegex(slug_of("漢字"), "^[a-z0-9-]+$")

    def test_names_are_trimmed_and_have_a_length(self) -> None:
        self.assertEqual(clean_name("  Post "), "Post")
        for name in ("", "   ", "x" * 121):
            with self.assertRaisesRegex(BadInput, "1 to 120"):
                clean_name(name)


class Free(WithLibrary):
    def test_a_slug_that_is_taken_gets_a_number(self) -> None:
        for _ in range(2):
            self.library.add_project("Post")
        with self.library._reading() as connection:
            self.assertEqual(free_slug(connection, ProjectRow, "post"), "post-3")
            self.assertEqual(free_slug(connection, ProjectRow, "pos_"), "pos_")
