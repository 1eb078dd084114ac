"""Presets: looked for, tried on, compared, placed in four ways, saved, changed, exported and imported, and clips
brought back to theirs.
"""

import re
import json
from pathlib import Path

from playwright.sync_api import Locator, expect

from tests.web.harness import settled
from tests.web.making import WithPage
from zittern.core.presets.files import read_preset, write_preset
from zittern.store.shipped import shipped_presets

SHOT = "jetty-walk-swaying"
RUN = shipped_presets()["run"]


class WithPresets(WithPage):
    def clips(self, shot: str = SHOT) -> list[list[tuple[str, tuple[float, float] | None]]]:
        return [[(clip.name,
            clip.span_frames) for clip in lane.clips] for lane in self.library().state(shot).document.lanes]

    def kept(self) -> list[str]:
        return [kept.preset.name for kept in self.library().presets.all().presets if kept.preset]

    def cards(self) -> Locator:
        return self.page.locator("button[aria-label^='Preset ']")

    def choose_clip(self, name: str) -> None:
        self.page.get_by_role("button", name=f"Clip {name}", exact=True).click()

    def drop(self, name: str, text: str) -> None:
        made = "([name, text]) => { const d = new DataTransfer(); d.items.add(new File([text], name)); return d; }"
        data = self.page.evaluate_handle(made, [name, text])
        for kind in ("dragover", "drop"):
            self.page.dispatch_event("body", kind, {"dataTransfer": data})


