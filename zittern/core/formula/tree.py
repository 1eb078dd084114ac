"""A checked formula: a tree of small nodes, evaluated on whole arrays over frames.

It can access the names in it, and nothing else.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
import numpy.typing as npt

from zittern.core.formula.functions import LARGEST, Function, divided, power, remainder
from zittern.core.units import Array

__all__ = [
    "AXIS_NAME", "BUILT_IN", "FRAME_ALIAS", "Call", "Choice", "Constant", "Infix", "Name", "Node", "Notices",
    "may_jump", "name_nodes", "names_in", "nodes_in", "values_of", "varies_by_axis",
]  # fmt: skip

# Built-in names of every formula, with descriptions.
BUILT_IN: dict[str, str] = {
    "t": "seconds from the shot's first frame",
    "f": "the frame",
    "fps": "frames per second",
    "u": "0 at the start of the span, 1 at its end",
}
# Another name of `f`, wherever no dial has it.
FRAME_ALIAS = "frame"
# Internal input that differs by axis; formulas cannot name it.
AXIS_NAME = "·axis"
Look = Callable[[str], Array]


@dataclass
class Notices:
    """Values that were not finite during the evaluation of a formula."""

    texts: list[str] = field(default_factory=list)

    def add(self, text: str) -> None:
        """Each once."""
        if text not in self.texts:
            self.texts.append(text)


class _Unheard(Notices):
    """Collects no notices."""

    def add(self, text: str) -> None:
        """Drop it."""


_UNHEARD = _Unheard()


@dataclass(frozen=True)
class Node:
    """start, stop: its position in the text."""

    start: int
    stop: int

    @cached_property
    def depth(self) -> int:
        """Return the depth of the tree. A tree is built from the leaves, so the recursion depth is one."""
        return 1 + max((part.depth for part in self.parts), default=0)

    @property
    def parts(self) -> tuple[Node, ...]:
        """Return the children."""
        return ()

    @property
    def bound(self) -> float:
        """Return a bound of the values that is known without evaluation.

        Bounded values need not be checked for overflow at each frame.
        """
        return math.inf

    @cached_property
    def tame(self) -> bool:
        """Return whether no operation can overflow a double: sums and products of bounded values."""
        return all(part.tame for part in self.parts)

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the values.

        Returns
        -------
        (F,), or one number for all frames.
        """
        raise NotImplementedError


@dataclass(frozen=True)
class Constant(Node):
    """A number."""

    value: float

    @property
    def bound(self) -> float:
        """Return its absolute value."""
        return min(abs(self.value), LARGEST)

    @cached_property
    def _one(self) -> Array:
        one = np.asarray(self.value)
        one.flags.writeable = False
        return one

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the value.

        Returns
        -------
        (F,) at the frames of the evaluation, or (1,) if constant.
        """
        return self._one if abs(self.value) <= LARGEST else _finite(self._one, notices)


@dataclass(frozen=True)
class Name(Node):
    """A dial, the time or a path attribute."""

    name: str

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the values of the name.

        Returns
        -------
        (F,) at the frames of the evaluation, or (1,) if constant.
        """
        return look(self.name)


@dataclass(frozen=True)
class Infix(Node):
    """An operator between two operands."""

    sign: str
    left: Node
    right: Node

    @property
    def parts(self) -> tuple[Node, ...]:
        """Return both operands."""
        return self.left, self.right

    @cached_property
    def bound(self) -> float:
        """Return the bound of a product; infinite for other operators."""
        if self.sign == "*":
            return self.left.bound * self.right.bound
        return self.left.bound + self.right.bound if self.sign in ("+", "-") else math.inf

    @cached_property
    def tame(self) -> bool:
        """Return whether the operation cannot overflow."""
        return self.sign in ("+", "-", "*") and self.left.tame and self.right.tame

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the result of the operator.

        Returns
        -------
        (F,) at the frames of the evaluation, or (1,) if constant.
        """
        a, b = self.left.values(look, notices), self.right.values(look, notices)
        if self.sign in ("/", "%") and np.any(b == 0.0):
            notices.add("a division by zero counts as 0")
        values = _INFIX[self.sign](a, b)
        return values if self.bound <= LARGEST else _finite(values, notices)


@dataclass(frozen=True)
class Choice(Node):
    """`if` condition `then` one `else` other."""

    condition: Node
    then: Node
    other: Node

    @property
    def parts(self) -> tuple[Node, ...]:
        """Return the condition and both alternatives."""
        return self.condition, self.then, self.other

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the chosen values.

        Returns
        -------
        (F,) at the frames of the evaluation, or (1,) if constant.
        """
        condition, then, other = (part.values(look, notices) for part in self.parts)
        return np.where(condition != 0.0, then, other)


