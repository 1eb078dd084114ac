import unittest

import numpy as np

from tests.formats.making import GltfMaker
from zittern.core.errors import FormatError
from zittern.core.shot.shot import new_shot
from zittern.formats import gltf_file
from zittern.formats.files import no_sidecars
from zittern.formats.set_file import subject_in
from zittern.formats.set_meshes import pieces_of
from zittern.store.sets import SHIPPED

JETTY = (SHIPPED / "saltmarsh-jetty.glb").read_bytes()
SQUARE = [[0.0, 0.0, 0.0], [2.0, 0.0, 0.0], [2.0, 1.0, 0.0], [0.0, 1.0, 0.0]]


def one_mesh(indices: list[int] | None, component: str = "<u2", **primitive: object) -> GltfMaker:
    maker = GltfMaker({"name": "hall", "children": [1], "translation": [0.0, 3.0, 0.0]}, {"name": "wall", "mesh": 0})
    part: dict[str, object] = {"attributes": {"POSITION": maker.accessor(SQUARE, "VEC3")}, **primitive}
    if indices is not None:
        part["indices"] = maker.accessor(indices, "SCALAR", component)
    maker.json["meshes"] = [{"primitives": [part]}]
    return maker


class Shipped(unittest.TestCase):
    def test_every_triangle_is_there_within_the_bounds_that_the_file_announces(self) -> None:
        gltf = gltf_file.load(JETTY, no_sidecars)
        counts = [
            gltf.json.accessors[part.indices if part.indices is not None else part.attributes["POSITION"]].count // 3
            for node in gltf.json.nodes
            if node.mesh is not None
            for part in gltf.json.meshes[node.mesh].primitives
        ]
        found = pieces_of(JETTY)
        self.assertEqual((sum(len(piece.triangles_m) for piece in found.pieces), found.left_out), (sum(counts), 0))
        self.assertTrue(all(np.all(np.isfinite(piece.triangles_m)) for piece in found.pieces))

    def test_what_moves_goes_where_the_object_goes(self) -> None:
        shot = new_shot("A", last_frame=100)
        coat = next(piece for piece in pieces_of(JETTY).pieces if "coat" in piece.names)
        assert coat.world_at is not None
        self.assertEqual((coat.name, coat.names), ("courier", frozenset({"courier", "coat"})))
        seconds = np.linspace(0.0, 4.0, 20)
        subject = subject_in(JETTY, "courier", shot).position_m(shot.scope(1.0 + 24.0 * seconds))
        way = coat.world_at(seconds)[:, :3, 3]
        np.testing.assert_allclose(way - way[0], subject - subject[0], atol=0.15)


class Made(unittest.TestCase):
    def test_still_nodes_stand_in_the_world_with_and_without_indices(self) -> None:
        for component in ("<u1", "<u2", "<u4"):
            (piece,) = pieces_of(one_mesh([0, 1, 2, 0, 2, 3], component).glb()).pieces
            np.testing.assert_allclose(piece.triangles_m[1], np.array(SQUARE)[[0, 2, 3]] + [0.0, 3.0, 0.0])
            self.assertEqual((piece.name, piece.names), ("hall", frozenset({"hall", "wall"})))
        self.assertEqual(len(pieces_of(one_mesh(None).glb()).pieces[0].triangles_m), 1)

    def test_what_is_no_triangle_is_passed_over_and_what_is_wrong_has_its_place(self) -> None:
        self.assertEqual(pieces_of(one_mesh([0, 1], mode=1).glb()).pieces, ())
        for maker, pattern in (
            (one_mesh([0, 1, 9]), r"indices: an index refers to item 9 of 4"),
            (one_mesh([0, 1, 2], "<f4"), "unsigned whole numbers"),
        ):
            with self.assertRaisesRegex(FormatError, pattern):
                pieces_of(maker.glb())
