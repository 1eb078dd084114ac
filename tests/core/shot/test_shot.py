import unittest

from pydantic import ValidationError

from tests.core.making import layer, shot_with
from zittern.core.errors import DocumentError
from zittern.core.shot.layers import AxisBoard, AxisSetting
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import new_shot


class Defaults(unittest.TestCase):
    def test_the_contract(self) -> None:
        shot = new_shot("A")
        self.assertEqual(
            (shot.first_frame, shot.fps.num, shot.picture.width_px, shot.picture.height_px), (1, 24, 1920, 1080)
        )
        self.assertEqual((shot.sensor_mm, shot.focal_mm.constant), (36.0, 35.0))


class Refusals(unittest.TestCase):
    def refused(self, pattern: str, **fields: object) -> None:
        with self.assertRaisesRegex(ValidationError, pattern):
            new_shot("A", **fields)

    def test_ranges(self) -> None:
        self.refused("comes before the first", first_frame=10, last_frame=9)
        self.refused("up to 1000000 frames", last_frame=2_000_000)
        self.refused("greater than or equal to 16", picture={"width_px": 2, "height_px": 1080})
        self.refused("expected 1 to 10000", focal_mm=0.0)
        self.refused("finite", sensor_mm=float("nan"))

    def test_unknown_fields(self) -> None:
        self.refused("Extra inputs", lens_flare=True)

    def test_ids_are_unique_and_targets_exist(self) -> None:
        camera = Mount(id="camera", name="Camera")
        self.refused("two of the mounts", mounts=(camera, camera))
        with self.assertRaisesRegex(ValidationError, "two of the layers"):
            shot_with(layer("a"), layer("a"))
        with self.assertRaisesRegex(
            ValidationError, r"lanes\[0\].clips\[0\].layers\[0\].target names the mount 'gone'"
        ):
            shot_with(layer(target="gone"))

    def test_spans_and_ramps(self) -> None:
        with self.assertRaisesRegex(ValidationError, "ends at or after its start"):
            layer(span_frames=(20, 10))
        with self.assertRaisesRegex(ValidationError, "ramps take 12 frames, but the span has only 10;"):
            layer(span_frames=(10, 20), ramp_in_frames=6, ramp_out_frames=6)

    def test_swings_have_limits_of_their_axis(self) -> None:
        with self.assertRaisesRegex(ValidationError, "tilt swings by up to 90 deg"):
            AxisBoard.swings(tilt=91.0)
        with self.assertRaisesRegex(ValidationError, "expected 0 to 100000"):
            AxisBoard.swings(pan=-1.0)

    def test_links(self) -> None:
        with self.assertRaisesRegex(ValidationError, "linked to itself"):
            AxisBoard(pan=AxisSetting(linked_to="pan"))
        with self.assertRaisesRegex(ValidationError, "linked itself"):
            AxisBoard(pan=AxisSetting(linked_to="tilt"), tilt=AxisSetting(linked_to="roll"))


class Documents(unittest.TestCase):
    def test_replace_checks_and_shares(self) -> None:
        shot = shot_with(layer())
        renamed = shot.replace(name="B")
        self.assertIs(renamed.lanes[0].clips[0], shot.lanes[0].clips[0])
        self.assertEqual(shot.name, "Test")
        with self.assertRaisesRegex(DocumentError, "sensor_mm"):
            shot.replace(sensor_mm=-1.0)

    def test_fingerprint_follows_the_content(self) -> None:
        shot = shot_with(layer())
        self.assertEqual(shot.fingerprint, shot_with(layer()).fingerprint)
        self.assertNotEqual(shot.fingerprint, shot.replace(name="B").fingerprint)

    def test_frozen(self) -> None:
        with self.assertRaises(ValidationError):
            shot_with().name = "B"  # type: ignore[misc]
