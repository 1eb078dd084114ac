"""Text to tree.

A grammar for an LALR parser that builds the tree as it reads, so that depth and size are known before evaluation.

value   = "if" value "then" value "else" value | either
either  = both {"or" both}          both = compared {"and" compared}        compared = ["not"] sum [("<" | "<=" | ">" |
        ">=" | "=" | "<>") sum]
sum     = product {("+" | "-") product}         product = signed {("*" | "/" | "%") signed}
signed  = ["-" | "+"] signed | powered          powered = atom ["^" signed]
atom    = number | name | name "(" value {"," value} ")" | "if" "(" value "," value "," value ")" | "(" value ")"

A text may begin with `=`, as in a spreadsheet.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache

from lark import Lark, Token, Transformer, v_args
from lark.exceptions import UnexpectedCharacters, UnexpectedToken, VisitError

from zittern.core.formula.fault import FormulaFault, unknown
from zittern.core.formula.functions import CONSTANTS, FUNCTIONS
from zittern.core.formula.tree import BUILT_IN, Call, Choice, Constant, Infix, Name, Node

__all__ = ["MOST_CHARACTERS", "RESERVED", "parse", "renamed", "with_seed"]

MOST_CHARACTERS = 2000
_MOST_DEPTH = 60
_WORDS = ("if", "then", "else", "and", "or", "not")
# Reserved names.
RESERVED: frozenset[str] = frozenset({*BUILT_IN, *CONSTANTS, *FUNCTIONS, *_WORDS})

_GRAMMAR = r"""
?start: value
?value: "if" value "then" value "else" value -> choice
      | either
?either: both
       | either OR both -> infix
?both: compared
     | both AND compared -> infix
?compared: sum
         | sum COMPARE sum -> infix
         | NOT compared -> negation
?sum: product
    | sum ADD product -> infix
?product: signed
        | product TIMES signed -> infix
?signed: ADD signed -> sign
       | powered
?powered: atom
        | atom POWER signed -> infix
?atom: NUMBER -> number
     | NAME -> name
     | NAME "(" value ("," value)* ")" -> call
     | "if" "(" value "," value "," value ")" -> choice
     | "(" value ")"

