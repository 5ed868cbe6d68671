"""Plans of older programs open as they were decided."""

import json
from collections import Counter
from pathlib import Path

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind
from vinegate.exchange.circuit_file import plan_document, plan_from_document
from vinegate.exchange.plan_versions import upgraded

WORDS = {"open": "passes", "ajar": "check", "shut": "fails", "unknown": "not known"}


@pytest.fixture
def old():
    """C-71's plan as program 0.4.0 wrote it, its curves thinned."""
    return json.loads((Path(__file__).parent / "plan_v1_c71.json").read_text())


def gates_of(document):
    return [gate for stage in document["stages"] for gate in stage["gates"]]


def test_an_old_plan_opens_with_its_own_verdicts_in_todays_words(old):
    plan = plan_from_document(old)
    assert plan.version == 1
    was = [(gate["key"], WORDS[gate["verdict"]], gate["sentence"]) for gate in gates_of(old)]
    assert [(gate.key.replace("stop.", "brake."), gate.verdict.value, gate.sentence) for gate in plan.gates] == was
    assert Counter(gate.kind for gate in plan.gates)[Kind.INFORMS] == sum(not gate["weighs"] for gate in gates_of(old))
    assert "".join(piece.text for piece in plan.answer) == "".join(piece["text"] for piece in old["answer"])


def test_the_stop_has_its_own_name_since_the_third_version():
    """Before it the sheet was called "brake"; what it found is the same."""
    plan = planner("harrowmere-lock.json", "G-21")()
    document = plan_document(plan)
    for stage in document["stages"]:
        if stage["key"] == "stop":
            stage["key"] = "brake"
            for item in (*stage["figures"], *stage["gates"]):
                item["key"] = item["key"].replace("stop.", "brake.", 1)
    found = plan_from_document(document | {"version": 2})
    assert found.stage("stop").gates == plan.stage("stop").gates
    assert found.stage("stop").figures == plan.stage("stop").figures


def test_an_upgraded_plan_is_written_and_read_again_as_it_is(old):
    plan = plan_from_document(old)
    assert plan_from_document(plan_document(plan) | {"version": 3}).gates == plan.gates


def test_what_is_called_open_elsewhere_keeps_its_word():
    assert upgraded({"rows": [{"setting": "open", "why": "unknown"}]})["rows"] == [
        {"setting": "open", "why": "unknown"}
    ]


def test_a_later_version_is_refused():
    with pytest.raises(ValueError, match="version 4"):
        upgraded({"version": 4})
