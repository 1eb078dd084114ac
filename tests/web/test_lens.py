"""Through a lens that distorts: what is drawn is where the core has it."""

import json

import numpy as np
from playwright.sync_api import expect

from tests.web.filming import WithMovies, linear
from tests.web.harness import grey
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.pose import Pose
from zittern.core.motion.picture import places_px
from zittern.core.plates.coverage import uncovered_px
from zittern.core.plates.needs import needs
from zittern.core.rig import rotations
from zittern.core.shot.shot import Shot

POINTS = [(x, y) for x in (160, 480, 800) for y in (110, 270, 430)]


class Bent(WithMovies):
    def bent(self, k1: float, k2: float, **hung: int) -> tuple[str, Shot]:
        """A shot of nine white points on black, which wide lens shows bent, framed off its axis."""
        picture = np.zeros((540, 960, 3), np.uint8)
        for x, y in POINTS:
            picture[y - 5 : y + 5, x - 5 : x + 5] = 255
        slug = self.shot_of(picture, last_frame=2, **hung)
        numbers = [{"at": f"shot.{at}", "value": {"state": "fixed", "value": value}} for at, value in
                   (("focal_mm", 24.0), ("glass.k1", k1), ("glass.k2", k2), ("glass.breathing_percent", 3.0))]
        self.edit(slug, {"type": "set_values", "values": [{"at": "shot.glass", "value": {}}, *numbers]})
        self.edit(slug, {"type": "add_layer", "source": "keys"})
        layer = next(each.id for _, each in self.library().state(slug).document.layers())
        values = [{"at": f"layer:{layer}.source.tracks.{axis}", "value": {"state": "fixed", "value": value}} for axis, value in (("shift_x", 6.0), ("pan", 2.0))]
        self.edit(slug, {"type": "set_values", "values": values})
        return slug, self.library().state(slug).document

    def expected(self, shot: Shot, width: int) -> np.ndarray:
        """Where the core has the points, (N, 2) px from the left and from above."""
        (plate,) = shot.plates
        pose, scope = evaluate(shot, np.array([1.0])).pose, shot.scope(1.0)
        pose = Pose(*(np.repeat(each, len(POINTS), axis=0) for each in pose.parts))
        flat = (np.array(POINTS) / [960, 540] - 0.5) * [plate.width_m, -plate.width_m * 9 / 16]
        turn = rotations.matrices(plate.angles_deg(scope))[0]
        world = plate.position_m(scope) + np.column_stack([flat, np.zeros(len(flat))]) @ turn.T
        seen = np.einsum("fji,fj->fi", rotations.matrices(pose.angles_deg), world - pose.position_m)
        return (places_px(shot, pose, seen) * [1, -1] + [960, 540]) * width / 1920.0

    def found(self, frame: np.ndarray, near: np.ndarray) -> np.ndarray:
        """Middles of the light about some places, (N, 2)."""
        light = linear(frame)
        out = []
        for x, y in near.round().astype(int):
            part = light[y - 9 : y + 10, x - 9 : x + 10]
            rows, columns = np.mgrid[y - 9 : y + 10, x - 9 : x + 10] + 0.5
            self.assertGreater(part.sum(), 0.5, (x, y))
            out.append([np.average(columns, weights=part), np.average(rows, weights=part)])
        return np.array(out)

    def test_every_point_is_drawn_where_the_core_has_it(self) -> None:
        for k1, k2 in ((-0.25, 0.06), (0.15, 0.0)):
            slug, shot = self.bent(k1, k2)
            expected = self.expected(shot, 640)
            movie = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0]
            np.testing.assert_allclose(self.found(movie[..., 1], expected), expected, atol=0.4)
            straight = self.expected(shot.replace(glass=None), 640)
            self.assertGreater(float(np.abs(straight - expected).max()), 5.0)
            page = self.open(slug)
            page.keyboard.press("g")
            box = page.get_by_test_id("viewfinder").bounding_box()
            assert box is not None
            wide = min(box["width"], box["height"] * 16 / 9)
            clip = {"x": box["x"] + (box["width"] - wide) / 2, "y": box["y"] + (box["height"] - wide * 9 / 16) / 2,
                    "width": wide, "height": wide * 9 / 16}
            drawn = grey(page.screenshot(clip=clip))
            points = self.expected(shot, round(wide))[[4, 5, 7]]
            np.testing.assert_allclose(self.found(drawn, points), points, atol=1.0)

    def test_a_click_on_a_bent_picture_marks_what_is_seen_there(self) -> None:
        slug = "jetty-walk"
        self.edit(slug, {"type": "bend_corner", "frame": 1, "percent": -15.0})
        page = self.open(slug)
        page.locator("[data-testid=set-view][data-set=ready]").wait_for()
        box = page.get_by_test_id("viewfinder").bounding_box()
        assert box is not None
        page.keyboard.press("p")
        expect(page.get_by_text("click the point to look at").first).to_be_visible()
        place = np.array([0.22, 0.3])
        high = box["width"] * 9 / 16
        x, y = box["x"] + place[0] * box["width"], box["y"] + box["height"] / 2 + (place[1] - 0.5) * high
        page.mouse.click(x, y)
        expect(page.get_by_label("Undo: Set subject")).to_be_visible()
        shot = self.library().state(slug).document
        assert shot.subject is not None
        pose = evaluate(shot, np.array([1.0])).pose
        away = shot.subject.position_m(shot.scope(1.0)) - pose.position_m
        px = places_px(shot, pose, np.einsum("fji,fj->fi", rotations.matrices(pose.angles_deg), away))[0]
        np.testing.assert_allclose(px, (place - 0.5) * [1920, -1080], atol=4.0)

    def test_the_edge_that_shows_is_as_wide_as_is_told_and_the_fix_hides_it(self) -> None:
        slug = self.shot_of(np.full((540, 960, 3), 255, np.uint8), last_frame=2, overscan=0)
        self.edit(slug, {"type": "bend_corner", "frame": 1, "percent": -10.0})
        shot = self.library().state(slug).document
        motion = evaluate(shot)
        self.assertGreater(float(uncovered_px(shot, motion).max()), 30.0)
        drawn = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0].min(axis=2)
        # In the middle of a side the plate ends where a pinhole has the side.
        k1, f_px = motion.pose.distortion[0, 0], 35.0 / 36.0 * 640
        for line, half in ((drawn[180], 320.0), (drawn[180, ::-1], 320.0), (drawn[:, 320], 180.0)):
            self.assertAlmostEqual(float(np.argmax(line > 250)), half * -k1 * (half / f_px) ** 2, delta=1.0)
        (fix,) = (each for each in needs(shot, motion) if each.kind == "overscan")
        self.edit(slug, json.loads(fix.command.model_dump_json()))
        whole = self.pictures(slug, width_px=640, height_px=360, first_frame=1, last_frame=1)[0].min(axis=2)
        border = np.concatenate([whole[0], whole[-1], whole[:, 0], whole[:, -1]])
        self.assertGreater(int(np.min(border)), 225)
