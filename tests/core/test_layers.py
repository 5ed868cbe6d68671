"""Who may import whom. Core computes and does nothing else."""

import ast
import re
from functools import cache
from pathlib import Path

import pytest

import vinegate
from vinegate.core.stages import STAGES
from vinegate.core.start.ways import WAYS as START_WAYS
from vinegate.core.stop.ways import WAYS as STOP_WAYS

ROOT = Path(vinegate.__file__).parent
FORBIDDEN_IN_CORE = {"flask", "peewee", "pymysql", "os", "time", "datetime", "random", "pathlib", "logging", "socket"}
# Layer to what of our own it may not import.
NOT_FROM = {
    "core": {"store", "web", "exchange", "drawing", "typeset", "demo", "cli", "serving", "bench"},
    "drawing": {"store", "web", "exchange", "demo", "cli", "serving"},
    "exchange": {"store", "web", "demo", "cli", "serving"},
    "typeset": {"core", "store", "web", "exchange", "drawing", "demo", "cli", "serving"},
    "store": {"web", "exchange", "drawing", "demo", "cli", "serving"},
    "web": {"cli", "serving"},
}


@cache
def nodes(path):
    return tuple(ast.walk(ast.parse(path.read_text())))


@cache
def imports(path):
    found = []
    for node in nodes(path):
        if isinstance(node, ast.Import):
            found += [alias.name for alias in node.names]
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.append(node.module)
    return found


@pytest.mark.parametrize("path", sorted((ROOT / "core").rglob("*.py")), ids=lambda path: path.name)
def test_core_does_no_io(path):
    assert not {name.split(".")[0] for name in imports(path)} & FORBIDDEN_IN_CORE


@pytest.mark.parametrize("layer", NOT_FROM)
def test_import_direction(layer):
    for path in (ROOT / layer).rglob("*.py"):
        own = {name.split(".")[1] for name in imports(path) if name.startswith("vinegate.")}
        assert not own & NOT_FROM[layer], path


def test_only_the_store_talks_sql():
    for path in ROOT.rglob("*.py"):
        if "store" not in path.relative_to(ROOT).parts:
            assert "playhouse" not in path.read_text(), path


# The stages in their order, as `core/stages.py` has them; what stands outside may be imported by all of them.
ORDER = [stage.key for stage in STAGES]


@pytest.mark.parametrize("folder", ORDER)
def test_no_stage_imports_a_later_one(folder):
    later = set(ORDER[ORDER.index(folder) + 1 :])
    for path in (ROOT / "core" / folder).rglob("*.py"):
        named = {name.split(".")[2] for name in imports(path) if name.startswith("vinegate.core.")}
        assert not named & later, path


def test_what_all_stages_share_imports_none_of_them():
    """Verdicts, working, sheets and readers stand below the stages; so does the tables' folder."""
    shared = ("alike", "arrays", "assumed", "field", "grade", "quantity", "sheet", "system_volts", "turning", "units",
              "working")  # fmt: skip
    for path in [*(ROOT / "core" / f"{name}.py" for name in shared), *(ROOT / "core/tables").rglob("*.py")]:
        named = {name.split(".")[2] for name in imports(path) if name.startswith("vinegate.core.")}
        assert not named & set(ORDER), path


_ASKS_WHICH_SET = re.compile(
    r"(?:==|!=|\bis\b|\bin\b)\s*(?:not\s+)?\(?(?:[\"'](?:nec|iec)[\"']|RuleSetName\.(?:NEC|IEC))"
)


def test_only_the_rule_sets_know_which_they_are():
    """What differs from set to set is a method or a practice of the set: nobody asks for its name."""
    found = [
        f"{path.relative_to(ROOT)}: {line.strip()}"
        for layer in ("core", "web", "drawing", "exchange", "store")
        for path in (ROOT / layer).rglob("*.py")
        if "rules" not in path.relative_to(ROOT).parts
        for line in path.read_text().splitlines()
        if _ASKS_WHICH_SET.search(line)
    ]
    assert found == []


def test_only_a_way_to_start_or_to_stop_knows_its_name():
    """What follows asks traits. A comparison with the key of a way, or with several, is found in the syntax."""
    keys = {way.key for way in (*START_WAYS, *STOP_WAYS)} - {"dc"}  # also a kind of supply
    found = [
        f"{path.relative_to(ROOT)}: {ast.unparse(node)}"
        for path in (ROOT / "core").rglob("*.py")
        if "ways" not in path.parts
        for node in nodes(path)
        if isinstance(node, ast.Compare)
        for side in (node.left, *node.comparators)
        if keys & {leaf.value for leaf in ast.walk(side) if isinstance(leaf, ast.Constant)}
    ]
    assert found == []


def test_files_and_functions_stay_short():
    """Files under 400 lines; functions of 40 at most."""
    long_files, long_functions = [], []
    for path in sorted(ROOT.rglob("*.py")):
        text = path.read_text()
        if text.count("\n") > 400:
            long_files.append(path.name)
        for node in nodes(path):
            if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno + 1 > 40:
                long_functions.append(f"{path.name}: {node.name}")
    assert (long_files, long_functions) == ([], [])
