"""What a plan says as a whole: good circuits pass, one bad fact fails by its own gate, a check turns where it says."""

from __future__ import annotations

import copy
import json
import re
from functools import cache
from typing import Any

import pytest

from tests.conftest import planner, text_of
from tests.core.good import GOOD, LOCK, SOUND
from tests.core.random_facts import circuit, jobs, sampled
from tests.examples import nightly
from vinegate.core.facts import circuit_parts
from vinegate.core.grade import Gate, Kind, Verdict
from vinegate.core.plan import NOTHING, Beside, Plan, plan_raw
from vinegate.core.summary import summarise
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import plan_document


def gates_of(plan: Plan) -> list[Gate]:
    """Those of every sheet and of every way to start, of every kind."""
    rows = plan.comparison.rows if plan.comparison is not None else ()
    return [*plan.gates, *(gate for row in rows for gate in row.gates)]


@cache
def gates_of_many() -> list[Gate]:
    """Those of the demo's circuits, and of random ones of both rule sets."""
    plans = [*sampled()]
    for file in (LOCK, SOUND):
        job = demo_job(file)
        plans += [plan_raw(job.rules, job.facts, facts) for _, facts in job.circuits]
    return [gate for plan in plans for gate in gates_of(plan)]


def at_odds(gate: Gate) -> bool:
    """Whether a gate's numbers say something else than its verdict; within a hundredth a device is rounded."""
    if gate.margin is None or gate.limit is None or gate.value is None:
        return False
    near = 0.01 * max(abs(gate.limit), 1e-9)
    apart = min(abs(abs(gate.limit - value) - abs(gate.margin)) for value in (gate.value, abs(gate.value))) > near
    return (
        apart
        or (gate.verdict is Verdict.PASSES and gate.margin < -near)
        or (gate.verdict is Verdict.FAILS and gate.margin > near)
    )


@pytest.mark.slow
def test_what_a_gate_says_in_numbers_is_its_verdict():
    """On the demo and on random circuits of both rule sets: value, limit, margin and verdict are one statement."""
    gates = gates_of_many()
    assert [(one.key, one.verdict, one.value, one.limit, one.margin) for one in gates if at_odds(one)] == []
    assert len({one.key for one in gates if one.margin is not None}) > 65
    assert {one.verdict for one in gates if one.margin is not None} >= {Verdict.PASSES, Verdict.FAILS, Verdict.CHECK}


@pytest.mark.slow
def test_what_fails_says_what_would_help():
    assert sorted({one.key for one in gates_of_many() if one.verdict is Verdict.FAILS and not one.remedy}) == []


# Gates whose sentence has another figure than their value: in another unit, what it is made of, or why there is none.
SAYS_IT_OTHERWISE = {
    "drive.volts", "load.power", "plate.volts", "protection.holds", "protection.short_circuit_rating",
    "protection.stall", "start.class", "start.rarely", "start.sensitive", "start.torque",
    "starter.bypass_protection_short_circuit_rating", "starter.bypass_sensitive", "starter.bypass_torque", "stop.ohms",
    "stop.stop", "supply.hours_within", "supply.motors_within", "supply.reactances", "supply.standby_protection_holds",
    "supply.standby_protection_stall", "supply.standby_start_sensitive", "supply.standby_start_torque",
}  # fmt: skip


def states(sentence: str, value: float) -> bool:
    """Whether a number in the sentence is this one, to half of its last place or two per cent."""
    found = re.findall(r"(?<![\w.])\d+(?:\.\d+)?(?:e[+-]?\d+)?", sentence)
    places = ((float(text), len(text.partition(".")[2].partition("e")[0])) for text in found)
    return any(abs(abs(value) - number) <= max(0.51 * 10**-place, 0.02 * abs(value)) for number, place in places)


@pytest.mark.slow
def test_a_gates_sentence_has_its_number():
    """On the demo and on random circuits of both rule sets: what is read and what is judged are one figure."""
    gates = [gate for gate in gates_of_many() if gate.margin is not None and gate.value is not None]
    other = {gate.key for gate in gates if not states(gate.sentence, gate.value)}
    assert other - SAYS_IT_OTHERWISE == set()
    assert len({gate.key for gate in gates}) > 80


def test_the_sentence_says_why_full_voltage_was_refused():
    assert "4.8 %, over your 4 %" in text_of(GOOD["NEC, soft starter"]())


