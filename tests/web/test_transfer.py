"""Files in and out, through the page."""

import re
from pathlib import Path

import numpy as np
from playwright.sync_api import expect

from tests.core.making import over
from tests.formats.making import GltfMaker
from tests.formats.test_world_axes import as_cm, as_z_up, walk
from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.shot.upgrades import write_shot
from zittern.core.motion.evaluate import evaluate
from zittern.core.timebase import Fps
from zittern.formats.files import no_sidecars
from zittern.formats.table import format_of
from zittern.store.sets import SHIPPED

WALK = GltfMaker({"camera": 0, "name": "Fixed"}, {"camera": 0, "name": "Rolling"}).animate(1, "translation", [0, 2],
    [[0, 1.5, 0], [0, 1.5, -4]])


class In(WithPage):
    home = True

    def file(self, name: str, data: bytes) -> Path:
        path = self.folder / name
        path.write_bytes(data)
        return path

    def test_a_glb_becomes_a_new_shot_that_can_be_shaken(self) -> None:
        self.page.get_by_role("button", name="Import a path").click()
        self.page.get_by_label("Camera path file").set_input_files(self.file("rolling_in.glb", WALK.glb()))
        self.page.get_by_label("Camera in rolling_in.glb").select_option("Rolling")
        self.page.get_by_role("button", name="Make a new shot").click()
        self.page.wait_for_url("**/shot/rolling-in")
        settled(self.page)
        expect(self.page.get_by_text("2 keys")).to_be_visible()
        self.go_to(25)
        np.testing.assert_allclose(self.pose(), [0, 1.5, -2, 0, 0, 0], atol=1e-5)
        self.page.keyboard.press("h")
        expect(self.page.get_by_label("Undo: Add handheld feel")).to_be_visible()

    def test_a_dropped_file_replaces_the_move_and_undo_brings_it_back(self) -> None:
        self.open("jetty-walk-swaying")
        self.go_to(20)
        before = self.pose()
        transfer = self.page.evaluate_handle(
            "([bytes, name]) => { const t = new DataTransfer(); t.items.add(new File([new Uint8Array(bytes)], name)); "
            "return t; }", [list(WALK.glb()), "walk.glb"]
        )
        self.page.dispatch_event("main", "dragover", {"dataTransfer": transfer})
        expect(self.page.get_by_text("Drop a GLB, glTF, OpenUSD or CSV")).to_be_visible()
        self.page.dispatch_event("main", "drop", {"dataTransfer": transfer})
        self.page.get_by_label("Camera in walk.glb").select_option("Rolling")
        self.page.get_by_role("button", name="Replace it").click()
        expect(self.page.get_by_label("Undo: Import move “walk.glb”")).to_be_visible()
        settled(self.page)
        self.assertLess(abs(self.pose()[1] - 1.5), 0.1)
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_label("Redo: Import move “walk.glb”")).to_be_visible()
        settled(self.page)
        self.go_to(20)
        np.testing.assert_allclose(self.pose(), before, atol=1e-6)

    def dropped(self, names: list[str], data: bytes) -> None:
        transfer = self.page.evaluate_handle(
            "([bytes, names]) => { const t = new DataTransfer(); for (const name of names) "
            "t.items.add(new File([new Uint8Array(bytes)], name)); return t; }", [list(data), names]
        )
        self.page.dispatch_event("main", "drop", {"dataTransfer": transfer})

    def test_ten_dropped_files_make_ten_shots_in_the_set_of_the_open_one(self) -> None:
        before = {each.slug for each in self.library().shots()}
        self.open("jetty-walk")
        rows = b"frame,time_s,x_m,y_m,z_m\n10,0,0,1,0\n40,1,1,1,0\n"
        self.dropped([f"pass_{n}.csv" for n in range(10)], rows)
        expect(self.page.get_by_text("10 new shots")).to_be_visible()
        made = [each for each in self.library().shots() if each.slug not in before and each.card.name.startswith("pass_")]
        self.assertEqual(len(made), 10)
        for each in made:
            document = self.library().state(each.slug).document
            self.assertEqual((document.fps.num, document.first_frame, document.last_frame), (30, 10, 40))
            self.assertEqual(document.set_id, self.library().state("jetty-walk").document.set_id)

    def test_the_dialog_offers_the_rate_of_the_file(self) -> None:
        self.open("jetty-walk")
        self.page.keyboard.press("i")
        rows = b"frame,time_s,x_m,y_m,z_m\n10,0,0,1,0\n40,1,1,1,0\n"
        self.page.get_by_label("Camera path file").set_input_files(self.file("walk.csv", rows))
        expect(self.page.get_by_label("Frames per second (new shot)")).to_have_value("30")

    def test_a_path_with_z_up_in_centimeters_is_asked_about_and_converted(self) -> None:
        self.open("jetty-walk")
        self.page.keyboard.press("i")
        path = as_cm(as_z_up(walk()))
        rows = ["frame,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg"]
        rows += [f"{f:g},{','.join(f'{v:.6f}' for v in (*at, *turn))}" for f, at, turn in
                 zip(path.frames, path.position_m, path.angles_deg, strict=True)]  # fmt: skip
        file = self.file("high.csv", "\n".join(rows).encode())
        self.page.get_by_label("Camera path file").set_input_files(file)
        expect(self.page.get_by_text("The path looks like Z up, centimeters.")).to_be_visible()
        expect(self.page.get_by_label("unchanged: Y up, meters")).to_be_checked()
        self.page.get_by_label("Z up, centimeters").check()
        self.page.get_by_role("button", name="Make a new shot").click()
        self.page.wait_for_url("**/shot/high")
        settled(self.page)
        pose = evaluate(self.library().state("high").document).bare
        np.testing.assert_allclose(pose.position_m, walk().position_m, atol=1e-6)
        np.testing.assert_allclose(pose.angles_deg[:, 1], walk().angles_deg[:, 1], atol=1e-4)

    def test_a_file_that_comes_after_anothers_change_says_so_and_is_taken_when_asked_again(self) -> None:
        self.open("jetty-walk-swaying")
        self.page.keyboard.press("i")
        self.page.get_by_label("Camera path file").set_input_files(self.file("walk.glb", WALK.glb()))
        self.page.get_by_label("Camera in walk.glb").select_option("Rolling")
        # A slow machine would fetch the other window's change before the button is pressed.
        polled = re.compile("/revision$")
        before = self.library().state("jetty-walk-swaying").revision
        self.page.route(polled, lambda route: route.fulfill(json={"revision": before}))
        self.edit("jetty-walk-swaying", {"type": "set_values", "values": [{"at": "shot.name", "value": "Theirs"}]})
        self.page.get_by_role("button", name="Replace it").click()
        expect(self.page.get_by_role("alert")).to_contain_text("press again to import onto it")
        self.page.unroute(polled)
        self.page.get_by_role("button", name="Replace it").click()
        expect(self.page.get_by_label("Undo: Import move “walk.glb”")).to_be_visible()
        document = self.library().state("jetty-walk-swaying").document
        self.assertEqual(document.name, "Theirs", "their change is still there")
        self.assertEqual(evaluate(document).bare.position_m[0].tolist(), [0.0, 1.5, 0.0])

    def test_a_path_rides_on_the_move_and_can_be_taken_away_again(self) -> None:
        self.open("jetty-walk")
        self.go_to(48)
        before = self.pose()
        self.page.keyboard.press("i")
        self.page.get_by_label("Camera path file").set_input_files(self.file("walk.glb", WALK.glb()))
        self.page.get_by_label("Camera in walk.glb").select_option("Rolling")
        self.page.get_by_role("button", name="Layer onto this move").click()
        expect(self.page.get_by_label("Undo: Add move “walk.glb”")).to_be_visible()
        settled(self.page)
        # The path goes 4 m forward in two seconds: in the camera's own direction, at frame 48.
        self.assertAlmostEqual(float(np.linalg.norm(self.pose()[:3] - before[:3])), 4 * 47 / 48, places=3)
        self.page.locator("[data-pin]").first.click()
        rig = self.page.get_by_role("group", name="Mounts from the ground to the lens")
        expect(rig.get_by_role("button", name="walk.glb")).to_have_attribute("aria-pressed", "true")
        rig.get_by_role("button", name="Camera").click()
        self.assertAlmostEqual(self.number("Move z"), 0.7, places=3)
        rig.get_by_role("button", name="walk.glb").click()
        self.page.get_by_role("tab", name="rig").click()
        self.page.get_by_role("button", name="Remove this mount").click()
        self.page.get_by_role("menuitem", name="Remove with what it does").click()
        expect(self.page.get_by_label("Undo: Remove mount “walk.glb”")).to_be_visible()
        settled(self.page)
        self.go_to(48)
        np.testing.assert_allclose(self.pose(), before, atol=1e-6)

    def test_a_new_shot_plays_in_a_set_of_ones_own(self) -> None:
        self.page.get_by_role("button", name="New shot").first.click()
        self.page.get_by_label("Name of the new shot").fill("Own set")
        chooser = self.page.get_by_label("Set file of the shot")
        chooser.set_input_files(self.file("no_set.glb", WALK.glb()))
        expect(self.page.get_by_role("alert")).to_contain_text("no_set.glb: the file has no mesh")
        chooser.set_input_files(self.file("My dunes.glb", (SHIPPED / "saltmarsh-dunes.glb").read_bytes()))
        expect(self.page.get_by_label("Set", exact=True)).to_have_value(re.compile("^my-dunes-[0-9a-f]{12}$"))
        self.page.get_by_role("button", name="Create", exact=True).click()
        self.page.wait_for_url("**/shot/own-set")
        expect(self.page.locator("[data-testid=set-view][data-set=ready]")).to_be_visible()
        self.assertRegex(self.library().state("own-set").document.set_id or "", "^my-dunes-")

    def test_a_shot_of_our_own_that_is_dropped_opens_as_a_new_one(self) -> None:
        document = self.library().state("lamp-close").document
        self.open("jetty-walk")
        self.page.keyboard.press("i")
        self.page.get_by_label("Camera path file").set_input_files(self.file("lamp.shot.json",
            write_shot(document).encode()))
        expect(self.page.get_by_text("lamp.shot.json is the shot “Lamp close”")).to_be_visible()
        expect(self.page.get_by_role("button", name="Replace it")).to_be_disabled()
        self.page.get_by_role("button", name="Open as a new shot").click()
        self.page.wait_for_url("**/shot/lamp-close-2")
        settled(self.page)
        opened = self.library().state("lamp-close-2").document
        self.assertNotEqual(opened.seed, document.seed)
        self.assertEqual(opened.model_copy(update={"seed": document.seed, "seeds_drawn": document.seeds_drawn}),
            document)

    def test_a_broken_file_says_what_is_wrong_where_it_happened(self) -> None:
        self.open("jetty-walk")
        self.page.keyboard.press("i")
        self.page.get_by_label("Camera path file").set_input_files(self.file("bad.csv", b"frame,x_m,y_m,z_m\n1,0,0,0\n2,0,nan,0\n"))
        expect(self.page.get_by_role("dialog").get_by_role("alert")).to_contain_text(
            "bad.csv: expected a finite number, got nan (line 3, column y_m)"
        )
        expect(self.page.get_by_role("button", name="Make a new shot")).to_be_disabled()


