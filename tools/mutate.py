"""`make mutate`: random changes of the core, one at a time, each in a copy of the tree; how many of them the tests
notice.

A change swaps a sign, an operator or a condition, or moves a number. The tests that mirror the changed module are run
first, all of the core's where those pass.

python -m tools.mutate --count 60 --seed 1
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

__all__ = ["Mutant", "mutants", "run"]

ROOT = Path(__file__).parent.parent
# Of every hundred changes the tests should notice so many.
AIM_PERCENT = 85
_MIRROR_S, _ALL_S = 300, 900
# A condition turns into its opposite: whether a boundary belongs to it makes no difference to numbers that never lie
# just there.
_COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In,
}  # fmt: skip
_COMPUTED: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.Mod: ast.Mult,
}


@dataclass(frozen=True, slots=True)
class Mutant:
    """A change at a line of a source: what was there, what is there now; start, stop: characters that it takes the
    place of.
    """

    line: int
    before: str
    after: str
    start: int
    stop: int

    def put_into(self, source: str) -> str:
        """The source with the change."""
        return source[: self.start] + self.after + source[self.stop :]


def mutants(source: str) -> list[Mutant]:
    """All changes that this tool knows of a source; texts, types and lists of names are left alone."""
    begins = [0]
    for line in source.splitlines(keepends=True):
        begins.append(begins[-1] + len(line))
    lines = source.splitlines(keepends=True)

    def place(line: int, column: int) -> int:
        return begins[line - 1] + len(lines[line - 1].encode()[:column].decode())

    found = []
    for node, other in _changed(ast.parse(source)):
        assert node.end_lineno is not None and node.end_col_offset is not None
        start, stop = place(node.lineno, node.col_offset), place(node.end_lineno, node.end_col_offset)
        found.append(Mutant(node.lineno, source[start:stop], f"({ast.unparse(other)})", start, stop))
    return found


def _changed(tree: ast.AST) -> Iterator[tuple[ast.expr, ast.expr]]:
    """Each expression that can be another, and the other."""
    for node in _within_functions(tree):
        if isinstance(node, ast.Compare) and type(node.ops[0]) in _COMPARED:
            yield node, ast.Compare(node.left, [_COMPARED[type(node.ops[0])](), *node.ops[1:]], node.comparators)
        elif (
            isinstance(node, ast.BinOp)
            and type(node.op) in _COMPUTED
            and not isinstance(node.left, ast.Constant | ast.JoinedStr)
        ):
            yield node, ast.BinOp(node.left, _COMPUTED[type(node.op)](), node.right)
        elif isinstance(node, ast.BoolOp):
            yield node, ast.BoolOp(ast.And() if isinstance(node.op, ast.Or) else ast.Or(), node.values)
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            yield node, node.operand
        elif isinstance(node, ast.IfExp):
            yield node, ast.IfExp(node.test, node.orelse, node.body)
        elif isinstance(node, ast.Constant) and type(node.value) in (int, float):
            yield node, ast.Constant(node.value + 1 if isinstance(node.value, int) else node.value * 1.5 + 0.25)


def _within_functions(tree: ast.AST) -> Iterator[ast.AST]:
    """Nodes of bodies of functions, without annotations, defaults, decorators, and what stands in a message of an
    error.
    """
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            for part in node.body:
                yield from _walk(part)


def _walk(node: ast.AST) -> Iterator[ast.AST]:
    if isinstance(node, ast.Raise | ast.Assert | ast.AnnAssign | ast.FunctionDef | ast.ClassDef | ast.JoinedStr):
        return
    yield node
    for child in ast.iter_child_nodes(node):
        yield from _walk(child)


def run(count: int, seed: int, folder: str = "zittern/core") -> Iterator[tuple[Path, Mutant, bool]]:
    """Random changes, each with whether a test noticed it."""
    rng = random.Random(seed)
    every = [
        (path, mutant)
        for path in sorted((ROOT / folder).rglob("*.py"))
        for mutant in mutants(path.read_text(encoding="utf-8"))
    ]
    with tempfile.TemporaryDirectory() as holder:
        copy = Path(holder) / "tree"
        for name in ("zittern", "tests", "tools", "docs", "web/package.json", "pyproject.toml"):
            source = ROOT / name
            (copy / name).parent.mkdir(parents=True, exist_ok=True)
            if source.is_dir():
                shutil.copytree(source, copy / name, ignore=shutil.ignore_patterns("__pycache__", "web_dist"))
            else:
                shutil.copy(source, copy / name)
        for path, mutant in rng.sample(every, min(count, len(every))):
            here = copy / path.relative_to(ROOT)
            source = path.read_text(encoding="utf-8")
            here.write_text(mutant.put_into(source), encoding="utf-8")
            yield path.relative_to(ROOT), mutant, _noticed(copy, path.relative_to(ROOT))
            here.write_text(source, encoding="utf-8")


def _noticed(copy: Path, changed: Path) -> bool:
    """Whether a test fails in a copy of the tree, or never ends."""
    inside = changed.relative_to("zittern")
    mirror = ".".join(("tests", *inside.parent.parts, f"test_{inside.stem}"))
    if (copy / Path(*mirror.split("."))).with_suffix(".py").is_file() and _fails(
        copy, ["-m", "unittest", "-f", mirror], _MIRROR_S
    ):
        return True
    return _fails(copy, ["-m", "tests.run", "--core", "--first"], _ALL_S)


def _fails(copy: Path, arguments: list[str], limit_s: float) -> bool:
    environment = {**os.environ, "PYTHONPATH": str(copy), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        done = subprocess.run(
            [sys.executable, *arguments], cwd=copy, env=environment, capture_output=True, timeout=limit_s, check=False
        )
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def main() -> int:
    """0 when enough were noticed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    noticed = 0
    for number, (path, mutant, told) in enumerate(run(given.count, given.seed), start=1):
        noticed += told
        if not told:
            print(f"not noticed: {path}:{mutant.line}: {mutant.before} → {mutant.after}")
        print(f"{noticed} of {number} noticed", flush=True)
    return int(100 * noticed < AIM_PERCENT * given.count)


if __name__ == "__main__":
    sys.exit(main())
