import unittest
from pathlib import Path
from typing import get_args

import numpy as np

from tests.core.making import contribution, edited, rms
from zittern.core.edits.layers import Kind
from zittern.core.shot.shot import new_shot
from zittern.core.sources.source import CUES
from zittern.core.sources.table import SOURCES

ROOT = Path(__file__).parents[3]


class EverySource(unittest.TestCase):
    """What holds for each row: adding a source without its parts fails here."""

    def test_kinds_agree(self) -> None:
        self.assertEqual({row.kind for row in SOURCES}, set(get_args(Kind)))
        for row in SOURCES:
            self.assertEqual(row.make().kind, row.kind)  # type: ignore[attr-defined]

    def test_a_fresh_layer_is_visible_and_gentle(self) -> None:
        for row in SOURCES:
            if row.make.absolute:
                continue  # moves nothing until somebody keys it
            shot = edited(new_shot("Fresh", last_frame=960), {"type": "add_layer", "source": row.kind})
            values = contribution(shot, f"{row.kind}-1")
            size = (
                np.abs(values).max(axis=0) if CUES in row.make().reads else 2 * rms(values)
            )  # what comes at moments is told by its peak
            px = np.tan(np.radians(size[:2])) * 35 / 36 * 1920
            self.assertGreater(px.max(), 4, row.kind)
            self.assertLess(px.max(), 60, row.kind)

    def test_each_is_documented_and_has_a_form(self) -> None:
        formulas = (ROOT / "docs/formulas.md").read_text()
        drawn = {"cycle": {"points"}, "take": {"recording"}, "gait": {"steps"}}
        for row in SOURCES:
            self.assertIn(f"## {row.title}", formulas)
            shown = {look.field.partition(".")[0] for look in row.fields} | drawn.get(row.kind, set())
            self.assertEqual(shown, set(row.make.model_fields) - {"kind", "start"})

    def test_a_sub_range_equals_the_same_rows(self) -> None:
        for row in SOURCES:
            shot = edited(new_shot("Fresh"), {"type": "add_layer", "source": row.kind})
            whole = contribution(shot, f"{row.kind}-1")
            part = contribution(shot, f"{row.kind}-1", np.arange(100.0, 120.0))
            np.testing.assert_allclose(part, whole[99:119], atol=1e-9, err_msg=row.kind)
