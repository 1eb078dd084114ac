"""All texts of the interface, from the page and from Python, in one file to be read over: `make words` writes
docs/words.txt.
"""

from __future__ import annotations

import ast
import re
import subprocess
from collections.abc import Iterator
from pathlib import Path

from zittern.store.shipped import shipped_presets, shipped_rigs

__all__ = ["OUT", "words"]

_WITH_DOCSTRINGS = (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)

ROOT = Path(__file__).parent.parent
OUT = ROOT / "docs/words.txt"
_MACHINE = re.compile(
    r"^[\W\d_]*$|^[a-z0-9_.:#/{}\[\]<>=*%+-]+$|^(SELECT|INSERT|UPDATE|DELETE|CREATE|PRAGMA|ALTER|BEGIN)\b|^\.|\\d|^[A-Z_]+$"
)
# Tools for developers, and what the database is told.
_LEFT_OUT = ("migrations", "web_dist", "bench.py", "benching", "engine.py", "tables.py")


def words() -> str:
    """The texts: of the page, then of Python; {} marks a placeholder."""
    page = subprocess.run(["node", "tools/words.mjs"], cwd=ROOT, check=True, capture_output=True, text=True).stdout
    python = "\n".join(sorted({*_of_python(), *_of_data()}))
    head = "# Made by `make words`: texts of the interface. {} marks a placeholder."
    return f"{head}\n\n## Page\n\n{page}\n\n## Python\n\n{python}\n"


def _of_data() -> Iterator[str]:
    for preset in shipped_presets().values():
        corners = preset.blend.corners if preset.blend else ()
        yield from (preset.name, preset.line, *(each.name for each in (*preset.layers, *corners)))
    for rig in shipped_rigs().values():
        yield from (rig.name, rig.line, *(mount.name for mount in rig.mounts))


def _of_python() -> Iterator[str]:
    for path in sorted((ROOT / "zittern").rglob("*.py")):
        if any(part in _LEFT_OUT for part in path.parts):
            continue
        tree = ast.parse(path.read_text())
        silent = {id(node) for node in _silent(tree)}
        for node in ast.walk(tree):
            if id(node) in silent:
                continue
            if isinstance(node, ast.JoinedStr):
                silent |= {id(each) for each in ast.walk(node)}
                text = "".join(str(each.value) if isinstance(each, ast.Constant) else "{}" for each in node.values)
            elif isinstance(node, ast.Constant) and isinstance(node.value, str):
                text = node.value
            else:
                continue
            text = " ".join(text.split())
            if len(text) > 2 and not _MACHINE.search(text):
                yield text


def _silent(tree: ast.Module) -> Iterator[ast.AST]:
    """Docstrings and types: not read by people who use it."""
    for node in ast.walk(tree):
        if isinstance(node, _WITH_DOCSTRINGS) and ast.get_docstring(node, clean=False) is not None:
            yield node.body[0].value  # type: ignore[attr-defined]  # a docstring is an expression
        if isinstance(node, ast.AnnAssign):
            yield from ast.walk(node.annotation)
        if isinstance(node, ast.Subscript):
            yield from ast.walk(node.slice)


if __name__ == "__main__":
    OUT.write_text(words())
