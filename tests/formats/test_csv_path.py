import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.axes import axis_index
from zittern.core.edits.moves import ReplaceMove
from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.glass import Glass
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.timebase import Fps, frame_grid
from zittern.formats.csv_path import COLUMNS, read
from zittern.formats.files import no_sidecars
from zittern.formats.opening import open_shot
from zittern.formats.table import written

HEADER = ",".join(COLUMNS)
FPS = Fps(num=24)


def shot_of(data: bytes | str, fps: Fps = FPS) -> Shot:
    file = read(data.encode() if isinstance(data, str) else data, no_sidecars)
    return ReplaceMove(move=file.read(None, fps).move, name="x").apply(new_shot("Test", fps=fps))


def motion_of(data: bytes | str, **more: Fps) -> Motion:
    return evaluate(shot_of(data, **more))


class Writing(unittest.TestCase):
    def test_header_and_rows(self) -> None:
        shot = new_shot("A", last_frame=2, fps=25)
        lines = written("csv", shot, evaluate(shot)).decode().splitlines()
        self.assertEqual(lines[0], "frame,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm")
        self.assertEqual(
            lines[2],
            "2,0.040000000,0.000000000,1.600000000,0.000000000,0.000000000,0.000000000,0.000000000,35.000000000",
        )

    def test_reading_back_gives_the_same_poses(self) -> None:
        spin = (
            Mount(
                id="camera",
                name="Camera",
                pan_deg=keyed((1001, 0.0), (1100, 800.0)),
                z_m=keyed((1001, 0.0), (1100, -9.0)),
            ),
        )
        shot = shot_with(layer(), mounts=spin, first_frame=1001, last_frame=1100, fps=Fps(num=24000, den=1001))
        motion = evaluate(shot)
        again = shot_of(written("csv", shot, motion), shot.fps)
        self.assertEqual((again.first_frame, again.last_frame), (1, 100))
        got = evaluate(again)
        np.testing.assert_allclose(got.pose.position_m, motion.pose.position_m, atol=1e-8)
        np.testing.assert_allclose(got.pose.angles_deg, motion.pose.angles_deg, atol=1e-8)
        np.testing.assert_allclose(got.pose.focal_mm, motion.pose.focal_mm, atol=1e-8)

    def test_shifts_come_in_columns_of_their_own_on_wish(self) -> None:
        shot = shot_with(layer(swings={"shift_x": 4.0, "shift_y": 2.0, "pan": 1.0}), last_frame=30)
        motion = evaluate(shot)
        plain, more = (written(name, shot, motion).decode().splitlines() for name in ("csv", "csv-shift"))
        self.assertEqual(more[0], f"{plain[0]},shift_x_percent,shift_y_percent")
        self.assertEqual([line.rsplit(",", 2)[0] for line in more[1:]], plain[1:])
        told = np.array([line.split(",")[-2:] for line in more[1:]], dtype=np.float64)
        np.testing.assert_allclose(told, motion.pose.shift_percent, atol=1e-9)
        again = read("\n".join(more).encode(), no_sidecars)
        self.assertEqual(again.notices, ("columns left out: shift_x_percent, shift_y_percent",))

    def test_distortion_and_focus_follow_the_shifts_on_wish(self) -> None:
        glass = Glass(k1=keyed((1, -0.1), (30, 0.2)), k2=fixed(0.05), focus_m=fixed(2.0))
        shot = shot_with(layer(swings={"shift_x": 4.0, "focus": 10.0}), glass=glass, last_frame=30)
        motion = evaluate(shot)
        shifted, more = (written(name, shot, motion).decode().splitlines() for name in ("csv-shift", "csv-lens"))
        self.assertEqual(more[0], f"{shifted[0]},k1,k2,focus_m")
        self.assertEqual([line.rsplit(",", 3)[0] for line in more[1:]], shifted[1:])
        told = np.array([line.split(",")[-3:] for line in more[1:]], dtype=np.float64)
        np.testing.assert_allclose(told[[0, -1], :2], [[-0.1, 0.05], [0.2, 0.05]], atol=1e-9)
        np.testing.assert_allclose(told[:, :2], motion.pose.distortion, atol=1e-9)
        np.testing.assert_allclose(told[:, 2], 2.0 * (1.0 + motion.total[:, axis_index("focus")] / 100.0), atol=1e-9)

    def test_sub_frames(self) -> None:
        shot = shot_with(layer(), last_frame=10)
        half = written("csv", shot, evaluate(shot, frame_grid(1, 10, 0.5)))
        self.assertEqual(half.decode().splitlines()[2].split(",")[0], "1.5")
        np.testing.assert_allclose(motion_of(half).pose.position_m, evaluate(shot).pose.position_m, atol=1e-8)


