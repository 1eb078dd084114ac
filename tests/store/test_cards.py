import unittest

from tests.core.making import layer, shot_with
from zittern.core.timebase import Fps
from zittern.store.cards import Card, card_of, read_card, write_card


class Cards(unittest.TestCase):
    def test_what_a_card_shows(self) -> None:
        shot = shot_with(
            layer(),
            layer("b", seed=2),
            fps=Fps(num=24000, den=1001),
            first_frame=11,
            last_frame=58,
            set_id="saltmarsh-jetty",
        )
        card = card_of(shot)
        self.assertEqual(
            (card.name, card.frames, card.fps, card.layers, card.set_id, card.problem),
            ("Test", 48, "24000/1001", 2, "saltmarsh-jetty", None),
        )
        self.assertAlmostEqual(card.seconds, 48 * 1001 / 24000)
        self.assertEqual(read_card(write_card(card)), card)
        broken = Card("walk", problem="the stored bytes are damaged")
        self.assertEqual(read_card(write_card(broken)), broken)
