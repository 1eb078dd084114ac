import unittest

from zittern.core.axes import AXIS_INFO
from zittern.core.edits.table import COMMANDS, limits
from zittern.core.edits.titles import field_title
from zittern.core.numbers.param import Number
from zittern.core.shot import forms
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.mounts import MOVE_FIELDS, Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.rides import Ride
from zittern.core.shot.springs import Springs


def numbers(model: type) -> set[str]:
    """Names of the fields of a document that hold one number."""
    return {name for name, info in model.model_fields.items() if isinstance(info.default, Number)}  # type: ignore[attr-defined]


class Tables(unittest.TestCase):
    def test_every_number_of_layers_clips_and_mounts_is_shown(self) -> None:
        for model, table in (
            (Layer, forms.LAYER),
            (Clip, forms.CLIP),
            (Mount, (*forms.MOVE, *forms.MOUNT)),
            (Ride, (*forms.RIDE, *forms.MOVE)),
        ):
            self.assertLessEqual(numbers(model), {look.field for look in table}, model)

    def test_every_field_of_what_is_on_a_mount_is_shown_with_its_limits(self) -> None:
        for model, table in ((Springs, forms.SPRINGS), (Operator, forms.OPERATOR), (HoldFraming, forms.HOLD)):
            # What is followed has a form of its own.
            shown = set(model.model_fields) - {"target", "changes"}
            self.assertEqual({look.field for look in table}, shown, model)
        plain = {look.field: (look.least, look.most) for look in forms.OPERATOR if look.kind == "plain"}
        self.assertEqual((plain["reaction_s"], plain["pan_slack_percent"]), ((0.0, 3.0), (0.0, 45.0)))

    def test_the_move_is_in_the_order_of_the_columns_of_poses(self) -> None:
        self.assertEqual([look.field for look in forms.MOVE], [*MOVE_FIELDS, "focal_mm"])

    def test_swings_reach_as_far_as_their_axes(self) -> None:
        of_axes = [look for look in forms.LAYER if look.axis]
        swings, paces = ([look for look in of_axes if look.field.endswith(field)] for field in ("swing", "pace"))
        self.assertEqual(
            [(look.ink, look.most, look.unit) for look in swings],
            [(info.name, info.most_swing, info.sign) for info in AXIS_INFO],
        )
        self.assertEqual([look.ink for look in paces], [info.name for info in AXIS_INFO])
        self.assertEqual(len(of_axes), len(swings) + len(paces))

    def test_names_in_sentences(self) -> None:
        self.assertEqual(
            [field_title(each) for each in ("y_m", "focal_mm", "weight", "steady")],
            ["camera height", "focal length", "weight", "steady on screen"],
        )


class Limits(unittest.TestCase):
    def test_of_commands(self) -> None:
        found = limits()
        self.assertEqual(
            (found["set_axis_rate.rate_hz"], found["scale_swings.factor"]), ((0.001, 500.0), (0.0, 1000.0))
        )
        kinds = set(COMMANDS)
        self.assertEqual((len(kinds), {name.partition(".")[0] for name in found} <= kinds), (len(COMMANDS), True))
