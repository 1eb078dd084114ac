import json
import random
import unittest
from typing import Any

from tests.core.making import edited, layer, shot_with
from tools import fuzz_cache
from zittern.core.documents.doc import Doc
from zittern.core.shot.changes import changes
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import write_shot


def as_json(value: object) -> Any:
    """What goes over the wire."""
    return json.loads(
        json.dumps(value, default=lambda each: each.model_dump(mode="json") if isinstance(each, Doc) else None)
    )


def applied(before: dict[str, Any], told: dict[str, Any]) -> dict[str, Any]:
    """The document with changes put in, written as plainly as can be: a second implementation beside the page's."""
    out = {**before, **told}
    clips = [clip for lane in before["lanes"] for clip in lane["clips"]]
    layers = [each for clip in clips for each in clip["layers"]]

    def found(parts: list[Any], known: list[Any], key: str) -> list[Any]:
        return [next(each for each in known if each[key] == part["same"]) if "same" in part else part for part in parts]

    for name, key in (("mounts", "id"), ("dials", "name"), ("cues", "id"), ("variants", "id"), ("lanes", "id")):
        out[name] = found(out[name], before[name], key)
    for lane in out["lanes"]:
        lane["clips"] = found(lane["clips"], clips, "id")
        for clip in lane["clips"]:
            clip["layers"] = found(clip["layers"], layers, "id")
    return out


class Told(unittest.TestCase):
    def check(self, before: Shot, after: Shot) -> None:
        had = json.loads(write_shot(before))
        self.assertEqual(applied(had, as_json(changes(before, after))), json.loads(write_shot(after)))

    def test_put_into_what_was_before_they_give_what_is_there_now(self) -> None:
        compared = 0
        for number in range(12):
            rng = random.Random(number)
            shots = [fuzz_cache.made(rng)]
            for _ in range(12):
                shots.append(fuzz_cache.edited(shots[-1], rng))
            for before, after in zip(shots[:-1], shots[1:], strict=True):
                self.check(before, after)
                self.check(after, before)
                compared += before != after
            self.check(shots[0], shots[-1])
        self.assertGreater(compared, 100)

    def test_only_what_differs_is_told(self) -> None:
        before = shot_with(layer(), layer("fast", seed=2))
        self.assertEqual(changes(before, before), {})
        swung = edited(before, {"type": "set_values", "values": [{"at": "layer:fast.axes.pan.swing", "value": 0.9}]})
        told = as_json(changes(before, swung))
        self.assertEqual(set(told), {"lanes"})
        layers = told["lanes"][0]["clips"][0]["layers"]
        self.assertEqual(
            (layers[0], layers[1]["id"], layers[1]["axes"]["pan"]["swing"]["value"]), ({"same": "sway"}, "fast", 0.9)
        )
        self.assertEqual(set(changes(before, before.replace(name="Other", last_frame=99))), {"name", "last_frame"})
