import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.readings.scribble import scribble
from zittern.core.timebase import Fps
from zittern.store.cards import Card, card_of, packed_scribble, read_card, write_card


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


class Scribbles(unittest.TestCase):
    def test_bytes_are_the_points_sized_to_fill(self) -> None:
        shot = shot_with(layer())
        points = scribble(shot)
        drawn = np.frombuffer(packed_scribble(shot), np.int8).reshape(-1, 2).astype(float)
        self.assertEqual(np.abs(drawn).max(), 127)
        np.testing.assert_allclose(drawn / 127, points / np.abs(points).max(), atol=0.5 / 127 + 1e-9)

    def test_nothing_shakes(self) -> None:
        self.assertEqual(set(packed_scribble(shot_with(last_frame=5))), {0})
