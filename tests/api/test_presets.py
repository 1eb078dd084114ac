import json
from unittest.mock import patch

from tests.api.making import WithServer
from zittern.api.models.presets import PresetShelfOut
from zittern.core.presets.files import write_preset
from zittern.core.shot.through_variant import alone
from zittern.store.shipped import shipped_presets

RUN = shipped_presets()["run"]
SHOT = "/api/shots/jetty-walk"


class WithPresets(WithServer):
    def shelf(self) -> dict:  # type: ignore[type-arg]
        return self.client.get("/api/presets").json()

    def own(self) -> list[str]:
        return [each["preset"]["name"] for each in self.shelf()["presets"] if each["own"]]

    def place(self, key: str = "run") -> dict:  # type: ignore[type-arg]
        preset = next(each["preset"] for each in self.shelf()["presets"] if each["key"] == key)
        return self.edit({"type": "place_preset", "preset": preset, "key": key})

    def save(self, **fields: object) -> dict:  # type: ignore[type-arg]
        answer = self.client.post(
            "/api/presets", json={"shot": "jetty-walk", "clip": "clip-1", "name": "Mine", **fields}
        )
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def drop(self, text: str | bytes):  # type: ignore[no-untyped-def]
        return self.client.post("/api/presets/file", files={"file": ("mine.preset.json", text)})


class Placing(WithPresets):
    def test_the_shelf_says_what_its_model_says_also_after_a_change(self) -> None:
        self.place()
        self.save()
        for name in ("Mine [] too", "Mine again"):
            answer = self.client.get("/api/presets")
            again = PresetShelfOut.model_validate_json(answer.content)
            self.assertEqual(answer.json(), json.loads(again.model_dump_json()))
            own = [each for each in answer.json()["presets"] if each["own"]]
            content = own[0]["content"]
            about = {**{field: own[0]["preset"][field] for field in ("line", "tags")}, "name": name, "content": content}
            changed = self.client.put(f"/api/presets/{own[0]['key']}", json=about)
            self.assertEqual(changed.status_code, 200, changed.text)
            self.assertEqual(self.own(), [name])

    def test_each_can_be_placed(self) -> None:
        shelf = self.shelf()
        owned = [each["own"] for each in shelf["presets"]]
        self.assertEqual((owned, shelf["undo_label"]), ([False] * len(shipped_presets()), None))
        placed = self.place("brisk-walk")
        self.assertEqual((placed["undo_label"], "clip:clip-1" in placed["made"]), ("Place “Brisk walk”", True))

    def test_search_words_and_the_nearest(self) -> None:
        words = {each["key"]: each["words"] for each in self.shelf()["presets"]}
        self.assertIn("earthquake", words["close-tremor"])
        self.assertEqual(
            self.client.get("/api/presets/nearest", params={"words": "dronne"}).json()["keys"][0], "hovering-machine"
        )
        self.assertEqual(self.client.get("/api/presets/nearest", params={"words": ""}).json()["keys"], [])
        self.assertEqual(self.client.get("/api/presets/nearest", params={"words": "x" * 201}).status_code, 422)

    def test_one_that_cannot_be_placed_says_where(self) -> None:
        preset = self.shelf()["presets"][0]["preset"]
        base = self.state()["revision"]
        for wrong, pattern in (
            ({"layers": []}, "layers"),
            ({"layers": preset["layers"] * 40}, "layers"),
            ({"schema_version": 99}, "schema_version"),
            ({"length_s": 1e308}, "length_s"),
            ({"name": ""}, "name"),
        ):
            answer = self.client.post(
                f"{SHOT}/edits",
                json={"base_revision": base, "command": {"type": "place_preset", "preset": preset | wrong}},
            )
            self.problem(answer, 422, ".", pattern)
        self.assertEqual(self.state()["revision"], base)

    def test_the_shot_is_written_as_text_once_for_all_cards(self) -> None:
        keys = list(shipped_presets())[:12]
        self.client.post(f"{SHOT}/swatches", json={"presets": keys})
        with patch("zittern.api.context.alone", side_effect=alone) as written:
            made = self.client.post(f"{SHOT}/swatches", json={"presets": keys}).json()
        self.assertEqual(([each["key"] for each in made], written.call_count), (keys, 1))

    def test_cards_are_drawn_on_the_shot_and_those_that_are_gone_left_out(self) -> None:
        made = self.client.post(f"{SHOT}/swatches", json={"presets": ["run", "own-gone", "small-boat", "run"]}).json()
        self.assertEqual([each["key"] for each in made], ["run", "small-boat"])
        for swatch in made:
            self.assertEqual(
                (len(swatch["scribble"]) % 3, swatch["typical_px"] > 0, len(swatch["waves"][0]["least"])), (0, True, 96)
            )
        for wrong in (["x"] * 61, ["../run"], ["\ud800"], [3], None):
            body = json.dumps({"presets": wrong})
            self.assertEqual(
                self.client.post(
                    f"{SHOT}/swatches", content=body, headers={"content-type": "application/json"}
                ).status_code
                // 100,
                4,
                wrong,
            )


