"""The public names and their signatures: a change of them is a new version."""

import inspect
import subprocess
import sys
import unittest
from pathlib import Path

import zittern

LIST = Path(__file__).parents[1] / "data/python_api.txt"


def public() -> list[str]:
    """One line for each public name, method and field."""
    lines = [f"version {zittern.__version__.rpartition('.')[0]}"]
    for name in sorted(zittern.__all__):
        value = getattr(zittern, name)
        if inspect.isclass(value):
            lines.append(f"class {name}")
            for member in sorted(vars(value)):
                given = inspect.getattr_static(value, member)
                if member.startswith("_"):
                    continue
                shape = str(inspect.signature(given)) if inspect.isfunction(given) else ""
                lines.append(f"    {member}{shape}")
        elif callable(value):
            lines.append(f"{name}{inspect.signature(value)}")
    return lines


class Names(unittest.TestCase):
    def test_names_and_signatures_are_those_of_this_version(self) -> None:
        self.assertEqual(public(), LIST.read_text().splitlines(), "raise the version, and write the list anew")

    def test_the_package_loads_nothing_until_a_name_is_used(self) -> None:
        code = "import sys, zittern; print('numpy' in sys.modules); zittern.presets(); print('numpy' in sys.modules)"
        out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        self.assertEqual(out.stdout.split(), ["False", "True"])

    def test_other_names_do_not_exist(self) -> None:
        self.assertEqual(set(dir(zittern)), set(zittern.__all__))
        with self.assertRaisesRegex(AttributeError, "no attribute 'nothing'"):
            zittern.nothing  # noqa: B018
