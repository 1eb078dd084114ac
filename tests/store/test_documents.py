import re
import unittest
import zlib
from unittest.mock import patch

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.errors import DocumentError
from zittern.core.numbers.param import keyed
from zittern.core.shot.dials import Dial
from zittern.core.shot.upgrades import write_shot
from zittern.core.sources.take import Recording, Take, Track
from zittern.store.documents import Documents, digest_of, pack, raw, unpack


class Packing(unittest.TestCase):
    def test_what_was_packed_comes_back_smaller(self) -> None:
        shot = shot_with(*(layer(f"l{i}", seed=i) for i in range(20)))
        packed = pack(shot)
        self.assertEqual(unpack(packed), shot)
        self.assertLess(len(packed), len(shot.model_dump_json()) / 5)

    def test_the_same_take_in_eight_variants_is_kept_once(self) -> None:
        rng = np.random.default_rng(4)
        takes = [
            Take(recording=Recording(name=name, pan=Track.of(rng.normal(0.0, 1.0, 5000)), roll=Track.of(np.ones(5000))))
            for name in "ab"
        ]
        shot = shot_with(layer("one", source=takes[0]), layer("two", source=takes[1]))
        alone = len(pack(shot))
        for n in range(7):
            shot = edited(shot, {"type": "add_variant", "name": f'Other {n} "data":"*1"'})
        self.assertLess(len(pack(shot)), 1.2 * alone)
        self.assertEqual(unpack(pack(shot)), shot)

    def test_samples_that_are_named_and_not_there_are_damage(self) -> None:
        text = write_shot(shot_with(layer("one", source=Take(recording=Recording(pan=Track.of(np.ones(5000)))))))
        for number in ("*0", "*7", "*99999999999999999999"):
            told = re.sub(r'"data":"[A-Za-z0-9+/=]{256,}"', f'"data":"{number}"', text)
            with self.assertRaisesRegex(DocumentError, "name samples that are not there"):
                unpack(zlib.compress(told.encode()))

    def test_damaged_bytes_say_so(self) -> None:
        packed = pack(shot_with())
        for data, pattern in (
            (b"", "cut off"),
            (b"\x00\xff", "damaged"),
            (packed[:-6], "cut off"),
            (packed[:20] + b"zzzz" + packed[24:], "damaged"),
        ):
            with self.assertRaisesRegex(DocumentError, pattern):
                raw(data)


class Cache(unittest.TestCase):
    def test_one_object_for_equal_bytes_and_never_one_for_others(self) -> None:
        documents = Documents()
        packed = {name: pack(shot_with().replace(name=name)) for name in ("A", "B")}
        first = documents.get(packed["A"])
        self.assertIs(documents.get(bytes(packed["A"])), first)
        self.assertEqual(documents.get(packed["B"]).name, "B")
        self.assertNotEqual(digest_of(packed["A"]), digest_of(packed["B"]))

    def test_the_oldest_go_and_a_huge_one_stays_alone(self) -> None:
        documents = Documents(most_bytes=2 * 2**14)
        packed = [pack(shot_with().replace(name=f"S{i}")) for i in range(3)]
        first = documents.get(packed[0])
        documents.get(packed[1])
        documents.get(packed[2])
        self.assertIsNot(documents.get(packed[0]), first)
        small = Documents(most_bytes=1000)
        kept = small.get(packed[0])
        self.assertIs(small.get(packed[0]), kept)

    def test_what_was_just_packed_is_not_inflated_to_be_remembered(self) -> None:
        documents, shot = Documents(), shot_with()
        packed = pack(shot)
        with patch("zlib.decompressobj", side_effect=AssertionError("inflated")):
            documents.put(packed, shot)
            self.assertIs(documents.get(packed), shot)

    def test_many_keys_that_pack_well_count_by_what_they_hold(self) -> None:
        """Two thousand equal keys are a few packed kilobytes, and megabytes in memory."""
        curve = keyed(*((n, 1.0) for n in range(1, 2001)))
        long = [shot_with(dials=(Dial(name="panic", value=curve),)).replace(name=f"S{i}") for i in range(2)]
        packed = [pack(each) for each in long]
        text_bytes = len(raw(packed[0]))
        self.assertLess(len(packed[0]), text_bytes / 8)
        documents = Documents(most_bytes=int(1.5 * text_bytes))
        first = documents.get(packed[0])
        self.assertIs(documents.get(packed[0]), first)
        documents.get(packed[1])
        self.assertIsNot(documents.get(packed[0]), first)