class Out(WithPage):
    def exported(self, ending: str) -> bytes:
        self.page.keyboard.press("e")
        self.page.get_by_role("dialog").get_by_text(ending, exact=True).first.click()
        with self.page.expect_download() as download:
            self.page.get_by_role("button", name=f"Export {ending}").click()
        self.assertEqual(download.value.suggested_filename, f"jetty-walk-swaying{ending}")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        return Path(download.value.path()).read_bytes()

    def test_each_file_is_fetched_once(self) -> None:
        self.open("jetty-walk-swaying")
        fetched: list[str] = []
        self.listen("download", lambda download: fetched.append(download.url))
        self.exported(".glb")
        settled(self.page)
        self.assertEqual(len(fetched), 1)

    def test_few_keys_on_curves_in_one_camera(self) -> None:
        page = self.open("jetty-walk-swaying")
        whole = self.exported(".glb")
        page.keyboard.press("e")
        dialog = page.get_by_role("dialog", name="Export the motion")
        dialog.get_by_role("combobox", name="Keys").select_option("few, on curves")
        dialog.get_by_role("combobox", name="Nodes").select_option("one camera")
        expect(dialog.get_by_role("spinbutton", name="Tolerance")).to_contain_text("0.50")
        with page.expect_download() as download:
            dialog.get_by_role("button", name="Export .glb").click()
        few = Path(download.value.path()).read_bytes()
        self.assertLess(len(few), 0.6 * len(whole))
        expect(page.get_by_text("2 channels of 192 frames →")).to_be_visible()
        # Remembered, but not for a format without curves.
        page.keyboard.press("e")
        expect(dialog.get_by_role("combobox", name="Keys")).to_have_value("reduced")
        dialog.get_by_role("radio", name=".csv").check()
        expect(dialog.get_by_role("combobox", name="Keys")).to_have_value("1")
        expect(dialog.get_by_role("combobox", name="Nodes")).to_have_count(0)
        dialog.get_by_role("combobox", name="Columns").select_option("csv-lens")
        with page.expect_download() as download:
            dialog.get_by_role("button", name="Export .csv").click()
        self.assertIn(b",k1,k2,focus_m", Path(download.value.path()).read_bytes().splitlines()[0])

    def test_the_loop_range_with_numbers_from_1001(self) -> None:
        page = self.open("jetty-walk-swaying")
        ruler = page.get_by_test_id("ruler").bounding_box()
        assert ruler is not None
        page.keyboard.down("Shift")
        page.mouse.move(ruler["x"] + 100, ruler["y"] + 5)
        page.mouse.down()
        page.mouse.move(ruler["x"] + 200, ruler["y"] + 5)
        page.mouse.up()
        page.keyboard.up("Shift")
        page.keyboard.press("e")
        dialog = page.get_by_role("dialog", name="Export the motion")
        dialog.get_by_role("radio", name=".csv").check()
        frames = dialog.get_by_role("combobox", name="Frames")
        frames.select_option("loop")
        first, last = map(int, re.findall(r"(\d+)–(\d+)", frames.inner_text())[0])
        dialog.get_by_role("spinbutton", name="First number").dblclick()
        page.keyboard.type("1001")
        page.keyboard.press("Enter")
        with page.expect_download() as download:
            dialog.get_by_role("button", name="Export .csv").click()
        rows = np.loadtxt(download.value.path(), delimiter=",", skiprows=1)
        np.testing.assert_array_equal(rows[:, 0], 1001 + np.arange(last - first + 1))
        motion = evaluate(self.library().state("jetty-walk-swaying").document)
        np.testing.assert_allclose(rows[:, 2:5], motion.pose.position_m[first - 1 : last], atol=1e-8)

    def test_what_is_taken_away_is_what_was_seen(self) -> None:
        self.open("jetty-walk-swaying")
        motion = evaluate(self.library().state("jetty-walk-swaying").document)
        for ending in (".glb", ".csv"):
            data = self.exported(ending)
            move = format_of(f"a{ending}").read(data, no_sidecars).read(None, Fps(num=24)).move  # type: ignore[misc]
            np.testing.assert_allclose(move.x_m.sample(over(motion.frames)), motion.pose.position_m[:, 0], atol=1e-4)
            np.testing.assert_allclose(move.pan_deg.sample(over(motion.frames)), motion.pose.angles_deg[:, 0],
                atol=1e-4)
        self.go_to(100)
        self.assertAlmostEqual(self.pose()[0], motion.pose.position_m[99, 0], places=5)
