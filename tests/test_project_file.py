import io
import json
import struct
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path
from typing import Any

import numpy as np

from tests.core.making import command, layer, shot_with
from tests.store.making import WithLibrary
from zittern.core.edits.presets import PlacePreset
from zittern.core.edits.table import apply
from zittern.core.errors import FormatError, NotFound
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Shot
from zittern.project_file import pack, unpack
from zittern.store.library import Library
from zittern.store.pictures import digest_of_picture, keep_picture, picture_file, picture_tile
from zittern.store.sets import SHIPPED, add_set, set_file
from zittern.store.shipped import shipped_presets

WEBP = b"RIFF\x04\0\0\0WEBPVP8 picture"
SET = (SHIPPED / "saltmarsh-kite.glb").read_bytes()


def zipped(parts: dict[str, bytes]) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    return file.getvalue()


class WithProject(WithLibrary):
    """A project with a preset, a set and a picture of its own."""

    def setUp(self) -> None:
        super().setUp()
        preset = shipped_presets()["shoulder-standing"].replace(name="My shoulder")
        self.key = self.library.presets.add(preset).key
        self.set_id = add_set(self.folder, self.library.workspace, "kite", SET)
        paths = [self.library.workspace.new_path(".part") for _ in range(3)]
        for path, data in zip(
            paths, (WEBP, WEBP + b"small", zipped({"index.json": b"{}", "0/0/0": b"tile"})), strict=True
        ):
            path.write_bytes(data)
        self.picture = digest_of_picture(b"original")
        keep_picture(self.folder, self.picture, *paths)
        plate = Plate(id="sky", name="Sky", picture=self.picture, width_px=100, height_px=50, width_m=8.0)
        shot = shot_with(layer("sway", seed=3), set_id=self.set_id, plates=(plate,), seed=12345, last_frame=48)
        shot = PlacePreset(preset=preset, key=self.key).apply(shot)
        shot = apply(shot, command(type="add_variant", name="Wild"))
        self.library.add_project("Dunes")
        self.shot = self.library.add_shot("dunes", shot, slug="walk").document
        self.library.add_shot("dunes", shot_with(), slug="bare")

    def packed(self) -> bytes:
        file = io.BytesIO()
        self.assertEqual(pack(self.library, "dunes", file), ())
        return file.getvalue()

    def elsewhere(self) -> Library:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        other = Library(Path(holder.name))
        self.addCleanup(other.close)
        return other

    def origins(self, shot: Shot) -> set[str]:
        clips = {each.from_preset.preset for each in shot.clips() if each.from_preset}
        return clips | {each.from_preset.preset for _, each in shot.layers() if each.from_preset}


class ThereAndBack(WithProject):
    def test_poses_are_the_same_on_another_machine(self) -> None:
        other = self.elsewhere()
        made = unpack(other, io.BytesIO(self.packed()))
        self.assertEqual((made.project, sorted(made.shots)), ("dunes", ["bare", "walk"]))
        state = other.state("walk")
        self.assertNotEqual(state.shot_id, self.library.state("walk").shot_id)
        self.assertEqual((state.document.seed, state.document.set_id), (12345, self.set_id))
        self.assertEqual([each.name for each in state.document.variants], [each.name for each in self.shot.variants])
        here, there = (evaluate(each).pose for each in (self.shot, state.document))
        for mine, its in zip(here.parts, there.parts, strict=True):
            np.testing.assert_array_equal(mine, its)
        self.assertEqual(set_file(other.data_dir, self.set_id).read_bytes(), SET)
        self.assertEqual(picture_file(other.data_dir, self.picture).read_bytes(), WEBP)
        self.assertEqual(picture_tile(other.data_dir, self.picture, "0/0/0"), b"tile")

    def test_presets_get_new_keys_and_clips_follow(self) -> None:
        other = self.elsewhere()
        taken = other.presets.add(shipped_presets()["thud"].replace(name="My shoulder"))
        unpack(other, io.BytesIO(self.packed()))
        kept = {each.key: each.preset.name for each in other.presets.all().presets if each.preset}
        self.assertEqual(sorted(kept.values()), ["My shoulder", "My shoulder 2"])
        new = next(key for key, name in kept.items() if name == "My shoulder 2")
        self.assertNotIn(new, (self.key, taken.key))
        self.assertEqual(self.origins(other.state("walk").document), {new})
        self.assertEqual(other.presets.get(taken.key).preset, taken.preset)

    def test_here_once_more_nothing_is_overwritten(self) -> None:
        before = {entry.slug: self.library.state(entry.slug).document for entry in self.library.shots()}
        made = unpack(self.library, io.BytesIO(self.packed()))
        self.assertEqual((made.project, sorted(made.shots)), ("dunes-2", ["bare-2", "walk-2"]))
        self.assertEqual(self.library.project("dunes-2").name, "Dunes 2")
        for slug, document in before.items():
            self.assertEqual(self.library.state(slug).document, document)
        self.assertEqual(len(self.library.presets.all().presets), 1)
        self.assertEqual(self.origins(self.library.state("walk-2").document), {self.key})

    def test_missing_parts_are_named_and_the_rest_is_packed(self) -> None:
        set_file(self.folder, self.set_id).unlink()
        picture_file(self.folder, self.picture).unlink()
        self.library.presets.remove(self.key, self.library.presets.get(self.key).content)
        file = io.BytesIO()
        notices = pack(self.library, "dunes", file)
        self.assertEqual(len(notices), 2)
        self.assertIn(self.set_id, notices[0])
        self.assertIn(self.picture[:12], notices[1])
        other = self.elsewhere()
        unpack(other, file)
        self.assertEqual(other.state("walk").document.name, self.shot.name)
        with self.assertRaises(NotFound):
            pack(self.library, "none", io.BytesIO())