class Keeping(WithPresets):
    def test_saved_from_a_clip_or_from_layers_changed_filled_anew_and_deleted(self) -> None:
        self.place()
        mine = self.save(line="Fast", tags=["run"], keep_seeds=True)
        self.assertEqual((mine["own"], mine["preset"]["line"], len(mine["preset"]["layers"])), (True, "Fast", 2))
        some = self.save(clip=None, layers=["hand-1"], name="Some")
        self.assertEqual([layer["name"] for layer in some["preset"]["layers"]], ["Arms"])
        about = {"content": mine["content"], "name": "Yours", "line": "", "tags": [], "length_s": 2.0}
        yours = self.client.put(f"/api/presets/{mine['key']}", json=about).json()
        self.assertEqual(
            (yours["preset"]["name"], yours["preset"]["length_s"], yours["preset"]["keep_seeds"]), ("Yours", 2.0, False)
        )
        self.problem(self.client.put(f"/api/presets/{mine['key']}", json=about), 409, "changed elsewhere")
        self.edit({"type": "remove_layers", "layers": ["hand-1"]})
        filled = self.client.put(
            f"/api/presets/{mine['key']}/content",
            json={"content": yours["content"], "shot": "jetty-walk", "clip": "clip-1"},
        ).json()
        self.assertEqual((filled["preset"]["name"], len(filled["preset"]["layers"])), ("Yours", 1))
        self.assertEqual(
            self.client.delete(f"/api/presets/{mine['key']}", params={"content": filled["content"]}).status_code, 204
        )
        self.assertEqual(self.own(), ["Some"])
        undone = self.client.post("/api/presets/undo").json()
        self.assertEqual((undone["redo_label"], self.own()), ("Delete preset “Yours”", ["Some", "Yours"]))
        self.client.post("/api/presets/redo")
        self.assertEqual(self.own(), ["Some"])

    def test_what_cannot_be_saved(self) -> None:
        self.place()
        for fields, status, pattern in (
            ({"clip": "gone"}, 422, "there is no clip 'gone'"),
            ({"clip": None}, 422, "select a clip or layers"),
            ({"clip": None, "layers": ["gone"]}, 422, "there is no layer 'gone'"),
            ({"name": "Run"}, 422, "called “Run” already"),
            ({"name": "  "}, 422, "at least 1"),
            ({"name": "x" * 500}, 422, "up to 120"),
            ({"tags": ["x"] * 13}, 422, "12 or fewer"),
            ({"shot": "gone"}, 404, "no shot"),
        ):
            answer = self.client.post(
                "/api/presets", json={"shot": "jetty-walk", "clip": "clip-1", "name": "Mine", **fields}
            )
            self.problem(answer, status, pattern)
        self.assertEqual(self.own(), [])

    def test_what_ships_stays_as_it_is(self) -> None:
        content = shipped_presets()["run"].fingerprint
        for answer in (
            self.client.put("/api/presets/run", json={"content": content, "name": "Mine"}),
            self.client.put(
                "/api/presets/run/content", json={"content": content, "shot": "jetty-walk", "clip": "clip-1"}
            ),
            self.client.delete("/api/presets/run", params={"content": content}),
        ):
            self.problem(answer, 422, "ships with Zittern")


