import unittest
from typing import Annotated, Literal

from pydantic import Field

from zittern.core.axes import AXES, AXIS_INFO
from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.looks import Look, described
from zittern.core.numbers.param import Param, fixed
from zittern.core.sources.table import SOURCES
from zittern.core.sources.wave import Phases


class Engine(Doc):
    """A document with a field of each kind."""

    rate_hz: Annotated[Param, bounded(0.5, 20.0)] = fixed(1.0)
    cylinders: int = Field(default=4, ge=1, le=3)
    make: Literal["steam", "oil"] = "oil"
    idle: bool = False
    phase_deg: Phases = Phases()
    name: str = ""


class Described(unittest.TestCase):
    def test_limits_and_choices_follow_from_the_document(self) -> None:
        looks = (
            Look("rate_hz", "rate", "rpm", times=60.0, step=2.0),
            Look("cylinders", "cylinders"),
            Look("make", "make"),
            Look("idle", "idles", hint="Slow"),
        )
        rate, cylinders, make, idle = described(Engine, looks)
        self.assertEqual(
            (rate.kind, rate.least, rate.most, rate.times, rate.step, rate.group),
            ("number", 30.0, 1200.0, 60.0, 2.0, "rate"),
        )
        self.assertEqual((cylinders.kind, cylinders.choices), ("choice", (1, 2, 3)))
        self.assertEqual((make.kind, make.choices), ("choice", ("steam", "oil")))
        self.assertEqual((idle.kind, idle.hint), ("switch", "Slow"))

    def test_titles_of_choices_are_of_choices_that_there_are(self) -> None:
        looks = [look for row in SOURCES for look in row.fields if look.titles]
        self.assertEqual(
            {(look.field, each) for look in looks for each in look.titles.values()},
            {("legs", "average"), ("springs", "stiff")},
        )
        for look in looks:
            self.assertLessEqual(set(look.titles), set(look.choices))

    def test_a_field_with_a_number_an_axis_gives_seven(self) -> None:
        rows = described(Engine, (Look("phase_deg", "phase", "°", group="phases"),))
        self.assertEqual([row.axis for row in rows], list(AXES))
        self.assertEqual(
            (rows[1].field, rows[1].title, rows[1].ink, rows[1].most), ("phase_deg.tilt", "tilt phase", "tilt", 3600.0)
        )
        own = described(Engine, (Look("phase_deg", "offset"),))
        self.assertEqual([row.unit for row in own], [info.sign for info in AXIS_INFO])

    def test_percent_is_a_hundred_times_a_share(self) -> None:
        self.assertEqual((Look.percent("a", "b").times, Look.percent("a", "b").unit), (100.0, "%"))

    def test_what_no_form_can_show(self) -> None:
        with self.assertRaisesRegex(TypeError, "'name'"):
            described(Engine, (Look("name", "name"),))