class TestNotAsked:
    @pytest.mark.parametrize("kind", ["capacitor-start", "dc-shunt", "wound", "universal"])
    def test_no_wye_delta_of_what_cannot_have_one(self, kind):
        plan = GOOD["NEC, direct"]({"plate.kind": kind, "plate.phases": None})
        assert not [gate.key for gate in plan.gates if gate.key.startswith("wye_delta")]

    @pytest.mark.parametrize(("name", "asked"), [("NEC, direct", False), ("IEC, direct", True)])
    def test_coordination_types_are_iecs(self, name, asked):
        assert ("protection.coordination" in {gate.key for gate in GOOD[name]().gates}) is asked

    @pytest.mark.parametrize(("limit", "asked"), [(None, False), ("1", True)])
    def test_flicker_only_against_a_limit_that_was_typed(self, limit, asked):
        plan = GOOD["NEC, soft starter"]({"limits.flicker": limit})
        assert plan.gate("start.flicker").weighs is asked
        private = GOOD["NEC, soft starter"]({"limits.flicker": limit, "supply.in_use": "standby"})
        assert not private.gate("start.flicker").weighs

    def test_no_direct_current_braking_of_a_motor_that_coasts(self):
        plan = GOOD["NEC, direct"]({"stop.method": None})
        assert not any(gate.key.startswith("stop.direct") for gate in plan.gates)
        braked = GOOD["NEC, direct"]({"stop.method": "dc"})
        assert any(gate.key.startswith("stop.direct") for gate in braked.gates)


def test_what_is_for_the_site_does_not_weigh():
    plan = GOOD["IEC, direct"]()
    assert {gate.kind for gate in plan.to_confirm} == {Kind.CONFIRM}
    assert any(gate.verdict is not Verdict.PASSES for gate in plan.to_confirm)
    assert plan.verdict is Verdict.PASSES


# The demo's circuits as they are, without the maker's data, and with the usual assumed wherever it can be.
_MAKERS = ("machine", "protection.clears", "protection.let_through")

_USUAL = ("load.inertia", "load.breakaway", "plate.code_letter", "plate.power_factor", "wiring.ambient",
          "wiring.grouped")  # fmt: skip

_STRIPPED = {"stated": (), "without the maker's data": _MAKERS, "as usual": (*_MAKERS, *_USUAL)}


def _without(facts: dict[str, Any], paths: tuple[str, ...]) -> dict[str, Any]:
    found = copy.deepcopy(facts)
    for path in paths:
        stage, _, name = path.partition(".")
        if name:
            found.get(stage, {}).pop(name, None)
        else:
            found.pop(stage, None)
    return found


def _pinned(facts: dict[str, Any], plan: Plan) -> dict[str, Any]:
    """What the plan itself advises, typed: advice may follow a fact, and a gate must not move because of it."""
    found = copy.deepcopy(facts)
    if plan.comparison is not None:
        found.setdefault("start", {})["method"] = plan.comparison.chosen
    if plan.protected is not None and plan.protected.overload.trip:
        found.setdefault("protection", {}).setdefault("trip_class", plan.protected.overload.trip)
    return found


@pytest.mark.parametrize("stripped", _STRIPPED)
@pytest.mark.parametrize(("file", "tag"), [(f, tag) for f in (LOCK, SOUND) for tag, _ in demo_job(f).circuits])
@pytest.mark.slow
def test_every_check_turns_at_the_value_it_names(file, tag, stripped):
    job = demo_job(file)
    facts = _without(dict(job.circuits)[tag], _STRIPPED[stripped])
    kept = Kept()
    facts = _pinned(facts, plan_raw(job.rules, job.facts, facts, beside=NOTHING, kept=kept))
    plan = plan_raw(job.rules, job.facts, facts, beside=NOTHING, kept=kept)
    for gate in plan.gates:
        if not gate.weighs or gate.verdict is not Verdict.CHECK:
            continue
        turns = gate.turns
        assert turns is not None, gate.key
        assert turns.label in gate.sentence, gate.sentence
        assert turns.passes_as or turns.fails_as, gate.key
        for text, verdict in ((turns.passes_as, Verdict.PASSES), (turns.fails_as, Verdict.FAILS)):
            if text:
                on_job, on_circuit = copy.deepcopy(job.facts), copy.deepcopy(facts)
                beside = turns.beside if verdict is Verdict.PASSES else ()
                for path, typed in (*beside, (turns.path, text)):
                    stage, _, name = path.partition(".")
                    (on_circuit if stage in circuit_parts() else on_job).setdefault(stage, {})[name] = typed
                found = plan_raw(job.rules, on_job, on_circuit, beside=NOTHING, kept=kept).gate(gate.key)
                assert found.verdict is verdict, f"{gate.key}: {turns.path} {text}: {found.sentence}"


