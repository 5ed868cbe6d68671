"""What a plan says as a whole: good circuits pass, one bad fact fails by its own gate, a check turns where it says."""

from __future__ import annotations

import copy
import json
import re
from functools import cache
from typing import Any

import pytest

from tests.conftest import Planner, planner
from tests.core.on_direct_current import IEC, NEC
from tests.core.random_facts import circuit, jobs, sampled
from tests.examples import nightly
from vinegate.core.facts import circuit_parts
from vinegate.core.grade import Gate, Kind, Verdict
from vinegate.core.plan import NOTHING, Beside, Plan, plan_raw
from vinegate.core.summary import summarise
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import plan_document

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def text_of(plan: Plan) -> str:
    return "".join(piece.text for piece in plan.answer)


def _from(file: str, tag: str, facts: dict[str, str | None] | None = None) -> Planner:
    plan = planner(file, tag)
    return lambda changes=None: plan({**(facts or {}), **(changes or {})})


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
    "protection.stall", "start.class", "start.rarely", "start.sensitive", "start.torque", "starter.bypass_sensitive",
    "starter.bypass_torque", "stop.ohms", "stop.stop", "supply.hours_within", "supply.motors_within", "supply.reactances",
    "supply.standby_protection_holds", "supply.standby_protection_stall", "supply.standby_start_sensitive",
    "supply.standby_start_torque",
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


