"""Promises about how the code is built that no linter keeps."""

import ast
import json
import re
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[1]
PAGE = ROOT / "web/src"
MOST_LINES = 66


def sources(*endings: str) -> list[Path]:
    """Files of the page that people wrote."""
    return [path for path in PAGE.rglob("*") if path.suffix in endings and path.name != "schema.ts"]


def components(text: str) -> list[tuple[str, int]]:
    """Names of components and the lines of their bodies."""
    lines = text.split("\n")
    found = []
    for i, line in enumerate(lines):
        if match := re.match(r"(?:export )?function ([A-Z]\w*)", line):
            start = next(k for k in range(i, len(lines)) if lines[k].endswith("{"))
            end = next(k for k in range(start, len(lines)) if lines[k] == "}")
            found.append((match[1], end - start - 1))
    return found


class Maps(unittest.TestCase):
    def test_the_map_of_each_package_names_just_what_is_in_its_folder(self) -> None:
        maps = [
            path
            for path in (ROOT / "zittern").rglob("__init__.py")
            if "migrations" not in path.parts and "web_dist" not in path.parts
        ]
        self.assertGreater(len(maps), 10)
        for path in maps:
            here = {each.stem for each in path.parent.glob("*.py")} | {
                each.parent.name for each in path.parent.glob("*/__init__.py")
            }
            here -= {"__init__", "__main__"}
            text = ast.get_docstring(ast.parse(path.read_text())) or ""
            named = re.findall(
                r"^([a-z]\w*) +\S", text.partition("\n")[2].partition("\n\nIn array shapes")[0], re.MULTILINE
            )
            with self.subTest(package=str(path.parent.relative_to(ROOT))):
                self.assertEqual(sorted(named), sorted(here) if named or here else [])


# A folder of the page imports from those before it, and itself; features, each a folder, not even from each other.
# The Bench, which composes them, comes after.
LAYERS = ("api", "stores", "shared", "acts", "parts", "features", "features/bench", "app")


def room(path: Path) -> str:
    """The folder that a file of the page belongs to, as people speak of it."""
    parts = path.relative_to(PAGE).parts
    return f"features/{parts[1]}" if parts[0] == "features" else parts[0]


def rank(name: str) -> int:
    return LAYERS.index(name if name in LAYERS else "features")


def imported(path: Path) -> list[Path]:
    """Files of the page that one of them imports."""
    found = []
    for spec in re.findall(r"(?:from|import) \(?\"(\.[^\"]*)\"|import\(\"(\.[^\"]*)\"\)", path.read_text()):
        target = (path.parent / (spec[0] or spec[1])).resolve()
        tries = [Path(f"{target}{end}") for end in (".ts", ".tsx", "/index.ts")]
        found += [each for each in tries if each.is_file()][:1]
    return found


class Arrays(unittest.TestCase):
    def test_public_functions_of_the_core_say_shapes_and_units_of_arrays_in_sections(self) -> None:
        without, with_sections = [], 0
        for path in sorted((ROOT / "zittern" / "core").rglob("*.py")):
            for where, function in _public(ast.parse(path.read_text()), path.stem):
                text = ast.get_docstring(function)
                named = [each for each in (*function.args.args, *function.args.kwonlyargs) if each.annotation]
                takes = [each.arg for each in named if _ARRAY.search(ast.unparse(each.annotation or function.args))]
                gives = function.returns is not None and _ARRAY.match(ast.unparse(function.returns))
                if not text or not (takes or gives):
                    continue
                with_sections += 1
                told = "Parameters\n---" in text if takes else "Returns\n---" in text
                if not told or not all(re.search(rf"\n{name} ?: ", text) for name in takes):
                    without.append(where)
        self.assertEqual(without, [])
        self.assertGreater(with_sections, 150)

    def test_no_shape_stands_alone(self) -> None:
        """A shape repeats the signature; unit and meaning follow it."""
        alone = re.compile(r"^ +(\w+ ?: ?)?\([A-Z0-9, ]+\)\.?$", re.MULTILINE)
        found = [str(path) for path in sorted((ROOT / "zittern").rglob("*.py")) if alone.search(path.read_text())]
        self.assertEqual(found, [])


