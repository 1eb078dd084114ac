import unittest

import numpy as np

from tests.core.making import over
from tests.formats.making import GltfMaker
from tools.demo.courier import place_m
from zittern.core.errors import FormatError
from zittern.core.shot.shot import new_shot
from zittern.formats.set_file import check_set, point_in, subject_in
from zittern.store.sets import SHIPPED

JETTY = (SHIPPED / "saltmarsh-jetty.glb").read_bytes()
SHOT = new_shot("A", last_frame=100)


class Sets(unittest.TestCase):
    def test_objects_of_a_set(self) -> None:
        names = check_set(JETTY)
        for name in ("planks", "courier", "left leg", "signal mast"):
            self.assertIn(name, names)

    def test_what_cannot_be_a_set(self) -> None:
        for data, pattern in (
            (b"", "GLB file"),
            (b"{}", "GLB file"),
            (GltfMaker({"camera": 0}).glb(), "no mesh"),
            (JETTY[:-50], "cut off"),
        ):
            with self.assertRaisesRegex(FormatError, pattern):
                check_set(data)


class Subjects(unittest.TestCase):
    def test_a_moving_object_is_followed(self) -> None:
        subject = subject_in(JETTY, "courier", SHOT)
        frames = np.arange(1.0, 101.0)
        feet = place_m((frames - 1) / 24)
        # Float32 keys of the set; a box of swinging limbs is taken at time 0, so its middle is a little off the feet.
        np.testing.assert_allclose(np.diff(subject.z_m.sample(over(frames))), np.diff(feet[:, 2]), atol=1e-5)
        np.testing.assert_allclose(subject.x_m.sample(over(frames)), feet[:, 0], atol=0.1)
        self.assertAlmostEqual(subject.height_m, 1.86, delta=0.1)

    def test_a_picked_point_is_there_at_its_frame_and_goes_along(self) -> None:
        frames = np.arange(1.0, 101.0)
        middle = subject_in(JETTY, "courier", SHOT)
        picked = middle.position_m(over(np.array([40.0])))[0] + [0.1, 0.5, 0.05]
        point = point_in(JETTY, "courier", tuple(picked.tolist()), 40, SHOT)
        np.testing.assert_allclose(point.position_m(over(np.array([40.0])))[0], picked, atol=1e-6)
        # The courier turns a little on the way, so the point keeps its distance to the middle and not its direction.
        away = np.linalg.norm(point.position_m(over(frames)) - middle.position_m(over(frames)), axis=1)
        np.testing.assert_allclose(away, away[39], atol=1e-5)
        self.assertEqual((point.name, point.object, point.height_m), ("point on courier", "courier", middle.height_m))

    def test_a_point_of_nothing(self) -> None:
        with self.assertRaisesRegex(FormatError, "no object 'whale'"):
            point_in(JETTY, "whale", (0.0, 0.0, 0.0), 1, SHOT)

    def test_a_still_one_is_fixed(self) -> None:
        subject = subject_in(JETTY, "signal mast", SHOT)
        self.assertIsNotNone(subject.z_m.constant)
        self.assertAlmostEqual(subject.z_m.constant or 0, -19.0, delta=1.5)

    def test_one_out_of_reach(self) -> None:
        maker = GltfMaker({"name": "star", "mesh": 0, "translation": [1e12, 0, 0]}, cameras=())
        maker.json["meshes"] = [
            {"primitives": [{"attributes": {"POSITION": maker.accessor([[0, 0, 0], [1, 1, 1], [1, 0, 1]], "VEC3")}}]}
        ]
        maker.accessors[0].update(min=[0, 0, 0], max=[1, 1, 1])
        with self.assertRaisesRegex(FormatError, "'star' cannot be a subject: expected -") as caught:
            subject_in(maker.glb(), "star", SHOT)
        self.assertEqual(caught.exception.where, "subject.x_m")

    def test_one_that_is_not_there(self) -> None:
        with self.assertRaisesRegex(FormatError, "no object 'whale'"):
            subject_in(JETTY, "whale", SHOT)


class Lying(unittest.TestCase):
    def test_an_object_on_its_side_is_as_high_as_it_lies(self) -> None:
        half = 0.5**0.5
        for rotation, height in (([0, 0, 0, 1], 3.0), ([0, 0, half, half], 1.0), ([half, 0, 0, half], 0.5)):
            maker = GltfMaker({"name": "crate", "mesh": 0, "rotation": rotation}, cameras=())
            maker.json["meshes"] = [
                {"primitives": [{"attributes": {"POSITION": maker.accessor([[0, 0, 0], [1, 3, 0.5]], "VEC3")}}]}
            ]
            maker.accessors[-1] |= {"min": [0, 0, 0], "max": [1, 3, 0.5]}
            self.assertAlmostEqual(subject_in(maker.glb(), "crate", SHOT).height_m, height, places=5)


class LongChains(unittest.TestCase):
    """Trees as deep as somebody cares to write, read in one pass."""

    def test_a_deep_one_is_a_set_and_has_a_subject(self) -> None:
        count = 4000
        nodes = [{"name": f"n{i}", "children": [i + 1], "translation": [0.001, 0, 0]} for i in range(count - 1)]
        maker = GltfMaker(*nodes, {"name": "tip", "mesh": 0}, cameras=())
        maker.json["meshes"] = [
            {"primitives": [{"attributes": {"POSITION": maker.accessor([[0, 0, 0], [1, 1, 1], [1, 0, 1]], "VEC3")}}]}
        ]
        maker.accessors[-1] |= {"min": [0, 0, 0], "max": [1, 1, 1]}
        data = maker.glb()
        self.assertEqual(len(check_set(data)), count)
        self.assertAlmostEqual(subject_in(data, "tip", SHOT).x_m.constant or 0, 0.001 * (count - 1) + 0.5, places=6)
        self.assertAlmostEqual(subject_in(data, "n0", SHOT).x_m.constant or 0, 0.001 * (count - 1) + 0.5, places=6)