# Both rule sets: direct, star-delta, soft starter, generator, sub-board, 208 V, line to neutral, division 2 and zone 1;
# all that decides is stated.
GOOD = {
    "NEC, direct": _from(LOCK, "D-61"),
    "NEC, soft starter": _from(LOCK, "P-11"),
    "NEC, wye-delta": _from(LOCK, "X-51", {"plate.volts": "460Δ/797Y"}),
    "NEC, direct current": _from(LOCK, "P-11", NEC),
    "IEC, direct": _from(SOUND, "W-2"),
    "IEC, direct current": _from(SOUND, "H-1", IEC),
    "IEC, star-delta": _from(SOUND, "H-1"),
    "IEC, soft starter": _from(
        SOUND,
        "F-3",
        {
            "start.speed_control": None,
            "start.method": "soft-starter",
            "stop.method": None,
            "load.inertia": "2.5 kg·m²",
            "starter.bypass": None,
        },
    ),
    "NEC, class I division 2 on a sub-board": _from(LOCK, "B-42"),
    "NEC, 208 V": _from(
        LOCK,
        "D-61",
        {
            "supply.volts": "208Y/120",
            "plate.volts": "208-230/460",
            "plate.full_load_current": "67.5-61/30.5",
            "wiring.size": "2 AWG",
            "load.breakaway": "110 %",
            "protection.clears": "1500 A",
            "protection.short_circuit_rating": "42 kA",
        },
    ),
    "NEC, line to neutral": _from(
        LOCK,
        "C-71",
        {
            "board_2.volts": "208Y/120",
            "plate.power": "1.5 hp",
            "plate.full_load_current": "20/10",
            "plate.frame": "145T",
            "wiring.size": "8 AWG",
            "load.power": "1.3 hp",
            "load.inertia": "0.03 kg·m²",
            "protection.clears": "400 A",
            "machine.stall_hot": "45 s",
        },
    ),
    "IEC, sub-board": _from(
        SOUND,
        "H-1",
        {
            "board_1.name": "deck board",
            "board_1.size": "95 mm²",
            "board_1.metal": "copper",
            "board_1.length": "40 m",
            "board_1.sets": "1",
            "board_1.ground_size": "50 mm²",
            "wiring.board": "board_1",
            "wiring.length": "35 m",
        },
    ),
    "IEC, generator": _from(
        SOUND,
        "H-1",
        {
            "supply.in_use": "standby",
            "standby.generator_power": "500 kVA",
            "standby.transient_reactance": "20 %",
            "standby.subtransient_reactance": "14 %",
            "standby.x_over_r": "15",
            "standby.sustained": "2100 A",
            "standby.recovery": "1.5 s",
            "limits.dip": "15 %",
            "main_board.motor_power": "0 kVA",
        },
    ),
    "IEC, zone 1 d": _from(SOUND, "K-5", {"wiring.size": "6 mm²"}),
    "IEC, zone 1 eb": _from(
        SOUND,
        "K-5",
        {
            "wiring.size": "6 mm²",
            "plate.ex_marking": "Ex eb IIB T4 Gb",
            "place.te": "9 s",
            "protection.trip_class": "5",
        },
    ),
}
NEC_AREA, IEC_AREA = "area_2", "area_3"
# Per fact made bad: the gate that must fail, and the fact by circuit.
BAD: dict[str, tuple[str, dict[str, dict[str, str | None]]]] = {
    "conductor": (
        "protection.conductors",
        {
            "NEC, direct": {"wiring.size": "14 AWG"},
            "NEC, soft starter": {"wiring.size": "3 AWG"},
            "NEC, wye-delta": {"wiring.size": "8 AWG"},
            "IEC, direct": {"wiring.size": "4 mm²"},
            "IEC, star-delta": {"wiring.size": "10 mm²"},
            "IEC, soft starter": {"wiring.size": "6 mm²"},
            "NEC, class I division 2 on a sub-board": {"wiring.size": "12 AWG"},
            "NEC, 208 V": {"wiring.ambient": "60 °C"},
            "NEC, line to neutral": {"wiring.size": "14 AWG"},
            "IEC, sub-board": {"wiring.size": "10 mm²"},
            "IEC, generator": {"wiring.size": "10 mm²"},
            "IEC, zone 1 d": {"wiring.ambient": "62 °C"},
        },
    ),
    "fault rating": (
        "protection.short_circuit_rating",
        {name: {"protection.short_circuit_rating": "1 kA"} for name in GOOD},
    ),
    "device": (
        "protection.device",
        {
            "NEC, direct": {"protection.rating": "200 A"},
            "NEC, soft starter": {"protection.rating": "400 A"},
            "NEC, wye-delta": {"protection.rating": "300 A"},
            "IEC, direct": {"protection.rating": "25 A"},
            "IEC, star-delta": {"protection.rating": "50 A"},
            "IEC, soft starter": {"protection.rating": "32 A"},
            "NEC, class I division 2 on a sub-board": {"protection.rating": "125 A"},
            "NEC, 208 V": {"protection.rating": "400 A"},
            "NEC, line to neutral": {"protection.rating": "150 A"},
            "IEC, generator": {"protection.rating": "63 A"},
            "IEC, zone 1 d": {"protection.rating": "6.3 A"},
        },
    ),
    "overload ceiling": (
        "protection.setting",
        {
            "NEC, direct": {"protection.overload": "45 A"},
            "NEC, soft starter": {"protection.overload": "130 A"},
            "NEC, wye-delta": {"protection.overload": "110 A"},
            "IEC, direct": {"protection.overload": "42 A"},
            "IEC, star-delta": {"protection.overload": "95 A"},
            "IEC, soft starter": {"protection.overload": "62 A"},
        },
    ),
    "place": (
        "place.motor",
        {
            "NEC, direct": {"plate.enclosure": "ODP"},
            "NEC, soft starter": {"place.motor": NEC_AREA},
            "NEC, wye-delta": {"place.motor": NEC_AREA},
            "NEC, class I division 2 on a sub-board": {"plate.thermal_protection": "AUTO"},
            "IEC, zone 1 d": {"plate.ex_marking": "Ex ec IIB T4 Gc"},
            "IEC, zone 1 eb": {"place.te": "4 s"},
        },
    ),
    "holding": ("stop.hold", {"IEC, direct": {"stop.brake_torque": "100 N·m"}}),
    "load above the motor": (
        "load.power",
        {
            "NEC, direct": {"load.power": "30 hp"},
            "NEC, soft starter": {"load.power": "90 hp"},
            "NEC, wye-delta": {"load.power": "71 hp"},
            "IEC, star-delta": {"load.power": "48 kW"},
            "IEC, soft starter": {"load.power": "32 kW"},
        },
    ),
    "grounding conductor": (
        "protection.grounding",
        {
            "NEC, direct": {"wiring.ground_size": "14 AWG"},
            "NEC, soft starter": {"wiring.ground_size": "12 AWG"},
            "NEC, wye-delta": {"wiring.ground_size": "12 AWG"},
            "IEC, direct": {"wiring.ground_size": "1.5 mm²"},
            "IEC, star-delta": {"wiring.ground_size": "2.5 mm²"},
            "IEC, soft starter": {"wiring.ground_size": "1.5 mm²"},
        },
    ),
    "impossible way": (
        "start.possible",
        {
            "NEC, direct": {"start.method": "part-winding", "plate.leads": "3"},
            "NEC, soft starter": {"start.method": "part-winding"},
            "IEC, star-delta": {"start.method": "part-winding"},
        },
    ),
    "impossible wye-delta": (
        "wye_delta.eligible",
        {
            "NEC, wye-delta": {"plate.leads": "9", "plate.volts": "460"},
            "IEC, direct": {"start.method": "wye-delta"},
            "IEC, soft starter": {"start.method": "wye-delta", "plate.leads": "3"},
        },
    ),
}
# Gates that a fact made bad must take with it, as it would in fact: a small conductor drops its volts and warms in a
# fault; a device below the load's current does not hold the start either; an overloaded machine starts slowly, too.
_FOLLOWS = {
    "conductor": {"protection.drop", "protection.drop_total", "protection.stall", "protection.clears", "protection.loop", "protection.withstand", "start.torque",
                  "protection.protective_withstand", "stop.release", "start.terminals", "protection.drive_input",
                  "protection.drive_device", "start.drive"},
    "device": {"protection.holds"},
    "holding": {"stop.stop", "stop.emergency", "stop.heat"},
    "load above the motor": {"start.torque", "start.dip", "start.per_hour", "start.succession", "protection.stall",
                             "stop.per_hour"},
    "grounding conductor": {"protection.loop", "protection.protective_withstand"},
    "place": {"place.ambient"},
    "overload ceiling": {"protection.stall"},
}  # fmt: skip
_CASES = [(what, name) for what, (_, cases) in BAD.items() for name in cases]


