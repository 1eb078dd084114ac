import unittest

from zittern.core.presets.search import SEARCH_WORDS, found, nearest
from zittern.store.shipped import shipped_presets


class Words(unittest.TestCase):
    def test_what_people_type_finds_what_fits(self) -> None:
        for asked, wanted in (
            ("earthquake", {"close-tremor", "rumble-in-waves"}), ("explosion", {"passing-shock", "thud"}),
            ("impact", {"thud", "blow-against-the-camera"}),
            ("footsteps", {"careful-walk", "brisk-walk", "heavy-stomp"}), ("giant", {"heavy-stomp"}),
            ("train", {"smooth-road", "engine-hum"}),
            ("steady", {"shoulder-standing", "careful-walk"}), ("gimbal", {"careful-walk", "hovering-machine"}),
            ("interview", {"shoulder-standing"}),
            ("subtle", {"shoulder-standing", "engine-hum"}), ("drone", {"hovering-machine"}), ("bike", {"washboard"}),
            ("gravel", {"washboard"}),
            ("handheld", {"shoulder-standing", "brisk-walk", "run"}), ("Handheld Interview", {"shoulder-standing"}),
            ("small boat", {"small-boat"}),
        ):  # fmt: skip
            self.assertLessEqual(wanted, set(found(shipped_presets(), asked)), asked)

    def test_every_shipped_one_has_words_and_no_other_does(self) -> None:
        self.assertEqual(set(SEARCH_WORDS), set(shipped_presets()))

    def test_where_nothing_is_found_the_nearest_come_first(self) -> None:
        self.assertEqual(found(shipped_presets(), "earthqauke"), [])
        self.assertIn(nearest(shipped_presets(), "earthqauke")[0], {"close-tremor", "rumble-in-waves"})
        self.assertEqual(nearest(shipped_presets(), "aerial zeppelin drone")[0], "hovering-machine")
        self.assertEqual(len(nearest(shipped_presets(), "walkk")), 4)
        self.assertEqual(nearest(shipped_presets(), "qqqq"), [])