class Reading(unittest.TestCase):
    def test_any_order_and_missing_angles(self) -> None:
        motion = motion_of("z_m,time_s,x_m,y_m\n3,0,1,2\n3,1,2,2\n")
        np.testing.assert_allclose(motion.pose.position_m[[0, 24]], [[1, 2, 3], [2, 2, 3]])
        np.testing.assert_array_equal(motion.pose.angles_deg, 0)
        self.assertEqual((len(motion.frames), motion.pose.focal_mm[0]), (25, 35.0))

    def test_frames_count_from_the_first_row_when_there_are_no_times(self) -> None:
        motion = motion_of("frame,x_m,y_m,z_m\n1001,0,0,0\n1003,2,0,0\n")
        np.testing.assert_allclose(motion.pose.position_m[:, 0], [0, 1, 2])

    def test_the_rate_and_the_first_frame_are_what_the_file_says(self) -> None:
        for fps in ("24", "30", "60", "24000/1001", "30000/1001", "12.5", "48", "1000"):
            for digits in (9, 5):
                rate = Fps.model_validate(fps)
                rows = [f"{1001 + n},{n / rate.value:.{digits}f},{0.01 * n**2:.6f},0,0" for n in range(150)]
                data = ("frame,time_s,x_m,y_m,z_m\n" + "\n".join(rows)).encode()
                shot = open_shot("crane_up.csv", data, no_sidecars, None, None).shot
                if digits == 9 or rate.value < 500:
                    self.assertEqual((shot.fps, shot.first_frame, shot.last_frame), (rate, 1001, 1150), fps)
                    frames = np.arange(1001.0, 1151.0)
                    np.testing.assert_allclose(
                        evaluate(shot, frames).pose.position_m[:, 0],
                        0.01 * np.arange(150.0) ** 2,
                        atol=1e-6,
                        err_msg=fps,
                    )
                self.assertEqual(shot.name, "crane_up")

    def test_a_rate_that_is_asked_for_wins_and_without_one_it_is_24(self) -> None:
        both = b"frame,time_s,x_m,y_m,z_m\n101,5,0,0,0\n131,6,1,0,0\n"
        shot = open_shot("a.csv", both, no_sidecars, None, Fps(num=24)).shot
        self.assertEqual((shot.fps.num, shot.first_frame, shot.last_frame), (24, 101, 125))
        only_frames = open_shot("a.csv", b"frame,x_m,y_m,z_m\n7,0,0,0\n17,1,0,0\n", no_sidecars, None, None).shot
        self.assertEqual((only_frames.fps.num, only_frames.first_frame, only_frames.last_frame), (24, 7, 17))
        only_times = open_shot("a.csv", b"time_s,x_m,y_m,z_m\n0,0,0,0\n1,1,0,0\n", no_sidecars, None, None).shot
        self.assertEqual((only_times.fps.num, only_times.first_frame, only_times.last_frame), (24, 1, 25))

    def test_what_was_baked_comes_back_whatever_its_rate_and_first_frame(self) -> None:
        shot = shot_with(layer(), fps="30000/1001", first_frame=86, last_frame=200)
        motion = evaluate(shot)
        back = open_shot("b.csv", written("csv", shot, motion), no_sidecars, None, None).shot
        self.assertEqual((back.fps, back.first_frame, back.last_frame), (shot.fps, 86, 200))
        np.testing.assert_allclose(evaluate(back).pose.position_m, motion.pose.position_m, atol=1e-8)

    def test_times_off_the_frames_keep_their_corners(self) -> None:
        shot = shot_of("time_s,x_m,y_m,z_m\n0,0,0,0\n0.06,6,0,0\n0.125,0,0,0\n")
        corner = evaluate(shot, np.array([1 + 0.06 * 24])).pose.position_m[0, 0]
        self.assertAlmostEqual(corner, 6.0, places=9)

    def test_angles_are_unwrapped(self) -> None:
        pan = motion_of("frame,x_m,y_m,z_m,pan_deg\n1,0,0,0,179\n2,0,0,0,-179\n3,0,0,0,-177\n").pose.angles_deg[:, 0]
        np.testing.assert_allclose(pan, [179, 181, 183])

    def test_windows_line_ends_blank_lines_spaces_and_a_utf8_mark(self) -> None:
        motion = motion_of(b"\xef\xbb\xbfframe, X_M ,y_m,z_m\r\n1, 5 ,0,0\r\n\r\n2,6,0,0\r\n")
        np.testing.assert_allclose(motion.pose.position_m[:, 0], [5, 6])

    def test_other_columns_are_named_in_a_notice(self) -> None:
        self.assertIn("mood", read(b"frame,x_m,y_m,z_m,mood\n1,0,0,0,calm\n", no_sidecars).notices[0])

    def test_one_row_is_a_still_camera(self) -> None:
        self.assertEqual(shot_of("frame,x_m,y_m,z_m\n7,1,2,3\n").last_frame, 1)


