"""What can be changed in a module of core, one thing at a time: comparisons, guards, signs, factors, constants."""

from __future__ import annotations

import ast
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import Final

CORE: Final = Path(__file__).parents[1] / "src/vinegate/core"
_COMPARE: Final = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}
_ARITHMETIC: Final = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


@dataclass(frozen=True)
class Place:
    """Where a change is made: the file, and which of its changeable nodes, counted as they are walked."""

    path: Path
    number: int


class Changer(ast.NodeTransformer):
    """Counts what can be changed; changes the one that is asked for."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted, self.count, self.said, self.line = wanted, 0, "", 0

    def _here(self, node: ast.expr, said: str) -> bool:
        here = self.count == self.wanted
        self.count += 1
        if here:
            self.said, self.line = said, node.lineno
        return here

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = _COMPARE.get(type(node.ops[0]))
        if other is not None and self._here(node, f"{type(node.ops[0]).__name__} → {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        text = isinstance(node.left, ast.Constant | ast.JoinedStr) and isinstance(getattr(node.left, "value", ""), str)
        other = _ARITHMETIC.get(type(node.op))
        if other is not None and not text and self._here(node, f"{type(node.op).__name__} → {other.__name__}"):
            node.op = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or if isinstance(node.op, ast.And) else ast.And
        if self._here(node, f"{type(node.op).__name__} → {other.__name__}"):
            node.op = other()
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        number = isinstance(node.value, int | float) and not isinstance(node.value, bool)
        if number and self._here(node, f"{node.value} → changed"):
            return ast.copy_location(ast.Constant(node.value * 1.15 + 1), node)
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(part) for part in node.body]  # neither annotations nor defaults
        return node


def places() -> list[Place]:
    """Everything in core that can be changed."""
    found = []
    for path in sorted(CORE.rglob("*.py")):
        changer = Changer()
        changer.visit(ast.parse(path.read_text()))
        found += [Place(path, number) for number in range(changer.count)]
    return found


def drawn(seed: int, count: int) -> list[Place]:
    """So many of them at random, by a digest of the seed and of where each stands: another change in core moves few."""

    def rank(place: Place) -> bytes:
        where = f"{seed} {place.path.relative_to(CORE)} {place.number}"
        return sha256(where.encode()).digest()

    return sorted(places(), key=rank)[:count]


@dataclass(frozen=True)
class Change:
    """The module's text with one change, its line, the lines of the statement that it is in, and what was done."""

    text: str
    line: int
    statement: range
    said: str


def changed(place: Place) -> Change:
    """The module with that one change."""
    tree, changer = ast.parse(place.path.read_text()), Changer(place.number)
    text = ast.unparse(ast.fix_missing_locations(changer.visit(tree)))
    spans = (range(node.lineno, (node.end_lineno or node.lineno) + 1)
             for node in ast.walk(ast.parse(place.path.read_text())) if isinstance(node, ast.stmt))  # fmt: skip
    statement = min((span for span in spans if changer.line in span), key=len)
    return Change(text, changer.line, statement, changer.said)
