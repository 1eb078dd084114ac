"""Examples in docstrings are true, and public functions of arrays say their shapes."""

import ast
import doctest
import importlib
import pkgutil
import re
import unittest
from pathlib import Path

import zittern.core

ROOT = Path(zittern.core.__file__).parent
# (F, 3), (N,), (F, ...), (A, 1): letters and numbers with a comma.
SHAPE = re.compile(r"\((?:\w+|\.\.\.)(?: [-+] \w+)*,[^)]*\)")
LEAST_EXAMPLES = 15


def public_functions(tree: ast.Module) -> list[tuple[str, ast.FunctionDef]]:
    """Public functions of a module, and public methods of its public classes that are no overriding ones."""
    found = []
    for node in tree.body:
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            found.append((node.name, node))
        if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
            for each in node.body:
                overrides = isinstance(each, ast.FunctionDef) and node.bases and not ast.get_docstring(each)
                if isinstance(each, ast.FunctionDef) and not each.name.startswith("_") and not overrides:
                    found.append((f"{node.name}.{each.name}", each))
    return found


def takes_or_gives_arrays(function: ast.FunctionDef) -> bool:
    arguments = [*function.args.args, *function.args.kwonlyargs]
    named = [each.annotation for each in arguments if each.annotation] + (
        [function.returns] if function.returns else []
    )
    return any(re.search(r"\b(Int)?Array\b", ast.unparse(each)) for each in named)


class Docstrings(unittest.TestCase):
    def test_examples_give_what_they_say(self) -> None:
        tried = 0
        for info in pkgutil.walk_packages(zittern.core.__path__, "zittern.core."):
            module = importlib.import_module(info.name)
            result = doctest.testmod(module, extraglobs={"np": __import__("numpy")})
            tried += result.attempted
            self.assertEqual(result.failed, 0, info.name)
        self.assertGreaterEqual(tried, LEAST_EXAMPLES)

    def test_public_functions_of_arrays_say_their_shapes(self) -> None:
        silent, counted = [], 0
        for path in [*ROOT.rglob("*.py"), *(ROOT.parent / "formats").glob("*.py")]:
            for name, function in public_functions(ast.parse(path.read_text())):
                if takes_or_gives_arrays(function):
                    counted += 1
                    if not SHAPE.search(ast.get_docstring(function) or ""):
                        silent.append(f"{path.relative_to(ROOT.parent)}: {name}")
        self.assertGreater(counted, 150)
        self.assertEqual(silent, [])
