import unittest

import numpy as np

from tests.core.making import edited
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.seeds import drawn
from zittern.core.shot.shot import Shot, new_shot
from zittern.store.shipped import shipped_presets

COMMANDS = (
    {"type": "add_handheld"},
    {"type": "add_layer", "source": "noise"},
    {"type": "place_preset", "preset": shipped_presets()["small-boat"], "key": "small-boat"},
)


def shots(*commands: dict[str, object]) -> list[Shot]:
    """The same commands on several new shots."""
    return [
        edited(new_shot("Shot", seed=seed, last_frame=2400), *commands)
        for seed in (11, 12, 13, 14, 15, 9_007_199_254_740_991)
    ]


def seeds(shot: Shot) -> list[int]:
    return [layer.seed for _, layer in shot.layers()]


class Drawn(unittest.TestCase):
    def test_two_shots_never_shake_alike(self) -> None:
        for command in COMMANDS:
            made = shots(command)
            self.assertEqual(
                len({seed for shot in made for seed in seeds(shot)}),
                sum(len(seeds(shot)) for shot in made),
                command["type"],
            )
            totals = [evaluate(shot).total[:, :6] for shot in made]
            for axis in range(6):
                if all(total[:, axis].any() for total in totals):
                    r = np.corrcoef([total[:, axis] for total in totals])[np.triu_indices(len(made), 1)]
                    # A lone sine of the same rate is alike by chance now and then, but not on the whole.
                    self.assertLess(abs(float(np.mean(r))), 0.5, f"{command['type']} axis {axis}")
                    self.assertLess(float(np.median(np.abs(r))), 0.9, f"{command['type']} axis {axis}")

    def test_the_same_document_and_command_give_the_same(self) -> None:
        for command in COMMANDS:
            self.assertEqual(shots(command), shots(command))

    def test_removed_and_placed_again_it_is_another(self) -> None:
        once = edited(new_shot("Shot", seed=5), {"type": "add_layer", "source": "noise"})
        again = edited(once, {"type": "remove_layers", "layers": ["noise-1"]}, {"type": "add_layer", "source": "noise"})
        self.assertNotEqual(seeds(once), seeds(again))

    def test_none_comes_twice_and_the_shot_remembers(self) -> None:
        shot, first = drawn(new_shot("Shot", seed=3), 40)
        shot, second = drawn(shot, 40)
        self.assertEqual((len({*first, *second}), shot.seeds_drawn), (80, 80))
        self.assertTrue(all(0 <= seed < 2**53 for seed in first))


class Starts(unittest.TestCase):
    def test_periodic_sources_begin_at_a_phase_of_their_own(self) -> None:
        for kind in ("wave", "cycle", "gait", "breath"):
            made = shots({"type": "add_layer", "source": kind})
            starts = [layer.source.start for shot in made for _, layer in shot.layers()]
            self.assertEqual(len(set(starts)), len(made), kind)

    def test_two_small_boats_in_one_shot_do_not_roll_together(self) -> None:
        alike = []
        for seed in range(12):
            shot = edited(new_shot("Sea", seed=seed, last_frame=480), COMMANDS[2], COMMANDS[2])
            one, two = (evaluate(shot.replace(lanes=(lane,))).total[:, 2] for lane in shot.lanes)
            alike.append(np.corrcoef(one, two)[0, 1])
        self.assertLess(abs(float(np.mean(alike))), 0.4)

    def test_one_start_for_all_axes_so_that_circles_stay_circles(self) -> None:
        shot = edited(
            new_shot("Circle", seed=8),
            {"type": "add_layer", "source": "wave"},
            {
                "type": "set_values",
                "values": [{"at": f"layer:wave-1.axes.{axis}.swing", "value": 1.0} for axis in ("pan", "tilt")],
            },
        )
        values = evaluate(shot).layers["wave-1"][:, :2]
        np.testing.assert_allclose(np.hypot(values[:, 0], values[:, 1]), np.hypot(*values[0]), atol=1e-9)

    def test_a_new_seed_is_another_start(self) -> None:
        shot = edited(new_shot("Shot", seed=4), {"type": "add_layer", "source": "wave"})
        other = edited(shot, {"type": "new_seeds", "layers": ["wave-1"]})
        self.assertNotEqual(evaluate(shot).total.tolist(), evaluate(other).total.tolist())
