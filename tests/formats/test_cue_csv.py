import unittest

from tests.core.making import edited, shot_with
from zittern.core.errors import FormatError
from zittern.formats.cue_csv import read_cues, write_cues

SHOT = edited(
    shot_with(first_frame=11, last_frame=200),
    {
        "type": "add_cues",
        "cues": [
            {"frame": 35.25, "name": "Thud, “loud”", "strength": 0.5, "place_m": [0.1, -2, 3]},
            {"frame": 11, "name": "=1+1"},
        ],
    },
)


class Cues(unittest.TestCase):
    def test_what_was_written_is_read(self) -> None:
        text = write_cues(SHOT)
        self.assertEqual(text.splitlines()[0], "frame,time_s,name,strength,x_m,y_m,z_m")
        self.assertEqual(text.splitlines()[1], "11.0,0.000000000,'=1+1,1.0,,,")
        read = read_cues(text.encode(), SHOT)
        self.assertEqual(
            [(cue.frame, cue.name, cue.strength, cue.place_m) for cue in read],
            [(c.frame, c.name, c.strength, c.place_m) for c in SHOT.cues],
        )

    def test_what_happens_at_a_mount_is_written_with_where_that_is(self) -> None:
        on = {"type": "set_cues", "cues": ["cue-2"], "on": {"kind": "mount", "mount": "camera"}}
        shot = edited(SHOT, {"type": "set_values", "values": [{"at": "mount:camera.y_m", "value": 1.25}]}, on)
        self.assertEqual(write_cues(shot).splitlines()[1], "11.0,0.000000000,'=1+1,1.0,0.0,1.25,0.0")

    def test_names_come_back_as_they_are(self) -> None:
        names = ["'tis", "=1+1", "'=1", "''", "@home", "-2", "+", "O'Brien", '"quoted", and more']
        shot = edited(
            shot_with(),
            {"type": "add_cues", "cues": [{"frame": 10.0 + n, "name": name} for n, name in enumerate(names)]},
        )
        self.assertEqual([cue.name for cue in read_cues(write_cues(shot).encode(), shot)], names)
        self.assertEqual([cue.name for cue in read_cues(b"frame,name\n5,'tis\n6,'=x", shot)], ["'tis", "=x"])

    def test_any_order_and_times_instead_of_frames(self) -> None:
        read = read_cues(b"\xef\xbb\xbfName,Time_s\nA,1.5\n,0\n\n", SHOT)
        self.assertEqual([(cue.frame, cue.name, cue.strength) for cue in read], [(47.0, "A", 1.0), (11.0, "", 1.0)])

    def test_what_is_wrong_says_where(self) -> None:
        for text, message, where in (
            ("", "the file is empty", "line 1"),
            ("name\nA", "one of frame, time_s", "line 1"),
            ("frame\n", "no rows", "line 2"),
            ("frame,name\n5", "values expected, got", "line 2"),
            ("frame,name\n5,A,7", "values expected, got", "line 2"),
            ("frame\nx", "a number is expected", "line 2, column frame"),
            ("frame\nnan", "finite", "line 2, column frame"),
            ("frame\n1e99", "or less", "line 2, column frame"),
            ("frame,strength\n5,-1", "expected at least", "line 2, column strength"),
            ("frame,name\n5," + "x" * 61, "up to 60", "line 2, column name"),
            ("frame,x_m,y_m,z_m\n5,1e9,0,0", "or less", "line 2, column place_m[0]"),
            ("time_s,frame\n,", "no rows", "line 2"),
            ("frame\n" + "1\n" * 10_001 + "x\n", "up to 10000 cues", "line 10002"),
            ("a" * 200_000 + ",frame\n1,1", "field larger than field limit", "line 1"),
        ):
            with self.subTest(message), self.assertRaisesRegex(FormatError, message) as caught:
                read_cues(text.encode(), SHOT)
            self.assertEqual(caught.exception.where, where)
        for data in (b"\xff\xfef\0", b"frame\n\xff", b"frame\0"):
            with self.assertRaises(FormatError):
                read_cues(data, SHOT)
