"""Changes one thing in core at a time, and says which changes no test notices.

`tools/mutate SEED COUNT` draws so many places at random (comparisons, signs, guards, factors, constants), runs the
core's tests on a copy of the tree with that one change, and prints kills by folder and every survivor. Slow: it is run
by hand when tests are worked on, not in ./test.
"""

from __future__ import annotations

import ast
import os
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from random import Random
from typing import Final

ROOT: Final = Path(__file__).parents[1]
CORE: Final = ROOT / "src/vinegate/core"
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
_LONGEST_S: Final = 900


@dataclass(frozen=True)
class Place:
    """Where a change is made: the file, and which of its changeable nodes, counted as they are walked."""

    path: Path
    number: int


class _Changer(ast.NodeTransformer):
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
        changer = _Changer()
        changer.visit(ast.parse(path.read_text()))
        found += [Place(path, number) for number in range(changer.count)]
    return found


def survives(place: Place) -> tuple[bool, str]:
    """Whether the core's tests pass with the change, and what it was."""
    tree, changer = ast.parse(place.path.read_text()), _Changer(place.number)
    changed = ast.unparse(ast.fix_missing_locations(changer.visit(tree)))
    said = f"{place.path.relative_to(CORE)}:{changer.line} {changer.said}"
    with tempfile.TemporaryDirectory(prefix="mutant-") as folder:
        home = Path(folder)
        for part in ("src", "tests", "docs"):
            shutil.copytree(ROOT / part, home / part, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        for name in ("pyproject.toml", "README.md"):
            shutil.copy(ROOT / name, home / name)
        (home / place.path.relative_to(ROOT)).write_text(changed)
        command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:playwright", "-W", "ignore", "tests/core"]
        environment = {**os.environ, "PYTHONPATH": str(home / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
        try:
            done = subprocess.run(
                command, cwd=home, env=environment, capture_output=True, timeout=_LONGEST_S, check=False
            )
        except subprocess.TimeoutExpired:
            return False, said
        return done.returncode == 0, said


def main() -> None:
    seed, count = int(sys.argv[1]), int(sys.argv[2])
    drawn = Random(seed).sample(places(), count)
    killed, alive = Counter[str](), Counter[str]()
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        for place, (lives, said) in zip(drawn, pool.map(survives, drawn), strict=True):
            folder = place.path.relative_to(CORE).parts[0]
            (alive if lives else killed)[folder] += 1
            if lives:
                print(f"survives  {said}", flush=True)
    for folder in sorted({*killed, *alive}):
        whole = killed[folder] + alive[folder]
        print(f"{folder:20} {killed[folder]:4} of {whole:4}  {100 * killed[folder] / whole:5.1f} %")
    print(f"{sum(killed.values())} of {count} killed, {100 * sum(killed.values()) / count:.1f} %, seed {seed}")


if __name__ == "__main__":
    main()