class Hostile(WithProject):
    def parts(self) -> dict[str, bytes]:
        with zipfile.ZipFile(io.BytesIO(self.packed())) as archive:
            return {name: archive.read(name) for name in archive.namelist()}

    def refused(self, words: str, data: bytes) -> None:
        with self.subTest(words), closing(self.elsewhere()) as other:
            with self.assertRaisesRegex(FormatError, words):
                unpack(other, io.BytesIO(data))
            self.assertEqual((other.projects(), other.presets.all().presets), ([], ()))
            self.assertFalse((other.data_dir / "sets").exists() or (other.data_dir / "pictures").exists())

    def index(self, **changed: Any) -> bytes:
        return json.dumps(json.loads(self.parts()["project.json"]) | changed).encode()

    def test_names_that_lead_elsewhere(self) -> None:
        for name in (
            "../evil",
            "/etc/passwd",
            "shots/../../x.shot.json",
            "shots\\x.shot.json",
            "sets/a/b.glb",
            "sets/",
        ):
            self.refused("expected parts of a project", zipped(self.parts() | {name: b"x"}))
        for slug in ("../walk", "walk/../walk", "WALK", ""):
            self.refused("project.json", zipped(self.parts() | {"project.json": self.index(sets=[slug])}))

    def test_links_encrypted_and_repeated_parts(self) -> None:
        file = io.BytesIO(self.packed())
        with zipfile.ZipFile(file, "a") as archive:
            link = zipfile.ZipInfo("sets/link.glb")
            link.external_attr = 0o120777 << 16
            archive.writestr(link, "/etc/passwd")
        self.refused("an encrypted one or a link", file.getvalue())
        file = io.BytesIO(self.packed())
        with self.assertWarns(UserWarning), zipfile.ZipFile(file, "a") as archive:
            archive.writestr("project.json", "{}")
        self.refused("there twice", file.getvalue())
        data = bytearray(self.packed())
        at = data.rindex(b"PK\x01\x02")
        data[at + 8] |= 1
        self.refused("an encrypted one or a link", bytes(data))

    def test_wrong_check_sums_and_cut_off_files(self) -> None:
        data = self.packed()
        at = data.rindex(b"PK\x01\x02")
        self.refused("damaged", data[: at + 16] + b"\0\0\0\0" + data[at + 20 :])
        for end in (0, 1, 50, len(data) // 2, len(data) - 1):
            self.refused("no zip", data[:end])
        self.refused("no zip", b"PK\x05\x06")
        self.refused("no zip", b"GIF89a" + bytes(100))

    def test_bombs(self) -> None:
        zeros = bytes(40 * 2**20)
        self.refused("up to 4 MB", zipped(self.parts() | {"project.json": zeros[: 5 * 2**20]}))
        self.refused("shots/walk.shot.json: .*up to 32 MB", zipped(self.parts() | {"shots/walk.shot.json": zeros}))
        data = bytearray(self.packed())
        at = data.rindex(b"PK\x01\x02")
        struct.pack_into("<I", data, at + 24, 0xFFFFFFF0)
        self.refused("MB together", bytes(data))
        locator = struct.pack("<4sLQL", b"PK\6\7", 0, 0, 1)
        small = struct.pack("<4s4H2LH", b"PK\5\6", 0, 0, 1, 1, 46, 0, 0)
        self.refused("up to 20,000 parts", self.packed() + locator + small)
        end = struct.pack("<4s4H2LH", b"PK\5\6", 0, 0, 0xFFFF, 0xFFFF, 0xFFFFFFF0, 0, 0)
        self.refused("up to 20,000 parts", self.packed() + end)
        tiles = zipped({f"0/{n}/0": b"" for n in range(20_001)})
        self.refused("pictures/.*20,000 parts", zipped(self.parts() | {f"pictures/{self.picture}.zip": tiles}))

    def test_parts_that_are_missing_or_of_another_kind(self) -> None:
        parts = self.parts()
        self.refused("shots/walk.shot.json", zipped({name: data for name, data in parts.items() if "walk" not in name}))
        self.refused("project.json", zipped({"shots/walk.shot.json": parts["shots/walk.shot.json"]}))
        for name, data in (
            ("project.json", b"[]"), ("project.json", self.index(schema_version=99)), ("project.json", b"\xff\xfe"),
            ("project.json", self.index(name="\ud800")), ("project.json", b'{"name": "a", "name": "b"}'),
            ("shots/walk.shot.json", b"{}"), (f"presets/{self.key}.preset.json", b"{}"),
            (f"sets/{self.set_id}.glb", b"glTF"),
            (f"pictures/{self.picture}.webp", b"GIF89a"), (f"pictures/{self.picture}.zip", b"no zip"),
        ):  # fmt: skip
            self.refused(name, zipped(parts | {name: data}))