# Arrays themselves; not functions of arrays.
_ARRAY = re.compile(r"^(Array|IntArray|BoolArray|FloatOrArray|Array \| (float|None))$")


def _public(body: ast.AST, where: str) -> list[tuple[str, ast.FunctionDef]]:
    """Functions and methods that others may call, with their places."""
    found = []
    for each in ast.iter_child_nodes(body):
        if isinstance(each, ast.ClassDef) and not each.name.startswith("_"):
            found += _public(each, f"{where}.{each.name}")
        if isinstance(each, ast.FunctionDef) and not each.name.startswith("_"):
            found.append((f"{where}.{each.name}", each))
    return found


class Imports(unittest.TestCase):
    def test_scipy_is_imported_in_one_place(self) -> None:
        """Where several threads do, one of them is handed half of it."""
        found = []
        for path in sorted((ROOT / "zittern").rglob("*.py")):
            for node in ast.walk(ast.parse(path.read_text())):
                names = [each.name for each in node.names] if isinstance(node, ast.Import) else []
                names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
                found += [path.name for name in names if name.split(".")[0] == "scipy"]
        self.assertEqual(found, [])


class Page(unittest.TestCase):
    def test_imports_go_one_way(self) -> None:
        wrong = []
        count = 0
        for path in sources(".ts", ".tsx"):
            for other in imported(path):
                here, there = room(path), room(other)
                count += 1
                if here != there and rank(here) <= rank(there):
                    wrong.append(f"{path.relative_to(PAGE)} -> {other.relative_to(PAGE)}")
        self.assertGreater(count, 500)
        self.assertEqual(wrong, [])

    def test_no_file_imports_itself_by_way_of_others(self) -> None:
        ways = {path: imported(path) for path in sources(".ts", ".tsx")}
        left = dict(ways)
        while free := [path for path, others in left.items() if not any(each in left for each in others)]:
            for path in free:
                del left[path]
        self.assertEqual([str(path.relative_to(PAGE)) for path in left], [])

    def test_states_of_numbers_are_told_apart_in_one_module(self) -> None:
        telling = {
            path.name
            for path in sources(".ts", ".tsx")
            if re.search(r"state [!=]== \"(fixed|keyed)\"|\.curve\.keys", path.read_text())
        }
        self.assertEqual(telling, {"param.ts"})

    def test_no_component_is_long(self) -> None:
        long = [
            (path.name, *each)
            for path in sources(".tsx")
            for each in components(path.read_text())
            if each[1] > MOST_LINES
        ]
        self.assertEqual(long, [])

    def test_every_package_is_used(self) -> None:
        text = "\n".join(path.read_text() for path in [*sources(".ts", ".tsx", ".css"), ROOT / "web/vite.config.ts"])
        packages = json.loads((ROOT / "web/package.json").read_text())["dependencies"]
        unused = [name for name in packages if not re.search(rf"[\"']{re.escape(name)}[/\"']", text)]
        self.assertEqual(unused, [])

    def test_no_key_is_given_twice(self) -> None:
        text = "\n".join(path.read_text() for path in (PAGE / "features/commands").glob("*.ts"))
        keys = re.findall(r"[\[ ]\"((?:Ctrl\+)?(?:Shift\+)?[A-Z])\"(?=[\],])", text)
        self.assertEqual((sorted(set(keys)), len(keys) > 20), (sorted(keys), True))

    def test_drags_are_made_in_one_place(self) -> None:
        by_hand = {
            path.name
            for path in sources(".ts", ".tsx")
            if re.search(r"onPointerMove|\"pointermove\"", path.read_text())
        }
        self.assertEqual(by_hand, {"useCameraDrag.ts"}, "it listens for what the pointer is over while nothing is held")

    def test_units_and_limits_of_axes_stand_with_the_server(self) -> None:
        for path in sources(".ts", ".tsx"):
            self.assertIsNone(re.search(r"pedestal: (\d|\"(°|cm|%)\")", path.read_text()), path.name)