OR: "or"
AND: "and"
NOT: "not"
COMPARE: "<=" | ">=" | "<>" | "<" | ">" | "="
ADD: "+" | "-"
TIMES: "*" | "/" | "%"
POWER: "^"
NUMBER: /(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?/
NAME: /[A-Za-z_][A-Za-z0-9_]*/
%ignore /[ \t\r\n]+/
"""


def _start(token: Token) -> int:
    return int(token.start_pos or 0)


def _stop(token: Token) -> int:
    return int(token.end_pos or 0)


@v_args(inline=True)
class _Build(Transformer[Token, Node]):
    """Nodes from the bottom up; a tree that grows too deep ends here."""

    def number(self, token: Token) -> Node:
        value = float(token)
        if not math.isfinite(value):
            raise FormulaFault("this number is too large", _start(token), _stop(token))
        return _grown(Constant(_start(token), _stop(token), value))

    def name(self, token: Token) -> Node:
        if str(token) in CONSTANTS:
            return _grown(Constant(_start(token), _stop(token), CONSTANTS[str(token)]))
        if str(token) in FUNCTIONS:
            function = FUNCTIONS[str(token)]
            raise FormulaFault(
                f"`{token}` is a function; write {function.name}({function.arguments})", _start(token), _stop(token)
            )
        return _grown(Name(_start(token), _stop(token), str(token)))

    def call(self, token: Token, *arguments: Node) -> Node:
        function = FUNCTIONS.get(str(token))
        if function is None:
            raise unknown(str(token), FUNCTIONS, _start(token), "is not a function")
        if not function.least <= len(arguments) <= function.most:
            text = (
                f"`{function.name}` takes ({function.arguments}), got {len(arguments)} "
                f"argument{'' if len(arguments) == 1 else 's'}"
            )
            raise FormulaFault(text, _start(token), arguments[-1].stop)
        return _grown(Call(_start(token), arguments[-1].stop, function, arguments))

    def infix(self, left: Node, token: Token, right: Node) -> Node:
        return _grown(Infix(left.start, right.stop, str(token), left, right))

    def sign(self, token: Token, part: Node) -> Node:
        if str(token) == "+":
            return part
        return _grown(Infix(_start(token), part.stop, "-", Constant(_start(token), _start(token), 0.0), part))

    def negation(self, token: Token, part: Node) -> Node:
        return _grown(Infix(_start(token), part.stop, "=", part, Constant(part.stop, part.stop, 0.0)))

    def choice(self, condition: Node, then: Node, other: Node) -> Node:
        return _grown(Choice(condition.start, other.stop, condition, then, other))


def _grown(node: Node) -> Node:
    if node.depth > _MOST_DEPTH:
        raise FormulaFault(
            f"this is nested more than {_MOST_DEPTH} deep; split it up with a dial", node.start, node.stop
        )
    return node


_PARSER = Lark(_GRAMMAR, parser="lalr", lexer="basic", transformer=_Build())
_VALUE = "a number, a name or `(`"
_LEADING = re.compile(r"^\s*=(?!=)")
# Tokens that may come next, in display form; any other starts a value.
_NEXT = {"RPAR": "`)`", "COMMA": "`,`", "THEN": "`then`", "ELSE": "`else`"}
# Common alternative spellings, and the correct ones.
_INSTEAD = {
    "=": "write = once", "*": "write ^ for powers", "!": "write <> for not equal, or not", "&": "write and",
    "|": "write or",
    ".": "dot access is not supported", "[": "there are no lists; write round brackets",
    "{": "write round brackets", ";": "one formula has one value",
    "'": "text is not supported in formulas", '"': "text is not supported in formulas", "?": "write if … then … else …",
}  # fmt: skip


@lru_cache(maxsize=2048)
def parse(text: str) -> Node:
    """Return the tree of a formula. Raises FormulaFault; names are not resolved here."""
    if len(text) > MOST_CHARACTERS:
        raise FormulaFault(
            f"expected a formula of up to {MOST_CHARACTERS} characters, got {len(text)}", MOST_CHARACTERS, len(text)
        )
    # Positions of errors refer to the text as typed.
    read = _LEADING.sub(lambda found: " " * len(found[0]), text)
    if not read.strip():
        raise FormulaFault(f"a formula needs {_VALUE}", 0, 0)
    try:
        node: Node = _PARSER.parse(read)  # type: ignore[assignment]
        return node
    except VisitError as error:
        if isinstance(error.orig_exc, FormulaFault):
            raise error.orig_exc from error
        raise
    except UnexpectedCharacters as error:
        raise _strange(text, int(error.pos_in_stream or 0)) from error
    except UnexpectedToken as error:
        raise _misplaced(text, error) from error


def _strange(text: str, at: int) -> FormulaFault:
    character = text[at]
    if character in _INSTEAD:
        return FormulaFault(f"`{character}` means nothing here: {_INSTEAD[character]}", at, at + 1)
    shown = character if character.isprintable() else f"character {ord(character)}"
    return FormulaFault(
        f"`{shown}` is not allowed in a formula; names have the letters a to z, digits and _", at, at + 1
    )


def _misplaced(text: str, error: UnexpectedToken) -> FormulaFault:
    expected = " or ".join(_NEXT[each] for each in _NEXT if each in error.accepts) if error.accepts else ""
    wanted = (
        _VALUE if error.accepts and "NUMBER" in error.accepts else expected or "a sign such as + between two values"
    )
    if error.token.type == "$END":
        end = len(text.rstrip())
        return FormulaFault(f"something is missing at the end: {wanted}", end, end)
    token = str(error.token)
    start = _start(error.token)
    before = text[start - 1 : start]
    if token in ("=", "*") and before in ("=", "*", "<", ">"):
        return FormulaFault(f"`{before}{token}` means nothing here: {_INSTEAD[token]}", start - 1, start + 1)
    return FormulaFault(f"`{token[:40]}` cannot stand here; expected {wanted}", start, _stop(error.token))


def renamed(text: str, old: str, new: str) -> str:
    """Return a formula, right or wrong, with one name changed wherever it stands alone.

    Never inside of a number such as `1.e5`.
    """
    return _WORD.sub(lambda found: new if found["name"] == old else found[0], text)


def with_seed(text: str) -> str:
    """Return a formula with `noise(x)` written as `noise(x, 0)`.

    Invalid texts too; one that would become too long is unchanged.
    """
    out = text
    for found in reversed(list(_WORD.finditer(text))):
        opened = re.match(r"\s*\(", text[found.end() :]) if found["name"] == "noise" else None
        if opened is None:
            continue
        depth, one = 1, True
        for at in range(found.end() + opened.end(), len(out)):
            depth += (out[at] == "(") - (out[at] == ")")
            one = one and not (depth == 1 and out[at] == ",")
            if depth == 0:
                out = f"{out[:at]}, 0{out[at:]}" if one else out
                break
    return out if len(out) <= MOST_CHARACTERS else text


# Numbers and names, as the grammar reads them: the longest at each place.
_WORD = re.compile(r"(?P<number>(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)|(?P<name>[A-Za-z_][A-Za-z0-9_]*)")
