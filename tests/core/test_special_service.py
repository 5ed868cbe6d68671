"""Machines that a code has rules of its own for are not approved by ordinary ones; their near twins are."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Kind, Verdict

PUMP = planner("harrowmere-lock.json", "P-11")
CONFIRM = (Kind.CONFIRM, Verdict.UNKNOWN)


def service(driven, said=None, rules=RuleSetName.NEC):
    plan = PUMP({"start.driven": driven, "load.service": said}, rules)
    found = [(gate.kind, gate.verdict) for gate in plan.gates if gate.key == "load.service"]
    return plan, found[0] if found else None


@pytest.mark.parametrize("driven", ["fire pump", "electric fire-water pump, duty", "Fire Pump 2"])
def test_a_machine_named_so_is_asked_about_and_what_is_said_settles_it(driven):
    plan, found = service(driven)
    assert (plan.verdict, found) == (Verdict.CHECK, (Kind.ENGINEERING, Verdict.CHECK))
    turns = plan.gate("load.service").turns
    assert service(driven, turns.passes_as)[0].verdict is Verdict.PASSES
    plan, found = service(driven, turns.fails_as)
    assert (plan.verdict, found) == (Verdict.FAILS, (Kind.ENGINEERING, Verdict.FAILS))
    assert "article 695" in "".join(piece.text for piece in plan.answer)


@pytest.mark.parametrize(
    "driven",
    ["land-drainage pump", "jockey pump of the fire pumps", "fan of the fire pump room", "sprinkler pump of the nursery",
     "grain elevator", "boat lift", "carpool fan", "compressor"],
)  # fmt: skip
def test_its_near_twins_are_ordinary(driven):
    plan, found = service(driven)
    assert (plan.verdict, found) == (Verdict.PASSES, None)


@pytest.mark.parametrize(
    ("said", "rules", "found"),
    [
        ("fire pump", RuleSetName.NEC, (Kind.ENGINEERING, Verdict.FAILS)),
        ("hermetic compressor", RuleSetName.NEC, (Kind.ENGINEERING, Verdict.FAILS)),
        ("elevator", RuleSetName.NEC, CONFIRM),
        ("swimming pool pump", RuleSetName.NEC, CONFIRM),
        ("fire pump", RuleSetName.IEC, CONFIRM),
        ("hermetic compressor", RuleSetName.IEC, CONFIRM),
        ("lift", RuleSetName.IEC, CONFIRM),
        ("pool", RuleSetName.IEC, CONFIRM),
        ("no", RuleSetName.IEC, None),
    ],
)
def test_rules_that_replace_the_ordinary_ones_fail_it_and_those_on_top_are_for_the_site(said, rules, found):
    assert service("machine", said, rules)[1] == found