class TryingOn(WithPresets):
    def test_found_tried_on_and_placed(self) -> None:
        page = self.open(SHOT)
        self.go_to(41)
        before = self.pose()
        viewfinder = page.locator("[data-testid=viewfinder]")
        bare = viewfinder.get_attribute("data-pose") or ""
        page.keyboard.press("r")
        presets = self.cards()
        expect(page.locator("[data-cards='23']")).to_be_visible()
        expect(page.get_by_role("img", name="Scribble of Shoulder, standing")).to_have_attribute("data-drawn", "yes")
        page.get_by_role("button", name="water", exact=True).click()
        expect(presets).to_have_count(1)
        page.get_by_role("button", name="water", exact=True).click()
        page.get_by_label("Search presets").fill("water")
        expect(presets).to_have_count(1)
        presets.hover()
        expect(viewfinder).not_to_have_attribute("data-pose", bare)
        settled(page)
        self.assertGreater(abs(self.pose() - before).max(), 0.05)
        self.assertEqual(self.clips(), [[("Whole shot", None)]])
        page.get_by_role("button", name="Play", exact=True).hover()
        expect(viewfinder).to_have_attribute("data-pose", bare)
        page.get_by_label("Search presets").fill("")
        presets.first.focus()
        page.keyboard.press("ArrowRight")
        expect(presets.nth(1)).to_be_focused()
        expect(viewfinder).not_to_have_attribute("data-pose", bare)
        settled(page)
        self.assertGreater(abs(self.pose() - before).max(), 0.005)
        page.get_by_label("Search presets").fill("nothing like it")
        page.get_by_role("button", name="Show all").click()
        page.get_by_label("Search presets").fill("water")
        presets.click()
        expect(page.get_by_label("Undo: Place “Small boat”")).to_be_visible()
        self.assertEqual(self.clips(), [[("Whole shot", None)], [("Small boat", None)]])
        expect(page.get_by_label("Clip name")).to_have_value("Small boat")
        expect(page.get_by_role("spinbutton", name="Dial sea")).to_be_visible()

    def test_in_place_of_a_clip_cross_faded_to_and_from_the_playhead_on(self) -> None:
        page = self.open(SHOT)
        self.choose_clip("Whole shot")
        self.go_to(81)
        page.get_by_role("button", name="Presets …").click()
        page.get_by_label("Replace “Whole shot”").check()
        page.get_by_role("button", name=re.compile(r"^Preset Brisk walk (\d+ px|…)")).click()
        settled(page)
        self.assertEqual(self.clips(), [[("Brisk walk", None)]])
        expect(page.get_by_test_id("presets")).to_have_count(0)
        expect(page.get_by_label("Clip name")).to_have_value("Brisk walk")
        page.keyboard.press("r")
        page.get_by_label("Cross-fade in at playhead").check()
        page.get_by_role("spinbutton", name="Frames of the cross-fade").dblclick()
        page.get_by_label("Frames of the cross-fade").fill("6 * 3")
        page.get_by_label("Frames of the cross-fade").press("Enter")
        expect(page.get_by_role("spinbutton", name="Frames of the cross-fade")).to_have_text("18 frames")
        page.get_by_role("button", name=re.compile(r"^Preset Run (\d+ px|…)")).click()
        expect(page.get_by_label("Undo: Cross-fade to “Run” from frame 81 within 18 frames")).to_be_visible()
        page.keyboard.press("r")
        page.get_by_label("From the playhead").check()
        page.get_by_label("Search presets").fill("jolt")
        page.get_by_role("button", name=re.compile(r"^Preset Startled (\d+ px|…)")).click()
        settled(page)
        self.assertEqual(self.clips(), [[("Brisk walk", (1.0, 99.0)), ("Run", (81.0, 192.0))], [("Startled", (81.0,
            141.0))]])
        expect(page.get_by_role("button", name="Clip Run", exact=True)).to_be_visible()

    def test_a_handheld_clip_can_be_replaced_without_selecting_it(self) -> None:
        page = self.open("empty-dune")
        page.keyboard.press("Control+k")
        page.get_by_role("combobox").fill("handheld")
        page.get_by_role("option", name=re.compile("handheld", re.IGNORECASE)).first.click()
        settled(page)
        ((name, _),) = self.clips("empty-dune")[0]
        page.keyboard.press("Escape")
        page.keyboard.press("r")
        expect(page.get_by_text(f"“{name}” shakes already: the two add up.")).to_be_visible()
        page.get_by_label(f"Replace “{name}”").check()
        page.get_by_role("button", name=re.compile(r"^Preset Brisk walk (\d+ px|…)")).click()
        settled(page)
        self.assertEqual(self.clips("empty-dune"), [[("Brisk walk", None)]])

    def test_marked_ones_play_beside_each_other_and_one_is_placed(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("r")
        for name in ("Run", "Brisk walk", "Careful walk", "Stand-off, long lens", "Shoulder, standing"):
            page.get_by_label(f"Compare {name}", exact=True).check()
        trials = page.locator("[data-trial][data-ready='yes']")
        expect(trials).to_have_count(4)
        expect(page.locator("[data-trial=run]")).to_have_count(0)
        expect(page.locator("[data-testid=set-view]")).to_have_count(0)
        first, second = (page.locator(f"[data-trial={key}]").screenshot() for key in ("brisk-walk", "careful-walk"))
        self.assertNotEqual(first, second)
        page.get_by_label("Stop comparing Brisk walk").click()
        expect(trials).to_have_count(3)
        page.get_by_label("Place Careful walk").click()
        expect(page.get_by_label("Undo: Place “Careful walk”")).to_be_visible()
        expect(page.locator("[data-testid=set-view]")).to_be_visible()

    def test_two_hundred_of_them_are_gone_through_with_the_arrow_keys(self) -> None:
        shelf = self.library().presets
        for n in range(180):
            shelf.add(RUN.replace(name=f"Run {n:03d}"))
        page = self.open(SHOT)
        page.keyboard.press("r")
        expect(page.locator("[data-cards='203']")).to_be_visible()
        self.assertLess(self.cards().count(), 40)
        self.cards().first.focus()
        for _ in range(20):
            page.keyboard.press("ArrowDown")
        expect(page.locator("[data-card]:focus")).to_have_attribute("aria-label", re.compile("^Preset Run 060 "))


class Keeping(WithPresets):
    def test_saved_changed_filled_deleted_and_undone(self) -> None:
        page = self.open(SHOT)
        self.choose_clip("Whole shot")
        page.get_by_role("button", name="Save as preset …").click()
        page.get_by_label("Name of the preset").fill("Run")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("called “Run” already")
        page.get_by_label("Name of the preset").fill("Mine")
        page.get_by_label("Short description").fill("As I hold it")
        page.get_by_label("Tags", exact=True).fill("hand, mine, ")
        page.get_by_label("Moves the same wherever").check()
        page.get_by_role("button", name="Save", exact=True).click()
        page.get_by_role("button", name="Show", exact=True).click()
        page.get_by_role("button", name="yours", exact=True).click()
        expect(self.cards()).to_have_count(1)
        kept = self.library().presets.all().presets[0].preset
        self.assertEqual((kept.name, kept.line, kept.tags, kept.keep_seeds), ("Mine", "As I hold it", ("hand", "mine"),
            True))  # type: ignore[union-attr]
        page.get_by_label("More of preset Mine").click()
        page.get_by_role("menuitem", name="Name, line, tags, length …").click()
        page.get_by_label("Name of the preset").fill("Yours")
        page.get_by_label("Length").fill("1,5")
        page.get_by_role("button", name="Apply", exact=True).click()
        expect(page.get_by_role("button", name=re.compile(r"^Preset Yours (\d+ px|…)"))).to_be_visible()
        self.assertEqual(self.library().presets.all().presets[0].preset.length_s, 1.5)  # type: ignore[union-attr]
        page.get_by_label("More of preset Yours").click()
        page.get_by_role("menuitem", name="Delete").click()
        expect(self.cards()).to_have_count(0)
        page.get_by_label("Undo: Delete preset “Yours”").click()
        expect(page.get_by_role("button", name=re.compile(r"^Preset Yours (\d+ px|…)"))).to_be_visible()
        page.get_by_label("Undo: Change preset “Yours”").click()
        expect(page.get_by_role("button", name=re.compile(r"^Preset Mine (\d+ px|…)"))).to_be_visible()
        page.get_by_label("Redo: Change preset “Yours”").click()
        expect(page.get_by_role("button", name=re.compile(r"^Preset Yours (\d+ px|…)"))).to_be_visible()

    def test_selected_layers_and_filled_with_a_clip(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("j")
        page.get_by_label("Name of the preset").fill("Sway alone")
        page.get_by_label("Name of the preset").press("Enter")
        expect(page.get_by_role("button", name="Show", exact=True)).to_be_visible()
        self.assertEqual(len(self.library().presets.all().presets[0].preset.layers), 1)  # type: ignore[union-attr]
        self.choose_clip("Whole shot")
        page.keyboard.press("r")
        page.get_by_label("Search presets").fill("sway alone")
        page.get_by_label("More of preset Sway alone").click()
        page.get_by_role("menuitem", name="Overwrite with “Whole shot”").click()
        expect(page.get_by_label("Undo: Change preset “Sway alone”")).to_be_visible()
        self.assertEqual(len(self.library().presets.all().presets[0].preset.layers), 2)  # type: ignore[union-attr]

    def test_a_rig_that_was_saved_comes_along(self) -> None:
        page = self.open("jetty-walk-handheld")
        self.choose_clip("Whole shot")
        page.get_by_role("button", name="Save as preset …").click()
        page.get_by_label("Name of the preset").fill("Held")
        page.get_by_label(re.compile("Include rig")).check()
        page.get_by_role("button", name="Save", exact=True).click()
        page.get_by_role("button", name="Show", exact=True).wait_for()
        self.open("jetty-walk")
        page.keyboard.press("r")
        page.get_by_label("Search presets").fill("held")
        expect(page.get_by_label("with its rig")).to_be_checked()
        page.get_by_role("button", name=re.compile("^Preset Held")).click()
        expect(page.get_by_label("Undo: Place “Held”")).to_be_visible()
        self.assertEqual([each.name for each in self.library().state("jetty-walk").document.mounts], ["Camera", "Shoulder", "Hands"])

    def test_out_as_a_file_and_in_by_dropping_it(self) -> None:
        page = self.open(SHOT)
        page.keyboard.press("r")
        page.get_by_label("Search presets").fill("water")
        with page.expect_download() as taken:
            page.get_by_label("More of preset Small boat").click()
            page.get_by_role("menuitem", name="Export as a file").click()
        self.assertEqual(taken.value.suggested_filename, "small-boat.preset.json")
        text = Path(taken.value.path()).read_text()
        self.assertEqual(read_preset(text), shipped_presets()["small-boat"])
        self.drop("boat.preset.json", text)
        expect(page.get_by_role("button", name=re.compile(r"^Preset Small boat 2 (\d+ px|…)"))).to_be_visible()
        self.drop("broken.preset.json", json.dumps(json.loads(text) | {"schema_version": 77}))
        expect(page.get_by_role("alert").filter(has_text="broken.preset.json: ")).to_contain_text("a newer Zittern")
        self.assertEqual(self.kept(), ["Small boat 2"])
        page.get_by_label("Preset files").set_input_files({"name": "x.preset.json", "mimeType": "application/json", "buffer": write_preset(RUN).encode()})
        expect(page.get_by_label("Undo: Import preset “Run 2”")).to_be_visible()

    def test_html_in_a_name_is_only_a_name(self) -> None:
        shelf = self.library().presets
        shelf.add(RUN.replace(name="<img src=x onerror=alert(1)>" * 4, line="<b>bold</b>"))
        page = self.open(SHOT)
        page.keyboard.press("r")
        page.get_by_label("Search presets").fill("onerror")
        expect(page.get_by_text("<b>bold</b>")).to_be_visible()


class Comparing(WithPresets):
    def test_a_clip_is_brought_back_to_its_preset_layer_by_layer(self) -> None:
        page = self.open("signal-run")
        page.get_by_role("button", name="Clip Panic", exact=True).click()
        page.get_by_role("button", name="Compare …").click()
        rows = page.get_by_label("Differences").locator("> li")
        expect(rows).to_have_count(3)
        expect(rows.first).to_contain_text("= smoothstep(20, 90, panic) → 100 %")
        page.get_by_role("button", name="Close").click()
        library = self.library()
        state = library.state("signal-run")
        panic = next(clip for clip in state.document.clips() if clip.name == "Panic")
        page.get_by_role("button", name=panic.layers[0].name, exact=True).click()
        self.drag("Swing of truck", 60)
        page.get_by_role("button", name="Clip Panic", exact=True).click()
        page.get_by_role("button", name="Compare …").click()
        page.get_by_label("Take Amount and speed").uncheck()
        expect(page.get_by_label(f"Take {panic.layers[0].name}")).to_be_checked()
        page.get_by_role("button", name="Take from the preset").click()
        expect(page.get_by_label("Undo: Revert “Panic” to its preset")).to_be_visible()
        after = next(clip for clip in library.state("signal-run").document.clips() if clip.name == "Panic")
        self.assertEqual((after.layers, after.amount), (panic.layers, panic.amount))