@pytest.mark.parametrize("name", GOOD)
def test_a_fully_stated_good_circuit_passes_everywhere(name):
    plan = GOOD[name]()
    assert [
        (gate.key, gate.sentence) for gate in plan.gates if gate.weighs and gate.verdict is not Verdict.PASSES
    ] == []
    assert plan.verdict is Verdict.PASSES
    assert "Everything passes" in text_of(plan)
    assert summarise(plan)["why"] == ""


@pytest.mark.parametrize(("what", "name"), _CASES)
def test_one_bad_fact_fails_by_its_own_gate_and_the_first_sentence_says_so(what, name):
    key, cases = BAD[what]
    plan = GOOD[name](cases[name])
    gate = plan.gate(key)
    assert gate.verdict is Verdict.FAILS
    assert {g.key for g in plan.gates if g.weighs and g.verdict is not Verdict.PASSES} <= {key} | _FOLLOWS.get(
        what, set()
    )
    said = text_of(plan)
    assert said.startswith("Fails: ")
    assert gate.name.lower() in said.casefold().split("direct on line")[0].split("across the line")[0]
    assert plan.verdict is Verdict.FAILS
    assert summarise(plan)["why"]


def test_what_can_kill_is_said_before_what_can_annoy():
    """A failing place comes before a failing dip, a failing device before a failing drop."""
    plan = GOOD["NEC, soft starter"](
        {"place.motor": NEC_AREA, "wiring.length": "1200 ft", "protection.rating": "400 A"}
    )
    said = text_of(plan)
    assert said.startswith("Fails: motor in its area.")
    assert said.index("device within the rule") < said.index("clears a fault")


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
                stage, _, name = turns.path.partition(".")
                on_job, on_circuit = copy.deepcopy(job.facts), copy.deepcopy(facts)
                (on_circuit if stage in circuit_parts() else on_job).setdefault(stage, {})[name] = text
                found = plan_raw(job.rules, on_job, on_circuit, beside=NOTHING, kept=kept).gate(gate.key)
                assert found.verdict is verdict, f"{gate.key}: {turns.path} {text}: {found.sentence}"


@pytest.mark.parametrize("first", range(0, 1600 if nightly() else 160, 40))
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
