import unittest

from tests.core.making import layer, shot_with
from tests.formats.making import GltfMaker
from zittern.core.errors import DocumentError, FormatError
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.upgrades import write_shot
from zittern.core.timebase import Fps
from zittern.formats import shot_json
from zittern.formats.files import no_sidecars
from zittern.formats.opening import fps_from, open_shot
from zittern.formats.table import FORMATS, written

WALK = GltfMaker({"camera": 0, "name": "A"}).animate(0, "translation", [0, 1], [[0, 0, 0], [3, 0, 0]])
SHOT = shot_with(layer())
LENGTH = shot_with(last_frame=25)
FILES = {
    ".glb": WALK.glb(),
    ".gltf": WALK.gltf(),
    ".csv": b"frame,x_m,y_m,z_m\n1,0,0,0\n25,3,0,0\n",
    **{f".{name}": written(name, LENGTH, evaluate(LENGTH)) for name in ("usda", "usdc", "usdz")},
    ".shot.json": write_shot(SHOT).encode(),
}


class Opening(unittest.TestCase):
    def test_every_format_that_is_read_opens_as_a_shot(self) -> None:
        self.assertEqual(set(FILES), {each.ending for each in FORMATS if each.kind in ("path", "shot")})
        for ending, data in FILES.items():
            opened = open_shot(f"long_walk{ending}", data, no_sidecars, None, Fps(num=24))
            self.assertEqual(opened.shot.last_frame, 240 if ending == ".shot.json" else 25)
            self.assertEqual(opened.shot.name, "Test" if ending == ".shot.json" else "long_walk")

    def test_a_name_can_be_given(self) -> None:
        for ending, data in FILES.items():
            self.assertEqual(
                open_shot(f"x{ending}", data, no_sidecars, None, Fps(num=24), "Night watch").shot.name, "Night watch"
            )

    def test_a_shot_is_opened_as_it_was(self) -> None:
        opened = open_shot("a.shot.json", FILES[".shot.json"], no_sidecars, None, Fps(num=60))
        self.assertEqual((opened.shot, opened.label), (SHOT, "Open “a.shot.json”"))

    def test_refusals(self) -> None:
        with self.assertRaisesRegex(DocumentError, "not a shot"):
            open_shot("a.shot.json", b"{}", no_sidecars, None, Fps(num=24))
        with self.assertRaisesRegex(FormatError, "up to 32 MB"):
            open_shot("a.shot.json", b" " * (shot_json.MOST_BYTES + 1), no_sidecars, None, Fps(num=24))
        with self.assertRaisesRegex((FormatError, DocumentError), "120|characters"):
            open_shot("a.csv", FILES[".csv"], no_sidecars, None, Fps(num=24), "x" * 121)
        for text in ("0", "many", "1e400", "24/0"):
            with self.assertRaises(FormatError) as caught:
                fps_from(text, "--fps")
            self.assertEqual(caught.exception.where, "--fps")