@pytest.mark.parametrize("first", range(0, 1600 if nightly() else 120, 40))
@pytest.mark.slow
def test_random_and_extreme_facts_never_raise_and_hold_no_infinity(first):
    bases = jobs()
    for seed in range(first, first + 40):
        rules, job, facts = circuit(seed, bases)
        plan = plan_raw(rules, job, facts, beside=Beside.ALL if seed % 3 == 0 else Beside.DOCUMENT)
        text = json.dumps([plan_document(plan), summarise(plan)], allow_nan=False)
        assert "<function" not in text
        assert " object at 0x" not in text
        assert json.loads(text)[1]["verdict"] in {verdict.value for verdict in Verdict}


def test_a_way_nobody_chose_does_not_fail_while_others_are_not_looked_at():
    """Without a speed no way is simulated: 4.8 % at full voltage is told, and fails only where that way is chosen."""
    plan = planner(LOCK, "P-11")({"plate.speed": None})
    assert plan.gate("start.dip").verdict is Verdict.UNKNOWN
    assert "4.8 %" in text_of(plan)
    chosen = planner(LOCK, "P-11")({"plate.speed": None, "start.method": "full-voltage"})
    assert chosen.gate("start.dip").verdict is Verdict.FAILS
    within = planner(LOCK, "P-11")({"plate.speed": None, "limits.dip": "8 %"})
    assert within.gate("start.dip").verdict is Verdict.PASSES


UNIVERSAL: dict[str, str | None] = {
    "plate.kind": "universal", "plate.full_load_current": "15/7.5", "plate.speed": "8000 rpm", "load.kind": "fan-open",
    "machine.inertia": "0.004 kg·m²", "load.inertia": "0.002 kg·m²",
}  # fmt: skip


class TestAUniversalMotor:
    """Its speed goes with the load and its axis far beyond: running at its rated speed it does not hang."""

    @pytest.mark.parametrize(
        ("facts", "key"),
        [({}, None), ({"load.power": "2.2 hp"}, "load.power"), ({"start.starts_per_hour": "400"}, "start.per_hour"),
         ({"load.kind": "constant", "load.power": "3.5 hp"}, "start.torque")],
    )  # fmt: skip
    def test_it_passes_as_it_is_rated_and_fails_past_that(self, facts, key):
        plan = GOOD["NEC, line to neutral"](UNIVERSAL | facts)
        if key is None:
            assert plan.verdict is Verdict.PASSES
        else:
            assert plan.gate(key).verdict is Verdict.FAILS

    def test_it_loses_less_with_less_load_and_no_more_than_rated_at_its_rating(self):
        share = {
            power: GOOD["NEC, line to neutral"](UNIVERSAL | {"load.power": power}).gate("start.per_hour").value
            for power in ("0.75 hp", "1.1 hp", "1.5 hp")
        }
        assert share["0.75 hp"] < share["1.1 hp"] < share["1.5 hp"] < 105
        assert share["0.75 hp"] == pytest.approx(100 * (1 + 0.5**2) / 2, abs=4)  # half of it stays, half by the square


@pytest.mark.slow
def test_what_lacks_is_named():
    """Not "facts": of a direct-current machine whose start is not simulated, its rotor's inertia."""
    needs = {(gate.key, need) for plan in sampled() for gate in gates_of(plan) for need in gate.needs}
    assert not [one for one in needs if one[1] == "facts" or one[1].endswith(".") or "not known" in one[1].lower()]
    plan = planner(SOUND, "F-5")({"plate.kind": "dc-shunt", "plate.volts": "440", "machine.inertia": None})
    assert plan.gate("start.dip").needs == ("rotor inertia",)
    bare = planner(SOUND, "H-1")({"load.kind": None, "limits.dip": None, "start.method": None})
    assert set(bare.gate("start.dip").needs) == {"the load", "a dip limit"}  # both at once
