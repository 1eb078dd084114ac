import unittest
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from pydantic_core._pydantic_core import list_all_errors

from zittern.core import refusals
from zittern.core.refusals import in_words


class Leaf(BaseModel):
    kind: Literal["leaf"] = "leaf"


class Twig(BaseModel):
    kind: Literal["twig"] = "twig"


class Made(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    share: float = Field(0.0, ge=0.0, le=1.0)
    over: float = Field(1.0, gt=0.0, lt=2.5)
    count: int = 1
    name: str = Field("a", min_length=1, max_length=8)
    locked: bool = False
    way: Literal["in", "out"] = "in"
    places: tuple[float, ...] = Field((), max_length=2)
    leaf: Leaf = Leaf()
    part: Annotated[Leaf | Twig, Field(discriminator="kind")] = Leaf()


class InWords(unittest.TestCase):
    def said(self, fields: Any) -> str:
        with self.assertRaises(ValidationError) as caught:
            Made.model_validate(fields)
        return in_words(caught.exception.errors()[0])

    def test_what_is_refused_is_said_as_people_say_it(self) -> None:
        for fields, words in (
            ({"share": -0.5}, "expected at least 0, got -0.5"),
            ({"share": 1.5}, "expected 1 or less, got 1.5"),
            ({"over": 0}, "expected more than 0, got 0"),
            ({"over": 2.5}, "expected less than 2.5, got 2.5"),
            ({"share": float("nan")}, "expected a finite number, got nan"),
            ({"share": "wide"}, "expected a number, got 'wide'"),
            ({"count": 1.5}, "expected a whole number, got 1.5"),
            ({"count": None}, "expected a whole number"),
            ({"name": ""}, "expected a text of at least 1, got ''"),
            ({"name": "n" * 20}, f"expected a text of up to 8 characters, got '{'n' * 20}'"),
            ({"name": "n" * 2_000}, "expected a text of up to 8 characters"),
            ({"locked": "perhaps"}, "expected true or false, got 'perhaps'"),
            ({"way": "up"}, "expected 'in' or 'out', got 'up'"),
            ({"places": (1, 2, 3)}, "expected 2 or fewer, got 3"),
            ({"places": 7}, "expected a list, got 7"),
            ({"leaf": 7}, "expected an object with fields, got 7"),
            ({"part": {"kind": "root"}}, "there is no 'kind' 'root'; there are 'leaf', 'twig'"),
            ({"part": {}}, "'kind' is missing here"),
            ({"wobble": 1}, "there is no such field"),
        ):
            with self.subTest(words):
                self.assertEqual(self.said(fields), words)

    def test_a_number_that_cannot_be_written_is_not_told(self) -> None:
        self.assertEqual(self.said({"share": 10**5_000}), "expected a number")
        self.assertEqual(self.said({"over": 10**70}), "expected less than 2.5")

    def test_of_very_many_choices_some_are_told(self) -> None:
        kinds = ", ".join(f"'kind-{n}'" for n in range(90))
        context = {"discriminator": "'type'", "tag": "x" * 5_000, "expected_tags": kinds}
        said = in_words({"type": "union_tag_invalid", "msg": "", "ctx": context})
        self.assertRegex(said, "^there is no 'type' 'x+…'; there are 'kind-0', .*'kind-1[0-9]' and more$")
        self.assertLess(len(said), 500)

    def test_each_row_has_what_it_tells_of(self) -> None:
        known = {each["type"]: each for each in list_all_errors()}
        for kind in refusals._WORDS:
            with self.subTest(kind):
                fault = {"type": kind, "msg": "", "ctx": known[kind].get("example_context") or {}}
                self.assertNotIn("{", in_words(fault))


if __name__ == "__main__":
    unittest.main()
