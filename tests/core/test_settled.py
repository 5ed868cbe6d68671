"""What a gate to check says would settle it does so: the value typed, the circuit planned again."""

from __future__ import annotations

import re
from random import Random
from typing import Any

import pytest

from tests.conftest import planner
from tests.core.random_facts import change_one, jobs
from tests.examples import nightly
from vinegate.core.facts import RuleSetName, circuit_parts
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, Plan, plan_raw
from vinegate.core.worded import wrong_plate
from vinegate.core.work import Kept

# One of a machine's facts moves the machine that is fitted, and so more than the comparison knows of.
FITTED = {"machine.pull_up_torque", "machine.breakdown_torque", "machine.locked_rotor_torque", "plate.speed",
          "plate.locked_rotor_current", "plate.full_load_current", "plate.power_factor"}  # fmt: skip

NEEDED = {"volts", "power", "full_load_current", "frequency", "speed", "kind", "size", "length", "metal"}


def _put(job: Any, circuit: Any, path: str, text: str) -> tuple[Any, Any]:
    part, _, name = path.partition(".")
    facts = circuit if part in circuit_parts() else job
    changed = {**facts, part: {**facts.get(part, {}), name: text}}
    return (job, changed) if facts is circuit else (changed, circuit)


def _fewer(random: Random, parts: Any, share: float) -> Any:
    return {
        part: {name: text for name, text in fields.items() if name in NEEDED or random.random() > share}
        for part, fields in parts.items()
    }


def _drawn(seed: int) -> tuple[RuleSetName, Any, Any]:
    """A circuit of the demo with some of its facts taken away and one changed, its ways to start and stop held."""
    random = Random(seed)
    base = random.choice(jobs())
    facts, circuit = change_one(random, base.facts, random.choice(base.circuits)[1])
    facts, circuit = (_fewer(random, parts, share) for parts, share in ((facts, 0.06), (circuit, 0.2)))
    plan = plan_raw(base.rules, facts, circuit, beside=NOTHING)
    start = circuit.get("start", {}) | ({"method": plan.comparison.chosen} if plan.comparison else {})
    stop = circuit.get("stop", {}) | ({"method": plan.stopping.used.method} if plan.stopping else {})
    return base.rules, facts, {**circuit, "start": start, "stop": stop}


def _sound(plan: Plan) -> bool:
    return wrong_plate(plan.stages) is None


@pytest.mark.slow
def test_what_would_settle_a_gate_does():
    """But for what two words settle together, or the load's power, which moves more than one comparison knows of."""
    wrong, tried = [], 0
    for seed in range(480 if nightly() else 45):
        rules, job, circuit = _drawn(seed)
        kept = Kept()
        for gate in plan_raw(rules, job, circuit, beside=NOTHING, kept=kept).gates:
            turns = gate.turns if gate.verdict is Verdict.CHECK and gate.weighs else None
            if turns is None or not turns.passes_as or turns.path in FITTED or gate.sentence.count("Passes ") > 1:
                continue
            typed = job, circuit
            for path, text in (*turns.beside, (turns.path, turns.passes_as)):
                typed = _put(*typed, path, text)
            again = plan_raw(rules, *typed, beside=NOTHING, kept=kept)
            now = next((one for one in again.gates if one.key == gate.key), None)
            tried += 1
            if now is not None and now.verdict is not Verdict.PASSES and _sound(again):
                wrong.append((seed, gate.key, turns.path, turns.passes_as, now.verdict, now.sentence))
    assert [one for one in wrong if one[2] != "load.power"] == []
    assert len(wrong) <= 0.02 * tried
    assert tried > 50


@pytest.mark.parametrize(
    ("job", "tag", "path", "bad", "key", "more"),
    [
        ("harrowmere-lock.json", "X-51", "drive.rated", "20 A", "drive.current", {"start.method": "drive", "plate.full_load_current": "70.037"}),
        ("skerry-sound.json", "F-3", "drive.rated", "20 A", "drive.current", {"drive.ambient_rated": "35 °C"}),
        ("skerry-sound.json", "P-4", "drive.rated", "5 A", "drive.current", {}),
        ("skerry-sound.json", "F-3", "protection.electronic", "5 A", "protection.starter", {"plate.full_load_current": "53.04"}),
    ],
)  # fmt: skip
def test_the_amperes_that_a_remedy_names_are_enough_as_they_are_written(job, tag, path, bad, key, more):
    """Rounded to the nearest they fell short of what they are to reach."""
    plan = planner(job, tag)
    remedy = plan(more | {path: bad}).gate(key).remedy
    named = re.search(r"[\d.]+ A", remedy)
    assert named, remedy
    assert plan(more | {path: named.group()}).gate(key).verdict is Verdict.PASSES
