"""Every figure that is asked for by its key is one that a stage makes; a key stands once in a plan."""

import re
from pathlib import Path

import pytest

from tests.core.random_facts import circuit, jobs
from vinegate.core.declared import declared, general
from vinegate.core.plan import plan_raw
from vinegate.core.tables import load

ROOT = Path(__file__).parents[1]
ASKED = re.compile(r"\.figure\(\s*f?\"([a-z_.{}0-9 ~]+)\"")


def asked():
    """Each key asked for by its name, in code, templates and tests."""
    for folder in ("src/vinegate", "tests"):
        for path in sorted((ROOT / folder).rglob("*")):
            if path.suffix in (".py", ".html"):
                for key in ASKED.findall(path.read_text()):
                    yield path.relative_to(ROOT).as_posix(), key


@pytest.mark.parametrize(
    ("path", "key"), sorted({pair for pair in asked() if "{" not in pair[1] and "curent" not in pair[1]})
)
def test_a_key_asked_for_is_one_that_a_stage_makes(path, key):
    assert declared(key), path


def test_a_key_that_no_stage_has_is_an_error(p11):
    plan = p11()
    assert plan.figure("plate.current") is not None
    with pytest.raises(KeyError):
        plan.figure("plate.curent")


@pytest.mark.parametrize("seed", range(40))
def test_each_figure_is_declared_and_stands_once(seed):
    rules, job, facts = circuit(seed, jobs())
    plan = plan_raw(rules, job, facts)
    keys = [figure.key for stage in plan.stages for figure in stage.figures]
    assert [key for key in keys if not declared(key)] == []
    assert sorted(set(keys)) == sorted(keys)
    for stage in plan.stages:
        assert all(figure.key.startswith(f"{stage.key}.") for figure in stage.figures)
        assert [key for key in stage.refers if plan.figure(key) is None] == []


def test_the_list_for_people_has_the_same_keys_and_a_module_for_each():
    page = (ROOT / "docs/figures.md").read_text()
    rows = load("figures").rows
    assert re.findall(r"^\| `([^`]+)` \|", page, re.M) == [row["key"] for row in rows]
    for row in rows:
        assert general(row["key"]) == row["key"]
        for module in row["module"].split():
            assert (ROOT / "src/vinegate/core" / f"{module.replace('.', '/')}.py").exists() or (
                ROOT / "src/vinegate/core" / module.replace(".", "/") / "__init__.py"
            ).exists(), module
