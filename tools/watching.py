"""Which lines of core each test runs, and how long it takes: found once by running them, each file on its own."""

from __future__ import annotations

import ast
import json
import os
import subprocess
import sys
import tempfile
import xml.etree.ElementTree as ET
from collections import defaultdict
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from hashlib import sha256
from pathlib import Path
from typing import Any, Final

ROOT: Final = Path(__file__).parents[1]
_RC: Final = "[run]\ndynamic_context = test_function\n"


@dataclass(frozen=True)
class Test:
    """Tests of one name in a file, or all of the file's: seconds while watched, lines they run by file.

    `nodes` is how the tests' runner calls them: a name may stand in several classes.
    """

    file: str
    nodes: tuple[str, ...]
    seconds: float
    lines: dict[str, frozenset[int]] = field(default_factory=dict)

    def runs(self, wanted: dict[str, set[int]]) -> bool:
        return any(not self.lines.get(path, frozenset()).isdisjoint(lines) for path, lines in wanted.items())


def watched(kept: str) -> list[Test]:
    """Every test of core. `kept` names a file that keeps what was found of what did not change."""
    known: dict[str, Any] = json.loads(Path(kept).read_text()) if kept and Path(kept).exists() else {}
    paths = [str(path.relative_to(ROOT)) for path in sorted((ROOT / "tests/core").glob("test_*.py"))]
    new = [path for path in paths if known.get(path, {}).get("digest") != _digest(path)]
    with ThreadPoolExecutor(int(os.environ.get("MUTATE_JOBS", os.cpu_count() or 1))) as pool:
        known |= zip(new, pool.map(_watch, new), strict=True)
    if kept:
        Path(kept).write_text(json.dumps({path: known[path] for path in paths}))
    return [test for path in paths for test in _tests_in(path, known[path]["tests"])]


def _tests_in(path: str, kept: dict[str, Any]) -> list[Test]:
    """What was kept of a file's tests. What runs under no test's name is of those that have none: random ones, that
    another one calls, and else of all.
    """
    nodes = _nodes_of(path)
    nameless = tuple(node for name, own in nodes.items() if name not in kept for node in own)
    nodes[""] = nameless or tuple(node for own in nodes.values() for node in own)
    return [
        Test(path, nodes[name], test["seconds"], {file: frozenset(lines) for file, lines in test["lines"].items()})
        for name, test in kept.items()
    ]


def _nodes_of(path: str) -> dict[str, tuple[str, ...]]:
    """How each test of a file is called, by its name."""
    found: dict[str, tuple[str, ...]] = defaultdict(tuple)
    tree = ast.parse((ROOT / path).read_text())
    for holder in (tree, *(node for node in tree.body if isinstance(node, ast.ClassDef))):
        within = f"{path}::{holder.name}" if isinstance(holder, ast.ClassDef) else path
        for node in holder.body:
            if isinstance(node, ast.FunctionDef) and node.name.startswith("test"):
                found[node.name] += (f"{within}::{node.name}",)
    return found


def _digest(path: str) -> str:
    return sha256((ROOT / path).read_bytes()).hexdigest()


def _watch(path: str) -> dict[str, Any]:
    """Runs a test file once with its lines of core noted by test, in a process of its own: nothing is in a cache."""
    from coverage import CoverageData

    with tempfile.TemporaryDirectory(prefix="lines-") as folder:
        data, times, rc = (Path(folder) / name for name in ("data", "times.xml", "rc"))
        rc.write_text(_RC)
        command = [sys.executable, "-m", "coverage", "run", f"--rcfile={rc}", f"--data-file={data}",
                   "--source", "src/vinegate/core", "-m", "pytest", "-q", "-p", "no:playwright", "-W", "ignore",
                   f"--junitxml={times}", path]  # fmt: skip
        afresh = os.environ | {"EACH_AFRESH": "1"}
        code = subprocess.run(command, cwd=ROOT, capture_output=True, check=False, env=afresh).returncode
        assert code in {0, 5}, f"{path} does not pass as it is"
        seconds: dict[str, float] = defaultdict(float)
        for case in ET.parse(times).iter("testcase"):
            seconds[case.get("name", "").partition("[")[0]] += float(case.get("time", 0))
        found = CoverageData(basename=str(data))
        found.read()
        return {"digest": _digest(path), "tests": _by_test(found, seconds)}


def _by_test(found: Any, seconds: dict[str, float]) -> dict[str, Any]:
    """Lines by test; what runs under no test's name, in a function of core, by an empty one."""
    lines: dict[str, dict[str, list[int]]] = defaultdict(lambda: defaultdict(list))
    for name in found.measured_files():
        own, inside = str(Path(name).relative_to(ROOT)), _inside(Path(name))
        for line, contexts in found.contexts_by_lineno(name).items():
            for context in contexts:
                test = context.rpartition(".")[2]  # of a random test it is one of the library's that draws them
                if test in seconds:
                    lines[test][own].append(line)
                elif line in inside:
                    lines[""][own].append(line)
    whole = sum(seconds.values())
    return {
        name: {"seconds": seconds[name] if name else whole - sum(seconds[own] for own in lines if own), "lines": run}
        for name, run in lines.items()
    }


def _inside(path: Path) -> set[int]:
    """Lines within functions."""
    tree = ast.parse(path.read_text())
    functions = [node for node in ast.walk(tree) if isinstance(node, ast.FunctionDef | ast.Lambda)]
    return {
        line
        for node in functions
        for part in (node.body if isinstance(node.body, list) else [node.body])
        for line in range(part.lineno, (part.end_lineno or part.lineno) + 1)
    }


def users_of(path: Path, span: Iterable[int]) -> dict[str, set[int]]:
    """Lines that a change in these lines shows on, by file: they themselves, or where the name that they give is used.

    Of a function whose results are kept both: it runs for the first who asks alone.
    """
    lines, tree = set(span), ast.parse(path.read_text())
    if not lines & _inside(path):
        return _where_used(path, {name for node in ast.walk(tree) for name in _named(node, lines)})
    kept = {
        node.name
        for node in ast.walk(tree)
        if isinstance(node, ast.FunctionDef)
        and node.lineno <= min(lines) <= (node.end_lineno or 0)
        and any("cache" in ast.unparse(one) for one in node.decorator_list)
    }
    found = _where_used(path, kept) if kept else {}
    own = str(path.relative_to(ROOT))
    return {**found, own: found.get(own, set()) | lines}


def _where_used(path: Path, names: set[str]) -> dict[str, set[int]]:
    found: dict[str, set[int]] = defaultdict(set)
    for other in sorted((ROOT / "src/vinegate/core").rglob("*.py")):
        text = other.read_text()
        if not any(name in text for name in names):
            continue
        for node in ast.walk(ast.parse(text)):
            used = node.id if isinstance(node, ast.Name) else node.attr if isinstance(node, ast.Attribute) else ""
            if used in names and (other == path or not used.startswith("_")):
                found[str(other.relative_to(ROOT))].add(node.lineno)  # type: ignore[attr-defined]
    return found


def _named(node: ast.AST, lines: set[int]) -> list[str]:
    """Names that an assignment in these lines gives."""
    if not isinstance(node, ast.Assign | ast.AnnAssign) or node.lineno not in lines:
        return []
    targets = node.targets if isinstance(node, ast.Assign) else [node.target]
    return [part.id for target in targets for part in ast.walk(target) if isinstance(part, ast.Name)]
