import json
import tracemalloc
import unittest

import numpy as np

from tools.demo.takes import _TIMES, TAKES
from zittern.core.errors import FormatError
from zittern.formats.take_file import read_take, write_take
from zittern.store.takes import take_file, take_names

TIMES = np.arange(0.0, 4.0, 0.05)
PAN = np.sin(TIMES * 3.0)


def csv_of(times: np.ndarray, **columns: np.ndarray) -> bytes:
    return write_take(times, dict(columns)).encode()


class Reading(unittest.TestCase):
    def test_there_and_back(self) -> None:
        take = read_take(csv_of(TIMES, pan_deg=PAN, zoom_percent=2 * PAN), "one")
        self.assertEqual((take.axes, round(take.rate_hz, 6)), (("pan", "zoom"), 20.0))
        np.testing.assert_allclose(take.pan.samples, PAN, atol=2e-4)

    def test_rows_in_any_order_twins_and_gaps(self) -> None:
        order = np.random.default_rng(2).permutation(len(TIMES))
        mixed = read_take(csv_of(TIMES[order], pan_deg=PAN[order]), "mixed")
        np.testing.assert_allclose(mixed.pan.samples, PAN, atol=2e-4)
        gap = read_take(csv_of(np.append(TIMES[:20], TIMES[50:]), pan_deg=np.append(PAN[:20], PAN[50:])), "gap")
        self.assertEqual(len(gap.pan.samples), len(TIMES))
        np.testing.assert_allclose(np.diff(gap.pan.samples[20:49], 2), 0.0, atol=2e-4)
        twins = read_take(b"time_s,pan_deg\n0,1\n1,5\n1,2\n2,1\n", "twins")
        np.testing.assert_allclose(twins.pan.samples, [1, 2, 1], atol=1e-3)
        holes = read_take(b"time_s,pan_deg,tilt_deg\n0,0,\n1,,3\n2,2,nan\n,9,9\n", "holes")
        np.testing.assert_allclose(holes.pan.samples, [0, 1, 2], atol=1e-3)
        np.testing.assert_allclose(holes.tilt.samples, 3.0, atol=1e-3)

    def test_a_long_file_is_read_in_a_few_times_its_own_size(self) -> None:
        times = np.arange(30_000) * 0.0002
        data = csv_of(times, pan_deg=np.sin(times), tilt_deg=np.cos(times), roll_deg=times)
        read_take(data, "once")
        tracemalloc.start()
        self.addCleanup(tracemalloc.stop)
        read_take(data, "long")
        self.assertLess(tracemalloc.get_traced_memory()[1], 5 * len(data))

    def test_what_is_faster_than_can_be_kept_does_not_come_back_slow(self) -> None:
        times = np.arange(0.0, 5.0, 1 / 1000)
        take = read_take(
            csv_of(times, pan_deg=np.sin(2 * np.pi * times), tilt_deg=np.sin(2 * np.pi * 61.0 * times)), "fast"
        )
        self.assertEqual(take.rate_hz, 60.0)
        np.testing.assert_allclose(
            take.pan.samples, np.sin(2 * np.pi * np.arange(len(take.pan.samples)) / 60), atol=0.03
        )
        self.assertLess(np.max(np.abs(take.tilt.samples[2:-2])), 0.06)

    def test_times_out_of_reach_and_steps_that_are_none(self) -> None:
        for rows in ("-1.7e308,0\n1.7e308,1", "0,0\n1.7e308,1", "-1.7e308,0\n0,1", "1e300,0\n1.0001e300,1"):
            with self.assertRaisesRegex(FormatError, "times are within"):
                read_take(f"time_s,pan_deg\n{rows}\n".encode(), "far")
        with self.assertRaisesRegex(FormatError, "two different times"):
            read_take(b"time_s,pan_deg\n0,0\n1e-310,1\n2e-310,5\n", "dense")
        dense = "".join(f"{n * 0.1},{n % 2}\n{n * 0.1 + 1e-300},{n % 3}\n" for n in range(40))
        take = read_take(b"time_s,pan_deg\n1e-310,2\n" + dense.encode(), "dense")
        self.assertTrue(np.all(np.isfinite(take.pan.samples)))

    def test_json(self) -> None:
        take = read_take(json.dumps({"time_s": TIMES.tolist(), "roll_deg": PAN.tolist()}).encode(), "json")
        np.testing.assert_allclose(take.roll.samples, PAN, atol=2e-4)

    def test_what_cannot_be_read_says_where(self) -> None:
        for data, told in (
            (b"", "line 1"),
            (b"pan_deg\n1\n", "missing column: time_s"),
            (b"time_s\n1\n", "there is no axis in it"),
            (b"time_s,pan_deg\n0,a\n", "line 2, column pan_deg: a number is expected, got 'a'"),
            (b"time_s,pan_deg\n0,1\n", "two different times"),
            (b"time_s,pan_deg\n0,1\n1e9,1\n", "the take is 1e.09 s long"),
            (b"time_s,pan_deg\n0,1e300\n1,2\n2,1\n", "values up to"),
            (b"{", "not JSON"),
            (b"[1]", "an object with a list"),
            (b'{"time_s": [0, 1], "pan_deg": [1]}', "as many as time_s has"),
            (b'{"time_s": [0, 1], "pan_deg": [1, "x"]}', r"pan_deg\[1\]: a number is expected"),
            (b'{"time_s": [0, 1], "pan_deg": [1, [2]]}', "a number is expected"),
        ):
            with self.assertRaisesRegex(FormatError, told):
                read_take(data, "bad")


class Shipped(unittest.TestCase):
    def test_the_files_are_what_the_script_makes(self) -> None:
        self.assertEqual(take_names(), sorted(TAKES))
        for name, make in TAKES.items():
            self.assertEqual(take_file(name).read_text(), write_take(_TIMES, make()), "run `make takes`")
            self.assertEqual(
                read_take(take_file(name).read_bytes(), name).axes,
                ("pan", "tilt", "roll", "truck", "pedestal", "dolly"),
            )