class Refusals(unittest.TestCase):
    def test_each_says_what_and_where(self) -> None:
        good = "frame,x_m,y_m,z_m\n"
        for data, pattern, where in (
            (b"", "empty", "line 1"),
            (b" \n \n", "empty", "line 1"),
            (good.encode(), "no rows", "line 2"),
            (good + "1,0,0,nan\n", "finite number", "line 2, column z_m"),
            (good + "1,0,0,0\n2,inf,0,0\n", "finite number", "line 3, column x_m"),
            (good + "1,0,0,1e9\n", "expected -1000000 to", "column z_m"),
            (good + "2,0,0,0\n1,0,0,0\n", "rises from row to row", "line 3, column frame"),
            (good + "1,0,0,0\n1,0,0,0\n", "rises from row to row", "line 3"),
            (good + "1,0,0\n", "4 values expected, got 3", "line 2"),
            (good + "1,0,0,0,0\n", "4 values expected, got 5", "line 2"),
            (good + "1,a,0,0\n", "number is expected, got 'a'", "line 2, column x_m"),
            (good + "1,1_0,0,0\n", "number is expected", "line 2, column x_m"),
            ("frame,x_m,y_m\n1,0,0\n", "missing columns: z_m", "line 1"),
            ("x_m,y_m,z_m\n0,0,0\n", "one of frame, time_s", "line 1"),
            ("frame;x_m;y_m;z_m\n1;0;0;0\n", "found semicolons", "line 1"),
            ("frame\tx_m\ty_m\tz_m\n", "found tabs", "line 1"),
            ("frame,x_m,x_m,y_m,z_m\n", "'x_m' is there twice", "line 1"),
            ("time_s,x_m,y_m,z_m\n-1,0,0,0\n", "expected 0 to", "column time_s"),
            ("frame,x_m,y_m,z_m,focal_mm\n1,0,0,0,0\n", "expected 1 to 10000", "column focal_mm"),
            ("frame,x_m,y_m,z_m\n1,0,0,0\n".encode("utf-16"), "UTF-16", "line 1"),
            (b"frame,x_m,y_m,z_m\n1,0,0,\xff\n", "not UTF-8", "line 2"),
            (b"frame,x_m,y_m,z_m\n1,0,0,\0\n", "zero bytes", "line 2"),
        ):
            with self.subTest(pattern), self.assertRaisesRegex(FormatError, pattern) as caught:
                shot_of(data)
            self.assertIn(where, caught.exception.where)

    def test_a_path_longer_than_a_shot_can_be(self) -> None:
        with self.assertRaisesRegex(FormatError, "up to 200000"):
            shot_of("time_s,x_m,y_m,z_m\n0,0,0,0\n9999999,1,0,0\n")
