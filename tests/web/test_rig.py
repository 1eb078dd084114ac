"""The rig on the page: mounts put in, keyed, moved about without moving the picture, springs, an operator, rides,
poses, steps, takes.
"""

import re

import numpy as np
from playwright.sync_api import expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.shot import Shot
from zittern.formats.set_file import poses_from
from zittern.store.sets import SHIPPED

SHOT = "jetty-walk"


class Rig(WithPage):
    def shot(self, slug: str = SHOT) -> Shot:
        return self.library().state(slug).document

    def add(self, what: str) -> None:
        self.page.get_by_label("Add to the rig").first.click()
        self.page.get_by_role("menuitem", name=what, exact=True).click()
        settled(self.page)

    def choose(self, mount: str, part: str) -> None:
        self.page.locator(f"[data-mount='{mount}'] button").first.click()
        self.page.get_by_role("tab", name=part).click()

    def picture(self) -> bytes:
        settled(self.page)
        return self.page.get_by_test_id("viewfinder").screenshot()

    def test_three_mounts_each_keyed_and_one_put_between_without_moving_the_picture(self) -> None:
        page = self.open(SHOT)
        self.add("arm")
        self.add("head")
        self.assertEqual([mount.name for mount in self.shot().mounts], ["Camera", "Arm", "Head"])
        page.get_by_label("key every change").check()
        for mount, field, px in (("arm", "Move pan", 30), ("head", "Move tilt", -40)):
            self.choose(mount, "pose")
            for frame, by in ((40, px), (120, -px)):
                self.go_to(frame)
                self.drag(field, by)
            expect(page.locator(f"[data-mount={mount}] [data-pin]")).to_have_count(2)
        self.go_to(90)
        before, pose = self.picture(), self.pose()
        self.choose("arm", "rig")
        self.add("free")
        self.assertEqual([mount.name for mount in self.shot().mounts], ["Camera", "Arm", "Mount", "Head"])
        np.testing.assert_allclose(self.pose(), pose, atol=1e-6)
        self.assertEqual(self.picture(), before)
        self.choose("free", "rig")
        page.get_by_label("Remove this mount").click()
        page.get_by_role("menuitem", name="keep the picture").click()
        settled(page)
        self.assertEqual(self.picture(), before)
        self.assertEqual(len(self.shot().mounts), 3)
        page.get_by_label("Freeze Arm").click()
        settled(page)
        self.assertGreater(np.abs(self.pose() - pose).max(), 0.5)

    def test_what_would_move_the_picture_is_refused_and_offered_as_keys(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+R")
        self.choose("camera", "rig")
        pose = self.pose()
        back = page.get_by_role("spinbutton", name="pivot back")
        back.press("Enter")
        page.get_by_label("pivot back").fill("0.3")
        page.get_by_label("pivot back").press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("this would change the picture")
        page.get_by_role("button", name="Bake every frame").click()
        expect(page.get_by_label("Undo: Move pivot of “Camera”")).to_be_visible()
        settled(page)
        np.testing.assert_allclose(self.pose(), pose, atol=1e-5)
        self.assertEqual(self.shot().mounts[0].pivot_m, (0.0, 0.0, 0.3))

    def test_an_operator_follows_and_its_reaction_is_changed_while_it_plays(self) -> None:
        page = self.open("kite-pass")
        page.keyboard.press("Shift+R")
        self.choose("shoulder", "operator")
        expect(page.get_by_test_id("framing")).to_contain_text("reaction time 6.7 f")
        self.go_to(80)
        pose = self.pose()
        page.keyboard.press("Space")
        self.drag("reaction", 60)
        expect(page.get_by_test_id("framing")).to_contain_text("reaction time 13.9 f")
        page.keyboard.press("Space")
        self.assertAlmostEqual(self.shot("kite-pass").mounts[1].operator.reaction_s, 0.58,
            places=6)  # type: ignore[union-attr]
        self.go_to(80)
        self.assertGreater(abs(self.pose()[3] - pose[3]), 1.0)
        mark = page.get_by_label("Place of the subject on screen", exact=True)
        box = mark.bounding_box()
        assert box is not None
        self.pull((box["x"] + 13, box["y"] + 13), (box["x"] + 113, box["y"] + 13))
        settled(page)
        across = self.shot("kite-pass").mounts[1].operator.across_percent  # type: ignore[union-attr]
        self.assertEqual(len(across.curve.keys), 6)  # type: ignore[union-attr]
        page.get_by_role("button", name="Bake to keys").click()
        settled(page)
        self.assertIsNone(self.shot("kite-pass").mounts[1].operator)
        self.assertGreater(page.locator("[data-mount=shoulder] [data-pin]").count(), 4)

    def test_something_else_is_followed_from_a_frame_on(self) -> None:
        page = self.open("kite-pass")
        page.keyboard.press("Shift+R")
        self.choose("shoulder", "operator")
        first = f"mount:{self.shot('kite-pass').mounts[0].id}"
        page.get_by_label("Target", exact=True).select_option(first)
        settled(page)
        page.get_by_label("Target", exact=True).select_option("subject")
        settled(page)
        page.get_by_label("Target, middle of it and").select_option(label="kite")
        settled(page)
        operator = self.shot("kite-pass").mounts[1].operator
        assert operator is not None
        self.assertEqual(operator.target.kind, "middle")
        self.go_to(41)
        before = self.pose()
        page.get_by_role("button", name="Other from frame 41").click()
        settled(page)
        page.get_by_label("Target from frame 41", exact=True).select_option(first)
        settled(page)
        self.assertEqual([change.frame for change in self.shot("kite-pass").mounts[1].operator.changes], [41.0])  # type: ignore[union-attr]
        np.testing.assert_allclose(self.pose(), before, atol=1e-4, err_msg="he reacts late")
        page.get_by_role("button", name="Keep the target at frame 41").click()
        settled(page)
        self.assertEqual(self.shot("kite-pass").mounts[1].operator.changes, ())  # type: ignore[union-attr]

    def test_springs_hold_and_what_moves_the_picture(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+G")
        expect(page.get_by_role("region", name="Springs")).to_contain_text("frequency")
        settled(page)
        page.get_by_label("rotation springs").uncheck()
        settled(page)
        springs = self.shot().mounts[0].springs
        assert springs is not None
        self.assertEqual((springs.shift, springs.turn), (True, False))
        page.keyboard.press("Shift+H")
        settled(page)
        self.assertIsNotNone(self.shot().hold)
        self.go_to(90)
        bar = page.get_by_label("Parts that move the picture at this frame")
        expect(bar.get_by_label("Camera")).to_be_visible()

    def test_a_ride_and_poses_copied_and_pasted(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("Shift+R")
        self.choose("camera", "ride")
        page.get_by_role("region", name="Ride").get_by_role("combobox").select_option("courier")
        settled(page)
        ride = self.shot().mounts[0].ride
        assert ride is not None
        self.assertEqual(ride.object, "courier")
        rides = page.get_by_role("region", name="Ride").get_by_role("combobox")
        rides.select_option("nothing")
        settled(page)
        subject = self.shot().subject
        assert subject is not None
        rides.select_option(label=f"{subject.name} (the subject)")
        expect(page.get_by_label(f"Undo: Ride on “{subject.name}”")).to_be_visible()
        settled(page)
        ride = self.shot().mounts[0].ride
        assert ride is not None
        self.assertEqual((ride.object, ride.x_m), (subject.name, subject.x_m))
        expect(page.get_by_role("region", name="Ride").get_by_role("alert")).to_have_count(0)
        rides.select_option("nothing")
        settled(page)
        self.choose("camera", "rig")
        page.get_by_label("Copy pose from …").click()
        page.get_by_role("menuitem", name="object “kite”").click()
        expect(page.get_by_role("status").filter(has_text="Copied: pose of kite")).to_be_visible()
        self.go_to(60)
        page.get_by_role("button", name="Paste here").click()
        settled(page)
        np.testing.assert_allclose(self.pose()[:3], [-16.0, 20.0, -75.0], atol=5.0)
        self.assertIn(60.0, [key.frame for key in self.shot().mounts[0].x_m.curve.keys])  # type: ignore[union-attr]

    def test_a_pose_is_kept_and_another_mount_followed_over_the_loop_range(self) -> None:
        page = self.open(SHOT)
        self.add("head")
        ruler = page.get_by_test_id("ruler").bounding_box()
        assert ruler is not None
        page.keyboard.down("Shift")
        self.pull((ruler["x"] + ruler["width"] * 0.3, ruler["y"] + 10), (ruler["x"] + ruler["width"] * 0.4, ruler["y"] + 10))
        page.keyboard.up("Shift")
        first, last = map(int, page.get_by_role("button", name=re.compile(r"^\d+–\d+$")).inner_text().split("–"))
        self.choose("camera", "rig")
        page.get_by_label("Copy pose from …").click()
        page.get_by_role("menuitem", name="object “kite”").click()
        page.get_by_role("button", name="Paste over loop range").click()
        settled(page)
        within = slice(first - 1, last)
        place = evaluate(self.shot()).rig["camera"][within, :3, 3]
        np.testing.assert_allclose(place, place[[0]] + np.zeros_like(place), atol=1e-6)
        self.choose("head", "rig")
        page.get_by_label("Match pose of …").click()
        page.get_by_role("menuitem", name="object “courier”").click()
        expect(page.get_by_label("Undo: Paste pose on “Head”")).to_be_visible()
        settled(page)
        motion = evaluate(self.shot())
        shot = self.shot()
        data = (SHIPPED / f"{shot.set_id}.glb").read_bytes()
        courier = [pose.position_m for pose in poses_from(data, "courier", shot, float(first), last - first + 1)]
        np.testing.assert_allclose(motion.rig["head"][within, :3, 3], courier, atol=1e-4)

    def test_steps_are_moved_and_left_out_on_their_row_and_a_take_is_chosen(self) -> None:
        page = self.open("jetty-walk-handheld")
        page.get_by_role("button", name="Steps", exact=True).click()
        step = page.locator("[data-step='5']")
        box = step.bounding_box()
        assert box is not None
        self.pull((box["x"] + 4, box["y"] + 5), (box["x"] + 14, box["y"] + 5))
        settled(page)
        page.locator("[data-step='7']").click(modifiers=["Alt"])
        settled(page)
        gait = next(layer for _,
            layer in self.shot("jetty-walk-handheld").layers() if layer.source.kind == "gait").source
        self.assertEqual([(edit.number, edit.mute) for edit in gait.steps], [(5, False), (7,
            True)])  # type: ignore[attr-defined]
        page.get_by_label("Add layer").first.click()
        page.get_by_role("menuitem", name="Take").click()
        page.get_by_test_id("take").get_by_role("button", name="small boat").click()
        expect(page.get_by_test_id("take")).to_contain_text("plays “small boat”")
        settled(page)
        self.assertIn("take", [layer.source.kind for _, layer in self.shot("jetty-walk-handheld").layers()])
