"""Who may import whom. Core computes and does nothing else."""

import ast
from pathlib import Path

import pytest

import vinegate

ROOT = Path(vinegate.__file__).parent
FORBIDDEN_IN_CORE = {"flask", "peewee", "pymysql", "os", "time", "datetime", "random", "pathlib", "logging", "socket"}
# Layer to what of our own it may not import.
NOT_FROM = {
    "core": {"store", "web", "exchange", "drawing", "demo", "cli", "serving", "bench"},
    "drawing": {"store", "web", "exchange", "demo", "cli", "serving"},
    "exchange": {"store", "web", "demo", "cli", "serving"},
    "store": {"web", "exchange", "drawing", "demo", "cli", "serving"},
    "web": {"cli", "serving"},
}


def imports(path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


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
