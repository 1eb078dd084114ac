import unittest

import numpy as np

from tests.core.making import contribution, layer, over, shot_with
from zittern.core.numbers.param import keyed
from zittern.core.sources.hand_keys import HandKeys, Tracks


class Keys(unittest.TestCase):
    def test_values_are_the_keys_in_the_axis_units_times_weight(self) -> None:
        pan = keyed((1, 0.0), (100, 3.0), (240, -1.0))
        keys = layer(source=HandKeys(tracks=Tracks(pan=pan, dolly=5.0)), swings={}, weight=0.5)
        values = contribution(shot_with(keys))
        np.testing.assert_allclose(values[:, 0], 0.5 * pan.sample(over(np.arange(1.0, 241.0))), atol=1e-12)
        np.testing.assert_allclose(values[:, 5], 2.5)
        np.testing.assert_array_equal(values[:, [1, 2, 3, 4, 6]], 0)

    def test_an_axis_switched_off_gives_nothing(self) -> None:
        keys = layer(source=HandKeys(tracks=Tracks(pan=1.0, tilt=1.0)), swings={})
        keys = keys.replace(axes=keys.axes.replace(pan=keys.axes.pan.replace(on=False)))
        values = contribution(shot_with(keys))
        self.assertTrue(np.all(values[:, 0] == 0) and np.all(values[:, 1] == 1))