@dataclass(frozen=True)
class Call(Node):
    """A function and its arguments."""

    function: Function
    arguments: tuple[Node, ...]

    @property
    def parts(self) -> tuple[Node, ...]:
        """Return the arguments."""
        return self.arguments

    @cached_property
    def by_axis(self) -> bool:
        """Return whether its last argument is the axis."""
        return self.function.by_axis and len(self.arguments) < self.function.most

    @cached_property
    def bound(self) -> float:
        """Return the bound of the function."""
        return self.function.bound

    @cached_property
    def tame(self) -> bool:
        """Return whether the function is bounded."""
        return self.bound <= LARGEST and all(part.tame for part in self.parts)

    def values(self, look: Look, notices: Notices) -> Array:
        """Return the result of the function.

        Returns
        -------
        (F,) at the frames of the evaluation, or (1,) if constant.
        """
        arguments = [each.values(look, notices) for each in self.arguments]
        if self.by_axis:
            arguments.append(look(AXIS_NAME))
        missing = _MISSING.get(self.function.name)
        if missing is not None and np.any(missing[0](*arguments)):
            notices.add(missing[1])
        values = self.function.does(*arguments)
        return values if self.bound <= LARGEST else _finite(values, notices)


def values_of(node: Node, look: Look, count: int, notices: Notices | None = None) -> Array:
    """Return a formula's values over frames, finite whatever was written.

    Returns
    -------
    (F,), so many.
    """
    told = _UNHEARD if notices is None else notices
    if node.tame:
        values = node.values(look, told)
    else:
        with np.errstate(all="ignore"):
            values = node.values(look, told)
    if values.shape == (count,) and isinstance(node, Infix):
        return values
    out = np.empty(count)
    out[:] = values
    return out


def names_in(node: Node) -> frozenset[str]:
    """Every name that a formula uses."""
    return frozenset(each.name for each in name_nodes(node))


def name_nodes(node: Node) -> Iterator[Name]:
    """Return the names in a formula where they stand, from left to right."""
    return (each for each in nodes_in(node) if isinstance(each, Name))


def nodes_in(node: Node) -> Iterator[Node]:
    """All nodes of a formula, from left to right."""
    yield node
    for part in node.parts:
        yield from nodes_in(part)


def varies_by_axis(node: Node) -> bool:
    """Return whether a formula has a different value for each axis."""
    return any(isinstance(each, Call) and each.by_axis for each in nodes_in(node))


def may_jump(node: Node) -> bool:
    """Return whether a formula's value may jump where its inputs do not."""

    def jumps(each: Node) -> bool:
        if isinstance(each, Infix):
            return each.sign not in ("+", "-", "*", "^")
        return isinstance(each, Choice) or (isinstance(each, Call) and each.function.jumps)

    return any(map(jumps, nodes_in(node)))


def _finite(values: Array, notices: Notices) -> Array:
    # Like `np.max`, twice as fast for a few hundred frames.
    most = np.maximum.reduce(values, axis=None, initial=0.0)
    if most <= LARGEST and np.minimum.reduce(values, axis=None, initial=0.0) >= -LARGEST:
        return np.asarray(values, dtype=np.float64)
    notices.add(f"what is too large stays at {LARGEST:g}")
    return np.clip(np.nan_to_num(values, nan=0.0, posinf=LARGEST, neginf=-LARGEST), -LARGEST, LARGEST)


def _flag(holds: npt.NDArray[np.bool_]) -> Array:
    return np.where(holds, 1.0, 0.0)


_INFIX: dict[str, Callable[[Array, Array], Array]] = {
    "+": np.add,
    "-": np.subtract,
    "*": np.multiply,
    "/": divided,
    "%": remainder,
    "^": power,
    "<": lambda a, b: _flag(a < b),
    "<=": lambda a, b: _flag(a <= b),
    ">": lambda a, b: _flag(a > b),
    ">=": lambda a, b: _flag(a >= b),
    "=": lambda a, b: _flag(a == b),
    "<>": lambda a, b: _flag(a != b),
    "and": lambda a, b: _flag((a != 0.0) & (b != 0.0)),
    "or": lambda a, b: _flag((a != 0.0) | (b != 0.0)),
}
# Arguments for which a function has no finite value.
_MISSING: dict[str, tuple[Callable[..., Array], str]] = {
    "log": (lambda x: x <= 0.0, "the logarithm of what is 0 or less counts as 0"),
    "sqrt": (lambda x: x < 0.0, "the root of what is negative counts as 0"),
    "mod": (lambda a, b: b == 0.0, "a division by zero counts as 0"),
}