class Files(WithPresets):
    def test_out_and_in_again(self) -> None:
        out = self.client.get("/api/presets/small-boat/file")
        self.assertEqual(out.headers["content-disposition"], 'attachment; filename="small-boat.preset.json"')
        answer = self.drop(out.content)
        self.assertEqual((answer.status_code, answer.json()["preset"]["name"]), (201, "Small boat 2"))
        self.assertEqual(self.shelf()["undo_label"], "Import preset “Small boat 2”")

    def test_files_that_cannot_be_read_change_nothing(self) -> None:
        good = json.loads(write_preset(RUN))
        for text, pattern, where in (
            (b"", "not JSON", ""),
            (b"\xff\xfe\x00", "not JSON", ""),
            (b"[" * 100_000, "not JSON", ""),
            (b" " * (4 * 2**20 + 1), "up to 4 MB", ""),  # over the door's own limit as well: 413
            (json.dumps(good | {"schema_version": 9}), "a newer Zittern", "schema_version"),
            (
                json.dumps(good | {"layers": [good["layers"][0] | {"source": {"kind": "wobble"}}]}),
                "wobble",
                "layers[0].source",
            ),
            (json.dumps(good | {"amount": 1e308}), "expected 0 to 10", "amount"),
            (json.dumps(good | {"name": "\ud800"}), ".", "name"),
            (json.dumps(good).replace('"seed": 0', '"seed": NaN', 1), ".", "seed"),
        ):
            with self.subTest(pattern):
                answer = self.drop(text)
                if answer.status_code != 413:
                    self.problem(answer, 422, pattern, where)
        self.assertEqual(self.own(), [])


class Comparing(WithPresets):
    def test_a_clip_beside_its_preset_layer_by_layer_and_back(self) -> None:
        self.place()
        self.edit({"type": "scale_swings", "layers": ["hand-1"], "factor": 2.0})
        path = f"{SHOT}/clips/clip-1/preset"
        origin = self.client.get(path).json()
        self.assertEqual(
            [(part["name"], part["how"]) for part in origin["parts"]][1:], [("Steps", "same"), ("Arms", "changed here")]
        )
        self.assertIn({"title": "pan swing", "here": "1.8 °", "there": "0.9 °"}, origin["parts"][2]["fields"])
        self.edit({"type": "take_from_preset", "clip": "clip-1", "preset": origin["preset"], "parts": ["hand"]})
        self.assertEqual({part["how"] for part in self.client.get(path).json()["parts"]}, {"same"})

    def test_a_preset_that_is_gone_or_never_was(self) -> None:
        self.place()
        mine = self.save()
        self.edit({"type": "place_preset", "preset": mine["preset"], "key": mine["key"]})
        self.client.delete(f"/api/presets/{mine['key']}", params={"content": mine["content"]})
        gone = self.client.get(f"{SHOT}/clips/clip-2/preset").json()
        self.assertEqual((gone["preset"], gone["parts"]), (None, []))
        self.assertIn("“Mine” is missing", gone["problem"])
        self.edit({"type": "add_clip", "first_frame": 1, "last_frame": 9})
        self.problem(self.client.get(f"{SHOT}/clips/clip-3/preset"), 404, "not placed from a preset")
        self.problem(self.client.get(f"{SHOT}/clips/gone/preset"), 422, "there is no clip 'gone'")
