"""Broken glTF: each gives a FormatError that says where, and nothing else."""

import json
import struct
import unittest
from collections.abc import Callable

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.formats.making import GltfMaker
from zittern.core.errors import FormatError
from zittern.core.timebase import Fps
from zittern.formats.files import no_sidecars
from zittern.formats.gltf_read import read
from zittern.formats.paths import Imported


def moving() -> GltfMaker:
    return GltfMaker({"camera": 0}).animate(0, "translation", [0, 1], [[0, 0, 0], [1, 0, 0]])


def attempt(data: bytes) -> Imported:
    return read(data, no_sidecars).read(None, Fps(num=24))


def changed(change: Callable[[dict], None]) -> bytes:  # type: ignore[type-arg]
    document = json.loads(moving().gltf())
    change(document)
    return json.dumps(document).encode()


class Containers(unittest.TestCase):
    def test_empty_foreign_and_truncated(self) -> None:
        glb = moving().glb()
        for data, pattern in (
            (b"", "empty"),
            (b"hello", "neither GLB nor glTF"),
            (b"[]", "JSON object"),
            (b"{}", "asset"),
            (glb[:10], "cut off"),
            (glb[:-8], "cut off"),
            (struct.pack("<III", 0x46546C67, 1, len(glb)) + glb[12:], "version 2 is read, got 1"),
            (glb[:12] + struct.pack("<I", 2**31) + glb[16:], "past the end"),
            (struct.pack("<III", 0x46546C67, 2, 20) + struct.pack("<II", 0, 0x004E4942), "no JSON chunk"),
        ):
            with self.subTest(pattern), self.assertRaisesRegex(FormatError, pattern):
                attempt(data)

    @settings(max_examples=120, deadline=None)
    @given(st.data())
    def test_no_damage_gives_anything_but_a_format_error(self, data: st.DataObject) -> None:
        source = bytearray(data.draw(st.sampled_from([moving().glb(), moving().gltf()])))
        for _ in range(data.draw(st.integers(1, 4))):
            source[data.draw(st.integers(0, len(source) - 1))] = data.draw(st.integers(0, 255))
        cut = data.draw(st.integers(0, len(source)))
        try:
            attempt(bytes(source[:cut] if data.draw(st.booleans()) else source))
        except FormatError as error:
            self.assertTrue(error.message)


class Contents(unittest.TestCase):
    def refused(self, change: Callable[[dict], None], pattern: str, where: str) -> None:  # type: ignore[type-arg]
        with self.assertRaisesRegex(FormatError, pattern) as caught:
            attempt(changed(change))
        self.assertIn(where, caught.exception.where)

    def test_buffers_out_of_range(self) -> None:
        self.refused(lambda d: d["bufferViews"][0].update(byteLength=9999), "past the end", "accessors[0]")
        self.refused(lambda d: d["accessors"][0].update(count=1000), "past the end", "accessors[0]")
        self.refused(lambda d: d["accessors"][1].update(byteOffset=10_000), "past the end", "accessors[1]")
        self.refused(lambda d: d["buffers"][0].update(byteLength=9999), "cut off", "buffers[0]")
        self.refused(lambda d: d["bufferViews"][0].update(buffer=7), "does not exist", "buffers[7]")
        self.refused(
            lambda d: d["accessors"][0].update(bufferView=-1), "expected at least 0", "accessors[0].bufferView"
        )

    def test_uris_that_leave_or_name_the_network(self) -> None:
        for uri in (
            "../secret.bin",
            "/etc/passwd",
            "http://example.invalid/a.bin",
            "data:text/plain,abc",
            "data:;base64,é",
        ):
            self.refused(lambda d, uri=uri: d["buffers"][0].update(uri=uri), "another file|base64", "buffers[0].uri")

    def test_numbers_that_are_none(self) -> None:
        text = moving().gltf().decode()
        for bad in ("NaN", "Infinity", "1e999"):
            with self.subTest(bad), self.assertRaisesRegex(FormatError, "finite"):
                attempt(text.replace('"yfov": 0.6', f'"yfov": {bad}').encode())
        for values in ([[0, 0, 0], [float("nan"), 0, 0]], [[0, 0, 0], [float("inf"), 0, 0]]):
            with self.assertRaisesRegex(FormatError, "not a finite number"):
                attempt(GltfMaker({"camera": 0}).animate(0, "translation", [0, 1], values).glb())

    def test_times_and_counts(self) -> None:
        for times, pattern in (([1, 0], "rise"), ([0, 0], "rise"), ([-1, 0], "rise"), ([0, 1, 2], "needed for 3 keys")):
            with self.assertRaisesRegex(FormatError, pattern):
                attempt(GltfMaker({"camera": 0}).animate(0, "translation", times, [[0, 0, 0], [1, 0, 0]]).glb())
        with self.assertRaisesRegex(FormatError, "up to 200000"):
            attempt(GltfMaker({"camera": 0}).animate(0, "translation", [0, 1e6], [[0, 0, 0], [1, 0, 0]]).glb())

    def test_pictures_that_are_none(self) -> None:
        for aspect in (5e-324, 1e-300, 1e300):
            self.refused(
                lambda d, aspect=aspect: d["cameras"][0]["perspective"].update(aspectRatio=aspect),
                "no usable picture",
                "cameras[0].perspective.aspectRatio",
            )

    def test_rotations_of_any_length_are_rotations(self) -> None:
        turned = [attempt(changed(lambda d, k=k: d["nodes"][0].update(rotation=[0, k, 0, k]))) for k in (1.0, 1e308)]
        self.assertEqual(turned[0].move, turned[1].move)

    def test_trees_and_indices(self) -> None:
        self.refused(lambda d: d["nodes"][0].update(children=[0]), "loops|two parents", "nodes[0]")
        self.refused(lambda d: d["nodes"][0].update(children=[5]), "does not exist", "nodes[0].children")
        self.refused(lambda d: d["nodes"][0].update(camera=3), "does not exist", "nodes[0].camera")
        self.refused(lambda d: d["nodes"][0].pop("camera"), "no camera", "cameras")
        self.refused(lambda d: d["animations"][0]["channels"][0].update(sampler=9), "does not exist", "animations[0]")
        self.refused(lambda d: d["nodes"][0].update(matrix=[1] * 15), "16", "nodes[0].matrix")
        self.refused(lambda d: d["nodes"][0].update(scale=[0, 1, 1]), "has zero scale", "nodes[0]")
        self.refused(lambda d: d["nodes"][0].update(rotation=[0, 0, 0, 0]), "length 0", "nodes[0].rotation")
        self.refused(lambda d: d["accessors"][1].update(type="VEC9"), "VEC3 values are expected", "accessors[1]")
        self.refused(lambda d: d["accessors"][1].update(componentType=5125), "component type 5125", "accessors[1]")
        self.refused(lambda d: d["accessors"][1].update(sparse={"count": 1}), "sparse", "accessors[1]")

    def test_two_nodes_that_are_each_others_parents(self) -> None:
        data = GltfMaker({"camera": 0, "children": [1]}, {"children": [2]}, {"children": [1]}).glb()
        with self.assertRaisesRegex(FormatError, "two parents|loops"):
            attempt(data)

    def test_lenses_nobody_can_have(self) -> None:
        for yfov in (0, -1, 3.2, 3.14159):
            with self.subTest(yfov), self.assertRaises(FormatError) as caught:
                attempt(
                    GltfMaker(
                        {"camera": 0}, cameras=({"type": "perspective", "perspective": {"yfov": yfov, "znear": 0.1}},)
                    ).glb()
                )
            self.assertIn("yfov", caught.exception.where)
