import unittest

from tests.core.making import layer, shot_with
from zittern.store.documents import Documents, pack, unpack


class Packing(unittest.TestCase):
    def test_what_was_packed_comes_back_smaller(self) -> None:
        shot = shot_with(*(layer(f"l{i}", seed=i) for i in range(20)))
        packed = pack(shot)
        self.assertEqual(unpack(packed), shot)
        self.assertLess(len(packed), len(shot.model_dump_json()) / 5)


class Cache(unittest.TestCase):
    def test_one_object_a_revision_and_the_oldest_go(self) -> None:
        documents = Documents(most=2)
        packed = {i: pack(shot_with().replace(name=f"S{i}")) for i in range(3)}
        first = documents.get(0, packed[0])
        self.assertIs(documents.get(0, b"never read"), first)
        documents.get(1, packed[1])
        documents.get(2, packed[2])
        self.assertIsNot(documents.get(0, packed[0]), first)
        self.assertEqual(documents.get(0, packed[0]), first)
